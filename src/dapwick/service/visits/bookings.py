"""The book: times kept free for dogs, begun as visits, told to a calendar."""

from __future__ import annotations

import re
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from typing import Final

from sqlalchemy.orm import Session

from dapwick.core.basics.errors import BadInput
from dapwick.records import queries
from dapwick.records.models import BookingRow, DogRow, VisitRow, now
from dapwick.records.store import SalonStore

USUAL_MINUTES: Final = 90
LEAST_MINUTES, MOST_MINUTES = 10, 600
LONGEST_WORDS: Final = 200
FIRST_YEAR, LAST_YEAR = 2000, 2100
CLOCK: Final = re.compile(r"([01]\d|2[0-3]):[0-5]\d")


@dataclass(frozen=True)
class Booking:
    """One time in the book; starts is empty for a dog that walks in."""

    id: int
    dog_id: int
    dog: str
    day: str
    starts: str
    ends: str
    minutes: int
    words: str
    visit_id: int | None
    uid: str


def today() -> str:
    """The salon's day, ISO."""
    return date.today().isoformat()


def checked_day(day: str) -> str:
    try:
        found = date.fromisoformat(day)
    except ValueError as error:
        raise BadInput(
            "day", expected="a day, YYYY-MM-DD", got=day[:20] or "nothing", where="booking"
        ) from error
    if not FIRST_YEAR <= found.year <= LAST_YEAR:
        raise BadInput("day", expected=f"{FIRST_YEAR} to {LAST_YEAR}", got=day[:20], where="booking")
    return found.isoformat()


def book(
    store: SalonStore, dog_id: int, day: str, starts: str = "", minutes: int = USUAL_MINUTES, words: str = ""
) -> Booking:
    """Keep a time free for a dog. Asked twice, it is one time: a tablet asks again whose answer was lost."""
    _check(starts, minutes, words)
    day = checked_day(day)
    with store.session() as session:
        dog = queries.dog(session, dog_id)
        same = [b for b in queries.bookings_of(session, dog_id, day) if (b.day, b.starts) == (day, starts)]
        row = same[0] if same else BookingRow(dog=dog, day=day, starts=starts)
        row.minutes, row.words = minutes, words.strip()
        session.add(row)
        session.flush()
        return booking_of(row)


def move_booking(
    store: SalonStore, booking_id: int, day: str, starts: str, minutes: int, words: str
) -> Booking:
    _check(starts, minutes, words)
    with store.session() as session:
        row = queries.booking(session, booking_id)
        row.day, row.starts, row.minutes, row.words = checked_day(day), starts, minutes, words.strip()
        return booking_of(row)


def cancel_booking(store: SalonStore, booking_id: int) -> None:
    """Soft: `restore_booking` brings it back."""
    with store.session() as session:
        queries.booking(session, booking_id).removed = now()


def restore_booking(store: SalonStore, booking_id: int) -> Booking:
    with store.session() as session:
        row = queries.booking(session, booking_id)
        row.removed = None
        return booking_of(row)


def bookings(store: SalonStore, first: str, last: str) -> list[Booking]:
    """All between two days, both counted."""
    with store.reading() as session:
        return [booking_of(row) for row in queries.bookings_between(session, first, last)]


def booked_ahead(store: SalonStore, dog_id: int) -> list[Booking]:
    """A dog's times from today on that have not begun."""
    with store.reading() as session:
        queries.dog(session, dog_id)
        return [booking_of(row) for row in queries.bookings_of(session, dog_id, today())]


def walk_in(dog: DogRow) -> BookingRow:
    """A dog that is here now, for its open visit."""
    return BookingRow(
        dog=dog, day=today(), starts="", minutes=USUAL_MINUTES, words="", visit_id=dog.visits[-1].id
    )


def tie_to_book(session: Session, visit: VisitRow) -> None:
    """A visit that begins takes the dog's first time of today that has not begun; where there is none, it walked in."""
    due = [b for b in queries.bookings_of(session, visit.dog_id, today()) if b.day == today()]
    if due:
        due[0].visit_id = visit.id
    else:
        session.add(walk_in(visit.dog))


def booking_of(row: BookingRow) -> Booking:
    return Booking(
        row.id,
        row.dog_id,
        row.dog.name,
        row.day,
        row.starts,
        ends_of(row.starts, row.minutes),
        row.minutes,
        row.words,
        row.visit_id,
        row.uid,
    )


def ends_of(starts: str, minutes: int) -> str:
    """HH:MM at which a window ends; empty where it has no beginning."""
    if not starts:
        return ""
    return (datetime.strptime(starts, "%H:%M") + timedelta(minutes=minutes)).strftime("%H:%M")


def _check(starts: str, minutes: int, words: str) -> None:
    if starts and not CLOCK.fullmatch(starts):
        raise BadInput("time", expected="HH:MM, 00:00 to 23:59, or nothing", got=starts[:20], where="booking")
    if not LEAST_MINUTES <= minutes <= MOST_MINUTES:
        raise BadInput(
            "minutes kept free",
            expected=f"{LEAST_MINUTES} to {MOST_MINUTES}",
            got=str(minutes),
            where="booking",
        )
    if len(words) > LONGEST_WORDS:
        raise BadInput(
            "words too long",
            expected=f"at most {LONGEST_WORDS} letters",
            got=str(len(words)),
            where="booking",
        )
