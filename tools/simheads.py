"""Random heads, cameras and marked photos with known truth, for tests and benchmarks."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from dapwick.core.arrays import Array
from dapwick.core.camera import Camera, nominal_rotation, rotation_from
from dapwick.core.frame import into_head_frame
from dapwick.core.marks import INDEX, MARK_IDS, PAIRS, View, guided_order
from dapwick.core.observations import HandMeasure, HeadInput, PhotoMarks, PlacedMark
from dapwick.core.prior import general_prior

WIDTH, HEIGHT = 1200, 900
TURN_DEG = 7.0


@dataclass(frozen=True)
class SimHead:
    """points_mm (marks, 3) in the head frame; cameras and the observations made of them."""

    points_mm: Array
    cameras: tuple[Camera, ...]
    given: HeadInput


def random_points(rng: np.random.Generator, asymmetry_mm: float = 1.4) -> Array:
    """A made-up head: size, muzzle, width and ears varied, each side a little its own."""
    points = general_prior().mean_mm.copy()
    points *= rng.uniform(0.75, 1.35)
    muzzle = [INDEX[m] for m in ("nose_tip", "nose_top", "lip_front", "chin")]
    points[muzzle, 1] *= rng.uniform(0.6, 1.45)
    points[:, 0] *= rng.uniform(0.85, 1.15)
    back = points[:, 1] < -20
    points[back, 1] *= rng.uniform(0.85, 1.2)
    common = rng.normal(0, 2.5, points.shape)
    for left, right in PAIRS:
        common[left] = common[right] * [-1, 1, 1]
    common[[INDEX[m] for m in MARK_IDS if "_" not in m or not m.endswith(("left", "right"))], 0] = 0
    points = points + common + rng.normal(0, asymmetry_mm, points.shape)
    return np.asarray(into_head_frame(points))


def random_camera(rng: np.random.Generator, view: View, points: Array, turn_deg: float = TURN_DEG) -> Camera:
    turn = rotation_from(np.radians(rng.normal(0, turn_deg, 3)))
    rotation = turn @ nominal_rotation(view)
    focal = rng.uniform(1900, 3000)
    distance = focal * np.ptp(points[:, 1]) / rng.uniform(420, 640)
    middle = points.mean(axis=0) + rng.normal(0, 8, 3)
    return Camera(rotation, np.array([0, 0, distance]) - rotation @ middle, focal, WIDTH, HEIGHT)


def marked_photo(
    rng: np.random.Generator,
    name: str,
    view: View,
    camera: Camera,
    points: Array,
    focal_error: float = 0.03,
) -> PhotoMarks:
    """The marks a stylist would place on this view, each with its own error."""
    exif = camera.focal_px * float(np.exp(rng.normal(0, focal_error)))
    photo = PhotoMarks(name, view, WIDTH, HEIGHT, {}, focal_px=exif, lens=name)
    true_px = camera.project(points)
    px_per_mm = camera.focal_px / camera.distance_mm
    marks = {}
    for mark in guided_order(view):
        px, mm = PlacedMark(0, 0).spread(mark, photo.longer_side_px)
        at = true_px[INDEX[mark]] + rng.normal(0, np.hypot(px, mm * px_per_mm), 2)
        marks[mark] = PlacedMark(float(at[0]), float(at[1]))
    return replace(photo, marks=marks)


def hand_measure(
    rng: np.random.Generator, points: Array, a: str, b: str, sigma_mm: float = 1.0
) -> HandMeasure:
    true = float(np.linalg.norm(points[INDEX[a]] - points[INDEX[b]]))
    return HandMeasure(a, b, true + float(rng.normal(0, sigma_mm)), max(sigma_mm, 0.1))


def random_head(seed: int, views: tuple[View, ...] = ("front", "left"), hand: bool = True) -> SimHead:
    rng = np.random.default_rng(seed)
    points = random_points(rng)
    cameras = tuple(random_camera(rng, view, points) for view in views)
    photos = tuple(
        marked_photo(rng, f"{view}.jpg", view, camera, points)
        for view, camera in zip(views, cameras, strict=True)
    )
    measures = (hand_measure(rng, points, "eye_outer_left", "eye_outer_right"),) if hand else ()
    return SimHead(points, cameras, HeadInput(photos, measures))
