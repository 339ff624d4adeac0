"""Sizes and conversions: what is hair length, what is depth over the skin, what grows, and by how much."""

from __future__ import annotations

import re

import numpy as np
import pytest

from cut_cases import case_of
from dapwick.core.cut.cautions import cautions_on
from dapwick.core.cut.drafts import Draft, drafts_of
from dapwick.core.cut.handling import closest_on
from dapwick.core.cut.order import in_order
from dapwick.core.head.growth import growth_mm
from dapwick.core.head.stand import length_of
from dapwick.core.outlines.families import FAMILIES
from dapwick.core.outlines.wishes import EYE_FALL_MM, Wishes
from dapwick.core.plan.kit import SkinLimits
from dapwick.core.plan.lengths import NORMAL_90, SHORT_PERCENTILE, zone_lengths
from dapwick.core.plan.verdict import verdict_of
from dapwick.core.solve.bone import Bone, growth_since, prior_of
from dapwick.core.solve.prior import general_prior
from dapwick.core.solve.scale_card import reading_sigma
from dapwick.pipeline.plan import FittedGround, drawn_on, fit_on


def test_a_shortage_is_told_as_the_hair_that_is_missing(fogbell: FittedGround) -> None:
    """Hair that stands less than upright has to grow more than the depth that lacks."""
    outline = drawn_on(fit_on(fogbell.model, FAMILIES["brows_beard"]), {"fullness": 1.0})
    stand = outline.ground.coat.stand
    short = [z for z in zone_lengths(outline) if z.shortage_mm and not z.zone.startswith("ear_")]
    assert short
    for zone in short:
        at = outline.ground.skin.in_zone(zone.zone, zone.side)
        depth = np.sort(outline.short_mm[at])[len(at) * SHORT_PERCENTILE // 100]
        along = float(length_of(depth, np.sort(stand[at])[len(at) // 2]))
        assert zone.shortage_mm == pytest.approx(along, rel=1e-6)
        assert along > 1.05 * depth


def test_how_unsure_hair_is_counts_along_the_hair(fogbell: FittedGround) -> None:
    ground = fogbell.ground
    for zone in zone_lengths(drawn_on(fogbell, {})):
        if zone.zone.startswith("ear_"):
            continue
        at = ground.skin.in_zone(zone.zone, zone.side)
        coat = ground.coat
        # Neither how deep the coat is nor how far this dog's stands off is known for sure.
        by_stand = zone.now_mm * np.median(coat.stand_sigma[at])
        along = NORMAL_90 * np.hypot(np.median(coat.sigma_mm[at]), by_stand) / np.median(coat.stand[at])
        assert zone.now_high - zone.now_mm == pytest.approx(along, rel=0.02)


def test_a_hand_holds_the_scale_card_a_finger_off() -> None:
    """12 mm before or behind the eye, at 60 cm, is 2 %, however finely the card was read."""
    assert reading_sigma(600.0, 0.0) == pytest.approx(0.02)
    assert reading_sigma(600.0, 0.015) == pytest.approx(0.025)
    assert reading_sigma(1200.0, 0.0) == pytest.approx(0.01)


def test_the_week_in_which_the_fringe_falls_over_the_eyes(fogbell: FittedGround) -> None:
    coat = fogbell.ground.coat_type
    wishes = Wishes(weeks_between=12)
    found = []
    for key in FAMILIES:
        fitted = fit_on(fogbell.model, FAMILIES[key], wishes=wishes)
        outline = drawn_on(fitted, {})
        told = verdict_of(outline, zone_lengths(outline)).wishes
        found += [
            (float(mm), int(weeks))
            for one in told
            for mm, weeks in re.findall(r"fringe (\d+) mm falls over the eyes after (\d+) weeks", one.words)
        ]
    assert found
    for fringe_mm, weeks in found:
        assert fringe_mm + growth_mm(weeks, coat) <= EYE_FALL_MM + 1.0
        assert fringe_mm + growth_mm(weeks + 1, coat) > EYE_FALL_MM - 1.0


def test_what_was_unsure_of_a_puppy_grows_with_it() -> None:
    mean = general_prior().mean_mm
    sure, unsure = (Bone(mean, np.eye(mean.size) * var, age_weeks=10.0) for var in (0.0, 100.0))
    grown = growth_since(unsure, 40.0)
    assert grown > 1.3
    more = prior_of(unsure, 40.0).covariance - prior_of(sure, 40.0).covariance
    assert np.allclose(np.diag(more), grown**2 * 100.0)


def test_after_a_break_a_caution_is_told_in_full_again() -> None:
    case = case_of("teddy", minds=("tires",))
    ordered = in_order(drafts_of(case), case)
    rest = next(draft for draft in ordered if draft.rule.doing == "rest")
    one = next(draft for draft in ordered if {c.id for c in cautions_on([draft], case)[0]} >= {"eyes"})

    def told_in_full(*drafts: Draft) -> list[bool]:
        return [any(c.id == "eyes" and c.full for c in told) for told in cautions_on(drafts, case)]

    assert told_in_full(one, one) == [True, False]
    assert told_in_full(one, rest, one) == [True, False, True]


@pytest.mark.parametrize(
    ("codes", "limits", "mm"),
    [
        (("white_coat", "skin_trouble"), (2.0, 5.0, 3.0), 5.0),
        (("white_coat", "skin_trouble"), (2.0, 3.0, 5.0), 5.0),
        (("first_time", "white_coat"), (6.0, 3.0, 4.0), 6.0),
    ],
)
def test_of_several_limits_on_the_skin_the_strictest_counts(
    codes: tuple[str, ...], limits: tuple[float, float, float], mm: float
) -> None:
    first, white, sore = limits
    assert closest_on(codes, 9, SkinLimits(first, (1.0,), white, sore)).mm == mm
