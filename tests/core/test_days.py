"""Days and times as a salon says them."""

from __future__ import annotations

from datetime import date, time

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dapwick.core.basics.days import DayStyle, day_words, time_words

STYLES: tuple[DayStyle, ...] = ("day_first", "month_first")


def test_a_day_is_said_with_its_month_spelled_out() -> None:
    day = date(2026, 11, 8)
    assert day_words(day, "day_first") == "8 November"
    assert day_words(day, "month_first") == "November 8"
    assert day_words(day, "day_first", year=True) == "8 November 2026"
    assert day_words(day, "month_first", year=True) == "November 8, 2026"


@pytest.mark.parametrize(
    ("at", "said"),
    [(time(0, 5), "12:05 am"), (time(9, 0), "9:00 am"), (time(12, 0), "12:00 pm"), (time(14, 30), "2:30 pm")],
)
def test_twice_twelve_hours(at: time, said: str) -> None:
    assert time_words(at, "month_first") == said
    assert time_words(at, "day_first") == f"{at:%H:%M}"


@given(st.dates(), st.dates(), st.times(), st.times())
def test_no_two_days_or_minutes_are_said_alike(one: date, other: date, early: time, late: time) -> None:
    for style in STYLES:
        assert (day_words(one, style, year=True) == day_words(other, style, year=True)) == (one == other)
        same = (early.hour, early.minute) == (late.hour, late.minute)
        assert (time_words(early, style) == time_words(late, style)) == same
