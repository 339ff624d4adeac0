"""Write the earlier visits of the demo dogs that come with some, through the product's own use cases.

.venv/bin/python tools/demo_history.py
"""

from __future__ import annotations

import json
import tempfile
from dataclasses import dataclass
from pathlib import Path
from typing import Any, Final

import numpy as np
from scipy.spatial import cKDTree

from dapwick.core.head.coat import CoatProbe, probe_readings
from dapwick.core.head.stand import COMB_READ_MM
from dapwick.core.outlines.fit import Outline
from dapwick.core.outlines.ground import Ground
from dapwick.core.outlines.wishes import Wishes
from dapwick.core.plan.kit import USUAL_KIT
from dapwick.demo.dogs import (
    ALL_SEVEN,
    DEMO_STYLISTS,
    PHOTOS,
    calliper_mm,
    hand_marks,
    photo_bytes,
    photos_of,
    truth,
)
from dapwick.documents.bundle import VisitDocument
from dapwick.documents.kit import KitDocument
from dapwick.records import queries
from dapwick.records.store import SalonStore
from dapwick.service.after.checking import Checking
from dapwick.service.after.expecting import end_cut, keep_outline, read_bone, read_coat, read_marks
from dapwick.service.cutting.cut import Cutting, Entry, set_stylist, set_traits
from dapwick.service.dogs.about import add_dog, set_next_note, set_wishes
from dapwick.service.photos.edges import review
from dapwick.service.photos.taking_in import add_photo
from dapwick.service.plans.planner import Asked, Planner
from dapwick.service.salon.kit import set_kit
from dapwick.service.visits.begin_end import end_visit, start_visit

DRY: Final = ("dry-front", "dry-left", "dry-right", "dry-top")
FINISHED_VIEWS: Final = ("front", "left", "right")
SPANS: Final = (("eye_outer_left", "eye_outer_right"), ("stop", "nose_tip"))
COMBED: Final = (("crown", "left"), ("cheek", "right"), ("muzzle_side", "left"))
LAST_MARKS: Final = 3
PACE_SPREAD: Final = 0.3


@dataclass(frozen=True)
class Told:
    """One visit's story. pace: how long the steps took against the sheet; finished: photographed after the
    cut; today: it goes on."""

    family: str
    stylist: str
    words: str
    next_note: str
    pace: float
    noted: str = ""
    finished: bool = False
    today: bool = False
    slots: tuple[str, ...] = DRY


STORIES: Final = {
    "fogbell": (
        ("minds_muzzle",),
        (
            Told("round", "Oriel", "Round, eyes to be seen.", "Minds the muzzle: beard last.", 1.25, "minded"),
            Told(
                "teddy", "Oriel", "As last time, softer.", "Minds the muzzle. Left cheek grew faster: look.", 1.05,
                finished=True,
            ),
        ),
    ),
    "capstan": (
        (),
        (Told("round", "Oriel", "Round, like a bun. Both sides the same, please.", "", 1.1, finished=True, today=True,
              slots=ALL_SEVEN),),
    ),
    "bobbin": (
        (),
        (
            Told("teddy", "Benno", "Like a bear, please.", "Curls back at once: dry twice.", 1.3, "matted"),
            Told("broad", "Benno", "Shorter for the summer.", "Stands well. Owner liked it short.", 1.0),
        ),
    ),
}  # fmt: skip


def earlier_visits(key: str, whole: bool = False) -> list[dict[str, Any]]:
    """The visits of one dog, oldest first, as a bundle keeps them; slim unless whole."""
    known, (traits, stories) = truth(key), STORIES[key]
    with tempfile.TemporaryDirectory() as folder:
        store = SalonStore(Path(folder))
        set_kit(store, KitDocument.of(USUAL_KIT, DEMO_STYLISTS))
        dog = add_dog(store, known["dog"], known["coat"], known["breed"], known["born"]).id
        set_traits(store, dog, list(traits))
        planner = Planner(store)
        cutting = Cutting(store, planner)
        for visit, told in enumerate(stories):
            _visit(store, planner, cutting, dog, known, visit, told, ended=not told.today)
            if told.finished:
                _photographed(store, planner, dog, f"{key}-{visit + 1}" if visit else key)
            if not told.today:
                start_visit(store, dog)
        with store.reading() as session:
            rows = queries.dog(session, dog).visits[: len(stories)]
            found = [VisitDocument.model_validate(row).model_dump(mode="json") for row in rows]
        store.close()
    kept = zip(found, stories, strict=True)
    return [document if whole or told.today else slim(document) for document, told in kept]


