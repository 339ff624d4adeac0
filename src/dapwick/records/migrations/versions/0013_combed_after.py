"""Comb depths of the finished head."""

import sqlalchemy as sa
from alembic import op

revision = "0013"
down_revision = "0012"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("visit", sa.Column("combed_after", sa.JSON, nullable=False, server_default="[]"))
