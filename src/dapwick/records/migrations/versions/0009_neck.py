"""A line across the neck in a photo, below which nothing of its edge counts."""

import sqlalchemy as sa
from alembic import op

revision = "0009"
down_revision = "0008"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("photo", sa.Column("neck", sa.JSON))
