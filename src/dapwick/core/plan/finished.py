"""The finished head's surface, on the day of the cut and some weeks after it."""

from __future__ import annotations

import numpy as np

from dapwick.core.basics.arrays import Array
from dapwick.core.head.growth import Growth, usual_growth
from dapwick.core.head.stand import depth_of, length_of
from dapwick.core.outlines.effects import ears_cut, ears_now
from dapwick.core.outlines.fit import Outline


def surface(outline: Outline, depth_mm: Array) -> Array:
    """The surface (V, 3) mm at some depth over the skin."""
    skin = outline.ground.skin
    return np.asarray(skin.vertices_mm + depth_mm[:, None] * skin.outward)


def grown(outline: Outline, weeks: float, growth: Growth | None = None) -> tuple[Array, tuple[Array, Array]]:
    """Depth (V,) of the finished head, and the ears, some weeks after the cut: every length longer by its
    growth, the dog's own where it is known."""
    ears = ears_cut(outline)
    if weeks <= 0:
        return outline.leave_mm, ears
    ground = outline.ground
    growth = growth or usual_growth(ground.coat_type)
    stand, zone = ground.coat.stand, ground.skin.template.zone
    depth = depth_of(growth.longer(length_of(outline.leave_mm, stand), zone, weeks), stand)
    depth = np.where(ground.bare, outline.leave_mm, depth)
    now, longer = ears_now(ground), weeks * growth.usual_mm_a_week
    share = min(1.0, longer / max(float(length_of(np.array(15.0), np.asarray(np.median(stand)))), 1.0))
    mixed = (ears[0] + share * (now[0] - ears[0]), ears[1] + share * (now[1] - ears[1]))
    return depth, mixed
