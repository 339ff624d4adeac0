"""Signed distances and the way out along a hair."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from dapwick.core.shapes import above, capsule, exit_distance, superellipsoid, union, without

ORIGIN = np.zeros((1, 3))
directions = st.tuples(*[st.floats(-1, 1)] * 3).filter(lambda v: sum(x * x for x in v) > 0.05)


def unit(v: tuple[float, ...]) -> np.ndarray:
    return np.array([v]) / np.linalg.norm(v)


@given(directions)
def test_way_out_of_a_ball_is_its_radius(v: tuple[float, ...]) -> None:
    ball = superellipsoid((0, 0, 0), (60, 60, 60))
    assert exit_distance(ball, ORIGIN, unit(v))[0] == pytest.approx(60, abs=0.2)


@given(directions)
def test_way_out_of_an_ellipsoid_solves_its_equation(v: tuple[float, ...]) -> None:
    radii = np.array([50.0, 80, 60])
    at = exit_distance(superellipsoid((0, 0, 0), radii), ORIGIN, unit(v)) * unit(v)[0]
    assert np.sum((at / radii) ** 2) == pytest.approx(1.0, abs=0.01)


def test_exponent_runs_from_ball_to_box() -> None:
    corner = unit((1, 1, 1))
    out = [
        exit_distance(superellipsoid((0, 0, 0), (50, 50, 50), n), ORIGIN, corner)[0] for n in (2, 4, 8, 16)
    ]
    assert out == sorted(out)
    assert out[-1] > 0.9 * 50 * 3**0.5


def test_starting_outside_gives_no_length() -> None:
    ball = superellipsoid((0, 0, 0), (10, 10, 10))
    assert exit_distance(ball, np.array([[20.0, 0, 0]]), np.array([[1.0, 0, 0]]))[0] == 0.0


def test_capsule_ends_are_round() -> None:
    rod = capsule((0, 0, 0), (0, 50, 0), 20, 10)
    assert exit_distance(rod, np.array([[0.0, 25, 0]]), np.array([[0.0, 1, 0]]))[0] == pytest.approx(
        35, abs=0.2
    )


@given(directions)
def test_union_holds_both_and_the_rest_of_a_cut_holds_less(v: tuple[float, ...]) -> None:
    a, b = superellipsoid((0, 0, 0), (40, 40, 40)), superellipsoid((0, 30, 0), (30, 30, 30))
    whole = exit_distance(union(10, a, b), ORIGIN, unit(v))[0]
    assert whole >= exit_distance(a, ORIGIN, unit(v))[0] - 0.2
    assert exit_distance(without(2, a, b), np.array([[0, -20.0, 0]]), unit(v))[0] <= 60.5


def test_level_cut_takes_off_the_top() -> None:
    cut = without(0.5, superellipsoid((0, 0, 0), (40, 40, 40)), above(15))
    assert exit_distance(cut, ORIGIN, np.array([[0.0, 0, 1]]))[0] == pytest.approx(15, abs=1.0)
