"""How fast one dog's coat grows, from lengths left at one visit and found at the next.

log(rate) of a zone is taken as the coat type's, plus the dog's own share of it, plus the zone's, each normal; what both
readings of an interval have wrong together (a skin misjudged anew moves all zones) is a length of its own. Found by
Gauss-Newton; the covariance is that of the solution (Laplace's approximation).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Final

import numpy as np
from scipy.optimize import least_squares

from dapwick.core.basics.arrays import Array, frozen
from dapwick.core.head.growth import Growth, usual_growth
from dapwick.core.head.zones import ZONES, zone_words

TOGETHER_MM: Final = 2.5
"""What all zones of one interval may be off by together (σ): a coat misjudged anew, a season."""
DISAGREES: Final = 2.6
"""A reading so many σ off what the others expect of it is told, not averaged in."""
MOST_LEFT_OUT: Final = 1 / 3
"""More of an interval's readings than this cannot all be the owner's scissors."""
LEAST_WEEKS: Final = 1.5
"""Shorter intervals tell of readings, not of growth."""
STOPPED_BY: Final = 2
"""So many readings must find a zone's hair no longer before it is taken to stop there."""


@dataclass(frozen=True)
class GrowthReading:
    """Hair of a zone, mm of length: left at one visit, found weeks later; sigma_mm: of what lies between the two.
    visit: which interval it belongs to."""

    visit: int
    zone: str
    weeks: float
    left_mm: float
    found_mm: float
    sigma_mm: float


@dataclass(frozen=True)
class Disagreeing:
    """A reading that growth does not explain, and what to ask about it."""

    reading: GrowthReading
    expected_mm: float
    words: str


@dataclass(frozen=True)
class OwnGrowth:
    """A dog's rates, and what did not fit them."""

    growth: Growth
    disagreeing: tuple[Disagreeing, ...]


def own_growth(
    coat_type: str, readings: Sequence[GrowthReading], age_weeks: float | None = None
) -> OwnGrowth:
    """The dog's own rates, drawn towards its coat type's by how little is known of it."""
    usual = usual_growth(coat_type, age_weeks)
    told = [r for r in readings if r.weeks >= LEAST_WEEKS]
    stops = _stops(usual, told)
    usual = replace(usual, stops_at_mm=stops)
    growing = [r for r in told if r.left_mm < stops[ZONES.index(r.zone)] - r.sigma_mm]
    growing = [r for r in growing if r.found_mm < stops[ZONES.index(r.zone)] - r.sigma_mm]
    out: list[GrowthReading] = []
    while True:
        used = [r for r in growing if r not in out]
        found = _fitted(usual, used)
        worst = _worst(usual, used)
        if worst is None or not _may_be_left_out(worst, out, growing):
            return OwnGrowth(found, tuple(_disagreeing(found, r) for r in out))
        out.append(worst)


def expected_length(growth: Growth, left_mm: float, zone: str, weeks: float) -> tuple[float, float]:
    """Hair length (mm) expected some weeks after so much was left, and its σ from the rate alone."""
    at = np.array([ZONES.index(zone)])
    length = float(growth.longer(np.array([left_mm]), at, weeks)[0])
    return length, (length - left_mm) * float(growth.spread[at[0]])


def _fitted(usual: Growth, readings: Sequence[GrowthReading]) -> Growth:
    if not readings:
        return usual
    log_rate, covariance = _solved(usual, readings)
    visits = len({r.visit for r in readings})
    return replace(
        usual, log_rate=frozen(log_rate), covariance=frozen(covariance), readings=len(readings), visits=visits
    )


