"""The line that draws itself along a rough trail: it finds the coat, stays near the hand, and leaves the rest alone."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.ndimage import gaussian_filter1d

from dapwick.core.basics.errors import BadInput
from dapwick.demo.dogs import photo_bytes, photos_of, truth
from dapwick.vision.photo import Pixels, read_photo
from dapwick.vision.trail import SNAP_SHARE, STEADIED_PX, spliced, trailed

WIDTH, HEIGHT = 800, 600
SNAP_PX = SNAP_SHARE * WIDTH
CENTRE, RADIUS = np.array([400.0, 300.0]), 180.0


def disc() -> Pixels:
    y, x = np.mgrid[:HEIGHT, :WIDTH] + 0.5
    inside = np.hypot(x - CENTRE[0], y - CENTRE[1]) < RADIUS
    rgb = np.where(inside[..., None], (200, 160, 90), (60, 90, 130))
    return np.asarray(rgb + np.random.default_rng(0).normal(0, 12, rgb.shape), np.uint8)


def arc(radius: float, first_deg: float, last_deg: float, count: int = 60) -> np.ndarray:
    turn = np.radians(np.linspace(first_deg, last_deg, count))
    return CENTRE + radius * np.column_stack([np.cos(turn), np.sin(turn)])


def distance_to(line: np.ndarray, points: np.ndarray) -> np.ndarray:
    """From each point to the closed line's nearest place."""
    a, b = line, np.roll(line, -1, axis=0)
    side = b - a
    t = ((points[:, None] - a) * side).sum(axis=2) / np.maximum((side**2).sum(axis=1), 1e-12)
    return np.linalg.norm(points[:, None] - a - t.clip(0, 1)[..., None] * side, axis=2).min(axis=1)


def evenly(line: np.ndarray, step: float) -> np.ndarray:
    """A closed line in even steps."""
    closed = np.vstack([line, line[:1]])
    along = np.concatenate([[0.0], np.cumsum(np.linalg.norm(np.diff(closed, axis=0), axis=1))])
    at = np.arange(0, along[-1], step)
    return np.column_stack([np.interp(at, along, closed[:, axis]) for axis in (0, 1)])


SQUARE = np.array([[180.0, 80.0], [620.0, 80.0], [620.0, 520.0], [180.0, 520.0]])


@settings(max_examples=25, deadline=None)
@given(st.floats(-0.7, 0.7), st.integers(0, 99))
def test_a_shaky_trail_finds_the_edge(off: float, seed: int) -> None:
    shaky = arc(RADIUS + off * SNAP_PX, 200, 340) + np.random.default_rng(seed).normal(0, 1.5, (60, 2))
    drawn = trailed(disc(), None, shaky, WIDTH, HEIGHT)
    away = np.abs(np.linalg.norm(drawn - CENTRE, axis=1) - RADIUS)
    assert np.median(away) < 1.0
    assert np.quantile(away, 0.95) < 3.0


@settings(max_examples=40, deadline=None)
@given(st.lists(st.tuples(st.floats(-50, 850), st.floats(-50, 650)), min_size=2, max_size=12))
def test_the_line_stays_near_the_hand_on_any_ground(points: list[tuple[float, float]]) -> None:
    noise = np.random.default_rng(1).integers(0, 256, (HEIGHT, WIDTH, 3)).astype(np.uint8)
    try:
        drawn = trailed(noise, None, np.array(points), WIDTH, HEIGHT)
    except BadInput:
        return
    hand = np.clip(np.array(points), 0, [WIDTH, HEIGHT])
    assert np.isfinite(drawn).all()
    assert distance_to(hand, drawn).max() <= SNAP_PX + 4 * STEADIED_PX


def test_only_the_stretch_along_the_trail_changes() -> None:
    line = trailed(disc(), SQUARE, arc(RADIUS, 225, 315), WIDTH, HEIGHT)
    kept = {tuple(p) for p in line.tolist()}
    assert all(tuple(corner) in kept for corner in SQUARE[2:].tolist())
    assert np.abs(np.linalg.norm(line[: len(line) - 4] - CENTRE, axis=1) - RADIUS).max() < 3


@settings(max_examples=60, deadline=None)
@given(st.integers(0, 39), st.integers(4, 18), st.booleans())
def test_a_splice_keeps_the_other_arc_point_by_point(first: int, long: int, backwards: bool) -> None:
    circle = arc(RADIUS, 0, 351, 40)
    drawn = arc(RADIUS + 9, 9 * first, 9 * (first + long))
    line = spliced(circle, drawn[::-1] if backwards else drawn)
    kept = {tuple(p) for p in line.tolist()}
    between = {(first + k) % 40 for k in range(1, long)}
    assert all((tuple(p) in kept) == (i not in between) for i, p in enumerate(circle.tolist()))
    assert all(tuple(p) in kept for p in drawn.tolist())
    assert distance_to(line, circle).max() < 10


@pytest.mark.parametrize("key", ["tiller", "fogbell", "kelpie-jo"])
def test_on_a_dog_a_rough_trail_is_drawn_to_the_coat(key: str) -> None:
    photo = photos_of(truth(key), ["dry-front"])[0]
    rgb = read_photo(photo_bytes(photo["file"]), photo["file"]).rgb
    true = np.array(photo["edge_px"])
    over_the_top = evenly(true, 3.0)
    over_the_top = np.roll(over_the_top, 100 - int(over_the_top[:, 1].argmin()), axis=0)[:200]
    rough = gaussian_filter1d(over_the_top, 4, axis=0) + np.random.default_rng(3).normal(0, 2, (200, 2)) + 9
    before = np.median(distance_to(true, rough))
    drawn = trailed(rgb, None, rough, photo["width"], photo["height"])
    assert np.median(distance_to(true, drawn)) < 0.65 * before


def test_a_dot_is_no_trail() -> None:
    for points in ([[5.0, 5.0]], [[5.0, 5.0], [6.0, 5.0]]):
        with pytest.raises(BadInput, match="trail too short"):
            trailed(disc(), SQUARE, np.array(points), WIDTH, HEIGHT)
