"""What is told of a poor photo, and that good ones pass."""

from __future__ import annotations

import cv2
import numpy as np
import pytest

from dapwick.core.basics.camera import Camera, nominal_rotation, rotation_from
from dapwick.demo.dogs import photo_bytes, photos_of, truth
from dapwick.pipeline.review import review_photo
from dapwick.vision.photo import read_photo
from dapwick.vision.quality import (
    box_of,
    edge_contrast,
    edge_findings,
    picture_findings,
    pose_findings,
    quality_of,
)

DOGS = ("fogbell", "bobbin", "tiller", "marlin-spike", "squall", "ratline", "halyard", "kelpie-jo")


def front(key: str) -> tuple[np.ndarray, dict]:  # type: ignore[type-arg]
    photo = photos_of(truth(key))[0]
    return read_photo(photo_bytes(photo["file"]), "a").rgb, photo


def codes(rgb: np.ndarray, photo: dict) -> set[str]:  # type: ignore[type-arg]
    return {f.code for f in picture_findings("front", quality_of(rgb, box_of(photo["marks_px"], 0.1)))}


@pytest.mark.parametrize("key", DOGS)
def test_a_good_photo_of_any_coat_passes(key: str) -> None:
    assert codes(*front(key)) == set()


@pytest.mark.parametrize("key", DOGS)
def test_a_blurred_one_is_told(key: str) -> None:
    rgb, photo = front(key)
    assert "blurred" in codes(cv2.GaussianBlur(rgb, (0, 0), 7), photo)


@pytest.mark.parametrize("key", DOGS)
def test_a_shaken_one_is_told(key: str) -> None:
    """Blur in one direction only, as a moving hand makes it."""
    rgb, photo = front(key)
    assert "blurred" in codes(cv2.blur(rgb, (31, 1)), photo)


@pytest.mark.parametrize("key", ["fogbell", "marlin-spike"])
def test_a_dark_one_is_told(key: str) -> None:
    rgb, photo = front(key)
    assert "too_dark" in codes((rgb * 0.06).astype(np.uint8), photo)


@pytest.mark.parametrize("key", ["fogbell", "squall"])
def test_a_burnt_one_is_told(key: str) -> None:
    rgb, photo = front(key)
    bright = np.clip(rgb.astype(float) * 1.5 + 130, 0, 255).astype(np.uint8)
    assert "burnt_out" in codes(bright, photo)


def test_sharpness_falls_with_blur() -> None:
    rgb, photo = front("bobbin")
    box = box_of(photo["marks_px"])
    sharp = [quality_of(cv2.GaussianBlur(rgb, (0, 0), s) if s else rgb, box).sharpness for s in (0, 2, 4, 8)]
    assert sharp == sorted(sharp, reverse=True)


def camera(distance_mm: float, focal_px: float = 2900.0, yaw_deg: float = 0.0) -> Camera:
    rotation = nominal_rotation("front") @ rotation_from(np.radians([0, 0, yaw_deg]))
    return Camera(rotation, np.array([0, 0, distance_mm]), focal_px, 1200, 900)


def test_where_the_camera_stood_is_told_only_when_it_matters() -> None:
    assert pose_findings("front", "front", camera(900), 900) == []
    near = pose_findings("front", "front", camera(400), 400)
    assert [f.code for f in near] == ["too_near"]
    assert "32%" in near[0].message
    assert [f.code for f in pose_findings("front", "front", camera(2400, 2900), 2400)] == ["head_too_small"]
    assert [f.code for f in pose_findings("front", "front", camera(900, yaw_deg=40), 900)] == [
        "turned_too_far"
    ]


def test_a_distance_nobody_knows_is_not_told() -> None:
    assert pose_findings("front", "front", camera(400), None) == []


@pytest.mark.parametrize("key", DOGS)
def test_no_good_photo_of_any_head_is_told_as_too_near_or_turned(key: str) -> None:
    rgb, photo = front(key)
    seen = review_photo(rgb, "front", "front", (1200, 900), photo["focal_px"])
    assert {f.code for f in seen.findings} == set()


def test_swelling_is_what_perspective_makes_of_a_muzzle() -> None:
    """40 cm from the eyes, 6 cm ahead against 5 cm behind: (400 + 50) / (400 - 60) = 1.32."""
    seen = camera(400)
    at = seen.project(np.array([[-20.0, 60, 0], [20.0, 60, 0], [-20.0, -50, 0], [20.0, -50, 0]]))
    ratio = np.ptp(at[:2, 0]) / np.ptp(at[2:, 0])
    assert ratio == pytest.approx(1.32, abs=0.01)


def test_a_dark_dog_on_dark_ground_is_told_and_on_light_ground_is_not() -> None:
    rgb, photo = front("marlin-spike")
    edge = np.array(photo["edge_px"])
    assert edge_findings("front", rgb, edge) == []
    dog = np.zeros(rgb.shape[:2], np.uint8)
    cv2.fillPoly(dog, [edge.astype(np.int32)], 1)
    black = np.where(dog[..., None] == 1, rgb, np.median(rgb[dog == 1], axis=0).astype(np.uint8))
    assert edge_contrast(black, edge) < edge_contrast(rgb, edge)
    assert [f.code for f in edge_findings("front", black, edge)] == ["edge_unsure"]
