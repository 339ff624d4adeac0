"""Photos: spare ones beside the slots, what the machine saw in them, edges corrected by hand."""

import sqlalchemy as sa
from alembic import op

revision = "0002"
down_revision = "0001"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("photo", sa.Column("spare", sa.Boolean, nullable=False, server_default=sa.false()))
    op.add_column("photo", sa.Column("edge_by_hand", sa.Boolean, nullable=False, server_default=sa.false()))
    op.add_column("photo", sa.Column("looked", sa.JSON))
