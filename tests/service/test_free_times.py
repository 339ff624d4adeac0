"""Free times in the book: never over one that is taken, never when the salon is shut."""

from __future__ import annotations

from datetime import date, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dapwick.core.basics.errors import BadInput
from dapwick.records.store import SalonStore
from dapwick.service.dogs.about import add_dog
from dapwick.service.visits.bookings import Booking, book
from dapwick.service.visits.free_times import Hours, free_near, free_on, hours_of, set_hours

MONDAY = date(2026, 3, 2)


def booked(starts: str, minutes: int) -> Booking:
    return Booking(1, 1, "Squall", MONDAY.isoformat(), starts, "", minutes, "", None, "x")


def span(starts: str, minutes: int) -> tuple[int, int]:
    hours, mins = starts.split(":")
    return int(hours) * 60 + int(mins), int(hours) * 60 + int(mins) + minutes


CLOCKS = st.builds(lambda h, m: f"{h:02d}:{m:02d}", st.integers(7, 18), st.sampled_from([0, 5, 15, 30, 45]))


@given(
    st.lists(st.tuples(CLOCKS, st.integers(10, 180)), max_size=12),
    st.integers(15, 150),
    st.integers(1, 3),
)
def test_no_free_time_overlaps_more_heads_than_there_are_tables(
    taken: list[tuple[str, int]], minutes: int, tables: int
) -> None:
    hours = Hours(tables=tables)
    for free in free_on(MONDAY, [booked(*one) for one in taken], minutes, hours):
        start, end = span(free.starts, minutes)
        assert span(hours.opens, 0)[0] <= start
        assert end <= span(hours.closes, 0)[0]
        for at in range(start, end):
            assert sum(a <= at < b for a, b in (span(*one) for one in taken)) < tables


def test_a_shut_day_has_none() -> None:
    assert free_on(MONDAY + timedelta(days=6), [], 60, Hours()) == []
    assert free_on(MONDAY, [], 60, Hours(closed=(0,))) == []


def test_the_nearest_come_first_and_none_lies_in_the_past(store: SalonStore) -> None:
    dog = add_dog(store, "Squall", "standing")
    soon = date.today() + timedelta(days=2)
    free = free_near(store, soon.isoformat(), 60)
    assert all(one.day > date.today().isoformat() for one in free)
    apart = [abs((date.fromisoformat(one.day) - soon).days) for one in free]
    assert apart == sorted(apart)
    book(store, dog.id, free[0].day, free[0].starts, 60)
    assert free[0] not in free_near(store, soon.isoformat(), 60)


def test_hours_are_kept_and_what_cannot_be_is_refused(store: SalonStore) -> None:
    assert hours_of(store) == Hours()
    set_hours(store, Hours("08:00", "12:30", (2, 6), 2))
    assert hours_of(store) == Hours("08:00", "12:30", (2, 6), 2)
    for wrong in (("18:00", "09:00"), ("9", "18:00")):
        with pytest.raises(BadInput):
            Hours(*wrong)
    with pytest.raises(BadInput):
        Hours(closed=tuple(range(7)))
    with pytest.raises(BadInput):
        Hours(tables=0)
