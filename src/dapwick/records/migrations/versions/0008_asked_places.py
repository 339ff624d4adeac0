"""A photo whose view is not sure waits beside the slots with the views it may show."""

import sqlalchemy as sa
from alembic import op

revision = "0008"
down_revision = "0007"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("photo", sa.Column("maybe", sa.JSON))
