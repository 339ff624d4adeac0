"""A stylist's own hand: what it leaves long or short, by zone and side, over heads.

A reading is the stylist's mean, plus the zone's, plus the side's, plus the day's (all of one head), plus noise; each
normal, so that the posterior is exact (Gelman and others, Bayesian Data Analysis, 3rd ed., ch. 5). Few heads leave
every bias close to nothing.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Final

import numpy as np

from dapwick.core.basics.arrays import Array
from dapwick.core.head.zones import ZONES, Side, zone_words

MEAN_MM, ZONE_MM, SIDE_MM = 1.0, 1.2, 1.2
"""How far hands stray: all over, in a zone, on one side of it (σ between stylists)."""
DAY_MM, PLACE_MM = 1.0, 1.2
"""How far one hand strays from head to head: all over, and at a place of it (σ)."""
NORMAL_90: Final = 1.645
TOLD_BEYOND_MM: Final = 1.0
"""A bias is told when its interval leaves out this much to either side of nothing."""
SIDES: Final[tuple[Side, ...]] = ("left", "right")


@dataclass(frozen=True)
class HandReading:
    """What a check found a zone of one side off its plan before anything was taken in, mm of hair, long more than 0."""

    head: int
    zone: str
    side: Side
    off_mm: float
    sigma_mm: float


@dataclass(frozen=True)
class Bias:
    """What a hand leaves long (more than 0) or short at a place, mm of hair, low..high its 90 % interval; heads it was
    seen on; told: surely enough to say."""

    zone: str
    side: Side
    mm: float
    low: float
    high: float
    heads: int
    told: bool

    def words(self, stylist: str) -> str:
        low, high = sorted((abs(self.low), abs(self.high)))
        how = "long" if self.mm > 0 else "short"
        return (
            f"{stylist} leaves the {self.side} {zone_words(self.zone)} {abs(self.mm):.0f} mm {how} "
            f"({low:.0f} to {high:.0f}, {self.heads} heads)"
        )


def hand_of(readings: Sequence[HandReading]) -> tuple[Bias, ...]:
    """The bias at every place that was seen, the surest first."""
    if not readings:
        return ()
    mean, sigma, places = _posterior(readings)
    found = [
        _bias(zone, side, m, s, len({r.head for r in readings if (r.zone, r.side) == (zone, side)}))
        for (zone, side), m, s in zip(places, mean, sigma, strict=True)
    ]
    return tuple(sorted(found, key=lambda b: -abs(b.mm) / (b.high - b.low)))


def _bias(zone: str, side: Side, mm: float, sigma: float, heads: int) -> Bias:
    low, high = mm - NORMAL_90 * sigma, mm + NORMAL_90 * sigma
    return Bias(zone, side, mm, low, high, heads, low > TOLD_BEYOND_MM or high < -TOLD_BEYOND_MM)


def _posterior(readings: Sequence[HandReading]) -> tuple[Array, Array, list[tuple[str, Side]]]:
    """Mean and σ (P,) of the bias at each place seen."""
    places: list[tuple[str, Side]] = [
        (z, s) for z in ZONES for s in SIDES if any((r.zone, r.side) == (z, s) for r in readings)
    ]
    at = np.array([places.index((r.zone, r.side)) for r in readings])
    zone = np.array([ZONES.index(z) for z, _ in places])
    prior = MEAN_MM**2 + ZONE_MM**2 * (zone[:, None] == zone) + SIDE_MM**2 * np.eye(len(places))
    head = np.array([r.head for r in readings])
    noise = np.diag([r.sigma_mm**2 + PLACE_MM**2 for r in readings])
    heard = prior[at[:, None], at] + DAY_MM**2 * (head[:, None] == head) + noise
    gain = np.linalg.solve(heard, prior[at]).T
    mean = gain @ np.array([r.off_mm for r in readings])
    left = prior - gain @ prior[at]
    return mean, np.sqrt(np.maximum(np.diag(left), 1e-6)), places
