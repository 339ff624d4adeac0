"""Names on shapes: what each family promises is read from the finished head, and held or told."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from itertools import pairwise

import numpy as np
import pytest

from dapwick.core.basics.arrays import Array
from dapwick.core.basics.shapes import Field, exit_distance, superellipsoid
from dapwick.core.outlines.description import (
    LOOKED_AT,
    MEASURES,
    Finished,
    broken_on,
    holds_after,
    holds_today,
    weeks_until_it_holds,
)
from dapwick.core.outlines.families import FAMILIES
from dapwick.core.outlines.family import Condition
from dapwick.core.outlines.fit import Outline, draw_outline, fit_family
from dapwick.core.outlines.ground import Ground
from dapwick.core.outlines.nearest import apart_mm, nearest_to
from dapwick.core.plan.lengths import zone_lengths
from dapwick.core.plan.readiness import called, readiness_of
from dapwick.core.plan.verdict import verdict_of
from dapwick.pipeline.plan import FittedGround, drawn_on, fit_on

SHAPED = ("round", "teddy", "brick", "dome", "three_rings", "broad")


@pytest.fixture(scope="module")
def worn(fogbell: FittedGround, bobbin: FittedGround) -> Callable[[str, str], Outline]:
    """A family as fitted on one of two demo dogs: prick ears and standing hair, drop ears and curl."""
    dogs = {"fogbell": fogbell, "bobbin": bobbin}
    kept: dict[tuple[str, str], Outline] = {}

    def of(dog: str, key: str) -> Outline:
        if (dog, key) not in kept:
            kept[dog, key] = drawn_on(fit_on(dogs[dog].model, FAMILIES[key]), {})
        return kept[dog, key]

    return of


def shaped_as(outline: Outline, surface: Field) -> Finished:
    """The head with hair out to some surface, ears apart."""
    skin = outline.ground.skin
    return Finished(outline, exit_distance(surface, skin.vertices_mm, skin.outward, rounds=60))


def around_the_head(outline: Outline, exponent: float) -> Field:
    face = outline.ground.face
    return superellipsoid((0, -20.0, face.eye_level - 12.0), (85.0, 170.0, 85.0), exponent)


def refitted(outline: Outline, depth_mm: Array) -> Outline:
    """The same outline on the same dog with another coat, surely known."""
    was = outline.ground
    sure = np.full(len(depth_mm), 1.0)
    coat = replace(was.coat, depth_mm=depth_mm, sigma_mm=sure, outside_sigma_mm=sure)
    ground = Ground(was.head, was.skin, coat, was.ears, was.coat_type)
    fit = fit_family(ground, outline.family, outline.schools)
    return draw_outline(ground, outline.family, fit, {}, outline.schools)


def test_a_ball_is_round_and_a_box_is_not(worn: Callable[[str, str], Outline]) -> None:
    outline = worn("fogbell", "round")
    ball, box = (shaped_as(outline, around_the_head(outline, n)) for n in (2.0, 12.0))
    assert MEASURES["front_uneven"](ball) < 0.05 < 0.06 < MEASURES["front_uneven"](box)


@pytest.mark.parametrize("dog", ["fogbell", "bobbin"])
def test_a_brick_is_more_of_a_box_than_a_round(worn: Callable[[str, str], Outline], dog: str) -> None:
    brick, ball = (Finished(one, one.leave_mm) for one in (worn(dog, "brick"), worn(dog, "round")))
    assert MEASURES["boxed"](brick) > MEASURES["boxed"](ball) + 0.05
    assert MEASURES["side_bulge"](brick) < MEASURES["side_bulge"](ball)


def test_hair_that_passes_the_nose_is_measured(worn: Callable[[str, str], Outline]) -> None:
    outline = worn("fogbell", "teddy")
    skin = outline.ground.skin
    nose = int(np.argmax(skin.vertices_mm[:, 1]))
    depth = np.zeros(len(skin.vertices_mm))
    depth[nose] = 12.0
    ahead = float(skin.outward[nose, 1])
    assert MEASURES["past_the_nose"](Finished(outline, depth)) == pytest.approx(12.0 * ahead, abs=0.5)


@pytest.mark.parametrize("of", sorted(MEASURES))
def test_every_measure_is_asked_by_a_family(of: str) -> None:
    assert any(one.of == of for family in FAMILIES.values() for one in family.conditions)


def test_a_condition_is_held_up_to_its_ends() -> None:
    at_least, at_most = Condition("x", "{value} of {want}", least=2.0), Condition("x", "{want}", most=3.0)
    assert [at_least.holds(v) for v in (1.99, 2.0, 9.0)] == [False, True, True]
    assert [at_most.holds(v) for v in (-9.0, 3.0, 3.01)] == [True, True, False]
    assert at_least.said(1.5) == "1.5 of 2.0."


@pytest.mark.parametrize("dog", ["fogbell", "bobbin"])
@pytest.mark.parametrize("key", sorted(FAMILIES))
def test_a_name_stands_alone_only_where_its_description_holds(
    worn: Callable[[str, str], Outline], dog: str, key: str
) -> None:
    outline = worn(dog, key)
    ready = readiness_of(outline, zone_lengths(outline))
    holds = not broken_on(outline, outline.leave_mm)
    assert (ready.called == outline.family.name) == holds == (ready.when == "today")
    if not holds:
        assert outline.family.name.lower() in ready.called
        assert any(
            one.said.lower() in [r.lower() for r in ready.reasons]
            for one in broken_on(outline, outline.leave_mm)
        )


@pytest.mark.parametrize("key", ["round", "teddy", "dome", "three_rings", "topknot"])
def test_a_shaven_head_wears_no_shape_until_it_has_grown(
    worn: Callable[[str, str], Outline], key: str
) -> None:
    outline = worn("fogbell", key)
    shaven = refitted(outline, np.full(len(outline.leave_mm), 2.0))
    weeks = weeks_until_it_holds(shaven)
    assert not holds_today(shaven)
    assert weeks is None or weeks > 2
    if weeks:
        assert holds_after(shaven, weeks)
        assert not any(holds_after(shaven, fewer) for fewer in LOOKED_AT if fewer < weeks)
    verdict = verdict_of(shaven, zone_lengths(shaven))
    assert verdict.when == ("later" if weeks else "not_on_this_coat")
    assert verdict.called != outline.family.name


@pytest.mark.parametrize("dog", ["fogbell", "bobbin"])
@pytest.mark.parametrize("key", SHAPED)
def test_hair_missing_in_one_place_does_not_shave_the_head(
    worn: Callable[[str, str], Outline], dog: str, key: str
) -> None:
    """A muzzle with 4 mm of hair is a matter of the muzzle: the crown and cheeks of a good coat stay what they were."""
    outline = worn(dog, key)
    zones = outline.ground.skin
    good = np.full(len(outline.leave_mm), 26.0)
    thin = good.copy()
    for zone in ("muzzle_side", "visor"):
        thin[zones.in_zone(zone)] = 4.0
    whole, lacking = refitted(outline, good), refitted(outline, thin)
    for zone in ("crown", "cheek", "back_skull", "temple"):
        at = zones.in_zone(zone)
        before, after = (float(np.median(one.leave_mm[at])) for one in (whole, lacking))
        assert after > before - 3.0, zone


@pytest.mark.parametrize("dog", ["fogbell", "bobbin"])
@pytest.mark.parametrize("key", ["round", "teddy", "three_rings", "broad"])
def test_a_good_coat_is_not_cut_to_a_third(worn: Callable[[str, str], Outline], dog: str, key: str) -> None:
    outline = worn(dog, key)
    full = refitted(outline, np.full(len(outline.leave_mm), 26.0))
    for zone in ("crown", "cheek", "back_skull", "temple"):
        at = full.ground.skin.in_zone(zone)
        assert float(np.median(full.leave_mm[at])) > 26.0 / 3, zone


@pytest.mark.parametrize("dog", ["fogbell", "bobbin"])
def test_a_teddy_is_never_fuller_above_than_at_the_cheeks(
    worn: Callable[[str, str], Outline], dog: str
) -> None:
    outline = worn(dog, "teddy")
    for crown_mm in (4.0, 20.0, 35.0):
        params = {"crown_mm": crown_mm}
        drawn = draw_outline(outline.ground, outline.family, outline.fit, params, outline.schools)
        done = Finished(drawn, drawn.wanted_mm)
        assert MEASURES["crown_past_cheek"](done) < 6.0


def test_the_more_hair_the_sooner_a_dome(worn: Callable[[str, str], Outline]) -> None:
    outline = worn("fogbell", "dome")
    waits = []
    for mm in (9.0, 5.0, 2.0):
        thin = refitted(outline, np.full(len(outline.leave_mm), mm))
        waits.append((weeks_until_it_holds(thin) or 99, verdict_of(thin, zone_lengths(thin)).rank))
    for sooner, later in pairwise(waits):
        assert later > sooner


def test_the_nearest_is_the_one_whose_hair_lies_nearest(worn: Callable[[str, str], Outline]) -> None:
    wanted, broad, close = (worn("fogbell", key) for key in ("round", "broad", "close"))
    assert apart_mm(wanted, broad) < apart_mm(wanted, close)
    assert nearest_to(wanted, [close, broad]) is broad
    assert nearest_to(wanted, []) is None


def test_names_that_do_not_stand_alone() -> None:
    assert called("Round", "today") == "Round"
    assert called("Round", "later") == "Growing into round"
    assert called("Three rings", "not_on_this_coat") == "Nearest to three rings"
