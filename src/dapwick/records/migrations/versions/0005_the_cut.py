"""What a dog minds, who cuts, and what was really done."""

import sqlalchemy as sa
from alembic import op

revision = "0005"
down_revision = "0004"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("dog", sa.Column("traits", sa.JSON, nullable=False, server_default="[]"))
    op.add_column("visit", sa.Column("stylist", sa.String(40), nullable=False, server_default=""))
    op.create_table(
        "cut",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("visit_id", sa.Integer, sa.ForeignKey("visit.id"), nullable=False),
        sa.Column("sheet", sa.JSON, nullable=False),
        sa.Column("inputs_hash", sa.String(64), nullable=False),
        sa.Column("stylist", sa.String(40), nullable=False),
        sa.Column("started", sa.DateTime, nullable=False),
        sa.Column("ended", sa.DateTime),
        sa.Column("stopped_after", sa.String(80)),
    )
    op.create_table(
        "cut_step",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("cut_id", sa.Integer, sa.ForeignKey("cut.id"), nullable=False),
        sa.Column("step", sa.String(80), nullable=False),
        sa.Column("rule", sa.String(40), nullable=False),
        sa.Column("state", sa.String(8), nullable=False),
        sa.Column("usual_min", sa.Double, nullable=False),
        sa.Column("seconds", sa.Double),
        sa.Column("tool", sa.String(60), nullable=False, server_default=""),
        sa.Column("length_mm", sa.Double),
        sa.Column("notes", sa.JSON, nullable=False),
        sa.Column("at", sa.DateTime, nullable=False),
        sa.UniqueConstraint("cut_id", "step"),
    )
