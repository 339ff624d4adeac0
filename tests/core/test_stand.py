"""Depth and length of hair, and back."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from dapwick.core.head.coat import CoatProbe, stand_of
from dapwick.core.head.skin import skin_of
from dapwick.core.head.stand import (
    LEAST,
    SHORT_STANDS,
    STAND_FACTOR,
    STAND_SIGMA,
    depth_of,
    length_of,
    ratio_sigma,
    stand_from,
)
from dapwick.core.solve.joint import HeadSolution, solve_head
from simheads import random_head

FACTORS = st.floats(LEAST, SHORT_STANDS)


def solved() -> HeadSolution:
    head = solve_head(random_head(1).given)
    assert isinstance(head, HeadSolution)
    return head


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


def test_one_ratio_of_two_rough_readings_draws_the_factor_but_is_not_it() -> None:
    """The more a comb and a drawn lock say the same, the nearer and the surer; other zones stay the coat type's."""
    skin = skin_of(solved())
    probes = [CoatProbe("cheek", None, 30.0, 60.0)]
    usual, doubt = stand_of(skin, "standing", [])
    once, doubt_once = stand_of(skin, "standing", probes)
    often, doubt_often = stand_of(skin, "standing", probes * 6)
    cheek, crown = skin.in_zone("cheek")[0], skin.in_zone("crown")[0]
    read = stand_from(30.0, 60.0)
    assert usual[cheek] > once[cheek] > often[cheek] > read
    assert STAND_SIGMA == doubt[cheek] > doubt_once[cheek] > doubt_often[cheek] > 0.01
    assert once[crown] == usual[crown]
    assert doubt_once[crown] == STAND_SIGMA


def test_shorter_locks_tell_less() -> None:
    assert ratio_sigma(8.0, 10.0) > ratio_sigma(40.0, 50.0)
