"""A finished photo's camera. The bone is known by then, so the camera is all that is solved, and eyes and nose are
enough."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Final

import numpy as np
from scipy.optimize import least_squares

from dapwick.core.basics.arrays import Array, frozen
from dapwick.core.basics.camera import Camera, rotation_from
from dapwick.core.basics.findings import Finding
from dapwick.core.basics.marks import INDEX
from dapwick.core.solve.joint import HeadSolution
from dapwick.core.solve.observations import PhotoMarks
from dapwick.core.solve.pose import fit_pose, photo_findings

MOVES: Final = 7
"""Ways a camera may be off: three turns (rad), three shifts (mm), and the logarithm of its focal length."""
STEPS: Final = np.array([1e-3, 1e-3, 1e-3, 0.2, 0.2, 0.2, 1e-3])
"""Small moves of each, to read slopes by."""
LOST_MM: Final = 12.0
"""Marks that miss the known bone by more than this (rms) were not put on this dog."""


@dataclass(frozen=True)
class FoundCamera:
    """A camera on known bone and the covariance (MOVES, MOVES) of how it may be off; off_mm: how far its marks miss
    the bone (rms)."""

    camera: Camera
    covariance: Array
    off_mm: float

    def moved(self, by: Array) -> Camera:
        """The camera after a small move (MOVES,)."""
        return moved(self.camera, by)


def moved(camera: Camera, by: Array) -> Camera:
    """A camera after a small move (MOVES,): turned and shifted in its own frame, its focal length changed."""
    return replace(
        camera,
        rotation=rotation_from(by[:3]) @ camera.rotation,
        translation_mm=camera.translation_mm + by[3:6],
        focal_px=camera.focal_px * float(np.exp(by[6])),
    )


def camera_on(head: HeadSolution, photo: PhotoMarks) -> FoundCamera | Finding:
    """The camera of a photo of a measured head (head frame), or why there is none."""
    findings = photo_findings(head.points_mm, photo)
    hopeless = next((f for f in findings if f.leaves_photo_out), None)
    if hopeless:
        return hopeless
    ids = np.array([INDEX[mark] for mark in photo.marks])
    start = fit_pose(head.points_mm, photo, photo.view)
    first = Camera(
        start.rotation, start.translation_mm, photo.focal_guess_px, photo.width_px, photo.height_px
    )
    at = np.array([[m.x_px, m.y_px] for m in photo.marks.values()])
    sigma = _spread_px(head, photo, first, ids)

    def misses(by: Array) -> Array:
        off = (moved(first, by).project(head.points_mm[ids]) - at) / sigma[:, None]
        return np.append(np.nan_to_num(off, nan=1e3).ravel(), by[6] / photo.focal_spread)

    found = least_squares(misses, np.zeros(MOVES), loss="soft_l1", x_scale=STEPS)
    camera = moved(first, found.x)
    # The slopes are those of moves of the first camera; near a solution they are those of its own.
    covariance = np.linalg.inv(found.jac.T @ found.jac + np.diag(1e-9 / STEPS**2))
    off_mm = float(np.sqrt((misses(found.x)[:-1] ** 2 * np.repeat(sigma, 2) ** 2).mean()) / camera.px_a_mm)
    if off_mm > LOST_MM:
        message = f"{photo.name}: its marks do not fit this dog’s head. Check them, or take the photo again."
        return Finding("other_head", message, photo.name, leaves_photo_out=True)
    return FoundCamera(_frozen(camera), frozen(covariance), off_mm)


def _spread_px(head: HeadSolution, photo: PhotoMarks, camera: Camera, ids: Array) -> Array:
    """How far (K,) each mark may miss: by the hand, and because its bone is known so well and no better. σ, px."""
    px, mm = np.array([m.spread(name, photo.longer_side_px) for name, m in photo.marks.items()]).T
    known = np.sqrt((head.sigma_mm[ids] ** 2).mean(axis=1))
    return np.asarray(np.hypot(px, np.hypot(mm, known) * camera.px_a_mm))


def _frozen(camera: Camera) -> Camera:
    return replace(camera, rotation=frozen(camera.rotation), translation_mm=frozen(camera.translation_mm))
