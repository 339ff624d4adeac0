"""Left against right: how far the sides of a head differ, and whether that is more than measuring error."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, Final

import numpy as np

from dapwick.core.basics.marks import INDEX, RULES
from dapwick.core.measures.measure import NORMAL_95, Rule, with_covariance
from dapwick.core.solve.joint import HeadSolution

REAL_AT: Final = 12.36
"""Squared distance of a pair's three differences from none, in their σ, past which they are real: one head in
twenty that is even would show such a pair among its eight (chi-square, three degrees, 1 - 0.05 / 8)."""
WAYS: Final = ("out", "forward", "up")
PAIRED: Final = tuple(rule for rule in RULES if rule.paired)
MORE: Final = {
    "out": ("farther out", "farther in"),
    "forward": ("forward", "back"),
    "up": ("higher", "lower"),
}


@dataclass(frozen=True)
class Unevenness:
    """One pair of marks, left minus right along one way (out from the middle, forward, up), mm. real: the
    pair's difference as a whole is more than measuring error, and this part's interval leaves out nothing."""

    pair: str
    way: str
    words: str
    mm: float
    sigma: float
    low: float
    high: float
    real: bool

    @property
    def verdict(self) -> str:
        return "real" if self.real else "within the measuring error"


def _left_minus_right(name: str, way: str) -> Rule:
    axis = WAYS.index(way)
    left, right = INDEX[f"{name}_left"], INDEX[f"{name}_right"]
    of_right = 1.0 if way == "out" else -1.0
    sign = -1.0 if way == "out" else 1.0

    def difference(points: Any) -> Any:
        return sign * (points[..., left, axis] + of_right * points[..., right, axis])

    return difference


def unevenness_of(head: HeadSolution) -> tuple[Unevenness, ...]:
    """Every pair's three differences, pair by pair; a head that nobody expects to be even."""
    rules = [_left_minus_right(rule.name, way) for rule in PAIRED for way in WAYS]
    values, covariance = with_covariance(head.without_symmetry, rules)
    found = []
    for i, rule in enumerate(PAIRED):
        part = slice(3 * i, 3 * i + 3)
        apart, spread = values[part], covariance[part, part]
        # The inner eye corners hold the frame's origin: one of their differences is nothing by definition.
        whole = float(apart @ np.linalg.pinv(spread, rcond=1e-9, hermitian=True) @ apart) > REAL_AT
        sigmas = np.sqrt(np.maximum(np.diag(spread), 0.0))
        for way, mm, sigma in zip(WAYS, apart.tolist(), sigmas.tolist(), strict=True):
            low, high = mm - NORMAL_95 * sigma, mm + NORMAL_95 * sigma
            real = whole and not low <= 0 <= high
            found.append(
                Unevenness(rule.name, way, _sentence(rule.words, way, mm), mm, sigma, low, high, real)
            )
    return tuple(found)


def _sentence(words: str, way: str, mm: float) -> str:
    more, less = MORE[way]
    return f"left {words} {abs(mm):.0f} mm {more if mm > 0 else less} than right"


def telling(found: tuple[Unevenness, ...]) -> tuple[Unevenness, ...]:
    """Of the real differences each pair's surest, the surest pair first."""
    by_pair: dict[str, Unevenness] = {}
    for one in sorted(found, key=lambda u: -abs(u.mm) / max(u.sigma, 1e-9)):
        if one.real:
            by_pair.setdefault(one.pair, one)
    return tuple(by_pair.values())
