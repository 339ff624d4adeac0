"""Signed distance primitives in millimetres on (N, 3) points.

Kept apart from the product's own shapes on purpose: the truth must not share the code it checks.
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

Points = NDArray[np.float64]


def sphere(p: Points, centre: tuple[float, float, float], radius: float) -> Points:
    return np.linalg.norm(p - np.asarray(centre), axis=1) - radius


def ellipsoid(p: Points, centre: tuple[float, float, float], radii: tuple[float, float, float]) -> Points:
    """Distance estimate (exact on the surface, first order near it)."""
    q = (p - np.asarray(centre)) / np.asarray(radii)
    k0 = np.linalg.norm(q, axis=1)
    k1 = np.linalg.norm(q / np.asarray(radii), axis=1)
    return k0 * (k0 - 1.0) / np.maximum(k1, 1e-9)


def capsule(
    p: Points,
    a: tuple[float, float, float],
    b: tuple[float, float, float],
    ra: float,
    rb: float,
    flatten: tuple[float, float, float] = (1.0, 1.0, 1.0),
) -> Points:
    """Tapered capsule from a to b; `flatten` > 1 squeezes it along that axis."""
    scale = np.asarray(flatten)
    a_, b_, p_ = np.asarray(a) * scale, np.asarray(b) * scale, p * scale
    ab = b_ - a_
    t = np.clip(((p_ - a_) @ ab) / (ab @ ab), 0.0, 1.0)
    distance = np.linalg.norm(p_ - a_ - t[:, None] * ab, axis=1) - (ra + t * (rb - ra))
    return distance / scale.max()


def smooth_union(a: Points, b: Points, k_mm: float) -> Points:
    """Polynomial smooth minimum; k_mm is the width over which the two run into each other."""
    h = np.clip(0.5 + 0.5 * (b - a) / k_mm, 0.0, 1.0)
    return b + (a - b) * h - k_mm * h * (1.0 - h)


def carve(a: Points, b: Points, k_mm: float) -> Points:
    """a with b taken out of it."""
    return -smooth_union(-a, b, k_mm)
