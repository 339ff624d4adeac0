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
WEEKS_A_MONTH: Final = 365.25 / 12 / 7


def weeks_to_grow(length_mm: float, coat_type: str) -> int:
    """Whole weeks until this much more hair length is there."""
    return math.ceil(length_mm / MM_A_MONTH[coat_type] * WEEKS_A_MONTH) if length_mm > 0 else 0
