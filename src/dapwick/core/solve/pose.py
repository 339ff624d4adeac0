"""A photo's camera before the solve, and whether the photo can be what it is said to be."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Final

import numpy as np

from dapwick.core.basics.arrays import Array
from dapwick.core.basics.camera import nominal_rotation
from dapwick.core.basics.findings import Finding
from dapwick.core.basics.marks import INDEX, VIEWS, View, view_words, words_for
from dapwick.core.solve.observations import PhotoMarks

MIN_MARKS: Final = 4
TURNED_TOO_FAR_DEG: Final = 60.0
FITS_WELL: Final = 0.2
"""Misfit under which no other view is tried: one that would have to fit several times better."""
ROUNDS: Final = 14
SETTLED: Final = 1e-3
LEFT_OF_RIGHT: Final[dict[View, float]] = {"front": 1.0, "back": -1.0, "top": -1.0}
"""Sign of (x of a left mark - x of its right partner) on a true photo of that view."""
NOSE_SIDE: Final[dict[View, float]] = {
    "left": -1.0,
    "right": 1.0,
    "three_quarter_left": -1.0,
    "three_quarter_right": 1.0,
}
FAR_SIDE: Final[dict[View, str]] = {"left": "_right", "right": "_left"}


@dataclass(frozen=True)
class Pose:
    """rotation (3, 3) head to camera, translation_mm (3,), misfit_share: rms over the marks' spread."""

    rotation: Array
    translation_mm: Array
    misfit_share: float


def fit_pose(points_mm: Array, photo: PhotoMarks, start: View) -> Pose:
    """The pose found from one nominal view. points_mm (marks, 3)."""
    return fit_poses(points_mm, photo, (start,))[0]


def fit_poses(points_mm: Array, photo: PhotoMarks, starts: Sequence[View]) -> list[Pose]:
    """Weak-perspective poses, one from each nominal view: depth from the current turn, then Procrustes.

    points_mm (marks, 3) is any head of about the right shape (DeMenthon and Davis, 1995, with the
    rotation kept orthonormal by an SVD).
    """
    ids = [INDEX[m] for m in photo.marks]
    middle_mm = points_mm[ids].mean(axis=0)
    head = points_mm[ids] - middle_mm
    seen = np.array([[m.x_px, m.y_px] for m in photo.marks.values()])
    middle = seen.mean(axis=0)
    seen = seen - middle
    least = max(1e-3 * float(np.abs(seen).max()) / max(float(np.abs(head).max()), 1e-9), 1e-6)
    rotation = np.stack([nominal_rotation(start) for start in starts])
    scale = np.ones(len(starts))
    for _ in range(ROUNDS):
        turned = head @ rotation.swapaxes(1, 2)
        flat = turned[..., :2]
        scale = (flat * seen).sum(axis=(1, 2)) / np.maximum((flat**2).sum(axis=(1, 2)), 1e-9)
        scale = np.maximum(scale, least)
        lifted = np.concatenate([seen / scale[:, None, None], turned[..., 2:]], axis=2)
        u, _, vt = np.linalg.svd(lifted.swapaxes(1, 2) @ head)
        u[:, :, 2] *= np.linalg.det(u @ vt)[:, None]
        before, rotation = rotation, u @ vt
        if float(np.abs(rotation - before).max()) < SETTLED:
            break
    left_over = seen - scale[:, None, None] * (head @ rotation.swapaxes(1, 2))[..., :2]
    misfit = np.sqrt((left_over**2).mean(axis=(1, 2)) / max(float((seen**2).mean()), 1e-9))
    depth = photo.focal_guess_px / scale
    ray = (middle - [photo.width_px / 2, photo.height_px / 2]) / photo.focal_guess_px
    centre = depth[:, None] * [ray[0], ray[1], 1.0]
    shift = centre - rotation @ middle_mm
    return [Pose(r, t, float(m)) for r, t, m in zip(rotation, shift, misfit, strict=True)]


def photo_findings(points_mm: Array, photo: PhotoMarks) -> list[Finding]:
    """Why this photo cannot be used as it is labelled; empty when it can. points_mm (marks, 3)."""
    few = _too_few(photo)
    if few:
        return few
    return _swapped(photo) or _wrong_view(points_mm, photo) or _outside(photo)


