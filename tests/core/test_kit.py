"""What a kit sets a length in with: guards over the longest place, blades no shorter than plan and skin allow."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dapwick.core.basics.errors import BadInput
from dapwick.core.plan.kit import USUAL_KIT, Kit, SkinLimits, Stylist, Tool
from dapwick.core.plan.tools import clipped_to, guard_over

OWN_GUARDS = Kit(tuple(Tool(f"g{mm}", "guard", f"{mm} mm guard", "clip", mm) for mm in (4.0, 11.0)))
BARE_HANDS = Kit((Tool("comb", "hand", "comb", "comb"),))


@given(st.floats(0.1, 60.0))
def test_a_guard_is_the_shortest_owned_that_leaves_the_longest_place(longest_mm: float) -> None:
    choice = guard_over(longest_mm)
    longer = [g.leaves_mm for g in USUAL_KIT.clippers("guard") if (g.leaves_mm or 0) >= longest_mm]
    assert choice.leaves_mm == (min(longer) if longer else None)
    assert choice.then_scissors == bool(longer)


TOOLS = st.builds(
    lambda kind, mm: Tool(f"{kind}-{mm}", kind, f"{mm:.2f}", "clip", mm),  # type: ignore[arg-type]
    st.sampled_from(["blade", "guard"]),
    st.floats(0.1, 60.0),
)
KITS = st.builds(Kit, st.lists(TOOLS, max_size=12, unique_by=lambda t: t.id).map(tuple), st.floats(0.2, 1.0))


@given(KITS, st.floats(0.05, 70.0), st.floats(0.0, 10.0), st.sampled_from(["with", "against"]))
def test_nothing_is_clipped_shorter_than_plan_and_skin_allow(
    kit: Kit, length_mm: float, closest_mm: float, growth: str
) -> None:
    choice = clipped_to(length_mm, kit, closest_mm, growth)  # type: ignore[arg-type]
    least = max(length_mm, closest_mm) - 1e-6
    if choice.tool is None:
        share = kit.against_share if growth == "against" else 1.0
        assert all(share * (t.leaves_mm or 0.0) < least for t in kit.tools)
        return
    share = kit.against_share if growth == "against" else 1.0
    assert share * (choice.tool.leaves_mm or 0.0) == choice.leaves_mm >= least


@given(KITS, st.floats(0.0, 70.0))
def test_no_kit_lends_a_guard_shorter_than_the_longest_place(kit: Kit, longest_mm: float) -> None:
    choice = guard_over(longest_mm, kit)
    assert choice.tool is None or (choice.leaves_mm or 0.0) >= longest_mm


@given(st.floats(0.25, 13.0))
def test_what_a_blade_leaves_over_the_plan_is_told(length_mm: float) -> None:
    choice = clipped_to(length_mm)
    assert choice.leaves_mm is not None
    assert bool(choice.told) == (choice.leaves_mm - length_mm > 1.0)


@pytest.mark.parametrize(
    ("length_mm", "growth", "tool"),
    [
        (1.5, "with", "10 blade"),
        (1.5, "against", "7F blade"),
        (0.7, "against", "10 blade"),
        (3.1, "with", "7F blade"),
    ],
)
def test_against_the_growth_the_same_blade_leaves_half(length_mm: float, growth: str, tool: str) -> None:
    choice = clipped_to(length_mm, growth=growth)  # type: ignore[arg-type]
    assert choice.tool is not None
    assert choice.tool.words == tool
    assert choice.words.endswith("against the growth") == (growth == "against")


def test_another_kit_gives_another_tool() -> None:
    assert guard_over(10.5).leaves_mm == 13
    assert guard_over(10.5, OWN_GUARDS).leaves_mm == 11
    assert guard_over(11.1, OWN_GUARDS).tool is None
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
