"""The printed scale card found in a photo."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

import cv2
import numpy as np

from dapwick.core.basics.arrays import Array
from dapwick.core.solve.scale_card import HEIGHT_MM, MARKER_IDS, WIDTH_MM, CardReading, marker_corners_mm
from dapwick.vision.photo import Pixels

FEWEST_MARKERS: Final = 2
LARGEST_SIDE_PX: Final = 2400
CORNER_SIGMA_PX: Final = 0.4
WORST_FIT_SHARE: Final = 0.03


def marker_dictionary() -> cv2.aruco.Dictionary:
    return cv2.aruco.getPredefinedDictionary(cv2.aruco.DICT_4X4_50)


@dataclass(frozen=True)
class SeenCard:
    """A card found in a photo: what it says of the scale, and its outline (4, 2) px."""

    reading: CardReading
    outline_px: Array


def read_card(rgb: Pixels) -> CardReading | None:
    """px for each mm where the card was held, or None when too little of it is seen."""
    seen = see_card(rgb)
    return seen.reading if seen else None


def see_card(rgb: Pixels) -> SeenCard | None:
    """The card in a photo, or None when too little of it is seen.

    From the homography card → photo: at the card's centre its larger stretch is the scale without the
    card's tilt, whatever the focal length.
    """
    scale = min(1.0, LARGEST_SIDE_PX / max(rgb.shape[:2]))
    grey = cv2.cvtColor(rgb, cv2.COLOR_RGB2GRAY)
    small = cv2.resize(grey, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA) if scale < 1 else grey
    settings = cv2.aruco.DetectorParameters()
    settings.cornerRefinementMethod = cv2.aruco.CORNER_REFINE_SUBPIX
    corners, ids, _ = cv2.aruco.ArucoDetector(marker_dictionary(), settings).detectMarkers(small)
    found = {} if ids is None else {int(i): c[0] for i, c in zip(np.ravel(ids), corners, strict=True)}
    ours = {i: c / scale for i, c in found.items() if i in MARKER_IDS}
    if len(ours) < FEWEST_MARKERS:
        return None
    on_card = np.concatenate([marker_corners_mm(i) for i in ours])
    seen = np.concatenate(list(ours.values()))
    fitted, _ = cv2.findHomography(on_card, seen, cv2.LMEDS)
    if fitted is None:
        return None
    plane = np.asarray(fitted, float)
    stretch, misfit = _stretch(plane), _misfit(plane, on_card, seen)
    span = float(np.ptp(on_card, axis=0).max())
    if not np.isfinite(stretch) or misfit > WORST_FIT_SHARE * span * stretch:
        return None
    reading = CardReading(stretch, max(CORNER_SIGMA_PX, misfit) / (span * stretch), len(ours))
    outline = np.array([[0, 0], [WIDTH_MM, 0], [WIDTH_MM, HEIGHT_MM], [0, HEIGHT_MM]])
    return SeenCard(reading, _pictured(plane, outline))


def _stretch(plane: Array) -> float:
    """Larger singular value of the homography's derivative at the card's centre, px per mm."""
    x, y = WIDTH_MM / 2, HEIGHT_MM / 2
    p = plane @ [x, y, 1.0]
    derivative = (plane[:2, :2] * p[2] - np.outer(p[:2], plane[2, :2])) / p[2] ** 2
    return float(np.linalg.svd(derivative, compute_uv=False)[0])


def _misfit(plane: Array, on_card: Array, seen: Array) -> float:
    return float(np.sqrt(np.square(_pictured(plane, on_card) - seen).mean()))


def _pictured(plane: Array, on_card: Array) -> Array:
    lifted = np.column_stack([on_card, np.ones(len(on_card))]) @ plane.T
    return np.asarray(lifted[:, :2] / lifted[:, 2:])
