"""Places that no outline fills: lines of sight, the notch at the stop, nose leather, lip line, ear canals."""

from __future__ import annotations

from typing import Final

import numpy as np

from dapwick.core.basics.shapes import Field, capsule, superellipsoid, union
from dapwick.core.outlines.face import SIDES, Face

SIGHT_RADII_MM: Final = (7.0, 15.0)
SIGHT_REACH_MM: Final = 70.0
SIGHT_OUTWARD: Final = 0.25
SIGHT_UP: Final = 0.05
NOTCH_MM: Final = 5.0
LIP_MM: Final = 2.5
CANAL_MM: Final = 5.0
HARD: Final = 0.01
"""Volumes to keep clear are joined without smoothing: each is kept whole."""


def lines_of_sight(face: Face) -> tuple[Field, Field]:
    """A widening rod of sight forward from each eye; no hair is left in it."""
    left, right = (_sight(face, side) for side in SIDES)
    return left, right


def _sight(face: Face, side: str) -> Field:
    eye = (face.at(f"eye_inner_{side}") + face.at(f"eye_outer_{side}")) / 2
    outward = SIGHT_OUTWARD if side == "right" else -SIGHT_OUTWARD
    far = eye + SIGHT_REACH_MM * np.array([outward, 1.0, SIGHT_UP])
    return capsule(eye.tolist(), far.tolist(), *SIGHT_RADII_MM)


def stop_notch(face: Face) -> Field:
    """A small V from the stop forward, its top never above the top of the eye."""
    stop = face.at("stop")
    low = stop + [0.0, 0.0, min(face.eye_level - float(stop[2]), 0.0)]
    return capsule((low + [0, 0, -2.0]).tolist(), (low + [0, 22.0, 4.0]).tolist(), NOTCH_MM, NOTCH_MM + 2.0)


def nose_leather(face: Face) -> Field:
    """The nose, and all that would hang before it."""
    tip, top = face.at("nose_tip"), face.at("nose_top")
    middle = (tip + top) / 2
    return superellipsoid((0, float(tip[1]) + 8.0, float(middle[2])), (13.0, 14.0, 9.0))


def lip_line(face: Face) -> Field:
    """A narrow way along the lips, from mouth corner round the front to mouth corner."""
    front = face.at("lip_front").tolist()
    rods = [capsule(face.at(f"mouth_corner_{s}").tolist(), front, LIP_MM, LIP_MM) for s in SIDES]
    return union(HARD, *rods)


def ear_canals(face: Face) -> Field:
    """The mouths of the ear canals, at the foot of the base's front half."""
    rods = []
    for side in SIDES:
        front, back = face.at(f"ear_front_{side}"), face.at(f"ear_back_{side}")
        mouth = 0.65 * front + 0.35 * back
        outward = 6.0 if side == "right" else -6.0
        rods.append(capsule(mouth.tolist(), (mouth + [outward, 3.0, -2.0]).tolist(), CANAL_MM, CANAL_MM))
    return union(HARD, *rods)


def keep_clear(face: Face, corners_left: bool = False) -> Field:
    """All of them as one. corners_left: the inner eye corners and the stop are left as they are."""
    parts = [*lines_of_sight(face), nose_leather(face), lip_line(face), ear_canals(face)]
    return union(HARD, *parts, *([] if corners_left else [stop_notch(face)]))
