"""Zones of the head: what a stylist calls each place, and which skin belongs to it."""

from __future__ import annotations

from typing import Final, Literal

import numpy as np
from scipy.spatial import cKDTree

from dapwick.core.basics.arrays import Array, IntArray
from dapwick.core.basics.codes import code_words

Side = Literal["left", "right"]
BARE: Final = "bare"
"""Nose leather and the eyes' openings: no coat is planned there."""

_SEEDS: Final[dict[str, tuple[tuple[float, float, float], ...]]] = {
    "crown": ((0, -26, 34), (12, -40, 40), (0, -52, 42), (16, -58, 38)),
    "back_skull": ((0, -84, 26), (24, -80, 22), (32, -80, 2), (0, -93, 8)),
    "nape": ((0, -92, -16), (20, -84, -32)),
    "visor": ((0, -8, 22), (12, -6, 20), (24, -14, 24)),
    "brow": ((24, -2, 13),),
    "stop": ((0, 4, 5),),
    "inner_corner": ((13, 6, -3),),
    "temple": ((38, -22, 16), (37, -20, 4), (36, -44, 22)),
    "bridge": ((0, 20, -2), (5, 38, -6)),
    "muzzle_side": ((20, 22, -20), (16, 44, -24)),
    "chin": ((0, 48, -40), (8, 32, -50), (0, 20, -55)),
    "cheek": ((43, -34, -12), (39, -20, -20), (37, -54, -14), (34, -8, -24)),
    "jaw": ((27, -8, -46), (32, -34, -42), (22, 12, -46)),
    "throat": ((0, -42, -60), (0, -12, -58), (20, -58, -50)),
    BARE: ((0, 60, -15), (6, 58, -14), (26, 1, 1), (22, 3, 0)),
}
ZONES: Final = tuple(_SEEDS)

DEFAULT_DEPTH_MM: Final[dict[str, float]] = {
    "crown": 26,
    "back_skull": 26,
    "nape": 28,
    "visor": 18,
    "brow": 14,
    "stop": 10,
    "inner_corner": 9,
    "temple": 22,
    "bridge": 11,
    "muzzle_side": 20,
    "chin": 26,
    "cheek": 26,
    "jaw": 28,
    "throat": 28,
    BARE: 0,
}
"""Coat depth (mm) expected before anything is seen of it: a pet head about six weeks out."""

EAR_ZONES: Final[dict[str, float]] = {
    "ear_outside": 14,
    "ear_inside": 5,
    "ear_edge": 16,
    "ear_base_front": 12,
    "ear_base_rear": 14,
    "ear_canal": 4,
}
"""Zones of each ear and the coat depth (mm) usual there; ears are flaps apart from the skin's mesh."""


def label(template_points_mm: Array) -> IntArray:
    """Zone index (into ZONES) of each template point (N, 3): the nearest seed's."""
    seeds = [(i, seed) for i, zone in enumerate(ZONES) for seed in _SEEDS[zone]]
    folded = template_points_mm.copy()
    folded[:, 0] = np.abs(folded[:, 0])
    _, nearest = cKDTree([seed for _, seed in seeds]).query(folded)
    return np.asarray(np.array([i for i, _ in seeds])[nearest], dtype=np.intp)


def zone_words(zone: str) -> str:
    """What a stylist calls a zone."""
    return code_words(zone)
