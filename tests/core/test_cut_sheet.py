"""Every sheet can be followed: nothing out of order, no length without a tool, no caution missing or worn out."""

from __future__ import annotations

from collections import Counter
from dataclasses import replace
from functools import cache
from itertools import product

import pytest

from cut_cases import case_of
from dapwick.core.cut.case import Case
from dapwick.core.cut.casework import case_of as case_on
from dapwick.core.cut.sheet import CutSheet, cut_sheet
from dapwick.core.outlines.families import FAMILIES
from dapwick.core.plan.kit import Stylist
from dapwick.core.plan.lengths import zone_lengths
from dapwick.pipeline.plan import FittedGround, drawn_on, fit_on
from sheet_faults import faults

EVERY = sorted(FAMILIES)
MINDS = (
    (),
    ("minds_muzzle", "flat_face"),
    ("minds_eyes", "minds_clipper", "old"),
    ("snaps", "minds_ears", "mats"),
)
COATS = ("standing", "fine_drop", "harsh")


@cache
def made(family: str, coat: str, minds: tuple[str, ...], hand: str) -> CutSheet:
    return cut_sheet(case_of(family, coat=coat, minds=minds, hand=hand))


SHEETS = [pytest.param(*said, id="-".join([said[0], said[1], *said[2], said[3]]))
          for said in product(EVERY, COATS, MINDS, ("left", "right"))]  # fmt: skip
every_sheet = pytest.mark.parametrize(("family", "coat", "minds", "hand"), SHEETS)


@every_sheet
def test_a_sheet_can_be_followed(family: str, coat: str, minds: tuple[str, ...], hand: str) -> None:
    assert faults(made(family, coat, minds, hand)) == []


SPOILT = {
    "out of order": lambda steps: [*steps[-3:], *steps[:-3]],
    "no tool": lambda steps: [replace(s, tool="") for s in steps],
    "no number, no eye": lambda steps: [replace(s, leave_mm=None, eye="") for s in steps],
    "cautions forgotten": lambda steps: [replace(s, cautions=()) for s in steps],
    "cautions worn out": lambda steps: [
        replace(s, cautions=tuple(replace(c, full=True) for c in s.cautions)) for s in steps
    ],
    "a side left out": lambda steps: [s for s in steps if s.id != "cheek:left"],
    "may end anywhere": lambda steps: [replace(s, may_end=True, ends_with="Nothing is left.") for s in steps],
    "never ends": lambda steps: [replace(s, may_end=False) for s in steps],
    "guard too long": lambda steps: [
        replace(s, leave_mm=(90.0, 90.0)) if s.then_scissors else s for s in steps
    ],
    "takes all day": lambda steps: [replace(s, minutes=30.0) for s in steps],
}


@pytest.mark.parametrize("how", SPOILT)
def test_a_spoilt_sheet_is_found_out(how: str) -> None:
    good = made("round", "standing", ("minds_muzzle", "flat_face"), "left")
    assert faults(replace(good, steps=tuple(SPOILT[how](list(good.steps)))))


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
    assert faults(sheet) == []
    assert any(because.of == "measure" for step in sheet.steps for because in step.why)
    for step in sheet.steps:
        if step.cuts:
            assert {"rule", "room"} <= {because.of for because in step.why}, step.id


def demo_case(fitted: FittedGround, family: str, traits: tuple[str, ...]) -> Case:
    outline = drawn_on(fit_on(fitted.model, FAMILIES[family]), {})
    return case_on(outline, zone_lengths(outline), Stylist("Oriel", "left"), traits=traits)
