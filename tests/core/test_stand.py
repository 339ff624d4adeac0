"""Depth and length of hair, and back."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from dapwick.core.head.stand import LEAST, SHORT_STANDS, STAND_FACTOR, depth_of, length_of, stand_from

FACTORS = st.floats(LEAST, SHORT_STANDS)


@given(st.floats(0, 180), FACTORS)
def test_depth_and_length_close(length_mm: float, stand: float) -> None:
    depth = depth_of(np.array(length_mm), np.array(stand))
    assert float(length_of(depth, np.array(stand))) == pytest.approx(length_mm, abs=0.05)


@given(st.floats(0, 150), st.floats(0.1, 20), FACTORS)
def test_longer_hair_never_stands_less_deep(length_mm: float, more_mm: float, stand: float) -> None:
    both = depth_of(np.array([length_mm, length_mm + more_mm]), np.array(stand))
    assert both[1] > both[0]


@given(st.floats(0.1, 200), FACTORS)
def test_no_hair_stands_deeper_than_it_is_long(length_mm: float, stand: float) -> None:
    assert depth_of(np.array(length_mm), np.array(stand)) <= length_mm


def test_short_hair_stands_and_long_hair_falls_as_its_coat_does() -> None:
    for stand in STAND_FACTOR.values():
        short, long = depth_of(np.array([1.0, 150.0]), np.array(stand)) / [1.0, 150.0]
        assert short == pytest.approx(SHORT_STANDS, abs=0.05)
        assert long == pytest.approx(stand, abs=0.01)


@given(st.floats(8, 120), FACTORS)
def test_a_comb_reading_of_depth_and_length_gives_the_coats_own_factor(
    length_mm: float, stand: float
) -> None:
    depth = float(depth_of(np.array(length_mm), np.array(stand)))
    assert stand_from(depth, length_mm) == pytest.approx(stand, abs=0.02)
