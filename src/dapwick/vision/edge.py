"""The coat's edge traced on a photo, seeded from the marks."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Final

import cv2
import numpy as np
from numpy.typing import NDArray

from dapwick.core.arrays import Array
from dapwick.vision.photo import Pixels

WORK_SIDE_PX: Final = 480
ROUNDS: Final = 4
SURE_GROWTH: Final = 0.6
LIKELY_GROWTH: Final = 1.55
FARTHEST_GROWTH: Final = 2.2
DISC_SHARE: Final = 0.012
SMOOTH_PX: Final = 1.2
SIMPLIFY_PX: Final = 0.5
SMALLEST_SHARE, LARGEST_SHARE = 0.03, 0.93
Mask = NDArray[np.uint8]


@dataclass(frozen=True)
class NoEdge:
    """The edge could not be traced, and why."""

    reason: str


def trace_edge(rgb: Pixels, marks_px: Mapping[str, tuple[float, float]]) -> Array | NoEdge:
    """The coat's silhouette as a closed line (N, 2) in photo px, head and body in one.

    GrabCut at about WORK_SIDE_PX (the marks' hull is dog, far from it is not), largest piece kept,
    flyaway hair opened away.
    """
    if len(marks_px) < 4:
        return NoEdge("Place at least four marks first; the edge is looked for around them.")
    scale = min(1.0, WORK_SIDE_PX / max(rgb.shape[:2]))
    small = cv2.resize(rgb, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA)
    points = np.array(list(marks_px.values())) * scale
    seeds = _seeds(small.shape[:2], points)
    try:
        cv2.setRNGSeed(1)
        mask, _, _ = cv2.grabCut(
            small, seeds, None, np.zeros((1, 65)), np.zeros((1, 65)), ROUNDS, cv2.GC_INIT_WITH_MASK
        )
    except cv2.error:
        return NoEdge("Dog and background could not be told apart here.")
    dog = _tidied(np.isin(mask, (cv2.GC_FGD, cv2.GC_PR_FGD)).astype(np.uint8), points)
    share = float(dog.mean())
    if not SMALLEST_SHARE < share < LARGEST_SHARE:
        return NoEdge(
            "Dog and background could not be told apart here: use a plainer, contrasting background."
        )
    return contour(dog) / scale


def _seeds(shape: tuple[int, int], points: Array) -> Mask:
    """GrabCut's starting mask. Sure: a shrunken hull of the marks and a disc round each. Likely: the
    grown hull and the chest below it. Never: what is far from both."""
    middle = (points.min(axis=0) + points.max(axis=0)) / 2
    hull = cv2.convexHull(points.astype(np.float32))[:, 0]
    reach = float(np.ptp(points, axis=0).max())

    def grown(share: float) -> NDArray[np.int32]:
        return np.asarray(np.round(middle + (hull - middle) * share), np.int32)

    def dropped(share: float) -> NDArray[np.int32]:
        """The grown hull with its trail straight down to the photo's foot."""
        top = grown(share)
        return cv2.convexHull(np.concatenate([top, top + np.array([0, 2 * shape[0]], np.int32)]))

    seeds = np.full(shape, cv2.GC_BGD, np.uint8)
    cv2.fillConvexPoly(seeds, dropped(FARTHEST_GROWTH), cv2.GC_PR_BGD)
    cv2.fillConvexPoly(seeds, grown(LIKELY_GROWTH), cv2.GC_PR_FGD)
    below = np.zeros(shape, np.uint8)
    cv2.fillConvexPoly(below, dropped(1.0), 1)
    below[: int(points[:, 1].max())] = 0
    seeds[below == 1] = cv2.GC_PR_FGD
    cv2.fillConvexPoly(seeds, grown(SURE_GROWTH), cv2.GC_FGD)
    for x, y in np.round(points).astype(int).tolist():
        cv2.circle(seeds, (x, y), max(2, round(DISC_SHARE * reach)), cv2.GC_FGD, -1)
    return seeds


def _tidied(dog: Mask, points: Array) -> Mask:
    """Holes shut, flyaways opened away, only the piece under the marks kept."""
    kernel = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (5, 5))
    dog = cv2.morphologyEx(cv2.morphologyEx(dog, cv2.MORPH_CLOSE, kernel), cv2.MORPH_OPEN, kernel)
    dog = _filled(dog)
    _, labels = cv2.connectedComponents(dog)
    rows = np.clip(points[:, 1].round().astype(int), 0, dog.shape[0] - 1)
    columns = np.clip(points[:, 0].round().astype(int), 0, dog.shape[1] - 1)
    under = labels[rows, columns]
    under = under[under > 0]
    return (labels == np.bincount(under).argmax()).astype(np.uint8) if len(under) else np.zeros_like(dog)


def _filled(dog: Mask) -> Mask:
    """Holes and bays that open only to the photo's foot (a shaded chest) belong to the dog."""
    closed = cv2.copyMakeBorder(dog, 1, 1, 1, 1, cv2.BORDER_CONSTANT, value=0)
    closed[-1] = 1
    outside = closed.copy()
    cv2.floodFill(outside, None, (0, 0), 2)
    cv2.floodFill(outside, None, (outside.shape[1] - 1, 0), 2)
    return (outside != 2).astype(np.uint8)[1:-1, 1:-1]


def contour(mask: Mask) -> Array:
    """The outer line (N, 2) of a mask's largest piece, px, smoothed by about a pixel and simplified."""
    soft = cv2.GaussianBlur(mask.astype(np.float32), (0, 0), SMOOTH_PX)
    lines, _ = cv2.findContours((soft > 0.5).astype(np.uint8), cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE)
    if not lines:
        return np.zeros((0, 2))
    line = max(lines, key=cv2.contourArea)
    simple = cv2.approxPolyDP(line, SIMPLIFY_PX, closed=True)[:, 0].astype(float)
    return np.asarray(simple + 0.5)
