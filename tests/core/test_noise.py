"""How steady a hand is, read from its own marks."""

from __future__ import annotations

import numpy as np
import pytest

from accuracy import values
from dapwick.core.measures.measure import NORMAL_95, measures_of
from dapwick.core.solve.joint import HeadSolution, solve_head
from dapwick.core.solve.noise import SHAKIEST, STEADIEST, Noise
from simheads import SimHead, noisier, random_head, with_slip

FOUR = ("front", "left", "right", "top")
SEEDS = range(10)


def solved(sim: SimHead) -> HeadSolution:
    head = solve_head(sim.given)
    assert isinstance(head, HeadSolution)
    return head


def hand(factor: float, told: bool = False) -> list[HeadSolution]:
    return [solved(noisier(random_head(seed, FOUR, 2), seed, factor, told)) for seed in SEEDS]


def test_a_steady_hand_is_told_from_a_shaky_one() -> None:
    seen, felt = (
        [np.median([getattr(head.noise, kind) for head in hand(factor)]) for factor in (0.5, 1.0, 2.0)]
        for kind in ("seen", "felt")
    )
    for half, usual, double in (seen, felt):
        assert half < 0.8 * usual
        assert 0.85 < usual < 1.2
        assert double > 1.5 * usual


@pytest.mark.parametrize("factor", [0.5, 1.0, 2.0])
def test_intervals_hold_whatever_the_hand(factor: float) -> None:
    inside, accused = [], 0
    for seed, head in zip(SEEDS, hand(factor), strict=True):
        error = np.array([m.value for m in measures_of(head)]) - values(random_head(seed, FOUR, 2).points_mm)
        inside += (np.abs(error) < NORMAL_95 * np.array([m.sigma for m in measures_of(head)])).tolist()
        accused += any(f.code == "mark_off" for f in head.findings)
    assert 0.9 < np.mean(inside) <= 1.0
    assert accused <= 1


def test_a_slip_is_not_taken_for_a_shaky_hand() -> None:
    for seed in SEEDS:
        plain, slipped = (
            solved(random_head(seed, FOUR, 2)),
            solved(with_slip(random_head(seed, FOUR, 2), seed)),
        )
        assert slipped.noise.seen < 1.6 * plain.noise.seen
        assert slipped.noise.felt < 1.6 * plain.noise.felt


def test_marks_whose_spread_is_told_say_nothing_of_the_hand() -> None:
    """Guesses of the machine's own: each is as unsure as it says."""
    for head in hand(2.0, told=True):
        assert head.noise == Noise()


def test_a_hand_is_never_taken_for_steadier_or_shakier_than_hands_are() -> None:
    for head in [*hand(0.02), *hand(30.0)]:
        for factor in (head.noise.seen, head.noise.felt):
            assert STEADIEST <= factor <= SHAKIEST
