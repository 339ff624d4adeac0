"""Random heads of each kind, as marks and a field that is negative inside; head frame of their maker, mm.

`formed` are the simulated dogs' (ellipsoids, softly joined), `lofted` those of the other hand (elliptic sections along
the head), `balls` are melted from balls of many sizes along the skull, `planed` are cut by planes and domes: flat tops,
square muzzles. None shares code with another, nor with the product's template.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Final

import numpy as np
from numpy.typing import NDArray
from scipy.interpolate import PchipInterpolator

from dapwick.core.basics.frame import rigid_into_head_frame
from dapwick.core.basics.marks import MARK_IDS
from otherdogs.heads import OtherHead
from simdogs.form import marks as formed_marks
from simdogs.form import skull_field
from simdogs.random_heads import random_head

Points = NDArray[np.float64]
Field = Callable[[Points], Points]
RAY_MM, RAY_STEP_MM = 170.0, 0.25


@dataclass(frozen=True)
class Skull:
    """points_mm (marks, 3) and its skin as a field, head frame, mm."""

    kind: str
    points_mm: Points
    field: Field


def in_head_frame(kind: str, marks: Mapping[str, Points], field: Field) -> Skull:
    points = np.array([marks[m] for m in MARK_IDS])
    axes, origin = rigid_into_head_frame(points, 10.0)
    return Skull(kind, (points - origin) @ axes.T, lambda p: field(p @ axes + origin))


def formed(rng: np.random.Generator) -> Skull:
    head = random_head(rng)
    return in_head_frame("formed", formed_marks(head), lambda p: skull_field(head, p))


def lofted(rng: np.random.Generator) -> Skull:
    u = rng.uniform
    wide = u(76, 112)
    head = OtherHead(
        wide=wide, high=u(0.70, 0.92) * wide, long=u(0.85, 1.25) * wide, muzzle_long=u(0.3, 1.0) * wide,
        muzzle_wide=u(0.36, 0.56) * wide, muzzle_high=u(0.3, 0.44) * wide, eye_apart=u(0.46, 0.62) * wide,
        ear=str(rng.choice(["prick", "drop", "side"])), ear_long=u(40, 90),
    )  # fmt: skip

    def field(p: Points) -> Points:
        at, half, top, low = head.sections()
        y = np.clip(p[:, 1], at[0], at[-1])
        w, t, b = (PchipInterpolator(at, v)(y) for v in (half, top, low))
        level = np.hypot(
            p[:, 0] / np.maximum(w, 1e-6), (p[:, 2] - (t + b) / 2) / np.maximum((t - b) / 2, 1e-6)
        )
        beyond = np.maximum(p[:, 1] - at[-1], at[0] - p[:, 1])
        return np.maximum((level - 1.0) * np.minimum(w, (t - b) / 2), beyond)

    return in_head_frame("lofted", head.marks(), field)


BALLS: Final = (
    # y, z, x, radius, as shares of a skull's width; x of 0 lies in the middle
    (-0.98, 0.02, 0.0, 0.27), (-0.80, 0.10, 0.14, 0.33), (-0.50, 0.08, 0.14, 0.40), (-0.22, 0.06, 0.13, 0.34),
    (-0.30, -0.16, 0.30, 0.24), (-0.02, -0.16, 0.10, 0.24), (0.20, -0.22, 0.08, 0.19), (0.42, -0.25, 0.06, 0.16),
    (-0.30, -0.40, 0.14, 0.18), (0.05, -0.46, 0.07, 0.14), (0.30, -0.44, 0.05, 0.11), (-0.12, 0.10, 0.20, 0.14),
)  # fmt: skip
"""Centres and sizes of the balls a head is melted from."""


def balls(rng: np.random.Generator) -> Skull:
    """Wyvill's soft objects: each ball's influence fades to nothing at its reach; skin is where they add to enough."""
    wide = rng.uniform(74, 112)
    place = np.array(BALLS)
    long_, high, muzzle = rng.uniform(0.85, 1.25), rng.uniform(0.85, 1.25), rng.uniform(0.55, 1.7)
    place[:, 0] *= np.where(place[:, 0] > 0, muzzle, long_)
    place[:, 1] *= high
    place[:, :3] += rng.normal(0, 0.02, (len(place), 3)) * (place[:, 2:3] > 0)
    place[:, 3] *= rng.uniform(0.88, 1.14, len(place))
    place *= wide
    centres = np.array([[s * x, y, z] for y, z, x, _ in place for s in ((1, -1) if x else (1,))])
    radii = 1.62 * np.array([r for _, _, x, r in place for _ in range(2 if x else 1)])

    def field(p: Points) -> Points:
        share = np.clip(((p[:, None] - centres[None]) ** 2).sum(axis=2) / radii**2, 0, 1)
        return (0.42 - ((1 - share) ** 3).sum(axis=1)) * wide / 3

    return in_head_frame("balls", found_marks(field, wide, muzzle * 0.56 * wide, long_, rng), field)


def planed(rng: np.random.Generator) -> Skull:
    """A box with rounded edges for the skull, flat on top or arched, and a square or tapering muzzle set on lower: the
    p-norm of how far out each face is."""
    u, wide = rng.uniform, rng.uniform(74, 112)
    long_, muzzle = u(0.9, 1.25), u(0.35, 1.05)
    sharp, arch = u(2.6, 4.5), u(0.0, 0.14)
    high, drop, deep = u(0.36, 0.50), u(0.06, 0.2), u(0.30, 0.44)
    base_half, end_half = u(0.26, 0.34), u(0.15, 0.24)
    cheek = u(0.0, 0.07)

    def field(p: Points) -> Points:
        x, y, z = (p / wide).T
        along = np.clip((y + 0.45 * long_) / (0.55 * long_), -1.2, 1.2)
        top = high - arch * along**2
        half = (
            0.5
            - 0.10 * along**2
            + cheek * np.exp(-(((y + 0.34) / 0.16) ** 2 + ((z + 0.14) / 0.16) ** 2))
            - 0.02
        )
        skull = _norm(
            sharp, np.abs(x) / half, np.abs(y + 0.45 * long_) / (0.58 * long_), _sided(z, top, 0.46)
        )
        end = np.clip(y / max(muzzle, 0.2), -0.6, 1.0)
        snout_half = base_half + (end_half - base_half) * np.clip(end, 0, 1)
        centre = -drop - deep / 2
        snout = _norm(
            sharp,
            np.abs(x) / snout_half,
            np.abs(y - muzzle / 2 + 0.2) / (muzzle / 2 + 0.2),
            np.abs(z - centre) / (deep / 2),
        )
        near = np.minimum((skull - 1) * 0.42, (snout - 1) * snout_half)
        apart = np.abs((skull - 1) * 0.42 - (snout - 1) * snout_half)
        return wide * (near - 0.06 * np.exp(-apart / 0.10))

    return in_head_frame("planed", found_marks(field, wide, muzzle * wide, long_, rng), field)


def _norm(power: float, *shares: Points) -> Points:
    return np.asarray(sum(s**power for s in shares) ** (1 / power))


def _sided(z: Points, top: Points, low: float) -> Points:
    return np.where(z > 0, z / top, -z / low)


def found_marks(
    field: Field, wide: float, muzzle: float, long_: float, rng: np.random.Generator
) -> dict[str, Points]:
    """Marks found on a skin by rays from inside, as a hand would feel for them."""
    u = rng.uniform

    def out(start: tuple[float, float, float], toward: tuple[float, float, float]) -> Points:
        direction = np.asarray(toward) / np.linalg.norm(toward)
        t = np.arange(0.0, RAY_MM, RAY_STEP_MM)
        inside = np.flatnonzero(field(np.asarray(start) * wide + t[:, None] * direction) < 0)
        if not len(inside):
            raise ValueError("a ray that starts outside")
        return np.asarray(start) * wide + t[inside.max()] * direction

    nose = out((0, 0.0, -0.24), (0, 1, -0.02))
    eye, ear = u(0.17, 0.23), u(0.26, 0.38)
    marks = {
        "nose_tip": nose,
        "nose_top": out((0, float(nose[1] / wide) - 0.12, -0.24), (0, 0.15, 1)),
        "stop": out((0, -0.25, 0.0), (0, 1, 0.08)),
        "crown": max(
            (out((0, y, 0), (0, 0, 1)) for y in np.linspace(-0.65, -0.2, 10)), key=lambda q: float(q[2])
        ),
        "occiput": out((0, -0.5, 0.04), (0, -1, 0.2)),
        "lip_front": out((0, 0.0, -0.33), (0, 1, -0.06)),
        "chin": out((0, 0.0, -0.40), (0, 1, -0.12)),
        "throat": out((0, -0.36, -0.2), (0, -0.15, -1)),
    }
    for name, side in (("right", 1.0), ("left", -1.0)):
        front = out((0, -0.42, 0), (side * ear, 0, 0.26))
        marks |= {
            f"eye_inner_{name}": out((side * eye, -0.3, 0.0), (0, 1, 0)),
            f"eye_outer_{name}": out((side * (eye + 0.15), -0.35, 0.02), (0, 1, 0)),
            f"mouth_corner_{name}": out((0, 0.02, -0.34), (side, -0.1, -0.08)),
            f"cheek_{name}": out((0, -0.36, -0.14), (side, 0, 0)),
            f"jaw_angle_{name}": out((0, -0.40, -0.26), (side, 0, -0.45)),
            f"ear_front_{name}": front,
            f"ear_back_{name}": out((0, -0.68, 0), (side * (ear + 0.02), 0, 0.22)),
            f"ear_tip_{name}": front + [side * 10, 0, 50],
        }
    return marks


KINDS: Final[Mapping[str, Callable[[np.random.Generator], Skull]]] = {
    "formed": formed,
    "lofted": lofted,
    "balls": balls,
    "planed": planed,
}
