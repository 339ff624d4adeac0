"""A comb pushed to the skin of a finished head: it tells of the hair what photos leave open."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from cut_heads import CutHead, photographed
from dapwick.core.after.check import Check, check_of
from dapwick.core.after.combing import CLOSE_MM, MOST_COMBS
from dapwick.core.after.deviations import deviations
from dapwick.core.after.readings import FOUND_WITHIN_MM, SIDES, CutComb, Spot, spot_at, spots_of
from dapwick.core.head.stand import length_of
from dapwick.core.head.zones import Side
from dapwick.core.outlines.fit import Outline
from dapwick.core.practice.human_hand import hand_error, left_long
from finished_cases import planned

OUTLINE = "fogbell"


def planned_deep(outline: Outline, zone: str, side: Side, spot: Spot = "middle") -> float:
    """How deep a comb would go had the head been cut true to plan."""
    places = outline.ground.skin.vertices_mm
    near = np.linalg.norm(places - places[spot_at(outline.ground.skin, zone, side, spot)], axis=1)
    return float(outline.leave_mm[near < FOUND_WITHIN_MM].mean())


def combed(outline: Outline, zone: str, side: Side, long_mm: float, spot: Spot = "middle") -> CutComb:
    return CutComb(zone, side, max(planned_deep(outline, zone, side, spot) + long_mm, 0.0), spot=spot)


def cut(outline: Outline, seed: int = 3, fault: tuple[str, str | None, float] | None = None) -> CutHead:
    rng = np.random.default_rng(seed)
    off = hand_error(outline.ground.skin, rng, 0.4)
    if fault:
        off = off + left_long(outline.ground.skin, *fault)
    return photographed(outline, off, rng)


def asked(check: Check) -> set[tuple[str, str]]:
    return {(t.zone, t.side) for t in check.touch_ups}


@pytest.mark.parametrize("side", ["left", "right"])
def test_a_comb_finds_what_no_photo_shows(side: Side) -> None:
    outline = planned(OUTLINE)
    photos = cut(outline).photos
    unseen = {z for z, s in deviations(outline, photos).unseen if s == side}
    zone = next(z for z in ("muzzle_side", "jaw", "temple") if z in unseen)
    told = check_of(deviations(outline, photos, [combed(outline, zone, side, 8.0)]))
    assert (zone, side) in asked(told)
    assert (zone, "right" if side == "left" else "left") not in asked(told)


def test_hair_that_a_comb_finds_as_planned_is_not_taken_in() -> None:
    """Both cheeks stand far outside the outline: the hair, says the check, until a comb says otherwise."""
    outline = planned(OUTLINE)
    photos = cut(outline, fault=("cheek", None, 9.0)).photos
    assert {z for z, _ in asked(check_of(deviations(outline, photos)))} & {"cheek"}
    level = [combed(outline, "cheek", side, 0.0) for side in SIDES]
    told = check_of(deviations(outline, photos, level))
    assert {z for z, _ in asked(told)} & {"cheek"} == set()
    assert {p.state for p in told.places if p.zone == "cheek"} <= {"true", "unsure"}


def test_long_hair_on_a_head_that_lies_within_its_outline_stays() -> None:
    """The crown's skull is lower than was measured: its hair is 7 mm longer than planned, and its outline true."""
    outline = planned(OUTLINE)
    photos = cut(outline, fault=("crown", None, -1.5)).photos
    told = check_of(deviations(outline, photos, [combed(outline, "crown", "left", 7.0)]))
    assert ("crown", "left") not in asked(told)
    crown = next(p for p in told.places if (p.zone, p.side) == ("crown", "left"))
    assert crown.off_mm < 2.0


def test_a_comb_that_photos_contradict_is_asked_for_once_more_and_changes_nothing() -> None:
    """48 typed for 18: the photos see the crown, and it is not there."""
    outline = planned(OUTLINE)
    photos = cut(outline).photos
    before = check_of(deviations(outline, photos))
    told = check_of(deviations(outline, photos, [combed(outline, "crown", "left", 45.0)]))
    assert asked(told) == asked(before)
    assert (told.comb[0].zone, told.comb[0].side) == ("crown", "left")
    assert "once more" in told.comb[0].words


def test_combs_alone_tell_of_the_places_that_were_combed_and_of_no_others() -> None:
    outline = planned(OUTLINE)
    told = check_of(deviations(outline, [], [combed(outline, "crown", "left", 7.0)]))
    assert asked(told) == {("crown", "left")}
    assert {(p.zone, p.side) for p in told.places if p.state != "unseen"} == {("crown", "left")}


