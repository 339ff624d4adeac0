"""A finished photo's camera. The bone is known by then, so the camera is all that is solved, and eyes and nose are
enough."""

from __future__ import annotations

from collections.abc import Sequence
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
REACH: Final = 100.0 * STEPS
"""How far a camera may be off where its marks are first put on a head of usual pose."""
HELD_DEG: Final = 14.0
"""How far a head is held off straight for its view (σ), each way it may turn."""
USUAL_MM, USUAL_SPREAD = 850.0, 0.35
"""From how far heads are photographed, and how far that differs (σ of its logarithm)."""
AGAIN_SPREAD: Final = 0.15
"""The same where somebody has just photographed this head: they stand about there again."""
STEADY_DOF: Final = 4.0
"""How much it takes for marks to say by themselves that they are surer, or less sure, than told."""
STEADIEST: Final = 0.25
"""Marks are at most so much surer than told (share of their σ)."""
GUESSED: Final = 0.5
"""What the machine guesses it tells about twice too wide (docs/photos.md): what is expected of its marks before they
say so themselves, as a share of their σ."""
EXPECTED: Final = 5
"""What is expected of a camera besides its marks: three turns, its distance, its focal length."""
SETTLED: Final = 1e-7
"""A camera is found where a round moves it by so small a share."""
LOST_MM: Final = 12.0
"""Marks that miss the known bone by more than this (rms) were not put on this dog."""


@dataclass(frozen=True)
class FoundCamera:
    """A camera on known bone and the covariance (MOVES, MOVES) of how it may be off; off_mm: how far its marks miss
    the bone (rms), off_sigma (K,) the same mark by mark in σ, across and down."""

    camera: Camera
    covariance: Array
    off_mm: float
    off_sigma: Array

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


def cameras_on(
    head: HeadSolution, photos: Sequence[PhotoMarks], stood_mm: float | None = None
) -> dict[str, FoundCamera | Finding]:
    """The cameras of photos of one head by name, or why one has none. How sure marks really are, all photos tell
    together: found by one eye on one day, they are as steady in each."""
    first = {photo.name: camera_on(head, photo, stood_mm) for photo in photos}
    guessed = [at.sigma_px is not None for photo in photos for at in photo.marks.values()]
    expected = 1.0 - (1.0 - GUESSED) * float(np.mean(guessed)) if guessed else 1.0
    steady = _steadiness([one for one in first.values() if isinstance(one, FoundCamera)], expected)
    return {photo.name: camera_on(head, photo, stood_mm, steady) for photo in photos}


def _steadiness(found: Sequence[FoundCamera], expected: float) -> float:
    """How many times their told σ the marks really miss by; expected: so many."""
    dof = sum(len(one.off_sigma) + EXPECTED - MOVES for one in found)
    missed = sum(float((one.off_sigma**2).sum()) for one in found)
    share = np.sqrt((STEADY_DOF * expected**2 + missed) / (STEADY_DOF + dof))
    return max(float(share), STEADIEST)


def camera_on(
    head: HeadSolution, photo: PhotoMarks, stood_mm: float | None = None, steady: float = 1.0
) -> FoundCamera | Finding:
    """The camera of a photo of a measured head (head frame), or why there is none. stood_mm: from how far the same head
    was just photographed. How a head is held and from how far is expected loosely: eyes and nose lie nearly in a plane
    and tell little of either. steady: by how much marks are less sure than told."""
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
    sigma = _spread_px(head, photo, first, ids, steady)
    expected_mm, spread = (stood_mm, AGAIN_SPREAD) if stood_mm else (USUAL_MM, USUAL_SPREAD)

    def misses(by: Array) -> Array:
        camera = moved(first, by)
        off = (camera.project(head.points_mm[ids]) - at) / sigma[:, None]
        held = np.array(camera.angles_deg(photo.view)) / HELD_DEG
        far = np.log(camera.distance_mm / expected_mm) / spread
        return np.concatenate([np.nan_to_num(off, nan=1e3).ravel(), held, [far, by[6] / photo.focal_spread]])

    found = least_squares(misses, np.zeros(MOVES), loss="soft_l1", x_scale=REACH, xtol=SETTLED, ftol=SETTLED)
    camera = moved(first, found.x)
    # The slopes are those of moves of the first camera; near a solution they are those of its own.
    covariance = np.linalg.inv(found.jac.T @ found.jac + np.diag(1e-9 / STEPS**2))
    off = misses(found.x)[: 2 * len(ids)]
    off_mm = float(np.sqrt((off**2 * np.repeat(sigma, 2) ** 2).mean()) / camera.px_a_mm)
    if off_mm > LOST_MM:
        message = f"{photo.name}: its marks do not fit this dog’s head. Check them, or take the photo again."
        return Finding("other_head", message, photo.name, leaves_photo_out=True)
    return FoundCamera(_frozen(camera), frozen(covariance), off_mm, frozen(off))


def _spread_px(head: HeadSolution, photo: PhotoMarks, camera: Camera, ids: Array, steady: float) -> Array:
    """How far (K,) each mark may miss: by the hand, and because its bone is known so well and no better. σ, px."""
    px, mm = np.array([m.spread(name, photo.longer_side_px) for name, m in photo.marks.items()]).T
    known = np.sqrt((head.sigma_mm[ids] ** 2).mean(axis=1))
    return np.asarray(np.hypot(steady * np.hypot(px, mm * camera.px_a_mm), known * camera.px_a_mm))


def _frozen(camera: Camera) -> Camera:
    return replace(camera, rotation=frozen(camera.rotation), translation_mm=frozen(camera.translation_mm))
