"""A photo's coat taken in: on pictures whose every edge is known."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from dapwick.core.basics.arrays import Array, IntArray
from dapwick.vision.mesh_image import carried, faces_seen
from dapwick.vision.spread import spread
from dapwick.vision.taken_in import SeenHead, Taking, taken_in

SIZE = 400
MIDDLE = np.array([200.0, 190.0])
RINGS, SECTORS = 12, 60
WALL, HAIR, EYE = (90, 120, 130), (220, 200, 170), (20, 15, 15)
EYES = np.array([[180.0, 180.0], [220.0, 180.0]])


def ball(radius: float) -> tuple[Array, IntArray]:
    """A disc as a mesh: places (V, 2) px and its faces."""
    rings = np.linspace(0.08, 1.0, RINGS)[:, None] * radius
    turn = np.linspace(0, 2 * np.pi, SECTORS, endpoint=False)
    places = np.stack([rings * np.cos(turn), rings * np.sin(turn)], axis=-1).reshape(-1, 2) + MIDDLE
    at = np.arange(RINGS * SECTORS).reshape(RINGS, SECTORS)
    a, b = at[:-1], np.roll(at[:-1], -1, axis=1)
    c, d = np.roll(at[1:], -1, axis=1), at[1:]
    quads = [np.stack([a, b, c], -1).reshape(-1, 3), np.stack([a, c, d], -1).reshape(-1, 3)]
    return places, np.concatenate(quads)


def seen(radius: float) -> SeenHead:
    places, _ = ball(radius)
    return SeenHead(places, np.full(len(places), 800.0), np.ones(len(places)))


def circle(radius: float) -> Array:
    turn = np.linspace(0, 2 * np.pi, 200, endpoint=False)
    return MIDDLE + radius * np.column_stack([np.cos(turn), np.sin(turn)])


def taking(before: float, after: float, traced: float | None = None) -> Taking:
    places, faces = ball(after)
    none = np.zeros(len(places), bool)
    edge = circle(traced) if traced else np.zeros((0, 2))
    return Taking(seen(before), seen(after), faces, none, none, none, edge, EYES, 1.0)


def photo(radius: float) -> np.ndarray:
    rgb = np.empty((SIZE, SIZE, 3), np.uint8)
    rgb[:] = WALL
    y, x = np.mgrid[:SIZE, :SIZE]
    rgb[np.hypot(x - MIDDLE[0], y - MIDDLE[1]) < radius] = HAIR
    for eye in EYES:
        rgb[np.hypot(x - eye[0], y - eye[1]) < 5] = EYE
    return rgb


def radius_of(rgb: np.ndarray) -> float:
    """Of the disc that is neither wall: from its area."""
    hair = np.abs(rgb.astype(int) - WALL).sum(axis=2) > np.abs(np.array(HAIR) - WALL).sum() / 2
    return float(np.sqrt(hair.sum() / np.pi))


@settings(max_examples=12, deadline=None)
@given(before=st.floats(80, 120), cut=st.floats(-10, 45))
def test_the_coats_edge_comes_to_lie_on_the_outline(before: float, cut: float) -> None:
    after = before - cut
    drawn = taken_in(photo(before), taking(before, after, traced=before))
    assert radius_of(drawn) == pytest.approx(after, abs=2.5)


def test_the_edge_that_was_traced_counts_where_it_lies_past_the_modelled_coat() -> None:
    shaggy = photo(108.0)
    told = taken_in(shaggy, taking(100.0, 70.0, traced=108.0))
    untold = taken_in(shaggy, taking(100.0, 70.0))
    assert radius_of(told) == pytest.approx(70.0, abs=2.5)
    assert radius_of(untold) > radius_of(told) + 3


def test_eyes_stand_still_and_so_does_all_that_is_far_away() -> None:
    before = photo(110.0)
    drawn = taken_in(before, taking(110.0, 75.0, traced=110.0))
    for x, y in EYES.astype(int):
        assert np.abs(drawn[y - 3 : y + 4, x - 3 : x + 4].astype(int) - EYE).max() < 40
    frame = np.ones((SIZE, SIZE), bool)
    frame[4:-4, 4:-4] = False
    assert np.array_equal(drawn[frame], before[frame])


def test_nothing_cut_leaves_the_photo_as_it_is() -> None:
    before = photo(100.0)
    drawn = taken_in(before, taking(100.0, 100.0, traced=100.0))
    assert float(np.abs(drawn.astype(int) - before).mean()) < 1.0


def test_hair_that_runs_into_the_body_is_not_drawn_in() -> None:
    whole = taking(110.0, 70.0)
    fading = replace(whole, fades=np.ones(len(whole.ear), bool), traced=np.zeros((0, 2)))
    assert radius_of(taken_in(photo(110.0), fading)) > radius_of(taken_in(photo(110.0), whole)) + 5


LOOSE = (250, 60, 60)


def tufts_left(ground: np.ndarray) -> float:
    """Of spots just past the coat's edge, the share of their area that is still there after the cut."""
    before = np.where((photo(100.0) == WALL).all(axis=2, keepdims=True), ground, photo(100.0))
    y, x = np.mgrid[:SIZE, :SIZE]
    for turn in np.linspace(0, 2 * np.pi, 8, endpoint=False):
        at = MIDDLE + 108.0 * np.array([np.cos(turn), np.sin(turn)])
        before[np.hypot(x - at[0], y - at[1]) < 5] = LOOSE
    drawn = taken_in(before, taking(100.0, 70.0, traced=100.0))

    def area(rgb: np.ndarray) -> int:
        return int((np.abs(rgb.astype(int) - LOOSE).sum(axis=2) < 120).sum())

    return area(drawn) / area(before)


