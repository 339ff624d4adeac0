"""Minutes learned from logs: against simulated stylists whose true pace is known."""

from __future__ import annotations

import math

import numpy as np
import pytest

from dapwick.core.cut.minutes import NOTHING_LEARNED, Timed, learn

RULES = [f"rule{i}" for i in range(12)]


def logged(pace: float, slow: dict[str, float], cuts: int, seed: int = 3) -> list[Timed]:
    """Cuts by a stylist who takes `pace` times the usual, and more on some rules; steps stray by σ 0.4."""
    rng = np.random.default_rng(seed)
    return [
        Timed(rule, 1.0, pace * slow.get(rule, 1.0) * math.exp(rng.normal(0, 0.4)))
        for _ in range(cuts)
        for rule in RULES
    ]


def test_nothing_logged_leaves_the_rules_own_minutes() -> None:
    assert learn([]).minutes("cheek", 1.6) == NOTHING_LEARNED.minutes("cheek", 1.6) == 1.6


@pytest.mark.parametrize("pace", [0.7, 1.0, 1.6])
def test_a_stylists_pace_is_found_for_rules_never_logged_too(pace: float) -> None:
    learned = learn(logged(pace, {}, cuts=8))
    assert learned.pace == pytest.approx(pace, rel=0.12)
    assert learned.minutes("never seen", 2.0) == pytest.approx(2.0 * learned.pace)
    assert learned.steps == 8 * len(RULES)


def test_what_one_rule_takes_beyond_the_pace_is_found() -> None:
    learned = learn(logged(1.2, {"rule3": 2.0}, cuts=12))
    assert learned.minutes("rule3", 1.0) > 1.4 * learned.minutes("rule4", 1.0)


def test_one_slow_step_is_believed_little_and_ten_a_lot() -> None:
    once = learn([Timed("cheek", 1.0, 3.0)]).minutes("cheek", 1.0)
    often = learn([Timed("cheek", 1.0, 3.0)] * 10).minutes("cheek", 1.0)
    assert 1.0 < once < 2.2 < often <= 3.0


def test_a_tablet_left_lying_moves_little() -> None:
    steady = logged(1.0, {}, cuts=4)
    left_lying = [*steady, Timed("rule0", 1.0, 600.0)]
    assert learn(left_lying).pace < 1.1 * learn(steady).pace


def test_times_of_nothing_are_left_out() -> None:
    assert learn([Timed("cheek", 0.0, 2.0), Timed("cheek", 1.0, 0.0)]) == NOTHING_LEARNED
