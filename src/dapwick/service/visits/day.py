"""A day in the salon: dogs in their order, how long each will take, what is known and what is old, last time's note."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, date, datetime, timedelta
from typing import Final

from sqlalchemy.orm import Session

from dapwick.core.cut.visit_minutes import Expected, expected_minutes
from dapwick.records import queries
from dapwick.records.models import BookingRow, DogRow, VisitRow
from dapwick.records.store import SalonStore
from dapwick.service.after.factors import factors_in
from dapwick.service.dogs.cards import STAGES, local_day, stages_of, stale_of
from dapwick.service.visits.bookings import Booking, booking_of, checked_day, today

COAT_OLD_WEEKS: Final = 6
LEFT_OPEN_DAYS: Final = 14
MOST_LEFT_OPEN: Final = 6
SALON_CUTS: Final = 60
"""Latest cuts that tell how long a head takes here."""


@dataclass(frozen=True)
class Known:
    """Something known of a dog; fresh: it still holds."""

    words: str
    fresh: bool


@dataclass(frozen=True)
class Due:
    """One dog of the day. booking: None for a visit left open on another day. stages of its visit, empty before it
    has begun; next: the stage where it goes on, "" when all is done; ended: it has gone home."""

    booking: Booking | None
    dog_id: int
    name: str
    breed: str
    coat: str
    picture: str | None
    begun: bool
    ended: bool
    stages: dict[str, str]
    next: str
    expected: Expected
    known: tuple[Known, ...]
    note: str
    left_open: str | None = None


def day_of(store: SalonStore, day: str | None = None) -> tuple[str, list[Due]]:
    """The day's book; on today itself also what was left open on the days before."""
    chosen = checked_day(day) if day else today()
    with store.reading() as session:
        booked = queries.bookings_on(session, chosen)
        open_ = _left_open(session, booked) if chosen == today() else []
        dogs = [b.dog for b in booked] + [v.dog for v in open_]
        facts = _Facts(session, dogs)
        found = [facts.due(b.dog, b) for b in booked]
        return chosen, found + [facts.due(v.dog, None, v) for v in open_]


def _left_open(session: Session, booked: Sequence[BookingRow]) -> list[VisitRow]:
    here = {b.dog_id for b in booked}
    since = datetime.now(UTC).replace(tzinfo=None) - timedelta(days=LEFT_OPEN_DAYS)
    rows = queries.left_open(session, since, MOST_LEFT_OPEN + len(here))
    return [v for v in rows if v.dog_id not in here][:MOST_LEFT_OPEN]


class _Facts:
    """What is asked once for all dogs of a day."""

    def __init__(self, session: Session, dogs: Sequence[DogRow]) -> None:
        ids = list({dog.id for dog in dogs})
        self.visits = queries.latest_visits_of(session, ids)
        self.pictures = queries.head_pictures(session, ids)
        self.coats = queries.coats_seen(session, ids)
        self.measured = queries.visits_with_bone(session, ids)
        self.count = queries.visit_counts(session, ids)
        self.minutes = queries.cut_minutes_of(session, ids)
        self.salon = queries.latest_cut_minutes(session, SALON_CUTS)
        self.wider = factors_in(session).get("minutes", 1.0)

    def due(self, dog: DogRow, booked: BookingRow | None, left: VisitRow | None = None) -> Due:
        visit = self.visits[dog.id]
        begun = left is not None or (booked is not None and booked.visit_id == visit.id)
        known = any(m < visit.id for m in self.measured.get(dog.id, []))
        # Of dogs that have gone home or wait from other days nobody asks what changed since.
        stale = stale_of(visit) if begun and left is None and visit.ended is None else {}
        stages = stages_of(visit, queries.photos_of(visit), stale, known) if begun else {}
        return Due(
            booking_of(booked) if booked else None,
            dog.id,
            dog.name,
            dog.breed,
            dog.coat,
            self.pictures.get(dog.id),
            begun,
            begun and visit.ended is not None,
            stages,
            next((s for s in STAGES if stages.get(s, "needs_you") != "done"), ""),
            expected_minutes(self.minutes.get(dog.id, []), self.salon, dog.traits).wider(self.wider),
            self._known(dog, visit),
            (visit.note if begun else visit.next_note or visit.note),
            local_day(visit.created).isoformat() if left else None,
        )

    def _known(self, dog: DogRow, visit: VisitRow) -> tuple[Known, ...]:
        count, measured = self.count.get(dog.id, 0), len(self.measured.get(dog.id, []))
        found = [Known("first visit" if count <= 1 else f"{_ordinal(count)} visit", True)] if visit else []
        if measured:
            found.append(Known("head measured" + (f" {measured}×" if measured > 1 else ""), True))
        elif count > 1:
            found.append(Known("head not measured yet", False))
        if "mats" in dog.traits:
            found.append(Known("mats: longer, and a surcharge to agree on first", False))
        if dog.id in self.coats:
            found.append(_coat(local_day(self.coats[dog.id])))
        return tuple(found)


def _coat(seen: date) -> Known:
    weeks = (date.today() - seen).days // 7
    if weeks <= 0:
        return Known("coat seen this week", True)
    words = f"coat seen {weeks} {'week' if weeks == 1 else 'weeks'} ago"
    return Known(words, weeks <= COAT_OLD_WEEKS)


def _ordinal(n: int) -> str:
    ending = "th" if 10 <= n % 100 <= 20 else {1: "st", 2: "nd", 3: "rd"}.get(n % 10, "th")
    return f"{n}{ending}"
