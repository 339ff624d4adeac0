"""Heads in textbook proportions: six families from toy to giant, from flat to long, each head a little its own.

Their marks stand where the books' indices put them (cranial width over length, facial over cranial length), not where
the product's mean head has them.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Final

import numpy as np

from dapwick.core.basics.arrays import Array
from dapwick.core.basics.frame import into_head_frame
from dapwick.core.basics.marks import MARK_IDS


@dataclass(frozen=True)
class Proportions:
    """skull_mm: stop to occiput; the rest as shares: width of the skull, muzzle, height of the crown over the eyes and
    depth of the stop of the skull's length; eyes and muzzle's width of the skull's width; ear: its leather, mm."""

    skull_mm: float
    width: float
    muzzle: float
    crown: float
    stop: float
    eyes: float
    muzzle_width: float
    ear_mm: float
    drops: bool


FAMILIES: Final[Mapping[str, Proportions]] = {
    "toy": Proportions(64, 0.98, 0.42, 0.55, 0.16, 0.66, 0.42, 42, False),
    "flat": Proportions(88, 1.08, 0.16, 0.48, 0.20, 0.70, 0.62, 45, False),
    "short": Proportions(98, 1.00, 0.48, 0.42, 0.14, 0.62, 0.50, 75, True),
    "medium": Proportions(108, 0.86, 0.82, 0.36, 0.10, 0.62, 0.42, 80, True),
    "long": Proportions(122, 0.68, 1.05, 0.28, 0.05, 0.62, 0.38, 85, False),
    "giant": Proportions(152, 0.84, 0.80, 0.34, 0.11, 0.58, 0.46, 130, True),
}
VARIES = 0.06


def family_points(name: str, rng: np.random.Generator, asymmetry_mm: float = 1.0) -> Array:
    """Marks (marks, 3) mm, head frame, of one head of a family."""
    p = FAMILIES[name]

    def near(value: float) -> float:
        return float(value * np.exp(rng.normal(0, VARIES)))

    long_ = near(p.skull_mm)
    half = near(p.width) * long_ / 2
    muzzle, crown, stop = near(p.muzzle) * long_, near(p.crown) * long_, near(p.stop) * long_
    outer = near(p.eyes) * half
    inner, mouth, ear = near(0.48) * outer, near(p.muzzle_width) * half, near(p.ear_mm)
    out, down = (0.35, -0.94) if p.drops else (0.25, 0.97)
    marks = {
        "stop": (0, stop * 0.1, stop * 0.3), "nose_tip": (0, muzzle, -stop - 0.10 * long_),
        "nose_top": (0, muzzle - 0.06 * long_, -stop - 0.02 * long_), "crown": (0, -0.42 * long_, crown),
        "occiput": (0, -0.98 * long_, 0.35 * crown), "lip_front": (0, muzzle - 0.04 * long_, -stop - 0.24 * long_),
        "chin": (0, muzzle - 0.12 * long_, -stop - 0.34 * long_), "throat": (0, -0.45 * long_, -0.62 * long_),
    }  # fmt: skip
    base = np.array([0.78 * half, -0.55 * long_, 0.75 * crown])
    paired = {
        "eye_inner": (inner, -0.02 * long_, 0.0), "eye_outer": (outer, -0.10 * long_, 0.02 * long_),
        "mouth_corner": (mouth, min(0.25 * muzzle, 0.2 * long_), -stop - 0.30 * long_),
        "cheek": (half, -0.38 * long_, -0.16 * long_), "ear_front": base + [0, 0.10 * long_, 0.05 * long_],
        "ear_back": base + [0.04 * long_, -0.16 * long_, -0.04 * long_],
        "ear_tip": base + ear * np.array([out, 0.0, down]), "jaw_angle": (0.8 * half, -0.42 * long_, -0.44 * long_),
    }  # fmt: skip
    for mark, at in paired.items():
        for side, sign in (("right", 1.0), ("left", -1.0)):
            marks[f"{mark}_{side}"] = (sign * float(at[0]), float(at[1]), float(at[2]))
    points = np.array([marks[m] for m in MARK_IDS], dtype=float)
    return np.asarray(into_head_frame(points + rng.normal(0, asymmetry_mm, points.shape)))
