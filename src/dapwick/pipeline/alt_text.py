"""A drawing told in words, for those who hear the screen instead of seeing it."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Final

from dapwick.core.head.zones import zone_words
from dapwick.core.outlines.fit import Outline
from dapwick.core.plan.lengths import ZoneLength
from dapwick.core.plan.verdict import Verdict

WHEN: Final = {"today": "It can be cut today.", "not_on_this_coat": "This coat cannot carry it."}
TOLD: Final = ("crown", "visor", "temple", "cheek", "jaw", "chin", "muzzle_side", "ear_outside")


def in_words(outline: Outline, zones: Sequence[ZoneLength], verdict: Verdict) -> str:
    """What the picture shows: shape, when it can be cut, how it changes the head, lengths by place."""
    effects = {e.id: e for e in verdict.effects}
    width, ratio = effects["width_mm"], effects["width_to_height"]
    when = WHEN.get(verdict.when, f"It can be cut in about {verdict.weeks} weeks.")
    if verdict.when == "today" and verdict.comb_first:
        when = f"Comb {zone_words(verdict.comb_first[0])} first: its coat is not seen."
    said = [
        f"{verdict.called}: {outline.family.description} {when}",
        f"From the front the head goes from {width.now:.0f} to {width.after:.0f} mm wide, "
        f"{ratio.after:.2f} times as wide as high.",
    ]
    for zone in TOLD:
        sides = {z.side: z for z in zones if z.zone == zone}
        if len(sides) == 2:
            said.append(_place(zone, sides["left"], sides["right"]))
    return " ".join(said)


def _place(zone: str, left: ZoneLength, right: ZoneLength) -> str:
    name = zone_words(zone).capitalize()
    if round(left.leave_mm) == round(right.leave_mm):
        return f"{name}: leave {left.leave_mm:.0f} mm, {left.remove_mm:.0f} off."
    return f"{name}: leave {left.leave_mm:.0f} mm on the left, {right.leave_mm:.0f} on the right."
