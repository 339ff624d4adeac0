"""How steady this hand is, read from its own residuals before anything is called a slip.

Factors on the standard deviations that are assumed: of what is seen, of what is felt for, and of what moves from photo
to photo, ears' tips and a mouth that opens. Each is a
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
MOST_MOVED: Final = 5.0
"""What moves may do so by far more than it usually does."""
PRIOR_OF_MOVING: Final = 3.0


@dataclass(frozen=True)
class Noise:
    """Shares of the assumed standard deviations: of seen and of felt marks, of ears' tips and of the mouth."""

    seen: float = 1.0
    felt: float = 1.0
    tips: float = 1.0
    mouth: float = 1.0


AS_ASSUMED: Final = Noise()


def noise_of(problem: Problem, x: Array) -> Noise:
    """The factors told by the residuals at a solution x (unknowns,) of a problem, on top of the problem's own."""
    r, j = problem.readings_both(x)
    weight = problem.loss(r**2)[1]
    factor = cho_factor(problem.informed(x, np.ones(len(r), dtype=bool), r, j))
    lever = weight * (j * cho_solve(factor, j.T).T).sum(axis=1)
    marks = 2 * len(problem.by_kind)
    r, free = r[:marks].reshape(-1, 2), np.maximum(1.0 - lever[:marks], 0.0).reshape(-1, 2)
    found = {}
    for kind, (prior, most) in GROUPS.items():
        at = problem.by_kind == kind
        found[kind] = float(
            np.clip(getattr(problem.noise, kind) * _factor(r[at], free[at], prior), STEADIEST, most)
        )
    return Noise(**found)


GROUPS: Final = {
    "seen": (PRIOR_REDUNDANCY, SHAKIEST),
    "felt": (PRIOR_REDUNDANCY, SHAKIEST),
    "tips": (PRIOR_OF_MOVING, MOST_MOVED),
    "mouth": (PRIOR_OF_MOVING, MOST_MOVED),
}
"""What a group's prior is worth, and the most its factor can be."""


def _factor(r: Array, free: Array, prior: float) -> float:
    """How many times a group's residuals (marks, 2) are what their redundancy lets expect: the mean of what the factor
    may be, not its likeliest, since few residuals tell little of it."""
    if not len(r):
        return 1.0
    cut = np.clip(r / np.sqrt(np.maximum(free, LEAST_FREE)), -WINSOR, WINSOR)
    squares = float((free * cut**2).sum()) / KEPT_OF_A_NORMAL
    return math.sqrt((squares + prior) / (float(free.sum()) + prior - MEAN_OF_CHI))
