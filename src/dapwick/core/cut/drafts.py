"""Rules put to one case: which apply, on which sides, with which tool and lengths; not yet in order."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from typing import Final

from dapwick.core.cut.blends import SHORT_BY_ITSELF, Blend, blends_of
from dapwick.core.cut.case import SIDES, Case, Place
from dapwick.core.cut.handling import Trait, minded, seen_at, slower
from dapwick.core.cut.pieces import CLEARED, OFF_MM, Piece
from dapwick.core.cut.rule import Rule
from dapwick.core.cut.rules import CHAPTERS, RULES
from dapwick.core.head.zones import Side
from dapwick.core.plan.kit import Tool
from dapwick.core.plan.lengths import CLIPPED, SCISSORED
from dapwick.core.plan.tools import SCISSORS, Growth, ToolChoice, clipped_to, guard_over

THINNING_USES: Final = ("thinning", "carding", "blending")
SET_IN, BLEND, LAST = (
    next(i for i, c in enumerate(CHAPTERS) if c.id == key) for key in ("set_in", "blend", "check")
)
REFINING: Final = frozenset(
    {"bar", "corner_cleared", "corner_tamed", "lip_fold", "lip_line", "nose_limit", "ear_front_cleared", "behind_ear",
     "top_sides", "comb_checks"}
)  # fmt: skip
"""What is done to a head that is nearly there: no length is set."""
REST: Final = ("clip_rest", "shape_rest")
"""Take up what no other rule brings to length: by blade, and by scissors."""
EDGE_MM: Final = 1.5
"""Length on a strip that is taken as close as the skin allows."""
LINE: Final = "line_sharpened"

SAME_TOOL_MM: Final = 2.0
"""Sides closer than this take the same guard: the one for the longer."""


@dataclass(frozen=True)
class Draft:
    """A step in the making. chapter and order: where the rule stands in the book; places it works on; lengths: the
    pieces of them that it brings to length; choice: blade or guard, tool: what else is in the hand; second: the other
    side is done already; part: (which, of how many) of a step that was split; parted: it works on parts that its
    title has to name; usual_min: the rule's minutes for this dog, minutes: what the log makes of them; traits: what
    makes it hard for this dog."""

    id: str
    rule: Rule
    chapter: int
    order: int
    side: Side | None
    places: tuple[Place, ...]
    lengths: tuple[Piece, ...]
    choice: ToolChoice | None
    tool: Tool | None
    minutes: float
    usual_min: float = 0.0
    second: bool = False
    part: tuple[int, int] = (1, 1)
    traits: tuple[Trait, ...] = ()
    blends: tuple[Blend, ...] = ()
    parted: bool = False

    @property
    def clips(self) -> bool:
        return self.choice is not None and self.choice.tool is not None

    @property
    def finishes(self) -> bool:
        """Brings its places to their planned length."""
        return self.rule.number in ("outline", "clip") or (
            self.choice is not None and not self.choice.then_scissors and self.rule.number == "set"
        )


def drafts_of(case: Case) -> list[Draft]:
    """Every step the rules ask for, by chapter and rule."""
    found = [
        draft
        for at, chapter in enumerate(CHAPTERS)
        for order, rule in enumerate(chapter.rules)
        if rule.when.holds(case) and rule.id not in REST and at != BLEND
        for draft in _drafts(case, rule, at, order)
    ]
    if case.schools.get("extent") == "refine":
        return [draft for draft in found if draft.rule.id in REFINING or draft.rule.doing == "look"]
    found += _rest(case, found)
    found += _blends(case)
    return found


def _drafts(case: Case, rule: Rule, chapter: int, order: int) -> list[Draft]:
    """One rule's steps: each side in the stylist's order, parted by tool where tools differ."""
    if case.stylist.work == "scissor_throughout" and rule.number == "guard":
        return []
    sides: Sequence[Side | None] = case.side_order if rule.each else (None,)
    made: list[Draft] = []
    for side in sides:
        made += _on_side(case, rule, chapter, order, side)
    for i, draft in enumerate(made):
        done = any(other.side != draft.side for other in made[:i])
        made[i] = replace(draft, second=rule.each and done)
    return made


def _on_side(case: Case, rule: Rule, chapter: int, order: int, side: Side | None) -> list[Draft]:
    zones = seen_at(case.traits, rule.sees) if rule.sees else rule.zones
    bare = Draft(
        _id(rule, side), rule, chapter, order, side, _places(zones, side), (), None,
        case.kit.shears(rule.use), 0.0,
    )  # fmt: skip
    if rule.number == "eye":
        return [_timed(case, bare)]
    if rule.number == "edge":
        choice = clipped_to(EDGE_MM, case.kit, case.closest.mm)
        return [_timed(case, replace(bare, choice=choice, tool=choice.tool or case.kit.shears("detail")))]
    lengths = _lengths(case, rule, side)
    if not lengths:
        # What is always done is done by eye where nothing comes off by number.
        by_eye = bare if rule.use == "carding" else replace(bare, tool=case.kit.shears("straight"))
        return [_timed(case, by_eye)] if rule.always else []
    if rule.number == "outline":
        return [_timed(case, replace(bare, places=_where(lengths), lengths=lengths))]
    return [_timed(case, draft) for draft in _by_tool(case, bare, lengths)]


def _places(zones: Iterable[str], side: Side | None) -> tuple[Place, ...]:
    return tuple((zone, one) for zone in zones for one in SIDES if side in (None, one))


def _where(lengths: Iterable[Piece]) -> tuple[Place, ...]:
    return tuple(dict.fromkeys(piece.place for piece in lengths))


def _lengths(case: Case, rule: Rule, side: Side | None) -> tuple[Piece, ...]:
    """The pieces a rule cuts on a side: of its own kind, and where something comes off."""
    there = [piece for place in _places(rule.zones, side) for piece in case.pieces_at(place)]
    kind = [piece for piece in there if _is_for(rule, piece)]
    if rule.number == "guard":
        kind = [band for piece in kind for band in (piece.bands or (piece,))]
    return tuple(piece for piece in kind if comes_off(case, piece))


def _is_for(rule: Rule, piece: Piece) -> bool:
    if rule.number == "set":
        return True
    if rule.number == "clip":
        return piece.by == CLIPPED
    if rule.number == "guard":
        return piece.by == SCISSORED
    return piece.by in (SCISSORED, CLEARED) or (rule.use in THINNING_USES and piece.by != CLIPPED)


def comes_off(case: Case, piece: Piece) -> bool:
    """Something worth cutting comes off, skin and the tools that are owned allowing; nothing that a puppy grows
    into."""
    if case.grows_up(piece):
        return False
    if piece.by != CLIPPED:
        return piece.remove_mm >= OFF_MM
    left = _choice(case, piece).leaves_mm
    return piece.now_mm - (piece.leave_mm if left is None else left) >= OFF_MM


def _by_tool(case: Case, bare: Draft, lengths: tuple[Piece, ...]) -> list[Draft]:
    """One draft for each blade or guard these pieces want, the longest first: what is clipped too long can be
    clipped again."""
    groups: dict[ToolChoice, list[Piece]] = {}
    for piece in lengths:
        choice = _choice(case, piece, bare.rule)
        if bare.rule.number != "guard" or _bites(choice, piece):
            groups.setdefault(choice, []).append(piece)
    by_length = sorted(groups.items(), key=lambda item: -(item[0].leaves_mm or 99.0))
    return [
        replace(
            bare,
            id=bare.id
            if len(by_length) == 1
            else f"{bare.id}:{choice.tool.id if choice.tool else 'scissors'}",
            places=_where(pieces),
            lengths=tuple(pieces),
            choice=choice,
            tool=choice.tool or case.kit.shears("straight"),
            parted=len(by_length) > 1 or any(piece.part for piece in pieces),
        )
        for choice, pieces in by_length
    ]


FACE: Final = frozenset({"cheek", "jaw", "temple", "muzzle_side", "chin", "bridge", "stop", "inner_corner"})


def growth_on(case: Case, piece: Piece, rule: Rule | None = None) -> Growth:
    """Which way a blade goes at a place: the leather's is its own question, and so are throat and face."""
    if rule is not None and "leather" in rule.id:
        asked = "leather"
    elif piece.zone == "throat":
        asked = "throat_growth"
    elif piece.zone in FACE:
        asked = "face_growth"
    else:
        return "with"
    return "against" if case.schools.get(asked) == "against" else "with"


