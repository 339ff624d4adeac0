"""A quantity over the skin as a Gaussian process: known here and there, honest in between.

Near places are alike, and a place and its mirror image softly so (Rasmussen and Williams, 2006).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Final

import numpy as np
from scipy.linalg import cho_factor, cho_solve
from scipy.spatial.distance import cdist

from dapwick.core.basics.arrays import Array, BoolArray, IntArray

MAX_READINGS: Final = 260
REPEATS_MM: Final = 9.0
"""Readings closer than this repeat one another: n of them count as one."""
SAME_PLACE_MM: Final = 14.0
USUAL_SHARE: Final = 0.25
TOO_MUCH_MM: Final = 9.0


@dataclass(frozen=True)
class Readings:
    """at (R,) skin vertices with a value read there and its standard deviation, mm; common_mm: an error that
    all of them share (a photo's camera, a wet coat's thickness), σ. one_sided: what stands in the way makes
    them too large, never too small."""

    at: IntArray
    mm: Array
    sigma_mm: Array
    common_mm: float = 0.0
    one_sided: bool = False


@dataclass(frozen=True)
class Merged:
    """Readings of several parts as one: part (R,) and common_mm (R,) tell which share an error."""

    at: IntArray
    mm: Array
    sigma_mm: Array
    part: IntArray
    common_mm: Array


@dataclass(frozen=True)
class Kernel:
    """How values over the skin go together: sigma_mm (V,) of each before anything is read, reach_mm along
    which neighbours tell of each other, sides_alike the share of that across the middle; together_mm (V,)
    how far all of them may lie off as one (σ): a coat is long or short as a whole."""

    sigma_mm: Array
    reach_mm: float
    sides_alike: float
    together_mm: Array | None = None

    @property
    def whole(self) -> Array:
        """How far all values (V,) may lie off as one (σ), mm."""
        return np.zeros(len(self.sigma_mm)) if self.together_mm is None else self.together_mm


def merged(vertices_mm: Array, parts: Sequence[Readings]) -> Merged:
    """All readings as one, at most MAX_READINGS, without those that others near by show to be in somebody's way;
    neighbours along a silhouette repeat each other. vertices_mm (V, 3)."""
    at = np.concatenate([np.zeros(0, dtype=np.intp), *(p.at for p in parts)])
    mm, sigma = (np.concatenate([np.zeros(0), *(getattr(p, f) for p in parts)]) for f in ("mm", "sigma_mm"))
    sizes = [len(p.at) for p in parts]
    part = np.repeat(np.arange(len(parts)), sizes)
    common = np.repeat([p.common_mm for p in parts], sizes)
    one_sided = np.repeat([p.one_sided for p in parts], sizes).astype(bool)
    keep = ~one_sided if not one_sided.any() else ~(one_sided & _in_the_way(vertices_mm[at], mm))
    keep &= np.arange(len(at)) % max(1, -(-len(at) // MAX_READINGS)) == 0
    at, mm, sigma, part, common = at[keep], mm[keep], sigma[keep], part[keep], common[keep]
    near = cdist(vertices_mm[at], vertices_mm[at]) < REPEATS_MM
    repeats = (near & (part[:, None] == part)).sum(axis=1)
    return Merged(at, mm, sigma * np.sqrt(np.maximum(repeats, 1)), part, common)


def _in_the_way(places_mm: Array, mm: Array) -> BoolArray:
    """Readings far above what most others say of the same place, on this side or the other."""
    folded = places_mm.copy()
    folded[:, 0] = np.abs(folded[:, 0])
    near = cdist(folded, folded) < SAME_PLACE_MM
    said = np.sort(np.where(near, mm, np.inf), axis=1)
    usual = said[np.arange(len(mm)), ((near.sum(axis=1) - 1) * USUAL_SHARE).astype(int)]
    return np.asarray(mm > usual + TOO_MUCH_MM)


@dataclass(frozen=True)
class Posterior:
    """What readings tell of a quantity over the skin (Rasmussen and Williams, 2006, eq. 2.25–26).

    vertices_mm (V, 3); weights (R, R): the inverse covariance of the readings.
    """

    vertices_mm: Array
    like: Kernel
    readings: Merged
    weights: Array

    def value(self, mean: Array) -> Array:
        """Posterior mean (V,) where `mean` was expected."""
        at = self.readings.at
        everywhere = np.arange(len(mean))
        return np.asarray(mean + self._before(everywhere, at) @ self.weights @ (self.readings.mm - mean[at]))

    def sigma(self, at: IntArray | None = None) -> Array:
        """Posterior σ (V,), or at some vertices."""
        at = np.arange(len(self.vertices_mm)) if at is None else at
        across = self._before(at, self.readings.at)
        own = self.like.sigma_mm[at] ** 2 * _self_kernel(self.vertices_mm[at], self.like)
        explained = ((across @ self.weights) * across).sum(axis=1)
        return np.asarray(np.sqrt(np.maximum(own + self.like.whole[at] ** 2 - explained, 0.25)))

    def sigma_with(self, at: IntArray, more: Merged) -> Array:
        """σ at some vertices were there more readings, whatever they said. at (K,); returns (K,) mm."""
        there, new = self._after(at, at).diagonal(), more.at
        across = self._after(at, new)
        heard = self._after(new, new) + _noise(more)
        explained = (across * cho_solve(cho_factor(heard), across.T).T).sum(axis=1)
        return np.asarray(np.sqrt(np.maximum(there - explained, 0.25)))

    def _after(self, a: IntArray, b: IntArray) -> Array:
        """Posterior covariance between two sets of vertices."""
        known = self._before(a, self.readings.at) @ self.weights @ self._before(self.readings.at, b)
        return np.asarray(self._before(a, b) - known)

    def _before(self, a: IntArray, b: IntArray) -> Array:
        """Covariance before anything is read."""
        like = self.like
        near = _kernel(self.vertices_mm[a], self.vertices_mm[b], like)
        return np.asarray(
            near * like.sigma_mm[a, None] * like.sigma_mm[b] + like.whole[a, None] * like.whole[b]
        )


def posterior_from(vertices_mm: Array, readings: Merged, like: Kernel) -> Posterior:
    """What readings tell of a quantity over skin vertices (V, 3) mm."""
    nothing = Posterior(vertices_mm, like, readings, np.zeros((0, 0)))
    if not len(readings.at):
        return nothing
    within = nothing._before(readings.at, readings.at) + _noise(readings)
    return Posterior(
        vertices_mm,
        like,
        readings,
        np.asarray(cho_solve(cho_factor(within), np.eye(len(within)))),
    )


def _noise(readings: Merged) -> Array:
    shared = readings.common_mm[:, None] * readings.common_mm * (readings.part[:, None] == readings.part)
    return np.asarray(np.diag(readings.sigma_mm**2) + shared)


def is_near(vertices_mm: Array, at: IntArray) -> BoolArray:
    """Vertices (V,) close by one that something was read at."""
    if not len(at):
        return np.zeros(len(vertices_mm), dtype=bool)
    return np.asarray(cdist(vertices_mm, vertices_mm[at]).min(axis=1) < REPEATS_MM)


def _kernel(a: Array, b: Array, like: Kernel) -> Array:
    """Kernel of two places: near ones alike, mirrored ones `sides_alike` as much."""
    near = np.exp(-0.5 * cdist(a, b, "sqeuclidean") / like.reach_mm**2)
    mirrored = np.exp(-0.5 * cdist(a, b * [-1, 1, 1], "sqeuclidean") / like.reach_mm**2)
    return np.asarray((near + like.sides_alike * mirrored) / (1 + like.sides_alike))


def _self_kernel(a: Array, like: Kernel) -> Array:
    mirrored = np.exp(-0.5 * (2 * a[:, 0]) ** 2 / like.reach_mm**2)
    return np.asarray((1 + like.sides_alike * mirrored) / (1 + like.sides_alike))
