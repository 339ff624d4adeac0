"""Ears as flaps: carried as their tips lie, never smeared by the skull."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from dapwick.core.basics.marks import INDEX
from dapwick.core.head.coat import CoatProbe
from dapwick.core.head.ears import ACROSS, ALONG, carriage_of, ears_of
from dapwick.core.head.skin import skin_of
from dapwick.core.head.skin_and_coat import skin_and_coat
from dapwick.core.head.zones import EAR_ZONES
from dapwick.core.solve.joint import HeadSolution

BASE = np.array([35.0, -50.0, 25.0])


@pytest.mark.parametrize(
    ("tip", "carriage"),
    [
        ((40, -50, 85), "prick"),
        ((60, -40, 45), "tipped"),
        ((58, -32, 25), "button"),
        ((58, -45, -30), "drop"),
    ],
)
def test_carriage_follows_the_tip(tip: tuple[float, float, float], carriage: str) -> None:
    assert carriage_of(BASE, np.array(tip, dtype=float)) == carriage


def test_a_flap_runs_from_its_base_marks_to_its_tip(solved: HeadSolution) -> None:
    for ear in ears_of(solved):
        grid = ear.vertices_mm.reshape(ALONG, ACROSS, 3)
        front, back, tip = (solved.points_mm[INDEX[f"ear_{p}_{ear.side}"]] for p in ("front", "back", "tip"))
        assert np.linalg.norm(grid[0, 0] - front) < 0.12 * ear.base_mm
        assert np.linalg.norm(grid[0, -1] - back) < 0.12 * ear.base_mm
        assert np.allclose(grid[-1], tip)
        assert ear.length_mm >= np.linalg.norm(tip - (front + back) / 2) - 1e-6
        assert ear.faces.max() == len(ear.vertices_mm) - 1


def moved(head: HeadSolution, marks: dict[str, tuple[float, float, float]]) -> HeadSolution:
    points = head.points_mm.copy()
    for mark, shift in marks.items():
        points[INDEX[mark]] += shift
    return replace(head, points_mm=points)


def test_an_ear_moves_with_its_own_marks_alone(solved: HeadSolution) -> None:
    tip_up = moved(solved, {"ear_tip_left": (0, 0, 30)})
    skull_wide = moved(solved, {"cheek_left": (-15, 0, 0), "crown": (0, 0, 12)})
    for ear, was, other in zip(ears_of(tip_up), ears_of(solved), ears_of(skull_wide), strict=True):
        assert np.allclose(other.vertices_mm, was.vertices_mm)
        assert np.allclose(ear.vertices_mm, was.vertices_mm) == (ear.side == "right")
    assert np.allclose(skin_of(tip_up).vertices_mm, skin_of(solved).vertices_mm)


def test_left_and_right_flaps_of_an_even_head_mirror(solved: HeadSolution) -> None:
    points = solved.points_mm.copy()
    for part in ("front", "back", "tip"):
        points[INDEX[f"ear_{part}_left"]] = points[INDEX[f"ear_{part}_right"]] * [-1, 1, 1]
    left, right = ears_of(replace(solved, points_mm=points))
    assert np.allclose(
        np.abs(left.vertices_mm[:, 0]), np.abs(right.vertices_mm[:, 0]), atol=0.3 * left.base_mm
    )
    assert left.carriage == right.carriage
    assert left.length_mm == pytest.approx(right.length_mm)


def test_an_ears_coat_is_its_own(solved: HeadSolution) -> None:
    probes = (CoatProbe("ear_edge", "left", 31.0), CoatProbe("ear_outside", None, 9.0))
    left, right = ears_of(solved, probes)
    told = {(ear.side, c.zone): (c.depth_mm, c.sigma_mm) for ear in (left, right) for c in ear.coat}
    assert set(told) == {(side, zone) for side in ("left", "right") for zone in EAR_ZONES}
    assert told["left", "ear_edge"] == (31.0, 2.0)
    assert told["right", "ear_edge"][1] > 5
    assert told["right", "ear_outside"] == (9.0, 2.0)
    with_ears, without = (skin_and_coat(solved, "standing", [], p)[1] for p in (probes, ()))
    assert np.array_equal(with_ears.depth_mm, without.depth_mm)
