"""A score over sessions as a line with its interval: what a person can, and how surely that is known.

The score wanders from session to session (a random walk) and every session tells it with an error of its own; both
normal, so that the posterior is exact (Rasmussen and Williams, 2006, ch. 2).
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Final

import numpy as np

from dapwick.core.basics.arrays import Array

NORMAL_90: Final = 1.645
START: Final = 1.5
"""How far people differ before anything is known of one (σ of the score)."""
DRIFT: Final = 0.12
"""How far a score wanders from one session to the next (σ)."""


@dataclass(frozen=True)
class Session:
    """What one session tells: the score and its σ."""

    score: float
    sigma: float


@dataclass(frozen=True)
class Point:
    """The score after a session, low..high its 90 % interval."""

    value: float
    low: float
    high: float


def trend(sessions: Sequence[Session], usual: float = 0.0) -> tuple[Point, ...]:
    """The score at each session, from all of them. usual: what is expected of anybody."""
    if not sessions:
        return ()
    at = np.arange(1.0, len(sessions) + 1)
    prior = START**2 + DRIFT**2 * np.minimum(at[:, None], at)
    noise = np.diag([one.sigma**2 for one in sessions])
    gain = np.linalg.solve(prior + noise, prior).T
    mean = usual + gain @ (np.array([one.score for one in sessions]) - usual)
    sigma = np.sqrt(np.maximum(np.diag(prior - gain @ prior), 1e-9))
    return tuple(
        Point(m, m - NORMAL_90 * s, m + NORMAL_90 * s)
        for m, s in zip(mean.tolist(), sigma.tolist(), strict=True)
    )


def spread_told(misses: Array, each: int = 1) -> Session:
    """How widely misses (N,) of `each` directions spread, as the logarithm of their root mean square."""
    rms = float(np.sqrt(np.mean(np.square(misses) / each)))
    return Session(math.log(max(rms, 1e-6)), 1.0 / math.sqrt(2.0 * each * len(misses)))


def share_told(right: float, of: int) -> Session:
    """A share as its log odds; one more of each kind is added, lest one answer counts for all."""
    p = (right + 1.0) / (of + 2.0)
    return Session(math.log(p / (1.0 - p)), 1.0 / math.sqrt((of + 2.0) * p * (1.0 - p)))


def exp_of(points: Sequence[Point]) -> tuple[Point, ...]:
    """Points of a logarithm as what it is the logarithm of."""
    return tuple(Point(*(math.exp(v) for v in (p.value, p.low, p.high))) for p in points)


def odds_of(points: Sequence[Point]) -> tuple[Point, ...]:
    """Points of log odds as shares."""
    return tuple(Point(*(1 / (1 + math.exp(-v)) for v in (p.value, p.low, p.high))) for p in points)