def _bites(choice: ToolChoice, piece: Piece) -> bool:
    return choice.leaves_mm is not None and piece.now_mm - choice.leaves_mm >= OFF_MM


def _choice(case: Case, piece: Piece, rule: Rule | None = None) -> ToolChoice:
    if piece.by == CLIPPED:
        return clipped_to(piece.upper_mm, case.kit, case.closest.mm, growth_on(case, piece, rule))
    if piece.by != SCISSORED:
        return SCISSORS
    return _alike(guard_over(_longest(case, piece), case.kit))


def _alike(choice: ToolChoice) -> ToolChoice:
    """Places that take the same guard are one step, whatever their longest place."""
    return replace(choice, why=GUARD_WHY) if choice.tool else choice


GUARD_WHY: Final = (
    "The shortest guard you own that leaves no less than the longest place it passes over, at the upper end of what "
    "is told; what stands over is scissor work."
)


def _longest(case: Case, piece: Piece) -> float:
    """The piece's longest place at its upper end; both sides' where they hardly differ, so that both take the same
    guard."""
    bands = [b for side in SIDES for p in case.pieces_at((piece.zone, side)) for b in (p, *p.bands)]
    sides = [b.upper_mm for b in bands if b.part == piece.part]
    alike = max(sides) - min(sides) < SAME_TOOL_MM
    return max(sides) if alike else piece.upper_mm


