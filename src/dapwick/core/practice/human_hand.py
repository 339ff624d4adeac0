"""A human hand's error on a head: what it leaves too long or too short, place by place."""

from __future__ import annotations

from typing import Final

import numpy as np
from scipy.spatial.distance import cdist

from dapwick.core.basics.arrays import Array
from dapwick.core.head.skin import Skin

WHOLE_MM, ZONE_MM, LOCAL_MM, REACH_MM = 0.7, 1.2, 1.3, 12.0
"""A hand's error (σ): over a head, a zone of a side, and near places alike; 2 mm together."""
KNOTS: Final = 160
FEATHERED_MM: Final = 5.0


def hand_error(skin: Skin, rng: np.random.Generator, share: float = 1.0) -> Array:
    """How far (V,) mm a hand leaves each place too long."""
    cell = 2 * skin.template.zone + (skin.vertices_mm[:, 0] > 0)
    zones = rng.normal(0, ZONE_MM, int(cell.max()) + 1)[cell]
    knots = skin.vertices_mm[rng.choice(len(skin.vertices_mm), KNOTS, replace=False)]
    near = np.exp(-0.5 * cdist(skin.vertices_mm, knots, "sqeuclidean") / REACH_MM**2)
    local = near @ rng.normal(0, 1, len(knots)) / np.sqrt((near**2).sum(axis=1) + 1e-6)
    return np.asarray(share * (rng.normal(0, WHOLE_MM) + zones + LOCAL_MM * local))


def left_long(skin: Skin, zone: str, side: str | None, mm: float) -> Array:
    """A zone of one side, or of both, left so much longer (V,) mm, feathered into its neighbours."""
    away = cdist(skin.vertices_mm, skin.vertices_mm[skin.in_zone(zone, side)]).min(axis=1)
    return np.asarray(mm * np.clip(1 - away / FEATHERED_MM, 0, 1))
