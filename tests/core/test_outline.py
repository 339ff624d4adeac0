"""Every family in the room of two simulated dogs: properties of shape, fit, lengths and verdict."""

from __future__ import annotations

from dataclasses import replace
from functools import cache
from itertools import pairwise

import numpy as np
import pytest

from dapwick.core.basics.errors import BadInput
from dapwick.core.basics.marks import MARK_IDS
from dapwick.core.basics.shapes import exit_distance
from dapwick.core.head.stand import depth_of
from dapwick.core.head.zones import ZONES
from dapwick.core.outlines.clear import keep_clear, lines_of_sight
from dapwick.core.outlines.families import FAMILIES, family
from dapwick.core.outlines.families.round import ROUND
from dapwick.core.outlines.family import FULLNESS, Family, settle_schools
from dapwick.core.outlines.fit import Fit, Outline, draw_outline, fit_family
from dapwick.core.outlines.ground import CLEARED_MM, Ground
from dapwick.core.outlines.posterior_samples import posterior_samples
from dapwick.core.outlines.wishes import NO_WISHES, Wishes
from dapwick.core.plan.lengths import TELLING_SHORTAGE_MM, planned_groups, zone_lengths
from dapwick.core.plan.verdict import verdict_of
from dapwick.pipeline.plan import FittedGround

DOGS = ("fogbell", "bobbin")
EVERY = sorted(FAMILIES)


@pytest.fixture(scope="module", params=DOGS)
def ground(request: pytest.FixtureRequest) -> Ground:
    fitted: FittedGround = request.getfixturevalue(request.param)
    return fitted.ground


class Fits:
    """Fits are kept for a whole module: each is asked for by many tests."""

    def __init__(self, ground: Ground) -> None:
        self.ground = ground
        self.fit = cache(self._fit)

    def schools(self, key: str) -> dict[str, str]:
        return settle_schools(FAMILIES[key], {}, self.ground.coat_type)

    def _fit(self, key: str, wishes: Wishes = NO_WISHES) -> Fit:
        return fit_family(self.ground, FAMILIES[key], self.schools(key), wishes)

    def draw(self, key: str, wishes: Wishes = NO_WISHES, **params: float) -> Outline:
        return draw_outline(self.ground, FAMILIES[key], self.fit(key, wishes), params, self.schools(key))


@pytest.fixture(scope="module")
def fits(ground: Ground) -> Fits:
    return Fits(ground)


def extremes(one: Family) -> list[dict[str, float]]:
    low = {p.id: p.low for p in one.parameters}
    high = {p.id: p.high for p in one.parameters}
    return [low, high, {**low, FULLNESS: 1.0}, {**high, FULLNESS: -1.0}]


@pytest.mark.parametrize("key", EVERY)
def test_nothing_is_planned_that_is_not_there(fits: Fits, key: str) -> None:
    for params in extremes(FAMILIES[key]):
        drawn = fits.draw(key, **params)
        ground = fits.ground
        assert (drawn.leave_mm <= np.maximum(ground.ceiling_mm, ground.floor_mm) + CLEARED_MM + 1e-9).all()
        assert (drawn.leave_mm >= 0).all()
        assert (drawn.short_mm >= 0).all()


@pytest.mark.parametrize("key", EVERY)
def test_places_kept_clear_are_clear_in_every_setting(fits: Fits, key: str) -> None:
    """A combed-out hair never ends in a line of sight, the stop's notch, the nose, the lips or a canal."""
    ground = fits.ground
    skin = ground.skin
    for params in extremes(FAMILIES[key]):
        drawn = fits.draw(key, **params)
        clear = keep_clear(ground.face, drawn.design.corners_left)
        outside = clear(skin.vertices_mm) > 0.5
        ends = skin.vertices_mm + drawn.leave_mm[:, None] * skin.outward
        assert (clear(ends[outside]) > -CLEARED_MM - 0.3).all()
        inside = clear(skin.vertices_mm) < -0.1
        assert (drawn.leave_mm[inside] <= CLEARED_MM).all()


@pytest.mark.parametrize("key", EVERY)
def test_fuller_is_never_shorter(fits: Fits, key: str) -> None:
    asks = fits.ground.asks
    wanted = [fits.draw(key, fullness=f).wanted_mm[asks] for f in np.linspace(-1, 1, 5)]
    for less, more in pairwise(wanted):
        assert (more >= less - 0.4).mean() > 0.98
    assert (wanted[-1] - wanted[0]).max() > 0.5


