"""A head and its marks from proportions: skin as a field, marks on it, eyes and nose beside it."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from .dog import HeadForm, Vec, side_of
from .field import capsule, carve, ellipsoid, smooth_union, sphere

Points = NDArray[np.float64]
SIDES = (("right", 1.0), ("left", -1.0))
LID_MM = 0.9


@dataclass(frozen=True)
class EarForm:
    """The leather's spine: root on the skull, the fold (or half way), tip. Radii beside it, mm."""

    root: Points
    mid: Points
    tip: Points
    base_mm: float
    fold_mm: float
    tip_mm: float
    end: Points


def eye_centre(head: HeadForm, side: float) -> Points:
    head = side_of(head, side)
    return np.array([side * (head.eye_spacing / 2 + 8.0), -6.0, 2.0 + head.eye_lift])


def eye_corners(head: HeadForm, side: float) -> tuple[Points, Points]:
    """Inner and outer corner of the lids, a little proud of the eyeball."""
    eye, r = eye_centre(head, side), side_of(head, side).eye_radius
    return eye + [-side * r * 0.92, r * 0.55, -1.0], eye + [side * r * 1.0, -r * 0.05, 1.5]


@dataclass(frozen=True)
class EyeAxes:
    """Where an eye looks and how its lids lie; half: half the opening's width, mm."""

    centre: Points
    across: Points
    up: Points
    gaze: Points
    half: float


def eye_axes(head: HeadForm, side: float) -> EyeAxes:
    centre, r = eye_centre(head, side), side_of(head, side).eye_radius
    inner, outer = eye_corners(head, side)
    across = (outer - inner) / np.linalg.norm(outer - inner)
    gaze = (inner + outer) / 2 - centre + np.array([0.0, 0.35 * r, 0.0])
    gaze -= (gaze @ across) * across
    gaze /= np.linalg.norm(gaze)
    up = np.cross(across, gaze)
    return EyeAxes(centre, across, up if up[2] > 0 else -up, gaze, float(np.linalg.norm(outer - inner)) / 2)


def outside_lids(head: HeadForm, side: float, p: Points) -> Points:
    """mm outside the lids' almond opening at points on the eye (negative inside it)."""
    eye = eye_axes(head, side)
    d = p - eye.centre
    s = np.clip((d @ eye.across) / eye.half, -1.3, 1.3)
    h = d @ eye.up
    lift = np.where(h > 0, 0.66, 0.50) * eye.half * np.maximum(1 - np.abs(s) ** 2.2, -0.4)
    return np.where(d @ eye.gaze > 0, np.abs(h) - lift, 5.0)


def nose_centre(head: HeadForm) -> Points:
    return np.array([0.0, head.muzzle_length - 3.0, -head.muzzle_drop + 4.0])


EAR_BACK_MM = {"prick": -52.0, "tipped": -52.0, "button": -54.0, "drop": -62.0}


def ear_form(head: HeadForm, side: float) -> EarForm:
    head = side_of(head, side)
    kind, long_ = head.ear_kind, head.ear_length
    root = np.array([side * head.ear_spread, EAR_BACK_MM[kind], head.ear_height])
    if kind == "prick":
        tip = root + np.array([side * head.ear_lean, -2.0, long_])
        return EarForm(root, (root + tip) / 2, tip, 19, 11, 3.5, tip + [0, 0, 3.0])
    if kind == "drop":
        mid = root + np.array([side * 15.0, 2.0, -8.0])
        tip = mid + np.array([side * 5.0, 6.0, -long_])
        return EarForm(root, mid, tip, 15, 14, 22, tip + [0, 0, -20.0])
    upright, fall = (0.68, (0.10, 0.62, -0.55)) if kind == "tipped" else (0.40, (0.32, 0.55, -0.75))
    mid = root + np.array([side * (0.24 if kind == "tipped" else 0.42), 0.06, 0.95]) * long_ * upright
    hang = np.array([side * fall[0], fall[1], fall[2]])
    tip = mid + hang / np.linalg.norm(hang) * long_ * (1 - upright)
    return EarForm(root, mid, tip, 18, 12, 4.5, tip + hang / np.linalg.norm(hang) * 4.0)


def skull_field(head: HeadForm, p: Points) -> Points:
    """Head without ears, neck or chest."""
    half = head.skull_width / 2
    skull = ellipsoid(
        p, (0, -head.skull_length / 2 + 2, 2), (half - 5, head.skull_length / 2 + 4, head.crown_height)
    )
    low = -head.muzzle_drop
    muzzle = capsule(
        p,
        (0, -6, low - 4),
        (0, head.muzzle_length - 14, low - 6),
        head.muzzle_width * 0.62,
        head.muzzle_width * 0.40,
    )
    jaw = capsule(p, (0, -30, low - 26), (0, head.muzzle_length - 22, low - 22), 17, 10)
    d = smooth_union(skull, muzzle, 16)
    d = smooth_union(d, jaw, 14)
    deep = head.stop_depth - 8.0
    for _, side in SIDES:
        own = side_of(head, side)
        d = smooth_union(d, sphere(p, (side * (half - 22 + own.cheek_bulge), -34, -14), 22), 14)
        brow = (side * own.eye_spacing * 0.52, -9 + 0.3 * deep, 13 + 0.6 * deep + own.eye_lift)
        d = smooth_union(d, sphere(p, brow, 11), 12)
    for _, side in SIDES:
        socket = eye_centre(head, side) + np.array([side * 2.0, 5.0, 0.0])
        d = carve(d, sphere(p, tuple(socket), side_of(head, side).eye_radius + 0.5), 5)
    return d


