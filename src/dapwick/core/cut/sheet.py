"""The cut sheet: every step in its order with length, tool, direction, hold, cautions, minutes and reasons."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Final

from dapwick.core.cut.alone import Alone, before_time, left_alone, rests_on
from dapwick.core.cut.blends import SHORT_BY_ITSELF, blend_words
from dapwick.core.cut.case import Case, Place
from dapwick.core.cut.cautions import ShownCaution, cautions_on
from dapwick.core.cut.drafts import Draft, drafts_of
from dapwick.core.cut.handling import seen_at
from dapwick.core.cut.order import in_order, may_end_after
from dapwick.core.cut.pieces import Piece
from dapwick.core.cut.rule import Doing, Path
from dapwick.core.cut.rules import CHAPTERS
from dapwick.core.cut.runs import Run
from dapwick.core.cut.why import Because, uneven_words, why
from dapwick.core.head.zones import Side, zone_words
from dapwick.core.outlines.ear_schools import EDGE_WORDS
from dapwick.core.plan.telling import ALIKE_MM
from dapwick.core.plan.tools import clipped_to

VERSION: Final = "cut-2"
BY_EYE: Final = "by eye"
HARD_HOLD: Final = "Short strokes; a change of place every half minute."
HELPING_HAND: Final = "Chin rest, or a helper's hand."
STEADIED: Final = frozenset({"sways", "old", "puppy"})
CUT_BY_NUMBER_MM: Final = 1.0
"""Shorter than this nobody scissors by number."""
CLEAR: Final = "clear of eye, nose and lip"
MANY_PARTS: Final = 3
"""A place in so many parts is named whole."""


@dataclass(frozen=True)
class Cut:
    """What one step does to one zone on one side, or to part of it; hair lengths, mm. low..high is the 90 % interval
    of leave_mm, shortest..longest the range over all of its places; upper_mm: the longest place's own upper end, under
    which no blade or guard goes; run: how the length runs, where it differs by more than 4 mm."""

    zone: str
    side: Side
    part: str
    leave_mm: float
    low: float
    high: float
    now_mm: float
    remove_mm: float
    shortest_mm: float
    longest_mm: float
    upper_mm: float
    run: Run | None


@dataclass(frozen=True)
class Part:
    """A place of a step with a length of its own (mm); None: nothing is left there. run: the length in words where it
    is not one number."""

    words: str
    leave_mm: float | None
    run: str = ""


@dataclass(frozen=True)
class CombFirst:
    """Hair is expected there and not sure: a comb pushed to the skin is read before this step. asks_mm: what the
    outline leaves, sure_mm: what is there with 90 % confidence."""

    zone: str
    side: Side
    words: str
    asks_mm: float
    sure_mm: float


@dataclass(frozen=True)
class Step:
    """One step, as it is read at the table. leave_mm: shortest and longest number to cut to; None where eye says
    how it is judged; parts: its places, where they are cut to different lengths; comb_first: places to be combed and
    read before it. told: where the tool cannot do
    what the plan asks. toward: of a blend, from the longer place into the shorter. may_end: the dog may go home
    after it; ends_with: what is left then. minutes: by the log; usual_min: the rule's own. rule: whose minutes the
    log learns."""

    id: str
    number: int
    rule: str
    chapter: str
    doing: Doing
    title: str
    how: str
    side: Side | None
    zones: tuple[str, ...]
    cuts: tuple[Cut, ...]
    leave_mm: tuple[float, float] | None
    parts: tuple[Part, ...]
    comb_first: tuple[CombFirst, ...]
    eye: str
    tool: str
    tool_id: str | None
    then_scissors: bool
    told: str
    direction: str
    hold: str
    check: str
    path: Path | None
    toward: tuple[Place, Place] | None
    cautions: tuple[ShownCaution, ...]
    minutes: float
    usual_min: float
    minded: tuple[str, ...]
    may_end: bool
    ends_with: str
    sides_words: tuple[str, ...]
    why: tuple[Because, ...]


@dataclass(frozen=True)
class CutSheet:
    """steps in order; tools: what to lay out, in the order of use; alone: places where nothing is cut, with the
    reason; before_time: what is said on top of a sheet whose outline is not all there yet,
    rests_on: of one whose lengths are guesses; minutes: all steps;
    carries the case it was made for."""

    case: Case
    steps: tuple[Step, ...]
    tools: tuple[str, ...]
    alone: tuple[Alone, ...]
    before_time: str = ""
    rests_on: str = ""
    version: str = VERSION

    @property
    def minutes(self) -> float:
        return sum(step.minutes for step in self.steps)


def cut_sheet(case: Case) -> CutSheet:
    """The whole sheet for one case."""
    ordered = in_order(drafts_of(case), case)
    cautions = cautions_on(ordered, case)
    ends = may_end_after(ordered)
    steps = [
        _step(draft, case, i + 1, shown, end, _ends_with(ordered, i) if end else "")
        for i, (draft, shown, end) in enumerate(zip(ordered, cautions, ends, strict=True))
    ]
    alone = left_alone(case, ordered)
    return CutSheet(case, tuple(steps), _tools(steps), alone, before_time(case), rests_on(case))


def _step(
    draft: Draft, case: Case, number: int, shown: tuple[ShownCaution, ...], may_end: bool, ends_with: str
) -> Step:
    rule, choice = draft.rule, draft.choice
    worked = rule.doing == "work"
    return Step(
        id=draft.id,
        number=number,
        rule=rule.id,
        chapter=CHAPTERS[draft.chapter].words,
        doing=rule.doing,
        title=_title(draft, case),
        how=_how(draft, case),
        side=draft.side,
        zones=tuple(dict.fromkeys(zone for zone, _ in draft.places)),
        cuts=tuple(_cut(z) for z in draft.lengths),
        leave_mm=_leave(draft),
        parts=_parts(draft),
        comb_first=_comb_first(draft, case),
        eye=_eye(draft, case),
        tool=_tool_words(draft) if worked else "",
        tool_id=draft.tool.id if worked and draft.tool else None,
        then_scissors=choice is not None and choice.then_scissors,
        told=choice.told if choice else "",
        direction=_direction(draft, case),
        hold=_hold(draft, case),
        check=rule.check,
        path=_path(draft, case),
        toward=_toward(draft),
        cautions=shown,
        minutes=draft.minutes,
        usual_min=draft.usual_min,
        minded=tuple(trait.words for trait in draft.traits),
        may_end=may_end,
        ends_with=ends_with,
        sides_words=tuple(uneven_words(draft, case)) if worked else (),
        why=why(draft, case),
    )


def _filled(words: str, draft: Draft, case: Case) -> str:
    return words.format(
        side=draft.side or "",
        ears=case.ears_words,
        lines=case.lines_words,
        edge=EDGE_WORDS[case.schools.get("ear_edge", "tidied")],
        throat=_throat_words(case),
        body=_body_words(case),
        joined=_joined_words(case),
        there=" and ".join(zone_words(zone) for zone in seen_at(case.traits, draft.rule.sees)),
        leather=f"{case.leather_mm:.0f} mm",
        minutes=f"{draft.minutes:.0f}",
    )


def _throat_words(case: Case) -> str:
    """How far a clean throat goes down from the jaw, in mm where the head tells it."""
    if case.schools.get("throat_end") == "breast_bone":
        return "Down to the top of the breast bone."
    return f"Fold the muzzle's length down from the jaw, {case.muzzle_mm:.0f} mm: that far and no further."


def _body_words(case: Case) -> str:
    """What the head is joined to, and with which of the owned tools the body was clipped."""
    body_mm = case.wishes.body_mm
    if body_mm is None:
        return ""
    tool = clipped_to(body_mm, case.kit).words
    ends = {"ring": "up to the ring", "occiput": "up to the occiput", "shoulder": "up to the shoulders"}
    return f"the body is {body_mm:g} mm ({tool}) {ends[case.wishes.body_ends]}, and the head runs into it; "


def _joined_words(case: Case) -> str:
    return f", down to the {case.wishes.body_mm:g} mm of the body" if case.wishes.body_mm is not None else ""


def _direction(draft: Draft, case: Case) -> str:
    """Which way it is cut: from its other end on the side that is awkward for the hand, and as the blade goes."""
    rule = draft.rule
    if draft.choice is not None and draft.choice.growth == "against":
        return rule.against or rule.direction.replace("with the growth", "against the growth")
    return rule.back if rule.back and draft.side == case.stylist.hard_side else rule.direction


def _title(draft: Draft, case: Case) -> str:
    part, of = draft.part
    half = "" if of == 1 else f", {'first half' if part == 1 else 'the rest'}"
    where = f": {_zones_words(draft)}" if draft.parted else ""
    return _filled(draft.rule.title, draft, case) + where + half


def _zones_words(draft: Draft) -> str:
    """Places by name, in their parts where it is a few of them; with their side where the other one is not here."""
    found: list[str] = []
    for zone in dict.fromkeys(piece.zone for piece in draft.lengths):
        here = [piece for piece in draft.lengths if piece.zone == zone]
        sides = {piece.side for piece in here}
        words = list(dict.fromkeys(piece.words for piece in here))
        named = words if len(words) < MANY_PARTS else [zone_words(zone)]
        alone = f", {here[0].side}" if len(sides) == 1 and draft.side is None else ""
        found += [f"{one}{alone}" for one in named]
    return " and ".join(found)


def _how(draft: Draft, case: Case) -> str:
    lines = [_filled(draft.rule.how, draft, case)]
    lines += [f"{words}." for words in blend_words(draft.blends)]
    if draft.second and draft.rule.second:
        lines.append(draft.rule.second)
    return " ".join(line[0].upper() + line[1:] for line in lines)


def _cut(p: Piece) -> Cut:
    return Cut(p.zone, p.side, p.part, p.leave_mm, p.low, p.high, p.now_mm, p.remove_mm, p.shortest_mm, p.longest_mm,
               p.upper_mm, p.run)  # fmt: skip


def _leave(draft: Draft) -> tuple[float, float] | None:
    """The number to cut to: what blade or guard leaves, else the planned lengths of the step's places, from the
    shortest end of one to the longest end of another."""
    if draft.clips and draft.choice is not None and draft.choice.leaves_mm is not None:
        return draft.choice.leaves_mm, draft.choice.leaves_mm
    ends = [mm for p in draft.lengths for mm in _ends_of(p) if mm >= CUT_BY_NUMBER_MM]
    return (min(ends), max(ends)) if ends else None


def _ends_of(piece: Piece) -> tuple[float, ...]:
    return (piece.run.short.mm, piece.run.long.mm) if piece.run else (piece.leave_mm,)


def _parts(draft: Draft) -> tuple[Part, ...]:
    """A step's places with their own lengths, side by side where sides differ."""
    # Under a guard only what runs is told: the guard's own length is the number there.
    shown = [piece for piece in draft.lengths if piece.run or not draft.clips]
    ends = [mm for piece in shown for mm in _ends_of(piece)]
    if not ends or max(ends) - min(ends) < ALIKE_MM:
        return ()
    found = []
    for words in dict.fromkeys(piece.words for piece in shown):
        sides = [piece for piece in shown if piece.words == words]
        alike = len(sides) == 1 or _apart_mm(sides[0], sides[1]) < ALIKE_MM
        for piece in sides[:1] if alike else sides:
            named = words if alike else f"{words}, {piece.side}"
            by_number = piece.leave_mm >= CUT_BY_NUMBER_MM
            found.append(
                Part(named, piece.leave_mm if by_number else None, piece.run.words if piece.run else "")
            )
    return tuple(found)


