"""Two more makers' heads, with necks, kept apart: no constant of the product was chosen by looking at them.

`swept` heads are sections swept along a bent spine from the nose over the skull into the neck; `hulled` ones are the
convex hulls of balls (skull, muzzle, jaw, neck), softly joined. They come from toy to giant, flat to long.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Final

import numpy as np
from numpy.typing import NDArray
from scipy.interpolate import PchipInterpolator
from scipy.spatial import ConvexHull

from skulls.kinds import Skull, found_marks, in_head_frame

Points = NDArray[np.float64]
WIDE_MM: Final = (58.0, 128.0)
STATIONS, ON_A_BALL = 30, 42


def swept(rng: np.random.Generator) -> Skull:
    """Superelliptic sections whose halves above and below the spine differ."""
    u, wide = rng.uniform, rng.uniform(*WIDE_MM)
    muzzle, long_, flat = u(0.3, 1.1), u(0.9, 1.25), u(0.0, 0.05)
    neck_turn, neck = np.radians(u(25, 65)), u(0.26, 0.4)
    away = np.array([-np.cos(neck_turn), -np.sin(neck_turn)])
    nape = np.array([-0.66 * long_, -0.06])
    spine = np.array(
        [
            (muzzle, -0.27), (0.72 * muzzle, -0.27), (0.28 * muzzle, -0.26), (-0.04, -0.22), (-0.24, -0.08),
            (-0.46 * long_, -0.02), nape, nape + 0.45 * away, nape + 1.1 * away,
        ]
    )  # fmt: skip
    snout, root, crown = u(0.1, 0.17), u(0.2, 0.3), u(0.32, 0.44)
    half = np.array([0.6 * snout, snout, root, 0.42, 0.48, 0.5, 0.40, neck, neck * 1.1])
    above = np.array([0.08, 0.12, 0.14, 0.2 + flat, crown - 0.02, crown, 0.34, neck * 0.9, neck])
    below = np.array([0.09, 0.15, 0.19, 0.24, 0.42, 0.46, 0.36, neck, neck * 1.1])
    at = np.linspace(0, 1, len(spine))
    along = np.linspace(0, 1, STATIONS)
    centre, w, up, low = (
        PchipInterpolator(at, v)(along) for v in (spine, half, above * u(0.94, 1.06), below)
    )
    square = u(2.0, 2.9)

    def field(p: Points) -> Points:
        q, nearest = p / wide, np.full(len(p), np.inf)
        for i in range(STATIONS - 1):
            step = centre[i + 1] - centre[i]
            off = q[:, 1:] - centre[i]
            share = np.clip(off @ step / (step @ step), 0, 1)
            left = off - share[:, None] * step
            side = left @ np.array([step[1], -step[0]])
            tall = np.where(
                side > 0, up[i] + share * (up[i + 1] - up[i]), low[i] + share * (low[i + 1] - low[i])
            )
            broad = w[i] + share * (w[i + 1] - w[i])
            apart = np.abs(q[:, 0] / broad) ** square + (np.hypot(*left.T) / tall) ** square
            nearest = np.minimum(nearest, (apart ** (1 / square) - 1) * tall)
        return np.asarray(nearest * wide)

    return in_head_frame("swept", found_marks(field, wide, muzzle * wide, long_, rng), field)


def hulled(rng: np.random.Generator) -> Skull:
    """Hulls of balls given as shares of the skull's width: x, y, z, radius."""
    u, wide = rng.uniform, rng.uniform(*WIDE_MM)
    muzzle, long_, high = u(0.3, 1.1), u(0.9, 1.25), u(0.1, 0.24)
    brow, cheek = u(0.1, 0.2), u(0.3, 0.37)
    snout, turn, neck = u(0.08, 0.14), np.radians(u(25, 65)), u(0.26, 0.38)
    low = u(-0.42, -0.34)
    away = np.array([0.0, -np.cos(turn), -np.sin(turn)])
    parts = [
        _mirrored([
            (0.18, -0.38 * long_, high, 0.26), (0.12, -0.72 * long_, 0.04, 0.24), (0.2, -0.22, high - 0.04, 0.16),
            (cheek, -0.36, -0.14, 0.16), (0.17, -0.12, 0.0, brow), (0.16, -0.6 * long_, -0.2, 0.2),
        ]),
        _mirrored([
            (0.1, -0.12, -0.16, 0.12), (0.07, muzzle - snout, -0.24, snout), (0.12, -0.12, low, 0.12),
            (0.05, 0.86 * muzzle - snout, low, snout * 0.8),
        ]),
        _mirrored([(0.22, -0.4, -0.3, 0.14), (0.16, 0.0, low - 0.02, 0.09)]),
        _mirrored([
            (0.05, -0.6 * long_, -0.2, neck), (0.05, *(np.array([-0.6 * long_, -0.2]) + 1.1 * away[1:]), neck * 1.1),
        ]),
    ]  # fmt: skip
    soft = u(0.03, 0.07)
    hulls = [_hull(np.array(part)) for part in parts]

    def field(p: Points) -> Points:
        each = np.stack([(p / wide @ h[:, :3].T + h[:, 3]).max(axis=1) for h in hulls])
        least = each.min(axis=0)
        return np.asarray(wide * (least - soft * np.log(np.exp((least - each) / soft).sum(axis=0))))

    return in_head_frame("hulled", found_marks(field, wide, muzzle * wide, long_, rng), field)


def _mirrored(balls: list[tuple[float, ...]]) -> list[tuple[float, ...]]:
    return [(side * x, *rest) for x, *rest in balls for side in (1, -1)]


def _hull(balls: Points) -> Points:
    """The planes (normal and offset) round balls."""
    k = np.arange(ON_A_BALL) + 0.5
    up, turn = 1 - 2 * k / ON_A_BALL, np.pi * (1 + 5**0.5) * k
    flat = np.sqrt(1 - up**2)
    way = np.column_stack([flat * np.cos(turn), flat * np.sin(turn), up])
    return np.asarray(ConvexHull((balls[:, None, :3] + balls[:, None, 3:] * way).reshape(-1, 3)).equations)


KEPT: Final[Mapping[str, Callable[[np.random.Generator], Skull]]] = {"swept": swept, "hulled": hulled}
