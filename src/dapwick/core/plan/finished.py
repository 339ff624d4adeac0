"""The finished head's surface, on the day of the cut and some weeks after it."""

from __future__ import annotations

from functools import cache

import numpy as np

from dapwick.core.basics.arrays import Array, frozen
from dapwick.core.head.growth import STOPS_AT_MM, growth_mm
from dapwick.core.head.stand import depth_of, length_of
from dapwick.core.head.template import template
from dapwick.core.head.zones import ZONES
from dapwick.core.outlines.effects import ears_cut, ears_now
from dapwick.core.outlines.fit import Outline


def surface(outline: Outline, depth_mm: Array) -> Array:
    """The surface (V, 3) mm at some depth over the skin."""
    skin = outline.ground.skin
    return np.asarray(skin.vertices_mm + depth_mm[:, None] * skin.outward)


@cache
def _stops_at_mm() -> Array:
    """The length (V,) that hair reaches by itself, inf where it grows on."""
    return frozen(np.array([STOPS_AT_MM.get(zone, np.inf) for zone in ZONES])[template().zone])


def grown(outline: Outline, weeks: float) -> tuple[Array, tuple[Array, Array]]:
    """Depth (V,) of the finished head, and the ears, some weeks after the cut: every length longer by its
    growth."""
    ears = ears_cut(outline)
    if weeks <= 0:
        return outline.leave_mm, ears
    ground = outline.ground
    longer = growth_mm(weeks, ground.coat_type)
    stand = ground.coat.stand
    left = length_of(outline.leave_mm, stand)
    depth = depth_of(np.minimum(left + longer, np.maximum(left, _stops_at_mm())), stand)
    depth = np.where(ground.bare, outline.leave_mm, depth)
    now = ears_now(ground)
    share = min(1.0, longer / max(float(length_of(np.array(15.0), np.asarray(np.median(stand)))), 1.0))
    mixed = (ears[0] + share * (now[0] - ears[0]), ears[1] + share * (now[1] - ears[1]))
    return depth, mixed
