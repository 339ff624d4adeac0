"""The demo dogs: their photos, what is true of them, and a stylist's marks on one of them."""

from __future__ import annotations

import json
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any, Final
from zlib import crc32

import numpy as np

from dapwick.core.basics.marks import guided_order
from dapwick.core.plan.kit import Stylist
from dapwick.core.solve.observations import PlacedMark

PHOTOS: Final = Path(__file__).parent / "photos"
CAMERA: Final = Path(__file__).parent / "camera"
"""Frames for the simulated camera, and frames.json."""
HAND_SEED: Final = 7


FIRST: Final = ("dry-front", "dry-left")
ALL_SEVEN: Final = (
    "dry-front",
    "dry-left",
    "dry-right",
    "dry-top",
    "wet-front",
    "wet-left",
    "wet-top",
)


@dataclass(frozen=True)
class DemoDog:
    """key names the files. slots: the photos its visit begins with. marked: they come with marks and a
    calliper reading, as after a first visit; traits: what is known of its handling; owner_words: what was asked for;
    minutes: kept free for it in the book; begun: the last of its kept visits is
    today's, which goes on."""

    key: str
    starts: str
    note: str
    slots: tuple[str, ...]
    marked: bool = False
    traits: tuple[str, ...] = ()
    owner_words: str = ""
    minutes: int = 60
    begun: bool = False


@dataclass(frozen=True)
class EarlierVisit:
    """A visit that a demo dog comes with: how many weeks ago, and which of the truth's visits its photos are of."""

    weeks_ago: int
    visit: int


EARLIER: Final = (EarlierVisit(14, 0), EarlierVisit(7, 1))
TODAYS_VISIT: Final = 2
"""Of the truth, for the dogs that come with earlier ones."""
OLD_AND_THIN: Final = ("tires", "old", "thin_coat")
DEMO_STYLISTS: Final = (Stylist("Oriel", "left"), Stylist("Benno", "right"))
DEMO_DOGS: Final = (
    DemoDog(
        "fogbell",
        "09:30",
        "Minds the muzzle.",
        FIRST,
        True,
        ("minds_muzzle",),
        "Eyes to be seen, as always.",
        75,
    ),
    DemoDog("bobbin", "13:00", "First visit.", FIRST, False, ("first_time",), "Soft and round, please.", 60),
    DemoDog("tiller", "10:30", "Pulls at the lead, stands like a rock. Scale card held beside.", ALL_SEVEN),
    DemoDog("marlin-spike", "11:30", "Black on black: towel behind the head.", ALL_SEVEN),
    DemoDog(
        "kelpie-jo",
        "14:00",
        "Puppy, first time: no photos yet. Fidgets.",
        (),
        traits=("sways", "puppy", "first_time"),
        minutes=45,
    ),
    DemoDog(
        "squall",
        "14:45",
        "Flat face: pauses.",
        ALL_SEVEN,
        traits=("flat_face",),
        owner_words="Fringe out of the eyes.",
    ),
    DemoDog("ratline", "15:30", "One ear sits lower.", ALL_SEVEN, owner_words="Even, please."),
    DemoDog(
        "halyard",
        "16:30",
        "Fourteen years: chin rest, short steps.",
        ALL_SEVEN,
        traits=OLD_AND_THIN,
        minutes=90,
    ),
    DemoDog(
        "capstan",
        "08:30",
        "Both sides the same, says the owner.",
        (),
        begun=True,
        minutes=60,
        owner_words="Round, like a bun. Both sides the same, please.",
    ),
)


def truth(key: str) -> dict[str, Any]:
    """What is true of a demo dog: marks, cameras, coat (see tools/simdogs/truth.py)."""
    loaded: dict[str, Any] = json.loads((PHOTOS / f"{key}-truth.json").read_text())
    return loaded


def photos_of(known: dict[str, Any], slots: Sequence[str] = FIRST, visit: int = 0) -> list[dict[str, Any]]:
    """What is true of some of a dog's photos, by slot (`dry-front`), in the order asked for."""
    by_slot = {f"{p['state']}-{p['view']}": p for p in known["photos"] if p["visit"] == visit}
    return [by_slot[slot] for slot in slots]


def history(key: str) -> list[dict[str, Any]] | None:
    """Earlier visits of a demo dog as a bundle keeps them (tools/demo_history.py); None where it has none."""
    path = PHOTOS / f"{key}-history.json"
    found: list[dict[str, Any]] | None = json.loads(path.read_text("utf-8")) if path.exists() else None
    return found


def photo_bytes(file: str) -> bytes:
    return (PHOTOS / file).read_bytes()


def hand_marks(photo: dict[str, Any], seed: int = HAND_SEED) -> dict[str, dict[str, Any]]:
    """Marks as a person places them on a demo photo: the true places plus a hand's error."""
    rng = np.random.default_rng([seed, crc32(photo["file"].encode())])
    longer = max(photo["width"], photo["height"])
    px_per_mm = photo["focal_px"] / float(np.linalg.norm(photo["translation_mm"]))
    marks = {}
    for mark in guided_order(photo["view"]):
        px, mm = PlacedMark(0, 0).spread(mark, longer)
        at = np.array(photo["marks_px"][mark]) + rng.normal(0, np.hypot(px, mm * px_per_mm) * 0.7, 2)
        marks[mark] = {"at": np.round(at, 1).tolist()}
    return marks


def calliper_mm(known: Mapping[str, Any], a: str, b: str) -> float:
    """What a calliper would read between two marks, to the half millimetre."""
    apart = np.array(known["marks_mm"][a]) - np.array(known["marks_mm"][b])
    return round(float(np.linalg.norm(apart)) * 2) / 2
