"""Lines as a drafter pulls them: no ripples, nowhere far off, corners kept."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.spatial import cKDTree

from dapwick.core.basics.arrays import Array
from dapwick.core.basics.fair import corners_of, fair, resampled, sign_changes

TOLERANCE = 0.7


def ring(radius: float, ripple: float, waves: int, many: int = 400) -> Array:
    turn = np.linspace(0, 2 * np.pi, many, endpoint=False)
    far = radius + ripple * np.sin(waves * turn)
    return np.column_stack([far * np.cos(turn), far * np.sin(turn)])


def farthest_mm(one: Array, other: Array) -> float:
    """From one closed line to another, both ways."""
    fine = [resampled(line, 0.05) for line in (one, other)]
    return max(float(cKDTree(a).query(b)[0].max()) for a, b in (fine, fine[::-1]))


@settings(max_examples=40, deadline=None)
@given(
    radius=st.floats(30, 120), ripple=st.floats(0, 0.6), waves=st.integers(20, 60), seed=st.integers(0, 999)
)
def test_a_fair_line_is_never_farther_off_than_its_tolerance(
    radius: float, ripple: float, waves: int, seed: int
) -> None:
    rng = np.random.default_rng(seed)
    line = ring(radius, ripple, waves) + rng.normal(0, 0.15, (400, 2))
    # What lies between two steps is cut across by a little more.
    assert farthest_mm(line, fair(line, TOLERANCE)) <= TOLERANCE + 0.2


@pytest.mark.parametrize("ripple", [0.2, 0.5])
def test_ripples_are_gone_and_a_round_is_round(ripple: float) -> None:
    line = ring(70, ripple, 40)
    assert sign_changes(resampled(line, 1.4)) > 40
    found = fair(line, TOLERANCE)
    assert sign_changes(found) <= 2
    assert np.ptp(np.hypot(*found.T)) < 2 * ripple


def test_corners_are_kept_where_they_are() -> None:
    square = np.array([[0.0, 0], [60, 0], [60, 60], [0, 60]])
    found = fair(square, TOLERANCE)
    for corner in square:
        assert np.linalg.norm(found - corner, axis=1).min() < 1.0
    assert len(corners_of(resampled(square, 1.4), 6)) == 4


def test_what_is_large_stays() -> None:
    wavy = ring(70, 6.0, 3)
    found = fair(wavy, TOLERANCE)
    assert farthest_mm(wavy, found) < TOLERANCE + 0.3
    assert np.ptp(np.hypot(*found.T)) > 11


def test_nothing_and_next_to_nothing_come_back() -> None:
    assert len(fair(np.zeros((0, 2)), TOLERANCE)) == 0
    assert len(fair(np.array([[0.0, 0], [5, 0], [0, 5]]), TOLERANCE)) >= 3
