"""Silhouettes of a meshed surface: its triangles drawn to a mask, the mask's outer line taken."""

from __future__ import annotations

from typing import Final

import cv2
import numpy as np

from dapwick.core.basics.arrays import Array, IntArray
from dapwick.vision.edge import contour

MASK_SIDE_PX: Final = 280
MARGIN_PX: Final = 4


def silhouette(points: Array, faces: IntArray, side_px: int = MASK_SIDE_PX) -> Array:
    """Outer line (N, 2) of triangles `faces` (F, 3) over flat `points` (V, 2), in the points' unit.

    Only faces turned one way are drawn: the others hide behind them. side_px: the longer side of the mask.
    """
    corners = points[faces]
    across = corners[:, 1] - corners[:, 0]
    down = corners[:, 2] - corners[:, 0]
    turned = across[:, 0] * down[:, 1] - across[:, 1] * down[:, 0]
    drawn = np.isfinite(turned) & (turned > 0 if np.nansum(turned > 0) else turned < 0)
    if not drawn.any():
        return np.zeros((0, 2))
    corners = corners[drawn]
    low, high = corners.min(axis=(0, 1)), corners.max(axis=(0, 1))
    scale = side_px / float((high - low).max())
    size = np.ceil((high - low) * scale).astype(int) + 2 * MARGIN_PX + 1
    mask = np.zeros((int(size[1]), int(size[0])), np.uint8)
    shift = 4
    fixed = np.round(((corners - low) * scale + MARGIN_PX) * (1 << shift)).astype(np.int32)
    for triangle in fixed:
        cv2.fillConvexPoly(mask, triangle, 1, cv2.LINE_8, shift)
    return np.asarray((contour(mask) - 0.5 - MARGIN_PX) / scale + low)