def _too_few(photo: PhotoMarks) -> list[Finding]:
    n = len({(m.x_px, m.y_px) for m in photo.marks.values()})
    if n >= MIN_MARKS:
        return []
    message = (
        f"{photo.name}: {n} marks placed, at least {MIN_MARKS} in different places are needed. "
        "Place the eyes and nose first."
    )
    return [Finding("too_few_marks", message, photo.name, leaves_photo_out=True)]


def _swapped(photo: PhotoMarks) -> list[Finding]:
    expected = LEFT_OF_RIGHT.get(photo.view)
    if expected is not None:
        pairs = [
            (m.removesuffix("_left"), photo.marks[m].x_px - photo.marks[m.replace("_left", "_right")].x_px)
            for m in photo.marks
            if m.endswith("_left") and m.replace("_left", "_right") in photo.marks
        ]
        wrong = [name for name, dx in pairs if dx * expected < 0]
        if pairs and len(wrong) * 2 > len(pairs):
            return [
                Finding(
                    "sides_swapped",
                    f"{photo.name}: left and right are swapped, or the photo is mirrored. "
                    "Left is always the dog's own left. Swap the sides, or turn mirroring off in the camera.",
                    photo.name,
                    leaves_photo_out=True,
                )
            ]
        return [
            Finding(
                "pair_swapped",
                f"{photo.name}: {words_for(f'{name}_left')} and its partner on the right "
                "have changed places. Swap the two.",
                photo.name,
                f"{name}_left",
            )
            for name in wrong
        ]
    far = FAR_SIDE.get(photo.view)
    paired = [m for m in photo.marks if m.endswith(("_left", "_right"))]
    if far and len(paired) >= 2 and sum(m.endswith(far) for m in paired) * 2 > len(paired):
        return [
            Finding(
                "sides_swapped",
                f"{photo.name}: a photo of the {photo.view} side carries marks of the other "
                "side. Left is always the dog's own left. Swap the sides, or move the photo to the other slot.",
                photo.name,
                leaves_photo_out=True,
            )
        ]
    return []


def _wrong_view(points_mm: Array, photo: PhotoMarks) -> list[Finding]:
    side = NOSE_SIDE.get(photo.view)
    rear = [
        photo.marks[m].x_px for m in photo.marks if m.startswith(("occiput", "ear", "cheek", "jaw", "throat"))
    ]
    if side and "nose_tip" in photo.marks and rear:
        if (photo.marks["nose_tip"].x_px - float(np.mean(rear))) * side < 0:
            other = "right" if "left" in photo.view else "left"
            return [
                _view_finding(
                    photo,
                    f"the nose points the wrong way: this shows the dog's {other} side, "
                    "or the photo is mirrored",
                )
            ]
        return []
    as_said = fit_pose(points_mm, photo, photo.view)
    turned = _angle_deg(as_said.rotation @ nominal_rotation(photo.view).T)
    if turned <= TURNED_TOO_FAR_DEG and as_said.misfit_share < FITS_WELL:
        return []
    poses = dict(zip(VIEWS, fit_poses(points_mm, photo, VIEWS), strict=True))
    best = min(poses, key=lambda view: poses[view].misfit_share)
    if turned > TURNED_TOO_FAR_DEG or poses[best].misfit_share < 0.4 * as_said.misfit_share - 0.03:
        return [_view_finding(photo, f"the marks fit a photo from the {view_words(best)} far better")]
    return []


def _view_finding(photo: PhotoMarks, why: str) -> Finding:
    label = view_words(photo.view)
    return Finding(
        "wrong_view",
        f"{photo.name}: labelled {label}, but {why}. Move it to the right slot, or check the marks.",
        photo.name,
        leaves_photo_out=True,
    )


def _outside(photo: PhotoMarks) -> list[Finding]:
    """A mark may lie a little outside (a cropped ear), not a photo's width away."""
    w, h = photo.width_px, photo.height_px
    return [
        Finding(
            "mark_outside_photo",
            f"{photo.name}: {words_for(m)} lies far outside the photo. Place it again.",
            photo.name,
            m,
        )
        for m, at in photo.marks.items()
        if not (-0.5 * w <= at.x_px <= 1.5 * w and -0.5 * h <= at.y_px <= 1.5 * h)
    ]


def _angle_deg(rotation: Array) -> float:
    return math.degrees(math.acos(float(np.clip((np.trace(rotation) - 1) / 2, -1, 1))))
