"""How fast a dog's coat grows: from what one visit left to what the next one found."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace
from itertools import pairwise
from statistics import fmean
from typing import Final

import numpy as np

from dapwick.core.after.check import NORMAL_90
from dapwick.core.after.coming import CHECKED_MM, PLANNED_MM
from dapwick.core.after.growth import GrowthReading, OwnGrowth, own_growth
from dapwick.core.head.growth import PUPPY_WEEKS
from dapwick.core.head.zones import ZONES, Side
from dapwick.documents.results import ZoneDocument
from dapwick.records.models import DogRow, VisitRow
from dapwick.service.visits.head_input import age_weeks_at

DAYS_A_WEEK: Final = 7.0
SIDES: Final[tuple[Side, ...]] = ("left", "right")
LEAST_FOUND_MM: Final = 1.5
"""Lengths are not known better than that, whatever is told of them."""
TELLING: Final = ("long", "short", "true")
"""States of a place after the cut that tell its hair."""
Left = dict[str, tuple[float, float]]
"""Hair left by zone: mm and σ."""


def growth_of(dog: DogRow, until: VisitRow | None = None, wider: float = 1.0) -> OwnGrowth:
    """The dog's own growth from its visits up to one (all of them, where none is named). wider: the salon's own
    factor on how sure it is."""
    visits = [v for v in dog.visits if until is None or v.id <= until.id]
    own = own_growth(dog.coat, readings_over(visits), age_weeks_at(visits[-1]))
    return replace(own, growth=replace(own.growth, covariance=wider**2 * own.growth.covariance))


def readings_over(visits: Sequence[VisitRow]) -> list[GrowthReading]:
    """Lengths left at one visit and found at the next. What a puppy's coat did tells nothing of the grown dog's."""
    grown = (age_weeks_at(visits[-1]) or PUPPY_WEEKS) >= PUPPY_WEEKS
    pairs = list(pairwise(visits))
    kept = [(a, b) for a, b in pairs if not grown or (age_weeks_at(b) or PUPPY_WEEKS) >= PUPPY_WEEKS]
    return [reading for before, after in kept for reading in _between(before, after)]


def left_at(visit: VisitRow) -> Left:
    """Hair a visit left, by zone: as it was planned, or as the check found it; nothing where it was not cut."""
    cut = visit.cuts[-1] if visit.cuts else None
    if not visit.outlines or cut is None or cut.ended is None:
        return {}
    planned = visit.outlines[-1].zones
    zones = {z.zone for z in planned} - _not_cut(visit)
    return {zone: _left(visit, [z for z in planned if z.zone == zone]) for zone in zones if zone in ZONES}


def found_at(visit: VisitRow) -> Left:
    """Hair found at a visit where something showed it, by zone."""
    zones = visit.outlines[-1].zones if visit.outlines else []
    by_zone: dict[str, list[ZoneDocument]] = {}
    for one in zones:
        if one.seen and None not in (one.now_mm, one.now_low, one.now_high) and one.zone in ZONES:
            by_zone.setdefault(one.zone, []).append(one)
    return {zone: _found(sides) for zone, sides in by_zone.items()}


def _between(before: VisitRow, after: VisitRow) -> Iterator[GrowthReading]:
    left, found = left_at(before), found_at(after)
    weeks = (after.created - before.created).days / DAYS_A_WEEK
    for zone in sorted(left.keys() & found.keys()):
        (left_mm, left_sigma), (found_mm, found_sigma) = left[zone], found[zone]
        yield GrowthReading(
            after.id, zone, weeks, left_mm, found_mm, float(np.hypot(left_sigma, found_sigma))
        )


def _left(visit: VisitRow, sides: Sequence[ZoneDocument]) -> tuple[float, float]:
    off = [off_at(visit, one.zone, one.side) for one in sides]
    checked = [o for o in off if o is not None]
    mm = fmean(max(one.leave_mm + (o or 0.0), 0.0) for one, o in zip(sides, off, strict=True))
    return mm, CHECKED_MM if len(checked) == len(sides) else PLANNED_MM


def off_at(visit: VisitRow, zone: str, side: str) -> float | None:
    """Hair (mm) that a place was left longer than planned; None where no check tells. What was taken in is off no
    more."""
    done = visit.touched_up.get(f"{zone}/{side}")
    if done and done.state == "done":
        return 0.0
    places = visit.checked.places if visit.checked else []
    place = next((p for p in places if (p.zone, p.side) == (zone, side) and p.state in TELLING), None)
    return place.off_mm if place else None


def _found(sides: Sequence[ZoneDocument]) -> tuple[float, float]:
    mm = fmean(one.now_mm or 0.0 for one in sides)
    sigma = fmean(((one.now_high or 0.0) - (one.now_low or 0.0)) / (2 * NORMAL_90) for one in sides)
    return mm, max(sigma, LEAST_FOUND_MM)


def _not_cut(visit: VisitRow) -> set[str]:
    """Zones of steps that were passed over, or never reached."""
    cut = visit.cuts[-1]
    log = {row.step: row.state for row in cut.steps}
    over = [step for step in cut.sheet["steps"] if log.get(step["id"], "skipped") == "skipped"]
    return {one["zone"] for step in over for one in step.get("cuts", [])}
