"""The minimiser against a general one that knows nothing of heads."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from scipy.optimize import minimize

from dapwick.core.solve.minimise import cost_of, minimise
from dapwick.core.solve.problem import Problem, Tolerances
from simheads import random_head


def problem_of(seed: int, views: tuple[str, ...] = ("front", "left")) -> Problem:
    given = random_head(seed, views).given
    return Problem(given.photos, given.hand_measures, given.prior, Tolerances())


def every(problem: Problem) -> np.ndarray:
    return np.ones(problem.robust_rows, dtype=bool)


@pytest.mark.parametrize("seed", range(3))
def test_no_general_method_finds_a_lower_cost(seed: int) -> None:
    problem = problem_of(seed)
    found = minimise(problem, problem.start(), every(problem))
    scale = problem.step_sizes()
    general = minimize(
        lambda u: cost_of(problem, found.x + u * scale, every(problem)), np.zeros(len(found.x))
    )
    assert general.fun >= found.cost * (1 - 1e-4)


@pytest.mark.parametrize("seed", range(3))
def test_it_stands_where_the_cost_is_flat(seed: int) -> None:
    """Steps along every unknown, each way, raise the cost."""
    problem = problem_of(seed)
    found = minimise(problem, problem.start(), every(problem))
    for unknown, step in enumerate(problem.step_sizes() * 0.05):
        for way in (-step, step):
            x = found.x.copy()
            x[unknown] += way
            assert cost_of(problem, x, every(problem)) >= found.cost * (1 - 1e-6)


def test_from_another_start_it_comes_to_the_same_place() -> None:
    problem = problem_of(5, ("front", "left", "right", "top"))
    found = minimise(problem, problem.start(), every(problem))
    stray = problem.start() + 0.3 * problem.step_sizes() * np.random.default_rng(1).normal(size=len(found.x))
    again = minimise(problem, stray, every(problem))
    assert again.cost == pytest.approx(found.cost, rel=1e-4)


def test_rows_that_are_set_aside_pull_no_more() -> None:
    problem = problem_of(2)
    some = every(problem)
    some[:6] = False
    fewer = minimise(problem, problem.start(), some)
    assert fewer.cost < minimise(problem, problem.start(), every(problem)).cost
    assert cost_of(problem, fewer.x, some) == pytest.approx(fewer.cost)


def test_it_stops_when_told_to() -> None:
    problem = problem_of(1)
    once = Problem(problem.photos, problem.measures, problem.prior, replace(Tolerances(), rounds=1))
    assert minimise(once, once.start(), every(once)).steps == 1
