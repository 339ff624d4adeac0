"""Counting what was expected against what was found: honest with few readings, and not to be talked into a factor."""

from __future__ import annotations

import numpy as np
import pytest

from dapwick.core.after.expected import ENOUGH, Expectation, Reading, checked_factor, tallies
from dapwick.core.basics.errors import BadInput


def readings(z: list[float], visits: int = 10, kind: str = "bone") -> list[Reading]:
    return [
        Reading(i % visits, Expectation(kind, f"{i}", 60.0, 2.0, 60.0 + 2.0 * one, "mm"))  # type: ignore[arg-type]
        for i, one in enumerate(z)
    ]


def test_nineteen_inside_of_twenty() -> None:
    (bone,) = tallies(readings([0.5, -0.5] * 9 + [0.1, 3.0]))
    assert (bone.inside, bone.readings, bone.visits) == (19, 20, 10)
    assert bone.low < 0.95 < bone.high
    assert bone.says.startswith("19 of 20 inside; 95% were promised.")


def test_few_readings_leave_wide_intervals_and_no_offer() -> None:
    (bone,) = tallies(readings([4.0] * 5))
    assert bone.offer is None
    assert bone.inside == 0
    assert bone.high - bone.low > 0.3
    assert "Too few" in bone.says


def test_readings_that_stray_twice_as_far_get_a_factor_of_about_two() -> None:
    rng = np.random.default_rng(3)
    (bone,) = tallies(readings(list(rng.normal(0, 2.0, 60))))
    assert bone.offer == pytest.approx(2.0, abs=0.35)
    assert bone.wider_low > 1.0
    (again,) = tallies(readings(list(rng.normal(0, 1.0, 60))), {"bone": 2.0})
    assert again.offer is None


def test_one_dogs_readings_alone_are_no_reason() -> None:
    rng = np.random.default_rng(3)
    (bone,) = tallies(readings(list(rng.normal(0, 2.5, 60)), visits=2))
    assert bone.offer is None


def test_as_told_gets_no_offer_but_rarely() -> None:
    rng = np.random.default_rng(5)
    offers = [tallies(readings(list(rng.normal(0, 1.0, ENOUGH))))[0].offer for _ in range(200)]
    assert sum(offer is not None for offer in offers) <= 14


def test_what_was_taken_back_is_told_and_not_counted() -> None:
    counted = readings([0.0] * 3)
    back = Reading(9, Expectation("bone", "x", 60.0, 2.0, 90.0, "mm"), counts=False)
    (bone,) = tallies([*counted, back])
    assert (bone.readings, bone.inside, bone.taken_back) == (3, 3, 1)


def test_a_bias_is_told_with_its_interval() -> None:
    rng = np.random.default_rng(4)
    (coat,) = tallies(readings(list(rng.normal(1.0, 0.5, 40)), kind="coat"))
    assert coat.bias == pytest.approx(2.0, abs=0.5)
    assert 0 < coat.bias_low < coat.bias_sigma < coat.bias_high


def test_kinds_are_counted_apart() -> None:
    found = tallies(readings([0.0] * 4) + readings([5.0] * 4, kind="coat"))
    assert [(t.kind, t.inside) for t in found] == [("bone", 4), ("coat", 0)]


@pytest.mark.parametrize(("kind", "factor"), [("bone", 0.5), ("bone", 9.0), ("marks", 1.5), ("luck", 1.5)])
def test_factors_that_cannot_be_are_refused(kind: str, factor: float) -> None:
    with pytest.raises(BadInput):
        checked_factor(kind, factor)
