"""Signed distances and the way out along a hair."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from dapwick.core.basics.shapes import (
    above,
    capsule,
    common,
    egg,
    exit_distance,
    half_space,
    outside,
    superellipsoid,
    swept_rings,
    union,
    without,
)

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


def test_an_egg_keeps_each_side_when_another_grows() -> None:
    cloud = np.random.default_rng(3).uniform(-60, 60, (3000, 3))
    small = egg((0, 0, 0), (30, 30, 20), (30, 30, 25), 2.3)
    large = egg((0, 0, 0), (30, 30, 20), (30, 30, 40), 2.3)
    inside = small(cloud) < 0
    assert (large(cloud)[inside] < 1e-9).all()
    below = cloud[:, 2] < 0
    assert np.allclose(np.sign(small(cloud[below])), np.sign(large(cloud[below])))


def test_an_egg_of_equal_radii_is_a_superellipsoid() -> None:
    cloud = np.random.default_rng(4).uniform(-60, 60, (500, 3))
    assert np.allclose(
        egg((1, 2, 3), (30, 20, 25), (30, 20, 25), 3.0)(cloud),
        superellipsoid((1, 2, 3), (30, 20, 25), 3.0)(cloud),
    )


def test_half_spaces_in_common_make_a_box() -> None:
    box = common(0.01, *(half_space(n, n) for n in np.concatenate([np.eye(3), -np.eye(3)]).tolist()))
    inside, outside = np.array([[0.0, 0, 0], [0.9, 0.9, -0.9]]), np.array([[1.2, 0, 0], [0, -1.5, 0]])
    assert (box(inside) < 0).all()
    assert (box(outside) > 0).all()


def test_swept_rings_pass_through_each_ring_and_bulge_past_none() -> None:
    tube = swept_rings([(0, 50, -10), (0, 20, 0), (0, -30, 5)], [15.0, 30.0, 40.0])
    angle = np.linspace(0, 2 * np.pi, 40)
    for y, z, r in ((50, -10, 15), (20, 0, 30), (-30, 5, 40)):
        ring = np.column_stack([r * np.cos(angle), np.full(40, float(y)), z + r * np.sin(angle)])
        assert np.abs(tube(ring)).max() < 1e-6
    y = np.linspace(-30, 50, 60)
    beyond = np.column_stack([np.full(60, 40.5), y, np.zeros(60)])
    assert (tube(beyond) > 0).all()


def test_outside_is_the_other_way_round() -> None:
    ball = superellipsoid((0, 0, 0), (10, 10, 10))
    cloud = np.random.default_rng(5).uniform(-20, 20, (50, 3))
    assert np.allclose(outside(ball)(cloud), -ball(cloud))
