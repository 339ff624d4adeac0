"""Where neighbouring zones step so far that a line would show, and how wide a blend takes it away."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Final

from dapwick.core.cut.case import SIDES, Case
from dapwick.core.head.zones import Side, zone_words
from dapwick.core.plan.telling import ALIKE_MM

LINE_SHOWS_MM: Final = 6.0
WIDTH_A_STEP: Final = 2.0
SHORT_BY_ITSELF: Final = ("stop", "inner_corner", "bridge", "lip_line", "lip_fold")
"""Zones that outlines pass over: a step to them is the eye's or the nose's own."""


@dataclass(frozen=True)
class Blend:
    """A step between two neighbours on one side, mm of hair length: from the longer zone to the shorter one over
    width_mm. clean: a blade's edge beside scissored hair, which some outlines want seen."""

    long: str
    short: str
    side: Side
    from_mm: float
    to_mm: float
    clean: bool

    @property
    def step_mm(self) -> float:
        return self.from_mm - self.to_mm

    @property
    def width_mm(self) -> float:
        return WIDTH_A_STEP * self.step_mm

    @property
    def words(self) -> str:
        return (
            f"{zone_words(self.long)} {self.from_mm:.0f} to {zone_words(self.short)} "
            f"{self.to_mm:.0f} mm, over {self.width_mm:.0f} mm"
        )


def blend_words(blends: Sequence[Blend]) -> list[str]:
    """Each pair of neighbours once; both sides where they differ."""
    found = []
    for pair in dict.fromkeys((b.long, b.short) for b in blends):
        sides = [b for b in blends if (b.long, b.short) == pair]
        apart = max(b.step_mm for b in sides) - min(b.step_mm for b in sides)
        if len(sides) == 1 or apart < ALIKE_MM:
            found.append(sides[0].words)
        else:
            found += [f"{b.side} {b.words}" for b in sides]
    return found


def blends_of(case: Case) -> tuple[Blend, ...]:
    """Every telling step, the largest first; only where the longer one is cut at all."""
    found = []
    for a, b in case.neighbours:
        if a in SHORT_BY_ITSELF or b in SHORT_BY_ITSELF:
            continue
        for side in SIDES:
            if (a, side) not in case.zones or (b, side) not in case.zones:
                continue
            stands = {zone: case.stands_mm((zone, side)) for zone in (a, b)}
            short, long = sorted(stands, key=lambda zone: (stands[zone], zone == a))
            # Hair that has yet to grow is not thinned to meet its neighbour.
            if stands[long] - stands[short] > LINE_SHOWS_MM and case.comes_off(long, side):
                clean = case.clipped(long) != case.clipped(short)
                found.append(Blend(long, short, side, stands[long], stands[short], clean))
    return tuple(sorted(found, key=lambda blend: -blend.step_mm))