def test_what_a_comb_finds_is_all_hair_and_leaves_the_skull_as_unsure_as_it_was() -> None:
    outline = planned(OUTLINE)
    zone = deviations(outline, [], [combed(outline, "crown", "left", 7.0)]).of("crown", "left")
    assert zone is not None
    assert 5.0 < zone.hair_mm < 7.5
    assert zone.surface_sigma > 1.2 * zone.hair_sigma


def test_a_comb_is_asked_for_where_it_tells_and_for_no_more_than_a_dog_stands() -> None:
    outline = planned(OUTLINE)
    for seed in range(4):
        photos = cut(outline, seed, ("cheek", "left", 4.0)).photos
        found = deviations(outline, photos)
        told = check_of(found).comb
        assert 0 < len(told) <= MOST_COMBS
        assert len({(one.zone, one.side) for one in told}) == len(told)
        unseen = {(z, s) for z, s in found.unseen}
        assert all(one.leave_mm > CLOSE_MM for one in told if (one.zone, one.side) in unseen)
        read = [combed(outline, one.zone, one.side, 0.0) for one in told]
        again = {(one.zone, one.side) for one in check_of(deviations(outline, photos, read)).comb}
        assert not again & {(one.zone, one.side) for one in told if one.state == "unseen"}


def test_a_comb_that_leaves_a_place_open_is_pushed_in_again_beside_it_and_no_more_than_three_times() -> None:
    """The jaw is 2 mm long wherever a comb goes in: neither true to plan nor surely long."""
    outline = planned(OUTLINE)
    spots = spots_of(outline.ground.skin, "jaw", "left")
    sigmas = []
    for many in range(1, 4):
        combs = [combed(outline, "jaw", "left", 2.0, spot) for spot in spots[:many]]
        found = deviations(outline, [], combs)
        asked_next = [one for one in check_of(found).comb if (one.zone, one.side) == ("jaw", "left")]
        assert [one.spot for one in asked_next] == list(spots[many : many + 1])
        assert all("so far: once more" in one.words for one in asked_next)
        there = [planned_deep(outline, "jaw", "left", one.spot) for one in asked_next]
        assert [one.leave_mm for one in asked_next] == pytest.approx(there)
        zone = found.of("jaw", "left")
        assert zone is not None
        sigmas.append(zone.hair_sigma)
    assert sigmas[0] > 1.2 * sigmas[1] > 1.2 * sigmas[2]


def test_a_comb_that_settles_a_place_is_not_pushed_in_again() -> None:
    outline = planned(OUTLINE)
    for long_mm in (-4.0, -1.0, 7.0):
        told = check_of(deviations(outline, [], [combed(outline, "jaw", "left", long_mm)]))
        assert ("jaw", "left") not in {(one.zone, one.side) for one in told.comb}


def test_the_spots_of_a_zone_lie_apart_and_each_on_its_own_side() -> None:
    skin = planned(OUTLINE).ground.skin
    for zone in ("cheek", "jaw", "crown", "muzzle_side", "visor"):
        for side in SIDES:
            at = [spot_at(skin, zone, side, spot) for spot in spots_of(skin, zone, side)]
            assert len(set(at)) == 3
            assert set(at) <= set(skin.in_zone(zone, side).tolist())


@given(
    zone=st.sampled_from(["cheek", "jaw", "crown", "muzzle_side", "chin", "visor"]),
    side=st.sampled_from(SIDES),
    depths_mm=st.lists(st.floats(0.0, 120.0), min_size=1, max_size=3),
)
@settings(max_examples=25, deadline=None)
def test_nothing_is_asked_below_the_plan_whatever_combs_say(
    zone: str, side: Side, depths_mm: list[float]
) -> None:
    outline = planned(OUTLINE)
    spots = spots_of(outline.ground.skin, zone, side)[: len(depths_mm)]
    combs = [CutComb(zone, side, deep, spot=spot) for deep, spot in zip(depths_mm, spots, strict=True)]
    told = check_of(deviations(outline, [], combs))
    at = outline.ground.skin.in_zone(zone, side)
    wanted = float(np.median(length_of(outline.leave_mm[at], outline.ground.coat.stand[at])))
    for touch in told.touch_ups:
        assert (touch.zone, touch.side) == (zone, side)
        assert touch.leave_mm >= wanted - 1e-6
        assert touch.off_mm > 0
    if all(
        deep <= planned_deep(outline, zone, side, spot) for deep, spot in zip(depths_mm, spots, strict=True)
    ):
        assert not told.touch_ups
