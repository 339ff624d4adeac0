"""Random heads, cameras and marked photos with known truth, for tests and benchmarks."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace

import numpy as np

from dapwick.core.basics.arrays import Array
from dapwick.core.basics.camera import Camera, nominal_rotation, rotation_from
from dapwick.core.basics.frame import into_head_frame
from dapwick.core.basics.head_kind import Muzzle
from dapwick.core.basics.marks import INDEX, MARK_IDS, PAIRS, SPANS, View, guided_order
from dapwick.core.solve.joint import HeadSolution, solve_head
from dapwick.core.solve.observations import HandMeasure, HeadInput, PhotoMarks, PlacedMark
from dapwick.core.solve.prior import general_prior

WIDTH, HEIGHT = 1200, 900
TURN_DEG = 7.0
ASYMMETRY_MM = 1.4
HAND = tuple((span.from_mark, span.to_mark) for span in SPANS)
MUZZLE_SHARES: Mapping[Muzzle, tuple[float, float]] = {
    "any": (0.6, 1.45),
    "short": (0.4, 0.7),
    "medium": (0.8, 1.1),
    "long": (1.2, 1.6),
}


@dataclass(frozen=True)
class SimHead:
    """points_mm (marks, 3) in the head frame; cameras and the observations made of them."""

    points_mm: Array
    cameras: tuple[Camera, ...]
    given: HeadInput


def random_points(
    rng: np.random.Generator, asymmetry_mm: float = ASYMMETRY_MM, kind: Muzzle = "any"
) -> Array:
    """A made-up head: size, muzzle, width and ears varied, each side a little its own. kind: of this sort
    of muzzle only."""
    points = general_prior().mean_mm.copy()
    points *= rng.uniform(0.75, 1.35)
    muzzle = [INDEX[m] for m in ("nose_tip", "nose_top", "lip_front", "chin")]
    points[muzzle, 1] *= rng.uniform(*MUZZLE_SHARES[kind])
    points[:, 0] *= rng.uniform(0.85, 1.15)
    back = points[:, 1] < -20
    points[back, 1] *= rng.uniform(0.85, 1.2)
    common = rng.normal(0, 2.5, points.shape)
    for left, right in PAIRS:
        common[left] = common[right] * [-1, 1, 1]
    common[[INDEX[m] for m in MARK_IDS if "_" not in m or not m.endswith(("left", "right"))], 0] = 0
    points = points + common + rng.normal(0, asymmetry_mm, points.shape)
    return np.asarray(into_head_frame(points))


def random_camera(
    rng: np.random.Generator,
    view: View,
    points: Array,
    turn_deg: float = TURN_DEG,
    distance_share: float = 1.0,
) -> Camera:
    """distance_share: nearer (below 1) with a shorter lens, the head as large in the photo."""
    turn = rotation_from(np.radians(rng.normal(0, turn_deg, 3)))
    rotation = turn @ nominal_rotation(view)
    focal = rng.uniform(1900, 3000) * distance_share
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


def random_head(
    seed: int,
    views: tuple[View, ...] = ("front", "left"),
    hand: int = 1,
    kind: Muzzle = "any",
    distance_share: float = 1.0,
    asymmetry_mm: float = ASYMMETRY_MM,
) -> SimHead:
    """hand: how many of HAND were measured."""
    rng = np.random.default_rng(seed)
    points = random_points(rng, asymmetry_mm, kind)
    cameras = tuple(random_camera(rng, view, points, distance_share=distance_share) for view in views)
    photos = tuple(
        marked_photo(rng, f"{view}.jpg", view, camera, points)
        for view, camera in zip(views, cameras, strict=True)
    )
    measures = tuple(hand_measure(rng, points, a, b) for a, b in HAND[:hand])
    return SimHead(points, cameras, HeadInput(photos, measures))


def with_slip(sim: SimHead, seed: int) -> SimHead:
    """The same head with one mark of one photo clicked somewhere else."""
    rng = np.random.default_rng([seed, 1])
    which = int(rng.integers(len(sim.given.photos)))
    photo = sim.given.photos[which]
    mark = list(photo.marks)[int(rng.integers(len(photo.marks)))]
    angle, away = rng.uniform(0, 2 * np.pi), rng.uniform(40, 160)
    old = photo.marks[mark]
    slipped = replace(old, x_px=old.x_px + away * np.cos(angle), y_px=old.y_px + away * np.sin(angle))
    marks = {**photo.marks, mark: slipped}
    return replace(sim, given=_with_photo(sim.given, which, replace(photo, marks=marks)))


def moved_mark(sim: SimHead, pair: str, up_mm: float) -> SimHead:
    """The same photos of a head whose left mark of a pair sits so much higher."""
    mark = f"{pair}_left"
    points = sim.points_mm.copy()
    points[INDEX[mark], 2] += up_mm
    given = sim.given
    for i, (photo, camera) in enumerate(zip(given.photos, sim.cameras, strict=True)):
        if mark in photo.marks:
            dx, dy = (camera.project(points) - camera.project(sim.points_mm))[INDEX[mark]]
            old = photo.marks[mark]
            marks = {**photo.marks, mark: replace(old, x_px=old.x_px + dx, y_px=old.y_px + dy)}
            given = _with_photo(given, i, replace(photo, marks=marks))
    return replace(sim, points_mm=points, given=given)


FACE = ("eye_inner_left", "eye_inner_right", "eye_outer_left", "eye_outer_right", "nose_tip", "nose_top")


def later_visit(seed: int) -> SimHead:
    """A dog known from one visit of four views: on a later day a front photo with six marks."""
    sim = random_head(seed, ("front", "left", "right", "top"), 2)
    first = solve_head(sim.given)
    assert isinstance(first, HeadSolution)
    rng = np.random.default_rng([seed, 9])
    camera = random_camera(rng, "front", sim.points_mm)
    photo = marked_photo(rng, "later.jpg", "front", camera, sim.points_mm)
    seen = replace(photo, marks={m: photo.marks[m] for m in FACE})
    return SimHead(sim.points_mm, (camera,), HeadInput((seen,), bone=first.bone))


def without_some(sim: SimHead, seed: int, share: float = 0.35) -> SimHead:
    """The same head with some marks of each photo not placed."""
    rng = np.random.default_rng([seed, 2])
    given = sim.given
    for i, photo in enumerate(given.photos):
        kept = {m: at for m, at in photo.marks.items() if rng.random() > share}
        kept = kept if len(kept) > 5 else dict(photo.marks)
        given = _with_photo(given, i, replace(photo, marks=kept))
    return replace(sim, given=given)


def noisier(sim: SimHead, seed: int, factor: float, told: bool = True) -> SimHead:
    """The same photos marked by a hand so many times less steady, and told so or not."""
    rng = np.random.default_rng([seed, 3])
    given = sim.given
    for i, (photo, camera) in enumerate(zip(given.photos, sim.cameras, strict=True)):
        true_px, px_per_mm = camera.project(sim.points_mm), camera.focal_px / camera.distance_mm
        marks = {}
        for mark in photo.marks:
            px, mm = PlacedMark(0, 0).spread(mark, photo.longer_side_px)
            sigma = factor * float(np.hypot(px, mm * px_per_mm))
            x, y = true_px[INDEX[mark]] + rng.normal(0, sigma, 2)
            marks[mark] = PlacedMark(float(x), float(y), sigma_px=sigma if told else None)
        given = _with_photo(given, i, replace(photo, marks=marks))
    return replace(sim, given=given)


def _with_photo(given: HeadInput, which: int, photo: PhotoMarks) -> HeadInput:
    photos = tuple(photo if i == which else p for i, p in enumerate(given.photos))
    return replace(given, photos=photos)