@pytest.mark.parametrize("key", EVERY)
def test_a_shape_is_the_same_on_both_sides_of_an_even_head(fits: Fits, key: str) -> None:
    """On the head made even, the target is mirror-symmetric."""
    face = fits.ground.face
    points = face.points_mm.copy()
    for i, mark in enumerate(MARK_IDS):
        if mark.endswith("_left"):
            j = MARK_IDS.index(mark.replace("_left", "_right"))
            even = (points[i] * [-1, 1, 1] + points[j]) / 2
            points[j], points[i] = even, even * [-1, 1, 1]
        elif not mark.endswith("_right"):
            points[i, 0] = 0.0
    drawn = fits.draw(key)
    even_face = replace(face, points_mm=points)
    design = FAMILIES[key].design(even_face, drawn.size_mm, drawn.params, drawn.schools)
    cloud = np.random.default_rng(1).uniform([-80, -110, -80], [80, 80, 80], (4000, 3))
    mirrored = cloud * [-1.0, 1.0, 1.0]
    assert np.allclose(design.surface(cloud), design.surface(mirrored), atol=1e-6)
    for cover in design.covers:
        assert (cover.where(cloud) == cover.where(mirrored)).mean() > 0.999


@pytest.mark.parametrize("key", EVERY)
def test_slider_ends_are_in_order_and_true(fits: Fits, key: str) -> None:
    sizes = fits.fit(key).sizes
    assert sizes.smallest <= sizes.fitted <= sizes.largest
    assert sizes.smallest < sizes.largest
    assert [sizes.at(f) for f in (-1, 0, 1)] == pytest.approx([sizes.smallest, sizes.fitted, sizes.largest])


@pytest.mark.parametrize("key", EVERY)
def test_fit_stays_in_its_ranges_and_is_deterministic(fits: Fits, key: str) -> None:
    fit = fits.fit(key)
    for p in FAMILIES[key].turned:
        assert p.low <= fit.params[p.id] <= p.high
    again = fit_family(fits.ground, FAMILIES[key], fits.schools(key))
    assert again.params == pytest.approx(fit.params)
    assert vars(again.sizes) == pytest.approx(vars(fit.sizes))


@pytest.mark.parametrize("key", EVERY)
def test_lengths_close_with_depths(fits: Fits, key: str) -> None:
    """Planned depth to planned length and back."""
    drawn = fits.draw(key)
    zones = zone_lengths(drawn)
    stand = float(fits.ground.coat.stand[0])
    assert {z.side for z in zones} == {"left", "right"}
    for z in zones:
        assert float(depth_of(np.array(z.leave_mm), np.array(stand))) == pytest.approx(z.depth_mm, abs=0.05)
        assert z.low <= z.leave_mm + 1e-9
        assert z.leave_mm <= z.high + 1e-9
        assert 0 <= z.chance_short <= 0.6
        assert z.tool
        assert z.why


@pytest.mark.parametrize("key", ["round", "brick", "close"])
def test_draws_are_the_same_each_time(fits: Fits, key: str) -> None:
    drawn = fits.draw(key)
    first, second = posterior_samples(drawn), posterior_samples(drawn)
    assert np.array_equal(first.length_mm, second.length_mm)
    assert 0 <= first.chance_out(planned_groups(drawn)) <= 1


def test_a_surer_head_and_coat_give_narrower_intervals(fits: Fits) -> None:
    """The same outline on a ground known twice as well."""
    drawn = fits.draw("round")
    ground = drawn.ground
    surer = replace(
        ground,
        head=replace(ground.head, covariance=ground.head.covariance / 4),
        skin=replace(ground.skin, sigma_mm=ground.skin.sigma_mm / 2),
        coat=replace(ground.coat, sigma_mm=ground.coat.sigma_mm / 2),
    )
    wide, narrow = posterior_samples(drawn), posterior_samples(replace(drawn, ground=surer))
    groups = planned_groups(drawn)
    widths = []
    for at in groups:
        pair = wide.interval(at), narrow.interval(at)
        widths.append([interval[1] - interval[0] for interval in pair if interval is not None])
    told = np.array([w for w in widths if len(w) == 2])
    assert len(told) > 10
    assert np.median(told[:, 1] / np.maximum(told[:, 0], 1e-6)) < 0.85


