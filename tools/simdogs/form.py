"""A head and its marks from proportions: skin as a mesh, marks on it, eyes and nose beside it."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from skimage.measure import marching_cubes

from .dogs import HeadForm, Vec
from .field import capsule, carve, ellipsoid, smooth_union, sphere

Points = NDArray[np.float64]
SIDES = (("right", 1.0), ("left", -1.0))


@dataclass(frozen=True)
class EarForm:
    root: Points
    mid: Points
    tip: Points


@dataclass(frozen=True)
class SkinMesh:
    vertices: Points
    faces: NDArray[np.int64]
    normals: Points


def eye_centre(head: HeadForm, side: float) -> Points:
    return np.array([side * (head.eye_spacing / 2 + 8.0), -6.0, 2.0])


def nose_centre(head: HeadForm) -> Points:
    return np.array([0.0, head.muzzle_length - 3.0, -head.muzzle_drop + 4.0])


def ear_form(head: HeadForm, side: float) -> EarForm:
    root = np.array([side * head.ear_spread, -52.0 if head.ear_kind == "prick" else -62.0, head.ear_height])
    if head.ear_kind == "prick":
        tip = root + np.array([side * 14.0, -2.0, head.ear_length])
        return EarForm(root, (root + tip) / 2, tip)
    mid = root + np.array([side * 15.0, 2.0, -8.0])
    return EarForm(root, mid, mid + np.array([side * 5.0, 6.0, -head.ear_length]))


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
    for _, side in SIDES:
        bulge = head.cheek_bulge_left if side < 0 else 0.0
        d = smooth_union(d, sphere(p, (side * (half - 22 + bulge), -34, -14), 22), 14)
        d = smooth_union(d, sphere(p, (side * head.eye_spacing * 0.52, -9, 13), 11), 12)
    for _, side in SIDES:
        socket = eye_centre(head, side) + np.array([side * 2.0, 5.0, 0.0])
        d = carve(d, sphere(p, tuple(socket), head.eye_radius + 0.5), 5)
    return d


def ear_field(head: HeadForm, p: Points, side: float) -> Points:
    ear = ear_form(head, side)
    if head.ear_kind == "prick":
        return capsule(p, tuple(ear.root - [0, 0, 8]), tuple(ear.tip), 19, 3.5, (1.0, 2.6, 1.0))
    upper = capsule(p, tuple(ear.root - [side * 8, 0, 0]), tuple(ear.mid), 15, 13, (1.0, 1.0, 1.5))
    flap = capsule(p, tuple(ear.mid), tuple(ear.tip), 15, 22, (2.8, 1.0, 1.0))
    return smooth_union(upper, flap, 8)


def body_field(head: HeadForm, p: Points) -> Points:
    neck = capsule(p, (0, -head.skull_length + 20, -20), (0, -head.skull_length - 45, -135), 37, 56)
    chest = ellipsoid(p, (0, -head.skull_length - 70, -215), (86, 120, 110))
    return smooth_union(neck, chest, 30)


def skin_field(head: HeadForm, p: Points) -> Points:
    d = smooth_union(skull_field(head, p), body_field(head, p), 22)
    for _, side in SIDES:
        d = smooth_union(d, ear_field(head, p, side), 8)
    return d


def skin_mesh(head: HeadForm, step_mm: float = 2.5) -> SkinMesh:
    lo, hi = np.array([-125.0, -280.0, -260.0]), np.array([125.0, 100.0, 125.0])
    axes = [np.arange(a, b, step_mm) for a, b in zip(lo, hi, strict=True)]
    grid = np.stack(np.meshgrid(*axes, indexing="ij"), axis=-1)
    values = skin_field(head, grid.reshape(-1, 3)).reshape(grid.shape[:3])
    vertices, faces, _, _ = marching_cubes(values, 0.0, spacing=(step_mm,) * 3)
    vertices = vertices + lo
    return SkinMesh(vertices, faces.astype(np.int64), gradient(head, vertices))


def gradient(head: HeadForm, p: Points) -> Points:
    """Outward unit normals of the skin at p, by central differences of its field."""
    n = np.stack([skin_field(head, p + e) - skin_field(head, p - e) for e in np.eye(3) * 0.6], axis=1)
    return n / np.maximum(np.linalg.norm(n, axis=1, keepdims=True), 1e-9)


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
        eye = eye_centre(head, side)
        ear = ear_form(head, side)
        r = head.eye_radius
        paired = {
            "eye_inner": eye + [-side * r * 0.92, r * 0.55, -1.0],
            "eye_outer": eye + [side * r * 1.0, -r * 0.05, 1.5],
            "mouth_corner": onto_skin(head, np.array([0, 4.0, low - 16]), (side, -0.1, -0.05)),
            "cheek": onto_skin(head, np.array([0, -34.0, -14]), (side, 0, 0)),
            "ear_front": onto_skin(
                head, np.array([0, -38.0, 0]), (side * (head.ear_spread + 4), 0, head.ear_height)
            ),
            "ear_back": onto_skin(
                head, np.array([0, -68.0, 0]), (side * (head.ear_spread + 6), 0, head.ear_height - 4)
            ),
            "ear_tip": ear.tip + np.array([0, 0, 3.0 if head.ear_kind == "prick" else -20.0]),
            "jaw_angle": onto_skin(head, np.array([0, -40.0, low - 16]), (side, 0, -0.45)),
        }
        found |= {f"{key}_{name}": np.asarray(value, float) for key, value in paired.items()}
    return {key: np.asarray(value, float) for key, value in found.items()}
