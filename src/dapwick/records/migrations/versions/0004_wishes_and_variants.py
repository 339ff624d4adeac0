"""The owner's wishes with a visit; the salon's own outlines."""

import sqlalchemy as sa
from alembic import op

revision = "0004"
down_revision = "0003"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("visit", sa.Column("wishes", sa.JSON, nullable=False, server_default="{}"))
    op.create_table(
        "variant",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("name", sa.String(60), nullable=False),
        sa.Column("document", sa.JSON, nullable=False),
        sa.Column("created", sa.DateTime, nullable=False),
        sa.Column("removed", sa.DateTime),
    )
