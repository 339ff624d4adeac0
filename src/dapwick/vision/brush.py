"""Correcting a traced edge: a stroke of the brush adds to the dog or takes away from it."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Final

import cv2
import numpy as np
from numpy.typing import NDArray

from dapwick.core.basics.arrays import Array, BoolArray
from dapwick.core.basics.errors import BadInput
from dapwick.vision.edge import contour

LONGEST_SIDE_PX: Final = 1600
FEWEST_POINTS: Final = 3
FAR_PX: Final = 1e5
Point = Sequence[float]


def brushed(
    line: Array | None, stroke: Array, radius_px: float, add: bool, width_px: int, height_px: int
) -> Array:
    """The edge (N, 2) after a stroke (M, 2) with a round brush, photo px.

    Without an edge yet, a stroke that adds begins one. Raises BadInput when nothing of the dog would be
    left, so that a slip cannot lose the edge.
    """
    radius_px = min(radius_px, max(width_px, height_px) / 2)
    scale = min(1.0, LONGEST_SIDE_PX / max(width_px, height_px))
    mask: NDArray[np.uint8] = np.zeros((round(height_px * scale), round(width_px * scale)), np.uint8)
    if line is not None and len(line) >= FEWEST_POINTS:
        cv2.fillPoly(mask, [np.round(line * scale - 0.5).astype(np.int32)], 1)
    path = np.round(np.clip(stroke, -FAR_PX, FAR_PX) * scale - 0.5).astype(np.int32)
    mask[_within(mask.shape[:2], path, max(radius_px * scale, 0.5))] = int(add)
    found = contour(mask) / scale
    if len(found) < FEWEST_POINTS:
        raise BadInput(
            "nothing of the dog would be left",
            expected="a smaller stroke",
            got="one that takes the whole edge away",
            where="coat edge",
            remedy="Use a smaller brush, or find the edge again.",
        )
    return found


def _within(size: tuple[int, ...], path: NDArray[np.int32], radius: float) -> BoolArray:
    """Pixels within a radius of a path, whatever its radius and however long it is: one distance over all of them."""
    reach = int(np.ceil(radius)) + 1
    off: NDArray[np.uint8] = np.ones((size[0] + 2 * reach, size[1] + 2 * reach), np.uint8)
    cv2.polylines(off, [path + reach], False, 0, 1)
    if len(path) == 1:
        cv2.circle(off, tuple((path[0] + reach).tolist()), 0, 0, -1)
    away = cv2.distanceTransform(off, cv2.DIST_L2, cv2.DIST_MASK_PRECISE)
    return np.asarray(away[reach : reach + size[0], reach : reach + size[1]] <= radius)


def checked_edge(line: Sequence[Point], width_px: int, height_px: int) -> Array:
    """An edge as a client sends it: at least a triangle, finite, on the photo."""
    points = np.asarray(line, dtype=float).reshape(-1, 2) if len(line) else np.zeros((0, 2))
    if len(points) < FEWEST_POINTS or not np.isfinite(points).all():
        raise BadInput(
            "coat edge", expected=f"at least {FEWEST_POINTS} points", got=f"{len(points)}", where="coat edge"
        )
    return np.clip(points, 0.0, [width_px, height_px])
