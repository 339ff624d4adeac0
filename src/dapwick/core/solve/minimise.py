"""Finding the least of a head's robust sum of squares.

Levenberg and Marquardt's method on the normal equations, the robust loss by reweighting (Nocedal and Wright,
2006, ch. 10; Triggs and others, 2000). A head has a hundred unknowns and a good start: a Cholesky factor of
its information costs far less than the general solver's singular values.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

import numpy as np
from scipy.linalg.lapack import dposv

from dapwick.core.basics.arrays import Array, BoolArray
from dapwick.core.solve.problem import Problem

FIRST_DAMPING: Final = 1e-3
MOST_DAMPING: Final = 1e12


@dataclass(frozen=True)
class Minimum:
    """x: the unknowns found; cost: half the robust sum of squares there; steps tried."""

    x: Array
    cost: float
    steps: int


def minimise(problem: Problem, start: Array, inliers: BoolArray) -> Minimum:
    """The least cost from `start`. inliers (readings,): rows that count; the others were set aside. start
    (unknowns,)."""
    x, scale, damping = start, problem.step_sizes(), FIRST_DAMPING
    cost, gradient, hessian = _local(problem, x, inliers)
    steps = 0
    while steps < problem.tol.rounds and damping <= MOST_DAMPING:
        steps += 1
        step = _damped_step(hessian, gradient, scale, damping)
        moved = _local(problem, x + step, inliers) if step is not None else None
        if step is None or moved is None or moved[0] > cost:
            damping *= 8.0
            continue
        expected = float(-gradient @ step - 0.5 * step @ hessian @ step)
        gain = (cost - moved[0]) / max(expected, 1e-300)
        damping = max(damping * max(1 / 3, 1 - (2 * gain - 1) ** 3), 1e-9)
        settled = cost - moved[0] <= problem.tol.ftol * cost
        x, (cost, gradient, hessian) = x + step, moved
        if settled:
            break
    return Minimum(x, cost, steps)


def _damped_step(hessian: Array, gradient: Array, scale: Array, damping: float) -> Array | None:
    """The step of a damped model, in units of `scale`; None where the model has no floor."""
    scaled = hessian * scale[:, None]
    scaled *= scale
    scaled.ravel()[:: len(scale) + 1] *= 1 + damping
    _, step, failed = dposv(scaled.T, scale * gradient, overwrite_a=True)
    return None if failed else np.asarray(-scale * step)


def cost_of(problem: Problem, x: Array, inliers: BoolArray) -> float:
    """Half the robust sum of squares at x (unknowns,), over the rows (readings,) that count."""
    off = problem.prior_residuals(x)
    return 0.5 * (float(problem.loss(problem.readings(x) ** 2)[0][inliers].sum()) + float(off @ off))


def _local(problem: Problem, x: Array, inliers: BoolArray) -> tuple[float, Array, Array]:
    """Cost, its gradient and its hessian (Gauss and Newton's) at x."""
    r, j = problem.readings_both(x)
    rho, weight = problem.loss(r**2)
    weight = np.where(inliers, weight, 0.0)
    off = problem.prior_residuals(x)
    prior_gradient, prior_hessian = problem.prior_derivatives(x, off)
    cost = 0.5 * (float(rho[inliers].sum()) + float(off @ off))
    gradient = j.T @ (weight * r) + prior_gradient
    return cost, gradient, (weight[:, None] * j).T @ j + prior_hessian
