"""Fill an empty salon with the demo dogs."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Final

from dapwick.core.plan.kit import USUAL_KIT
from dapwick.demo.dogs import (
    DEMO_DOGS,
    DEMO_STYLISTS,
    FIRST,
    DemoDog,
    calliper_mm,
    hand_marks,
    photo_bytes,
    photos_of,
    truth,
)
from dapwick.records import queries
from dapwick.records.store import SalonStore
from dapwick.service.dogs import add_dog, set_hand_measures, today
from dapwick.service.kit import kit_document, set_kit
from dapwick.service.photos import add_photo, set_marks

ACROSS: Final = ("eye_outer_left", "eye_outer_right")


def fill_with_demo(store: SalonStore, keys: Sequence[str] | None = None) -> None:
    """The demo dogs (or those named), once: a salon that has any dog is left as it is."""
    if today(store):
        return
    set_kit(store, kit_document(USUAL_KIT, DEMO_STYLISTS))
    for dog in DEMO_DOGS:
        if keys is None or dog.key in keys:
            _add(store, dog)


def _add(store: SalonStore, demo: DemoDog) -> None:
    known = truth(demo.key)
    card = add_dog(store, known["dog"], known["coat"], known["breed"], known["born"])
    with store.session() as session:
        visit = queries.visit_today(session, card.id)
        visit.starts, visit.note = demo.starts, demo.note
        visit.dog.traits = list(demo.traits)
        if demo.slots == FIRST and not demo.marked:
            # Nobody can put a calliper on a simulated dog: its reading comes with the note.
            visit.note += f" Calliper across the outer eye corners: {calliper_mm(known, *ACROSS):g} mm."
    for photo in photos_of(known, demo.slots):
        added = add_photo(
            store, card.id, photo_bytes(photo["file"]), photo["file"], photo["view"], photo["state"]
        )
        if demo.marked:
            set_marks(store, added.id, hand_marks(photo))
    if demo.marked:
        reading = {"from": ACROSS[0], "to": ACROSS[1], "mm": calliper_mm(known, *ACROSS), "sigma_mm": 1.0}
        set_hand_measures(store, card.id, [reading])
