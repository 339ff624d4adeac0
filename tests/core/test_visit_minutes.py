"""How long a head will take: the trade's number first, then the salon's, then the dog's own."""

from __future__ import annotations

import math

import numpy as np
import pytest

from dapwick.core.cut.visit_minutes import DOG_PRIOR, USUAL_MIN, VISIT_SPREAD, expected_minutes


def test_with_nothing_known_it_is_the_trades_own() -> None:
    found = expected_minutes([])
    assert found.minutes == pytest.approx(USUAL_MIN)
    assert found.low < found.minutes < found.high
    assert found.heads == 0


def test_many_own_heads_outweigh_the_salon() -> None:
    found = expected_minutes([40.0] * 30, salon=[15.0] * 100)
    assert found.minutes == pytest.approx(40.0, rel=0.03)
    assert found.heads == 30


def test_one_own_head_is_drawn_toward_the_salon_and_the_window_narrows_with_each() -> None:
    widths = []
    for n in range(5):
        found = expected_minutes([40.0] * n, salon=[20.0] * 200)
        widths.append(found.high / found.low)
        assert 20.0 * 0.95 < found.minutes <= 40.0
    assert widths == sorted(widths, reverse=True)


def test_a_slow_dog_is_given_more_and_one_that_needs_breaks_a_wider_window() -> None:
    plain, old = expected_minutes([]), expected_minutes([], traits=("old",))
    assert old.minutes > plain.minutes
    assert old.high / old.low > plain.high / plain.low


def test_a_tablet_left_lying_counts_for_nothing() -> None:
    assert expected_minutes([25.0, 700.0]) == expected_minutes([25.0])


def test_four_of_five_next_heads_fall_inside() -> None:
    """Drawn as the model says heads are."""
    rng = np.random.default_rng(3)
    inside = []
    for _ in range(1500):
        own = math.log(USUAL_MIN) + rng.normal(0, DOG_PRIOR)
        *past, coming = np.exp(own + rng.normal(0, VISIT_SPREAD, 4))
        # A salon of a hundred heads around the trade's number leaves the middle where it is.
        found = expected_minutes(past, salon=[USUAL_MIN] * 100)
        inside.append(found.low <= coming <= found.high)
    assert 0.76 < np.mean(inside) < 0.84