def _solved(usual: Growth, readings: Sequence[GrowthReading]) -> tuple[Array, Array]:
    """log rates (Z,) and their covariance (Z, Z)."""
    zone = np.array([ZONES.index(r.zone) for r in readings])
    visits = sorted({r.visit for r in readings})
    of_visit = np.array([[r.visit == v for v in visits] for r in readings], dtype=float)
    weeks, grown, sigma = np.array([[r.weeks, r.found_mm - r.left_mm, r.sigma_mm] for r in readings]).T
    whiten = np.linalg.inv(np.linalg.cholesky(usual.covariance))
    zones = len(ZONES)

    def misses(x: Array) -> Array:
        rate = np.exp(usual.log_rate + x[:zones])
        off = (weeks * rate[zone] + of_visit @ x[zones:] - grown) / sigma
        return np.concatenate([off, whiten @ x[:zones], x[zones:] / TOGETHER_MM])

    def slopes(x: Array) -> Array:
        rate = np.exp(usual.log_rate + x[:zones])
        by_zone = np.zeros((len(readings), zones))
        by_zone[np.arange(len(readings)), zone] = weeks * rate[zone] / sigma
        own = np.hstack([by_zone, of_visit / sigma[:, None]])
        prior = np.hstack([whiten, np.zeros((zones, len(visits)))])
        common = np.hstack([np.zeros((len(visits), zones)), np.eye(len(visits)) / TOGETHER_MM])
        return np.vstack([own, prior, common])

    found = least_squares(misses, np.zeros(zones + len(visits)), jac=slopes)
    covariance = np.linalg.inv(found.jac.T @ found.jac)
    return usual.log_rate + found.x[:zones], covariance[:zones, :zones]


def _worst(usual: Growth, readings: Sequence[GrowthReading]) -> GrowthReading | None:
    """The reading furthest off what all others of the dog expect of it, where that is too far."""
    off = [
        abs(_off(_fitted(usual, [r for r in readings if r is not one]), one, readings)) for one in readings
    ]
    if not off or max(off) < DISAGREES:
        return None
    return readings[int(np.argmax(off))]


def _off(growth: Growth, one: GrowthReading, readings: Sequence[GrowthReading]) -> float:
    """How far off a reading is, σ. What its interval's other readings are off by in the middle is no fault of its
    own."""
    expected, sigma = expected_length(growth, one.left_mm, one.zone, one.weeks)
    beside = [r for r in readings if r.visit == one.visit and r is not one]
    together = [r.found_mm - expected_length(growth, r.left_mm, r.zone, r.weeks)[0] for r in beside]
    common = float(np.clip(np.median(together), -TOGETHER_MM, TOGETHER_MM)) if together else 0.0
    return (one.found_mm - expected - common) / float(np.hypot(sigma, np.hypot(one.sigma_mm, TOGETHER_MM)))


def _may_be_left_out(
    one: GrowthReading, out: Sequence[GrowthReading], readings: Sequence[GrowthReading]
) -> bool:
    of_visit = [r for r in readings if r.visit == one.visit]
    gone = sum(r.visit == one.visit for r in out)
    return gone + 1 <= max(1, int(MOST_LEFT_OUT * len(of_visit)))


def _disagreeing(growth: Growth, one: GrowthReading) -> Disagreeing:
    expected, _ = expected_length(growth, one.left_mm, one.zone, one.weeks)
    grew, place = one.found_mm - one.left_mm, zone_words(one.zone)
    if one.found_mm < expected:
        said = f"{max(grew, 0.0):.0f} mm grew where {expected - one.left_mm:.0f} were expected: was it cut at home?"
    else:
        said = f"{grew:.0f} mm longer where {expected - one.left_mm:.0f} were expected: was more left than planned?"
    return Disagreeing(one, expected, f"{place}: {said}")


def _stops(usual: Growth, readings: Sequence[GrowthReading]) -> Array:
    """The length (Z,) at which hair stops: the trade's, and where several readings found a zone's hair at one length
    that growth would have passed, that."""
    stops = np.array(usual.stops_at_mm)
    for at, zone in enumerate(ZONES):
        of_zone = [r for r in readings if r.zone == zone]
        rate = usual.rate(zone, -1.0)
        late = [r for r in of_zone if r.found_mm + DISAGREES * r.sigma_mm < r.left_mm + rate * r.weeks]
        lengths = np.array([r.found_mm for r in late])
        if len(late) >= STOPPED_BY and np.ptp(lengths) < 2 * max(r.sigma_mm for r in late):
            stops[at] = min(stops[at], float(lengths.mean()))
    return frozen(stops)
