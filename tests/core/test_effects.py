"""How a finished head looks beside the present one: proportions of shapes that are known."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from core_cases import model
from dapwick.core.head.growth import STOPS_AT_MM, growth_mm
from dapwick.core.head.stand import length_of
from dapwick.core.head.zones import ZONES
from dapwick.core.outlines.effects import SLICES, WORDS, effects_of, front_shape, ideal_values
from dapwick.core.outlines.families import FAMILIES
from dapwick.core.outlines.fit import Outline
from dapwick.core.plan.finished import grown, surface
from dapwick.pipeline.plan import drawn_on, fit_on


@pytest.fixture(scope="module")
def outline() -> Outline:
    return drawn_on(fit_on(model("fogbell"), FAMILIES["round"]), {})


def ellipsoid(across: float, up: float, count: int = 40_000) -> np.ndarray:
    rng = np.random.default_rng(1)
    points = rng.normal(size=(count, 3))
    points /= np.linalg.norm(points, axis=1, keepdims=True)
    return points * [across, 70.0, up]


def test_a_front_shape_is_as_wide_and_high_as_what_it_is_taken_from() -> None:
    shape = front_shape(ellipsoid(60.0, 45.0))
    assert shape.width == pytest.approx(120.0, rel=0.01)
    assert shape.height == pytest.approx(90.0, rel=0.01)
    assert shape.reach.shape == (SLICES, 2)
    assert np.all(np.diff(shape.up) > 0)
    assert shape.reach[:, 0] == pytest.approx(-shape.reach[:, 1], abs=4.0)


def test_its_outline_goes_round_once() -> None:
    shape = front_shape(ellipsoid(60.0, 45.0))
    x, y = shape.outline.T
    area = abs(float((x * np.roll(y, -1) - np.roll(x, -1) * y).sum())) / 2
    assert len(x) == 2 * SLICES
    assert area == pytest.approx(np.pi * 60 * 45, rel=0.05)


def test_empty_slices_are_left_out() -> None:
    apart = np.concatenate([[[x, 0.0, z] for x in (-5.0, 5.0)] for z in (0.0, 1.0, 90.0, 100.0)])
    shape = front_shape(apart)
    assert not np.isnan(shape.reach).any()
    assert (shape.up[0], shape.up[-1]) == (0.0, 100.0)


def test_what_is_left_as_it_is_looks_as_it_did(outline: Outline) -> None:
    same = replace(outline, leave_mm=outline.ground.coat.depth_mm)
    told = {e.id: e for e in effects_of(same)}
    assert set(told) == set(WORDS)
    for key in set(WORDS) - {"ear_over_skull"}:
        assert told[key].after == pytest.approx(told[key].now)


def test_taking_off_the_sides_makes_a_head_narrower(outline: Outline) -> None:
    ground = outline.ground
    sides = np.abs(ground.skin.outward[:, 0]) > 0.7
    thinner = replace(outline, leave_mm=np.where(sides, 0.0, ground.coat.depth_mm))
    told = {e.id: e for e in effects_of(thinner)}
    assert told["width_mm"].after < told["width_mm"].now
    assert told["width_to_height"].after < told["width_to_height"].now
    assert told["muzzle_share"].after == pytest.approx(told["muzzle_share"].now, rel=0.05)


def test_one_side_longer_than_the_other_is_uneven_by_as_much(outline: Outline) -> None:
    ground = outline.ground
    even = np.zeros_like(outline.leave_mm)
    longer = np.where(ground.skin.vertices_mm[:, 0] > 0, 12.0, 0.0)
    before, after = (
        {e.id: e for e in effects_of(replace(outline, leave_mm=d))}["uneven_mm"].after for d in (even, longer)
    )
    # Reaches, not middles, are told apart: 12 mm of one side and nothing of the other, flanks a little more.
    assert 10.0 < after - before < 18.0


def test_how_much_hair_is_kept(outline: Outline) -> None:
    coat, bare = outline.ground.coat.depth_mm, outline.ground.bare
    for share in (0.0, 0.5, 1.0):
        kept = replace(outline, leave_mm=np.where(bare, outline.leave_mm, share * coat))
        assert ideal_values(kept)["hair_kept"] == pytest.approx(share)


def test_a_roundness_is_one_of_a_circle_and_less_of_anything_else(outline: Outline) -> None:
    values = ideal_values(outline)
    assert 0.6 < values["roundness"] < 1.0
    assert values["plane_angle"] >= 0.0
    assert values["ear_carriage"] in (0.0, 0.5, 1.0)


def test_the_finished_surface_stands_off_the_skin_by_what_is_left(outline: Outline) -> None:
    depth = outline.leave_mm
    off = surface(outline, depth) - outline.ground.skin.vertices_mm
    assert (off * outline.ground.skin.outward).sum(axis=1) == pytest.approx(depth)


@pytest.mark.parametrize("weeks", [0.0, -1.0])
def test_on_the_day_it_is_as_it_was_cut(outline: Outline, weeks: float) -> None:
    assert np.array_equal(grown(outline, weeks)[0], outline.leave_mm)


@pytest.mark.parametrize("weeks", [2.0, 6.0])
def test_some_weeks_later_every_hair_is_longer_by_its_growth(outline: Outline, weeks: float) -> None:
    ground = outline.ground
    depth, ears = grown(outline, weeks)
    stand = ground.coat.stand
    grew = length_of(depth, stand) - length_of(outline.leave_mm, stand)
    stops = np.isin(ground.skin.template.zone, [ZONES.index(zone) for zone in STOPS_AT_MM])
    assert grew[~ground.bare & ~stops] == pytest.approx(growth_mm(weeks, ground.coat_type), rel=1e-3)
    assert grew[stops].max() <= growth_mm(weeks, ground.coat_type) * 1.001
    assert grew[stops].min() >= -1e-6
    assert np.array_equal(depth[ground.bare], outline.leave_mm[ground.bare])
    assert all(np.isfinite(ear).all() for ear in ears)


def test_ears_grow_from_as_they_were_cut_toward_as_they_were(outline: Outline) -> None:
    cut, soon, late = (grown(outline, weeks)[1][0] for weeks in (0.0, 3.0, 60.0))
    far = [float(np.abs(one - late).max()) for one in (cut, soon)]
    assert far[0] > far[1] > 0.0
