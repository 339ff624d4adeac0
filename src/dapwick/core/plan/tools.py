"""Which owned tool sets a length in, which way it goes, and what that leaves."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Final, Literal

from dapwick.core.plan.kit import USUAL_KIT, Kit, Tool

Growth = Literal["with", "against"]
AT_A_BLADE_MM: Final = 1.0
"""A blade whose length lies this near the plan is used as it is."""
BY_EYE: Final = "scissors"


@dataclass(frozen=True)
class ToolChoice:
    """tool: None where scissors do it all; leaves_mm: hair length after it; then_scissors: what stands over is
    scissor work; why: the rule, and told: what differs from the plan."""

    tool: Tool | None
    growth: Growth | None
    leaves_mm: float | None
    then_scissors: bool
    why: str
    told: str = ""

    @property
    def words(self) -> str:
        if self.tool is None:
            return BY_EYE
        way = ", against the growth" if self.growth == "against" else ""
        return f"{self.tool.words}{way}{', then scissors' if self.then_scissors else ''}"


SCISSORS: Final = ToolChoice(
    None, None, None, False, "Shorter than every guard here: scissored over the comb."
)


def guard_under(shortest_mm: float, kit: Kit = USUAL_KIT) -> ToolChoice:
    """For hair that is scissored to an outline: the longest owned guard not longer than the zone's shortest
    place, what stands over being scissor work."""
    fitting = [g for g in kit.clippers("guard") if (g.leaves_mm or 0.0) <= shortest_mm]
    if not fitting:
        return SCISSORS
    guard = fitting[-1]
    why = f"The longest guard you own that is not longer than the shortest place here, {shortest_mm:.0f} mm."
    return ToolChoice(guard, "with", guard.leaves_mm, True, why)


def clipped_to(
    length_mm: float, kit: Kit = USUAL_KIT, closest_mm: float = 0.0, growth: Growth = "with"
) -> ToolChoice:
    """For skin that is clipped to a length: the blade nearest to it, or the longest guard under it where no blade
    comes near; never closer than the skin allows (closest_mm)."""
    wanted = max(length_mm, closest_mm)
    share = kit.against_share if growth == "against" else 1.0
    left = {t: share * (t.leaves_mm or 0.0) for t in (*kit.clippers("blade"), *kit.clippers("guard"))}
    allowed = {t: mm for t, mm in left.items() if mm >= closest_mm - 1e-9}
    if not allowed:
        return replace(
            SCISSORS, why=f"No blade or guard in the kit leaves {closest_mm:g} mm or more: scissored."
        )
    tool = _nearest(allowed, wanted)
    return ToolChoice(
        tool, growth, allowed[tool], False, _why(length_mm, closest_mm), _told(length_mm, allowed[tool])
    )


def _nearest(left: dict[Tool, float], wanted_mm: float) -> Tool:
    blades = [t for t in left if t.kind == "blade"]
    best = min(blades, key=lambda t: abs(left[t] - wanted_mm), default=None)
    if best is not None and abs(left[best] - wanted_mm) <= AT_A_BLADE_MM:
        return best
    under = [t for t in left if t.kind == "guard" and left[t] <= wanted_mm]
    if under:
        return max(under, key=lambda t: left[t])
    return min(left, key=lambda t: abs(left[t] - wanted_mm))


def _why(length_mm: float, closest_mm: float) -> str:
    if closest_mm > length_mm:
        return f"No closer than {closest_mm:g} mm on this skin, though the outline asks {length_mm:.1f} mm."
    return f"The tool you own that comes nearest to {length_mm:.1f} mm."


def _told(wanted_mm: float, leaves_mm: float) -> str:
    if abs(wanted_mm - leaves_mm) <= AT_A_BLADE_MM:
        return ""
    return f"Leaves {leaves_mm:g} mm where the outline asks {wanted_mm:.1f} mm."
