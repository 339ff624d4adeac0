"""What shows first as today's head grows out, with dates, and the next visit that follows from it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date, time, timedelta
from typing import Final

import numpy as np
from sqlalchemy.orm import object_session

from dapwick.core.after.coming import Coming, Event, EventId, coming, left_as
from dapwick.core.after.lasting import Lasting, cut_to_last
from dapwick.core.basics.arrays import Array
from dapwick.core.basics.days import DayStyle, day_words, time_words
from dapwick.core.cut.visit_minutes import NORMAL_80
from dapwick.core.head.growth import MOST_WEEKS, WEEKS_A_MONTH, Growth
from dapwick.core.head.stand import depth_of, length_of
from dapwick.core.head.zones import ZONES, Side
from dapwick.core.outlines.fit import Outline
from dapwick.core.outlines.wishes import Wishes
from dapwick.records import after_queries, queries
from dapwick.records.models import VisitRow
from dapwick.records.store import SalonStore
from dapwick.service.after.factors import factors_in
from dapwick.service.after.growing import SIDES, growth_of, off_at
from dapwick.service.after.next_time import ToTell, to_tell
from dapwick.service.concurrency.budget import heavy
from dapwick.service.dogs.cards import local_day
from dapwick.service.plans.planner import Asked, Planner
from dapwick.service.salon.day_style import day_style
from dapwick.service.visits.bookings import USUAL_MINUTES, Booking, booked_ahead
from dapwick.service.visits.free_times import FreeTime, free_near

WEEKS_TRIED: Final = (4, 6, 8, 10)
"""Weeks that an outline may be cut for."""
TOLD_ZONES: Final = ("crown", "cheek", "jaw", "visor", "muzzle_side")


@dataclass(frozen=True)
class Dated:
    """An event with its days, ISO; low and high of four dogs in five."""

    id: EventId
    words: str
    weeks: float
    low: float
    high: float
    day: str
    low_day: str
    high_day: str
    minded: bool


@dataclass(frozen=True)
class Rate:
    """How fast a zone grows, mm of hair a month, low..high the 80 % interval."""

    zone: str
    mm_a_month: float
    low: float
    high: float


@dataclass(frozen=True)
class NextTime:
    """Where a visit ends. reason: what is missing while there is no forecast; from_day: the day of the cut; weeks
    proposed and asked for by the owner; card: what the owner is told."""

    reason: str
    from_day: str
    parts: tuple[ToTell, ...]
    events: tuple[Dated, ...] = ()
    chance: tuple[float, ...] = ()
    weeks: int | None = None
    asked_weeks: int | None = None
    day: str | None = None
    words: str = ""
    free: tuple[FreeTime, ...] = ()
    minutes: int = USUAL_MINUTES
    booked: tuple[Booking, ...] = ()
    rates: tuple[Rate, ...] = ()
    growth_visits: int = 0
    disagreeing: tuple[str, ...] = ()
    card: tuple[str, ...] = ()
    ended: bool = False


class Forecasting:
    """Forecasts of open visits."""

    def __init__(self, store: SalonStore, planner: Planner) -> None:
        self.store, self.planner = store, planner

    def now(self, dog_id: int) -> NextTime:
        """What comes of the outline that was kept, as it came out."""
        with self.store.reading() as session:
            visit = queries.visit_today(session, dog_id)
            day, parts, ended = local_day(visit.created), to_tell(visit), visit.ended is not None
            asked_weeks, name, minutes = visit.wishes.weeks_between, visit.dog.name, _minutes(visit)
            own = growth_of(visit.dog, visit, factors_in(session).get("growth", 1.0))
            has = bool(visit.outlines)
        booked = tuple(b for b in booked_ahead(self.store, dog_id) if b.day > day.isoformat())
        if not has:
            reason = "No outline was kept, so nothing tells how long it lasts."
            return NextTime(
                reason,
                day.isoformat(),
                parts,
                asked_weeks=asked_weeks,
                minutes=minutes,
                booked=booked,
                ended=ended,
            )
        told = self._coming(dog_id)
        weeks = min(told.weeks, asked_weeks) if asked_weeks else told.weeks
        on = day + timedelta(weeks=weeks)
        events = tuple(_dated(e, day) for e in told.events)
        return NextTime(
            "", day.isoformat(), parts, events, told.chance, weeks, asked_weeks, on.isoformat(),
            _words(told, asked_weeks), tuple(free_near(self.store, on.isoformat(), minutes)), minutes, booked,
            _rates(own.growth), own.growth.visits, tuple(d.words for d in own.disagreeing),
            _card(name, events, booked, day_style(self.store)), ended,
        )  # fmt: skip

    def coming(self, dog_id: int, asked: Asked) -> Coming:
        """What comes of an outline at some setting, cut as planned."""
        head, outline = self.planner.drawn(dog_id, asked)
        return _told(outline, self._growth(dog_id), head.wishes)

    @heavy
    def lasting(self, dog_id: int, asked: Asked) -> tuple[Lasting, ...]:
        """What has to be shorter for it to last longer, for some weeks each."""
        growth, wishes = self._growth(dog_id), self.planner.head(dog_id).wishes

        def draw(params: Mapping[str, float]) -> Outline:
            return self.planner.drawn(dog_id, Asked(asked.family, params, asked.schools))[1]

        return tuple(cut_to_last(draw, asked.params, weeks, growth, wishes) for weeks in WEEKS_TRIED)

    def _growth(self, dog_id: int) -> Growth:
        with self.store.reading() as session:
            visit = queries.visit_today(session, dog_id)
            return growth_of(visit.dog, visit, factors_in(session).get("growth", 1.0)).growth

    def _coming(self, dog_id: int) -> Coming:
        with self.store.reading() as session:
            visit = queries.visit_today(session, dog_id)
            saved = visit.outlines[-1]
            asked = Asked(saved.family, saved.params, saved.schools)
            off = {(z, s): off_at(visit, z, s) for z in ZONES for s in SIDES}
        head, outline = self.planner.drawn(dog_id, asked)
        known = {place: mm for place, mm in off.items() if mm is not None}
        left = left_as(outline, _depth_off(outline, known))
        return _told(left, self._growth(dog_id), head.wishes, checked=bool(known))


@heavy
def _told(outline: Outline, growth: Growth, wishes: Wishes, checked: bool = False) -> Coming:
    return coming(outline, growth, wishes, checked)


def _depth_off(outline: Outline, off_mm: Mapping[tuple[str, Side], float]) -> Array:
    """How far (V,) the depth lies off the plan where hair is so much longer by place."""
    stand = outline.ground.coat.stand
    length = length_of(outline.leave_mm, stand)
    for (zone, side), mm in off_mm.items():
        at = outline.ground.skin.in_zone(zone, side)
        length[at] = np.maximum(length[at] + mm, 0.0)
    return np.asarray(depth_of(length, stand) - outline.leave_mm)


def _minutes(visit: VisitRow) -> int:
    """As long as was kept free for it this time."""
    session = object_session(visit)
    kept = after_queries.booking_of_visit(session, visit.id) if session else None
    return kept.minutes if kept else USUAL_MINUTES


def _dated(event: Event, day: date) -> Dated:
    on, first, last = (
        (day + timedelta(days=round(7 * min(weeks, 2 * MOST_WEEKS)))).isoformat()
        for weeks in (event.weeks, event.low, event.high)
    )
    return Dated(event.id, event.words, event.weeks, event.low, event.high, on, first, last, event.minded)


def _rates(growth: Growth) -> tuple[Rate, ...]:
    return tuple(
        Rate(zone, *(growth.rate(zone, sigmas) * WEEKS_A_MONTH for sigmas in (0.0, -NORMAL_80, NORMAL_80)))
        for zone in TOLD_ZONES
    )


def _words(told: Coming, asked_weeks: int | None) -> str:
    if asked_weeks is None or asked_weeks == told.weeks:
        return told.words
    if asked_weeks < told.weeks:
        return f"{told.words} Asked for: every {asked_weeks} weeks."
    return f"{told.words} Asked for: every {asked_weeks} weeks, which this head does not last."


def _card(
    name: str, events: tuple[Dated, ...], booked: tuple[Booking, ...], style: DayStyle
) -> tuple[str, ...]:
    """What the owner takes home, in plain words, in the order of its days."""

    def said(day: str) -> str:
        return day_words(date.fromisoformat(day), style)

    lines = []
    first = next((e for e in events if e.minded and e.id != "corners"), None)
    if first:
        lines.append((first.day, f"About {said(first.day)} {OWNER_WORDS[first.id]}."))
    for corners in (e for e in events if e.id == "corners"):
        words = f"bring {name} for five minutes. Please do not cut there yourself."
        lines.append((corners.day, f"About {said(corners.day)} {OWNER_WORDS['corners']}: {words}"))
    for one in booked[:1]:
        at = f" at {time_words(time.fromisoformat(one.starts), style)}" if one.starts else ""
        lines.append((one.day, f"{name} is booked for {said(one.day)}{at}."))
    return tuple(line for _, line in sorted(lines))


OWNER_WORDS: Final = {
    "eyes": "hair will fall into the eyes",
    "sight": "hair will stand in front of the eyes",
    "corners": "hair at the inner corners will show",
    "beard": "the beard will be long enough to drip",
    "ears": "the ears will look overgrown",
    "shape": "the shape will begin to go",
    "mats": "the coat is long enough to mat: comb it through every other day",
}
