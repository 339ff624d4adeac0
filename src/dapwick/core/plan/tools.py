"""Which tool sets a length in: the trade's usual guard combs, until a stylist enters their own kit."""

from __future__ import annotations

from typing import Final

GUARDS_MM: Final = (3, 6, 10, 13, 16, 19, 22, 25, 32)


def guard_for(shortest_mm: float) -> str:
    """The longest guard not longer than the zone's shortest target; what stands over is scissor work."""
    fitting = [g for g in GUARDS_MM if g <= shortest_mm]
    return f"{fitting[-1]} mm guard, then scissors" if fitting else "scissors"
