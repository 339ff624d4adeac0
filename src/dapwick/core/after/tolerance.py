"""How far a finished place may be off its plan before anybody minds, and what it is then called."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Final, Literal

from scipy.special import ndtr

from dapwick.core.after.deviations import ZoneOff
from dapwick.core.head.zones import ZONES
from dapwick.core.outlines.ground import SPANNED

TOLERANCE_MM: Final[Mapping[str, float]] = {
    zone: 2.0 if zone in ("cheek", "crown", "visor", "jaw") else 3.0 for zone in ZONES
}
NOT_TOUCHED: Final = (*SPANNED, "brow")
"""Zones that are cut by line and eye, too small for a photo from two paces to tell."""
State = Literal["long", "short", "outside", "inside", "true", "unsure", "unseen"]
"""outside, inside: off the outline as it is drawn, but as likely for a skull that was misjudged as for the hair."""


def within(zone: ZoneOff) -> bool:
    """Photos that agree show it no further outside its outline than a hand may be off, and surely not by twice that."""
    tolerance = TOLERANCE_MM[zone.zone]
    surely = zone.surface_mm + zone.surface_sigma < 2 * tolerance
    return zone.pictured and not zone.contested and zone.surface_mm < tolerance and surely


def chance_long(zone: ZoneOff) -> float:
    """That hair is longer there than its tolerance allows."""
    return float(ndtr((zone.hair_mm - TOLERANCE_MM[zone.zone]) / zone.hair_sigma))
