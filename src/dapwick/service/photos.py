"""Photos of a visit: taken in, shown, removed, their marks and edges kept."""

from __future__ import annotations

from typing import Any

from dapwick.core.errors import BadInput, NotFound
from dapwick.core.marks import STATES, VIEWS
from dapwick.core.observations import PhotoMarks, PlacedMark
from dapwick.records import queries
from dapwick.records.models import PhotoRow, now
from dapwick.records.store import SalonStore
from dapwick.service.dogs import PhotoCard, photo_card
from dapwick.vision.photo import Photo, read_photo, screen_jpeg


def add_photo(
    store: SalonStore, dog_id: int, data: bytes, file_name: str, view: str, state: str
) -> PhotoCard:
    """Check, keep the original byte for byte, make the screen copy, put it into its slot.

    A photo already in the slot is replaced; it stays on disk.
    """
    if view not in VIEWS:
        raise BadInput("unknown view", expected=", ".join(VIEWS), got=view, where=file_name)
    if state not in STATES:
        raise BadInput("unknown state", expected=", ".join(STATES), got=state, where=file_name)
    photo = read_photo(data, file_name)
    digest = store.keep_photo(data)
    store.keep_screen_copy(digest, screen_jpeg(photo))
    with store.session() as session:
        visit = queries.visit_today(session, dog_id)
        for old in queries.photos_of(visit):
            if (old.view, old.state) == (view, state):
                old.removed = now()
        row = _row_of(photo, file_name, digest, view, state)
        visit.photos.append(row)
        session.flush()
        return photo_card(row)


def _row_of(photo: Photo, file_name: str, digest: str, view: str, state: str) -> PhotoRow:
    return PhotoRow(
        view=view,
        state=state,
        file_name=file_name[:200],
        content_hash=digest,
        width_px=photo.width_px,
        height_px=photo.height_px,
        focal_px=photo.focal_px,
        taken=photo.taken,
        marks={},
    )


def remove_photo(store: SalonStore, photo_id: int) -> None:
    """Soft: `restore_photo` brings it back with its marks."""
    with store.session() as session:
        queries.photo(session, photo_id).removed = now()


def restore_photo(store: SalonStore, photo_id: int) -> PhotoCard:
    with store.session() as session:
        row = session.get(PhotoRow, photo_id)
        if row is None:
            raise NotFound("photo", photo_id)
        for other in queries.photos_of(row.visit):
            if (other.view, other.state) == (row.view, row.state):
                other.removed = now()
        row.removed = None
        return photo_card(row)


def screen_copy(store: SalonStore, photo_id: int) -> bytes:
    with store.session() as session:
        digest = queries.photo(session, photo_id).content_hash
    return store.screen_path(digest).read_bytes()


def set_marks(store: SalonStore, photo_id: int, marks: dict[str, dict[str, Any]]) -> int:
    """Replace a photo's marks; returns the dog's id. Bad marks are refused before anything changes."""
    with store.session() as session:
        row = queries.photo(session, photo_id)
        marks_of(row, marks)
        row.marks = marks
        return row.visit.dog_id


def marks_of(row: PhotoRow, marks: dict[str, Any] | None = None) -> PhotoMarks:
    """The photo as the solver wants it; named by its slot, since that is what a stylist sees."""
    placed = {
        key: PlacedMark(m["at"][0], m["at"][1], m.get("kind"), m.get("unsure", False))
        for key, m in (row.marks if marks is None else marks).items()
    }
    return PhotoMarks(slot_name(row), row.view, row.width_px, row.height_px, placed, row.focal_px)  # type: ignore[arg-type]


def slot_name(row: PhotoRow) -> str:
    return f"{row.view.replace('_', ' ')}, {row.state}"
