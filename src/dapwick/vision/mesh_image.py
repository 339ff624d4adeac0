"""A meshed surface as a picture: which triangle each pixel shows, and what its corners carry there."""

from __future__ import annotations

from typing import Final

import cv2
import numpy as np

from dapwick.core.basics.arrays import Array, IntArray

SHIFT: Final = 4
"""Bits after the point in which corners are handed to the rasteriser."""
FLAT_PX: Final = 1e-6


def faces_seen(places_px: Array, away_mm: Array, faces: IntArray, shape: tuple[int, int]) -> IntArray:
    """The face (height, width) that each pixel shows, -1 where none. places_px (V, 2), away_mm (V,): how far from the
    camera; faces (F, 3). Drawn from the farthest to the nearest."""
    seen = np.full(shape, -1, np.int32)
    corners = places_px[faces]
    order = np.argsort(-away_mm[faces].mean(axis=1))
    known = np.asarray(np.isfinite(corners).all(axis=(1, 2)))
    order = order[known[order]]
    fixed = np.round(np.nan_to_num(corners) * (1 << SHIFT)).astype(np.int32)
    for face in order.tolist():
        cv2.fillConvexPoly(seen, fixed[face], face, cv2.LINE_8, SHIFT)
    return np.asarray(seen, dtype=np.intp)


def carried(
    seen: IntArray, rows: IntArray, columns: IntArray, places_px: Array, faces: IntArray, values: Array
) -> Array:
    """What vertices carry (V, K), at pixels (N,) that show a face: (N, K), by the pixel's place in its triangle."""
    corners = faces[seen[rows, columns]]
    a, b, c = (places_px[corners[:, i]] for i in range(3))
    at = np.column_stack([columns, rows]) - a
    one, two = b - a, c - a
    area = _cross(one, two)
    area = np.where(np.abs(area) < FLAT_PX, FLAT_PX, area)
    second = np.clip(_cross(at, two) / area, 0.0, 1.0)[:, None]
    third = np.clip(_cross(one, at) / area, 0.0, 1.0)[:, None]
    first = 1.0 - second - third
    return np.asarray(
        first * values[corners[:, 0]] + second * values[corners[:, 1]] + third * values[corners[:, 2]]
    )


def _cross(a: Array, b: Array) -> Array:
    return np.asarray(a[:, 0] * b[:, 1] - a[:, 1] * b[:, 0])
