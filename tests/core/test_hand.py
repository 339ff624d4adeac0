"""A stylist's own hand, against hands that are known."""

from __future__ import annotations

import numpy as np
import pytest

from dapwick.core.after.hand import HandReading, hand_of
from dapwick.core.head.zones import Side

PLACES: list[tuple[str, Side]] = [
    (zone, side) for zone in ("crown", "cheek", "jaw", "visor") for side in ("left", "right")
]  # type: ignore[misc]


def cuts(
    rng: np.random.Generator, heads: int, bias: dict[tuple[str, str], float], sigma: float = 1.5
) -> list[HandReading]:
    found = []
    for head in range(heads):
        day = rng.normal(0, 0.8)
        for zone, side in PLACES:
            off = bias.get((zone, side), 0.0) + day + rng.normal(0, 1.0) + rng.normal(0, sigma)
            found.append(HandReading(head, zone, side, off, sigma))
    return found


def test_a_side_that_is_always_left_long_is_told_after_some_heads() -> None:
    readings = cuts(np.random.default_rng(2), 12, {("cheek", "right"): 3.5})
    told = [one for one in hand_of(readings) if one.told]
    assert [(one.zone, one.side) for one in told] == [("cheek", "right")]
    assert told[0].low < 3.5 < told[0].high
    assert "right cheek" in told[0].words("Oriel")
    assert "12 heads" in told[0].words("Oriel")


def test_one_head_tells_nothing() -> None:
    assert not [
        one for one in hand_of(cuts(np.random.default_rng(2), 1, {("cheek", "right"): 4.0})) if one.told
    ]


def test_a_true_hand_is_told_nothing() -> None:
    rng = np.random.default_rng(6)
    told = [one for _ in range(20) for one in hand_of(cuts(rng, 10, {})) if one.told]
    assert not told


def test_intervals_hold_and_are_shrunk() -> None:
    rng = np.random.default_rng(9)
    inside, shrunk = [], []
    for _ in range(40):
        bias = {place: float(rng.normal(0, 1.5)) for place in PLACES}
        readings = cuts(rng, 5, bias)
        for one in hand_of(readings):
            inside.append(one.low < bias[(one.zone, one.side)] < one.high)
            own = np.mean([r.off_mm for r in readings if (r.zone, r.side) == (one.zone, one.side)])
            shrunk.append(abs(one.mm) < abs(own) + 0.8)
    assert 0.85 <= np.mean(inside) <= 0.97
    assert np.mean(shrunk) > 0.9


def test_more_heads_make_it_surer() -> None:
    rng = np.random.default_rng(1)
    widths = []
    for heads in (2, 6, 20):
        (one,) = (b for b in hand_of(cuts(rng, heads, {})) if (b.zone, b.side) == ("jaw", "left"))
        widths.append(one.high - one.low)
        assert one.heads == heads
    assert widths == sorted(widths, reverse=True)


def test_nothing_checked_tells_nothing() -> None:
    assert hand_of([]) == ()


@pytest.mark.parametrize(("mm", "how"), [(3.0, "long"), (-3.0, "short")])
def test_words_say_long_or_short(mm: float, how: str) -> None:
    readings = [HandReading(h, "jaw", "left", mm, 0.5) for h in range(15)]
    (one,) = hand_of(readings)
    assert how in one.words("Benno")
