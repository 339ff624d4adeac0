"""The printed scale card: where its markers lie, and what one seen in a photo says of the scale.

The card is held facing the camera, level with the eye that the camera sees. It fixes how many pixels a
millimetre has *there*; how far the hand held it before or behind the eye is the reading's uncertainty.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Final

import numpy as np

from dapwick.core.basics.arrays import Array

ROWS, COLUMNS = 2, 3
MARKER_MM: Final = 22.0
GAP_MM: Final = 6.0
MARGIN_MM: Final = 7.0
WIDTH_MM: Final = 2 * MARGIN_MM + COLUMNS * MARKER_MM + (COLUMNS - 1) * GAP_MM
HEIGHT_MM: Final = 2 * MARGIN_MM + ROWS * MARKER_MM + (ROWS - 1) * GAP_MM
MARKER_IDS: Final = tuple(range(ROWS * COLUMNS))
HELD_OFF_SIGMA_MM: Final = 12.0
"""How far before or behind the eye a hand holds the card (1 σ)."""
EYES_BY_VIEW: Final[Mapping[str, tuple[str, ...]]] = {
    "left": ("eye_outer_left",),
    "right": ("eye_outer_right",),
    "three_quarter_left": ("eye_outer_left",),
    "three_quarter_right": ("eye_outer_right",),
}
BOTH_EYES: Final = ("eye_outer_left", "eye_outer_right")


@dataclass(frozen=True)
class CardReading:
    """A card seen in a photo: px for each mm where it was held, its share σ, markers found."""

    px_per_mm: float
    sigma: float
    markers: int


def held_level_with(view: str) -> tuple[str, ...]:
    """The marks whose mean depth the card shares in a photo of this view."""
    return EYES_BY_VIEW.get(view, BOTH_EYES)


def marker_corners_mm(marker: int) -> Array:
    """Corners (4, 2) of one marker on the card, mm from its top left, clockwise from the marker's own."""
    row, column = divmod(marker, COLUMNS)
    x, y = MARGIN_MM + column * (MARKER_MM + GAP_MM), MARGIN_MM + row * (MARKER_MM + GAP_MM)
    s = MARKER_MM
    return np.array([[x, y], [x + s, y], [x + s, y + s], [x, y + s]])


def reading_sigma(distance_mm: float, read_sigma: float) -> float:
    """Share σ of a reading: the hand's depth offset at this camera distance, and the reading itself."""
    return math.hypot(HELD_OFF_SIGMA_MM / distance_mm, read_sigma)
