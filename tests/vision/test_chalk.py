"""Correcting an edge by chalk strokes: the line follows near a stroke, holds elsewhere, never works against it."""

from __future__ import annotations

from functools import cache

import cv2
import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from dapwick.core.basics.errors import BadInput
from dapwick.demo.dogs import photo_bytes, photos_of, truth
from dapwick.vision.chalk import REACH_SHARE, STROKE_SHARE, Stroke, checked_edge, followed
from dapwick.vision.edge import contour
from dapwick.vision.photo import Pixels, read_photo

WIDTH, HEIGHT = 800, 600
SQUARE = np.array([[200.0, 200.0], [600.0, 200.0], [600.0, 500.0], [200.0, 500.0]])
REACH_PX = REACH_SHARE * WIDTH
DOGS = ("tiller", "fogbell", "kelpie-jo", "ratline")


@cache
def ground() -> Pixels:
    """A warm disc and a warm bar on a cold ground, both speckled."""
    rng = np.random.default_rng(0)
    y, x = np.mgrid[:HEIGHT, :WIDTH]
    warm = (np.hypot(x - 400, y - 350) < 150) | ((np.abs(x - 640) < 30) & (np.abs(y - 300) < 120))
    rgb = np.where(warm[..., None], (200, 160, 90), (60, 90, 130)) + rng.normal(0, 10, (HEIGHT, WIDTH, 3))
    return np.asarray(rgb.clip(0, 255), np.uint8)


def filled(line: np.ndarray, size: tuple[int, int] = (HEIGHT, WIDTH)) -> np.ndarray:
    mask = np.zeros(size, np.uint8)
    cv2.fillPoly(mask, [np.round(line - 0.5).astype(np.int32)], 1)
    return mask == 1


def on(points: list[list[float]]) -> Stroke:
    return Stroke(np.array(points), True)


def off(points: list[list[float]]) -> Stroke:
    return Stroke(np.array(points), False)


def dog(key: str) -> tuple[Pixels, np.ndarray, dict[str, np.ndarray]]:
    photo = photos_of(truth(key), ["dry-front"])[0]
    rgb = read_photo(photo_bytes(photo["file"]), photo["file"]).rgb
    marks = {m: np.array(at) for m, at in photo["marks_px"].items() if at}
    return rgb, filled(np.array(photo["edge_px"]), (900, 1200)), marks


@pytest.mark.parametrize("key", DOGS)
def test_one_stroke_brings_back_an_ear_that_was_cut_off(key: str) -> None:
    rgb, true, marks = dog(key)
    base, tip = marks["ear_front_left"], marks["ear_tip_left"]
    lost = true.astype(np.uint8)
    cv2.circle(
        lost, np.round((base + tip) / 2).astype(int).tolist(), round(0.7 * np.hypot(*(tip - base))), 0, -1
    )
    stroke = on([(0.7 * base + 0.3 * tip).tolist(), (0.2 * base + 0.8 * tip).tolist()])
    back = filled(followed(rgb, contour(lost), [stroke], 1200, 900), (900, 1200))
    assert (back != true).sum() < 0.25 * (lost != true).sum()


@pytest.mark.parametrize("key", DOGS)
def test_one_stroke_lets_go_of_ground_that_was_taken_in(key: str) -> None:
    rgb, true, marks = dog(key)
    taken = true.astype(np.uint8)
    middle = marks["cheek_right"] + [-150, -60]
    cv2.circle(taken, np.round(middle).astype(int).tolist(), 100, 1, -1)
    wrong = np.argwhere((taken == 1) & ~true)[:, ::-1]
    at = wrong[np.argmin(np.abs(wrong - np.median(wrong, axis=0)).sum(axis=1))]
    line = followed(rgb, contour(taken), [off([(at - [15, 0]).tolist(), (at + [15, 4]).tolist()])], 1200, 900)
    assert (filled(line, (900, 1200)) != true).sum() < 0.25 * len(wrong)


def test_a_stroke_on_coat_takes_in_what_looks_like_it_and_not_the_ground() -> None:
    """The edge crosses the disc's upper part; a short stroke there brings all of it, to its own edge."""
    low = contour((filled(SQUARE) & (np.mgrid[:HEIGHT, :WIDTH][0] > 300)).astype(np.uint8))
    line = followed(ground(), low, [on([[380.0, 260.0], [420.0, 260.0]])], WIDTH, HEIGHT)
    assert filled(line)[215, 400]
    assert not filled(line)[180, 400]


