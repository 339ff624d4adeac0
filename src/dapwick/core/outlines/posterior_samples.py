"""An outline's lengths over many heads and coats that the readings allow: how sure each is, and the chance
that the plan runs out of hair.

Each draw moves the marks by the solve's covariance, takes skin and family's shape along, lets the coat stand more or
less, and lets skin and coat stray smoothly by what is left of their own uncertainty, as far as they go together (random
Fourier features of a squared exponential kernel; Rahimi and Recht, 2007). Seeds are common, so that two settings differ
by setting alone.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache
from typing import Final

import numpy as np

from dapwick.core.basics.arrays import Array, IntArray, frozen
from dapwick.core.basics.marks import MARK_IDS
from dapwick.core.head.coat import TUFTS_MM
from dapwick.core.head.skin import CONTROL_ROWS, warp_weights
from dapwick.core.head.stand import LEAST, SHORT_STANDS, length_of
from dapwick.core.head.template import template
from dapwick.core.head.zones import BARE, ZONES
from dapwick.core.outlines.face import Face
from dapwick.core.outlines.fit import Outline
from dapwick.core.outlines.ground import FLOOR_MM, Ground, room_left, wanted_on, with_said

DRAWS: Final = 64
SEED: Final = 20_260
A_ZONE: Final = 10
"""Places sampled in each zone of each side."""
FEATURES: Final = 40
ROUNDS: Final = 8
"""Steps along a hair: a tenth of a millimetre is enough where a draw strays by millimetres."""
REACH_MM: Final = 26.0
AS_ONE_MM: Final = 2.0
"""How far all of the skin may lie off together (σ): the template's own shape."""
INTERVAL: Final = (0.05, 0.95)
RUNS_OUT_SHARE: Final = 0.25
"""A zone runs out where more than this share of it lacks the planned hair: that is seen."""


@dataclass(frozen=True)
class PosteriorSamples:
    """Of each sampled place (S,): its vertex, and over all draws (D, S) the length (mm) that the family would
    leave there on the head drawn; out (D, S): the planned depth is not there."""

    at: IntArray
    length_mm: Array
    out: Array

    def interval(self, members: IntArray) -> tuple[float, float] | None:
        """90 % interval of the median length over some vertices; None where none was sampled. members (K,): their
        indices; mm."""
        here = np.isin(self.at, members)
        if not here.any():
            return None
        low, high = np.quantile(np.median(self.length_mm[:, here], axis=1), INTERVAL)
        return float(low), float(high)

    def chance_out(self, groups: list[IntArray]) -> float:
        """Chance that in any of these groups of vertices the plan runs out of hair. groups: vertices (K,)."""
        runs_out = np.zeros(len(self.out), dtype=bool)
        for members in groups:
            here = np.isin(self.at, members)
            if here.any():
                runs_out |= self.out[:, here].mean(axis=1) > RUNS_OUT_SHARE
        return float(runs_out.mean())


