"""First salon: dogs, visits, photos, outlines."""

import sqlalchemy as sa
from alembic import op

revision = "0001"
down_revision = None
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "dog",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("name", sa.String(80), nullable=False),
        sa.Column("breed", sa.String(120), nullable=False),
        sa.Column("coat", sa.String(20), nullable=False),
        sa.Column("born", sa.String(10)),
    )
    op.create_table(
        "visit",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("dog_id", sa.Integer, sa.ForeignKey("dog.id"), nullable=False),
        sa.Column("starts", sa.String(5), nullable=False),
        sa.Column("note", sa.String(400), nullable=False),
        sa.Column("hand_measures", sa.JSON, nullable=False),
        sa.Column("coat_probes", sa.JSON, nullable=False),
        sa.Column("created", sa.DateTime, nullable=False),
    )
    op.create_table(
        "photo",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("visit_id", sa.Integer, sa.ForeignKey("visit.id"), nullable=False),
        sa.Column("view", sa.String(24), nullable=False),
        sa.Column("state", sa.String(12), nullable=False),
        sa.Column("file_name", sa.String(200), nullable=False),
        sa.Column("content_hash", sa.String(64), nullable=False),
        sa.Column("width_px", sa.Integer, nullable=False),
        sa.Column("height_px", sa.Integer, nullable=False),
        sa.Column("focal_px", sa.Double),
        sa.Column("taken", sa.DateTime),
        sa.Column("marks", sa.JSON, nullable=False),
        sa.Column("coat_edge", sa.JSON),
        sa.Column("removed", sa.DateTime),
    )
    op.create_table(
        "outline",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("visit_id", sa.Integer, sa.ForeignKey("visit.id"), nullable=False),
        sa.Column("family", sa.String(24), nullable=False),
        sa.Column("params", sa.JSON, nullable=False),
        sa.Column("schools", sa.JSON, nullable=False),
        sa.Column("zones", sa.JSON, nullable=False),
        sa.Column("inputs_hash", sa.String(64), nullable=False),
        sa.Column("version", sa.String(40), nullable=False),
        sa.Column("saved", sa.DateTime, nullable=False),
    )


def downgrade() -> None:
    for table in ("outline", "photo", "visit", "dog"):
        op.drop_table(table)
