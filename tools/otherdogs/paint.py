"""A photo painted tuft by tuft, far ones first: flat strokes, one lamp, no light through the coat."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from .heads import SIDES, OtherHead, Points

Pixels = NDArray[np.uint8]
LAMP = np.array([-0.45, 0.60, 0.66])
TOWARD = {
    "front": (0.0, 1.0, 0.0),
    "left": (-1.0, 0.0, 0.0),
    "right": (1.0, 0.0, 0.0),
    "top": (0.0, 0.12, 1.0),
    "back": (0.0, -1.0, 0.0),
    "three_quarter_left": (-0.7, 0.7, 0.1),
    "three_quarter_right": (0.7, 0.7, 0.1),
}
TUFTS = 9000
BARE_MM = 3.0
EYE = (
    (1.0, (22, 16, 14), 3.0), (0.7, (70, 40, 22), 5.0), (0.42, (8, 6, 6), 6.0), (0.14, (240, 240, 240), 8.0),
)  # fmt: skip
"""Rims, iris, pupil and glint: share of the eye's size, colour, how much nearer (mm)."""


@dataclass(frozen=True)
class OtherCoat:
    """Tuft length and width (mm), how far tufts stand off the skin (0 lies, 1 stands), colours (sRGB 0..1): most of it,
    patches, muzzle; how much of it is patched."""

    long: float = 22.0
    wide: float = 5.0
    stand: float = 0.5
    main: tuple[float, float, float] = (0.80, 0.66, 0.45)
    patch: tuple[float, float, float] = (0.95, 0.92, 0.86)
    muzzle: tuple[float, float, float] = (0.80, 0.66, 0.45)
    patched: float = 0.0
    curl: float = 0.0


@dataclass(frozen=True)
class OtherShot:
    """Where the camera stood and the size of the picture, px."""

    view: str
    distance_mm: float = 900.0
    yaw_deg: float = 0.0
    pitch_deg: float = 0.0
    width: int = 640
    height: int = 480
    focal_px: float = 1300.0
    wet: bool = False


@dataclass(frozen=True)
class Tufts:
    """Roots (N, 3), tips (N, 3), outward normals (N, 3), colours (N, 3)."""

    root: Points
    tip: Points
    normal: Points
    colour: Points


def pose(shot: OtherShot) -> tuple[Points, Points]:
    """(R, t): head frame to camera, x right, y down, z ahead."""
    ahead = -np.array(TOWARD[shot.view])
    yaw, pitch = np.radians([shot.yaw_deg, shot.pitch_deg])
    ahead = np.array([[np.cos(yaw), -np.sin(yaw), 0], [np.sin(yaw), np.cos(yaw), 0], [0, 0, 1]]) @ ahead
    hint = np.array([0.0, 1.0, 0.0]) if shot.view == "top" else np.array([0.0, 0.0, 1.0])
    ahead = ahead + hint * np.tan(pitch)
    ahead /= np.linalg.norm(ahead)
    right = np.cross(ahead, hint)
    right /= np.linalg.norm(right)
    rotation = np.stack([right, np.cross(ahead, right), ahead])
    return rotation, -rotation @ (np.array([0.0, -20.0, 0.0]) - ahead * shot.distance_mm)


def pictured(points: Points, shot: OtherShot) -> tuple[Points, Points]:
    """Places in the picture (N, 2) px and distances ahead (N,) mm."""
    rotation, t = pose(shot)
    q = points @ rotation.T + t
    return q[:, :2] / q[:, 2:] * shot.focal_px + [shot.width / 2, shot.height / 2], q[:, 2]


