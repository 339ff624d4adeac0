"""Wet edges set the skin right; what is known over the skin spreads honestly."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from dapwick.core.basics.arrays import unit
from dapwick.core.basics.camera import Camera
from dapwick.core.head.coat import CoatProbe, expected_depth_mm
from dapwick.core.head.gaussian_process import Kernel, Readings, merged, posterior_from
from dapwick.core.head.silhouettes import Edge, outside_of, rim_samples
from dapwick.core.head.skin import Skin, skin_of
from dapwick.core.head.skin_and_coat import STANDS_OUT_MM, skin_and_coat
from dapwick.core.head.stand import STAND_FACTOR
from dapwick.core.head.wet import wet_thickness_mm
from dapwick.core.outlines.posterior_samples import posterior_samples
from dapwick.core.solve.joint import HeadSolution, solve_head
from dapwick.pipeline.plan import FittedGround, drawn_on
from simheads import random_head
from swollen import edges_over

UPPER = ("crown", "visor", "bridge", "stop")


@pytest.fixture(scope="module")
def head() -> HeadSolution:
    solved = solve_head(random_head(11, ("front", "left", "top"), hand=2).given)
    assert isinstance(solved, HeadSolution)
    return solved


def wet_edges(head: HeadSolution, skin: Skin, off_mm: float | np.ndarray) -> list[Edge]:
    """Silhouettes of the skin swollen by so much under wet hair as thick as is usual, ears nowhere in the way."""
    usual = wet_thickness_mm(expected_depth_mm(skin), np.full(len(skin.sigma_mm), STAND_FACTOR["standing"]))
    return edges_over(head, skin, off_mm + usual)


def upper(skin: Skin) -> np.ndarray:
    return np.concatenate([skin.in_zone(zone) for zone in UPPER])


@pytest.mark.parametrize("off_mm", [-6.0, 0.0, 6.0])
def test_skin_follows_its_wet_edges(head: HeadSolution, off_mm: float) -> None:
    """A vault that is flatter or higher than the template's, its hair wet."""
    skin = skin_of(head)
    crown = skin.in_zone("crown")
    away = np.linalg.norm(skin.vertices_mm - skin.vertices_mm[crown].mean(axis=0), axis=1)
    moved, _ = skin_and_coat(
        head, "standing", [], [], wet_edges(head, skin, off_mm * np.exp(-((away / 40) ** 2)))
    )
    along = ((moved.vertices_mm - skin.vertices_mm) * skin.outward).sum(axis=1)[crown]
    if off_mm:
        assert 0.35 < np.median(along) / off_mm < 1.1
    else:
        assert abs(np.median(along)) < 0.8
    assert np.median(moved.sigma_mm[crown]) < 0.85 * np.median(skin.sigma_mm[crown])


def test_with_nothing_read_skin_and_coat_are_as_expected(head: HeadSolution) -> None:
    skin, coat = skin_and_coat(head, "standing", [])
    warped = skin_of(head)
    assert np.allclose(skin.vertices_mm, warped.vertices_mm)
    assert np.array_equal(coat.depth_mm, expected_depth_mm(warped))
    assert not coat.read.any()
    assert np.allclose(coat.with_skin, 0.0)


def test_an_edge_far_from_the_skin_is_not_the_skins(head: HeadSolution) -> None:
    skin = skin_of(head)
    moved, _ = skin_and_coat(head, "standing", [], [], wet_edges(head, skin, 40.0))
    assert np.abs(moved.vertices_mm - skin.vertices_mm).max() < 1e-9


def test_from_above_the_neck_is_not_read_as_the_back_skull(head: HeadSolution) -> None:
    skin = skin_of(head)
    top = next(e for e in wet_edges(head, skin, 12.0) if e.view == "top")
    seen = rim_samples(head, skin, top, outside_of(skin, np.full(len(skin.sigma_mm), 20.0)))
    assert len(seen.at) > 10
    assert not set(seen.at.tolist()) & set(skin.in_zone("back_skull").tolist())


def patch(n: int = 60) -> np.ndarray:
    rng = np.random.default_rng(3)
    return 50.0 * unit(rng.normal(size=(n, 3)))


