"""Ids come once: none of something that is gone is ever given to something new. A cut knows when its sheet was made."""

import sqlalchemy as sa
from alembic import op

revision = "0007"
down_revision = "0006"
branch_labels = None
depends_on = None

TABLES = ("dog", "visit", "booking", "photo", "outline", "cut", "cut_step", "variant")


def upgrade() -> None:
    for table in TABLES:
        with op.batch_alter_table(table, recreate="always", table_kwargs={"sqlite_autoincrement": True}):
            pass
    op.add_column("cut", sa.Column("made", sa.DateTime))
    op.execute("UPDATE cut SET made = started")
