"""The scale card in pictures whose scale is known."""

from __future__ import annotations

import cv2
import numpy as np
import pytest

from dapwick.core.solve.scale_card import (
    HEIGHT_MM,
    MARKER_IDS,
    MARKER_MM,
    WIDTH_MM,
    held_level_with,
    marker_corners_mm,
)
from dapwick.demo.dogs import photo_bytes, truth
from dapwick.vision.card import marker_dictionary, read_card
from dapwick.vision.photo import read_photo

PX_PER_MM = 10


def card_face() -> np.ndarray:
    face = np.full((round(HEIGHT_MM * PX_PER_MM), round(WIDTH_MM * PX_PER_MM)), 255, np.uint8)
    side = round(MARKER_MM * PX_PER_MM)
    for marker in MARKER_IDS:
        x, y = (marker_corners_mm(marker)[0] * PX_PER_MM).astype(int)
        face[y : y + side, x : x + side] = cv2.aruco.generateImageMarker(marker_dictionary(), marker, side)
    return face


def pictured(tilt_deg: float, spin_deg: float, distance_mm: float, focal_px: float = 2000.0) -> np.ndarray:
    """The card before a plain pinhole camera, tilted about its upright axis, on a grey ground."""
    a, s = np.radians([tilt_deg, spin_deg])
    spin = np.array([[np.cos(s), -np.sin(s), 0], [np.sin(s), np.cos(s), 0], [0, 0, 1]])
    turn = np.array([[np.cos(a), 0, np.sin(a)], [0, 1, 0], [-np.sin(a), 0, np.cos(a)]]) @ spin
    half = np.array([WIDTH_MM, HEIGHT_MM]) / 2
    corners = np.array([[-1, -1], [1, -1], [1, 1], [-1, 1]]) * half
    p = np.column_stack([corners, np.zeros(4)]) @ turn.T + [0, 0, distance_mm]
    at = p[:, :2] / p[:, 2:] * focal_px + [600, 450]
    face = card_face()
    flat = np.array(
        [[0, 0], [face.shape[1], 0], [face.shape[1], face.shape[0]], [0, face.shape[0]]], np.float32
    )
    warp = cv2.getPerspectiveTransform(flat, at.astype(np.float32))
    picture = cv2.warpPerspective(face, warp, (1200, 900), flags=cv2.INTER_AREA, borderValue=110)
    noisy = picture + np.random.default_rng(0).normal(0, 6, picture.shape)
    return np.repeat(noisy.clip(0, 255).astype(np.uint8)[:, :, None], 3, axis=2)


@pytest.mark.parametrize("tilt_deg", [0, 15, -30])
@pytest.mark.parametrize("spin_deg", [0, 40, 180])
@pytest.mark.parametrize("distance_mm", [500, 900])
def test_scale_is_read_whatever_the_tilt(tilt_deg: float, spin_deg: float, distance_mm: float) -> None:
    reading = read_card(pictured(tilt_deg, spin_deg, distance_mm))
    assert reading is not None
    assert reading.px_per_mm == pytest.approx(2000 / distance_mm, rel=0.012)


def test_one_square_is_not_enough() -> None:
    picture = pictured(0, 0, 500)
    picture[:, :500] = 90
    picture[:, 700:] = 90
    picture[460:] = 90
    assert read_card(picture) is None


def test_other_squares_are_not_the_card() -> None:
    picture = np.full((600, 600, 3), 200, np.uint8)
    for i, marker in enumerate((20, 21, 22)):
        drawn = cv2.aruco.generateImageMarker(marker_dictionary(), marker, 120)
        picture[60:180, 40 + 180 * i : 160 + 180 * i] = drawn[:, :, None]
    assert read_card(picture) is None


@pytest.mark.parametrize("key", ["tiller", "squall"])
def test_the_card_held_beside_a_dog_tells_the_scale_at_its_eye(key: str) -> None:
    known = truth(key)
    carded = [p for p in known["photos"] if p["card_held"]]
    assert carded
    for p in carded:
        reading = read_card(read_photo(photo_bytes(p["file"]), "a").rgb)
        assert reading is not None
        eyes = np.mean([known["marks_mm"][m] for m in held_level_with(p["view"])], axis=0)
        depth = float((np.array(p["rotation"]) @ eyes + p["translation_mm"])[2])
        assert reading.px_per_mm == pytest.approx(p["focal_px"] / depth, rel=0.05)


def test_no_card_is_seen_where_there_is_none() -> None:
    for p in truth("bobbin")["photos"][:6]:
        assert read_card(read_photo(photo_bytes(p["file"]), "a").rgb) is None
