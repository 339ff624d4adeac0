"""The room at a place: from the safe least to the coat that is surely there, and next to nothing where kept clear."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from hypothesis.extra.numpy import arrays

from core_cases import model
from dapwick.core.head.coat import CONFIDENCE_90
from dapwick.core.head.stand import length_of
from dapwick.core.outlines.clear import keep_clear, stop_notch
from dapwick.core.outlines.covers import FAR_MM, Cover, below, everywhere, on_skin, setting_lines, side_area
from dapwick.core.outlines.ear_cut import EarCut
from dapwick.core.outlines.family import Design
from dapwick.core.outlines.ground import (
    CLEARED_MM,
    FLOOR_MM,
    SPANNED,
    Ground,
    Wanted,
    room_left,
    wanted_on,
)

mm = arrays(float, 12, elements=st.floats(0.0, 60.0))


@pytest.fixture(scope="module")
def ground() -> Ground:
    return model("fogbell").ground


def wanting(depth: np.ndarray, clipped: bool) -> Wanted:
    n = len(depth)
    return Wanted(depth, np.zeros(n), np.full(n, clipped), np.full(n, -1))


@given(mm, mm, mm, st.booleans())
def test_nothing_is_left_above_the_ceiling_below_the_floor_or_in_the_way(
    depth: np.ndarray, ceiling: np.ndarray, free: np.ndarray, clipped: bool
) -> None:
    floor = np.minimum(FLOOR_MM, ceiling)
    left = room_left(wanting(depth, clipped), floor, ceiling, free)
    assert (left <= ceiling + 1e-9).all()
    assert (left <= np.maximum(free, CLEARED_MM) + 1e-9).all()
    open_ = free >= np.maximum(ceiling, FLOOR_MM)
    assert (left[open_] >= (0.0 if clipped else floor[open_])).all()
    has_room = open_ & (depth >= floor) & (depth <= ceiling)
    assert left[has_room] == pytest.approx(depth[has_room])


def test_blades_go_below_the_floor_of_scissored_hair() -> None:
    thin = np.array([1.0])
    many = np.array([30.0])
    assert room_left(wanting(thin, True), np.array([FLOOR_MM]), many, many) == pytest.approx([1.0])
    assert room_left(wanting(thin, False), np.array([FLOOR_MM]), many, many) == pytest.approx([FLOOR_MM])


def test_the_ceiling_is_what_is_there_nine_times_in_ten(ground: Ground) -> None:
    coat = ground.coat
    surely = coat.depth_mm - CONFIDENCE_90 * coat.outside_sigma_mm
    least = coat.depth_mm * np.where(coat.read, 1 / 2, 2 / 3)
    doubted = surely < least
    assert ground.ceiling_mm[~doubted] == pytest.approx(surely[~doubted])
    assert doubted.any()
    assert ground.ceiling_mm[doubted] == pytest.approx(least[doubted])
    assert pytest.approx(1.2816, abs=1e-3) == CONFIDENCE_90
    assert (ground.floor_mm <= ground.coat.depth_mm).all()
    assert (ground.floor_mm <= FLOOR_MM).all()
    assert (ground.floor_mm[ground.bare] == 0.0).all()
    assert ground.now_mm == pytest.approx(length_of(ground.coat.depth_mm, ground.coat.stand))


def test_outlines_ask_nothing_of_bare_skin_or_of_places_they_pass_over(ground: Ground) -> None:
    for zone in SPANNED:
        assert not ground.asks[ground.skin.in_zone(zone)].any()
    assert not (ground.asks & ground.bare).any()
    assert ground.asks[ground.skin.in_zone("crown")].all()


def test_pairs_are_places_and_their_mirror_images(ground: Ground) -> None:
    right, left = ground.pairs
    base = ground.skin.template.vertices_mm
    assert base[right] * [-1, 1, 1] == pytest.approx(base[left], abs=1e-3)
    assert ground.asks[right].all()


def test_kept_results_cannot_be_written_over(ground: Ground) -> None:
    kept = {
        "ceiling": ground.ceiling_mm,
        "floor": ground.floor_mm,
        "now": ground.now_mm,
        "crown": ground.skin.in_zone("crown"),
        "skin": ground.skin.vertices_mm,
        "sigma": ground.skin.sigma_mm,
        "coat": ground.coat.depth_mm,
        "coat's sigma": ground.coat.sigma_mm,
        "marks": ground.head.points_mm,
        "covariance": ground.head.covariance,
        "template": ground.skin.template.vertices_mm,
        "ear": ground.ears[0].vertices_mm,
    }
    assert [name for name, array in kept.items() if array.flags.writeable] == []


def a_design(**more: object) -> Design:
    ball = lambda p: np.linalg.norm(p, axis=1) - 150.0  # noqa: E731
    return Design(ball, EarCut("left alone"), **more)  # type: ignore[arg-type]


def test_what_is_wanted_goes_out_to_the_surface() -> None:
    """And no nearer to the skin than the design's least, or half of what grows there."""
    at = np.array([[100.0, 0, 0], [0, 160.0, 0]])
    outward = at / np.linalg.norm(at, axis=1, keepdims=True)
    free = np.full(2, 200.0)
    wanted = wanted_on(a_design(), at, outward, np.full(2, 40.0), np.ones(2), free)
    assert wanted.depth_mm == pytest.approx([50.0, a_design().least_mm], abs=0.05)
    little = wanted_on(a_design(), at, outward, np.full(2, 4.0), np.ones(2), free)
    assert little.depth_mm == pytest.approx([50.0, 2.0], abs=0.3)
    assert wanted.under_mm == pytest.approx([0.0, 10.0])
    assert not wanted.clipped.any()
    assert wanted.cover.tolist() == [-1, -1]


