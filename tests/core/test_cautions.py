"""Cautions stand where the work is: every cut beside an eye, on an ear or with a clipper carries its own."""

from __future__ import annotations

import itertools
from dataclasses import replace

import pytest

from cut_cases import case_of, cut_sheet
from dapwick.core.cut.cautions import CAUTIONS, FULL_AGAIN_AFTER, MOST_IN_FULL
from dapwick.core.cut.sheet import CutSheet, Step
from dapwick.core.plan.kit import USUAL_KIT

CASES = [
    case_of(family, coat=coat, minds=minds)
    for family in ("round", "topknot", "brick", "brows_beard", "natural")
    for coat, minds in (("standing", ()), ("curl", ("minds_whiskers", "flat_face")), ("fine_drop", ("old",)))
]
SHEETS = [cut_sheet(case) for case in CASES]
CLIPPING = ("blade", "guard")


def told(step: Step) -> set[str]:
    return {caution.id for caution in step.cautions}


@pytest.mark.parametrize("sheet", SHEETS, ids=lambda s: f"{s.case.family} {s.case.coat}")
def test_no_dangerous_step_goes_without_its_caution(sheet: CutSheet) -> None:
    for step in sheet.steps:
        if not step.cuts:
            continue
        places = set(step.zones)
        sharp = any(word in step.tool for word in ("shears", "scissors", *CLIPPING))
        if sharp and places & {"stop", "inner_corner", "brow", "visor", "temple"}:
            assert "eyes" in told(step), step.title
        if any(word in step.tool for word in CLIPPING):
            assert "clipper" in told(step), step.title
        if sharp and places & {"ear_outside", "ear_inside", "ear_edge"}:
            assert "leather" in told(step), step.title


@pytest.mark.parametrize("hand", ["left", "right"])
@pytest.mark.parametrize("family", ["round", "topknot", "brick", "teddy", "brows_beard", "natural", "dome"])
def test_no_shears_are_drawn_towards_an_eye(family: str, hand: str) -> None:
    """On either side and for either hand: a line may pass along the lids, never from elsewhere to an eye."""
    sheet = cut_sheet(case_of(family, coat="standing", hand=hand))
    lines = [step for step in sheet.steps if step.path and not any(word in step.tool for word in CLIPPING)]
    assert any("eye" in step.path.marks[0] for step in lines if step.path)
    for step in lines:
        assert step.path is not None
        first, last = step.path.marks[0], step.path.marks[-1]
        assert "eye" not in last or "eye" in first, (step.title, step.path.marks)


@pytest.mark.parametrize("sheet", SHEETS, ids=lambda s: f"{s.case.family} {s.case.coat}")
def test_nobody_is_asked_to_read_more_than_two_in_full(sheet: CutSheet) -> None:
    for step in sheet.steps:
        assert sum(caution.full for caution in step.cautions) <= MOST_IN_FULL


@pytest.mark.parametrize("sheet", SHEETS, ids=lambda s: f"{s.case.family} {s.case.coat}")
def test_a_caution_is_read_whole_before_it_is_read_short(sheet: CutSheet) -> None:
    """But for a step on which others, more dangerous ones, were read whole for the first time."""
    read: set[str] = set()
    for step in sheet.steps:
        whole = {c.id for c in step.cautions if c.full}
        for caution in step.cautions:
            if not caution.full and caution.id not in read:
                assert len(whole) == MOST_IN_FULL
        read |= whole


@pytest.mark.parametrize("sheet", SHEETS, ids=lambda s: f"{s.case.family} {s.case.coat}")
def test_the_most_dangerous_stands_first(sheet: CutSheet) -> None:
    danger = {c.id: c.danger for c in CAUTIONS}
    for step in sheet.steps:
        order = [danger[c.id] for c in step.cautions]
        assert order == sorted(order)


def test_a_caution_of_the_whole_dog_is_told_now_and_then() -> None:
    sheet = cut_sheet(case_of("round", minds=("flat_face",)))
    at = [i for i, step in enumerate(sheet.steps) if "breath" in told(step)]
    assert len(at) > 1
    rests = [i for i, step in enumerate(sheet.steps) if step.doing == "rest"]
    for before, after in itertools.pairwise(at):
        rested = any(before < rest < after for rest in rests)
        assert rested or after - before > FULL_AGAIN_AFTER
    assert "breath" not in {c.id for s in cut_sheet(case_of("round")).steps for c in s.cautions}


@pytest.mark.parametrize(("minds", "there"), [(("minds_whiskers",), True), ((), False)])
def test_whiskers_are_minded_of_a_dog_that_minds_them(minds: tuple[str, ...], there: bool) -> None:
    sheet = cut_sheet(case_of("round", minds=minds))
    assert any("whiskers" in told(step) for step in sheet.steps) == there


def test_every_caution_is_told_somewhere() -> None:
    seen = {c.id for sheet in SHEETS for step in sheet.steps for c in step.cautions}
    hard = case_of("teddy", coat="fine_drop", minds=("pants", "white_coat"), leave={"ear_outside": 6.0})
    no_blades = replace(USUAL_KIT, tools=tuple(t for t in USUAL_KIT.tools if t.kind != "blade"))
    for case in (case_of("dome", coat="fine_drop"), hard, replace(hard, kit=no_blades)):
        seen |= {c.id for step in cut_sheet(case).steps for c in step.cautions}
    assert {c.id for c in CAUTIONS} - seen <= {"band", "canal"}


def test_no_caution_gives_medical_advice() -> None:
    for caution in CAUTIONS:
        assert "treat" not in caution.words.lower()
        assert len(caution.brief) < 42
