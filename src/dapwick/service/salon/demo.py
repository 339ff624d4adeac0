"""Fill a salon with the demo dogs."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from datetime import UTC, datetime, timedelta
from typing import Any, Final

from dapwick.core.plan.kit import USUAL_KIT
from dapwick.demo.dogs import (
    DEMO_DOGS,
    DEMO_STYLISTS,
    EARLIER,
    FIRST,
    TODAYS_VISIT,
    DemoDog,
    calliper_mm,
    hand_marks,
    history,
    photo_bytes,
    photos_of,
    truth,
)
from dapwick.documents.bundle import VisitDocument
from dapwick.documents.kit import KitDocument
from dapwick.records import queries
from dapwick.records.models import BookingRow, DogRow, VisitRow, now
from dapwick.records.store import SalonStore
from dapwick.service.dogs.about import set_hand_measures
from dapwick.service.dogs.bundles import visit_row
from dapwick.service.photos.edges import not_reviewed, review
from dapwick.service.photos.taking_in import add_photo, keep_screen_copy, set_marks
from dapwick.service.salon.kit import salon_kit, set_kit
from dapwick.service.visits.bookings import today

DEMO_NAME: Final = "the Net Loft"
ACROSS: Final = ("eye_outer_left", "eye_outer_right")


def fill_with_demo(
    store: SalonStore,
    keys: Sequence[str] | None = None,
    beside: bool = False,
    earlier: bool | None = None,
    looked: bool = True,
) -> None:
    """The demo dogs (or those named), once: a salon that has any dog is left as it is, unless they are wanted beside.
    earlier: with the visits that some of them had before; usual where all are wanted. looked: photos that are marked
    are looked at here and now, as if somebody had worked on them before; else as soon as somebody opens their dog."""
    with store.reading() as session:
        if queries.demo_dogs(session) or (queries.any_dog(session) and not beside):
            return
    if not salon_kit(store).stylists:
        set_kit(store, KitDocument.of(USUAL_KIT, DEMO_STYLISTS))
    for dog in DEMO_DOGS:
        if keys is None or dog.key in keys:
            _add(store, dog, keys is None if earlier is None else earlier, looked)


def _add(store: SalonStore, demo: DemoDog, earlier: bool, looked: bool) -> None:
    known = truth(demo.key)
    past = history(demo.key) if earlier or demo.begun else None
    dog_id = _booked(store, demo, known, past)
    for photo in photos_of(known, demo.slots, TODAYS_VISIT if past else 0):
        added = add_photo(
            store, dog_id, photo_bytes(photo["file"]), photo["file"], photo["view"], photo["state"]
        )
        if demo.marked:
            set_marks(store, added.id, hand_marks(photo))
    if demo.marked:
        reading = {"from": ACROSS[0], "to": ACROSS[1], "mm": calliper_mm(known, *ACROSS), "sigma_mm": 1.0}
        set_hand_measures(store, dog_id, [reading])
        for photo_id in not_reviewed(store, dog_id) if looked else ():
            review(store, photo_id, lambda words, share: None)


def _booked(
    store: SalonStore, demo: DemoDog, known: Mapping[str, Any], past: list[dict[str, Any]] | None
) -> int:
    """A demo dog with its earlier visits, its visit of today begun, in today's book."""
    visits = _earlier_visits(store, (past or [])[:-1] if demo.begun else past or [])
    today_ = _kept_visit(store, (past or [])[-1]) if demo.begun and past else VisitRow()
    note = visits[-1].next_note if visits else demo.note
    if not visits and demo.slots == FIRST and not demo.marked:
        # Nobody can put a calliper on a simulated dog: its reading comes with the note.
        note += f" Calliper across the outer eye corners: {calliper_mm(known, *ACROSS):g} mm."
    today_.note, today_.owner_words = note, demo.owner_words
    with store.session() as session:
        row = DogRow(
            name=known["dog"], coat=known["coat"], breed=known["breed"], born=known["born"], demo=True,
            traits=[t for t in demo.traits if not (visits and t == "first_time")],
            visits=[*visits, today_],
        )  # fmt: skip
        session.add(row)
        session.flush()
        session.add(
            BookingRow(
                dog=row,
                day=today(),
                starts=demo.starts,
                minutes=demo.minutes,
                words="",
                visit_id=row.visits[-1].id,
            )
        )
        return row.id


def _earlier_visits(store: SalonStore, past: list[dict[str, Any]]) -> list[VisitRow]:
    found = []
    for document, when in zip(past, EARLIER, strict=False):
        row = _kept_visit(store, document)
        row.created = datetime.now(UTC).replace(tzinfo=None) - timedelta(weeks=when.weeks_ago)
        row.ended = row.created + timedelta(hours=1)
        found.append(row)
    return found


def _kept_visit(store: SalonStore, document: dict[str, Any]) -> VisitRow:
    """A visit as it was kept, its photos with it."""
    visit = VisitDocument.model_validate(document)
    for photo in visit.photos:
        data = photo_bytes(photo.file_name)
        keep_screen_copy(store, store.keep_photo(data), data, photo.file_name)
    row = visit_row(visit, {})
    row.created = now()
    return row
