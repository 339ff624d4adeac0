"""Which tool sets a length in: the trade's usual blades and guard combs, until a stylist enters their own kit."""

from __future__ import annotations

from typing import Final

GUARDS_MM: Final = (3, 6, 10, 13, 16, 19, 22, 25, 32)
BLADES: Final = (
    ("40", 0.25),
    ("30", 0.5),
    ("15", 1.2),
    ("10", 1.5),
    ("9", 2.0),
    ("8½", 2.8),
    ("7F", 3.2),
    ("5F", 6.3),
    ("4F", 9.5),
    ("3¾F", 13.0),
)
"""Name and length (mm) left with the growth."""
AT_A_BLADE_MM: Final = 1.0


def guard_for(shortest_mm: float, clipped: bool = False) -> str:
    """The longest guard not longer than the zone's shortest target, what stands over being scissor work; for a
    clipped zone the blade nearest its length, or the guard where no blade comes near."""
    if clipped:
        name, length = min(BLADES, key=lambda b: abs(b[1] - shortest_mm))
        if abs(length - shortest_mm) <= AT_A_BLADE_MM:
            return f"{name} blade"
    fitting = [g for g in GUARDS_MM if g <= shortest_mm]
    if not fitting:
        return "scissors"
    return f"{fitting[-1]} mm guard" if clipped else f"{fitting[-1]} mm guard, then scissors"
