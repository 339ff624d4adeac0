"""Cases for the rules of the cut without a photo: a family, a coat, a hand, what the dog minds, lengths by zone."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, Final

from dapwick.core.cut.case import SIDES, Case
from dapwick.core.cut.sheet import CutSheet, Step, cut_sheet
from dapwick.core.outlines.ear_cut import SHORT_MM
from dapwick.core.outlines.families import FAMILIES
from dapwick.core.outlines.family import settle_schools
from dapwick.core.plan.kit import Stylist
from dapwick.core.plan.lengths import ZoneLength

LEAVE_MM: Final = {
    "crown": 20.0, "back_skull": 14.0, "nape": 8.0, "visor": 12.0, "brow": 8.0, "stop": 0.5, "inner_corner": 0.5,
    "temple": 12.0, "bridge": 3.0, "muzzle_side": 14.0, "chin": 18.0, "cheek": 16.0, "jaw": 18.0, "throat": 9.0,
    "ear_outside": 16.0, "ear_inside": 1.5, "ear_edge": 16.0, "ear_base_front": 12.0, "ear_base_rear": 12.0,
}  # fmt: skip
FACE: Final = ("cheek", "jaw", "throat", "muzzle_side", "bridge", "chin", "stop", "inner_corner")
CLIPPED: Final[Mapping[str, tuple[str, ...]]] = {
    "topknot": FACE,
    "crest": FACE,
    "close": tuple(zone for zone in LEAVE_MM if not zone.startswith("ear_")),
    "brows_beard": ("crown", "back_skull", "cheek", "throat", "temple", "jaw", "nape", "ear_outside"),
    "dome": ("cheek", "jaw", "throat"),
    "brick": ("throat", "ear_outside"),
}
CARDED: Final = ("crown", "back_skull", "cheek", "jaw", "temple")
NEIGHBOURS: Final = (
    ("crown", "temple"), ("crown", "visor"), ("crown", "back_skull"), ("back_skull", "nape"), ("temple", "cheek"),
    ("cheek", "jaw"), ("cheek", "muzzle_side"), ("jaw", "throat"), ("jaw", "chin"), ("visor", "brow"),
    ("visor", "stop"), ("temple", "brow"), ("nape", "throat"), ("muzzle_side", "bridge"), ("muzzle_side", "chin"),
)  # fmt: skip


def zone_length(
    zone: str, side: str, leave_mm: float, now_mm: float, by: str = "scissors", **more: Any
) -> ZoneLength:
    """A planned zone; what is not said follows. What a blade sets is one length."""
    base: dict[str, Any] = {
        "zone": zone, "side": side, "leave_mm": leave_mm, "low": leave_mm - 2, "high": leave_mm + 2, "now_mm": now_mm,
        "now_low": now_mm - 3, "now_high": now_mm + 3, "remove_mm": max(now_mm - leave_mm, 0.0), "shortage_mm": 0.0,
        "wanted_mm": leave_mm, "depth_mm": leave_mm, "chance_short": 0.05, "tool": "", "clipped": by != "scissors",
        "why": "the outline", "shortest_mm": 0.8 * leave_mm, "longest_mm": 1.2 * leave_mm, "by": by,
    }  # fmt: skip
    if by == "clipper":
        base |= dict.fromkeys(("low", "high", "shortest_mm", "longest_mm"), leave_mm)
    return ZoneLength(**(base | more))


def case_of(
    family: str,
    coat: str = "standing",
    hand: str = "right",
    minds: tuple[str, ...] = (),
    schools: Mapping[str, str] | None = None,
    now_mm: float = 34.0,
    leave: Mapping[str, float] | None = None,
    **more: Any,
) -> Case:
    """One case. leave: zones left at another length than usual here, or `zone:side`."""
    lengths = {}
    for zone, usual in LEAVE_MM.items():
        by = "clipper" if zone in CLIPPED.get(family, ()) or zone == "ear_inside" else "scissors"
        if family == "natural" and zone in CARDED:
            by = "carding"
        for side in SIDES:
            said = (leave or {}).get(f"{zone}:{side}", (leave or {}).get(zone))
            left = said if said is not None else 1.5 if by == "clipper" else usual
            if zone == "ear_outside" and left <= SHORT_MM:
                by = "clipper"
            lengths[zone, side] = zone_length(
                zone, side, left, max(now_mm, left) if said is None else now_mm, by
            )
    chosen = FAMILIES[family]
    return Case(
        family=family,
        family_name=chosen.name,
        coat=coat,
        schools=settle_schools(chosen, schools or {}, coat),
        zones=lengths,
        stylist=more.pop("stylist", Stylist("Oriel", hand)),  # type: ignore[arg-type]
        traits=minds,
        neighbours=NEIGHBOURS,
        ears_words="in the upper third",
        lines_words="from the ear to the eye",
        **more,
    )


def sheet_of(family: str, **said: Any) -> CutSheet:
    return cut_sheet(case_of(family, **said))


def rules_in(sheet: CutSheet) -> list[str]:
    """Rules in the order in which they are first met."""
    return list(dict.fromkeys(step.rule for step in sheet.steps))


def steps_of(sheet: CutSheet, rule: str) -> list[Step]:
    return [step for step in sheet.steps if step.rule == rule]
