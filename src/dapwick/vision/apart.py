"""How far one traced line lies off another."""

from __future__ import annotations

import cv2
import numpy as np

from dapwick.core.basics.arrays import Array


def apart_px(line: Array, of: Array) -> Array:
    """How far (N,) px each point of a line (N, 2) lies outside of a closed line (M, 2); inside less than 0."""
    closed = np.asarray(of, dtype=np.float32).reshape(-1, 1, 2)
    return np.array([-cv2.pointPolygonTest(closed, (float(x), float(y)), True) for x, y in line])
