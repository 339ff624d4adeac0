"""What shows first as a finished head grows out, when, and how many weeks that leaves until the next cut.

Every event is the week in which some hair has grown long enough. Growth rates, and how well the lengths that were left
are known, are drawn together, so that the events of one draw belong to one dog; intervals are those of the draws.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Final, Literal

import numpy as np

from dapwick.core.basics.arrays import Array, frozen
from dapwick.core.basics.shapes import exit_distance, outside, union
from dapwick.core.head.growth import MOST_WEEKS, Growth, usual_growth
from dapwick.core.head.stand import length_of
from dapwick.core.head.zones import ZONES
from dapwick.core.outlines.clear import HARD, lines_of_sight
from dapwick.core.outlines.description import broken_on
from dapwick.core.outlines.ear_cut import CLIPPED_MM
from dapwick.core.outlines.fit import Outline
from dapwick.core.outlines.wishes import EYE_FALL_MM, NO_WISHES, Wishes
from dapwick.core.plan.finished import grown

VERSION: Final = "coming-1"
DRAWS: Final = 400
SEED: Final = 19
NEVER: Final = 1e3
"""Weeks of what does not come."""
PLANNED_MM, CHECKED_MM = 2.0, 1.2
"""How well the length left in a zone is known (σ): by plan alone, and after a check."""
SHARE_OFF_MM: Final = 0.6
"""What all lengths left are off by together, for the hand of the day (share of the σ)."""
IN_SIGHT_MM: Final = 9.0
"""Hair of the inner corners this long stands in the way of the eye."""
BLURRED_MM: Final = 7.0
"""A clipped leather's line is gone when so much has grown on it."""
DRIPS_MM: Final = 40.0
"""A beard this long hangs into what it drinks."""
MATS_AT_MM: Final[Mapping[str, float]] = {
    "curl": 45.0, "wavy": 55.0, "fine_drop": 90.0, "standing": 70.0, "harsh": 60.0,
}  # fmt: skip
"""Length from which a coat of this type mats if it is not combed every other day; defaults of the trade."""
LONG: Final = 90
"""Of a hundred places of a zone, the length that all but the longest ten have."""
FRINGE: Final = 75
"""Of a hundred places of the fringe, the length that a quarter have, which is seen as the fringe's."""
SHAPE_SPREAD: Final = 0.15
"""How far off the growth is at which a shape is lost (σ, share of it): its own tolerance is a matter of taste."""
LOST_IN_STEPS: Final = 5
"""A week in which the shape is lost is found by halving this often."""
MOST_CHANCE: Final = 0.3
"""The next cut comes before what is minded shows with more than this chance."""
LEAST_WEEKS: Final = 2
EventId = Literal["eyes", "sight", "corners", "beard", "ears", "shape", "mats"]
WORDS: Final[Mapping[EventId, str]] = {
    "eyes": "the fringe falls into the eyes",
    "sight": "hair over the eyes stands in their way",
    "corners": "hair of the inner corners shows",
    "beard": "the beard is long enough to drip",
    "ears": "the ears’ line is grown over",
    "shape": "the shape is lost",
    "mats": "it mats unless it is combed every other day",
}


@dataclass(frozen=True)
class Event:
    """weeks after the cut until it shows, low..high the 80 % interval; minded: by this owner; chance (MOST_WEEKS + 1,):
    that it shows by each week."""

    id: EventId
    words: str
    weeks: float
    low: float
    high: float
    minded: bool
    chance: tuple[float, ...]


@dataclass(frozen=True)
class Coming:
    """Everything that shows within half a year, first what shows first. weeks: until the next cut; chance
    (MOST_WEEKS + 1,): that something minded shows by each week."""

    events: tuple[Event, ...]
    weeks: int
    chance: tuple[float, ...]
    words: str
    version: str = VERSION


def coming(
    outline: Outline, growth: Growth | None = None, wishes: Wishes = NO_WISHES, checked: bool = False
) -> Coming:
    """What comes of an outline as it was left. What shows already on the day is no news."""
    drawn = _Drawn(outline, growth or usual_growth(outline.ground.coat_type), checked)
    weeks: dict[EventId, Array] = {key: drawn.weeks(key) for key in WORDS if drawn.concerns(key)}
    weeks = {key: w for key, w in weeks.items() if np.median(w) > 0}
    events = [_event(key, w, minds(key, wishes)) for key, w in weeks.items()]
    events = sorted((e for e in events if e.weeks <= MOST_WEEKS), key=lambda e: e.weeks)
    bad = [w for key, w in weeks.items() if minds(key, wishes)]
    chance = _by_week(np.min(bad, axis=0) if bad else np.full(DRAWS, NEVER))
    until = _weeks_until(chance)
    return Coming(tuple(events), until, chance, _words(events, until))


def left_as(outline: Outline, off_mm: Array) -> Outline:
    """The outline as it came out: so much (V,) mm of depth off its plan."""
    return replace(outline, leave_mm=frozen(np.maximum(outline.leave_mm + off_mm, 0.0)))


def minds(event: EventId, wishes: Wishes) -> bool:
    """Whether this owner minds it so much that the head is cut again, by what was asked for. Corners are a matter of
    five minutes in between; ears grow over within weeks, which only who wants them short minds."""
    return {
        "eyes": wishes.eyes != "veiled",
        "sight": wishes.eyes != "veiled",
        "corners": False,
        "beard": wishes.beard == "short",
        "ears": wishes.ears == "short",
        "shape": True,
        "mats": True,
    }[event]


