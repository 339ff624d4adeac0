"""What each step of a sheet is drawn with: the view that shows it, the place it works on, a line over the head."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from core_cases import model
from dapwick.core.cut.casework import case_of
from dapwick.core.cut.sheet import CutSheet, Step, cut_sheet
from dapwick.core.head.zones import EAR_ZONES, ZONES
from dapwick.core.outlines.families import FAMILIES
from dapwick.core.outlines.fit import Outline
from dapwick.core.plan.finished import surface
from dapwick.core.plan.lengths import zone_lengths
from dapwick.pipeline.aligned_views import AXES, flat
from dapwick.pipeline.cut_steps import Drawn, drawn, view_of
from dapwick.pipeline.plan import drawn_on, fit_on


@pytest.fixture(scope="module")
def outline() -> Outline:
    return drawn_on(fit_on(model("bobbin"), FAMILIES["teddy"]), {})


@pytest.fixture(scope="module")
def sheet(outline: Outline) -> CutSheet:
    return cut_sheet(case_of(outline, zone_lengths(outline)))


@pytest.fixture(scope="module")
def shown(outline: Outline, sheet: CutSheet) -> Drawn:
    return drawn(outline, sheet.steps)


def test_every_step_has_a_view_that_is_drawn(sheet: CutSheet, shown: Drawn) -> None:
    for step in sheet.steps:
        assert shown.views[step.id] == view_of(step)
        assert shown.views[step.id] in shown.heads
    assert set(shown.heads) <= set(AXES)


def test_work_on_one_side_is_seen_from_that_side(sheet: CutSheet) -> None:
    for step in sheet.steps:
        if view_of(step) in ("left", "right"):
            assert step.side in (None, view_of(step))


def test_a_step_that_cuts_shows_where(sheet: CutSheet, shown: Drawn) -> None:
    for step in sheet.steps:
        on_skin = [z for z in step.zones if z in ZONES or z in EAR_ZONES]
        if step.cuts and on_skin:
            sides = (step.side,) if step.side else ("left", "right")
            keys = [f"{zone}:{side}@{shown.views[step.id]}" for zone in on_skin for side in sides]
            assert any(key in shown.patches for key in keys), step.title


def test_a_place_lies_within_the_head_it_is_drawn_on(outline: Outline, shown: Drawn) -> None:
    for key, patch in shown.patches.items():
        zone, view = key.split(":")[0], key.split("@")[1]
        if zone.startswith("ear"):
            continue
        whole = flat(surface(outline, outline.leave_mm), view)
        assert (patch.min(axis=0) >= whole.min(axis=0) - 2.0).all(), key
        assert (patch.max(axis=0) <= whole.max(axis=0) + 2.0).all(), key


def test_left_and_right_places_lie_on_their_own_sides(shown: Drawn) -> None:
    for side, sign in (("left", -1.0), ("right", 1.0)):
        for zone in ("cheek", "jaw", "muzzle_side"):
            patch = shown.patches.get(f"{zone}:{side}@front")
            if patch is not None:
                assert sign * patch[:, 0].mean() > 0


def test_a_line_runs_on_the_finished_head(outline: Outline, sheet: CutSheet, shown: Drawn) -> None:
    drawn_lines = [s for s in sheet.steps if s.path is not None and s.path.view != "top"]
    assert drawn_lines
    for step in drawn_lines:
        line = shown.lines[step.id]
        assert len(line) > 1
        assert np.isfinite(line).all()
    assert any(len(shown.lines[s.id]) == 0 for s in sheet.steps)


def test_a_lines_arrow_turns_with_its_direction(outline: Outline, sheet: CutSheet) -> None:
    step = next(s for s in sheet.steps if s.path is not None and len(s.path.marks) > 1 and s.toward is None)
    assert step.path is not None
    back = replace(step, path=replace(step.path, marks=step.path.marks[::-1]))
    there, other = (drawn(outline, [s]).lines[s.id] for s in (step, back))
    assert there[0] == pytest.approx(other[-1], abs=0.5)
    assert there[-1] == pytest.approx(other[0], abs=0.5)


def test_a_blend_is_drawn_from_the_longer_place_into_the_shorter(sheet: CutSheet, shown: Drawn) -> None:
    blends: list[Step] = [s for s in sheet.steps if s.toward is not None]
    for step in blends:
        assert len(shown.lines[step.id]) > 1


def test_lengths_on_the_head_are_the_ends_of_its_runs(sheet: CutSheet, shown: Drawn) -> None:
    told = 0
    for step in sheet.steps:
        ends = {round(end.mm, 6) for cut in step.cuts if cut.run for end in (cut.run.short, cut.run.long)}
        for _, _, mm in shown.lengths[step.id]:
            assert round(mm, 6) in ends
            told += 1
    assert told
