"""What is wrong with a photo for measuring, and what to do about it."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Final

import cv2
import numpy as np

from dapwick.core.basics.arrays import Array
from dapwick.core.basics.camera import Camera
from dapwick.core.basics.findings import Finding
from dapwick.core.basics.marks import View, view_words
from dapwick.vision.photo import Pixels

WORK_SIDE_PX: Final = 640
REBLUR_PX: Final = 9
BLURRED_BELOW: Final = 0.30
DARK_LEVEL, BURNT_LEVEL = 12, 252
DARK_SHARE, BURNT_SHARE = 0.60, 0.12
MEDIAN_TOO_DARK: Final = 26.0
COARSEST_MM_PER_PX: Final = 0.55
NEAREST_MM: Final = 450.0
"""Told only when surely nearer than an arm's length: a distance guessed from one photo is good to a third."""
MUZZLE_AHEAD_MM, EARS_BEHIND_MM = 60.0, 50.0
MOST_TURN_DEG, MOST_TILT_DEG = 25.0, 25.0
LEAST_CONTRAST: Final = 14.0
RIM_SHARE: Final = 0.04
Box = tuple[int, int, int, int]


@dataclass(frozen=True)
class Quality:
    """sharpness 0 (smeared) to 1; dark and burnt: shares of the head's box; median 0..255 of it."""

    sharpness: float
    dark: float
    burnt: float
    median: float


def quality_of(rgb: Pixels, box: Box | None = None) -> Quality:
    """Measured in a box (left, top, right, bottom; px) round the head, or in the photo's middle."""
    left, top, right, bottom = box or _middle(rgb)
    part = rgb[max(top, 0) : max(bottom, top + 2), max(left, 0) : max(right, left + 2)]
    scale = min(1.0, WORK_SIDE_PX / max(rgb.shape[:2]))
    small = cv2.resize(part, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA) if scale < 1 else part
    grey = np.asarray(cv2.cvtColor(small, cv2.COLOR_RGB2GRAY), np.uint8)
    return Quality(
        sharpness_of(grey),
        float((grey < DARK_LEVEL).mean()),
        float((grey > BURNT_LEVEL).mean()),
        float(np.median(grey)),
    )


def sharpness_of(grey: Pixels) -> float:
    """Share of the fine differences that blurring once more would take away: what is smeared already
    has little to lose (after Crete and others, 2007)."""
    fine = cv2.GaussianBlur(grey.astype(np.float32), (0, 0), 0.7)
    lost = []
    for size in ((REBLUR_PX, 1), (1, REBLUR_PX)):
        smeared = cv2.blur(fine, size)
        axis = 1 if size[0] > 1 else 0
        before, after = np.abs(np.diff(fine, axis=axis)), np.abs(np.diff(smeared, axis=axis))
        gone = np.maximum(before - after, 0.0)
        lost.append(float(gone.sum() / max(float(before.sum()), 1e-6)))
    return min(lost)


def _middle(rgb: Pixels) -> Box:
    h, w = rgb.shape[:2]
    return w // 5, h // 6, w - w // 5, h - h // 6


def picture_findings(name: str, quality: Quality) -> list[Finding]:
    """Findings that need no marks: blurred, too dark, burnt out."""
    found = []
    if quality.median < MEDIAN_TOO_DARK and quality.dark > DARK_SHARE:
        found.append(
            Finding(
                "too_dark", f"{name}: too dark to see the hair. Turn a lamp on in front of the dog.", name
            )
        )
    elif quality.sharpness < BLURRED_BELOW:
        found.append(
            Finding(
                "blurred", f"{name}: blurred. Hold the camera still, tap on the eye, take it again.", name
            )
        )
    if quality.burnt > BURNT_SHARE:
        found.append(
            Finding(
                "burnt_out",
                f"{name}: {quality.burnt:.0%} of the head is overexposed, so its edge is lost. "
                "Turn the dog from the lamp.",
                name,
            )
        )
    return found


def pose_findings(name: str, view: View, camera: Camera, about_mm: float | None) -> list[Finding]:
    """Findings from where the camera stood: too small, too near, turned too far for its view.

    about_mm: the camera's distance if the head is of usual size; None where the lens is not known either.
    """
    found = []
    distance_mm = about_mm or math.inf
    coarse = (about_mm or 0.0) / camera.focal_px
    if coarse > COARSEST_MM_PER_PX:
        found.append(
            Finding(
                "head_too_small",
                f"{name}: the head is small in the picture ({coarse:.2f} mm a pixel). Go nearer or zoom in.",
                name,
            )
        )
    if distance_mm < NEAREST_MM and view in ("front", "top"):
        swell = (distance_mm + EARS_BEHIND_MM) / max(distance_mm - MUZZLE_AHEAD_MM, 60.0) - 1
        found.append(
            Finding(
                "too_near",
                f"{name}: taken from about {distance_mm / 10:.0f} cm, which swells the muzzle by "
                f"{swell:.0%}. It is allowed for, but an arm's length away measures better.",
                name,
            )
        )
    yaw, pitch, _ = camera.angles_deg(view)
    if abs(yaw) > MOST_TURN_DEG or abs(pitch) > MOST_TILT_DEG:
        off = max(abs(yaw), abs(pitch))
        found.append(
            Finding(
                "turned_too_far",
                f"{name}: the head is turned about {off:.0f}° from a {view_words(view)} view. "
                "Take it again, or move it to the slot of the view that it shows.",
                name,
            )
        )
    return found


def edge_findings(name: str, rgb: Pixels, edge: Array) -> list[Finding]:
    """Told from the traced edge: coat and ground too alike to be told apart."""
    contrast = edge_contrast(rgb, edge)
    if contrast >= LEAST_CONTRAST:
        return []
    return [
        Finding(
            "edge_unsure",
            f"{name}: coat and background are alike along the edge, so it may be wrong. "
            "Check the edge, or hold a towel of another colour behind the head.",
            name,
        )
    ]


def edge_contrast(rgb: Pixels, edge: Array) -> float:
    """Median difference (0..255) between a band just inside and one just outside the edge."""
    scale = min(1.0, WORK_SIDE_PX / max(rgb.shape[:2]))
    small = cv2.resize(rgb, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA)
    dog = np.zeros(small.shape[:2], np.uint8)
    cv2.fillPoly(dog, [np.round(edge * scale).astype(np.int32)], 1)
    reach = max(3, round(RIM_SHARE * max(dog.shape)))
    apart = np.full((3,), np.nan)
    inside = cv2.distanceTransform(dog, cv2.DIST_L2, 3)
    outside = cv2.distanceTransform(1 - dog, cv2.DIST_L2, 3)
    inner, outer = (inside > 1) & (inside < reach), (outside > 2) & (outside < reach)
    if inner.any() and outer.any():
        apart = np.abs(np.median(small[inner], axis=0) - np.median(small[outer], axis=0))
    return float(np.nan_to_num(apart, nan=0.0).max())


def box_of(marks_px: Mapping[str, tuple[float, float]], grown: float = 0.35) -> Box:
    """A box round marks, a share of its size wider on each side."""
    at = np.array(list(marks_px.values()))
    low, high = at.min(axis=0), at.max(axis=0)
    more = grown * float((high - low).max())
    x0, y0, x1, y1 = np.round(np.concatenate([low - more, high + more])).astype(int).tolist()
    return x0, y0, x1, y1
