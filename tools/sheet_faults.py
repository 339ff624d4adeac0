"""What would make a cut sheet unsafe or impossible to follow; written apart from the rules' engine, so that it can
catch it out. Used by the tests and by tools/check_sheets.py."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from itertools import combinations
from typing import Final

from dapwick.core.cut.rules import CHAPTERS, RULES
from dapwick.core.cut.sheet import Cut, CutSheet, Step

EYE_ZONES: Final = {"stop", "inner_corner", "brow", "visor", "temple"}
EAR_ZONES: Final = {"ear_outside", "ear_inside", "ear_edge", "ear_base_front", "ear_base_rear"}
LIP_ZONES: Final = {"lip_line", "lip_fold", "chin", "muzzle_side"}
RUNS_MM: Final = 4.0
MISSING_MM: Final = 1.0
SURE_MM: Final = 1.0
PASSED_OVER: Final = {"stop", "inner_corner", "bridge"}
"""Zones whose hair the eye and nose rules take by eye."""
BLUNT: Final = ("hand-comb", "hand-carding", None)
CHAPTER_OF: Final = {rule.id: i for i, chapter in enumerate(CHAPTERS) for rule in chapter.rules}
FIND_HEAD, SET_IN = (next(i for i, c in enumerate(CHAPTERS) if c.id == key) for key in ("head", "set_in"))
LAST = len(CHAPTERS) - 1
FULL_APART: Final = 6
LEAST_MIN, MOST_MIN, MOST_PULLED_MIN = 5.0, 75.0, 240.0


def faults(sheet: CutSheet) -> list[str]:
    """Everything wrong with a sheet, in words; nothing where it can be followed."""
    found = [*_order(sheet), *_told(sheet), *_cautioned(sheet), *_ends(sheet), *breaches(sheet)]
    if not LEAST_MIN < sheet.minutes < (MOST_PULLED_MIN if sheet.case.family == "natural" else MOST_MIN):
        found.append(f"{sheet.minutes:.0f} minutes")
    return found


def _rule_of(step: Step) -> str:
    return step.rule.removesuffix("_mark")


def _same_side(one: Step, other: Step) -> bool:
    return one.side is None or other.side is None or one.side == other.side


def _order(sheet: CutSheet) -> Iterator[str]:
    if [step.number for step in sheet.steps] != list(range(1, len(sheet.steps) + 1)):
        yield "steps are not numbered through"
    if len({step.id for step in sheet.steps}) != len(sheet.steps):
        yield "two steps have one id"
    for before, step in combinations([s for s in sheet.steps if s.doing != "rest"], 2):
        earlier, chapter = CHAPTER_OF[_rule_of(before)], CHAPTER_OF[_rule_of(step)]
        if earlier > FIND_HEAD >= chapter:
            yield f"{before.id} before the head is found ({step.id})"
        if earlier == LAST > chapter:
            yield f"{step.id} after the check"
        if _rule_of(step) in RULES[_rule_of(before)].after and _same_side(before, step):
            yield f"{before.id} before {step.id}, which it waits for"
        clips_late = chapter == SET_IN < earlier
        if clips_late and set(step.zones) & set(before.zones) and _same_side(before, step):
            yield f"{before.id} scissored before {step.id} clips there"


def _told(sheet: CutSheet) -> Iterator[str]:
    owned = {tool.id for tool in sheet.case.kit.tools}
    for step in sheet.steps:
        if not step.title or not step.how.endswith(".") or "{" in step.title + step.how + step.eye:
            yield f"{step.id}: words are not whole"
        if step.leave_mm is None and not step.eye:
            yield f"{step.id}: neither a length nor how the eye judges it"
        if step.doing == "work" and (not step.tool or step.tool_id not in owned or step.minutes <= 0):
            yield f"{step.id}: no tool, or no minutes"
        if step.leave_mm is not None and not (step.tool and 0 < step.leave_mm[0] <= step.leave_mm[1]):
            yield f"{step.id}: a length without a tool"
        if step.leave_mm and step.doing == "work":
            yield from _runs(step)


def breaches(sheet: CutSheet) -> list[str]:
    """What must never happen, for it cannot be undone: hair taken below the plan, places cut that lack it, places in
    no step."""
    return [*_never_shorter(sheet), *_never_to_the_skin(sheet), *_everywhere(sheet), *_on_top(sheet)]


def clip_passes(sheet: CutSheet) -> Iterator[tuple[Step, Cut, float]]:
    """Each place that a blade or guard passes over, with the length it leaves there (mm)."""
    kit = {tool.id: tool for tool in sheet.case.kit.tools}
    for step in sheet.steps:
        tool = kit.get(step.tool_id or "")
        if step.doing != "work" or tool is None or tool.leaves_mm is None:
            continue
        share = sheet.case.kit.against_share if "against the growth" in step.tool else 1.0
        for cut in step.cuts:
            yield step, cut, share * tool.leaves_mm


def _never_shorter(sheet: CutSheet) -> Iterator[str]:
    for step, cut, left in clip_passes(sheet):
        if left < max(cut.longest_mm, cut.upper_mm) - 1e-6:
            yield f"{step.id}: {step.tool} leaves {left:g} mm, the {cut.zone} is planned up to {cut.upper_mm:.1f}"
        if step.leave_mm is None or abs(step.leave_mm[0] - left) > 1e-6:
            yield f"{step.id}: tells {step.leave_mm}, the tool leaves {left:g} mm"


def _never_to_the_skin(sheet: CutSheet) -> Iterator[str]:
    """A place that is scissored is cut to what the outline asks there; where it lacks that, it is left alone; where
    that is not sure, the comb comes first."""
    case = sheet.case
    scissored = {p.key: p for p in case.every_piece if p.by == "scissors"}
    bands = {b.key: b for p in scissored.values() for b in p.bands}
    for step in sheet.steps:
        combed = {(c.zone, c.side) for c in step.comb_first}
        for cut in step.cuts if step.doing == "work" else ():
            piece = bands.get((cut.zone, cut.side, cut.part)) or scissored.get((cut.zone, cut.side, cut.part))
            if piece is None or cut.zone in PASSED_OVER:
                continue
            if piece.leave_mm - piece.now_mm >= MISSING_MM:
                yield f"{step.id}: {piece.words} lacks {piece.leave_mm - piece.now_mm:.0f} mm and is cut"
            if cut.leave_mm < piece.leave_mm - 1e-6:
                yield f"{step.id}: {piece.words} is cut below the outline"
            if piece.leave_mm > piece.sure_mm + SURE_MM and piece.place not in combed:
                yield f"{step.id}: {piece.words} is not surely there and no comb is asked"


def _runs(step: Step) -> Iterator[str]:
    for cut in step.cuts:
        told = [part for part in step.parts if cut.zone.replace("_", " ") in part.words and part.run]
        if cut.run is not None and not told:
            yield f"{step.id}: {cut.zone} runs {cut.run.words} and the step does not say so"
        if cut.run is not None and cut.run.long.mm - cut.run.short.mm <= RUNS_MM:
            yield f"{step.id}: {cut.zone} runs by less than {RUNS_MM:g} mm"


def _on_top(sheet: CutSheet) -> Iterator[str]:
    lacks = any(z.shortage_mm > 0 for z in sheet.case.zones.values())
    if lacks != bool(sheet.before_time):
        yield (
            "does not say on top that the outline is not all there yet"
            if lacks
            else "says it is before its time"
        )


def _everywhere(sheet: CutSheet) -> Iterator[str]:
    """Each piece of the plan is in a working step, or told as left alone with the reason."""
    work = [step for step in sheet.steps if step.doing == "work" and not step.toward]
    cut = {(c.zone, c.side, c.part) for step in work for c in step.cuts}
    by_eye = {(z, side) for step in work if not step.cuts for z in step.zones for side in _sides(step)}
    alone = {(one.zone, one.side, one.part): one for one in sheet.alone}
    for piece in sheet.case.every_piece:
        told = alone.get(piece.key)
        in_step = piece.key in cut or (piece.zone in PASSED_OVER and piece.place in by_eye)
        if not in_step and told is None:
            yield f"{piece.words}, {piece.side}: in no step and not told as left alone"
        if told is not None and not told.reason:
            yield f"{piece.words}, {piece.side}: left alone without a reason"
        lacks = piece.by == "scissors" and piece.leave_mm - piece.now_mm >= MISSING_MM
        says = told is not None and told.missing_mm > 0 and told.weeks[1] > 0
        if told is not None and lacks and piece.zone not in PASSED_OVER and not says:
            yield f"{piece.words}, {piece.side}: lacks hair and does not say how much and how long"


def _sides(step: Step) -> tuple[str, ...]:
    return (step.side,) if step.side else ("left", "right")


FACE_ZONES: Final = EYE_ZONES | LIP_ZONES | {"bridge", "cheek", "jaw"}
BY_PLACE: Final[tuple[tuple[str, str, set[str], str], ...]] = (
    ("guard_leather", "guard", EAR_ZONES, ""),
    ("ear_folds", "sharp", {"ear_inside", "ear_base_front", "ear_base_rear"}, ""),
    ("ear_tips", "shears", {"ear_edge"}, ""),
    ("lip_backwards", "shears", {"lip_line"}, ""),
    ("wet_mouth", "clipper", LIP_ZONES, ""),
    ("skin_up", "clipper", {"temple"}, ""),
    ("pink_lip", "sharp", {"lip_line", "lip_fold"}, "white_coat"),
    ("panting_face", "shears", FACE_ZONES, "pants"),
)
"""Cautions that belong to a kind of tool at a place, and to dogs of a trait where one is named."""


def _kinds(step: Step) -> set[str]:
    """What is in the hand."""
    if step.doing != "work" or step.tool_id in BLUNT:
        return set()
    kind = str(step.tool_id).partition("-")[0]
    return {
        "sharp",
        *({"guard", "clipper"} if kind == "guard" else {"clipper"} if kind == "blade" else {"shears"}),
    }


def _by_place(sheet: CutSheet) -> Iterator[str]:
    for step in sheet.steps:
        ids, kinds = {caution.id for caution in step.cautions}, _kinds(step)
        for caution, kind, zones, trait in BY_PLACE:
            at_risk = not trait or trait in sheet.case.traits
            if kind in kinds and at_risk and set(step.zones) & zones and caution not in ids:
                yield f"{step.id}: no caution for {caution}"
        thins = step.doing == "work" and RULES[_rule_of(step)].use in ("thinning", "blending")
        if thins and _rule_of(step) == step.rule and "one_thinning_cut" not in ids:
            yield f"{step.id}: no caution for thinning twice"


def _cautioned(sheet: CutSheet) -> Iterator[str]:
    yield from _by_place(sheet)
    last: dict[str, int] = {}
    for step in sheet.steps:
        ids = {caution.id for caution in step.cautions}
        cuts = step.doing == "work" and step.tool_id not in BLUNT
        for caution, zones in (("eyes", EYE_ZONES), ("leather", EAR_ZONES), ("tongue", LIP_ZONES)):
            if cuts and set(step.zones) & zones and caution not in ids:
                yield f"{step.id}: no caution for {caution}"
        if (step.tool_id or "").startswith(("blade-", "guard-")) and "clipper" not in ids:
            yield f"{step.id}: no caution for the clipper"
        full = [caution.id for caution in step.cautions if caution.full]
        if len(full) > 2:
            yield f"{step.id}: {len(full)} cautions in full at once"
        if step.doing == "rest":
            last.clear()
        for one in full:
            if step.number - last.get(one, -99) <= FULL_APART:
                yield f"{step.id}: {one} told in full again"
            last[one] = step.number
    at_all = {c.id for s in sheet.steps for c in s.cautions}
    for missing in at_all - {c.id for s in sheet.steps for c in s.cautions if c.full}:
        yield f"{missing} is never told in full"


def _ends(sheet: CutSheet) -> Iterator[str]:
    of_rule = Counter(step.rule for step in sheet.steps if step.doing == "work")
    done: Counter[str] = Counter()
    for step in sheet.steps:
        if step.doing == "work":
            done[step.rule] += 1
        open_ = [rule for rule in of_rule if done[rule] not in (0, of_rule[rule])]
        if step.may_end and open_:
            yield f"{step.id}: may end though {open_[0]} is half done"
        if step.may_end and not step.ends_with:
            yield f"{step.id}: does not say what is left"
    if not sheet.steps[-1].may_end or sum(step.may_end for step in sheet.steps) < 3:
        yield "too few places to end"
