"""How fast coat grows, in hair length; editable trade defaults until this dog's own is known."""

from __future__ import annotations

import math
from collections.abc import Mapping
from typing import Final

MM_A_MONTH: Final[Mapping[str, float]] = {
    "standing": 10.0,
    "curl": 11.0,
    "wavy": 11.0,
    "fine_drop": 12.0,
    "harsh": 7.0,
}
MOST_WEEKS: Final = 26
"""What takes longer to grow is not on this coat."""
RATE_SPREAD: Final = 0.25
"""Dogs of one coat type differ by this share in how fast they grow (σ)."""
STOPS_AT_MM: Final[Mapping[str, float]] = {"bridge": 15.0, "stop": 14.0, "inner_corner": 12.0}
"""Hair of these zones grows no longer than that by itself."""
WEEKS_A_MONTH: Final = 365.25 / 12 / 7


def growth_mm(weeks: float, coat_type: str) -> float:
    """Hair length (mm) grown in so many weeks."""
    return weeks * MM_A_MONTH[coat_type] / WEEKS_A_MONTH


def weeks_to_grow(length_mm: float, coat_type: str) -> int:
    """Whole weeks until this much more hair length is there."""
    return math.ceil(length_mm / growth_mm(1.0, coat_type)) if length_mm > 0 else 0


def weeks_range(length_mm: float, coat_type: str) -> tuple[int, int]:
    """The same for a fast and a slow grower (one σ of the rate)."""
    return weeks_to_grow(length_mm / (1 + RATE_SPREAD), coat_type), weeks_to_grow(
        length_mm / (1 - RATE_SPREAD), coat_type
    )
