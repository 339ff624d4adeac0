"""What is said of a head at first sight: how long its muzzle is and how it carries its ears."""

from __future__ import annotations

from typing import Final, Literal

Muzzle = Literal["any", "short", "medium", "long"]
Carriage = Literal["any", "prick", "tipped", "button", "drop"]
MUZZLES: Final[tuple[Muzzle, ...]] = ("any", "short", "medium", "long")
CARRIAGES: Final[tuple[Carriage, ...]] = ("any", "prick", "tipped", "button", "drop")