def test_a_later_cover_lies_over_an_earlier_one() -> None:
    at = np.array([[100.0, 0, 0], [-100.0, 0, 0]])
    outward = at / 100.0
    covers = (
        Cover("all", everywhere, length_mm=10.0),
        Cover("right", lambda p: p[:, 0] > 0, share=0.5, tool="carding"),
    )
    wanted = wanted_on(
        a_design(covers=covers), at, outward, np.full(2, 30.0), np.full(2, 0.8), np.full(2, 99.0)
    )
    assert wanted.cover.tolist() == [1, 0]
    assert wanted.depth_mm[0] == pytest.approx(15.0)
    assert float(length_of(wanted.depth_mm[1:], np.array([0.8]))[0]) == pytest.approx(10.0)
    assert wanted.clipped.all()


def test_a_cover_of_a_share_keeps_no_more_than_its_most() -> None:
    thinned = Cover("sides", everywhere, share=0.5, most_mm=12.0)
    assert thinned.depth_mm(np.array([10.0, 40.0]), np.ones(2)) == pytest.approx([5.0, 12.0])


def test_nothing_reaches_into_a_place_kept_clear() -> None:
    at = np.array([[100.0, 0, 0]])
    wanted = wanted_on(a_design(), at, at / 100.0, np.array([40.0]), np.ones(1), np.array([7.0]))
    assert wanted.depth_mm == pytest.approx([7.0])


def test_corners_that_are_left_keep_the_notch_at_the_stop(ground: Ground) -> None:
    face = ground.face
    notch = stop_notch(face)
    grid = np.stack(np.meshgrid(*[np.linspace(-30, 30, 13)] * 3), axis=-1).reshape(-1, 3) + face.at("stop")
    inside = grid[notch(grid) < 0]
    assert len(inside)
    assert (keep_clear(face, corners_left=False)(inside) < 0).all()
    assert (keep_clear(face, corners_left=True)(inside) > 0).any()
    sight = (face.at("eye_inner_left") + face.at("eye_outer_left")) / 2 + [-12.0, 50.0, 2.0]
    for left in (True, False):
        assert keep_clear(face, left)(sight[None])[0] < 0


def test_an_area_holds_its_inside_on_its_own_side() -> None:
    square = [(0.0, 0.0), (10.0, 0.0), (10.0, 10.0), (0.0, 10.0)]
    apart = side_area(square, [(y + 100.0, z) for y, z in square])
    p = np.array([[-1.0, 5.0, 5.0], [1.0, 5.0, 5.0], [1.0, 105.0, 5.0], [-1.0, 15.0, 5.0], [-1.0, 5.0, 11.0]])
    assert apart(p).tolist() == [True, False, True, False, False]


@given(st.floats(-50, 50), st.floats(-60, 60))
def test_below_a_slanted_line(ahead: float, up: float) -> None:
    line = [(-20.0, 10.0), (20.0, -10.0)]
    where = below(lambda side: line)
    level = 10.0 if ahead <= -20 else -10.0 if ahead >= 20 else -ahead / 2
    if abs(up - level) > 0.01:
        assert bool(where(np.array([[5.0, ahead, up]]))[0]) == (up < level)


def test_below_reaches_no_farther_than_a_head_may() -> None:
    where = below(lambda side: [(-20.0, 10.0), (20.0, 10.0)])
    assert where(np.array([[5.0, 20.0 + FAR_MM - 1.0, 0.0]]))[0]
    assert not where(np.array([[5.0, 20.0 + FAR_MM + 1.0, 0.0]]))[0]


def test_setting_lines_lie_on_their_own_side(ground: Ground) -> None:
    face = ground.face
    eye, ear = face.at("eye_outer_left"), face.at("ear_front_left")
    lines = setting_lines("ear to eye", lambda side: [(ear[1], ear[2]), (eye[1], eye[2])])
    assert [line.side for line in lines] == ["left", "right"]
    for line, sign in zip(lines, (-1.0, 1.0), strict=True):
        places = on_skin(line, ground.skin)
        assert (sign * places[:, 0] > 10.0).all()
        assert places[0, 1:] == pytest.approx([ear[1], ear[2]])
        assert places[-1, 1:] == pytest.approx([eye[1], eye[2]])
        away = np.linalg.norm(ground.skin.vertices_mm[None] - places[:, None], axis=2).min(axis=1)
        assert away.max() < 12.0
