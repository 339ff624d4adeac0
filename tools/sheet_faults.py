"""What would make a cut sheet unsafe or impossible to follow; written apart from the rules' engine, so that it can
catch it out. Used by the tests and by tools/check_sheets.py."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from itertools import combinations
from typing import Final

from dapwick.core.plan.drafts import TELLING_OFF_MM
from dapwick.core.plan.rules import CHAPTERS, RULES
from dapwick.core.plan.sheet import CutSheet, Step

EYE_ZONES: Final = {"stop", "inner_corner", "brow", "visor", "temple"}
EAR_ZONES: Final = {"ear_outside", "ear_inside", "ear_edge", "ear_base_front", "ear_base_rear"}
LIP_ZONES: Final = {"lip_line", "lip_fold", "chin", "muzzle_side"}
PASSED_OVER: Final = {"stop", "inner_corner", "bridge"}
"""Zones whose hair the eye and nose rules take by eye."""
BLUNT: Final = ("hand-comb", "hand-carding", None)
CHAPTER_OF: Final = {rule.id: i for i, chapter in enumerate(CHAPTERS) for rule in chapter.rules}
FIND_HEAD, SET_IN, LAST = 1, 2, len(CHAPTERS) - 1
FULL_APART: Final = 6
LEAST_MIN, MOST_MIN = 5.0, 75.0


def faults(sheet: CutSheet) -> list[str]:
    """Everything wrong with a sheet, in words; nothing where it can be followed."""
    found = [*_order(sheet), *_told(sheet), *_everywhere(sheet), *_cautioned(sheet), *_ends(sheet)]
    if not LEAST_MIN < sheet.minutes < MOST_MIN:
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
        for cut in step.cuts:
            if step.then_scissors and step.leave_mm and step.leave_mm[0] > cut.leave_mm:
                yield f"{step.id}: the guard leaves more than the plan at the {cut.zone}"


def _everywhere(sheet: CutSheet) -> Iterator[str]:
    done = {(cut.zone, cut.side) for step in sheet.steps if step.doing == "work" for cut in step.cuts}
    for place, planned in sheet.case.zones.items():
        if planned.remove_mm >= TELLING_OFF_MM and place[0] not in PASSED_OVER and place not in done:
            yield f"{planned.remove_mm:.0f} mm come off {place[0]}, {place[1]}, in no step"


def _cautioned(sheet: CutSheet) -> Iterator[str]:
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
