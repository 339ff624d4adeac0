"""The whole plan, cut in simulation: what each choice and the hand leave on a made head, place by place.

Every millimetre that a place ends off its outline comes from one of four causes, and the simulation keeps them apart:
the length that was chosen, the tool (a guard or comb follows the skin where an outline stands off it), the order (a
place cut before the one it takes its line from is left long), and the hand.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Final, Literal

import numpy as np

from dapwick.core.after.deviations import Deviations
from dapwick.core.after.tolerance import TOLERANCE_MM
from dapwick.core.basics.arrays import Array, IntArray, frozen
from dapwick.core.basics.errors import BadInput
from dapwick.core.cut.sheet import CutSheet
from dapwick.core.head.skin import members
from dapwick.core.head.stand import depth_of
from dapwick.core.head.zones import Side, zone_words
from dapwick.core.outlines.fit import Outline
from dapwick.core.plan.kit import USUAL_KIT, Kit
from dapwick.core.plan.lengths import ZoneLength
from dapwick.core.practice.human_hand import hand_error
from dapwick.core.practice.long_side import Eye

Where = Literal["left", "right", "both"]
Cause = Literal["length", "tool", "order", "hand"]
CAUSES: Final[tuple[Cause, ...]] = ("length", "tool", "order", "hand")
Way = Literal["guard", "comb", "shears"]
WAYS: Final[Mapping[Way, str]] = {
    "guard": "guard on the clipper",
    "comb": "shears over the comb",
    "shears": "shears to the outline",
}
STEADY: Final[Mapping[Way, float]] = {"guard": 0.35, "comb": 0.6, "shears": 1.0}
"""Share of a hand's error (σ 2 mm) that is left with each tool."""
ASKED: Final = ("visor", "crown", "cheek", "jaw", "muzzle_side", "chin")
SIDES: Final[tuple[Side, ...]] = ("left", "right")
OUT_OF_ORDER_MM: Final = 2.5
"""Who cuts a place before the one it takes its line from leaves so much, to be safe."""
SHORTEST_MM, LONGEST_MM = 1.0, 250.0
LEAST_DEPTH_MM: Final = 0.3
ALIKE_MM: Final = 1.5
"""Two sides that are off by amounts so near are told as one."""


@dataclass(frozen=True)
class PlanMade:
    """What a person planned: an outline, a length (mm) and a tool for each asked zone, and the order of the zones."""

    family: str
    lengths: Mapping[str, float]
    tools: Mapping[str, str]
    order: tuple[str, ...]

    def __post_init__(self) -> None:
        if (
            set(self.lengths) != set(ASKED)
            or set(self.tools) != set(ASKED)
            or sorted(self.order) != sorted(ASKED)
        ):
            raise BadInput(
                "a whole plan",
                expected=f"a length, a tool and a turn for each of {', '.join(zone_words(z) for z in ASKED)}",
                got=f"{len(self.lengths)} lengths, {len(self.tools)} tools, {len(self.order)} in order",
                where="the whole plan",
            )
        for zone, mm in self.lengths.items():
            if not SHORTEST_MM <= mm <= LONGEST_MM:
                expected = f"{SHORTEST_MM:g} to {LONGEST_MM:g} mm"
                raise BadInput(zone_words(zone), expected=expected, got=f"{mm:g}", where="the whole plan")
            if self.tools[zone] not in WAYS:
                raise BadInput(
                    f"tool for {zone_words(zone)}",
                    expected=", ".join(WAYS),
                    got=str(self.tools[zone])[:40],
                    where="the whole plan",
                )

    def way(self, zone: str) -> Way:
        return self.tools[zone]  # type: ignore[return-value]


@dataclass(frozen=True)
class SimulatedCut:
    """A plan as it came out: by cause how far (V,) mm it moved the surface off the outline, off_mm (V,) all of it, as
    far as the coat went; best_mm: the outline's own length by zone; best_order: the sheet's; late: zones cut before
    one they take their line from, with that one."""

    outline: Outline
    made: PlanMade
    by_cause: Mapping[Cause, Array]
    off_mm: Array
    best_mm: Mapping[str, float]
    best_order: tuple[str, ...]
    late: Mapping[str, str]


@dataclass(frozen=True)
class Fault:
    """A place that the check found off: mm of hair, long more than 0, and what made most of it."""

    zone: str
    side: Where
    mm: float
    cause: Cause
    words: str


@dataclass(frozen=True)
class Person:
    """Whose hand cuts. eye: what it would not notice stays; leaning_mm: what the hand always leaves, by zone and
    side."""

    eye: Eye
    leaning_mm: Mapping[tuple[str, str], float]
    kit: Kit = USUAL_KIT


def simulated(
    outline: Outline,
    zones: Sequence[ZoneLength],
    sheet: CutSheet,
    made: PlanMade,
    person: Person,
    rng: np.random.Generator,
) -> SimulatedCut:
    """The head as this plan and this person's hand leave it. No hair is left that did not grow."""
    best, best_order = _best_mm(zones), _best_order(sheet)
    late = _late(made.order, best_order, sheet)
    parts: dict[Cause, Array] = {cause: np.zeros(len(outline.leave_mm)) for cause in CAUSES}
    unsteady = hand_error(outline.ground.skin, rng)
    for zone in ASKED:
        for side in SIDES:
            at = members(zone, side)
            parts["length"][at], parts["tool"][at] = _chosen(outline, made, zone, at, best[zone], person.kit)
            parts["order"][at] = OUT_OF_ORDER_MM if zone in late else 0.0
            hand = STEADY[made.way(zone)] * unsteady[at] + person.leaning_mm.get((zone, side), 0.0)
            parts["hand"][at] = _noticed(hand, person.eye.threshold_mm(zone, side))
    off = _as_far_as_it_goes(outline, np.sum(list(parts.values()), axis=0))
    return SimulatedCut(outline, made, parts, off, best, best_order, late)