def test_loose_hairs_are_pressed_into_a_plain_wall_and_busy_ground_is_not_drawn_to_streaks() -> None:
    wall = np.empty((SIZE, SIZE, 3), np.uint8)
    wall[:] = WALL
    rng = np.random.default_rng(3)
    grass = np.kron(rng.integers(0, 2, (SIZE // 4, SIZE // 4)), np.ones((4, 4), int))[..., None] * 90 + 40
    assert tufts_left(wall) < 0.3
    assert tufts_left(np.repeat(grass, 3, axis=2).astype(np.uint8)) > 0.6


def radius_at(rgb: np.ndarray, turn: float) -> float:
    """Where hair ends on the way out of the middle."""
    way = np.arange(30, 170)
    x, y = (MIDDLE[:, None] + way * np.array([[np.cos(turn)], [np.sin(turn)]])).astype(int)
    hair = np.abs(rgb[y, x].astype(int) - WALL).sum(axis=1) > np.abs(np.array(HAIR) - WALL).sum() / 2
    return float(way[hair].max())


def test_an_ear_that_is_not_seen_is_left_and_the_cut_runs_out_beside_it() -> None:
    whole = taking(110.0, 80.0, traced=110.0)
    places = whole.after.places_px
    ear = places[:, 0] > MIDDLE[0] + 45
    turned = circle(110.0)
    away = turned[:, 0] > MIDDLE[0] + 45
    turned[away] = turned[away] + [40.0, 0.0]
    drawn = taken_in(photo(110.0), replace(whole, ear=ear, traced=turned))
    beside = np.arccos(45.0 / 80.0)
    assert radius_at(drawn, np.pi) == pytest.approx(80.0, abs=2)
    assert radius_at(drawn, 0.0) > 92
    assert radius_at(drawn, beside + 0.06) > 84
    assert radius_at(drawn, beside + 0.5) == pytest.approx(80.0, abs=3)


def test_a_head_that_the_picture_cuts_off_is_not_closed_at_its_border() -> None:
    before = photo(110.0)[:285]
    before[-5:] = EYE
    drawn = taken_in(before, taking(110.0, 80.0, traced=110.0))
    x = int(MIDDLE[0])
    assert np.abs(drawn[-27:-23, x - 5 : x + 6].astype(int) - HAIR).max() < 30


def test_the_nearer_face_is_seen_and_carries_what_its_corners_do() -> None:
    places = np.array([[0.0, 0], [60, 0], [0, 60], [0, 0], [60, 0], [0, 60]])
    away = np.array([9.0, 9, 9, 5, 5, 5])
    faces = np.array([[0, 1, 2], [3, 4, 5]])
    image = faces_seen(places, away, faces, (70, 70))
    assert image[10, 10] == 1
    assert image[69, 69] == -1
    rows, columns = np.nonzero(image >= 0)
    across = carried(image, rows, columns, places, faces, places[:, :1])[:, 0]
    assert np.abs(across - columns).max() < 1.5


@settings(max_examples=20, deadline=None)
@given(st.integers(0, 10_000))
def test_a_spread_field_keeps_what_is_known_and_never_leaves_its_range(seed: int) -> None:
    rng = np.random.default_rng(seed)
    known = rng.random((18, 23)) < 0.1
    known[0, 0] = True
    values = rng.normal(size=(18, 23, 2)) * known[..., None]
    none = np.zeros((18, 23))
    found = spread(known, values, none, np.zeros((18, 23, 2)))
    assert np.allclose(found[known], values[known])
    for k in (0, 1):
        told = values[known][:, k]
        assert found[..., k].min() >= told.min() - 1e-9
        assert found[..., k].max() <= told.max() + 1e-9