class _Drawn:
    """A head as it may have been left, and may grow."""

    def __init__(self, outline: Outline, growth: Growth, checked: bool) -> None:
        self.outline, self.growth = outline, growth
        rng = np.random.default_rng(SEED)
        self.rates = growth.drawn(DRAWS, rng)
        sigma = CHECKED_MM if checked else PLANNED_MM
        together = SHARE_OFF_MM * sigma * rng.standard_normal((DRAWS, 1))
        own = sigma * np.sqrt(1 - SHARE_OFF_MM**2) * rng.standard_normal((DRAWS, len(ZONES)))
        self.off_mm = together + own
        self.shape_off = np.exp(SHAPE_SPREAD * rng.standard_normal(DRAWS))
        self.length_mm = length_of(outline.leave_mm, outline.ground.coat.stand)

    def concerns(self, event: EventId) -> bool:
        first, last = self.outline.design.ears.clipped
        return event != "ears" or last > first

    def weeks(self, event: EventId) -> Array:
        """The week (DRAWS,) in which it shows; at most 0 where it does already, NEVER where it does not come."""
        if event == "shape":
            return self._shape_lost()
        if event == "eyes":
            return self._falls()
        if event == "sight":
            return self._in_sight()
        if event == "ears":
            return np.asarray((BLURRED_MM - CLIPPED_MM) / self.rates[:, ZONES.index("cheek")])
        zones, long = {
            "corners": (("inner_corner",), IN_SIGHT_MM),
            "beard": (("chin", "muzzle_side"), DRIPS_MM),
            "mats": (("cheek", "crown"), MATS_AT_MM[self.outline.ground.coat_type]),
        }[event]
        return np.asarray(np.min([self._long(zone, long) for zone in zones], axis=0))

    def _long(self, zone: str, length_mm: float) -> Array:
        """The week (DRAWS,) in which a zone's hair, but for its longest places, is so long."""
        at = ZONES.index(zone)
        if length_mm >= self.growth.stops_at_mm[at]:
            return np.full(DRAWS, NEVER)
        here = self.outline.ground.skin.in_zone(zone)
        left = float(np.percentile(self.length_mm[here], LONG)) if len(here) else 0.0
        return np.asarray((length_mm - left - self.off_mm[:, at]) / self.rates[:, at])

    def _falls(self) -> Array:
        """The week (DRAWS,) in which the fringe, the visor's front half, falls over the eyes."""
        skin, at = self.outline.ground.skin, ZONES.index("visor")
        here = skin.in_zone("visor")
        ahead = skin.vertices_mm[here, 1]
        left = float(np.percentile(self.length_mm[here[ahead >= np.median(ahead)]], FRINGE))
        return np.asarray((EYE_FALL_MM - left - self.off_mm[:, at]) / self.rates[:, at])

    def _in_sight(self) -> Array:
        """The week (DRAWS,) in which hair of the visor has grown into a line of sight."""
        skin, stand = self.outline.ground.skin, self.outline.ground.coat.stand
        here = skin.in_zone("visor")
        sight = outside(union(HARD, *lines_of_sight(self.outline.ground.face)))
        reach = exit_distance(sight, skin.vertices_mm[here], skin.outward[here])
        need = length_of(reach, stand[here]) - self.length_mm[here]
        known = need[np.isfinite(need)]
        if not len(known):
            return np.full(DRAWS, NEVER)
        at = ZONES.index("visor")
        return np.asarray((np.percentile(known, 100 - LONG) - self.off_mm[:, at]) / self.rates[:, at])

    def _shape_lost(self) -> Array:
        """The week (DRAWS,) in which the family's own description no longer holds."""
        if self._lost(0.0):
            return np.zeros(DRAWS)
        first = next((w for w in _LOOKED_AT if self._lost(w)), None)
        if first is None:
            return np.full(DRAWS, NEVER)
        held = max((w for w in (0.0, *_LOOKED_AT) if w < first), default=0.0)
        for _ in range(LOST_IN_STEPS):
            middle = (held + first) / 2
            held, first = (held, middle) if self._lost(middle) else (middle, first)
        pace = np.median(self.rates, axis=1) / self.growth.usual_mm_a_week
        return np.asarray((held + first) / 2 * self.shape_off / pace)

    def _lost(self, weeks: float) -> bool:
        return bool(broken_on(self.outline, self._grown(weeks)))

    def _grown(self, weeks: float) -> Array:
        return grown(self.outline, weeks, self.growth)[0]


_LOOKED_AT: Final = (1.0, 2.0, 4.0, 6.0, 9.0, 13.0, 18.0, float(MOST_WEEKS))


def _event(key: EventId, weeks: Array, minded: bool) -> Event:
    low, middle, high = np.percentile(weeks, [10, 50, 90])
    return Event(
        key,
        WORDS[key],
        float(middle),
        max(float(low), 0.0),
        min(float(high), NEVER),
        minded,
        _by_week(weeks),
    )


def _by_week(weeks: Array) -> tuple[float, ...]:
    return tuple(float((weeks <= week).mean()) for week in range(MOST_WEEKS + 1))


def _weeks_until(chance: Sequence[float]) -> int:
    """The latest week before which it is unlikely that something minded shows."""
    late = [week for week, share in enumerate(chance) if share < MOST_CHANCE]
    return max(LEAST_WEEKS, late[-1] if late else 0)


def _words(events: Sequence[Event], until: int) -> str:
    first = next((e for e in events if e.minded), None)
    if first is None:
        return "Nothing that is minded shows within half a year."
    low, high = round(first.low), round(first.high)
    when = f"{low} to {high} weeks" if low != high else f"about {low} weeks"
    return f"First {first.words}, in {when}. Come back in {until} weeks, before it shows."
