"""Rules put to one case: which apply, on which sides, with which tool and lengths; not yet in order."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from typing import Final

from dapwick.core.head.zones import Side
from dapwick.core.plan.blends import SHORT_BY_ITSELF, Blend, blends_of
from dapwick.core.plan.case import OFF_MM, SIDES, UNEVEN_MM, Case, Place
from dapwick.core.plan.handling import Trait, minded, slower
from dapwick.core.plan.kit import Tool
from dapwick.core.plan.lengths import ZoneLength
from dapwick.core.plan.rule import Rule
from dapwick.core.plan.rules import CHAPTERS, RULES
from dapwick.core.plan.tools import SCISSORS, ToolChoice, clipped_to, guard_under

THINNING_USES: Final = ("thinning", "carding", "blending")
TELLING_OFF_MM: Final = 3.0
"""From so much coming off, a place must be brought to length by some step."""
SET_IN, BLEND, LAST = (
    next(i for i, c in enumerate(CHAPTERS) if c.id == key) for key in ("set_in", "blend", "check")
)
REST: Final = "shape_rest"
EDGE_MM: Final = 1.5
"""Length on a strip that is taken as close as the skin allows."""
LINE: Final = "line_sharpened"


@dataclass(frozen=True)
class Draft:
    """A step in the making. chapter and order: where the rule stands in the book; places it works on; lengths it
    brings them to; choice: blade or guard, tool: what else is in the hand; second: the other side is done already;
    part: (which, of how many) of a step that was split; parted: it shares its rule with other tools; usual_min:
    the rule's minutes for this dog, minutes: what the log makes of them; traits: what makes it hard for this dog."""

    id: str
    rule: Rule
    chapter: int
    order: int
    side: Side | None
    places: tuple[Place, ...]
    lengths: tuple[ZoneLength, ...]
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
        if rule.when.holds(case) and rule.id != REST and at != BLEND
        for draft in _drafts(case, rule, at, order)
    ]
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
    bare = Draft(
        _id(rule, side), rule, chapter, order, side, _places(rule.zones, side), (), None,
        case.kit.shears(rule.use), 0.0,
    )  # fmt: skip
    if rule.number == "eye":
        return [_timed(case, bare)]
    if rule.number == "edge":
        choice = clipped_to(EDGE_MM, case.kit, case.closest.mm)
        return [_timed(case, replace(bare, choice=choice, tool=choice.tool or case.kit.shears("detail")))]
    lengths = _lengths(case, rule, side)
    if not lengths:
        return []
    if rule.number == "outline":
        return [_timed(case, replace(bare, places=_where(lengths), lengths=lengths))]
    return [_timed(case, draft) for draft in _by_tool(case, bare, lengths)]


def _places(zones: Iterable[str], side: Side | None) -> tuple[Place, ...]:
    return tuple((zone, one) for zone in zones for one in SIDES if side in (None, one))


def _where(lengths: Iterable[ZoneLength]) -> tuple[Place, ...]:
    return tuple((z.zone, z.side) for z in lengths)


def _lengths(case: Case, rule: Rule, side: Side | None) -> tuple[ZoneLength, ...]:
    """The planned lengths a rule cuts on a side: of its own kind, and where something comes off."""
    there = [case.zones[place] for place in _places(rule.zones, side) if place in case.zones]
    kind = [z for z in there if _is_for(rule, z)]
    off = [z for z in kind if z.remove_mm >= OFF_MM]
    return tuple(kind if rule.always else off)


def _is_for(rule: Rule, zone: ZoneLength) -> bool:
    if rule.number == "set":
        return True
    if rule.number == "clip":
        return zone.by == "clipper"
    return zone.by == "scissors" or (rule.use in THINNING_USES and zone.by != "clipper")


def _by_tool(case: Case, bare: Draft, lengths: tuple[ZoneLength, ...]) -> list[Draft]:
    """One draft for each blade or guard these lengths want, the longest first: what is clipped too long can be
    clipped again."""
    groups: dict[ToolChoice, list[ZoneLength]] = {}
    for z in lengths:
        groups.setdefault(_choice(case, bare.rule, z), []).append(z)
    if bare.rule.number == "guard":
        groups = {c: zs for c, zs in groups.items() if c.tool is not None and _bites(c, zs)}
    by_length = sorted(groups.items(), key=lambda item: -(item[0].leaves_mm or 99.0))
    return [
        replace(
            bare,
            id=bare.id
            if len(by_length) == 1
            else f"{bare.id}:{choice.tool.id if choice.tool else 'scissors'}",
            places=_where(zones),
            lengths=tuple(zones),
            choice=choice,
            tool=choice.tool or case.kit.shears("straight"),
            parted=len(by_length) > 1,
        )
        for choice, zones in by_length
    ]


def _bites(choice: ToolChoice, zones: Iterable[ZoneLength]) -> bool:
    return any(z.now_mm - (choice.leaves_mm or 0.0) >= OFF_MM for z in zones)


def _choice(case: Case, rule: Rule, zone: ZoneLength) -> ToolChoice:
    if zone.by == "clipper":
        growth = "against" if case.schools.get("leather") == "against" and "leather" in rule.id else "with"
        return clipped_to(zone.wanted_mm, case.kit, case.closest.mm, growth)  # type: ignore[arg-type]
    if zone.by != "scissors":
        return SCISSORS
    return _alike(guard_under(_shortest(case, zone), case.kit))


def _alike(choice: ToolChoice) -> ToolChoice:
    """Zones that take the same guard are one step, whatever their shortest places."""
    return replace(choice, why=GUARD_WHY) if choice.tool else choice


GUARD_WHY: Final = (
    "The longest guard you own that is not longer than the shortest place there; the rest is scissor work."
)


def _shortest(case: Case, zone: ZoneLength) -> float:
    """The zone's shortest place; both sides' where they hardly differ, so that both take the same guard."""
    sides = [z.shortest_mm for z in case.planned(zone.zone)]
    return min(sides) if max(sides) - min(sides) < UNEVEN_MM else zone.shortest_mm


def _id(rule: Rule, side: Side | None) -> str:
    return f"{rule.id}:{side}" if side else rule.id


def _timed(case: Case, draft: Draft) -> Draft:
    """With its minutes, and what makes it hard for this dog."""
    work = draft.rule.doing == "work"
    traits = minded(case.traits, (zone for zone, _ in draft.places), draft.clips) if work else ()
    usual = draft.rule.minutes * (slower(case.traits) if work else 1.0)
    return replace(draft, minutes=case.learned.minutes(draft.rule.id, usual), usual_min=usual, traits=traits)


def _rest(case: Case, made: Sequence[Draft]) -> list[Draft]:
    """Places from which something comes off and which no rule brings to length."""
    done = {place for draft in made if draft.finishes for place in draft.places}
    chapter, order = next(
        (i, chapter.rules.index(RULES[REST]))
        for i, chapter in enumerate(CHAPTERS)
        if RULES[REST] in chapter.rules
    )
    found: list[Draft] = []
    for side in case.side_order:
        lengths = tuple(
            z for (zone, at), z in case.zones.items()
            if at == side and (zone, at) not in done and z.remove_mm >= TELLING_OFF_MM
            and zone not in SHORT_BY_ITSELF
        )  # fmt: skip
        if lengths:
            draft = Draft(f"{REST}:{side}", RULES[REST], chapter, order, side, _where(lengths), lengths, None,
                          case.kit.shears("curved"), 0.0, second=bool(found))  # fmt: skip
            found.append(_timed(case, draft))
    return found


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