def planned_outline(key: str) -> Outline:
    """The outline that a demo dog's cut visit planned (tools/demo_cut.py), with the head it was planned on."""
    known = truth(key)
    with tempfile.TemporaryDirectory() as folder:
        store = SalonStore(Path(folder))
        set_kit(store, KitDocument.of(USUAL_KIT, DEMO_STYLISTS))
        dog = add_dog(store, known["dog"], known["coat"], known["breed"], known["born"]).id
        planner = Planner(store)
        cutting = Cutting(store, planner)
        told = STORIES[key][1]
        for visit, one in enumerate(told):
            if visit:
                start_visit(store, dog)
            _visit(store, planner, cutting, dog, known, visit, one, ended=False)
        outline = planner.drawn(dog, Asked(told[-1].family))[1]
        store.close()
        return outline


def _visit(
    store: SalonStore,
    planner: Planner,
    cutting: Cutting,
    dog: int,
    known: dict[str, Any],
    visit: int,
    told: Told,
    ended: bool = True,
) -> None:
    set_wishes(store, dog, Wishes(eyes="open"), told.words)
    set_stylist(store, dog, told.stylist)
    for photo in photos_of(known, told.slots, visit):
        added = add_photo(
            store, dog, photo_bytes(photo["file"]), photo["file"], photo["view"], photo["state"]
        )
        if photo["state"] == "dry":
            _marked(store, added.id, hand_marks(photo))
        if told.today:
            review(store, added.id, lambda *_: None)
    for many in range(1, len(SPANS) + 1):
        read_bone(store, dog, [_reading(known, *span) for span in SPANS[:many]])
    ground = planner.head(dog).model.ground
    combs = [_comb(known, visit, ground, zone, side) for zone, side in COMBED]
    for many in range(1, len(combs) + 1):
        read_coat(store, planner, dog, combs[:many])
    keep_outline(store, planner, dog, Asked(told.family))
    rng = np.random.default_rng([visit, len(told.words)])
    begun = cutting.start(dog)
    assert begun.sheet is not None
    for i, step in enumerate(begun.sheet["steps"]):
        seconds = step["minutes"] * 60 * told.pace * float(np.exp(rng.normal(0, PACE_SPREAD)))
        notes = (told.noted,) if told.noted and i == len(begun.sheet["steps"]) // 2 else ()
        cutting.record(dog, Entry(step["id"], "done", round(seconds, 1), notes=notes))
    end_cut(store, cutting, dog)
    if ended:
        set_next_note(store, dog, told.next_note)
        end_visit(store, dog)


def _marked(store: SalonStore, photo: int, marks: dict[str, Any]) -> None:
    """As a hand does it: one after the other, the last ones where they were expected already."""
    first = dict(list(marks.items())[:-LAST_MARKS])
    read_marks(store, photo, first)
    read_marks(store, photo, marks)


def _reading(known: dict[str, Any], a: str, b: str) -> dict[str, Any]:
    return {"from": a, "to": b, "mm": calliper_mm(known, a, b), "sigma_mm": 1.0}


def _comb(known: dict[str, Any], visit: int, ground: Ground, zone: str, side: str) -> dict[str, Any]:
    """What a comb reads in a zone's middle of the true coat, to the half millimetre."""
    at = probe_readings(ground.skin, CoatProbe(zone, side, 0.0)).at
    _, near = cKDTree(known["skin"]["at_mm"]).query(ground.skin.vertices_mm[at])
    depth = np.array(known["visits"][visit]["coat_depth_mm"])[near].mean()
    rng = np.random.default_rng([visit, len(zone), len(side)])
    return {"zone": zone, "side": side, "depth_mm": round(2 * (depth + rng.normal(0, COMB_READ_MM))) / 2}


def _photographed(store: SalonStore, planner: Planner, dog: int, files: str) -> None:
    """The finished head's photos come in, are looked at and held against the plan."""
    for view in FINISHED_VIEWS:
        name = f"{files}-finished-{view}.jpg"
        review(store, add_photo(store, dog, photo_bytes(name), name, view, "finished").id, lambda *_: None)
    told = Checking(store, planner).now(dog).check
    assert told is not None
    print(f"{files}: {told.words}", *(t.words for t in told.touch_ups), sep="\n  ")


def slim(document: dict[str, Any]) -> dict[str, Any]:
    """Without what nobody asks of a visit that is over: what the machine saw, and the cut sheet's drawings."""
    for photo in document["photos"]:
        photo["looked"] = None
    for cut in document["cuts"]:
        sheet = cut["sheet"]
        steps = [
            {k: s[k] for k in ("id", "number", "rule", "title", "tool", "tool_id", "minutes")}
            for s in sheet["steps"]
        ]
        cut["sheet"] = {k: sheet[k] for k in ("format", "version", "dog", "family", "outline", "minutes")} | {
            "steps": steps
        }
    return document


def main() -> None:
    for key in STORIES:
        path = PHOTOS / f"{key}-history.json"
        path.write_text(json.dumps(earlier_visits(key), separators=(",", ":"), ensure_ascii=False), "utf-8")
        print(f"{path.name}: {path.stat().st_size // 1024} kB")


if __name__ == "__main__":
    main()
