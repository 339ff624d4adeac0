"""A square cut of a photo, as networks look at it."""

from __future__ import annotations

from typing import Final

import cv2
import numpy as np

from dapwick.core.basics.arrays import Array
from dapwick.vision.photo import Pixels

LEAST_SIDE_PX: Final = 24.0
SHRUNK_FIRST: Final = 0.7
"""Scaling down by more than this aliases in a warp, so the photo is first brought near the wanted size."""


def square_cut(rgb: Pixels, centre_px: Array, side_px: float, size_px: int) -> Pixels:
    """The square of side_px about centre_px as (size_px, size_px, 3); beyond the photo its border goes on."""
    scale = size_px / max(side_px, LEAST_SIDE_PX)
    corner = centre_px - size_px / (2 * scale)
    turn = np.array([[scale, 0.0, -scale * corner[0]], [0.0, scale, -scale * corner[1]]])
    shrink = min(1.0, 1.5 * scale)
    source = rgb
    if shrink <= SHRUNK_FIRST:
        source = np.asarray(
            cv2.resize(rgb, None, fx=shrink, fy=shrink, interpolation=cv2.INTER_AREA), np.uint8
        )
    turn[:, :2] *= rgb.shape[1] / source.shape[1]
    cut = cv2.warpAffine(
        source, turn, (size_px, size_px), flags=cv2.INTER_AREA, borderMode=cv2.BORDER_REPLICATE
    )
    return np.asarray(cut, np.uint8)
