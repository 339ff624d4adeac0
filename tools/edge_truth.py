"""How far a traced edge lies from the true silhouette of a simulated photo."""

from __future__ import annotations

from typing import Any

import numpy as np
from scipy.spatial import cKDTree

from dapwick.core.basics.arrays import Array

STEP_PX = 1.5
FRAME_PX = 6.0
"""Stretches along the photo's frame are no silhouette: the dog goes on there."""


def edge_errors_mm(line: Array, photo: dict[str, Any]) -> Array:
    """Distances (mm at the head's depth) both ways between a line and the photo's true edge."""
    true = np.asarray(photo["edge_px"], dtype=float)
    size = np.array([photo["width"], photo["height"]])
    found, wanted = points_along(line), points_along(true)
    there = cKDTree(wanted).query(_inner(found, size))[0]
    back = cKDTree(found).query(_inner(wanted, size))[0]
    mm_per_px = np.linalg.norm(photo["translation_mm"]) / photo["focal_px"]
    return np.asarray(np.concatenate([there, back]) * mm_per_px)


def points_along(line: Array) -> Array:
    """Points (N, 2) every STEP_PX along a closed line."""
    closed = np.vstack([line, line[:1]])
    along = np.concatenate([[0.0], np.cumsum(np.linalg.norm(np.diff(closed, axis=0), axis=1))])
    at = np.arange(0.0, along[-1], STEP_PX)
    return np.column_stack([np.interp(at, along, closed[:, axis]) for axis in range(2)])


def _inner(points: Array, size: Array) -> Array:
    return points[((points > FRAME_PX) & (points < size - FRAME_PX)).all(axis=1)]
