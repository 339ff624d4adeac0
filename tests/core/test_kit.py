"""What a kit sets a length in with: guards under the shortest place, blades no closer than the skin allows."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dapwick.core.errors import BadInput
from dapwick.core.plan.kit import USUAL_KIT, Kit, SkinLimits, Stylist, Tool
from dapwick.core.plan.tools import clipped_to, guard_under

OWN_GUARDS = Kit(tuple(Tool(f"g{mm}", "guard", f"{mm} mm guard", "clip", mm) for mm in (4.0, 11.0)))
BARE_HANDS = Kit((Tool("comb", "hand", "comb", "comb"),))


@given(st.floats(0.1, 60.0))
def test_a_guard_is_the_longest_owned_that_the_shortest_place_bears(shortest_mm: float) -> None:
    choice = guard_under(shortest_mm)
    longer = [g.leaves_mm for g in USUAL_KIT.clippers("guard") if (g.leaves_mm or 0) <= shortest_mm]
    assert choice.leaves_mm == (max(longer) if longer else None)
    assert choice.then_scissors == bool(longer)


@given(st.floats(0.2, 30.0), st.floats(0.0, 6.0))
def test_nothing_is_clipped_closer_than_the_skin_allows(length_mm: float, closest_mm: float) -> None:
    choice = clipped_to(length_mm, closest_mm=closest_mm)
    assert choice.leaves_mm is not None
    assert choice.leaves_mm >= closest_mm - 1e-9


@given(st.floats(0.25, 13.0))
def test_a_blade_within_a_millimetre_is_taken_as_it_is(length_mm: float) -> None:
    choice = clipped_to(length_mm)
    near = min(abs((b.leaves_mm or 0) - length_mm) for b in USUAL_KIT.clippers("blade"))
    assert choice.leaves_mm is not None
    if near <= 1.0:
        assert abs(choice.leaves_mm - length_mm) == pytest.approx(near)
    else:
        assert bool(choice.told) == (abs(choice.leaves_mm - length_mm) > 1.0)


@pytest.mark.parametrize(
    ("length_mm", "growth", "tool"),
    [
        (1.5, "with", "10 blade"),
        (1.5, "against", "8½ blade"),
        (0.75, "against", "10 blade"),
        (3.1, "with", "7F blade"),
    ],
)
def test_against_the_growth_the_same_blade_leaves_half(length_mm: float, growth: str, tool: str) -> None:
    choice = clipped_to(length_mm, growth=growth)  # type: ignore[arg-type]
    assert choice.tool is not None
    assert choice.tool.words == tool
    assert choice.words.endswith("against the growth") == (growth == "against")


def test_another_kit_gives_another_tool() -> None:
    assert guard_under(12.0).leaves_mm == 10
    assert guard_under(12.0, OWN_GUARDS).leaves_mm == 11
    assert guard_under(3.9, OWN_GUARDS).tool is None
    assert clipped_to(2.0, OWN_GUARDS).told == "Leaves 4 mm where the outline asks 2.0 mm."


def test_without_any_clipper_it_is_scissored_and_said() -> None:
    choice = clipped_to(1.5, BARE_HANDS)
    assert (choice.tool, choice.words) == (None, "scissors")
    assert "No blade or guard" in choice.why


def test_a_kit_lends_the_next_best_shears() -> None:
    only_thinning = Kit((Tool("t", "shears", "my thinners", "thinning"),))
    lent = only_thinning.shears("blending")
    assert lent is not None
    assert lent.name == "my thinners"
    assert only_thinning.shears("comb") is None


@pytest.mark.parametrize(
    ("stylist", "hard", "first"),
    [
        (Stylist("A", "right"), "right", "right"),
        (Stylist("A", "left"), "left", "left"),
        (Stylist("A", "right", awkward="last"), "right", "left"),
        (Stylist("A", "left", awkward_side="right"), "right", "right"),
        (Stylist("A", "left", awkward_side="right", awkward="last"), "right", "left"),
    ],
)
def test_the_awkward_side_comes_from_the_hand_unless_said(stylist: Stylist, hard: str, first: str) -> None:
    assert (stylist.hard_side, stylist.first_side) == (hard, first)


@pytest.mark.parametrize(
    "wrong",
    [
        lambda: Tool("a", "blade", "A", "clip"),
        lambda: Tool("a", "blade", "A", "clip", 0.0),
        lambda: Tool("a", "blade", "A", "clip", float("nan")),
        lambda: Tool("a", "guard", " ", "clip", 3.0),
        lambda: Tool("a", "shears", "A", "clip"),
        lambda: Tool("a", "shears", "A", "curved", 3.0),
        lambda: Tool("a", "axe", "A", "clip", 3.0),  # type: ignore[arg-type]
        lambda: Kit((Tool("a", "hand", "A", "comb"), Tool("a", "hand", "B", "comb"))),
        lambda: Kit((), against_share=0.0),
        lambda: Kit((), skin=SkinLimits(first_mm=-1.0)),
        lambda: Stylist(""),
        lambda: Stylist("A", "third"),  # type: ignore[arg-type]
        lambda: Stylist("A", work="by night"),  # type: ignore[arg-type]
    ],
)
def test_what_cannot_be_a_tool_or_a_stylist_is_refused(wrong) -> None:  # type: ignore[no-untyped-def]
    with pytest.raises(BadInput, match="expected"):
        wrong()
