"""Practice: who practises, and what was asked, answered and told."""

import sqlalchemy as sa
from alembic import op

revision = "0012"
down_revision = "0011"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "practice_person",
        sa.Column("id", sa.Integer, primary_key=True, nullable=False),
        sa.Column("name", sa.String(40), nullable=False),
        sa.Column("uid", sa.String(32), nullable=False),
        sa.Column("shown", sa.Boolean, nullable=False),
        sa.Column("created", sa.DateTime, nullable=False),
        sa.Column("removed", sa.DateTime, nullable=True),
        sqlite_autoincrement=True,
    )
    op.create_table(
        "practice_task",
        sa.Column("id", sa.Integer, primary_key=True, nullable=False),
        sa.Column("person_id", sa.Integer, sa.ForeignKey("practice_person.id"), nullable=False),
        sa.Column("drill", sa.String(12), nullable=False),
        sa.Column("turn", sa.Integer, nullable=False),
        sa.Column("asked", sa.JSON, nullable=False),
        sa.Column("answer", sa.JSON, nullable=True),
        sa.Column("told", sa.JSON, nullable=True),
        sa.Column("version", sa.String(40), nullable=False),
        sa.Column("begun", sa.DateTime, nullable=False),
        sa.Column("answered", sa.DateTime, nullable=True),
        sa.UniqueConstraint("person_id", "drill", "turn"),
        sqlite_autoincrement=True,
    )
    op.create_index("ix_practice_task_person_id", "practice_task", ["person_id"])
