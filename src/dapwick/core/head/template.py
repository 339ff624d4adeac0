"""The template head: a closed mesh of skull, muzzle and jaw without ears, its zones labelled.

Made once from a few shapes in the mean head's proportions by casting a ray from inside along every
corner of a subdivided icosahedron. Ears are not part of it: they are flaps of their own.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache
from typing import Final

import numpy as np

from dapwick.core.basics.arrays import Array, IntArray, frozen, unit
from dapwick.core.basics.marks import INDEX, MARK_IDS
from dapwick.core.basics.shapes import Field, capsule, exit_distance, superellipsoid, union, without
from dapwick.core.head.zones import label
from dapwick.core.solve.prior import mean_head

SUBDIVISIONS: Final = 4
EXACT_ROUNDS: Final = 60
INSIDE_MM: Final = (0.0, -22.0, -12.0)
NOT_ON_SKIN: Final = frozenset({"ear_tip_left", "ear_tip_right"})
CONTROL_MARKS: Final = tuple(m for m in MARK_IDS if m not in NOT_ON_SKIN)


@dataclass(frozen=True)
class Template:
    """vertices_mm (V, 3), faces (F, 3) wound outward, zone (V,) index into zones.ZONES,
    mirror (V,) each vertex's partner over x = 0, control_mm (marks on skin, 3). coarse_faces (F/4, 3) use
    the first quarter of the vertices: enough for an outline that is on the move."""

    vertices_mm: Array
    faces: IntArray
    coarse_faces: IntArray
    zone: IntArray
    mirror: IntArray
    control_mm: Array


def template_field() -> Field:
    """Skin of the mean head, mm, head frame."""
    sides = (1.0, -1.0)
    parts = [
        superellipsoid((0, -46, 2), (40, 49, 38)),
        capsule((0, -4, -22), (0, 41, -24), 26, 17),
        capsule((0, -26, -42), (0, 31, -38), 18, 12),
        capsule((0, -64, -22), (0, -30, -32), 30, 28),
        *(superellipsoid((s * 25, -34, -14), (19, 22, 22)) for s in sides),
    ]
    sockets = [superellipsoid((s * 27, -1, 1), (9.5, 9.5, 9.5)) for s in sides]
    return without(5.0, union(14.0, *parts), *sockets)


@cache
def template() -> Template:
    """The one template; the same arrays every time."""
    directions, faces = _icosphere(SUBDIVISIONS)
    field = template_field()
    inside = np.broadcast_to(np.asarray(INSIDE_MM), directions.shape)
    vertices = inside + exit_distance(field, inside, directions, rounds=EXACT_ROUNDS)[:, None] * directions
    flipped = directions * [-1, 1, 1]
    mirror = np.argmax(flipped @ directions.T, axis=1)
    return Template(
        frozen(vertices),
        faces,
        _icosphere(SUBDIVISIONS - 1)[1],
        label(vertices),
        mirror,
        frozen(_onto(field, _mean_controls())),
    )


def _mean_controls() -> Array:
    return np.array(mean_head()[[INDEX[m] for m in CONTROL_MARKS]])


def _onto(field: Field, points: Array, rounds: int = 8) -> Array:
    """Points moved along the field's slope onto the surface, so that the warp pins skin to marks."""
    for _ in range(rounds):
        slope = np.stack([field(points + e) - field(points - e) for e in np.eye(3) * 0.1], axis=1)
        points = points - field(points)[:, None] * unit(slope)
    return points


def _icosphere(subdivisions: int) -> tuple[Array, IntArray]:
    """Unit directions (V, 3) and faces (F, 3), symmetric over x = 0."""
    g = (1 + np.sqrt(5)) / 2
    corners = [
        (-1, g, 0),
        (1, g, 0),
        (-1, -g, 0),
        (1, -g, 0),
        (0, -1, g),
        (0, 1, g),
        (0, -1, -g),
        (0, 1, -g),
        (g, 0, -1),
        (g, 0, 1),
        (-g, 0, -1),
        (-g, 0, 1),
    ]
    faces = np.array(
        [
            (0, 11, 5),
            (0, 5, 1),
            (0, 1, 7),
            (0, 7, 10),
            (0, 10, 11),
            (1, 5, 9),
            (5, 11, 4),
            (11, 10, 2),
            (10, 7, 6),
            (7, 1, 8),
            (3, 9, 4),
            (3, 4, 2),
            (3, 2, 6),
            (3, 6, 8),
            (3, 8, 9),
            (4, 9, 5),
            (2, 4, 11),
            (6, 2, 10),
            (8, 6, 7),
            (9, 8, 1),
        ]
    )
    vertices = unit(np.array(corners, dtype=float))
    for _ in range(subdivisions):
        edges = np.sort(np.concatenate([faces[:, [0, 1]], faces[:, [1, 2]], faces[:, [2, 0]]]), axis=1)
        unique, inverse = np.unique(edges, axis=0, return_inverse=True)
        middle = len(vertices) + inverse.reshape(3, -1)
        vertices = unit(np.concatenate([vertices, vertices[unique].mean(axis=1)]))
        (a, b, c), (ab, bc, ca) = faces.T, middle
        faces = np.concatenate(
            [np.stack(t, axis=1) for t in ((a, ab, ca), (b, bc, ab), (c, ca, bc), (ab, bc, ca))]
        )
    return vertices, faces
