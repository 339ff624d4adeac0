"""What a visit has to tell the next one, part by part; readings that were taken back, or made elsewhere."""

import sqlalchemy as sa
from alembic import op

revision = "0011"
down_revision = "0010"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("visit", sa.Column("from_last", sa.JSON, nullable=False, server_default="[]"))
    op.add_column("visit", sa.Column("for_next", sa.JSON, nullable=False, server_default="{}"))
    op.add_column(
        "expectation", sa.Column("taken_back", sa.Boolean, nullable=False, server_default=sa.false())
    )
    op.add_column("expectation", sa.Column("here", sa.Boolean, nullable=False, server_default=sa.true()))
