"""What a sheet leaves alone, with the reason: hair that has to grow first, places that stay as they are."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Final

from dapwick.core.cut.blends import SHORT_BY_ITSELF
from dapwick.core.cut.case import SIDES, Case
from dapwick.core.cut.drafts import BLEND, Draft, comes_off
from dapwick.core.cut.pieces import OFF_MM, Piece
from dapwick.core.head.growth import MOST_WEEKS, weeks_range, weeks_to_grow
from dapwick.core.head.zones import Side, zone_words
from dapwick.core.plan.readiness import OUTLINED, unseen_zones

NOTHING_OFF: Final = "nothing comes off"
AS_IT_IS: Final = "short by itself; left as it is"
REFINED: Final = "left as it is: refined only"
NO_SHORTER: Final = "as short as skin and kit allow"
MOST_NAMED: Final = 4
MOST_GUESSED: Final = 3
MOSTLY: Final = 0.6
"""Share of an outline's zones that nothing has read from which on the whole sheet is a guess."""


@dataclass(frozen=True)
class Alone:
    """One place where nothing is cut. missing_mm: hair that the outline asks and that is not there; weeks: until it
    is, for a fast and a slow grower; 0 where nothing is missing."""

    zone: str
    side: Side
    part: str
    reason: str
    missing_mm: float = 0.0
    weeks: tuple[int, int] = (0, 0)

    @property
    def grows(self) -> bool:
        return self.missing_mm > 0


def left_alone(case: Case, ordered: Sequence[Draft]) -> tuple[Alone, ...]:
    """Every piece of the plan that no step works on."""
    shaping = [d for d in ordered if d.rule.doing == "work" and d.chapter != BLEND]
    cut = {piece.key for draft in shaping for piece in draft.lengths}
    # Places whose hair is short by itself are taken by eye, without a length.
    by_eye = {
        place for d in shaping if d.rule.number == "eye" for place in d.places if place[0] in SHORT_BY_ITSELF
    }
    return tuple(
        _alone(case, piece)
        for piece in case.every_piece
        if piece.key not in cut and piece.place not in by_eye
    )


def _alone(case: Case, piece: Piece) -> Alone:
    if piece.zone in SHORT_BY_ITSELF:
        return Alone(*piece.key, AS_IT_IS)
    if piece.missing_mm >= OFF_MM:
        weeks = weeks_range(piece.missing_mm, case.coat)
        reason = f"{piece.missing_mm:.0f} mm still to grow, {weeks_words(weeks)}; strays only"
        return Alone(*piece.key, reason, piece.missing_mm, weeks)
    if case.schools.get("extent") == "refine":
        return Alone(*piece.key, REFINED)
    kept = case.grows_up(piece)
    if kept:
        return Alone(*piece.key, kept)
    if piece.remove_mm >= OFF_MM and not comes_off(case, piece):
        return Alone(*piece.key, NO_SHORTER)
    return Alone(*piece.key, NOTHING_OFF)


def weeks_words(weeks: tuple[int, int]) -> str:
    low, high = weeks
    if low == high:
        return f"{low} week{'s' if low != 1 else ''}"
    return f"{low}–{high} weeks"


def alone_words(alone: Sequence[Alone], case: Case) -> tuple[str, ...]:
    """The same in words, a zone a line where all of it shares a reason."""
    found = []
    for zone in dict.fromkeys(one.zone for one in alone):
        here = [one for one in alone if one.zone == zone]
        every = sum(len(case.pieces_at((zone, side))) for side in SIDES)
        if len(here) == every and len({one.reason for one in here}) == 1:
            found.append(f"{zone_words(zone)}: {here[0].reason}")
        else:
            found += [f"{_named(one)}: {one.reason}" for one in here]
    return tuple(found)


def before_time(case: Case) -> str:
    """What is said on top of a sheet whose outline wants hair that is not there yet; nothing where all is there."""
    short = [z for z in case.zones.values() if z.shortage_mm > 0]
    if not short:
        return ""
    worst = max(short, key=lambda z: z.shortage_mm)
    weeks = weeks_range(worst.shortage_mm, case.coat)
    never = weeks_to_grow(worst.shortage_mm, case.coat) > MOST_WEEKS
    full = "Not on this coat" if never else f"Full in {weeks_words(weeks)}"
    names = _sided([(z.zone, z.side) for z in sorted(short, key=lambda z: -z.shortage_mm)])
    named = ", ".join(names[:MOST_NAMED]) + (
        f" and {len(names) - MOST_NAMED} more" if len(names) > MOST_NAMED else ""
    )
    return f"{full}; today without all of the {named}."


def rests_on(case: Case) -> str:
    """What is said on top of a sheet whose lengths rest on what dogs usually wear, since nothing has read this coat;
    nothing where edges and combs have."""
    lengths = list(case.zones.values())
    unseen = unseen_zones(lengths)
    if not unseen:
        return ""
    outline = {z.zone for z in lengths if z.zone in OUTLINED and not z.clipped}
    if len(unseen) > len(outline) * MOSTLY:
        return "This sheet rests on guesses: nothing has read this coat. Comb before you cut."
    named = " and ".join(zone_words(zone) for zone in unseen[:MOST_GUESSED])
    return f"No photo or comb shows the coat at the {named}: comb there before you cut."


def _sided(places: Sequence[tuple[str, Side]]) -> list[str]:
    """Places by name, both sides as one."""
    found = []
    for zone in dict.fromkeys(zone for zone, _ in places):
        sides = [side for one, side in places if one == zone]
        found.append(zone_words(zone) if len(sides) == len(SIDES) else f"{sides[0]} {zone_words(zone)}")
    return found


def _named(one: Alone) -> str:
    return " ".join(word for word in (one.side, one.part, zone_words(one.zone)) if word)
