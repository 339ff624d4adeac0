"""The long side: thresholds found again on people who are simulated."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from dapwick.core.basics.errors import BadInput
from dapwick.core.practice.long_side import (
    GUESSED,
    LEVELS_MM,
    PLACES,
    SLIPS,
    Trial,
    amount_of,
    chance_found,
    eye_of,
    next_fault,
)

MANY = len(PLACES)
ROOM = np.full(MANY, 30.0)


def practised(true_mm: np.ndarray, trials: int, seed: int) -> list[Trial]:
    """A person of these thresholds, asked as the drill asks."""
    rng, done = np.random.default_rng(seed), []
    for i in range(trials):
        zone, side, mm = next_fault(eye_of(done), rng, ROOM)
        at = PLACES.index((zone, side))
        found = rng.uniform() < chance_found(np.log(mm), np.log(true_mm[at]))
        said = (zone, side) if found else PLACES[(at + 1 + int(rng.integers(MANY - 1))) % MANY]
        done.append(Trial(zone, side, mm, i // 12, said, mm))
    return done


def test_a_threshold_is_found_again() -> None:
    eye = eye_of(practised(np.full(MANY, 5.0), 36, 1))
    assert eye.whole.low < 5.0 < eye.whole.high
    assert eye.whole.value == pytest.approx(5.0, rel=0.2)


def test_a_place_that_an_eye_misses_is_told() -> None:
    """After three sessions the tool can say which side and zone this eye misses."""
    true = np.full(MANY, 2.5)
    missed = PLACES.index(("jaw", "right"))
    true[missed] = 8.0
    told = []
    for seed in range(3):
        eye = eye_of(practised(true, 36, seed))
        told += [(t.zone, t.side) for t in eye.thresholds if t.missed]
    assert told.count(("jaw", "right")) >= 2
    assert len(told) - told.count(("jaw", "right")) <= 1


def test_nothing_is_missed_before_anything_was_tried() -> None:
    eye = eye_of(())
    assert not any(t.missed for t in eye.thresholds)
    assert eye.whole.high / eye.whole.low > 3


def test_who_gets_better_is_seen_to() -> None:
    early = practised(np.full(MANY, 6.0), 24, 3)
    late = [
        Trial(t.zone, t.side, t.mm, 2 + i // 12, t.said, t.said_mm)
        for i, t in enumerate(practised(np.full(MANY, 3.0), 36, 4))
    ]
    points = eye_of([*early, *late]).trend
    assert len(points) == 5
    assert points[-1].value < points[0].value


def test_the_same_trials_tell_the_same() -> None:
    trials = practised(np.full(MANY, 4.0), 12, 6)
    one, other = eye_of(trials), eye_of(trials)
    assert np.array_equal(one.draws, other.draws)


@given(st.floats(0.2, 20), st.floats(0.2, 20))
def test_a_larger_fault_is_found_sooner_and_no_one_is_worse_than_guessing(
    mm: float, threshold: float
) -> None:
    p = float(chance_found(np.log(mm), np.log(threshold)))
    assert GUESSED <= p <= 1 - SLIPS
    assert chance_found(np.log(1.3 * mm), np.log(threshold)) >= p


def test_a_fault_never_asks_more_hair_than_there_is() -> None:
    rng, room = np.random.default_rng(7), np.full(len(PLACES), 3.0)
    room[0] = 0.5
    for _ in range(40):
        zone, side, mm = next_fault(eye_of(()), rng, room)
        assert mm <= room[PLACES.index((zone, side))]


def test_faults_get_smaller_for_an_eye_that_finds_all() -> None:
    rng, done = np.random.default_rng(8), []
    for i in range(24):
        zone, side, mm = next_fault(eye_of(done), rng, ROOM)
        done.append(Trial(zone, side, mm, i // 12, (zone, side), mm))
    assert np.mean([t.mm for t in done[-6:]]) < np.mean([t.mm for t in done[:3]])
    assert min(t.mm for t in done) >= LEVELS_MM[0]


def test_how_much_is_said_is_told_where_it_leans() -> None:
    half = [Trial("cheek", "left", 4.0, 0, ("cheek", "left"), 2.0)] * 8
    lean = amount_of(half)
    assert lean is not None
    assert lean.told
    assert lean.off < -0.3
    assert amount_of([Trial("cheek", "left", 4.0, 0, ("jaw", "left"), 2.0)]) is None


def test_no_place_no_trial() -> None:
    with pytest.raises(BadInput, match="which place is long"):
        Trial("cheek", "left", 4.0, 0, ("tail", "left"), 2.0)
    with pytest.raises(BadInput, match="how much"):
        Trial("cheek", "left", 4.0, 0, ("cheek", "left"), float("nan"))
