"""From what size on a difference is said, on every screen and sheet alike: smaller ones are left to the eye."""

from __future__ import annotations

from typing import Final

TELLING_SHORTAGE_MM: Final = 4.0
"""Hair that lacks by less is not said to be missing."""
UNEVEN_MM: Final = 3.0
"""Sides planned further apart than this are told, with the cause."""
ALIKE_MM: Final = 1.0
"""Lengths closer than this are said as one."""
