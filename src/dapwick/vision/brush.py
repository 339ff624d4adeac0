"""Correcting a traced edge: a stroke of the brush adds to the dog or takes away from it."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Final

import cv2
import numpy as np
from numpy.typing import NDArray

from dapwick.core.arrays import Array
from dapwick.core.errors import BadInput
from dapwick.vision.edge import contour

LONGEST_SIDE_PX: Final = 1600
FEWEST_POINTS: Final = 3
Point = Sequence[float]


def brushed(
    line: Array | None, stroke: Array, radius_px: float, add: bool, width_px: int, height_px: int
) -> Array:
    """The edge (N, 2) after a stroke (M, 2) with a round brush, photo px.

    Without an edge yet, a stroke that adds begins one. Raises BadInput when nothing of the dog would be
    left, so that a slip cannot lose the edge.
    """
    scale = min(1.0, LONGEST_SIDE_PX / max(width_px, height_px))
    mask: NDArray[np.uint8] = np.zeros((round(height_px * scale), round(width_px * scale)), np.uint8)
    if line is not None and len(line) >= FEWEST_POINTS:
        cv2.fillPoly(mask, [np.round(line * scale - 0.5).astype(np.int32)], 1)
    path = np.round(stroke * scale - 0.5).astype(np.int32)
    thick = max(1, round(2 * radius_px * scale))
    cv2.polylines(mask, [path], False, int(add), thick)
    for x, y in path.tolist():
        cv2.circle(mask, (x, y), thick // 2, int(add), -1)
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


def checked_edge(line: Sequence[Point], width_px: int, height_px: int) -> Array:
    """An edge as a client sends it: at least a triangle, finite, on the photo."""
    points = np.asarray(line, dtype=float).reshape(-1, 2) if len(line) else np.zeros((0, 2))
    if len(points) < FEWEST_POINTS or not np.isfinite(points).all():
        raise BadInput(
            "coat edge", expected=f"at least {FEWEST_POINTS} points", got=f"{len(points)}", where="coat edge"
        )
    return np.clip(points, 0.0, [width_px, height_px])
