"""Every sheet can be followed: nothing out of order, no length without a tool, no caution missing or worn out."""

from __future__ import annotations

from collections import Counter
from functools import cache
from itertools import product

import pytest

from cut_cases import case_of
from dapwick.core.outlines.families import FAMILIES
from dapwick.core.plan.case import OFF_MM, Case
from dapwick.core.plan.casework import case_of as case_on
from dapwick.core.plan.drafts import TELLING_OFF_MM
from dapwick.core.plan.kit import Stylist
from dapwick.core.plan.lengths import zone_lengths
from dapwick.core.plan.rules import CHAPTERS, RULES
from dapwick.core.plan.sheet import CutSheet, Step, cut_sheet
from dapwick.service.planning import FittedGround, drawn_on, fit_on

EVERY = sorted(FAMILIES)
MINDS = (
    (),
    ("minds_muzzle", "flat_face"),
    ("minds_eyes", "minds_clipper", "old"),
    ("snaps", "minds_ears", "mats"),
)
COATS = ("standing", "fine_drop", "harsh")
EYE_ZONES = {"stop", "inner_corner", "brow", "visor", "temple"}
EAR_ZONES = {"ear_outside", "ear_inside", "ear_edge", "ear_base_front", "ear_base_rear"}
LIP_ZONES = {"lip_line", "lip_fold", "chin", "muzzle_side"}
CHAPTER_OF = {rule.id: i for i, chapter in enumerate(CHAPTERS) for rule in chapter.rules}
PASSED_OVER = {"stop", "inner_corner", "bridge"}


@cache
def made(family: str, coat: str, minds: tuple[str, ...], hand: str) -> CutSheet:
    return cut_sheet(case_of(family, coat=coat, minds=minds, hand=hand))


SHEETS = [pytest.param(*said, id="-".join([said[0], said[1], *said[2], said[3]]))
          for said in product(EVERY, COATS, MINDS, ("left", "right"))]  # fmt: skip
every_sheet = pytest.mark.parametrize(("family", "coat", "minds", "hand"), SHEETS)


def rule_of(step: Step) -> str:
    return step.rule.removesuffix("_mark")


@every_sheet
def test_a_sheet_can_be_followed(family: str, coat: str, minds: tuple[str, ...], hand: str) -> None:
    sheet = made(family, coat, minds, hand)
    follow(sheet)


def follow(sheet: CutSheet) -> None:
    """Everything that makes a sheet safe to follow without having seen the dog."""
    in_order(sheet)
    told(sheet)
    cautioned(sheet)
    ends(sheet)
    assert 5 < sheet.minutes < 75


def in_order(sheet: CutSheet) -> None:
    at: dict[str, int] = {}
    assert [step.number for step in sheet.steps] == list(range(1, len(sheet.steps) + 1))
    assert len({step.id for step in sheet.steps}) == len(sheet.steps)
    for step in sheet.steps:
        at.setdefault(step.id, step.number)
    real = [step for step in sheet.steps if step.doing != "rest"]
    for step in real:
        chapter = CHAPTER_OF[rule_of(step)]
        for before in real:
            if before.number >= step.number:
                continue
            # Never an earlier gate after a later step; the check is the last of all.
            earlier = CHAPTER_OF[rule_of(before)]
            assert not (earlier > 1 >= chapter), (before.id, step.id)
            assert not (earlier == len(CHAPTERS) - 1 > chapter), (before.id, step.id)
        for after in RULES[rule_of(step)].after:
            for other in real:
                if rule_of(other) == after and (None in (step.side, other.side) or step.side == other.side):
                    assert other.number < step.number, (other.id, step.id)
    clipping = [s for s in real if CHAPTER_OF[rule_of(s)] == 2]
    for clip, scissor in product(clipping, real):
        if (
            CHAPTER_OF[rule_of(scissor)] > 2
            and set(clip.zones) & set(scissor.zones)
            and same_side(clip, scissor)
        ):
            assert clip.number < scissor.number, (clip.id, scissor.id)


def same_side(one: Step, other: Step) -> bool:
    return one.side is None or other.side is None or one.side == other.side