def _apart_mm(one: Piece, other: Piece) -> float:
    ends = _ends_of(one), _ends_of(other)
    if len(ends[0]) != len(ends[1]):
        return abs(one.leave_mm - other.leave_mm) + ALIKE_MM
    return max(abs(a - b) for a, b in zip(*ends, strict=True))


def _comb_first(draft: Draft, case: Case) -> tuple[CombFirst, ...]:
    """What is to be combed and read before a step, each zone of a side once; not again where it was, since a second
    reading would tell no more."""
    asked = (p for p in draft.lengths if p.unsure and p.zone not in SHORT_BY_ITSELF)
    unsure = {p.place: p for p in asked if p.place not in case.combed}
    return tuple(
        CombFirst(p.zone, p.side, f"{p.side} {zone_words(p.zone)}", p.leave_mm, p.sure_mm)
        for p in unsure.values()
    )


def _eye(draft: Draft, case: Case) -> str:
    """How it is judged where no number is cut."""
    if draft.blends:
        return draft.rule.eye or "no line"
    if draft.lengths:
        return "" if _leave(draft) else CLEAR
    return "" if draft.clips else _filled(draft.rule.eye or BY_EYE, draft, case)


def _tool_words(draft: Draft) -> str:
    if draft.clips and draft.choice is not None:
        return draft.choice.words
    return draft.tool.words if draft.tool else BY_EYE


