"""How fast coat grows, in hair length: trade defaults by coat type, and one dog's own rates by zone."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property
from typing import Final

import numpy as np

from dapwick.core.basics.arrays import Array, IntArray, frozen
from dapwick.core.head.zones import ZONES

MM_A_MONTH: Final[Mapping[str, float]] = {
    "standing": 10.0,
    "curl": 11.0,
    "wavy": 11.0,
    "fine_drop": 12.0,
    "harsh": 7.0,
}
MOST_WEEKS: Final = 26
"""What takes longer to grow is not on this coat."""
RATE_SPREAD: Final = 0.25
"""Dogs of one coat type differ by this share in how fast they grow (σ)."""
PUPPY_SPREAD: Final = 0.4
"""A coat that still changes into the grown dog's is told of less surely."""
PUPPY_WEEKS: Final = 52.0
ZONE_SPREAD: Final = 0.12
"""Zones of one dog differ by this share (σ)."""
STOPS_AT_MM: Final[Mapping[str, float]] = {"bridge": 15.0, "stop": 14.0, "inner_corner": 12.0}
"""Hair of these zones grows no longer than that by itself."""
WEEKS_A_MONTH: Final = 365.25 / 12 / 7


@dataclass(frozen=True)
class Growth:
    """How fast a dog's coat grows. log_rate (Z,): logarithm of mm of hair length a week by zone, as ZONES; covariance
    (Z, Z) of it; stops_at_mm (Z,): the length hair reaches by itself, inf where it grows on. readings: lengths found
    again that it rests on, over so many visits."""

    log_rate: Array
    covariance: Array
    stops_at_mm: Array
    readings: int = 0
    visits: int = 0

    @cached_property
    def mm_a_week(self) -> Array:
        """The middle rate (Z,) by zone."""
        return frozen(np.exp(self.log_rate))

    @property
    def spread(self) -> Array:
        """σ (Z,) of the logarithm of each rate."""
        return np.sqrt(np.diag(self.covariance))

    @property
    def usual_mm_a_week(self) -> float:
        """The rate over the head."""
        return float(np.median(self.mm_a_week))

    def rate(self, zone: str, sigmas: float = 0.0) -> float:
        """mm a week of a zone, so many σ off the middle."""
        at = ZONES.index(zone)
        return float(np.exp(self.log_rate[at] + sigmas * self.spread[at]))

    def drawn(self, draws: int, rng: np.random.Generator) -> Array:
        """Rates (draws, Z), mm a week, as they may be: zones of one dog together."""
        return np.asarray(
            np.exp(rng.multivariate_normal(self.log_rate, self.covariance, draws, method="cholesky"))
        )

    def longer(self, length_mm: Array, zone: IntArray, weeks: float) -> Array:
        """Hair lengths (N,) some weeks on; zone (N,) their index. Hair longer than it grows by itself stays."""
        stops = np.maximum(length_mm, self.stops_at_mm[zone])
        return np.asarray(np.minimum(length_mm + weeks * self.mm_a_week[zone], stops))


def usual_growth(coat_type: str, age_weeks: float | None = None) -> Growth:
    """What is expected of a dog before its own coat was found again: zones share most of what is not known."""
    puppy = age_weeks is not None and age_weeks < PUPPY_WEEKS
    shared = PUPPY_SPREAD if puppy else RATE_SPREAD
    zones = len(ZONES)
    return Growth(
        frozen(np.full(zones, math.log(growth_mm(1.0, coat_type)))),
        frozen(np.full((zones, zones), shared**2) + ZONE_SPREAD**2 * np.eye(zones)),
        frozen(np.array([STOPS_AT_MM.get(zone, np.inf) for zone in ZONES])),
    )


def growth_mm(weeks: float, coat_type: str) -> float:
    """Hair length (mm) grown in so many weeks."""
    return weeks * MM_A_MONTH[coat_type] / WEEKS_A_MONTH


def weeks_to_grow(length_mm: float, coat_type: str) -> int:
    """Whole weeks until this much more hair length is there."""
    return math.ceil(length_mm / growth_mm(1.0, coat_type)) if length_mm > 0 else 0


def weeks_range(length_mm: float, coat_type: str) -> tuple[int, int]:
    """The same for a fast and a slow grower (one σ of the rate)."""
    return weeks_to_grow(length_mm / (1 + RATE_SPREAD), coat_type), weeks_to_grow(
        length_mm / (1 - RATE_SPREAD), coat_type
    )
