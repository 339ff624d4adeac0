"""Known dogs: bone kept with each visit, kinds of heads; the salon's own settings."""

import sqlalchemy as sa
from alembic import op

revision = "0003"
down_revision = "0002"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("dog", sa.Column("muzzle", sa.String(8), nullable=False, server_default="any"))
    op.add_column("dog", sa.Column("ears", sa.String(8), nullable=False, server_default="any"))
    op.add_column("visit", sa.Column("bone", sa.JSON))
    op.create_table(
        "setting",
        sa.Column("key", sa.String(40), primary_key=True),
        sa.Column("value", sa.JSON, nullable=False),
    )
