"""Quantities over the skin as Gaussian processes: known here and there, honest in between.

Near places are alike, and a place and its mirror image softly so (Rasmussen and Williams, 2006). Several quantities,
as how far the skin is off and how deep the coat is on it, can be told by one reading together: what a dry photo's edge
shows is the sum of both, a comb's depth the coat alone.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
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
    """at (R,) skin vertices with a value read there and its standard deviation, mm; of: how much of each quantity a
    reading shows, each a number or (R,); common_mm: an error that all of them share (a photo's camera, a wet coat's
    thickness), σ; kind, kind_mm: one that all parts of a kind share, those that are still to come too (where the eye
    takes this coat to end), σ. one_sided: what stands in the way makes them too large, never too small."""

    at: IntArray
    mm: Array
    sigma_mm: Array
    common_mm: float = 0.0
    one_sided: bool = False
    of: tuple[Array | float, ...] = (1.0,)
    kind: int = 0
    kind_mm: float = 0.0


@dataclass(frozen=True)
class Merged:
    """Readings of several parts as one: of (quantities, R); part (R,) and common_mm (R,) tell which share an error, and
    so do kind (R,) and kind_mm (R,)."""

    at: IntArray
    mm: Array
    sigma_mm: Array
    part: IntArray
    common_mm: Array
    of: Array
    kind: IntArray
    kind_mm: Array


@dataclass(frozen=True)
class Kernel:
    """How values of one quantity over the skin go together: sigma_mm (V,) of each before anything is read, reach_mm
    along which neighbours tell of each other, sides_alike the share of that across the middle; together_mm (V,)
    how far all of them may lie off as one (σ): a coat is long or short as a whole."""

    sigma_mm: Array
    reach_mm: float
    sides_alike: float
    together_mm: Array | None = None

    @property
    def whole(self) -> Array:
        """How far all values (V,) may lie off as one (σ), mm."""
        return np.zeros(len(self.sigma_mm)) if self.together_mm is None else self.together_mm


def merged(vertices_mm: Array, parts: Sequence[Readings], quantities: int = 1) -> Merged:
    """All readings as one, at most MAX_READINGS of silhouettes, without those that others of their kind near by show
    to be in somebody's way; neighbours along a silhouette repeat each other. vertices_mm (V, 3)."""
    at = np.concatenate([np.zeros(0, dtype=np.intp), *(p.at for p in parts)])
    mm, sigma = (np.concatenate([np.zeros(0), *(getattr(p, f) for p in parts)]) for f in ("mm", "sigma_mm"))
    sizes = [len(p.at) for p in parts]
    part = np.repeat(np.arange(len(parts)), sizes)
    common, kind, kind_mm = (
        np.repeat([getattr(p, f) for p in parts], sizes) for f in ("common_mm", "kind", "kind_mm")
    )
    one_sided = np.repeat([p.one_sided for p in parts], sizes).astype(bool)
    of = np.concatenate(
        [
            np.zeros((quantities, 0)),
            *(np.stack([np.broadcast_to(q, len(p.at)) for q in p.of]) for p in parts),
        ],
        axis=1,
    )
    whole = np.all(of > 0.99, axis=0)
    keep = np.ones(len(at), dtype=bool)
    for alike in (one_sided & whole, one_sided & ~whole):
        keep[alike] = ~_in_the_way(vertices_mm[at[alike]], mm[alike])
    many = np.cumsum(keep & one_sided)
    keep &= ~one_sided | (many % max(1, -(-int(many[-1] if len(many) else 0) // MAX_READINGS)) == 0)
    at, mm, sigma, part = at[keep], mm[keep], sigma[keep], part[keep]
    near = cdist(vertices_mm[at], vertices_mm[at]) < REPEATS_MM
    repeats = (near & (part[:, None] == part)).sum(axis=1)
    sigma = sigma * np.sqrt(np.maximum(repeats, 1))
    return Merged(at, mm, sigma, part, common[keep], of[:, keep], kind[keep], kind_mm[keep])


def _in_the_way(places_mm: Array, mm: Array) -> BoolArray:
    """Readings far above what most others say of the same place, on this side or the other."""
    if not len(mm):
        return np.zeros(0, dtype=bool)
    folded = places_mm.copy()
    folded[:, 0] = np.abs(folded[:, 0])
    near = cdist(folded, folded) < SAME_PLACE_MM
    said = np.sort(np.where(near, mm, np.inf), axis=1)
    usual = said[np.arange(len(mm)), ((near.sum(axis=1) - 1) * USUAL_SHARE).astype(int)]
    return np.asarray(mm > usual + TOO_MUCH_MM)


@dataclass(frozen=True)
class Posterior:
    """What readings tell of quantities over the skin (Rasmussen and Williams, 2006, eq. 2.25–26).

    vertices_mm (V, 3 or more: places that are unlike for another reason lie apart in more than space); like: of each
    quantity; weights (R, R): the inverse covariance of the readings.
    """

    vertices_mm: Array
    like: tuple[Kernel, ...]
    readings: Merged
    weights: Array

    def value(self, mean: Array) -> Array:
        """Posterior means (quantities, V) where `mean` was expected."""
        at, of = self.readings.at, self.readings.of
        told = self.weights @ (self.readings.mm - (of * mean[:, at]).sum(axis=0))
        return np.asarray(mean + self._everywhere @ told)

    def covariance(self, at: IntArray | None = None) -> Array:
        """Posterior covariance (V, quantities, quantities) of the quantities at each vertex, or at some."""
        across = self._everywhere if at is None else self._before(at, self.readings)
        at = np.arange(len(self.vertices_mm)) if at is None else at
        explained = np.einsum("fvr,gvr->vfg", across @ self.weights, across, optimize=True)
        found = -explained
        for i, like in enumerate(self.like):
            own = like.sigma_mm[at] ** 2 + like.whole[at] ** 2
            found[:, i, i] = np.maximum(found[:, i, i] + own, LEAST_VARIANCE_MM2)
        return np.asarray(found)

    def sigma(self, at: IntArray | None = None) -> Array:
        """Posterior σ (quantities, V), or at some vertices."""
        return np.sqrt(np.diagonal(self.covariance(at), axis1=1, axis2=2).T)

    @cached_property
    def _everywhere(self) -> Array:
        """Covariance (quantities, V, R) of all quantities with the readings, before anything is read."""
        return self._before(np.arange(len(self.vertices_mm)), self.readings)

    def sigma_with(self, at: IntArray, more: Merged) -> Array:
        """σ at some vertices were there more readings, whatever they said. at (K,); returns (quantities, K) mm."""
        across = self._after(at, more)
        heard = self._after_between(more, more) + _noise(more)
        explained = across * cho_solve(cho_factor(heard), across.reshape(-1, len(more.at)).T).T.reshape(
            across.shape
        )
        return np.asarray(
            np.sqrt(np.maximum(self.sigma(at) ** 2 - explained.sum(axis=2), LEAST_VARIANCE_MM2))
        )

    def _after(self, a: IntArray, b: Merged) -> Array:
        """Posterior covariance (quantities, K, R) of quantities at vertices with readings."""
        known = self._before(a, self.readings) @ self.weights @ self._between(self.readings, b)
        return np.asarray(self._before(a, b) - known)

    def _after_between(self, a: Merged, b: Merged) -> Array:
        known = self._between(a, self.readings) @ self.weights @ self._between(self.readings, b)
        return np.asarray(self._between(a, b) - known)

    def _before(self, a: IntArray, b: Merged) -> Array:
        """Covariance (quantities, K, R) of quantities at vertices with readings, before anything is read."""
        return np.stack([k * of for k, of in zip(self.alike(a, b.at), b.of, strict=True)])

    def _between(self, a: Merged, b: Merged) -> Array:
        """Covariance (R, R) of readings before anything is read, their own noise apart: what their kind is off by is
        the same whenever they are taken."""
        each = zip(self.alike(a.at, b.at), a.of, b.of, strict=True)
        of_a_kind = a.kind_mm[:, None] * b.kind_mm * (a.kind[:, None] == b.kind)
        return np.asarray(sum(of_a[:, None] * k * of_b for k, of_a, of_b in each) + of_a_kind)

    def alike(self, a: IntArray, b: IntArray) -> list[Array]:
        """Covariance (A, B) of each quantity between vertices, before anything is read."""
        alike: dict[float, tuple[Array, Array]] = {}
        found = []
        for like in self.like:
            if like.reach_mm not in alike:
                alike[like.reach_mm] = _alike(self.vertices_mm[a], self.vertices_mm[b], like.reach_mm)
            near, mirrored = alike[like.reach_mm]
            share = near + like.sides_alike * mirrored
            share = share / np.sqrt(self._own(like, a)[:, None] * self._own(like, b))
            found.append(
                share * like.sigma_mm[a, None] * like.sigma_mm[b] + like.whole[a, None] * like.whole[b]
            )
        return found

    def _own(self, like: Kernel, at: IntArray) -> Array:
        """How alike (K,) places are to themselves and their mirror images: those on the middle line are both."""
        across = np.exp(-0.5 * (2 * self.vertices_mm[at, 0]) ** 2 / like.reach_mm**2)
        return np.asarray(1.0 + like.sides_alike * across)


LEAST_VARIANCE_MM2: Final = 0.25


def posterior_from(vertices_mm: Array, readings: Merged, *like: Kernel) -> Posterior:
    """What readings tell of quantities over skin vertices (V, 3) mm."""
    nothing = Posterior(vertices_mm, like, readings, np.zeros((0, 0)))
    if not len(readings.at):
        return nothing
    within = nothing._between(readings, readings) + _noise(readings)
    weights = cho_solve(cho_factor(within), np.eye(len(within)))
    return Posterior(vertices_mm, like, readings, np.asarray(weights))


def _noise(readings: Merged) -> Array:
    shared = readings.common_mm[:, None] * readings.common_mm * (readings.part[:, None] == readings.part)
    return np.asarray(np.diag(readings.sigma_mm**2) + shared)


def _alike(a: Array, b: Array, reach_mm: float) -> tuple[Array, Array]:
    """How alike two sets of places are, and one with the other's mirror image."""
    near = np.exp(-0.5 * cdist(a, b, "sqeuclidean") / reach_mm**2)
    other_side = b.copy()
    other_side[:, 0] *= -1
    mirrored = np.exp(-0.5 * cdist(a, other_side, "sqeuclidean") / reach_mm**2)
    return near, mirrored
