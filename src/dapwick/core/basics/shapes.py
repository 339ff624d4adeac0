"""Signed distance shapes (mm, negative inside) on points (N, 3), and how far a hair goes inside one.

Estimates are first-order exact at the surface (Quilez's bound for ellipsoids), which is all that
tracing along a hair needs.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Final

import numpy as np
from scipy.interpolate import PchipInterpolator

from dapwick.core.basics.arrays import Array

Field = Callable[[Array], Array]
TRACE_ROUNDS: Final = 14
CLOSE_MM: Final = 0.05
AT_CENTRE: Final = 1e-6
"""Below this level a superellipsoid has no slope to go by; its nearest wall is its smallest radius."""
SAFE_SHARE: Final = 0.95
"""Smooth unions overestimate distance a little inside; shorter steps make up for it."""


def superellipsoid(centre: Sequence[float], radii: Sequence[float], exponent: float = 2.0) -> Field:
    """Ball at exponent 2, box from about 8 up: |x/a|^n + |y/b|^n + |z/c|^n = 1."""
    c, r = np.asarray(centre, dtype=float), np.asarray(radii, dtype=float)

    def ball(p: Array) -> Array:
        q = (p - c) / r
        level = np.sqrt(np.einsum("ij,ij->i", q, q))
        q = q / r
        slope = np.sqrt(np.einsum("ij,ij->i", q, q))
        distance = level * (level - 1.0) / np.maximum(slope, 1e-12)
        return np.asarray(np.where(level < AT_CENTRE, -r.min(), distance))

    def field(p: Array) -> Array:
        q = np.abs((p - c) / r)
        powered = q**exponent
        level = powered.sum(axis=1) ** (1 / exponent)
        slope = (q / np.maximum(level, 1e-9)[:, None]) ** (exponent - 1) / r
        distance = (level - 1.0) / np.maximum(np.linalg.norm(slope, axis=1), 1e-9)
        return np.asarray(np.where(level < AT_CENTRE, -r.min(), distance))

    return ball if exponent == 2.0 else field


def egg(
    centre: Sequence[float], behind: Sequence[float], ahead: Sequence[float], exponent: float = 2.0
) -> Field:
    """A superellipsoid with its own radius to either side of its centre along each axis: `behind` towards
    smaller coordinates, `ahead` towards larger ones. It never shrinks anywhere when one of them grows."""
    c = np.asarray(centre, dtype=float)
    low, high = np.asarray(behind, dtype=float), np.asarray(ahead, dtype=float)

    def field(p: Array) -> Array:
        off = p - c
        r = np.where(off < 0, low, high)
        q = np.abs(off) / r
        level = (q**exponent).sum(axis=1) ** (1 / exponent)
        slope = (q / np.maximum(level, 1e-9)[:, None]) ** (exponent - 1) / r
        distance = (level - 1.0) / np.maximum(np.sqrt(np.einsum("ij,ij->i", slope, slope)), 1e-9)
        return np.asarray(np.where(level < AT_CENTRE, -min(low.min(), high.min()), distance))

    return field


def capsule(a: Sequence[float], b: Sequence[float], radius_a: float, radius_b: float) -> Field:
    """A rod from a to b with round ends, its radius running evenly from one to the other."""
    start, along = np.asarray(a, dtype=float), np.asarray(b, dtype=float) - np.asarray(a, dtype=float)

    def field(p: Array) -> Array:
        t = np.clip(((p - start) @ along) / (along @ along), 0.0, 1.0)
        off = p - start - t[:, None] * along
        return np.asarray(np.sqrt(np.einsum("ij,ij->i", off, off)) - (radius_a + t * (radius_b - radius_a)))

    return field


def half_space(point: Sequence[float], outward: Sequence[float]) -> Field:
    """All that lies behind a plane through `point`, whose normal points outward."""
    normal = np.asarray(outward, dtype=float)
    normal = normal / np.linalg.norm(normal)
    offset = float(np.dot(normal, point))
    return lambda p: np.asarray(p @ normal - offset)


def common(k_mm: float, *fields: Field) -> Field:
    """Where all of them are, their edges rounded over k_mm."""
    joined = union(k_mm, *(outside(f) for f in fields))
    return outside(joined)


def swept_rings(centres: Sequence[Sequence[float]], radii: Sequence[float]) -> Field:
    """Rings lying across y, from the foremost to the rearmost, run smoothly one into the next.

    Between rings middle and radius follow a monotone cubic (Fritsch and Carlson, 1980), so no ring bulges
    past its neighbours; beyond the end rings the shape is closed by round caps.
    """
    c = np.asarray(centres, dtype=float)[::-1]
    r = np.asarray(radii, dtype=float)[::-1]
    course = PchipInterpolator(c[:, 1], np.column_stack([c[:, 0], c[:, 2], r]))
    steepest = float(np.abs(np.diff(r) / np.diff(c[:, 1])).max())
    safe = 1.0 / np.hypot(1.0, steepest)

    def field(p: Array) -> Array:
        y = np.clip(p[:, 1], c[0, 1], c[-1, 1])
        x_mid, z_mid, radius = course(y).T
        off = np.sqrt((p[:, 0] - x_mid) ** 2 + (p[:, 2] - z_mid) ** 2 + (p[:, 1] - y) ** 2)
        return np.asarray((off - radius) * safe)

    return field


def above(z_mm: float) -> Field:
    """All that lies higher than a level plane."""
    return lambda p: z_mm - p[:, 2]


def union(k_mm: float, *fields: Field) -> Field:
    """All of them as one, joined over a width of k_mm (polynomial smooth minimum)."""

    def field(p: Array) -> Array:
        d = fields[0](p)
        for other in fields[1:]:
            e = other(p)
            h = np.clip(0.5 + 0.5 * (e - d) / k_mm, 0.0, 1.0)
            d = e + (d - e) * h - k_mm * h * (1.0 - h)
        return d

    return field


def without(k_mm: float, field: Field, *holes: Field) -> Field:
    """The first with the others taken out of it."""
    inverted = union(k_mm, outside(field), *holes)
    return outside(inverted)


def outside(field: Field) -> Field:
    """Everything but the field."""
    return lambda p: -field(p)


def exit_distance(
    field: Field, origins: Array, directions: Array, farthest_mm: float = 160.0, rounds: int = TRACE_ROUNDS
) -> Array:
    """mm from each origin (N, 3) along its unit direction to the first way out; 0 where it starts outside."""
    travelled = np.zeros(len(origins))
    distance = field(origins)
    going = np.flatnonzero(distance < -CLOSE_MM)
    for _ in range(rounds):
        travelled[going] = np.minimum(travelled[going] - SAFE_SHARE * distance[going], farthest_mm)
        distance[going] = field(origins[going] + travelled[going, None] * directions[going])
        going = going[(distance[going] < -CLOSE_MM) & (travelled[going] < farthest_mm)]
        if not len(going):
            break
    return travelled
