"""What cannot be undone on a dog: no blade or guard goes below the plan, nothing is cut where the plan lacks hair, no
place is forgotten. Over every family, kits, hands and handlings, cases made up at random, and the hardest heads."""

from __future__ import annotations

from dataclasses import replace
from functools import cache

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from cut_cases import LEAVE_MM, case_of
from dapwick.core.basics.arrays import IntArray
from dapwick.core.cut.case import SIDES, Case
from dapwick.core.cut.casework import case_of as case_on
from dapwick.core.cut.handling import TRAITS
from dapwick.core.cut.pieces import Piece, _Places
from dapwick.core.cut.sheet import CutSheet, cut_sheet
from dapwick.core.outlines.families import FAMILIES
from dapwick.core.outlines.family import settle_schools
from dapwick.core.outlines.fit import draw_outline, fit_family
from dapwick.core.plan.kit import USUAL_KIT, Kit, SkinLimits, Stylist, Tool
from dapwick.core.plan.lengths import SCISSORED, zone_lengths
from hard_heads import HARD_HEADS, hard_ground
from sheet_faults import breaches, clip_passes

EVERY = sorted(FAMILIES)
FEW_TOOLS = Kit((Tool("g4", "guard", "4 mm guard", "clip", 4.0), Tool("g20", "guard", "20 mm guard", "clip", 20.0),
                 Tool("b", "blade", "B", "clip", 0.8), Tool("s", "shears", "shears", "straight")))  # fmt: skip
NO_CLIPPERS = Kit(tuple(t for t in USUAL_KIT.tools if t.kind in ("shears", "hand")))
KITS = {"usual": USUAL_KIT, "few tools": FEW_TOOLS, "no clippers": NO_CLIPPERS,
        "against leaves all": replace(USUAL_KIT, against_share=1.0)}  # fmt: skip

clip_tools = st.builds(
    lambda kind, mm, i: Tool(f"{kind}-{i}", kind, f"{mm:.2f}", "clip", mm),  # type: ignore[arg-type]
    st.sampled_from(["blade", "guard"]), st.floats(0.1, 60.0), st.integers(0, 10**6),
)  # fmt: skip
kits = st.builds(
    lambda tools, share, skin: Kit((*tools, *NO_CLIPPERS.tools), share, SkinLimits(white_mm=skin)),
    st.lists(clip_tools, max_size=14, unique_by=lambda tool: tool.id), st.floats(0.2, 1.0), st.floats(0.5, 6.0),
)  # fmt: skip


@st.composite
def cases(draw: st.DrawFn) -> Case:
    """A made-up case: lengths anywhere, coats that lack them or may, places in parts and bands."""
    family = draw(st.sampled_from(EVERY))
    zones = draw(st.lists(st.sampled_from(sorted(LEAVE_MM)), max_size=6))
    leave = {f"{zone}:{side}": draw(st.floats(0.3, 60.0)) for zone in zones for side in SIDES}
    case = case_of(
        family,
        coat=draw(st.sampled_from(["standing", "fine_drop", "harsh"])),
        minds=tuple(draw(st.lists(st.sampled_from(sorted(TRAITS)), max_size=3, unique=True))),
        now_mm=draw(st.floats(0.5, 70.0)),
        leave=leave,
        stylist=Stylist("A", draw(st.sampled_from(["left", "right"])), work=draw(st.sampled_from(
            ["clip_first", "scissor_throughout"]))),
        kit=draw(kits),
        quiet_visits=draw(st.integers(0, 4)),
    )  # fmt: skip
    return replace(case, pieces={place: draw(parted(case.pieces_at(place)[0])) for place in case.zones})


@st.composite
def parted(draw: st.DrawFn, piece: Piece) -> tuple[Piece, ...]:
    """A piece as it is, with what is sure of it moved; in two parts of which one lacks hair; or in bands."""
    sure = draw(st.floats(0.0, 80.0))
    how = draw(st.sampled_from(["whole", "parts", "bands"]))
    one = replace(piece, sure_mm=min(sure, piece.now_mm))
    if how == "whole":
        return (one,)
    far = draw(st.floats(0.0, 40.0))
    upper = replace(one, part="upper", leave_mm=one.leave_mm + far, high=one.high + far,
                    longest_mm=one.longest_mm + far)  # fmt: skip
    lower = replace(one, part="lower")
    if how == "parts" or one.by != "scissors":
        return upper, lower
    return (replace(one, longest_mm=upper.longest_mm, bands=(upper, lower)),)


