"""What a sheet says of itself: what is left when one stops, what to lay out, how surely it clips."""

from __future__ import annotations

from dataclasses import replace

import pytest

from cut_cases import case_of, cut_sheet, sheet_of
from dapwick.core.cut.sheet import CutSheet
from dapwick.core.plan.kit import USUAL_KIT

SHEETS = [
    sheet_of(family, coat=coat) for family in ("round", "topknot", "brick") for coat in ("curl", "harsh")
]


@pytest.mark.parametrize("sheet", SHEETS, ids=lambda s: f"{s.case.family} {s.case.coat}")
def test_stopping_leaves_the_chapters_that_are_still_ahead(sheet: CutSheet) -> None:
    ends = [i for i, step in enumerate(sheet.steps) if step.may_end]
    assert ends
    for i in ends:
        ahead = dict.fromkeys(s.chapter.lower() for s in sheet.steps[i + 1 :] if s.doing == "work")
        expected = f"Left for next time: {', '.join(ahead)}." if ahead else "Nothing is left."
        assert sheet.steps[i].ends_with == expected
    assert not [s for s in sheet.steps if not s.may_end and s.ends_with]


@pytest.mark.parametrize("sheet", SHEETS, ids=lambda s: f"{s.case.family} {s.case.coat}")
def test_all_that_is_used_is_laid_out_once_in_the_order_of_use(sheet: CutSheet) -> None:
    used = [s.tool.split(",")[0] for s in sheet.steps if s.doing == "work" and s.tool]
    assert list(sheet.tools) == [tool for tool in dict.fromkeys(used) if tool != "by eye"]


@pytest.mark.parametrize("sheet", SHEETS, ids=lambda s: f"{s.case.family} {s.case.coat}")
def test_minutes_are_the_steps_own(sheet: CutSheet) -> None:
    assert sheet.minutes == pytest.approx(sum(step.minutes for step in sheet.steps))
    assert [step.number for step in sheet.steps] == list(range(1, len(sheet.steps) + 1))
    assert len({step.id for step in sheet.steps}) == len(sheet.steps)


@pytest.mark.parametrize(("first_mm", "told"), [(1.5, True), (1.21, True), (1.19, False)])
def test_the_skins_limit_is_told_where_the_blade_comes_near_it(first_mm: float, told: bool) -> None:
    """Within 0.3 mm: past that the skin decided nothing."""
    kit = replace(USUAL_KIT, skin=replace(USUAL_KIT.skin, first_mm=first_mm))
    sheet = cut_sheet(case_of("topknot", kit=kit))
    clipped = [s for s in sheet.steps if any(c.zone == "cheek" for c in s.cuts) and s.leave_mm == (1.5, 1.5)]
    assert clipped
    assert all(any(link.of == "skin" for link in s.why) == told for s in clipped)
