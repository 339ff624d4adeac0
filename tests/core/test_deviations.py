"""Deviations of finished heads whose every millimetre is known."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from cut_heads import CutHead, photographed
from dapwick.core.after.check import Check, check_of
from dapwick.core.after.deviations import Deviations, deviations
from dapwick.core.head.zones import ZONES
from dapwick.core.outlines.fit import Outline
from dapwick.core.outlines.ground import FLOOR_MM
from dapwick.core.practice.human_hand import hand_error, left_long
from finished_cases import planned


@pytest.fixture(params=["fogbell", "bobbin"])
def outline(request: pytest.FixtureRequest) -> Outline:
    return planned(request.param)


def cut(
    outline: Outline, seed: int, fault: tuple[str, str, float] | None = None, hand: float = 1.0
) -> CutHead:
    rng = np.random.default_rng(seed)
    off = hand_error(outline.ground.skin, rng, hand)
    if fault:
        off = off + left_long(outline.ground.skin, *fault)
    return photographed(outline, off, rng)


def errors(found: Deviations, done: CutHead) -> tuple[list[float], list[float]]:
    """How far zones are told off the truth, mm and in their σ."""
    off = [z.surface_mm - float(done.off_mm[z.places].mean()) for z in found.zones]
    return off, [o / z.surface_sigma for o, z in zip(off, found.zones, strict=True)]


def test_zones_are_told_within_their_intervals(outline: Outline) -> None:
    mm, sigmas = [], []
    for seed in range(5):
        done = cut(outline, seed)
        off, in_sigma = errors(deviations(outline, done.photos), done)
        mm += off
        sigmas += in_sigma
    assert len(mm) > 40
    assert np.median(np.abs(mm)) < 1.2
    assert np.mean(np.abs(sigmas) < 1.645) > 0.8


@pytest.mark.parametrize("side", ["left", "right"])
def test_a_cheek_left_long_is_found_on_its_side_and_not_on_the_other(side: str) -> None:
    outline = planned("fogbell")
    done = cut(outline, 11, ("cheek", side, 8.0), hand=0.3)
    told = check_of(deviations(outline, done.photos))
    cheeks = [t.side for t in told.touch_ups if t.zone == "cheek"]
    assert cheeks == [side]


def test_a_head_cut_true_to_plan_needs_next_to_nothing(outline: Outline) -> None:
    made = [check_of(deviations(outline, cut(outline, seed, hand=0.2).photos)) for seed in range(4)]
    assert sum(len(one.touch_ups) for one in made) <= 2


def test_what_no_photo_shows_is_said_and_never_guessed(outline: Outline) -> None:
    done = cut(outline, 2)
    left = [p for p in done.photos if p.edge.view == "left"]
    found = deviations(outline, left)
    assert found.of("cheek", "right") is None
    assert ("cheek", "right") in found.unseen
    assert np.isnan(found.surface_mm[outline.ground.skin.in_zone("throat")]).all()
    nothing = deviations(outline, [])
    assert nothing.zones == ()
    assert len(nothing.unseen) == 2 * (len(ZONES) - 1)
    assert check_of(nothing).touch_ups == ()
    assert "No photo" in check_of(nothing).words


def test_a_leaning_camera_does_not_pass_for_many_long_places(outline: Outline) -> None:
    """One photo's camera is off by more than its marks can tell: the told σ of a side that it alone saw is wider than
    that of its many readings."""
    done = cut(outline, 4)
    alone = deviations(outline, [p for p in done.photos if p.edge.view == "left"])
    every = deviations(outline, done.photos)
    for zone in ("crown", "chin"):
        one, all_ = alone.of(zone, "left"), every.of(zone, "left")
        if one and all_:
            assert one.surface_sigma > all_.surface_sigma
            assert one.surface_sigma > 0.6


def test_the_newer_photo_counts_where_both_saw() -> None:
    outline = planned("fogbell")
    skin, rng = outline.ground.skin, np.random.default_rng(8)
    long = left_long(skin, "cheek", "left", 6.0)
    before = photographed(outline, long, rng)
    after = photographed(outline, np.zeros(len(long)), rng, look=1)
    both = deviations(outline, before.photos + after.photos).of("cheek", "left")
    first = deviations(outline, before.photos).of("cheek", "left")
    assert first is not None
    assert both is not None
    assert first.surface_mm > 3.0
    assert abs(both.surface_mm) < 2.0


@settings(max_examples=12, deadline=None)
@given(
    seed=st.integers(0, 10_000),
    mm=st.floats(-8, 12),
    zone=st.sampled_from(["cheek", "crown", "jaw", "visor"]),
)
def test_no_touch_up_takes_more_than_is_there_or_cuts_below_the_plan(seed: int, mm: float, zone: str) -> None:
    outline = planned("fogbell")
    told = check_of(deviations(outline, cut(outline, seed, (zone, "left", mm)).photos))
    held_by(told)


def held_by(told: Check) -> None:
    short = {(s.zone, s.side) for s in told.short}
    unseen = {(p.zone, p.side) for p in told.places if p.state == "unseen"}
    for touch in told.touch_ups:
        place = next(p for p in told.places if (p.zone, p.side) == (touch.zone, touch.side))
        assert touch.off_mm > 0
        assert touch.low <= touch.off_mm
        assert (touch.zone, touch.side) not in short | unseen
        planned = place.left_mm - place.off_mm
        assert touch.leave_mm >= planned - 1e-6
        assert place.left_mm - touch.high >= min(FLOOR_MM, planned) - 1e-6
    for missing in told.short:
        assert missing.missing_mm > 0
        assert missing.weeks[0] <= missing.weeks[1]


def test_a_side_left_long_is_told_uneven_and_which_is_fuller() -> None:
    outline = planned("fogbell")
    uneven = cut(outline, 21, ("cheek", "right", 10.0), hand=0.2)
    even = cut(outline, 22, hand=0.2)
    (told,) = (e for e in check_of(deviations(outline, uneven.photos)).even if e.zone == "cheek")
    assert told.state == "uneven"
    assert "right fuller" in told.words
    (fine,) = (e for e in check_of(deviations(outline, even.photos)).even if e.zone == "cheek")
    assert told.mm < fine.mm - 4.0
    assert fine.low < fine.mm < fine.high
