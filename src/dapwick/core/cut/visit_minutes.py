"""How long a dog's head will take, from how long heads have taken: what to keep free in the book.

log(minutes) of one visit is taken as normal around the dog's own mean, that mean as normal around the salon's, the
salon's around the trade's. Each mean is the posterior mean under the one above it (n / (n + (VISIT/PRIOR)²)); the
window is the 80 % interval for the next visit, the mean's own uncertainty included.
"""

from __future__ import annotations

import math
from collections.abc import Collection, Sequence
from dataclasses import dataclass, replace
from typing import Final

from dapwick.core.cut.handling import pause_after_min, slower

USUAL_MIN: Final = 20.0
"""A set-in and scissored head, where nothing is known yet."""
VISIT_SPREAD: Final = 0.25
"""σ of log(minutes) of one dog from visit to visit."""
DOG_PRIOR: Final = 0.35
SALON_PRIOR: Final = 0.35
PAUSES_WIDEN: Final = 1.5
"""Dogs that need breaks are booked with a wider window."""
NORMAL_80: Final = 1.2816
CREDIBLE_MIN: Final = (3.0, 240.0)


@dataclass(frozen=True)
class Expected:
    """minutes: as many heads take more as less; low..high: four of five; heads: of this dog, that it rests on."""

    minutes: float
    low: float
    high: float
    heads: int

    def wider(self, factor: float) -> Expected:
        """The same told so many times less surely."""
        low, high = (self.minutes * (end / self.minutes) ** factor for end in (self.low, self.high))
        return replace(self, low=low, high=high)


def expected_minutes(
    own: Sequence[float], salon: Sequence[float] = (), traits: Collection[str] = ()
) -> Expected:
    """own: minutes of this dog's heads; salon: of the salon's latest; traits: what makes it slow, for a dog whose
    own log does not tell yet."""
    salon_mean, _ = _posterior(salon, math.log(USUAL_MIN), SALON_PRIOR)
    mean, sigma = _posterior(own, salon_mean + math.log(slower(traits)), DOG_PRIOR)
    spread = NORMAL_80 * math.hypot(VISIT_SPREAD, sigma)
    if pause_after_min(traits) is not None:
        spread *= PAUSES_WIDEN
    return Expected(math.exp(mean), math.exp(mean - spread), math.exp(mean + spread), len(_credible(own)))


def _credible(minutes: Sequence[float]) -> list[float]:
    low, high = CREDIBLE_MIN
    return [m for m in minutes if low <= m <= high]


def _posterior(minutes: Sequence[float], mean: float, prior: float) -> tuple[float, float]:
    """Mean and σ of a normal mean, by its readings and what was expected."""
    logs = [math.log(m) for m in _credible(minutes)]
    weight = len(logs) / VISIT_SPREAD**2
    precision = weight + 1.0 / prior**2
    found = (sum(logs) / VISIT_SPREAD**2 + mean / prior**2) / precision
    return found, math.sqrt(1.0 / precision)