def told(sheet: CutSheet) -> None:
    """Each step says what with and how long, or how the eye judges it."""
    for step in sheet.steps:
        assert step.title
        assert step.how.endswith(".")
        assert "{" not in step.title + step.how + step.eye
        assert step.leave_mm is not None or step.eye
        if step.doing == "work":
            assert step.tool
            assert step.tool_id in {tool.id for tool in sheet.case.kit.tools}
            assert step.minutes > 0
        if step.leave_mm is not None:
            assert 0 < step.leave_mm[0] <= step.leave_mm[1]
            assert step.tool
        for cut in step.cuts:
            assert cut.zone in step.zones
            if step.tool.endswith(", then scissors") and step.leave_mm:
                assert step.leave_mm[0] <= cut.leave_mm
    for (zone, side), planned in sheet.case.zones.items():
        cut = [s for s in sheet.steps if s.doing == "work" and zone in s.zones and s.side in (None, side)]
        if planned.remove_mm >= TELLING_OFF_MM and zone not in PASSED_OVER:
            assert any(c.zone == zone and c.side == side for s in cut for c in s.cuts), (zone, side)
        if planned.remove_mm < OFF_MM:
            assert not any(
                c.zone == zone and c.side == side and s.rule in ("cheek", "rows") for s in cut for c in s.cuts
            )


def cautioned(sheet: CutSheet) -> None:
    """No caution missing where steel comes near eye, ear or tongue; none told in full twice running."""
    last: dict[str, int] = {}
    for step in sheet.steps:
        ids = {caution.id for caution in step.cautions}
        cuts = step.doing == "work" and step.tool_id not in ("hand-comb", "hand-carding", None)
        if cuts and set(step.zones) & EYE_ZONES:
            assert "eyes" in ids, step.id
        if cuts and set(step.zones) & EAR_ZONES:
            assert "leather" in ids, step.id
        if cuts and set(step.zones) & LIP_ZONES:
            assert "tongue" in ids, step.id
        if step.tool_id and step.tool_id.startswith(("blade-", "guard-")):
            assert "clipper" in ids, step.id
        full = [caution.id for caution in step.cautions if caution.full]
        assert len(full) <= 2
        if step.doing == "rest":
            last.clear()
        for one in full:
            assert step.number - last.get(one, -99) > 6, (one, step.id)
            last[one] = step.number
    told_at_all = Counter(c.id for s in sheet.steps for c in s.cautions)
    told_in_full = Counter(c.id for s in sheet.steps for c in s.cautions if c.full)
    assert set(told_in_full) == set(told_at_all)


def ends(sheet: CutSheet) -> None:
    """Where the dog may go home both sides of everything begun are alike, and what is left is said."""
    work = [step for step in sheet.steps if step.doing == "work"]
    of_rule = Counter(step.rule for step in work)
    done: Counter[str] = Counter()
    for step in sheet.steps:
        if step.doing == "work":
            done[step.rule] += 1
        if step.may_end:
            assert all(done[rule] in (0, of_rule[rule]) for rule in of_rule), step.id
            assert step.ends_with.startswith(("Left for next time: ", "Nothing is left"))
    assert sheet.steps[-1].may_end
    assert sum(step.may_end for step in sheet.steps) >= 3


@every_sheet
def test_the_same_case_makes_the_same_sheet(
    family: str, coat: str, minds: tuple[str, ...], hand: str
) -> None:
    again = cut_sheet(case_of(family, coat=coat, minds=minds, hand=hand))
    assert [s.id for s in again.steps] == [s.id for s in made(family, coat, minds, hand).steps]


@pytest.mark.parametrize("family", EVERY)
def test_the_other_hand_does_the_same_work_from_the_other_side(family: str) -> None:
    left, right = (made(family, "standing", (), hand) for hand in ("left", "right"))
    sided = [
        rule
        for rule, n in Counter(s.rule for s in left.steps if s.side and s.doing == "work").items()
        if n > 1
    ]
    assert Counter(s.rule for s in left.steps) == Counter(s.rule for s in right.steps)
    for rule in sided:
        firsts = [next(s.side for s in sheet.steps if s.rule == rule) for sheet in (left, right)]
        assert firsts == ["left", "right"], rule


@pytest.mark.parametrize("family", EVERY)
@pytest.mark.parametrize("key", ["fogbell", "bobbin"])
def test_a_demo_dogs_sheet_can_be_followed(key: str, family: str, request: pytest.FixtureRequest) -> None:
    fitted: FittedGround = request.getfixturevalue(key)
    sheet = cut_sheet(demo_case(fitted, family, ("minds_muzzle", "old")))
    follow(sheet)
    assert any(because.of == "measure" for step in sheet.steps for because in step.why)
    for step in sheet.steps:
        if step.cuts:
            assert {"rule", "room"} <= {because.of for because in step.why}, step.id


def demo_case(fitted: FittedGround, family: str, traits: tuple[str, ...]) -> Case:
    outline = drawn_on(fit_on(fitted.study, FAMILIES[family]), {})
    return case_on(outline, zone_lengths(outline), Stylist("Oriel", "left"), traits=traits)