def grown(head: OtherHead, coat: OtherCoat, wet: bool, rng: np.random.Generator) -> Tufts:
    """Tufts over skull, neck and ears; wet ones lie, shorter to the eye and darker."""
    y = rng.uniform(-head.long, head.muzzle_long, TUFTS)
    turn = rng.uniform(0, 2 * np.pi, TUFTS)
    skull = head.skin(y, turn)
    middle = (skull[:, 2] + head.skin(y, turn + np.pi)[:, 2]) / 2
    out = skull - np.column_stack([np.zeros(TUFTS), y, middle])
    neck, neck_out = _neck(head, rng)
    ears = [head.ear_leaf(side, rng.uniform(0, 1, 900), rng.uniform(-1, 1, 900)) for _, side in SIDES]
    root = np.concatenate([skull, neck, *(at for at, _ in ears)])
    normal = np.concatenate([out, neck_out, *(n for _, n in ears)])
    normal /= np.maximum(np.linalg.norm(normal, axis=1, keepdims=True), 1e-9)
    on_ear = np.arange(len(root)) >= TUFTS + len(neck)
    on_muzzle = (root[:, 1] > 6) & ~on_ear
    long = (
        coat.long
        * np.where(on_muzzle, 0.55, np.where(on_ear, 0.5, 1.0))
        * rng.normal(1, 0.15, len(root)).clip(0.5, 1.5)
    )
    clear = np.minimum(*(np.linalg.norm(root - head.eye(s), axis=1) for _, s in SIDES)) - head.eye_mm
    clear = np.minimum(clear, np.linalg.norm(root - head.nose(), axis=1) - head.nose_wide / 2)
    long = np.minimum(long, np.maximum(clear, BARE_MM))
    lie = np.array([0.0, -0.75, -0.65]) + 0.35 * rng.normal(size=(len(root), 3)) * (1 + coat.curl)
    lie -= (lie * normal).sum(axis=1, keepdims=True) * normal
    lie /= np.maximum(np.linalg.norm(lie, axis=1, keepdims=True), 1e-9)
    stand = 0.08 if wet else coat.stand
    tip = root + long[:, None] * (stand * normal + np.sqrt(1 - stand**2) * lie)
    return Tufts(root, tip, normal, _colours(head, coat, root, on_muzzle, wet, rng))


