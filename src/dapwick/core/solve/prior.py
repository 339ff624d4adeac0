"""What is expected of a head before it is measured: a mean and how far heads stray from it.

Wide on purpose: two views overrule it. It gives one photo a depth (with an honest spread) and
predicts the marks that are not placed yet. What kind of head it is, where somebody says so, narrows it;
a bone measured on an earlier visit replaces it (bone.py).
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from typing import Final

import numpy as np

from dapwick.core.basics.arrays import Array, frozen
from dapwick.core.basics.head_kind import Carriage, Muzzle
from dapwick.core.basics.marks import INDEX, MARK_IDS, MIDLINE, PAIRS

_MIDLINE: Final[dict[str, tuple[float, float]]] = {
    "nose_tip": (60, -18),
    "nose_top": (52, -9),
    "stop": (2, 3),
    "crown": (-42, 40),
    "occiput": (-92, 8.8),
    "lip_front": (54, -34),
    "chin": (44, -46),
    "throat": (-40, -60),
}
_PAIRED: Final[dict[str, tuple[float, float, float]]] = {
    "eye_inner": (17, 0, 0),
    "eye_outer": (33, -8, 3),
    "mouth_corner": (24, 12, -38),
    "cheek": (44, -34, -14),
    "ear_front": (34, -42, 28),
    "ear_back": (37, -66, 23),
    "ear_tip": (50, -52, 32),
    "jaw_angle": (34, -44, -42),
}


@dataclass(frozen=True)
class MuzzleKind:
    """How far a kind of head departs from the mean: muzzle and width as shares of it; spread_mm of its
    muzzle's end."""

    muzzle: float
    width: float
    spread_mm: float


NARROWER_MM: Final[Mapping[str, float]] = {"jaw_angle": 6.0}
"""How much nearer the middle line (mm, each side) heads have a mark than the mean head's skin, by every kind of skull
that was looked at (tools/skulls and our own): angles of the jaw, which no photo shows from in front."""
MUZZLE_KINDS: Final[Mapping[Muzzle, MuzzleKind]] = {
    "any": MuzzleKind(1.0, 1.0, 26.0),
    "short": MuzzleKind(0.45, 1.05, 15.0),
    "medium": MuzzleKind(0.95, 1.0, 11.0),
    "long": MuzzleKind(1.4, 0.92, 14.0),
}
EAR_TIPS: Final[Mapping[Carriage, tuple[tuple[float, float, float], float]]] = {
    "any": ((50, -52, 32), 62.0),
    "prick": ((44, -52, 84), 18.0),
    "tipped": ((50, -46, 62), 18.0),
    "button": ((50, -38, 26), 15.0),
    "drop": ((58, -50, -22), 20.0),
}
"""Where an ear's tip is (mm, right side) by how it is carried, and how far it strays (σ, mm)."""
SYMMETRY_MM: Final = 2.0
"""How far from mirroring a pair of marks is expected to be, on each coordinate (σ)."""
EAR_TIPS_UNEVEN: Final = 4.0
UNEVEN_AT_MOST: Final = 3.0
"""The share of symmetry that is never let go: without more than this a head may be as uneven as it looks."""
SIZE_SIGMA: Final = 0.22
"""Relative: a head without any measure is known in size only this well."""
STRAY_MM: Final = 8.0
EAR_BACK_STRAY_MM: Final = 12.0
"""Where an ear's base ends behind differs more: leathers are narrow or wide."""
_MUZZLE: Final = {"nose_tip": 1.0, "nose_top": 0.92, "lip_front": 0.92, "chin": 0.8, "mouth_corner": 0.35}
_BACK: Final = {
    "occiput": 1.0,
    "crown": 0.45,
    "ear_back": 0.6,
    "ear_front": 0.45,
    "throat": 0.4,
    "cheek": 0.3,
    "jaw_angle": 0.5,
    "ear_tip": 0.55,
}
_WIDE: Final = {
    "cheek": 1.0,
    "mouth_corner": 0.5,
    "jaw_angle": 0.8,
    "ear_front": 0.7,
    "ear_back": 0.75,
    "ear_tip": 0.8,
    "eye_outer": 0.45,
    "eye_inner": 0.25,
}
_LOW: Final = {
    "lip_front": 0.7,
    "chin": 1.0,
    "mouth_corner": 0.7,
    "throat": 1.0,
    "jaw_angle": 0.7,
    "nose_tip": 0.35,
    "nose_top": 0.3,
    "cheek": 0.25,
}
_HIGH: Final = {"crown": 1.0, "ear_front": 0.7, "ear_back": 0.7, "ear_tip": 0.7, "occiput": 0.4}


@dataclass(frozen=True)
class ShapePrior:
    """mean_mm (marks, 3) and covariance (3·marks, 3·marks) mm² at the mean's size, head frame; whitener W
    with W @ (x - mean) of unit covariance. size_sigma: by what share heads stray from the mean's size.
    known: from a bone that was measured before; sized: nothing need be measured in mm any more (not so for a
    puppy, which has grown)."""

    mean_mm: Array
    covariance: Array
    whitener: Array
    size_sigma: float
    known: bool = False
    sized: bool = False


