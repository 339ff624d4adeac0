"""The skin of one measured head: the template warped to its marks, uncertainty carried along."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from typing import Final

import numpy as np
from scipy.sparse import csr_array
from scipy.spatial.distance import cdist

from dapwick.core.basics.arrays import Array, IntArray, frozen, unit
from dapwick.core.basics.marks import INDEX
from dapwick.core.head.template import CONTROL_MARKS, Template, template
from dapwick.core.head.zones import ZONES
from dapwick.core.solve.joint import HeadSolution

NEAR_A_MARK_MM: Final = 1.8
"""How far skin strays from the warp at a mark."""
BETWEEN_MM: Final[Mapping[str, float]] = {
    "crown": 7.0, "back_skull": 7.0, "nape": 16.0, "visor": 7.0, "brow": 7.0, "stop": 4.0, "inner_corner": 4.0,
    "temple": 6.0, "bridge": 5.0, "muzzle_side": 4.0, "chin": 6.5, "cheek": 4.5, "jaw": 4.5, "throat": 10.0,
    "bare": 4.5,
}  # fmt: skip
"""and away from every mark (σ): no less than what a kind of heads that is left out needs, found from the others
(tools/skin_truth.py); more over crown, visor and back, where an outside test found vaults differ most, and at the nape,
where a neck begins this high on one dog and that low on another."""
FAR_MM: Final = 15.0
"""So far from every mark it strays in full."""
ROUNDED_MM: Final = 6.0
SMOOTHING_ROUNDS: Final = 6
CONTROL_ROWS: Final = np.array([INDEX[m] for m in CONTROL_MARKS])


@dataclass(frozen=True)
class Skin:
    """vertices_mm, outward (V, 3): skin and the combed-out hair direction (unit), head frame.
    sigma_mm (V,): how well the skin is known along that direction."""

    vertices_mm: Array
    outward: Array
    sigma_mm: Array
    template: Template

    def in_zone(self, zone: str, side: str | None = None) -> IntArray:
        """Vertex indices of a zone, of one side when given (the dog's own). (K,)."""
        return members(zone, side)


@cache
def members(zone: str, side: str | None) -> IntArray:
    """Vertex indices of a zone of the template, of one side when given. (K,)."""
    base = template()
    inside = base.zone == ZONES.index(zone)
    if side:
        inside = inside & ((base.vertices_mm[:, 0] > 0) == (side == "right"))
    found = np.flatnonzero(inside)
    found.setflags(write=False)
    return found


def skin_of(head: HeadSolution) -> Skin:
    """Warp the template to a solved head."""
    base = template()
    weights = warp_weights()
    vertices = weights @ head.points_mm[CONTROL_ROWS]
    outward = vertex_normals(vertices, base)
    rows = (3 * CONTROL_ROWS[:, None] + np.arange(3)).ravel()
    controls = head.covariance[np.ix_(rows, rows)]
    pull = (weights[:, :, None] * outward[:, None, :]).reshape(len(vertices), -1)
    spread = ((pull @ controls) * pull).sum(axis=1)
    sigma = np.sqrt(np.maximum(spread, 0.0) + between_marks_mm() ** 2)
    return Skin(frozen(vertices), frozen(outward), frozen(sigma), base)


@cache
def between_marks_mm() -> Array:
    """How far skin strays from the warp (V,), σ: more the farther from every mark, in each zone as its shape varies."""
    far = np.array([BETWEEN_MM[z] for z in ZONES])[template().zone]
    spread = np.hypot(NEAR_A_MARK_MM, far * np.minimum(away_from_marks_mm() / FAR_MM, 1.0))
    return frozen(np.asarray(spread, dtype=np.float64))


@cache
def away_from_marks_mm() -> Array:
    """How far each vertex (V,) of the template lies from its nearest mark."""
    base = template()
    return frozen(np.asarray(cdist(base.vertices_mm, base.control_mm).min(axis=1)))


@cache
def warp_weights() -> Array:
    """(V, controls): each skin vertex as a weighted sum of the marks.

    A thin-plate spline in 3D (kernel r, with an affine part; Bookstein, 1989) is linear in the marks
    it is sent to, so the weights are the template's own and covariance passes through them. Rounded at each mark
    (Hardy's multiquadric), where r alone would leave a peak that no skull has.
    """
    base = template()
    n = len(base.control_mm)
    affine = np.column_stack([np.ones(n), base.control_mm])
    system = np.zeros((n + 4, n + 4))
    system[:n, :n] = _rounded(cdist(base.control_mm, base.control_mm))
    system[:n, n:], system[n:, :n] = affine, affine.T
    at = np.column_stack(
        [_rounded(cdist(base.vertices_mm, base.control_mm)), np.ones(len(base.vertices_mm)), base.vertices_mm]
    )
    weights = np.linalg.solve(system, at.T).T[:, :n]
    return frozen(np.asarray(weights, dtype=np.float64))


def _rounded(apart_mm: Array) -> Array:
    return np.asarray(np.hypot(apart_mm, ROUNDED_MM))


def vertex_normals(vertices: Array, base: Template) -> Array:
    """Outward unit normals, smoothed over neighbours so that combed-out hair does not cross. vertices (V, 3) mm,
    faces (F, 3); returns (V, 3)."""
    corner = vertices[base.faces]
    gathered, neighbours = _meshed()
    normals = unit(gathered @ np.cross(corner[:, 1] - corner[:, 0], corner[:, 2] - corner[:, 0]))
    for _ in range(SMOOTHING_ROUNDS):
        normals = unit(normals + neighbours @ normals)
    return np.asarray(normals)


def smoothed(values: Array, rounds: int) -> Array:
    """Values (V,) over the skin, evened out with their neighbours' so many times."""
    neighbours = _meshed()[1]
    valence = np.asarray(neighbours.sum(axis=1)).ravel()
    found = np.asarray(values, dtype=float)
    for _ in range(rounds):
        found = (found + neighbours @ found / valence) / 2
    return np.asarray(found)


@cache
def _meshed() -> tuple[csr_array, csr_array]:
    """What each vertex of the template gathers: its faces (V, F), and its neighbours (V, V)."""
    base = template()
    many, faces = len(base.vertices_mm), base.faces
    each = np.arange(len(faces)).repeat(3)
    gathered = csr_array((np.ones(faces.size), (faces.ravel(), each)), shape=(many, len(faces)))
    a, b = faces.ravel(), np.roll(faces, -1, axis=1).ravel()
    return gathered, csr_array((np.ones(len(a)), (a, b)), shape=(many, many))
