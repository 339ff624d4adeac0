"""Weeks and millimetres: whoever waits has what was said, and not a week less."""

from __future__ import annotations

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dapwick.core.head.growth import (
    MM_A_MONTH,
    RATE_SPREAD,
    growth_mm,
    weeks_range,
    weeks_to_grow,
)

COATS = sorted(MM_A_MONTH)
lengths = st.floats(0.1, 80.0)


@pytest.mark.parametrize("coat", COATS)
def test_a_year_grows_twelve_months(coat: str) -> None:
    assert growth_mm(365.25 / 7, coat) == pytest.approx(12 * MM_A_MONTH[coat])


@given(lengths, st.sampled_from(COATS))
def test_waiting_is_long_enough_and_a_week_less_is_not(length_mm: float, coat: str) -> None:
    weeks = weeks_to_grow(length_mm, coat)
    assert growth_mm(weeks, coat) >= length_mm - 1e-9
    assert growth_mm(weeks - 1, coat) < length_mm


@given(lengths, st.sampled_from(COATS))
def test_a_fast_grower_waits_less_and_a_slow_one_longer(length_mm: float, coat: str) -> None:
    fast, slow = weeks_range(length_mm, coat)
    assert fast <= weeks_to_grow(length_mm, coat) <= slow
    a_week = growth_mm(1.0, coat)
    assert fast == math.ceil(length_mm / (a_week * (1 + RATE_SPREAD)))
    assert slow == math.ceil(length_mm / (a_week * (1 - RATE_SPREAD)))


@pytest.mark.parametrize("missing_mm", [0.0, -3.0])
def test_what_is_there_needs_no_weeks(missing_mm: float) -> None:
    assert weeks_to_grow(missing_mm, "curl") == 0
    assert weeks_range(missing_mm, "curl") == (0, 0)


def test_harsh_coats_grow_slowest_and_fine_ones_fastest() -> None:
    by_speed = sorted(COATS, key=lambda coat: growth_mm(4.0, coat))
    assert (by_speed[0], by_speed[-1]) == ("harsh", "fine_drop")
