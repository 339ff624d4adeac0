"""The whole plan, cut in simulation: nothing grows back, and each fault names the choice that made it."""

from __future__ import annotations

from functools import cache

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from dapwick.core.basics.errors import BadInput
from dapwick.core.cut.casework import case_of
from dapwick.core.cut.sheet import CutSheet, cut_sheet
from dapwick.core.head.skin import members
from dapwick.core.outlines.families import FAMILIES
from dapwick.core.outlines.family import settle_schools
from dapwick.core.outlines.fit import Outline, draw_outline, fit_family
from dapwick.core.plan.lengths import ZoneLength, zone_lengths
from dapwick.core.practice.heads import made_head, some_kind
from dapwick.core.practice.long_side import eye_of
from dapwick.core.practice.next_drill import DRILLS, next_drill
from dapwick.core.practice.trend import Point
from dapwick.core.practice.whole_plan import (
    ASKED,
    CAUSES,
    WAYS,
    Person,
    PlanMade,
    SimulatedCut,
    faults_of,
    simulated,
)
from dapwick.pipeline.practice import checked_against

EYE = eye_of(())


@cache
def planned() -> tuple[Outline, tuple[ZoneLength, ...], CutSheet]:
    made = made_head(11, some_kind(11, muzzle="medium", coat_type="curl", coat_share=1.6))
    family = FAMILIES["round"]
    schools = settle_schools(family, {}, "curl")
    outline = draw_outline(made.ground, family, fit_family(made.ground, family, schools), {}, schools)
    zones = zone_lengths(outline)
    return outline, zones, cut_sheet(case_of(outline, zones))


def best() -> SimulatedCut:
    return cut(PlanMade("round", dict.fromkeys(ASKED, 20.0), dict.fromkeys(ASKED, "shears"), ASKED))


def cut(made: PlanMade, leans: dict[tuple[str, str], float] | None = None, seed: int = 1) -> SimulatedCut:
    outline, zones, sheet = planned()
    return simulated(outline, zones, sheet, made, Person(EYE, leans or {}), np.random.default_rng(seed))


def true_plan(**changes: float) -> PlanMade:
    """The outline's own lengths and the sheet's own order, but for what is changed."""
    known = best()
    return PlanMade("round", {**known.best_mm, **changes}, dict.fromkeys(ASKED, "shears"), known.best_order)


plans = st.builds(
    lambda mm, ways, order: PlanMade(
        "round", dict(zip(ASKED, mm, strict=True)), dict(zip(ASKED, ways, strict=True)), tuple(order)
    ),
    st.lists(st.floats(1, 120), min_size=6, max_size=6),
    st.lists(st.sampled_from(list(WAYS)), min_size=6, max_size=6),
    st.permutations(ASKED),
)


@given(plans, st.integers(0, 99))
@settings(max_examples=60)
def test_no_cut_leaves_more_hair_than_grew_or_less_than_none(made: PlanMade, seed: int) -> None:
    done = cut(made, seed=seed)
    depth = done.outline.leave_mm + done.off_mm
    coat = done.outline.ground.coat.depth_mm
    assert (depth <= np.maximum(coat, done.outline.leave_mm) + 1e-9).all()
    assert (depth >= 0).all()


@given(plans)
@settings(max_examples=30)
def test_what_comes_out_is_the_sum_of_its_causes_where_the_coat_allows(made: PlanMade) -> None:
    done = cut(made)
    total = np.sum([done.by_cause[cause] for cause in CAUSES], axis=0)
    coat = done.outline.ground.coat.depth_mm
    free = (done.outline.leave_mm + total < coat - 0.01) & (done.outline.leave_mm + total > 0.31)
    free &= ~done.outline.ground.bare.astype(bool)
    assert done.off_mm[free] == pytest.approx(total[free])


def test_a_plan_as_it_should_be_is_only_as_far_off_as_the_hand() -> None:
    done = cut(true_plan())
    assert not done.late
    found = checked_against(done.outline, done.off_mm)
    assert {fault.cause for fault in faults_of(done, found)} <= {"hand"}


@pytest.mark.parametrize("mm", [8.0, -7.0])
def test_a_wrong_length_is_named(mm: float) -> None:
    known = best().best_mm["cheek"]
    done = cut(true_plan(cheek=known + mm))
    faults = faults_of(done, checked_against(done.outline, done.off_mm))
    cheeks = [fault for fault in faults if fault.zone == "cheek"]
    assert cheeks
    assert {fault.cause for fault in cheeks} == {"length"}
    assert all(np.sign(fault.mm) == np.sign(mm) for fault in cheeks)
    assert f"You chose {known + mm:.0f} mm" in cheeks[0].words


def test_a_guard_where_the_outline_stands_off_the_skin_is_named() -> None:
    known = true_plan()
    made = PlanMade("round", known.lengths, {**known.tools, "crown": "guard"}, known.order)
    faults = faults_of(*(done := cut(made), checked_against(done.outline, done.off_mm)))
    crown = [fault for fault in faults if fault.zone == "crown"]
    assert crown
    assert {fault.cause for fault in crown} == {"tool"}


def test_a_place_cut_before_the_one_it_follows_is_named() -> None:
    known = true_plan()
    made = PlanMade("round", known.lengths, known.tools, known.order[::-1])
    done = cut(made)
    assert done.late
    zone = next(iter(done.late))
    assert done.by_cause["order"][members(zone, None)].min() > 0


def test_a_hand_that_leans_is_seen_up_to_what_its_eye_lets_pass() -> None:
    lean = {("jaw", "right"): 9.0}
    done = cut(true_plan(), lean)
    at = members("jaw", "right")
    assert 0 < done.by_cause["hand"][at].mean() <= EYE.threshold_mm("jaw", "right") + 1e-9


def test_half_a_plan_is_refused() -> None:
    whole = true_plan()
    with pytest.raises(BadInput, match="a whole plan"):
        PlanMade("round", whole.lengths, whole.tools, whole.order[:-1])
    with pytest.raises(BadInput, match="cheek"):
        PlanMade("round", {**whole.lengths, "cheek": 400.0}, whole.tools, whole.order)
    with pytest.raises(BadInput, match="tool for cheek"):
        PlanMade("round", whole.lengths, {**whole.tools, "cheek": "knife"}, whole.order)


def test_the_least_certain_drill_is_next() -> None:
    sure, unsure = Point(3.0, 2.9, 3.1), Point(3.0, 1.0, 9.0)
    known: dict[str, Point | None] = dict.fromkeys(DRILLS, sure)
    assert next_drill({**known, "long_side": unsure}) == "long_side"  # type: ignore[dict-item]
    assert next_drill({**known, "eye": None}) == "eye"  # type: ignore[dict-item]