def _chosen(
    outline: Outline, made: PlanMade, zone: str, at: IntArray, best_mm: float, kit: Kit
) -> tuple[Array, Array]:
    """What the length that was chosen, and what the tool, moves each place (K,) of a zone off the outline, mm."""
    stand = outline.ground.coat.stand[at]

    def deep(mm: float) -> Array:
        return depth_of(np.full(len(at), mm), stand)

    length = deep(made.lengths[zone]) - deep(best_mm)
    if made.way(zone) == "shears":
        return length, np.zeros(len(at))
    return length, deep(_reached_mm(made, zone, kit)) - (outline.leave_mm[at] + length)


def _as_far_as_it_goes(outline: Outline, off_mm: Array) -> Array:
    """How far (V,) a surface can be off its outline: there is the coat above it and the skin below."""
    leave, coat = outline.leave_mm, outline.ground.coat.depth_mm
    depth = np.minimum(np.maximum(leave + off_mm, LEAST_DEPTH_MM), np.maximum(coat, leave))
    return frozen(np.where(outline.ground.bare, 0.0, depth - leave))


def _noticed(hand: Array, threshold_mm: float) -> Array:
    """A zone that came out longer than its stylist's eye lets pass is taken in until it does; what is too short
    stays."""
    over = max(float(hand.mean()) - threshold_mm, 0.0)
    return hand - over


def _best_mm(zones: Sequence[ZoneLength]) -> dict[str, float]:
    return {
        zone: float(np.mean([z.leave_mm for z in zones if z.zone == zone] or [SHORTEST_MM])) for zone in ASKED
    }


def _best_order(sheet: CutSheet) -> tuple[str, ...]:
    """Zones as the sheet works them first; what it never works goes last."""
    first = {
        zone: next((s.number for s in sheet.steps if s.doing == "work" and zone in s.zones), 10_000)
        for zone in ASKED
    }
    return tuple(sorted(ASKED, key=lambda zone: first[zone]))


def _late(order: Sequence[str], best: Sequence[str], sheet: CutSheet) -> dict[str, str]:
    """Zones cut before a neighbour that the sheet cuts first."""
    touching = {frozenset(pair) for pair in sheet.case.neighbours}
    found = {}
    for zone in ASKED:
        before = [other for other in best[: best.index(zone)] if frozenset((zone, other)) in touching]
        missed = [other for other in before if order.index(other) > order.index(zone)]
        if missed:
            found[zone] = missed[0]
    return found


def _reached_mm(made: PlanMade, zone: str, kit: Kit) -> float:
    """The length that a guard or comb really leaves: of guards there are only so many."""
    asked = made.lengths[zone]
    if made.way(zone) == "comb":
        return asked
    guards = [tool.leaves_mm or 0.0 for tool in kit.clippers("guard")]
    return min((mm for mm in guards if mm >= asked), default=max(guards, default=asked))


def faults_of(cut: SimulatedCut, found: Deviations) -> tuple[Fault, ...]:
    """What the check finds off by more than a zone's tolerance, and which cause made most of it; worst first, both
    sides as one where they are off alike."""
    faults = []
    for zone in ASKED:
        off = {
            side: place.hair_mm
            for side in SIDES
            if (place := found.of(zone, side)) and abs(place.hair_mm) >= TOLERANCE_MM[zone]
        }
        causes = {side: _cause(cut, zone, side, mm) for side, mm in off.items()}
        alike = (
            len(off) == 2 and len(set(causes.values())) == 1 and abs(off["left"] - off["right"]) < ALIKE_MM
        )
        if alike:
            faults.append(_fault(cut, zone, "both", (off["left"] + off["right"]) / 2, causes["left"]))
        else:
            faults += [_fault(cut, zone, side, mm, causes[side]) for side, mm in off.items()]
    return tuple(sorted(faults, key=lambda fault: -abs(fault.mm)))


def _fault(cut: SimulatedCut, zone: str, side: Where, mm: float, cause: Cause) -> Fault:
    where = zone_words(zone) if side == "both" else f"{side} {zone_words(zone)}"
    words = f"{where[0].upper()}{where[1:]} {_much(mm)}: {_why(cut, zone, cause)}"
    return Fault(zone, side, mm, cause, words)


def _cause(cut: SimulatedCut, zone: str, side: Side, mm: float) -> Cause:
    """What pushed the place most in the direction in which it is off."""
    at = members(zone, side)
    return max(CAUSES, key=lambda cause: float(np.sign(mm)) * float(cut.by_cause[cause][at].mean()))


def _much(mm: float) -> str:
    return f"{abs(mm):.0f} mm {'long' if mm > 0 else 'short'}"


def _why(cut: SimulatedCut, zone: str, cause: Cause) -> str:
    made = cut.made
    if cause == "length":
        return f"the length. You chose {made.lengths[zone]:.0f} mm, the outline asks {cut.best_mm[zone]:.0f}."
    if cause == "tool":
        tool = "A guard" if made.way(zone) == "guard" else "A comb"
        return f"the tool. {tool} follows the skin; the outline does not run along it here."
    if cause == "order":
        return f"the order. It takes its line from the {zone_words(cut.late[zone])}, which comes first."
    return "the hand, and no more than your eye lets pass there."