def plain(at: list[int], mm: list[float], **more: object) -> Readings:
    return Readings(np.array(at), np.array(mm, dtype=float), np.ones(len(at)), **more)  # type: ignore[arg-type]


def spread(places, mean, readings, like):  # type: ignore[no-untyped-def]
    known = posterior_from(places, readings, like)
    return known.value(mean[None])[0], known.sigma()[0]


def test_a_reading_is_believed_where_it_was_taken_and_forgotten_far_off() -> None:
    places = patch()
    like = Kernel(np.full(60, 6.0), 20.0, 0.0)
    value, sigma = spread(places, np.zeros(60), merged(places, [plain([5], [9.0])]), like)
    far = int(np.argmax(np.linalg.norm(places - places[5], axis=1)))
    assert value[5] == pytest.approx(9.0 * 36 / 37)
    assert sigma[5] == pytest.approx(np.sqrt(36 / 37), rel=1e-6)
    assert abs(value[far]) < 0.3
    assert sigma[far] > 5.9


def test_readings_that_share_an_error_do_not_average_it_away() -> None:
    places = patch()
    at = list(range(0, 60, 3))
    like = Kernel(np.full(60, 6.0), 60.0, 0.0)
    apart = merged(places, [plain(at, [5.0] * len(at))])
    shared = merged(places, [plain(at, [5.0] * len(at), common_mm=3.0)])
    alone, together = (spread(places, np.zeros(60), r, like)[1] for r in (apart, shared))
    assert np.median(alone) < 1.5
    assert np.median(together) > 2.0


def test_a_coat_that_is_long_where_it_is_read_is_expected_long_elsewhere() -> None:
    places, mean = patch(), np.full(60, 20.0)
    read = merged(places, [plain([0, 1, 2, 3], [32.0] * 4)])
    alone = spread(places, mean, read, Kernel(np.full(60, 6.0), 8.0, 0.0))[0]
    whole = spread(places, mean, read, Kernel(np.full(60, 6.0), 8.0, 0.0, 0.4 * mean))[0]
    assert np.median(whole) > np.median(alone) + 4
    assert np.median(whole) < 32


def test_what_stands_in_the_way_is_left_out_and_only_upward() -> None:
    places = np.zeros((9, 3))
    high, low = [10.0] * 7 + [40.0, 11.0], [10.0] * 7 + [1.0, 11.0]
    assert 7 not in merged(places, [plain(list(range(9)), high, one_sided=True)]).at
    assert 7 in merged(places, [plain(list(range(9)), low, one_sided=True)]).at
    assert 7 in merged(places, [plain(list(range(9)), high)]).at


def test_what_one_more_reading_would_tell_is_what_it_tells() -> None:
    places, mean = patch(), np.full(60, 20.0)
    like = Kernel(np.full(60, 6.0), 25.0, 0.5, 0.3 * mean)
    first, second = plain([0, 7], [22.0, 19.0]), plain([30], [25.0], common_mm=1.0)
    foretold = posterior_from(places, merged(places, [first]), like).sigma_with(
        np.arange(60), merged(places, [second])
    )
    then = posterior_from(places, merged(places, [first, second]), like).sigma()
    assert np.allclose(foretold, then, atol=1e-6)


def test_a_camera_behind_everything_reads_nothing(head: HeadSolution) -> None:
    skin = skin_of(head)
    edge = wet_edges(head, skin, 0.0)[0]
    away = replace(edge, camera=_turned_round(edge.camera))
    assert len(rim_samples(head, skin, away, outside_of(skin, np.zeros(len(skin.sigma_mm)))).at) == 0


def _turned_round(camera: Camera) -> Camera:
    return replace(camera, translation_mm=camera.translation_mm * [1, 1, -1])


def test_how_thick_wet_hair_lies_stays_unsure_however_many_readings(head: HeadSolution) -> None:
    """The same error is in each of them: four times the wet photos do not make the skin twice as sure."""
    edges = wet_edges(head, skin_of(head), 1.0)
    few, many = (skin_and_coat(head, "standing", [], [], edges * n)[0] for n in (1, 4))
    at = upper(few)
    assert np.median(many.sigma_mm[at]) > 0.8 * np.median(few.sigma_mm[at])