def _neck(head: OtherHead, rng: np.random.Generator) -> tuple[Points, Points]:
    t, turn = rng.uniform(0, 1, TUFTS // 2), rng.uniform(0, 2 * np.pi, TUFTS // 2)
    upper, lower = np.array(
        [[0, -0.55 * head.long, -0.1 * head.high], [0, -1.3 * head.long, -3.6 * head.high]]
    )
    centre = np.outer(1 - t, upper) + np.outer(t, lower)
    radius = head.wide * (0.34 + 0.42 * t)
    way = np.column_stack([np.cos(turn), 0.9 * np.sin(turn), 0.35 * np.sin(turn)])
    return centre + radius[:, None] * way, way


def _colours(
    head: OtherHead,
    coat: OtherCoat,
    root: Points,
    on_muzzle: NDArray[np.bool_],
    wet: bool,
    rng: np.random.Generator,
) -> Points:
    waves = rng.normal(0, 0.03, (4, 3))
    patch = np.sin(root @ waves.T + rng.uniform(0, 6, 4)).sum(axis=1) / 4 > 1 - 2 * coat.patched
    colour = np.where(patch[:, None], coat.patch, coat.main)
    colour = np.where(on_muzzle[:, None], coat.muzzle, colour)
    return np.asarray(colour * rng.normal(1, 0.07, (len(root), 1)) * (0.55 if wet else 1.0))


def painted(head: OtherHead, coat: OtherCoat, shot: OtherShot, seed: int) -> tuple[Pixels, Pixels]:
    """The picture (height, width, 3) and its true mask (height, width), 255 where there is dog."""
    rng = np.random.default_rng(seed)
    picture, mask = room(shot, rng), np.zeros((shot.height, shot.width), np.uint8)
    strokes = [*_tuft_strokes(grown(head, coat, shot.wet, rng), coat, shot), *_face_strokes(head, shot)]
    for _, draw in sorted(strokes, key=lambda s: -s[0]):
        draw(picture, mask)
    seen = cv2.GaussianBlur(picture, (0, 0), 0.6).astype(float) + rng.normal(0, 3, picture.shape)
    return np.asarray(seen.clip(0, 255), np.uint8), mask


Stroke = tuple[float, Callable[[Pixels, Pixels], None]]


def _tuft_strokes(tufts: Tufts, coat: OtherCoat, shot: OtherShot) -> list[Stroke]:
    (root, depth), (tip, _) = pictured(tufts.root, shot), pictured(tufts.tip, shot)
    wide = coat.wide * (0.6 if shot.wet else 1.0) * shot.focal_px / depth
    way = tip - root
    long = np.maximum(np.linalg.norm(way, axis=1, keepdims=True), 1e-6)
    across = np.column_stack([-way[:, 1], way[:, 0]]) / long * wide[:, None] / 2
    lit = 0.55 + 0.5 * np.clip(tufts.normal @ (LAMP / np.linalg.norm(LAMP)), -0.3, 1)
    colours = (255 * np.clip(tufts.colour * lit[:, None], 0, 1)).round().astype(int)
    corners = np.stack([root - across, root + across, tip + 0.25 * across, tip - 0.25 * across], axis=1)
    return [(float(d), _fill(c, col.tolist())) for d, c, col in zip(depth, corners, colours, strict=True)]


def _face_strokes(head: OtherHead, shot: OtherShot) -> list[Stroke]:
    ball = np.random.default_rng(0).normal(size=(160, 3))
    ball /= np.linalg.norm(ball, axis=1, keepdims=True)
    strokes: list[Stroke] = []
    for _, side in SIDES:
        for share, colour, nearer in EYE:
            r = share * head.eye_mm
            at = head.eye(side) + [0.12 * side * r, nearer / 2, 0.1 * r]
            strokes.append(_blob(at, np.full(3, r), ball, colour, shot, 14.0 + nearer))
    nose = head.nose()
    strokes.append(_blob(nose, np.array([head.nose_wide / 2, 7.0, 8.0]), ball, (26, 22, 23), shot, 9.0))
    for _, side in SIDES:
        strokes.append(
            _blob(nose + [side * 5.0, 6.0, -2.0], np.array([2.4, 2.0, 1.8]), ball, (4, 3, 3), shot, 12.0)
        )
    marks = head.marks()
    for side_name, _ in SIDES:
        front, corner = marks["lip_front"], marks[f"mouth_corner_{side_name}"]
        line = np.array([front, 0.5 * (front + corner) - [0, 0, 2.0], corner])
        at, depth = pictured(line, shot)
        strokes.append((float(depth.mean()) - 8.0, _line(at)))
    return strokes


def _blob(
    centre: Points, radii: Points, ball: Points, colour: tuple[int, int, int], shot: OtherShot, nearer: float
) -> Stroke:
    at, _ = pictured(centre + ball * radii, shot)
    _, depth = pictured(centre[None], shot)
    return float(depth[0]) - nearer, _fill(cv2.convexHull(at.astype(np.float32))[:, 0], list(colour))


def _fill(corners: Points, colour: list[int]) -> Callable[[Pixels, Pixels], None]:
    fixed = np.round(corners * 16).astype(np.int32)

    def draw(picture: Pixels, mask: Pixels) -> None:
        cv2.fillConvexPoly(picture, fixed, colour, cv2.LINE_AA, 4)
        cv2.fillConvexPoly(mask, fixed, 255, cv2.LINE_AA, 4)

    return draw


def _line(at: Points) -> Callable[[Pixels, Pixels], None]:
    def draw(picture: Pixels, mask: Pixels) -> None:
        cv2.polylines(picture, [np.round(at).astype(np.int32)], False, (30, 22, 22), 2, cv2.LINE_AA)

    return draw


def room(shot: OtherShot, rng: np.random.Generator) -> Pixels:
    """Tiles or planks, a towel's edge, a bright window: out of focus."""
    h, w = shot.height, shot.width
    ground = np.ones((h, w, 3)) * rng.uniform(70, 210, 3)
    step = int(rng.integers(40, 110))
    ground[(np.arange(h) // 3) % step < 2] *= 0.8
    ground[:, (np.arange(w) // 3) % step < 2] *= 0.85
    for _ in range(6):
        x, y = rng.integers(0, w), rng.integers(0, h)
        ground[y : y + rng.integers(20, 160), x : x + rng.integers(20, 200)] = rng.uniform(30, 240, 3)
    return np.asarray(cv2.GaussianBlur(ground, (0, 0), 7).clip(0, 255), np.uint8)
