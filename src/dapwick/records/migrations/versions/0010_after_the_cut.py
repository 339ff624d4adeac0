"""The check of a finished head, what was done about it, and what was expected before it was read."""

import sqlalchemy as sa
from alembic import op

revision = "0010"
down_revision = "0009"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("visit", sa.Column("checked", sa.JSON))
    op.add_column("visit", sa.Column("touched_up", sa.JSON, nullable=False, server_default="{}"))
    op.create_table(
        "expectation",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("visit_id", sa.Integer, sa.ForeignKey("visit.id"), nullable=False),
        sa.Column("kind", sa.String(16), nullable=False),
        sa.Column("what", sa.String(80), nullable=False),
        sa.Column("expected", sa.Double, nullable=False),
        sa.Column("sigma", sa.Double, nullable=False),
        sa.Column("found", sa.Double, nullable=False),
        sa.Column("unit", sa.String(8), nullable=False),
        sa.Column("version", sa.String(40), nullable=False, server_default=""),
        sa.Column("at", sa.DateTime, nullable=False),
        sqlite_autoincrement=True,
    )
    op.create_index("ix_expectation_visit_id", "expectation", ["visit_id"])
    op.create_index("ix_expectation_kind", "expectation", ["kind"])