def test_more_hair_than_there_is_runs_out_surely(fits: Fits) -> None:
    drawn = fits.draw("round")
    wild = replace(drawn, leave_mm=fits.ground.coat.depth_mm + 40.0)
    assert posterior_samples(wild).chance_out(planned_groups(drawn)) == 1.0
    shaved = replace(drawn, leave_mm=np.zeros_like(drawn.leave_mm))
    assert posterior_samples(shaved).chance_out(planned_groups(drawn)) == 0.0


def test_front_of_the_round_ball_is_a_circle(fits: Fits) -> None:
    """From the head's middle, the way out to the sides and up is the radius."""
    drawn = fits.draw("round")
    middle = np.array([[0.0, -45.0, 0.0]])
    low = float(exit_distance(drawn.design.surface, middle, np.array([[0.0, 0, -1]]))[0])
    high = float(exit_distance(drawn.design.surface, middle, np.array([[0.0, 0, 1]]))[0])
    side = float(
        exit_distance(drawn.design.surface, middle + [0, 0, (high - low) / 2], np.array([[1.0, 0, 0]]))[0]
    )
    assert high + low == pytest.approx(2 * side, rel=0.06)


def test_a_brick_has_flat_sides_and_a_top_along_the_bridge(fits: Fits) -> None:
    """Straight from cheek to nose from above; the skull's top falls as the bridge does."""
    drawn, face = fits.draw("brick"), fits.ground.face
    cheek, nose = float(face.middle("cheek")[1]), face.ahead("nose_tip")
    y = np.linspace(cheek + 15, nose - 14, 7)
    level = float(face.middle("mouth_corner")[2])
    starts = np.column_stack([np.zeros(7), y, np.full(7, level)])
    half = exit_distance(drawn.design.surface, starts, np.tile([1.0, 0, 0], (7, 1)), rounds=60)
    line = np.polyval(np.polyfit(y, half, 1), y)
    assert np.abs(half - line).max() < 3.0
    tops = np.array([[0.0, y, face.eye_level] for y in (-60.0, -40.0)])
    high = exit_distance(drawn.design.surface, tops, np.tile([0.0, 0, 1], (2, 1)), rounds=60)
    assert float(high[0] - high[1]) == pytest.approx(20 * face.bridge_slope, abs=1.5)


def test_a_teddy_is_fuller_below_the_eyes_than_above(fits: Fits) -> None:
    drawn, face = fits.draw("teddy"), fits.ground.face
    y = float(face.middle("cheek")[1])
    starts = np.array([[0.0, y, face.eye_level + dz] for dz in (20.0, -20.0)])
    above, below = exit_distance(drawn.design.surface, starts, np.tile([1.0, 0, 0], (2, 1)), rounds=60)
    assert below > above


def test_a_dome_stands_higher_than_its_sides_stand_out(fits: Fits) -> None:
    drawn = fits.draw("dome", fullness=1.0)
    zone = {(z.zone, z.side): z for z in zone_lengths(drawn)}
    assert zone["crown", "left"].leave_mm > zone["cheek", "left"].leave_mm + 3
    assert zone["cheek", "left"].clipped


def test_clean_faces_are_clean_and_their_tops_are_not(fits: Fits) -> None:
    for key in ("topknot", "crest"):
        zone = {(z.zone, z.side): z for z in zone_lengths(fits.draw(key))}
        assert zone["muzzle_side", "left"].leave_mm <= 3
        assert zone["crown", "left"].leave_mm > zone["muzzle_side", "left"].leave_mm + 3


def test_brows_and_beard_keep_their_beard_and_clip_the_skull(fits: Fits) -> None:
    zone = {(z.zone, z.side): z for z in zone_lengths(fits.draw("brows_beard"))}
    assert zone["chin", "left"].leave_mm > zone["crown", "left"].leave_mm
    assert zone["crown", "left"].clipped
    assert zone["cheek", "right"].clipped


def test_rings_swell_from_the_muzzle_to_the_back_skull(fits: Fits) -> None:
    drawn, face = fits.draw("three_rings"), fits.ground.face
    y = [
        face.ahead("nose_tip") - 20,
        float(face.middle("eye_inner")[1]) - 10,
        float(face.middle("ear_front")[1]),
    ]
    starts = np.array([[0.0, at, face.eye_level - 12] for at in y])
    half = exit_distance(drawn.design.surface, starts, np.tile([1.0, 0, 0], (3, 1)), rounds=60)
    assert half[0] < half[1] < half[2] + 1.0


