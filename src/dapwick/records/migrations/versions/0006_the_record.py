"""The salon's record: bookings, notes for the next time, removed dogs, what results rest on, sessions, indexes."""

import uuid

import sqlalchemy as sa
from alembic import op

revision = "0006"
down_revision = "0005"
branch_labels = None
depends_on = None

USUAL_MINUTES = 90
INDEXES = {
    "visit": ("dog_id", "created"),
    "photo": ("visit_id", "content_hash"),
    "outline": ("visit_id",),
    "cut": ("visit_id", "stylist", "ended"),
    "cut_step": ("cut_id", "at"),
    "booking": ("day", "dog_id"),
    "dog": ("name", "uid"),
}


def upgrade() -> None:
    _dogs()
    _visits()
    op.add_column("outline", sa.Column("rests_on", sa.JSON, nullable=False, server_default="{}"))
    op.add_column("outline", sa.Column("lines", sa.JSON, nullable=False, server_default="{}"))
    op.create_table(
        "session",
        sa.Column("token_hash", sa.String(64), primary_key=True),
        sa.Column("created", sa.DateTime, nullable=False),
        sa.Column("seen", sa.DateTime, nullable=False),
    )
    for table, columns in INDEXES.items():
        for column in columns:
            op.create_index(f"ix_{table}_{column}", table, [column])


def _dogs() -> None:
    op.add_column("dog", sa.Column("uid", sa.String(32), nullable=False, server_default=""))
    op.add_column("dog", sa.Column("demo", sa.Boolean, nullable=False, server_default="0"))
    op.add_column("dog", sa.Column("removed", sa.DateTime))
    connection = op.get_bind()
    for (dog_id,) in connection.execute(sa.text("SELECT id FROM dog")).all():
        told = {"uid": uuid.uuid4().hex, "id": dog_id}
        connection.execute(sa.text("UPDATE dog SET uid = :uid WHERE id = :id"), told)


def _visits() -> None:
    """A visit's time moves to the book."""
    op.create_table(
        "booking",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("dog_id", sa.Integer, sa.ForeignKey("dog.id"), nullable=False),
        sa.Column("day", sa.String(10), nullable=False),
        sa.Column("starts", sa.String(5), nullable=False),
        sa.Column("minutes", sa.Integer, nullable=False),
        sa.Column("words", sa.String(200), nullable=False, server_default=""),
        sa.Column("visit_id", sa.Integer, sa.ForeignKey("visit.id")),
        sa.Column("uid", sa.String(32), nullable=False),
        sa.Column("removed", sa.DateTime),
    )
    op.execute(
        "INSERT INTO booking (dog_id, day, starts, minutes, visit_id, uid) "
        f"SELECT dog_id, date(created), starts, {USUAL_MINUTES}, id, lower(hex(randomblob(16))) FROM visit"
    )
    op.drop_column("visit", "starts")
    op.add_column("visit", sa.Column("next_note", sa.String(400), nullable=False, server_default=""))
    op.add_column("visit", sa.Column("owner_words", sa.String(1000), nullable=False, server_default=""))
    op.add_column("visit", sa.Column("measures", sa.JSON))
    op.add_column("visit", sa.Column("ended", sa.DateTime))