def _hold(draft: Draft, case: Case) -> str:
    if draft.rule.doing != "work":
        return draft.rule.hold
    said = [draft.rule.hold]
    if draft.traits:
        said.append(HARD_HOLD)
    if STEADIED & set(case.traits) and draft.rule.hold:
        said.append(HELPING_HAND)
    return " ".join(words for words in said if words)


def _path(draft: Draft, case: Case) -> Path | None:
    """The rule's line on the side worked on, in the way it is cut; steps of one side are shown from it."""
    path = draft.rule.path
    if path is None:
        return None
    side = draft.side or "left"
    view = side if path.view == "side" or (path.view == "left" and draft.side) else path.view
    turned = draft.rule.back and _direction(draft, case) == draft.rule.back
    return replace(path, view=view, marks=path.marks[::-1] if turned else path.marks)


def _toward(draft: Draft) -> tuple[Place, Place] | None:
    """The largest step of a blend: where the shears go from and to."""
    if not draft.blends:
        return None
    # On a step of both sides the one that is drawn: its left.
    most = next((b for b in draft.blends if b.side == (draft.side or "left")), draft.blends[0])
    return (most.long, most.side), (most.short, most.side)


def _tools(steps: Sequence[Step]) -> tuple[str, ...]:
    """What to lay out, without the ways it is used."""
    words = (step.tool.split(",")[0] for step in steps if step.doing == "work")
    return tuple(dict.fromkeys(word for word in words if word != BY_EYE))


def _ends_with(ordered: Sequence[Draft], at: int) -> str:
    """What stopping after this step leaves for another day."""
    left = dict.fromkeys(
        CHAPTERS[draft.chapter].words.lower() for draft in ordered[at + 1 :] if draft.rule.doing == "work"
    )
    return f"Left for next time: {', '.join(left)}." if left else "Nothing is left."