def dry_edges(head: HeadSolution, skin: Skin, out_mm: float) -> list[Edge]:
    """Silhouettes of a coat that stands so far off the skin all over."""
    return edges_over(head, skin, np.full(len(skin.sigma_mm), out_mm))


def test_where_comb_and_edge_meet_what_is_left_is_the_skin(head: HeadSolution) -> None:
    """A coat of 22 mm by the comb all over, whose edge lies farther out or in over the crown alone: the vault does."""
    warped = skin_of(head)
    at = warped.in_zone("crown")
    away = np.linalg.norm(warped.vertices_mm - warped.vertices_mm[at].mean(axis=0), axis=1)
    combs = [CoatProbe(zone, None, 22.0) for zone in ("crown", "cheek", "temple", "visor", "chin", "jaw")]
    moved = {}
    for off_mm in (-7.0, 7.0):
        outer = 22.0 - STANDS_OUT_MM + off_mm * np.exp(-((away / 40) ** 2))
        edges = edges_over(head, warped, outer)
        off, told = {}, {}
        # Beside the ears and towards the neck no edge is read: it is judged where one is.
        seen = np.intersect1d(skin_and_coat(head, "standing", edges)[1].known.readings.at, at)
        assert len(seen) > 10
        for name, probes in (("edge alone", []), ("comb too", combs)):
            skin, coat = skin_and_coat(head, "standing", edges, probes)
            off[name] = np.median(
                ((skin.vertices_mm - warped.vertices_mm) * warped.outward).sum(axis=1)[seen]
            )
            told[name] = np.median(coat.sigma_mm[seen])
            outside = off[name] + np.median(coat.depth_mm[seen])
            assert outside == pytest.approx(np.median(outer[seen]) + STANDS_OUT_MM, abs=3.0)
            assert np.median(coat.with_skin[seen]) < -0.3
            apart = np.hypot(coat.sigma_mm, skin.sigma_mm)
            assert np.median(coat.outside_sigma_mm[seen]) < np.median(apart[seen])
        assert told["comb too"] < told["edge alone"]
        moved[off_mm] = off
    alone, combed = (moved[7.0][name] - moved[-7.0][name] for name in ("edge alone", "comb too"))
    assert combed / 14.0 > 0.45
    assert combed > alone + 2.0


def test_combs_tell_how_far_within_its_hair_this_dogs_edge_is_drawn(head: HeadSolution) -> None:
    """Combs all over find hair 5 mm farther in than the edge shows: the edge is drawn at a hard rim, the skin is not
    that much farther out."""
    warped, deep = skin_of(head), 20.0
    edges = dry_edges(head, warped, deep + 5.0)
    combs = [CoatProbe(zone, None, deep) for zone in ("crown", "cheek", "visor", "brow", "chin", "jaw")]
    _, alone = skin_and_coat(head, "standing", edges)
    skin, coat = skin_and_coat(head, "standing", edges, combs)
    at = np.concatenate([warped.in_zone(zone) for zone in ("crown", "cheek", "visor")])
    outside = ((skin.vertices_mm - warped.vertices_mm) * warped.outward).sum(axis=1) + coat.depth_mm
    assert np.median(coat.depth_mm[at]) == pytest.approx(deep, abs=1.5)
    assert np.median(outside[at]) < deep + 5.0
    assert np.median(coat.outside_sigma_mm[at]) < np.median(alone.outside_sigma_mm[at])


def test_an_error_that_skin_and_coat_share_leaves_the_outside_alone(fogbell: FittedGround) -> None:
    """Draws of head and coat: where skin lies farther out there is less coat over it, so that their sum is surer than
    either of them were they apart."""
    outline = drawn_on(fogbell, {})
    ground = fogbell.ground
    apart = replace(ground, coat=replace(ground.coat, with_skin=np.zeros(len(ground.coat.with_skin))))
    other = drawn_on(replace(fogbell, model=replace(fogbell.model, ground=apart)), {})
    out = [posterior_samples(one).out for one in (outline, other)]
    assert (ground.coat.with_skin < -0.2).mean() > 0.1
    assert not np.array_equal(out[0], out[1])
