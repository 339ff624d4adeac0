"""The order of the cut: what must come first comes first, minded places stand apart, breaks come in time."""

from __future__ import annotations

from itertools import pairwise

import pytest

from cut_cases import case_of
from dapwick.core.cut.blends import blends_of
from dapwick.core.cut.case import Case
from dapwick.core.cut.drafts import LAST, SET_IN, Draft, drafts_of
from dapwick.core.cut.handling import pause_after_min
from dapwick.core.cut.order import END_APART, OVERDUE, SPLIT_ABOVE_MIN, in_order, may_end_after

CASES = {
    "easy": case_of("round"),
    "minded": case_of("teddy", minds=("minds_muzzle", "minds_eyes")),
    "tired": case_of("brick", coat="harsh", minds=("tires",)),
    "all at once": case_of("topknot", minds=("old", "minds_ears", "minds_clipper", "flat_face")),
    "left": case_of("dome", hand="left", minds=("puppy",)),
}


@pytest.fixture(params=CASES, ids=str)
def case(request: pytest.FixtureRequest) -> Case:
    return CASES[request.param]


def worked(case: Case) -> list[Draft]:
    return [d for d in in_order(drafts_of(case), case) if d.rule.doing == "work"]


def test_nothing_is_lost_or_done_twice(case: Case) -> None:
    ordered = in_order(drafts_of(case), case)
    assert len({draft.id for draft in ordered}) == len(ordered)
    before = {draft.id for draft in drafts_of(case)}
    halves = {d.id.removesuffix(":1").removesuffix(":2") if d.part[1] == 2 else d.id for d in ordered}
    assert before <= halves
    planned = sum(draft.minutes for draft in drafts_of(case) if draft.rule.doing == "work")
    done = sum(draft.minutes for draft in ordered if draft.rule.doing == "work")
    assert done == pytest.approx(planned)


def test_what_a_rule_waits_for_is_done_before_it(case: Case) -> None:
    ordered = in_order(drafts_of(case), case)
    at = {draft.id: i for i, draft in enumerate(ordered)}
    for one in ordered:
        for other in ordered:
            same_side = one.side is None or other.side is None or one.side == other.side
            if other.rule.id in one.rule.after and same_side:
                assert at[other.id] < at[one.id], (other.id, one.id)
            if one.chapter == LAST > other.chapter and other.rule.doing != "rest":
                assert at[other.id] < at[one.id]
            if one.chapter >= SET_IN > other.chapter:
                assert at[other.id] < at[one.id]


def test_long_steps_in_minded_places_are_halved_and_others_are_not(case: Case) -> None:
    for draft in worked(case):
        if draft.part[1] == 2:
            assert draft.traits
            assert draft.minutes > SPLIT_ABOVE_MIN / 2
        elif draft.traits:
            assert draft.minutes <= SPLIT_ABOVE_MIN


def test_two_minded_steps_never_follow_each_other_without_a_word_between(case: Case) -> None:
    for one, other in pairwise(in_order(drafts_of(case), case)):
        assert not (one.traits and other.traits), (one.id, other.id)


def test_a_dog_that_needs_breaks_gets_them_in_time(case: Case) -> None:
    limit = pause_after_min(case.traits)
    since, longest = 0.0, 0.0
    pauses = 0
    for draft in in_order(drafts_of(case), case):
        if draft.rule.id == "pause":
            since, pauses = 0.0, pauses + 1
            continue
        since += draft.minutes if draft.rule.doing != "rest" else 0.0
        longest = max(longest, since)
    if limit is None:
        assert pauses == 0
        return
    one_step = max(draft.minutes for draft in worked(case))
    assert pauses
    assert longest <= limit * OVERDUE + one_step


def test_the_dog_may_go_home_where_both_sides_are_alike(case: Case) -> None:
    ordered = in_order(drafts_of(case), case)
    ends = may_end_after(ordered)
    assert ends[-1]
    for i, may_end in enumerate(ends):
        if not may_end:
            continue
        done = {d.rule.id for d in ordered[: i + 1] if d.rule.doing == "work"}
        left = {d.rule.id for d in ordered[i + 1 :] if d.rule.doing == "work"}
        assert not done & left, "something begun is not finished"
        assert ordered[i].chapter >= SET_IN
    at = [i for i, end in enumerate(ends) if end and ordered[i].rule.doing != "rest"]
    assert all(after - before >= END_APART for before, after in pairwise(at) if after != len(ends) - 1)


def test_the_first_side_is_the_stylists(case: Case) -> None:
    first = case.side_order[0]
    for rule in {d.rule.id for d in worked(case) if d.rule.each}:
        sides = [d.side for d in worked(case) if d.rule.id == rule]
        assert sides[0] == first
        assert sides == sorted(sides, key=lambda side: side != first)


def test_a_zone_counts_as_clipped_where_either_side_is() -> None:
    case = case_of("topknot")
    one_side = {place: z for place, z in case.zones.items() if place != ("cheek", "left")}
    mixed = Case(**{**vars(case), "zones": one_side})
    assert mixed.clipped("cheek")
    assert len(mixed.planned("cheek")) == 1
    scissored = case_of("round").zones["cheek", "left"]
    both = Case(**{**vars(case), "zones": {**case.zones, ("cheek", "left"): scissored}})
    assert both.clipped("cheek")
    assert mixed.pieces_at(("cheek", "left")) == ()


def test_a_side_that_is_not_planned_is_not_blended() -> None:
    case = case_of("round", leave={"cheek": 30.0, "jaw": 15.0}, now_mm=40.0)
    assert {b.side for b in blends_of(case) if {b.long, b.short} == {"cheek", "jaw"}} == {"left", "right"}
    fewer = {place: z for place, z in case.zones.items() if place != ("jaw", "left")}
    half = Case(**{**vars(case), "zones": fewer})
    assert {b.side for b in blends_of(half) if {b.long, b.short} == {"cheek", "jaw"}} == {"right"}
