"""What somebody always does a little too much or too little: a lean by thing asked, over answers.

An answer is the person's mean, plus the thing's own, plus noise; each normal. How widely a person's answers scatter is
found from the answers themselves (empirical Bayes; Gelman and others, Bayesian Data Analysis, 3rd ed., ch. 5).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Final

import numpy as np

from dapwick.core.basics.arrays import Array, IntArray
from dapwick.core.practice.trend import NORMAL_90

SCATTER_DOF: Final = 4.0
ROUNDS: Final = 4


@dataclass(frozen=True)
class Answer:
    """How far off an answer about a thing was, too much more than 0."""

    thing: str
    off: float


@dataclass(frozen=True)
class Usual:
    """What is expected of anybody, in the answers' unit: mean: how far people lean all over, thing: at one thing,
    scatter: how widely answers scatter (σ); told_beyond: a lean is told when its interval leaves out so much."""

    mean: float
    thing: float
    scatter: float
    told_beyond: float


@dataclass(frozen=True)
class Lean:
    """How far off answers about a thing are all in all, low..high its 90 % interval; told: surely enough to say."""

    thing: str
    off: float
    low: float
    high: float
    answers: int
    told: bool

    @property
    def width(self) -> float:
        return self.high - self.low


def leans(answers: Sequence[Answer], usual: Usual, things: Sequence[str] = ()) -> tuple[Lean, ...]:
    """The lean at every thing that was asked, and at those in `things` that may be; the surest first."""
    every = list(dict.fromkeys((*(a.thing for a in answers), *things)))
    if not every:
        return ()
    at = np.array([every.index(a.thing) for a in answers], dtype=np.intp)
    off = np.array([a.off for a in answers])
    prior = usual.mean**2 + usual.thing**2 * np.eye(len(every))
    scatter = usual.scatter
    mean, covariance = np.zeros(len(every)), prior
    for _ in range(ROUNDS if len(off) else 0):
        mean, covariance = _posterior(prior, at, off, scatter)
        left = float(((off - mean[at]) ** 2 + np.diag(covariance)[at]).sum())
        scatter = float(np.sqrt((SCATTER_DOF * usual.scatter**2 + left) / (SCATTER_DOF + len(off))))
    sigma = np.sqrt(np.diag(covariance))
    found = [
        _lean(thing, float(m), float(s), int((at == i).sum()), usual)
        for i, (thing, m, s) in enumerate(zip(every, mean, sigma, strict=True))
    ]
    return tuple(sorted(found, key=lambda one: -abs(one.off) / one.width))


def _posterior(prior: Array, at: IntArray, off: Array, scatter: float) -> tuple[Array, Array]:
    heard = prior[at[:, None], at] + scatter**2 * np.eye(len(off))
    gain = np.linalg.solve(heard, prior[at]).T
    return gain @ off, prior - gain @ prior[at]


def _lean(thing: str, off: float, sigma: float, answers: int, usual: Usual) -> Lean:
    low, high = off - NORMAL_90 * sigma, off + NORMAL_90 * sigma
    return Lean(thing, off, low, high, answers, low > usual.told_beyond or high < -usual.told_beyond)