def shape_prior(
    mean_mm: Array, covariance: Array, size_sigma: float, known: bool = False, sized: bool = False
) -> ShapePrior:
    """A prior with its whitener. mean_mm (marks, 3), covariance (3·marks, 3·marks) mm²."""
    whitener = np.linalg.inv(np.linalg.cholesky(covariance))
    return ShapePrior(frozen(mean_mm), frozen(covariance), frozen(whitener), size_sigma, known, sized)


@cache
def mirror_rows() -> Array:
    """(rows, 3·marks): how far marks are from mirroring over x = 0, in units of SYMMETRY_MM: three rows a
    pair, one a midline mark. Ears are carried unevenly, so their tips count for less."""
    rows = np.zeros((3 * len(PAIRS) + len(MIDLINE), 3 * len(MARK_IDS)))
    for row, (left, right) in enumerate(PAIRS):
        share = EAR_TIPS_UNEVEN if MARK_IDS[left] == "ear_tip_left" else 1.0
        for axis, sign in enumerate((1.0, -1.0, -1.0)):
            rows[3 * row + axis, 3 * left + axis] = 1.0 / share
            rows[3 * row + axis, 3 * right + axis] = sign / share
    for row, mark in enumerate(MIDLINE):
        rows[3 * len(PAIRS) + row, 3 * mark] = 1.0
    return frozen(rows / SYMMETRY_MM)


def mean_head() -> Array:
    """The marks (marks, 3) mm of the head that the template's skin is drawn on."""
    return np.array([_place(mark) for mark in MARK_IDS])


def _place(name: str) -> Array:
    base, _, side = name.rpartition("_")
    if base in _PAIRED:
        x, y, z = _PAIRED[base]
        return np.array([x if side == "right" else -x, y, z], dtype=float)
    return np.array([0.0, *_MIDLINE[name]])


def _mode(weights: dict[str, float], axis: int, sigma_mm: float) -> Array:
    """One way heads differ: marks slide together along an axis (pairs apart, for x)."""
    mode = np.zeros((len(MARK_IDS), 3))
    for name, weight in weights.items():
        for mark in (f"{name}_left", f"{name}_right") if name in _PAIRED else (name,):
            sign = -1.0 if axis == 0 and mark.endswith("_left") else 1.0
            mode[INDEX[mark], axis] = sign * weight * sigma_mm
    return mode.ravel()


def general_prior() -> ShapePrior:
    """The prior for any dog."""
    return prior_for("any", "any")


@cache
def prior_for(muzzle: Muzzle, ears: Carriage) -> ShapePrior:
    """The prior of a kind of head: muzzle, skull and jaw vary together, each mark a little by itself."""
    kind, (tip_mm, tip_stray_mm) = MUZZLE_KINDS[muzzle], EAR_TIPS[ears]
    mean = mean_head()
    for mark, by_mm in NARROWER_MM.items():
        mean[[INDEX[f"{mark}_left"], INDEX[f"{mark}_right"]], 0] += [by_mm, -by_mm]
    tips = [INDEX["ear_tip_left"], INDEX["ear_tip_right"]]
    mean[tips] = np.array(tip_mm) * [[-1, 1, 1], [1, 1, 1]]
    mean[:, 1] = np.where(mean[:, 1] > 0, kind.muzzle * mean[:, 1], mean[:, 1])
    mean[:, 0] *= kind.width
    modes = np.stack(
        [
            muzzle_mode(kind.spread_mm),
            _mode(_BACK, 1, -16.0),
            _mode(_WIDE, 0, 10.0),
            _mode(_LOW, 2, -10.0),
            _mode(_HIGH, 2, 9.0),
            _mode({"eye_inner": 1.0, "eye_outer": 1.0}, 0, 5.0),
            _mode({"ear_front": 1.0, "ear_back": 1.0, "ear_tip": 1.0}, 2, 12.0),
            _mode({"ear_front": 0.8, "ear_back": 1.0, "ear_tip": 1.0}, 0, 8.0),
        ]
    )
    stray = np.full((len(MARK_IDS), 3), STRAY_MM)
    stray[tips] = tip_stray_mm
    stray[[INDEX["ear_back_left"], INDEX["ear_back_right"]]] = EAR_BACK_STRAY_MM
    free = np.linalg.inv(modes.T @ modes + np.diag(stray.ravel() ** 2))
    mirrored = mirror_rows() / UNEVEN_AT_MOST
    return shape_prior(
        mean, np.asarray(np.linalg.inv(free + mirrored.T @ mirrored), dtype=np.float64), SIZE_SIGMA
    )


def muzzle_mode(sigma_mm: float) -> Array:
    """The way muzzles differ in length, flat over the marks' coordinates; sigma_mm at the nose tip."""
    return _mode(_MUZZLE, 1, sigma_mm)
