"""A family fitted into the room this coat leaves, and what it asks that is not there.

Room at a place is the interval from the floor (safe minimum) to the ceiling (the coat that is there
less its uncertainty at the chosen confidence). Nothing is ever planned above the ceiling.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Any, Final

import numpy as np
from scipy.optimize import least_squares
from scipy.special import ndtr

from dapwick.core.arrays import Array, IntArray, frozen
from dapwick.core.head.coat import CONFIDENCE_90, Coat
from dapwick.core.head.skin import Skin
from dapwick.core.head.zones import BARE, ZONES
from dapwick.core.outlines.family import FULLNESS, Family, Parameter
from dapwick.core.shapes import exit_distance
from dapwick.core.solve import HeadSolution

VERSION: Final = "fit-1"
FLOOR_MM: Final = 3.0
"""Depth below which scissored hair on a pet head is not planned; blades go closer, outlines do not."""
SHORT_WEIGHT: Final = 3.0
REMOVED_WEIGHT: Final = 0.2
IDEAL_WEIGHT: Final = 1.0
SIZE_TOLERANCE_MM: Final = 10.0
"""A size this far from the family's usual one costs as much as each other parameter's tolerance."""
SIZE_SPAN_MM: Final = 45.0
SHARE_ALLOWED: Final = 0.05
"""A size holds while at most this share more of the planned skin is bare or runs short than at the fit."""
COARSE_STEP: Final = 4


@dataclass(frozen=True)
class Ground:
    """Everything an outline is fitted on: the head, its skin and its coat."""

    head: HeadSolution
    skin: Skin
    coat: Coat

    @cached_property
    def ceiling_mm(self) -> Array:
        """Depth (V,) that is there with 90 % confidence."""
        return frozen(np.maximum(self.coat.depth_mm - CONFIDENCE_90 * self.coat.sigma_mm, 0.0))

    @cached_property
    def floor_mm(self) -> Array:
        """Least depth (V,) planned: FLOOR_MM, or less where there is less."""
        bare = self.skin.template.zone == ZONES.index(BARE)
        return frozen(np.where(bare, 0.0, np.minimum(FLOOR_MM, self.ceiling_mm)))

    def members(self, family: Family) -> IntArray:
        """Vertices of the zones the family plans."""
        return np.flatnonzero(np.isin(self.skin.template.zone, [ZONES.index(z) for z in family.planned]))


@dataclass(frozen=True)
class Sizes:
    """The main size (mm): smallest (skin plus floor), fitted, largest (inside the coat)."""

    smallest: float
    fitted: float
    largest: float

    def at(self, fullness: float) -> float:
        """-1 is the smallest, 0 the fitted, +1 the largest."""
        end = self.largest if fullness >= 0 else self.smallest
        return self.fitted + abs(fullness) * (end - self.fitted)


@dataclass(frozen=True)
class Outline:
    """A fitted outline. Depths (V,) mm over the skin: wanted by the shape, left after the room has
    spoken, and short of what is wanted. chance_short (V,): that the hair is not there."""

    family: Family
    params: Mapping[str, float]
    size_mm: float
    sizes: Sizes
    wanted_mm: Array
    leave_mm: Array
    short_mm: Array
    chance_short: Array
    ground: Ground
    version: str = VERSION


@dataclass(frozen=True)
class Fit:
    """A family's own choice on this ground: its parameters and the true ends of its main size."""

    params: Mapping[str, float]
    sizes: Sizes


def fit_family(ground: Ground, family: Family) -> Fit:
    """Bounded least squares from the family's default rule; deterministic.

    Minimises hair wanted that is not there and skin left bare (heavy), hair needlessly removed and
    departure from the family's ideals, over a coarse sample of the planned skin.
    """
    members = ground.members(family)[::COARSE_STEP]
    free = [p for p in family.parameters if p.id != FULLNESS]
    usual = family.default_size(ground.head)
    ideal = np.array([usual, *(p.default for p in free)])
    tolerance = np.array([SIZE_TOLERANCE_MM, *(p.tolerance for p in free)])
    share = _even_shares(ground.skin.template.zone[members])

    def wanted(x: Array) -> Array:
        field = family.shape(ground.head, float(x[0]), _named(free, x[1:]))
        return exit_distance(field, ground.skin.vertices_mm[members], ground.skin.outward[members])

    def costs(x: Array) -> Array:
        depth = wanted(x)
        short = np.maximum(depth - ground.ceiling_mm[members], 0) + np.maximum(FLOOR_MM - depth, 0)
        removed = np.maximum(ground.coat.depth_mm[members] - depth, 0)
        return np.concatenate(
            [
                SHORT_WEIGHT * share * short,
                REMOVED_WEIGHT * share * removed,
                IDEAL_WEIGHT * (x - ideal) / tolerance,
            ]
        )

    low = np.array([usual - SIZE_SPAN_MM, *(p.low for p in free)])
    high = np.array([usual + SIZE_SPAN_MM, *(p.high for p in free)])
    x = least_squares(
        costs, ideal, bounds=(low, high), x_scale=tolerance, diff_step=1e-3, xtol=1e-3, ftol=1e-3
    ).x

    def shares(size: float) -> tuple[float, float]:
        """(share of the planned skin left bare, share wanting hair that is not there) at a size."""
        depth = wanted(np.array([size, *x[1:]]))
        return float((depth < FLOOR_MM).mean()), float((depth > ground.ceiling_mm[members]).mean())

    fitted = float(x[0])
    bare, short = (share + SHARE_ALLOWED for share in shares(fitted))
    smallest = _last_size(fitted, float(low[0]), lambda size: shares(size)[0] <= bare)
    largest = _last_size(fitted, float(high[0]), lambda size: shares(size)[1] <= short)
    return Fit({FULLNESS: 0.0, **_named(free, x[1:])}, Sizes(smallest, fitted, largest))


def _even_shares(zone: IntArray) -> Array:
    """Weight (N,) of each sampled place, so that a small zone counts as much as a large one."""
    _, which, count = np.unique(zone, return_inverse=True, return_counts=True)
    return np.asarray(1.0 / np.sqrt(len(count) * count[which]))


def _named(free: Sequence[Parameter], values: Array) -> dict[str, float]:
    return {p.id: float(v) for p, v in zip(free, values, strict=True)}


def _last_size(start: float, end: float, holds: Callable[[float], bool], rounds: int = 7) -> float:
    """The size nearest `end` for which the condition still holds, by bisection from `start`."""
    good, bad = start, end
    for _ in range(rounds):
        middle = (good + bad) / 2
        good, bad = (middle, bad) if holds(middle) else (good, middle)
    return good


def draw_outline(ground: Ground, family: Family, fit: Fit, given: Mapping[str, Any]) -> Outline:
    """The family on this head: the fit's own parameters with the given ones laid over them, what it
    wants everywhere and what can be left."""
    params = {**fit.params, **family.checked(given)}
    size = fit.sizes.at(params[FULLNESS])
    field = family.shape(ground.head, size, params)
    wanted = exit_distance(field, ground.skin.vertices_mm, ground.skin.outward)
    leave = np.clip(wanted, ground.floor_mm, np.maximum(ground.ceiling_mm, ground.floor_mm))
    short = np.maximum(wanted - leave, 0.0)
    spread = np.hypot(ground.coat.sigma_mm, ground.skin.sigma_mm)
    chance = ndtr((leave - ground.coat.depth_mm) / spread)
    return Outline(
        family, params, size, fit.sizes, frozen(wanted), frozen(leave), frozen(short), frozen(chance), ground
    )
