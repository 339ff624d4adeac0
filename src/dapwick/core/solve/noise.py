"""How steady this hand is, read from its own residuals before anything is called a slip.

Two factors on the standard deviations that are assumed: of what is seen, and of what is felt for. Each is a
variance component (Helmert's, in Förstner's iteration): the squared residuals of a group over what its redundancy
lets one expect, with as many more residuals of the usual hand as its prior is worth.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import TYPE_CHECKING, Final

import numpy as np
from scipy.linalg import cho_factor, cho_solve

from dapwick.core.basics.arrays import Array

if TYPE_CHECKING:
    from dapwick.core.solve.problem import Problem

PRIOR_REDUNDANCY: Final = 5.0
"""So many residuals of a hand as steady as assumed are added to those of this head."""
WINSOR: Final = 2.6
"""A residual counts for no more than so many σ: slips are not the hand's tremble."""
KEPT_OF_A_NORMAL: Final = 0.983
"""What is left of a standard normal's variance when it is cut at WINSOR."""
LEAST_FREE: Final = 0.05
MEAN_OF_CHI: Final = 2.0
"""The mean of an inverse chi-squared lies so many degrees of freedom above its scale."""
STEADIEST, SHAKIEST = 0.4, 3.0


@dataclass(frozen=True)
class Noise:
    """Shares of the assumed standard deviations, of seen and of felt marks."""

    seen: float = 1.0
    felt: float = 1.0


AS_ASSUMED: Final = Noise()


def noise_of(problem: Problem, x: Array) -> Noise:
    """The factors told by the residuals at a solution x (unknowns,) of a problem, on top of the problem's own."""
    r, j = problem.readings_both(x)
    weight = problem.loss(r**2)[1]
    factor = cho_factor(problem.information(x, np.ones(len(r), dtype=bool)))
    lever = weight * (j * cho_solve(factor, j.T).T).sum(axis=1)
    marks = 2 * len(problem.by_kind)
    r, free = r[:marks].reshape(-1, 2), np.maximum(1.0 - lever[:marks], 0.0).reshape(-1, 2)
    felt, seen = (_factor(r[at], free[at]) for at in (problem.by_kind == "felt", problem.by_kind == "seen"))
    return Noise(_within(problem.noise.seen * seen), _within(problem.noise.felt * felt))


def _factor(r: Array, free: Array) -> float:
    """How many times a group's residuals (marks, 2) are what their redundancy lets expect: the mean of what the factor
    may be, not its likeliest, since few residuals tell little of it."""
    if not len(r):
        return 1.0
    cut = np.clip(r / np.sqrt(np.maximum(free, LEAST_FREE)), -WINSOR, WINSOR)
    squares = float((free * cut**2).sum()) / KEPT_OF_A_NORMAL
    return math.sqrt((squares + PRIOR_REDUNDANCY) / (float(free.sum()) + PRIOR_REDUNDANCY - MEAN_OF_CHI))


def _within(factor: float) -> float:
    return float(np.clip(factor, STEADIEST, SHAKIEST))