def ear_field(head: HeadForm, p: Points, side: float) -> Points:
    ear = ear_form(head, side)
    if head.ear_kind == "prick":
        return capsule(
            p, tuple(ear.root - [0, 0, 8]), tuple(ear.tip), 19 * head.ear_wide, 3.5, (1.0, 2.6, 1.0)
        )
    if head.ear_kind == "drop":
        upper = capsule(p, tuple(ear.root - [side * 8, 0, 0]), tuple(ear.mid), 15, 13, (1.0, 1.0, 1.5))
        flap = capsule(p, tuple(ear.mid), tuple(ear.tip), 15, 22, (2.8, 1.0, 1.0))
        return smooth_union(upper, flap, 8)
    upper = capsule(p, tuple(ear.root - [0, 0, 8]), tuple(ear.mid), ear.base_mm, ear.fold_mm, (1.0, 2.4, 1.0))
    flap = capsule(p, tuple(ear.mid), tuple(ear.tip), ear.fold_mm, ear.tip_mm, (1.0, 2.0, 1.6))
    return smooth_union(upper, flap, 5)


def body_field(head: HeadForm, p: Points) -> Points:
    neck = capsule(p, (0, -head.skull_length + 20, -20), (0, -head.skull_length - 45, -135), 37, 56)
    chest = ellipsoid(p, (0, -head.skull_length - 70, -215), (86, 120, 110))
    return smooth_union(neck, chest, 30)


def skin_field(head: HeadForm, p: Points) -> Points:
    d = smooth_union(skull_field(head, p), body_field(head, p), 22)
    for _, side in SIDES:
        d = smooth_union(d, ear_field(head, p, side), 8)
    return d


def gradient(head: HeadForm, p: Points) -> Points:
    """Outward unit normals of the skin at p, by central differences of its field."""
    n = np.stack([skin_field(head, p + e) - skin_field(head, p - e) for e in np.eye(3) * 0.6], axis=1)
    return n / np.maximum(np.linalg.norm(n, axis=1, keepdims=True), 1e-9)


def lip_line_mm(head: HeadForm, p: Points) -> Points:
    """mm from the line where the lips close, from under the nose to the mouth's corners."""
    found = marks_of_mouth(head)
    front, (_, y_corner, z_corner) = found
    t = np.clip((p[:, 1] - y_corner) / (front[1] - y_corner), 0.0, 1.0)
    z = z_corner + t * (front[2] - 4.0 - z_corner) - 2.5 * np.sin(np.pi * t)
    return np.hypot(p[:, 2] - z, np.minimum(p[:, 1] - y_corner, 0.0))


def marks_of_mouth(head: HeadForm) -> tuple[Points, Points]:
    """Front of the upper lip and (mean) corner of the mouth."""
    low = -head.muzzle_drop
    front = onto_skin(head, np.array([0, 10.0, low - 14]), (0, 1, -0.04))
    return front, onto_skin(head, np.array([0, 4.0, low - 16]), (1.0, -0.1, -0.05))


def onto_skin(head: HeadForm, start: Points, toward: Vec) -> Points:
    """The last place a ray from inside leaves the skull: a mark on the skin."""
    direction = np.asarray(toward, float) / np.linalg.norm(toward)
    t = np.linspace(0.0, 160.0, 1601)
    inside = skull_field(head, start + t[:, None] * direction) < 0.0
    return start + t[np.flatnonzero(inside).max()] * direction


def marks(head: HeadForm) -> dict[str, Points]:
    """True marks (mm) in the modelling frame; `truth.py` turns them into the head frame."""
    low = -head.muzzle_drop
    inner = np.array([0.0, -40.0, 0.0])
    nose = nose_centre(head)
    found = {
        "nose_tip": nose + [0, 7.5, -1.0],
        "nose_top": nose + [0, -4.0, 7.5],
        "stop": onto_skin(head, np.array([0, -30.0, 0]), (0, 1, 0.10)),
        "crown": onto_skin(head, inner, (0, 0, 1)),
        "occiput": onto_skin(head, np.array([0, -50.0, 4.0]), (0, -1, 0.22)),
        "lip_front": onto_skin(head, np.array([0, 10.0, low - 14]), (0, 1, -0.04)),
        "chin": onto_skin(head, np.array([0, 0.0, low - 24]), (0, 1, -0.12)),
        "throat": onto_skin(head, np.array([0, -34.0, -20]), (0, -0.15, -1)),
    }
    for name, side in SIDES:
        own, ear = side_of(head, side), ear_form(head, side)
        inner_corner, outer_corner = eye_corners(head, side)
        paired = {
            "eye_inner": inner_corner,
            "eye_outer": outer_corner,
            "mouth_corner": onto_skin(head, np.array([0, 4.0, low - 16]), (side, -0.1, -0.05)),
            "cheek": onto_skin(head, np.array([0, -34.0, -14]), (side, 0, 0)),
            "ear_front": onto_skin(
                head, np.array([0, -38.0, 0]), (side * (own.ear_spread + 4), 0, own.ear_height)
            ),
            "ear_back": onto_skin(
                head, np.array([0, -68.0, 0]), (side * (own.ear_spread + 6), 0, own.ear_height - 4)
            ),
            "ear_tip": ear.end,
            "jaw_angle": onto_skin(head, np.array([0, -40.0, low - 16]), (side, 0, -0.45)),
        }
        found |= {f"{key}_{name}": np.asarray(value, float) for key, value in paired.items()}
    return {key: np.asarray(value, float) for key, value in found.items()}
