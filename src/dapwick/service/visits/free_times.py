"""Times in the book that are still free around a day."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Any, Final

from dapwick.core.basics.errors import BadInput
from dapwick.records.store import SalonStore
from dapwick.service.salon.settings import keep_setting, kept_setting
from dapwick.service.visits.bookings import CLOCK, Booking, bookings, today

HOURS: Final = "hours"
STEP_MIN: Final = 15
AROUND_DAYS: Final = 6
MOST_TOLD: Final = 6
A_DAY: Final = 2
"""So many times of one day are offered."""
DAYS: Final = ("Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday")


@dataclass(frozen=True)
class Hours:
    """When the salon works: HH:MM, and the days (0 Monday to 6 Sunday) on which it does not; tables: heads at once."""

    opens: str = "09:00"
    closes: str = "18:00"
    closed: tuple[int, ...] = (6,)
    tables: int = 1

    def __post_init__(self) -> None:
        for clock in (self.opens, self.closes):
            if not CLOCK.fullmatch(clock):
                raise BadInput("opening hours", expected="HH:MM", got=clock[:20] or "nothing", where="hours")
        if self.opens >= self.closes:
            raise BadInput(
                "opening hours", expected=f"closing after {self.opens}", got=self.closes, where="hours"
            )
        if not set(self.closed) < set(range(len(DAYS))):
            raise BadInput(
                "closed days",
                expected="0 (Monday) to 6 (Sunday), not all of them",
                got=str(self.closed),
                where="hours",
            )
        if not 1 <= self.tables <= 20:
            raise BadInput("tables", expected="1 to 20", got=str(self.tables), where="hours")


@dataclass(frozen=True)
class FreeTime:
    """day ISO, starts HH:MM."""

    day: str
    starts: str


def hours_of(store: SalonStore) -> Hours:
    kept: dict[str, Any] = kept_setting(store, HOURS, {})
    usual = Hours()
    return Hours(
        kept.get("opens", usual.opens),
        kept.get("closes", usual.closes),
        tuple(kept.get("closed", usual.closed)),
        kept.get("tables", usual.tables),
    )


def set_hours(store: SalonStore, hours: Hours) -> Hours:
    keep_setting(
        store,
        HOURS,
        {
            "opens": hours.opens,
            "closes": hours.closes,
            "closed": list(hours.closed),
            "tables": hours.tables,
        },
    )
    return hours


def free_near(store: SalonStore, day: str, minutes: int) -> list[FreeTime]:
    """The nearest free times to a day, today at the earliest; those on the day and before it first, since later the
    hair is longer."""
    wanted = date.fromisoformat(day)
    days = [wanted + timedelta(days=i) for i in range(-AROUND_DAYS, AROUND_DAYS + 1)]
    days = [d for d in days if d.isoformat() > today()]
    if not days:
        return []
    taken = bookings(store, days[0].isoformat(), days[-1].isoformat())
    hours, found = hours_of(store), []
    for one in sorted(days, key=lambda d: (abs((d - wanted).days), d > wanted)):
        found += free_on(one, [b for b in taken if b.day == one.isoformat()], minutes, hours)[:A_DAY]
    return found[:MOST_TOLD]


def free_on(day: date, taken: Sequence[Booking], minutes: int, hours: Hours) -> list[FreeTime]:
    """Free times of one day, from the morning on: fewer than all tables are taken while the head is done."""
    if day.weekday() in hours.closed:
        return []
    busy = [(_min(b.starts), _min(b.starts) + b.minutes) for b in taken if b.starts]
    last, at, found = _min(hours.closes) - minutes, _min(hours.opens), []
    while at <= last:
        inside = [(a, b) for a, b in busy if a < at + minutes and b > at]
        if _most_at_once(inside) < hours.tables:
            found.append(FreeTime(day.isoformat(), f"{at // 60:02d}:{at % 60:02d}"))
            at += minutes
        else:
            at += STEP_MIN
    return found


def _most_at_once(spans: Sequence[tuple[int, int]]) -> int:
    return max((sum(a <= start < b for a, b in spans) for start, _ in spans), default=0)


def _min(clock: str) -> int:
    hours, minutes = clock.split(":")
    return int(hours) * 60 + int(minutes)
