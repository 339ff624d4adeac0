"""The skin of one measured head: the template warped to its marks, uncertainty carried along."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache
from typing import Final

import numpy as np
from scipy.spatial.distance import cdist

from dapwick.core.basics.arrays import Array, IntArray, frozen, unit
from dapwick.core.basics.marks import INDEX
from dapwick.core.head.template import CONTROL_MARKS, Template, template
from dapwick.core.head.zones import ZONES
from dapwick.core.solve.joint import HeadSolution

BETWEEN_MARKS_SIGMA_MM: Final = 1.8
"""How far skin strays from the warp near a mark."""
STRAY_A_MM: Final = 0.06
"""and for each mm farther from any mark."""
SMOOTHING_ROUNDS: Final = 6
CONTROL_ROWS: Final = np.array([INDEX[m] for m in CONTROL_MARKS])


@dataclass(frozen=True)
class Skin:
    """vertices_mm, outward (V, 3): skin and the combed-out hair direction (unit), head frame.
    sigma_mm (V,): how well the skin is known along that direction; as_one_mm: how far all of it may lie off together
    beyond that (σ), where something common was assumed of it, as how thick wet hair lies."""

    vertices_mm: Array
    outward: Array
    sigma_mm: Array
    template: Template
    as_one_mm: float = 0.0

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
    """How far skin strays from the warp (V,), σ: more the farther from every mark."""
    base = template()
    away = cdist(base.vertices_mm, base.control_mm).min(axis=1)
    return frozen(BETWEEN_MARKS_SIGMA_MM + STRAY_A_MM * away)


@cache
def warp_weights() -> Array:
    """(V, controls): each skin vertex as a weighted sum of the marks.

    A thin-plate spline in 3D (kernel r, with an affine part; Bookstein, 1989) is linear in the marks
    it is sent to, so the weights are the template's own and covariance passes through them.
    """
    base = template()
    n = len(base.control_mm)
    affine = np.column_stack([np.ones(n), base.control_mm])
    system = np.zeros((n + 4, n + 4))
    system[:n, :n] = cdist(base.control_mm, base.control_mm)
    system[:n, n:], system[n:, :n] = affine, affine.T
    at = np.column_stack(
        [cdist(base.vertices_mm, base.control_mm), np.ones(len(base.vertices_mm)), base.vertices_mm]
    )
    return frozen(np.linalg.solve(system, at.T).T[:, :n])


def vertex_normals(vertices: Array, base: Template) -> Array:
    """Outward unit normals, smoothed over neighbours so that combed-out hair does not cross. vertices (V, 3) mm,
    faces (F, 3); returns (V, 3)."""
    corner = vertices[base.faces]
    face_normal = np.cross(corner[:, 1] - corner[:, 0], corner[:, 2] - corner[:, 0])
    normals = np.zeros_like(vertices)
    for k in range(3):
        np.add.at(normals, base.faces[:, k], face_normal)
    normals = unit(normals)
    a, b = base.faces[:, [0, 1, 2]].ravel(), base.faces[:, [1, 2, 0]].ravel()
    for _ in range(SMOOTHING_ROUNDS):
        summed = normals.copy()
        np.add.at(summed, a, normals[b])
        normals = unit(summed)
    return normals