def _id(rule: Rule, side: Side | None) -> str:
    return f"{rule.id}:{side}" if side else rule.id


def _timed(case: Case, draft: Draft) -> Draft:
    """With its minutes, and what makes it hard for this dog."""
    work = draft.rule.doing == "work"
    traits = minded(case.traits, (zone for zone, _ in draft.places), draft.clips) if work else ()
    usual = draft.rule.minutes * (slower(case.traits) if work else 1.0)
    return replace(draft, minutes=case.learned.minutes(draft.rule.id, usual), usual_min=usual, traits=traits)


def _rest(case: Case, made: Sequence[Draft]) -> list[Draft]:
    """Pieces from which something comes off and which no rule brings to length."""
    done = finished_by(made)
    found: list[Draft] = []
    for key in REST:
        rule = RULES[key]
        chapter = next(i for i, c in enumerate(CHAPTERS) if rule in c.rules)
        order = CHAPTERS[chapter].rules.index(rule)
        for side in case.side_order:
            left = tuple(
                piece
                for piece in case.every_piece
                if piece.side == side
                and piece.key not in done
                and comes_off(case, piece)
                and (piece.by == CLIPPED) == (rule.number == "clip")
                and piece.zone not in SHORT_BY_ITSELF
            )
            second = any(draft.rule is rule for draft in found)
            bare = Draft(_id(rule, side), rule, chapter, order, side, _where(left), left, None,
                         case.kit.shears(rule.use), 0.0, second=second)  # fmt: skip
            if left:
                some = _by_tool(case, bare, left) if rule.number == "clip" else [bare]
                found += [_timed(case, draft) for draft in some]
    return found


def finished_by(drafts: Iterable[Draft]) -> set[tuple[str, Side, str]]:
    """Keys of the pieces that steps bring to length."""
    return {piece.key for draft in drafts if draft.finishes for piece in draft.lengths}


def _blends(case: Case) -> list[Draft]:
    """Telling steps between neighbours, parted into the blending rules' regions; outlines that want their line
    seen sharpen it instead."""
    rules = CHAPTERS[BLEND].rules
    lined = RULES[LINE].when.holds(case)
    parted: dict[tuple[str, Side | None], list[Blend]] = {}
    for blend in blends_of(case):
        rule = RULES[LINE] if blend.clean and lined else _region(rules, blend)
        if rule is not None:
            parted.setdefault((rule.id, blend.side if rule.each else None), []).append(blend)
    found: list[Draft] = []
    for order, rule in enumerate(rules):
        for side in case.side_order if rule.each else (None,):
            some = parted.get((rule.id, side))
            if some:
                second = any(d.rule is rule for d in found)
                places = tuple(dict.fromkeys((zone, b.side) for b in some for zone in (b.long, b.short)))
                draft = Draft(_id(rule, side), rule, BLEND, order, side, places, (), None,
                              case.kit.shears(rule.use), 0.0, second=second, blends=tuple(some))  # fmt: skip
                found.append(_timed(case, draft))
    return found


def _region(rules: Sequence[Rule], blend: Blend) -> Rule | None:
    return next((r for r in rules if blend.long in r.zones and blend.short in r.zones), None)
