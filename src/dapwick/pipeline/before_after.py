"""Before and after for the owner: two photos of one head at one scale, level, and place."""

from __future__ import annotations

from typing import Final

import cv2
import numpy as np

from dapwick.core.basics.arrays import Array, BoolArray
from dapwick.core.basics.camera import Camera
from dapwick.core.basics.marks import INDEX
from dapwick.core.solve.joint import HeadSolution
from dapwick.vision.photo import Pixels

WIDE_PX, HIGH_PX = 900, 960
SHARE: Final = 0.6
"""Of the picture's width that the head's length or width takes."""
UP_MM: Final = 60.0
COARSE: Final = 4
ABOVE: Final = 0.46
"""Share of the picture above the middle of the head."""


def beside(
    head: HeadSolution, before: tuple[Camera, Pixels], after: tuple[Camera, Pixels]
) -> tuple[Pixels, Pixels]:
    """Both photos brought to one scale and level, as far as both show the place. A camera with a copy (height, width,
    3) of its photo."""
    middle = head.points_mm[[INDEX["eye_outer_left"], INDEX["eye_outer_right"], INDEX["occiput"]]].mean(
        axis=0
    )
    size_mm = float(np.ptp(head.points_mm[:, :2], axis=0).max())
    (then, shown), (there, shows) = (_brought(middle, size_mm, *one) for one in (before, after))
    part = _shown_by_both(shown & shows)
    return then[part], there[part]


def _shown_by_both(shown: BoolArray) -> tuple[slice, slice]:
    """The largest part (rows, columns) that is found by drawing in whichever side of the picture lacks the most."""
    coarse = shown[::COARSE, ::COARSE]
    top, bottom, left, right = 0, coarse.shape[0], 0, coarse.shape[1]
    while bottom - top > 2 and right - left > 2:
        part = coarse[top:bottom, left:right]
        lacks = [1 - float(side.mean()) for side in (part[0], part[-1], part[:, 0], part[:, -1])]
        worst = int(np.argmax(lacks))
        if lacks[worst] == 0 and part.all():
            break
        top, bottom = top + (worst == 0), bottom - (worst == 1)
        left, right = left + (worst == 2), right - (worst == 3)
    return slice(top * COARSE, bottom * COARSE), slice(left * COARSE, right * COARSE)


def _brought(middle_mm: Array, size_mm: float, camera: Camera, rgb: Pixels) -> tuple[Pixels, BoolArray]:
    """One photo with the head's middle in its place, its up upright, a millimetre as large as in the other, and where
    it shows anything (height, width)."""
    copy = rgb.shape[1] / camera.width_px
    here, above = camera.project(np.stack([middle_mm, middle_mm + [0.0, 0.0, UP_MM]])) * copy
    way = above - here
    # From above, up points at the camera: the nose's way down the picture stands for it.
    if np.linalg.norm(way) < 0.5 * UP_MM * camera.px_a_mm * copy:
        way = here - camera.project((middle_mm + [0.0, UP_MM, 0.0])[None])[0] * copy
    turn = np.arctan2(way[0], -way[1])
    scale = SHARE * WIDE_PX / (size_mm * camera.px_a_mm * copy)
    cosine, sine = scale * np.cos(turn), scale * np.sin(turn)
    matrix = np.array([[cosine, sine, 0.0], [-sine, cosine, 0.0]])
    matrix[:, 2] = [WIDE_PX / 2, HIGH_PX * ABOVE] - matrix[:, :2] @ here
    brought = cv2.warpAffine(
        rgb, matrix, (WIDE_PX, HIGH_PX), flags=cv2.INTER_AREA, borderMode=cv2.BORDER_REPLICATE
    )
    shown = cv2.warpAffine(
        np.ones(rgb.shape[:2], np.uint8), matrix, (WIDE_PX, HIGH_PX), flags=cv2.INTER_NEAREST
    )
    return np.asarray(brought, dtype=np.uint8), np.asarray(shown > 0)
