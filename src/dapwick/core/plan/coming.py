"""What shows first as a finished head grows out: each thing with the weeks until it shows.

A dog's own rate of growth is known to RATE_SPREAD only, so every event has the weeks of a fast and of a slow grower
beside the middle one (an 80 % interval).
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Final

import numpy as np

from dapwick.core.head.growth import MOST_WEEKS, RATE_SPREAD, growth_mm
from dapwick.core.head.stand import length_of
from dapwick.core.outlines.description import broken_on
from dapwick.core.outlines.ear_cut import CLIPPED_MM
from dapwick.core.outlines.fit import Outline
from dapwick.core.outlines.wishes import EYE_FALL_MM
from dapwick.core.plan.finished import grown

NORMAL_80: Final = 1.2816
IN_SIGHT_MM: Final = 9.0
"""Hair of the inner corners this long stands in the way of the eye."""
BLURRED_MM: Final = 7.0
"""A clipped leather's line is gone when so much has grown on it."""
MATS_AT_MM: Final[Mapping[str, float]] = {
    "curl": 45.0, "wavy": 55.0, "fine_drop": 90.0, "standing": 70.0, "harsh": 60.0,
}  # fmt: skip
"""Length from which a coat of this type mats if it is not combed every other day; defaults of the trade."""
LONG: Final = 90
"""Of a hundred places of a zone, the length that all but the longest ten have."""


@dataclass(frozen=True)
class Event:
    """weeks after the cut until it shows; low, high: of a fast grower and a slow one."""

    id: str
    words: str
    weeks: float
    low: float
    high: float


def coming(outline: Outline) -> tuple[Event, ...]:
    """What shows within half a year of the cut, first what shows first. What shows already on the day is no news."""
    coat = outline.ground.coat_type
    needs = {
        "eyes": ("the fringe falls into the eyes", EYE_FALL_MM - _length_mm(outline, "visor", "brow")),
        "corners": ("hair of the inner corners shows", IN_SIGHT_MM - _length_mm(outline, "inner_corner")),
        "mats": (
            "it mats unless it is combed every other day",
            MATS_AT_MM[coat] - _length_mm(outline, "cheek", "crown"),
        ),
    }
    if _ears_clipped(outline):
        needs["ears"] = ("the ears’ line is grown over", BLURRED_MM - CLIPPED_MM)
    week_mm = growth_mm(1.0, coat)
    events = [_event(key, words, need / week_mm) for key, (words, need) in needs.items() if need > 0]
    lost = _first_week(lambda weeks: bool(broken_on(outline, grown(outline, weeks)[0])))
    if lost:
        events.append(_event("shape", "the shape is lost", float(lost)))
    return tuple(sorted((e for e in events if e.weeks <= MOST_WEEKS), key=lambda e: e.weeks))


def _event(key: str, words: str, weeks: float) -> Event:
    fast, slow = (1.0 + side * NORMAL_80 * RATE_SPREAD for side in (1.0, -1.0))
    return Event(key, words, weeks, weeks / fast, weeks / slow)


def _length_mm(outline: Outline, *zones: str) -> float:
    """The longest that zones are left, but for single places."""
    ground = outline.ground
    length = length_of(outline.leave_mm, ground.coat.stand)
    places = [length[ground.skin.in_zone(zone)] for zone in zones]
    return float(np.percentile(np.concatenate(places), LONG))


def _ears_clipped(outline: Outline) -> bool:
    first, last = outline.design.ears.clipped
    return last > first


def _first_week(shows: Callable[[int], bool]) -> int | None:
    """The first week that shows it; None where the day itself does, or none does."""
    if shows(0):
        return None
    return next((weeks for weeks in range(1, MOST_WEEKS + 1) if shows(weeks)), None)
