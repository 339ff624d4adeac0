"""Why: the chain behind a step and its number, from measure to rule to room to wish."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from dapwick.core.cut.case import Case
from dapwick.core.cut.drafts import Draft
from dapwick.core.cut.pieces import Piece
from dapwick.core.cut.rule import ALWAYS
from dapwick.core.head.zones import zone_words
from dapwick.core.plan.lengths import ZoneLength
from dapwick.core.plan.telling import UNEVEN_MM

Link = Literal["measure", "rule", "room", "wish", "tool", "skin", "hand", "dog", "sides"]


@dataclass(frozen=True)
class Because:
    """One link of the chain, in plain words."""

    of: Link
    words: str


def why(draft: Draft, case: Case) -> tuple[Because, ...]:
    """The chain behind one step: what was measured, which rule, what the coat allows, what was wished, then tool,
    skin, hand and dog where they decide anything."""
    found: list[Because] = []
    longest = max(draft.lengths, key=lambda z: z.remove_mm, default=None)
    if longest is not None:
        found += _number(longest, case)
    found.append(Because("rule", draft.rule.because))
    if draft.rule.when is not ALWAYS:
        found.append(Because("rule", f"On the sheet for: {draft.rule.when.words}."))
    if draft.choice is not None:
        found.append(Because("tool", draft.choice.why))
        if (
            draft.clips
            and not draft.choice.then_scissors
            and case.closest.mm >= (draft.choice.leaves_mm or 0.0) - 0.3
        ):
            found.append(Because("skin", f"Closest here {case.closest.mm:g} mm: {case.closest.why}."))
    found += [Because("sides", words) for words in uneven_words(draft, case)]
    found += [Because("dog", f"It {trait.words}." if trait.about == "minds" else f"{trait.words.capitalize()}.")
              for trait in draft.traits]  # fmt: skip
    if draft.rule.each and not draft.second:
        found.append(Because("hand", _hand(case)))
    return tuple(found)


def _number(piece: Piece, case: Case) -> list[Because]:
    found = []
    if piece.zone in case.measured:
        found.append(Because("measure", case.measured[piece.zone]))
    if piece.run:
        asks = f"{piece.why} asks at the {piece.words} {piece.run.words} (mm)."
    else:
        asks = f"{piece.why} asks {piece.leave_mm:.0f} mm at the {piece.words}."
    found.append(Because("rule", asks[0].upper() + asks[1:]))
    found.append(Because("room", _room(piece)))
    for key in (piece.zone, "*"):
        if key in case.steered:
            found.append(Because("wish", case.steered[key]))
    return found


def _room(piece: Piece) -> str:
    now = f"Coat there now {piece.now_mm:.0f} mm ({piece.now_low:.0f}–{piece.now_high:.0f})"
    if piece.unsure:
        return f"{now}, {piece.sure_mm:.0f} mm of it surely: comb first, and cut nothing that is shorter."
    return f"{now}: there is room for it."


def uneven_words(draft: Draft, case: Case) -> list[str]:
    """Where the sides are planned apart: by how much, and whether bone or coat is the cause."""
    found = []
    for zone in dict.fromkeys(zone for zone, _ in draft.places):
        sides = {z.side: z for z in case.planned(zone)}
        if len(sides) < 2 or zone not in {z.zone for z in draft.lengths}:
            continue
        left, right = sides["left"], sides["right"]
        apart = case.stands_mm((zone, "left")) - case.stands_mm((zone, "right"))
        if abs(apart) >= UNEVEN_MM:
            more = "longer" if apart > 0 else "shorter"
            found.append(
                f"{zone_words(zone).capitalize()}: left {abs(apart):.0f} mm {more} than right. "
                f"{_cause(case, left, right)}"
            )
    return found


def _cause(case: Case, left: ZoneLength, right: ZoneLength) -> str:
    if left.zone in case.bone_words:
        return f"Bone: {case.bone_words[left.zone]}; an even outline needs uneven lengths."
    if abs(left.now_mm - right.now_mm) >= UNEVEN_MM:
        return f"Coat: {left.now_mm:.0f} mm there on the left, {right.now_mm:.0f} mm on the right."
    return "Within what the measuring can tell; trust your eye from the front."


def _hand(case: Case) -> str:
    stylist, first = case.stylist, case.stylist.first_side
    kind = "awkward" if first == stylist.hard_side else "easy"
    return (
        f"{stylist.hand.capitalize()}-handed: the {stylist.hard_side} side is awkward; the {kind} one first."
    )
