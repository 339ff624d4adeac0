"""How the finished head will look beside the present one: proportions of the two silhouettes.

Silhouettes are taken level, from the front (across, up) and the left (forward, up), as the widest reach in
thin slices, which is all that the proportions need.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

import numpy as np

from dapwick.core.basics.arrays import Array
from dapwick.core.head.stand import length_of
from dapwick.core.measures.measure import RULES, values_of
from dapwick.core.outlines.ear_cut import ear_surface, ear_zones
from dapwick.core.outlines.fit import Outline
from dapwick.core.outlines.ground import Ground

SLICES: Final = 44
WORDS: Final = {
    "width_to_height": "width to height",
    "eye_height": "eye line, share of the height",
    "muzzle_share": "muzzle, share of the profile",
    "ear_over_skull": "ear width against skull width",
    "roundness": "roundness",
    "uneven_mm": "left and right differ, mm",
    "width_mm": "width, mm",
}


@dataclass(frozen=True)
class Effect:
    """One proportion now and when finished."""

    id: str
    words: str
    now: float
    after: float


@dataclass(frozen=True)
class Shape:
    """Front slices from bottom to top: up (S,), left and right reach (S,), mm; ears apart from them."""

    up: Array
    reach: Array

    @property
    def width(self) -> float:
        return float((self.reach[:, 1] - self.reach[:, 0]).max())

    @property
    def height(self) -> float:
        return float(self.up[-1] - self.up[0])

    @property
    def outline(self) -> Array:
        """Closed polygon (2·S, 2)."""
        left, right = (np.column_stack([self.reach[:, i], self.up]) for i in (0, 1))
        return np.concatenate([left, right[::-1]])


def effects_of(outline: Outline) -> tuple[Effect, ...]:
    """Every proportion, now and after."""
    now = _numbers(outline.ground, outline.ground.coat.depth_mm, ears_now(outline.ground))
    after = _numbers(outline.ground, outline.leave_mm, ears_cut(outline))
    return tuple(Effect(key, WORDS[key], now[key], after[key]) for key in WORDS)


def ideal_values(outline: Outline) -> dict[str, float]:
    """What ideals may ask: the head's measures, the finished outline's proportions, the coat's state."""
    ground = outline.ground
    measured = values_of([r.of for r in RULES], ground.head.points_mm.ravel())
    values = {r.id: float(v) for r, v in zip(RULES, measured, strict=True)}
    values["plane_angle"] = abs(values["plane_angle"])
    values |= _numbers(ground, outline.leave_mm, ears_cut(outline))
    crown = ground.skin.in_zone("crown")
    values["crown_hair"] = float(np.median(length_of(ground.coat.depth_mm[crown], ground.coat.stand[crown])))
    values["ear_carriage"] = float(np.mean([c in ("prick", "tipped") for c in ground.face.carriage]))
    coat = ground.coat.depth_mm[~ground.bare]
    values["hair_kept"] = float(outline.leave_mm[~ground.bare].sum() / max(coat.sum(), 1.0))
    return values


def ears_now(ground: Ground) -> tuple[Array, Array]:
    """Both ears' surfaces (E, 3) mm, left then right, with the hair they carry."""
    left, right = (
        ear_surface(ear, {c.zone: c.depth_mm for c in ear.coat}, (2.0, 2.0)) for ear in ground.ears
    )
    return left, right


def ears_cut(outline: Outline) -> tuple[Array, Array]:
    """Both ears' surfaces (E, 3) mm, left then right, as the outline leaves them."""
    cut, stand = outline.design.ears, float(np.median(outline.ground.coat.stand))
    left, right = (
        ear_surface(ear, {z.zone: z.depth_mm for z in ear_zones(ear, cut, stand)}, cut.clipped)
        for ear in outline.ground.ears
    )
    return left, right


def front_shape(points_mm: Array) -> Shape:
    """Slices (level) of a surface (N, 3) mm seen from the front."""
    return _slices(points_mm[:, [0, 2]])


def _slices(flat: Array) -> Shape:
    low, high = float(flat[:, 1].min()), float(flat[:, 1].max())
    which = np.clip(((flat[:, 1] - low) / (high - low) * SLICES).astype(int), 0, SLICES - 1)
    reach = np.array([[np.nan, np.nan]] * SLICES)
    for i in range(SLICES):
        across = flat[which == i, 0]
        if len(across):
            reach[i] = across.min(), across.max()
    filled = ~np.isnan(reach[:, 0])
    up = np.linspace(low, high, SLICES)
    return Shape(up[filled], reach[filled])


def _numbers(ground: Ground, depth_mm: Array, ears: tuple[Array, Array]) -> dict[str, float]:
    skin = ground.skin
    points = skin.vertices_mm + depth_mm[:, None] * skin.outward
    front = front_shape(points)
    profile = _slices(points[:, [2, 1]])
    long = float(profile.up[-1] - profile.up[0])
    edge = front.outline
    around = float(np.linalg.norm(np.roll(edge, -1, axis=0) - edge, axis=1).sum())
    x, y = edge.T
    area = abs(float((x * np.roll(y, -1) - np.roll(x, -1) * y).sum())) / 2
    both = np.concatenate(ears)
    middle = (front.reach[:, 0] + front.reach[:, 1]) / 2
    return {
        "width_to_height": front.width / front.height,
        "eye_height": (ground.face.eye_level - float(front.up[0])) / front.height,
        "muzzle_share": (float(profile.up[-1]) - ground.face.ahead("stop")) / long,
        "ear_over_skull": float(np.ptp(both[:, 0])) / front.width,
        "roundness": 4 * np.pi * area / around**2,
        "uneven_mm": float(np.abs(2 * middle).mean()),
        "width_mm": front.width,
    }
