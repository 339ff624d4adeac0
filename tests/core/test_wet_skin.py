"""Wet edges set the skin right; what is known over the skin spreads honestly."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from dapwick.core.basics.arrays import unit
from dapwick.core.basics.camera import Camera
from dapwick.core.head.coat import CoatProbe, coat_of
from dapwick.core.head.gaussian_process import Kernel, Readings, is_near, merged, posterior_from
from dapwick.core.head.silhouettes import Edge, rim_samples
from dapwick.core.head.skin import Skin, skin_of
from dapwick.core.head.wet import STILL_OFF_MM, WET_OFFSET_MM, set_right
from dapwick.core.outlines.posterior_samples import posterior_samples
from dapwick.core.plan.lengths import zone_lengths
from dapwick.core.solve.joint import HeadSolution, solve_head
from dapwick.pipeline.plan import FittedGround, drawn_on
from dapwick.vision.silhouette import silhouette
from simheads import random_head

UPPER = ("crown", "visor", "bridge", "stop")


@pytest.fixture(scope="module")
def head() -> HeadSolution:
    solved = solve_head(random_head(11, ("front", "left", "top"), hand=2).given)
    assert isinstance(solved, HeadSolution)
    return solved


def wet_edges(head: HeadSolution, skin: Skin, off_mm: float) -> list[Edge]:
    """Silhouettes of the skin swollen by so much, with ears nowhere in the way."""
    surface = skin.vertices_mm + (off_mm + WET_OFFSET_MM) * skin.outward
    return [
        Edge(camera, photo.view, silhouette(camera.project(surface), skin.template.faces))
        for camera, photo in zip(head.cameras, head.photos, strict=True)
    ]


def upper(skin: Skin) -> np.ndarray:
    return np.concatenate([skin.in_zone(zone) for zone in UPPER])


@pytest.mark.parametrize("off_mm", [-4.0, 0.0, 4.0])
def test_skin_follows_its_wet_edges(head: HeadSolution, off_mm: float) -> None:
    skin = skin_of(head)
    moved = set_right(head, skin, wet_edges(head, skin, off_mm))
    at = upper(skin)
    along = ((moved.vertices_mm - skin.vertices_mm) * skin.outward).sum(axis=1)[at]
    if off_mm:
        assert 0.2 < np.median(along) / off_mm < 1.1
    else:
        assert abs(np.median(along)) < 0.7
    assert np.median(moved.sigma_mm[at]) < 0.8 * np.median(skin.sigma_mm[at])


def test_without_wet_photos_the_skin_stays(head: HeadSolution) -> None:
    skin = skin_of(head)
    assert set_right(head, skin, []) is skin


def test_an_edge_far_from_the_skin_is_not_the_skins(head: HeadSolution) -> None:
    skin = skin_of(head)
    moved = set_right(head, skin, wet_edges(head, skin, 40.0))
    assert np.abs(moved.vertices_mm - skin.vertices_mm).max() < 1e-9


def test_from_above_the_neck_is_not_read_as_the_back_skull(head: HeadSolution) -> None:
    skin = skin_of(head)
    top = next(e for e in wet_edges(head, skin, 12.0) if e.view == "top")
    seen = rim_samples(head, skin, top, np.full(len(skin.sigma_mm), 20.0))
    assert len(seen.at) > 10
    assert not set(seen.at.tolist()) & set(skin.in_zone("back_skull").tolist())


def patch(n: int = 60) -> np.ndarray:
    rng = np.random.default_rng(3)
    return 50.0 * unit(rng.normal(size=(n, 3)))


def plain(at: list[int], mm: list[float], **more: object) -> Readings:
    return Readings(np.array(at), np.array(mm, dtype=float), np.ones(len(at)), **more)  # type: ignore[arg-type]


def spread(places, mean, readings, like):  # type: ignore[no-untyped-def]
    known = posterior_from(places, readings, like)
    return known.value(mean), known.sigma()


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


def test_nearness_is_told_by_vertex() -> None:
    places = patch()
    assert is_near(places, np.array([4]))[4]
    assert not is_near(places, np.zeros(0, dtype=int)).any()


def test_a_camera_behind_everything_reads_nothing(head: HeadSolution) -> None:
    skin = skin_of(head)
    edge = wet_edges(head, skin, 0.0)[0]
    away = replace(edge, camera=_turned_round(edge.camera))
    assert len(rim_samples(head, skin, away, np.zeros(len(skin.sigma_mm))).at) == 0


def _turned_round(camera: Camera) -> Camera:
    return replace(camera, translation_mm=camera.translation_mm * [1, 1, -1])


def test_how_thick_wet_hair_lies_stays_unsure_in_skin_and_coat(head: HeadSolution) -> None:
    """However many readings there are, none of them says how thick the wet coat was."""
    skin = skin_of(head)
    moved = set_right(head, skin, wet_edges(head, skin, 1.0))
    assert skin.as_one_mm == 0.0
    assert moved.as_one_mm == STILL_OFF_MM
    at = upper(moved)
    combed = tuple(
        CoatProbe(zone, side, 30.0) for zone in ("crown", "cheek", "temple") for side in ("left", "right")
    )
    as_it_was = coat_of(head, replace(moved, as_one_mm=0.0), "standing", (), combed)
    now = coat_of(head, moved, "standing", (), combed)
    assert np.allclose(now.depth_mm, as_it_was.depth_mm)
    assert np.allclose(now.sigma_mm[at], np.hypot(as_it_was.sigma_mm[at], STILL_OFF_MM))


def test_an_error_that_skin_and_coat_share_widens_what_is_planned(fogbell: FittedGround) -> None:
    """Skin further out leaves less below the outline and has less coat over it: the two add up."""
    ground = fogbell.ground
    unsure = replace(
        ground,
        skin=replace(ground.skin, as_one_mm=4.0),
        coat=replace(ground.coat, sigma_mm=np.hypot(ground.coat.sigma_mm, 4.0)),
    )
    other = replace(fogbell, model=replace(fogbell.model, ground=unsure))
    widths = []
    for on in (fogbell, other):
        outline = drawn_on(on, {})
        zones = zone_lengths(outline, posterior_samples(outline))
        own = [z for z in zones if not z.clipped and not z.zone.startswith("ear_")]
        widths.append(np.array([z.high - z.low for z in own]))
    assert np.median(widths[1] - widths[0]) > 1.0
    assert (widths[1] > widths[0]).mean() > 0.9
