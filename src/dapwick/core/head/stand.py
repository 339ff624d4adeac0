"""Depth and length: how far hair stands off the skin as worn, against how long it is drawn out.

A stand factor is depth / length. Long hair falls under its own weight, short hair stands, so the factor
falls from SHORT_STANDS towards the coat's own as the hair gets longer:
depth(length) = length · (s + (SHORT_STANDS - s) · exp(-length / FALLS_MM)), s the factor of long hair.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import Final

import numpy as np

from dapwick.core.basics.arrays import Array

STAND_FACTOR: Final[Mapping[str, float]] = {
    "standing": 0.9,
    "harsh": 0.85,
    "curl": 0.75,
    "wavy": 0.7,
    "fine_drop": 0.3,
}
"""depth / length of long hair by coat type; editable defaults of the trade, not law."""
STAND_SIGMA: Final = 0.1
"""How far a dog's own factor strays from its coat type's (σ)."""
COMB_READ_MM, DRAWN_READ_MM = 1.5, 3.0
"""How well a comb's depth is read, and a lock drawn out along it (σ)."""
SHORT_STANDS: Final = 0.95
FALLS_MM: Final = 18.0
LEAST: Final = 0.15
"""Below this factor longer hair would stand less far off than shorter; no coat lies so flat when combed."""
NEWTON_ROUNDS: Final = 6


def depth_of(length_mm: Array, stand: Array) -> Array:
    """Depth (mm) of hair of some length, where long hair's factor is `stand`."""
    share = stand + (SHORT_STANDS - stand) * np.exp(-np.asarray(length_mm) / FALLS_MM)
    return np.asarray(length_mm * share)


def length_of(depth_mm: Array, stand: Array) -> Array:
    """Length (mm) of hair that stands so deep; the inverse of `depth_of`, which rises all along."""
    length = np.asarray(depth_mm) / SHORT_STANDS
    for _ in range(NEWTON_ROUNDS):
        fallen = np.exp(-length / FALLS_MM)
        share = stand + (SHORT_STANDS - stand) * fallen
        slope = share - (SHORT_STANDS - stand) * fallen * length / FALLS_MM
        length = np.maximum(length + (depth_mm - length * share) / np.maximum(slope, 0.05), 0.0)
    return np.asarray(length)


def stand_from(depth_mm: float, length_mm: float) -> float:
    """Long hair's factor, from one comb reading that gave both depth and length."""
    fallen = float(np.exp(-length_mm / FALLS_MM))
    factor = (depth_mm / length_mm - SHORT_STANDS * fallen) / max(1.0 - fallen, 0.05)
    return float(np.clip(factor, LEAST, SHORT_STANDS))


def ratio_sigma(depth_mm: float, length_mm: float) -> float:
    """How rough (σ) a factor from one depth and one length is."""
    share = np.hypot(COMB_READ_MM / max(depth_mm, COMB_READ_MM), DRAWN_READ_MM / length_mm)
    return float(np.clip(depth_mm / length_mm * share, 0.02, 0.5))
