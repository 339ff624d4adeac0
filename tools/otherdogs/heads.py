"""Heads lofted through elliptic sections, with flat leaves for ears; x to the dog's right, y ahead, z up, mm."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray
from scipy.interpolate import PchipInterpolator

Points = NDArray[np.float64]
EarKind = Literal["prick", "drop", "side"]
SIDES = (("right", 1.0), ("left", -1.0))
EYE_Y = 0.0
RISES = {"prick": (0.30, 0.95), "side": (0.95, 0.10), "drop": (0.75, 0.30)}
ACROSS = {"prick": (-0.8, 0.6, 0.0), "side": (0.0, 0.8, 0.6), "drop": (-0.5, 0.86, 0.0)}
FACING = {"prick": (0.6, 0.8, 0.0), "side": (0.2, 0.6, 0.8), "drop": (0.86, 0.5, 0.0)}
"""By carriage: how a leaf leaves the skull (out, up), the way from its rear edge to its front one, its face; of the
right ear."""


@dataclass(frozen=True)
class OtherHead:
    """Proportions, mm. wide, high, long: of the skull; muzzle_*: of the muzzle; ear: how the leaf is carried."""

    wide: float = 92.0
    high: float = 74.0
    long: float = 100.0
    muzzle_long: float = 62.0
    muzzle_wide: float = 44.0
    muzzle_high: float = 36.0
    eye_apart: float = 50.0
    eye_mm: float = 8.5
    nose_wide: float = 24.0
    ear: EarKind = "drop"
    ear_long: float = 70.0
    ear_wide: float = 34.0

    def sections(self) -> tuple[Points, Points, Points, Points]:
        """Stations along y with half widths, tops and bottoms."""
        m, h, mh = self.muzzle_long, self.high, self.muzzle_high
        y = np.array(
            [-1.0 * self.long, -0.86 * self.long, -0.45 * self.long, -0.16 * self.long, 4.0, 0.3 * m + 4, m]
        )
        wide = np.array([0.16, 0.68, 1.0, 0.9, 0.66, 0.0, 0.0]) * self.wide / 2
        wide[5:] = np.array([1.0, 0.78]) * self.muzzle_wide / 2
        top = np.array([0.10, 0.40, 0.55, 0.46, 0.12, -0.02, -0.10]) * h
        low = np.array([-0.10, -0.34, -0.48, -0.52, -0.52, 0.0, 0.0]) * h
        low[5:] = top[5:] - np.array([1.0, 0.72]) * mh
        return y, wide, top, low

    def skin(self, y: Points, turn: Points) -> Points:
        """Points (N, 3) of the loft at stations y and angles about it (0 to the right, a quarter up)."""
        at, wide, top, low = self.sections()
        w, t, b = (PchipInterpolator(at, v)(y) for v in (wide, top, low))
        return np.column_stack([w * np.cos(turn), y, (t + b) / 2 + (t - b) / 2 * np.sin(turn)])

    def front(self, turn: float, y: float) -> Points:
        return np.asarray(self.skin(np.array([y]), np.array([turn]))[0])

    def eye(self, side: float) -> Points:
        on_skin = self.front(np.pi / 2 - 0.9, EYE_Y)
        return np.array([side * self.eye_apart / 2, EYE_Y + 4.0, on_skin[2] + 2.0])

    def nose(self) -> Points:
        _, _, top, low = self.sections()
        return np.array([0.0, self.muzzle_long + 2.0, top[-1] - 0.22 * (top[-1] - low[-1])])

    def ear_leaf(self, side: float, along: Points, across: Points) -> tuple[Points, Points]:
        """Points (N, 3) of a leaf and its outer normals; along 0 (base) to 1 (tip), across -1 (behind) to 1 (in
        front)."""
        base = self.front(np.pi / 2 - (1.05 if self.ear == "drop" else 0.7), -0.5 * self.long) * [side, 1, 1]
        reach = self.ear_long * along
        out, up = RISES[self.ear]
        middle = base + np.outer(reach, [side * out, 0.0, up])
        if self.ear == "drop":
            hang = np.clip(along - 0.25, 0, 1)
            middle = base + np.outer(self.ear_long * np.minimum(along, 0.25), [side * out, 0.0, up])
            middle = middle + np.outer(self.ear_long * hang, [side * 0.10, 0.14, -1.0])
        taper = (
            np.sqrt(np.clip(1 - along**3, 0, 1)) if self.ear == "drop" else np.clip(1 - along, 0.03, 1) ** 0.7
        )
        forward = np.array(ACROSS[self.ear]) * [side, 1, 1]
        at = middle + np.outer(across * taper * self.ear_wide / 2, forward)
        normal = np.tile(np.array(FACING[self.ear]) * [side, 1, 1], (len(along), 1))
        return at, normal

    def marks(self) -> dict[str, Points]:
        """Every mark, by id."""
        y, _, top, low = self.sections()
        nose = self.nose()
        found = {
            "nose_tip": nose + [0, 7.0, 0],
            "nose_top": nose + [0, -3.0, 7.0],
            "stop": self.front(np.pi / 2, 2.0),
            "crown": self.front(np.pi / 2, y[2]),
            "occiput": self.front(np.pi / 2, y[0] + 3.0),
            "lip_front": np.array([0.0, y[-1] - 1.0, 0.45 * top[-1] + 0.55 * low[-1]]),
            "chin": np.array([0.0, y[-1] - 6.0, low[-1] + 2.0]),
            "throat": self.front(-np.pi / 2, y[3]),
        }
        for name, side in SIDES:
            eye, flip = self.eye(side), np.array([side, 1.0, 1.0])
            base = self.ear_leaf(side, np.zeros(2), np.array([1.0, -1.0]))[0]
            tip = self.ear_leaf(side, np.ones(1), np.zeros(1))[0][0]
            found |= {
                f"eye_inner_{name}": eye + [-side * self.eye_mm, 2.0, 0],
                f"eye_outer_{name}": eye + [side * self.eye_mm, -3.0, 1.0],
                f"mouth_corner_{name}": self.front(-0.9, 6.0) * flip,
                f"cheek_{name}": self.front(-0.1, y[2]) * flip,
                f"jaw_angle_{name}": self.front(-0.8, y[2]) * flip,
                f"ear_front_{name}": base[0],
                f"ear_back_{name}": base[1],
                f"ear_tip_{name}": tip,
            }
        return found