@given(cases())
@settings(max_examples=300, deadline=None)
def test_no_made_up_case_makes_a_sheet_that_ruins_a_head(case: Case) -> None:
    assert breaches(cut_sheet(case)) == []


@pytest.mark.parametrize("name", HARD_HEADS)
def test_no_hard_head_gets_a_sheet_that_ruins_it(name: str) -> None:
    """Every family and kit on a head of the zoo."""
    for family in EVERY:
        for kit in KITS.values():
            assert breaches(sheet_on(name, family, kit)) == [], family


def test_no_two_places_share_a_name_wherever_they_lie(monkeypatch: pytest.MonkeyPatch) -> None:
    """A place is done by its name: two of one name, and one of them would be forgotten. Here all lie alike, and every
    zone is of four kinds."""

    def quarters(_: object, at: IntArray) -> list[tuple[str, IntArray]]:
        return [(SCISSORED, one) for one in np.array_split(at, 4)]

    monkeypatch.setattr(_Places, "_kinds", quarters)
    monkeypatch.setattr(_Places, "_apart", lambda *_: ("lower", 1))
    case = planned_on.__wrapped__("long muzzle", "round")
    keys = [piece.key for piece in case.every_piece]
    assert len(keys) > 60
    assert len(set(keys)) == len(keys)


def sheet_on(name: str, family: str, kit: Kit = USUAL_KIT) -> CutSheet:
    return cut_sheet(replace(planned_on(name, family), kit=kit))


@cache
def planned_on(name: str, family: str) -> Case:
    """The family fitted on a hard head, once for all kits."""
    ground, chosen = hard_ground(name), FAMILIES[family]
    schools = settle_schools(chosen, {}, ground.coat_type)
    outline = draw_outline(ground, chosen, fit_family(ground, chosen, schools), {}, schools)
    return case_on(outline, zone_lengths(outline), Stylist("A", "left"), traits=("minds_muzzle",))


def test_the_hard_heads_do_have_guards_to_get_wrong() -> None:
    """The properties above say nothing where nothing is clipped: here much is, and hair is missing in places."""
    told = ("one side twice as deep", "bare patches")
    sheets = [sheet_on(name, family) for name in told for family in EVERY]
    guards = [step for sheet in sheets for step, _, _ in clip_passes(sheet) if step.then_scissors]
    assert len(guards) > 15
    assert sum(one.grows for sheet in sheets for one in sheet.alone) > 25
    assert sum(bool(step.comb_first) for sheet in sheets for step in sheet.steps) > 30


def shorter(sheet: CutSheet) -> CutSheet:
    guards = {t.id: t for t in USUAL_KIT.tools if t.kind == "guard"}
    steps = tuple(
        replace(s, tool_id="guard-3", tool="3 mm guard, then scissors", leave_mm=(3.0, 3.0))
        if s.tool_id in guards else s
        for s in sheet.steps
    )  # fmt: skip
    return replace(sheet, steps=steps)


SPOILT = {
    "a guard too short": shorter,
    "no comb asked": lambda s: replace(s, steps=tuple(replace(one, comb_first=()) for one in s.steps)),
    "nothing told as left alone": lambda s: replace(s, alone=()),
    "a step left out": lambda s: replace(s, steps=tuple(one for one in s.steps if one.rule != "cheek")),
    "no weeks told": lambda s: replace(s, alone=tuple(replace(one, missing_mm=0.0) for one in s.alone)),
    "before its time, not said": lambda s: replace(s, before_time=""),
    "cut below the outline": lambda s: replace(
        s, steps=tuple(replace(o, cuts=tuple(replace(c, leave_mm=0.5) for c in o.cuts)) for o in s.steps)
    ),
}


@pytest.mark.parametrize("how", SPOILT)
def test_a_sheet_that_would_ruin_a_head_is_found_out(how: str) -> None:
    sheets = [sheet_on(name, "round") for name in ("bare patches", "overgrown", "one side twice as deep")]
    assert any(breaches(SPOILT[how](sheet)) for sheet in sheets)