@cache
def _places() -> IntArray:
    """Even places of every zone and side of the template."""
    base = template()
    found = []
    for zone in range(len(ZONES)):
        if ZONES[zone] == BARE:
            continue
        for side in (-1, 1):
            of = np.flatnonzero((base.zone == zone) & (np.sign(base.vertices_mm[:, 0] + 1e-9) == side))
            found.append(of[:: max(1, len(of) // A_ZONE)][:A_ZONE])
    return np.concatenate(found)


@cache
def _fields() -> tuple[Array, Array, Array]:
    """Standard draws: marks (D, 3·marks), and two smooth unit fields (D, S) for skin and coat."""
    rng = np.random.default_rng(SEED)
    at = template().vertices_mm[_places()]
    marks = rng.standard_normal((DRAWS, 3 * len(MARK_IDS)))
    fields = []
    for _ in range(2):
        waves = rng.standard_normal((3, FEATURES)) / REACH_MM
        angle = at @ waves
        features = np.concatenate([np.cos(angle), np.sin(angle)], axis=1) / np.sqrt(FEATURES)
        fields.append(rng.standard_normal((DRAWS, 2 * FEATURES)) @ features.T)
    return frozen(marks), frozen(fields[0]), frozen(fields[1])


def posterior_samples(outline: Outline) -> PosteriorSamples:
    """The outline's lengths over DRAWS heads and coats."""
    ground, at = outline.ground, _places()
    marks, skin_field, coat_field = _fields()
    covariance = ground.head.covariance
    root = np.linalg.cholesky(covariance + 1e-6 * np.eye(len(covariance)))
    points = ground.head.points_mm + (marks @ root.T).reshape(DRAWS, -1, 3)
    off = _skin_off(ground, at, points, skin_field)
    coats = np.maximum(ground.coat.depth_mm[at] + _coat_off(ground, at, off, coat_field), 0.0)
    lengths = np.empty_like(coats)
    usual, strays = ground.coat.stand[at], ground.coat.stand_sigma[at]
    stands = np.random.default_rng(SEED + 3).standard_normal(DRAWS)
    for d in range(DRAWS):
        stand = np.clip(usual + strays * stands[d], LEAST, SHORT_STANDS)
        lengths[d] = length_of(_left(outline, points[d], at, off[d], coats[d]), stand)
    # Hair shorter than the floor is left as it is: nobody sees that the plan ran out there.
    out = outline.leave_mm[at] > np.maximum(coats, FLOOR_MM) + FLOOR_MM * 0.1
    return PosteriorSamples(at, frozen(lengths), frozen(out.astype(float)))


def _coat_off(ground: Ground, at: IntArray, skin_off: Array, field: Array) -> Array:
    """How much deeper (D, S) each draw's coat is: skin drawn farther out has less coat over it, as far as edges show
    both together."""
    sigma = np.sqrt(np.maximum(ground.coat.sigma_mm[at] ** 2 - TUFTS_MM**2, 0.25))
    with_skin = ground.coat.with_skin[at]
    told = with_skin * sigma * skin_off / np.maximum(ground.skin.sigma_mm[at], 0.5)
    return np.asarray(told + np.sqrt(1.0 - with_skin**2) * sigma * field)


def _skin_off(ground: Ground, at: IntArray, points: Array, field: Array) -> Array:
    """How far (D, S) each draw's skin lies outward of the expected: by its marks as far as they tell of it,
    the rest smoothly at random."""
    weights, outward = warp_weights()[at], ground.skin.outward[at]
    moved = points[:, CONTROL_ROWS] - ground.head.points_mm[CONTROL_ROWS]
    along = np.einsum("sc,dck,sk->ds", weights, moved, outward)
    together = np.random.default_rng(SEED + 1).standard_normal(len(points))
    by_marks, whole = along.std(axis=0), ground.skin.sigma_mm[at]
    kept = np.minimum(1.0, whole / np.maximum(by_marks, 1e-6))
    rest = np.sqrt(np.maximum(whole**2 - (kept * by_marks) ** 2, 0.0))
    return np.asarray(kept * along + rest * field + AS_ONE_MM * together[:, None])


def _left(outline: Outline, points: Array, at: IntArray, off: Array, coat: Array) -> Array:
    """Depth (S,) that the outline's setting leaves on one drawn head with its own coat."""
    ground = outline.ground
    design = outline.family.design(
        Face(points, ground.coat_type), outline.size_mm, outline.params, outline.schools
    )
    outward = ground.skin.outward[at]
    vertices = ground.skin.vertices_mm[at] + off[:, None] * outward
    free = ground.free_mm(design)[at]
    shape = wanted_on(design, vertices, outward, coat, ground.coat.stand[at], free, ROUNDS)
    wanted = with_said(shape, ground.said_mm(outline.fit.wishes.said_mm)[at], ground.coat.stand[at], free)
    return room_left(wanted, np.minimum(FLOOR_MM, coat), coat, free)