@settings(deadline=None, max_examples=30)
@given(
    st.lists(st.tuples(st.floats(-50, 850), st.floats(-50, 650)), min_size=1, max_size=4),
    st.booleans(),
    st.sampled_from([1, 3]),
)
def test_a_stroke_holds_and_changes_nothing_else(
    points: list[tuple[float, float]], coat: bool, larger: int
) -> None:
    """On coat never takes away, beside it never adds; nothing out of reach moves; small photos and large ones."""
    before = filled(SQUARE)
    stroke = Stroke(np.array(points) * larger, coat)
    try:
        line = followed(ground(), SQUARE * larger, [stroke], WIDTH * larger, HEIGHT * larger) / larger
    except BadInput:
        assert not coat
        return
    after = filled(line)
    rim = cv2.dilate(before.astype(np.uint8), np.ones((7, 7))) != cv2.erode(
        before.astype(np.uint8), np.ones((7, 7))
    )
    against = (before & ~after) if coat else (after & ~before)
    assert not (against & ~rim).any()
    (left, top), (right, bottom) = np.min(points, axis=0), np.max(points, axis=0)
    y, x = np.mgrid[:HEIGHT, :WIDTH]
    slack = REACH_PX + 3 * STROKE_SHARE * WIDTH
    far = (x < left - slack) | (x > right + slack) | (y < top - slack) | (y > bottom + slack)
    # A stroke beside the coat may part it; the smaller piece is not kept, however far it reaches.
    parted = cv2.connectedComponents((after | (before & far)).astype(np.uint8))[0] > 2
    assert parted or not ((before != after) & far & ~rim).any()
    assert not (parted and coat)


def test_strokes_before_the_last_one_hold() -> None:
    """A stroke beside the coat next to one on it: what was said to be coat stays, whatever its colour."""
    said = on([[640.0, 260.0], [640.0, 300.0]])
    first = followed(ground(), SQUARE, [said], WIDTH, HEIGHT)
    later = off([[640.0, 400.0], [640.0, 415.0]])
    second = followed(ground(), first, [said, later], WIDTH, HEIGHT)
    assert filled(first)[280, 640] == filled(second)[280, 640]
    assert not filled(second)[408, 640]


def test_a_first_stroke_begins_an_edge() -> None:
    line = followed(ground(), None, [on([[350.0, 350.0], [450.0, 350.0]])], WIDTH, HEIGHT)
    assert filled(line)[350, 400]


def test_a_stroke_apart_from_the_dog_keeps_the_larger_piece() -> None:
    line = followed(ground(), SQUARE, [on([[60.0, 60.0], [80.0, 60.0]])], WIDTH, HEIGHT)
    assert filled(line)[350, 400]
    assert not filled(line)[60, 70]


def test_taking_everything_away_is_refused() -> None:
    small = np.array([[390.0, 340.0], [396.0, 340.0], [396.0, 346.0]])
    with pytest.raises(BadInput, match="nothing of the dog"):
        followed(ground(), small, [off([[380.0, 343.0], [410.0, 343.0]])], WIDTH, HEIGHT)


def test_the_same_stroke_makes_the_same_line() -> None:
    strokes = [on([[600.0, 300.0], [640.0, 300.0]])]
    once, again = (followed(ground(), SQUARE, strokes, WIDTH, HEIGHT) for _ in range(2))
    assert np.array_equal(once, again)


@pytest.mark.parametrize("line", [[], [[1, 2]], [[1, 2], [3, 4]], [[0, 0], [1, float("nan")], [2, 2]]])
def test_what_is_no_edge_is_refused(line: list) -> None:  # type: ignore[type-arg]
    with pytest.raises(BadInput, match="coat edge"):
        checked_edge(line, 800, 600)


def test_an_edge_is_kept_on_the_photo() -> None:
    assert checked_edge([[-5, 0], [900, 0], [400, 700]], 800, 600).tolist() == [[0, 0], [800, 0], [400, 600]]
