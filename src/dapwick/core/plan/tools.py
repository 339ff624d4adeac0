"""Which owned tool sets a length in, which way it goes, and what that leaves."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Final, Literal

from dapwick.core.plan.kit import USUAL_KIT, Kit, Tool

Growth = Literal["with", "against"]
AT_A_BLADE_MM: Final = 1.0
"""A blade is taken before a guard that leaves this little less: nothing rides on the leather."""
TELLING_MM: Final = 1.0
"""A tool that leaves this much more than the plan is told."""
ROUNDED_MM: Final = 1e-6
"""Lengths that differ by less are the same number."""
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
    None,
    None,
    None,
    False,
    "Longer than every guard here, or nothing for one to take: scissored over the comb.",
)


def guard_over(longest_mm: float, kit: Kit = USUAL_KIT) -> ToolChoice:
    """For hair that is scissored to an outline: the shortest owned guard that leaves no less than the longest place
    it passes over, what stands over being scissor work; none where no guard is so long. What a guard took cannot be
    put back, so the rule has no exceptions. longest_mm: that place's length at the upper end of what is told."""
    fitting = [g for g in kit.clippers("guard") if (g.leaves_mm or 0.0) >= longest_mm]
    if not fitting:
        return SCISSORS
    why = f"The shortest guard you own that leaves no less than the longest place here, up to {longest_mm:.0f} mm."
    return ToolChoice(fitting[0], "with", fitting[0].leaves_mm, True, why)


def clipped_to(
    length_mm: float, kit: Kit = USUAL_KIT, closest_mm: float = 0.0, growth: Growth = "with"
) -> ToolChoice:
    """For skin that is clipped to a length: the shortest owned blade, else guard, that leaves no less than that,
    nor less than the skin allows (closest_mm); scissors where nothing owned is so long."""
    wanted = max(length_mm, closest_mm)
    share = kit.against_share if growth == "against" else 1.0
    left = {t: share * (t.leaves_mm or 0.0) for t in (*kit.clippers("blade"), *kit.clippers("guard"))}
    allowed = [t for t, mm in left.items() if mm >= wanted - ROUNDED_MM]
    if not allowed:
        return replace(
            SCISSORS, why=f"No blade or guard in the kit leaves {wanted:.3g} mm or more: scissored."
        )
    shortest = min(left[t] for t in allowed)
    blades = [t for t in allowed if t.kind == "blade" and left[t] <= shortest + AT_A_BLADE_MM]
    tool = min(blades or allowed, key=lambda t: left[t])
    return ToolChoice(
        tool, growth, left[tool], False, _why(length_mm, closest_mm), _told(length_mm, left[tool])
    )


def _why(length_mm: float, closest_mm: float) -> str:
    if closest_mm > length_mm:
        return f"No closer than {closest_mm:g} mm on this skin, though the outline asks {length_mm:.1f} mm."
    return f"The shortest tool you own that leaves no less than {length_mm:.1f} mm."


def _told(wanted_mm: float, leaves_mm: float) -> str:
    if abs(wanted_mm - leaves_mm) <= TELLING_MM:
        return ""
    return f"Leaves {leaves_mm:g} mm where the outline asks {wanted_mm:.1f} mm."
