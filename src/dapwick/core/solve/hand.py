"""How a hand marks: what it feels lies outside of the bone, and what moves is not twice in one place."""

from __future__ import annotations

from typing import Final

import numpy as np

from dapwick.core.basics.arrays import Array
from dapwick.core.basics.marks import INDEX, MARK_IDS

THUMB_SIGMA_MM: Final = 3.5
"""How far outside of the bone a thumb marks what it feels, all of it together (σ): a calliper put to bone tells."""
INSIDE_SIGMA_MM: Final = 0.8
"""The same inside of it, where no thumb gets: what lies there is a head that is unlike the mean one."""
TIPS: Final = tuple(INDEX[m] for m in ("ear_tip_left", "ear_tip_right"))
MOVES_MM: Final = np.zeros(len(MARK_IDS))
MOVES_MM[list(TIPS)] = 8.0
MOVES_MM[[INDEX["chin"], INDEX["lip_front"]]] = 2.5
"""How far a mark moves on the head from one photo to the next (σ, mm): ears are carried, mouths open. How much they do
so on this dog is read from the residuals (noise.py)."""


def thumb_sigma_mm(out_mm: float) -> float:
    """How usual it is that a hand marks so far outside of the bone (σ)."""
    return THUMB_SIGMA_MM if out_mm >= 0.0 else INSIDE_SIGMA_MM


def _felt_outward() -> Array:
    """Which way (marks, 3) flesh and hair lie over each mark that is felt for; a tip is held, not pressed."""
    ways = {
        "stop": (0, 0.7, 0.7), "crown": (0, 0, 1), "occiput": (0, -0.95, 0.3), "chin": (0, 0.7, -0.7),
        "throat": (0, 0, -1), "mouth_corner": (1, 0, 0), "cheek": (1, 0, 0), "ear_front": (0.75, 0.2, 0.6),
        "ear_back": (0.75, -0.3, 0.6), "jaw_angle": (0.8, 0, -0.6),
    }  # fmt: skip
    found = np.zeros((len(MARK_IDS), 3))
    for name, way in ways.items():
        for mark, sign in ((name, 1), (f"{name}_right", 1), (f"{name}_left", -1)):
            if mark in INDEX:
                found[INDEX[mark]] = np.array([sign * way[0], *way[1:]])
    return found


FELT_OUTWARD: Final = _felt_outward()
