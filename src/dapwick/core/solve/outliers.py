"""Slips of the hand: marks that all the rest of a head contradicts, found and set aside.

A slip on a head seen in few photos hides: the head bends until the slip fits. It is found by leaving out each
suspicious mark in turn and seeing how much better the rest fits without it (deleted residuals, Cook and
Weisberg, 1982; one Newton step to choose whom to suspect, the full robust cost to convict).
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Final

import numpy as np
from scipy.linalg import cho_factor, cho_solve

from dapwick.core.basics.arrays import Array, BoolArray, IntArray
from dapwick.core.solve.minimise import Minimum, cost_of, minimise
from dapwick.core.solve.problem import Problem

SUSPECTS: Final = 14
TRIED: Final = 3
TRIAL_STEPS: Final = 3
WORTH_TRYING: Final = 0.5
"""Share of the convicting gain from which a suspect is tried."""
MOST_OUTLIERS: Final = 5
NUMBERS_LIKELIER: Final = 0.7
SUSPICIOUS: Final = 2.2
DOUBTFUL: Final = 1.7
"""A mark nearer than this to where the rest would put it is no suspect (σ)."""
LEAST_REDUNDANCY: Final = 0.01
"""A mark that nothing else tells of cannot be called a slip."""


def without_outliers(problem: Problem, start: Array) -> tuple[Minimum, BoolArray]:
    """The least cost from a start (unknowns,) with slips set aside, the worst first, so that a slip's neighbours are
    not blamed for it; and which rows of the readings still count. The rows that count: (readings,)."""
    inliers = np.ones(problem.robust_rows, dtype=bool)
    found = minimise(problem, start, inliers)
    steps = found.steps
    for _ in range(MOST_OUTLIERS):
        better = _without_worst(problem, found, inliers)
        if better is None:
            break
        inliers = better
        found = minimise(problem, found.x, inliers)
        steps += found.steps
    return replace(found, steps=steps), inliers


def _without_worst(problem: Problem, found: Minimum, inliers: BoolArray) -> BoolArray | None:
    """The rows that count without the worst slip; None where nothing is one."""
    convicting = problem.tol.outlier_at**2 / 2
    first_scale = 2 * len(problem.photo_of)
    suspects = _suspects(problem, found.x, inliers)
    if not suspects:
        return None
    at_once = np.array([cost_of(problem, found.x + s.step, _but(inliers, s.rows)) for s in suspects])
    promising = found.cost - at_once > WORTH_TRYING * convicting
    # One step says little where the whole head changes size, so a suspicious number is always tried.
    numbers = [s.rows[0] >= first_scale and s.off > SUSPICIOUS**2 for s in suspects]
    tried = [i for i in np.argsort(at_once) if promising[i]][:TRIED]
    quick = problem.sooner(TRIAL_STEPS)
    best, most = None, 0.0
    for i in {*tried, *np.flatnonzero(numbers).tolist()}:
        kept = _but(inliers, suspects[i].rows)
        gain = found.cost - minimise(quick, found.x + suspects[i].step, kept).cost
        is_number = suspects[i].rows[0] >= first_scale
        if gain < (problem.tol.number_at**2 / 2 if is_number else convicting):
            continue
        # A number is mistyped more easily than a mark slips to just where it would explain the number.
        gain *= 1.0 / NUMBERS_LIKELIER if is_number else 1.0
        if gain > most:
            best, most = kept, gain
    return best


def _but(inliers: BoolArray, rows: IntArray) -> BoolArray:
    kept = inliers.copy()
    kept[rows] = False
    return kept


@dataclass(frozen=True)
class Suspect:
    """Rows of the readings that may be one slip; off: squared distance from where all the rest would put
    them, in its σ; step: the step that the head takes without them."""

    rows: IntArray
    off: float
    step: Array


def _suspects(problem: Problem, x: Array, inliers: BoolArray) -> list[Suspect]:
    """The placed marks farthest off, and every hand measure and the scale card while another tells the
    size."""
    readings, rows = problem.readings_both(x)
    weight = problem.loss(readings**2)[1] * inliers
    factor = cho_factor(problem.informed(x, inliers, readings, rows))
    spread = cho_solve(factor, rows.T).T
    marks = np.arange(2 * len(problem.photo_of)).reshape(-1, 2)
    scales = _scales(problem, inliers)
    found = [s for which in scales for s in _deleted(which[None], readings, rows, spread, weight)]
    of_marks = _deleted(marks[inliers[marks[:, 0]]], readings, rows, spread, weight)
    return found + sorted((s for s in of_marks if s.off > DOUBTFUL**2), key=lambda s: -s.off)[:SUSPECTS]


def _deleted(which: IntArray, readings: Array, rows: Array, spread: Array, weight: Array) -> list[Suspect]:
    """Suspects from groups of rows (groups, rows of each). spread: covariance times the rows."""
    r, w, own = readings[which], weight[which], np.eye(which.shape[1])
    lever = rows[which] @ spread[which].swapaxes(1, 2)
    left = np.linalg.inv(own * (1.0 + LEAST_REDUNDANCY) - lever * w[:, None, :])
    deleted = np.einsum("gab,gb->ga", left, r)
    off = np.einsum("ga,gab,gb->g", deleted, np.linalg.inv(own + left @ lever), deleted)
    steps = np.einsum("gau,ga->gu", spread[which], w * deleted)
    return [Suspect(*one) for one in zip(which, off.tolist(), steps, strict=True)]


def _scales(problem: Problem, inliers: BoolArray) -> list[IntArray]:
    """Rows of the readings in mm that may be wrong: each hand measure, and all cards at once, for they are
    one print; none while only one of these still counts."""
    first, last = 2 * len(problem.photo_of), problem.robust_rows
    hands = [np.array([first + i]) for i in range(len(problem.measures))]
    cards = [np.arange(last - len(problem.carded), last)] if len(problem.carded) else []
    counting = [which for which in hands + cards if inliers[which].all()]
    return counting if len(counting) > 1 else []
