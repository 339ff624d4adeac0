"""Lengths by zone: numbers of one zone close with each other, and say what set them."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from scipy.special import ndtr

from core_cases import model
from dapwick.core.head.stand import length_of
from dapwick.core.outlines.families import FAMILIES
from dapwick.core.outlines.fit import Outline
from dapwick.core.outlines.posterior_samples import PosteriorSamples, posterior_samples
from dapwick.core.plan.kit import USUAL_KIT
from dapwick.core.plan.lengths import NORMAL_90, ZoneLength, planned_groups, zone_lengths
from dapwick.core.plan.telling import TELLING_SHORTAGE_MM
from dapwick.pipeline.plan import drawn_on, fit_on

KEYS = ("round", "brick", "natural", "topknot")


def drawn(key: str) -> Outline:
    return drawn_on(fit_on(model("fogbell"), FAMILIES[key]), {})


@pytest.fixture(scope="module")
def outlines() -> dict[str, Outline]:
    return {key: drawn(key) for key in KEYS}


@pytest.fixture(scope="module", params=KEYS)
def outline(request: pytest.FixtureRequest, outlines: dict[str, Outline]) -> Outline:
    return outlines[request.param]


def on_skin(outline: Outline) -> list[ZoneLength]:
    return [z for z in zone_lengths(outline) if not z.zone.startswith("ear_")]


def test_every_zone_of_the_family_is_told_left_then_right_and_ears_last(outline: Outline) -> None:
    told = [(z.zone, z.side) for z in zone_lengths(outline)]
    planned = [(zone, side) for zone in outline.family.planned for side in ("left", "right")]
    assert told[: len(planned)] == planned
    assert all(zone.startswith("ear_") for zone, _ in told[len(planned) :])
    assert [side for _, side in told] == ["left", "right"] * (len(told) // 2)


def test_a_zone_is_told_by_its_middle(outline: Outline) -> None:
    skin, stand = outline.ground.skin, outline.ground.coat.stand
    lengths = length_of(outline.leave_mm, stand)
    for z in on_skin(outline):
        there = np.sort(lengths[skin.in_zone(z.zone, z.side)])  # type: ignore[arg-type]
        assert z.leave_mm == pytest.approx(there[len(there) // 2])
        assert there[0] <= z.shortest_mm <= z.leave_mm <= z.longest_mm <= there[-1]
        assert z.longest_mm == pytest.approx(there[len(there) * 90 // 100])
        assert z.shortest_mm == pytest.approx(there[len(there) // 10])


def test_intervals_hold_what_they_are_of_and_no_hair_is_shorter_than_none(outline: Outline) -> None:
    for draws in (None, posterior_samples(outline)):
        for z in zone_lengths(outline, draws):
            assert 0.0 <= z.low <= z.leave_mm <= z.high
            assert 0.0 <= z.now_low <= z.now_mm <= z.now_high
            assert z.remove_mm >= 0.0
            assert 0.0 <= z.chance_short <= 1.0


def test_without_draws_the_skins_own_doubt_is_told(outline: Outline) -> None:
    skin, stand = outline.ground.skin, outline.ground.coat.stand
    for z in on_skin(outline):
        at = skin.in_zone(z.zone, z.side)  # type: ignore[arg-type]
        spread = NORMAL_90 * np.median(skin.sigma_mm[at] / stand[at])
        assert z.high - z.leave_mm == pytest.approx(0.0 if z.clipped else spread)


def test_the_chance_that_hair_lacks_is_half_where_all_of_it_is_planned(outlines: dict[str, Outline]) -> None:
    outline = outlines["round"]
    coat = outline.ground.coat
    for more_mm, share in ((0.0, 0.5), (3.0, None), (-3.0, None)):
        shifted = replace(outline, leave_mm=coat.depth_mm + more_mm)
        for z in on_skin(shifted):
            at = outline.ground.skin.in_zone(z.zone, z.side)  # type: ignore[arg-type]
            sigma = np.median(coat.outside_sigma_mm[at])
            assert z.chance_short == pytest.approx(share or ndtr(more_mm / sigma), abs=1e-6)


@pytest.mark.parametrize("missing_mm", [0.0, 1.0, 12.0])
def test_small_shortages_are_not_told(outlines: dict[str, Outline], missing_mm: float) -> None:
    outline = outlines["round"]
    short = replace(outline, short_mm=np.where(outline.covered, 0.0, missing_mm))
    for z in on_skin(short):
        if z.clipped or not z.seen:
            continue
        assert z.shortage_mm == 0.0 or z.shortage_mm >= TELLING_SHORTAGE_MM
        assert (z.shortage_mm > 0) == (missing_mm == 12.0)


def test_what_set_a_zone_is_told(outlines: dict[str, Outline]) -> None:
    outline = outlines["round"]
    assert {z.why for z in on_skin(outline)} >= {"Round: the outline"}
    lacking = replace(outline, short_mm=np.full_like(outline.short_mm, 9.0))
    assert any(z.why == "as much as is surely there" for z in on_skin(lacking))
    close = {z.zone: z for z in on_skin(outlines["topknot"])}
    assert close["cheek"].why.startswith("Topknot: ")
    assert close["cheek"].clipped
    assert not close["crown"].clipped


def test_what_does_a_zone(outlines: dict[str, Outline]) -> None:
    by = {key: {z.zone: z.by for z in on_skin(outline)} for key, outline in outlines.items()}
    assert by["topknot"]["cheek"] == "clipper"
    assert by["natural"]["cheek"] == "carding"
    assert by["round"]["cheek"] == "scissors"


def test_a_kit_without_clippers_scissors_what_it_cannot_clip(outlines: dict[str, Outline]) -> None:
    bare = replace(USUAL_KIT, tools=tuple(t for t in USUAL_KIT.tools if t.kind == "shears"))
    for z in zone_lengths(outlines["topknot"], None, bare):
        assert "blade" not in z.tool
        assert "guard" not in z.tool


def test_scissored_groups_hold_every_planned_place_once(outline: Outline) -> None:
    groups = planned_groups(outline)
    every = np.concatenate([np.zeros(0, dtype=int), *groups])
    assert len(np.unique(every)) == len(every)
    assert not outline.covered[every].any()
    planned = outline.ground.members(outline.family)
    assert set(every.tolist()) == {v for v in planned.tolist() if not outline.covered[v]}


@pytest.fixture
def samples() -> PosteriorSamples:
    at = np.array([3, 5, 9, 12])
    lengths = np.array([[10.0, 12.0, 50.0, 60.0]] * 32 + [[20.0, 22.0, 50.0, 60.0]] * 32)
    out = np.zeros((64, 4))
    out[:16, 0] = out[:16, 1] = 1.0
    return PosteriorSamples(at, lengths, out)


def test_an_interval_is_of_the_middle_length_over_a_place(samples: PosteriorSamples) -> None:
    assert samples.interval(np.array([3, 5, 100])) == (11.0, 21.0)
    assert samples.interval(np.array([9])) == (50.0, 50.0)
    assert samples.interval(np.array([4])) is None


def test_hair_runs_out_where_more_than_a_quarter_of_a_place_lacks_it(samples: PosteriorSamples) -> None:
    both, one, none = np.array([3, 5]), np.array([3, 5, 9, 12]), np.array([9, 12])
    assert samples.chance_out([both]) == 0.25
    assert samples.chance_out([one]) == 0.25
    assert samples.chance_out([none]) == 0.0
    assert samples.chance_out([none, both]) == 0.25
    assert samples.chance_out([np.array([77])]) == 0.0
    thin = replace(samples, out=np.where(np.arange(4) == 0, samples.out, 0.0))
    assert thin.chance_out([one]) == 0.0