def test_lines_of_sight_stay_clear(fits: Fits) -> None:
    drawn = fits.draw("round", fullness=1.0, visor_mm=30.0)
    skin = fits.ground.skin
    ends = skin.vertices_mm + drawn.leave_mm[:, None] * skin.outward
    for rod in lines_of_sight(fits.ground.face):
        outside = rod(skin.vertices_mm) > 0.5
        assert (rod(ends[outside]) > -0.8).all()


def test_raising_the_centre_leaves_more_on_top_and_less_below(fits: Fits) -> None:
    low, high = fits.draw("round", centre_up_mm=-10.0), fits.draw("round", centre_up_mm=5.0)
    crown, jaw = fits.ground.skin.in_zone("crown"), fits.ground.skin.in_zone("jaw")
    assert np.median(high.wanted_mm[crown]) > np.median(low.wanted_mm[crown]) + 8
    assert np.median(high.wanted_mm[jaw]) < np.median(low.wanted_mm[jaw]) - 1.0


def test_asking_for_too_much_is_told_in_mm_and_weeks(fits: Fits) -> None:
    drawn = fits.draw("round", visor_mm=30.0)
    zones = zone_lengths(drawn)
    assert all(z.shortage_mm >= TELLING_SHORTAGE_MM for z in zones if z.zone == "visor")
    verdict = verdict_of(drawn, zones)
    assert verdict.weeks_range[0] <= verdict.weeks <= verdict.weeks_range[1]
    assert any("still to grow" in reason for reason in verdict.reasons)


@pytest.mark.parametrize("key", EVERY)
def test_every_verdict_gives_reasons_with_numbers(fits: Fits, key: str) -> None:
    drawn = fits.draw(key)
    verdict = verdict_of(drawn, zone_lengths(drawn))
    assert 1 <= len(verdict.reasons) <= 4
    assert any(any(c.isdigit() for c in reason) for reason in verdict.reasons)
    assert "{" not in "".join(verdict.reasons)
    by_id = {e.id: e for e in verdict.effects}
    assert by_id["width_mm"].after <= by_id["width_mm"].now + 1
    assert 0.3 < by_id["roundness"].after <= 1.0


def test_the_demo_dogs_can_wear_something_today(fits: Fits) -> None:
    verdicts = {k: verdict_of(fits.draw(k), zone_lengths(fits.draw(k))) for k in EVERY}
    assert sum(v.when == "today" for v in verdicts.values()) >= 3
    assert verdicts["close"].when == "today"
    ranked = sorted(verdicts, key=lambda k: verdicts[k].rank)
    stages = [("today", "later", "not_on_this_coat").index(verdicts[k].when) for k in ranked]
    assert stages == sorted(stages)


def test_unknown_or_wild_parameters_are_refused() -> None:
    with pytest.raises(BadInput, match="unknown parameter"):
        ROUND.checked({"sparkle": 1.0})
    with pytest.raises(BadInput, match="-1 to 1"):
        ROUND.checked({"fullness": 3.0})
    with pytest.raises(BadInput, match="Fullness"):
        ROUND.checked({"fullness": float("nan")})
    with pytest.raises(BadInput, match="unknown outline"):
        family("spiral")
    with pytest.raises(BadInput, match="unknown school"):
        settle_schools(ROUND, {"music": "loud"})
    settled = settle_schools(ROUND, {"fringe": "straight"})
    assert (settled["fringe"], settled["inner_corners"], settled["jaw"]) == ("straight", "cleared", "arc")
    assert settle_schools(ROUND, {}, "fine_drop")["jaw"] == "two_cuts"


@pytest.mark.parametrize("key", EVERY)
def test_every_family_is_complete(key: str) -> None:
    one = FAMILIES[key]
    assert one.id == key
    assert set(one.planned) <= set(ZONES)
    assert one.cautions
    assert one.finish
    assert len({p.id for p in one.parameters}) == len(one.parameters)
    for p in one.parameters:
        assert p.low <= p.default <= p.high
        assert p.tolerance > 0
    for school in one.schools:
        assert school.default in school.choices
        assert school.reason
