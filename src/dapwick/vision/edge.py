"""The coat's edge traced on a photo, seeded from the marks."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any, Final

import cv2
import numpy as np
from numpy.typing import NDArray

from dapwick.core.basics.arrays import Array, BoolArray
from dapwick.vision.photo import Pixels

WORK_SIDE_PX: Final = 520
REFINE_SIDE_PX: Final = 1000
ROUNDS: Final = 3
SURE_GROWTH: Final = 0.6
LIKELY_GROWTH: Final = 1.55
FARTHEST_GROWTH: Final = 2.2
DISC_SHARE: Final = 0.012
NOSE_PX: Final = 4
SURE_DOG, LIKELY_DOG, HARDLY_DOG = 0.93, 0.5, 0.05
GUIDE_RADIUS_PX: Final = 7
GUIDE_EVEN: Final = 1e-4
COVER_SHARE: Final = 0.5
BAND_PX, NEARBY_PX = 14, 18
"""The band about the coarse edge that is drawn anew, and how far about a place its colours are averaged."""
ROUND_PX: Final = 2 * (BAND_PX + NEARBY_PX)
"""So much about a dog tells what its ground looks like."""
APART_LEAST: Final = 0.09
COVER_SMOOTH_PX: Final = 1.5
SMOOTH_PX: Final = 1.2
SIMPLIFY_PX: Final = 0.5
SMALLEST_SHARE, LARGEST_SHARE = 0.03, 0.93
WHOLE: Final = (0, 0, 0, 0)
"""No box for GrabCut: its mask says it all."""
Mask = NDArray[np.uint8]
Layer = NDArray[np.float32]
Progress = Callable[[float], None]
"""Told the share done now and then; it may raise to stop the work."""


@dataclass(frozen=True)
class NoEdge:
    """The edge could not be traced, and why."""

    reason: str


def trace_edge(
    rgb: Pixels,
    marks_px: Mapping[str, tuple[float, float]],
    chance: Array | None = None,
    progress: Progress = lambda share: None,
) -> Array | NoEdge:
    """The coat's silhouette as a closed line (N, 2) in photo px, head and body in one.

    GrabCut at about WORK_SIDE_PX, largest piece kept, flyaway hair opened away, then drawn anew at
    REFINE_SIDE_PX to where hair covers half of the ground. chance (height, width): where
    known, each pixel's chance of dog, which then says what is surely dog and surely not; else the marks'
    hull does.
    """
    if len(marks_px) < 4:
        return NoEdge("Place at least four marks first; the edge is looked for around them.")
    scale = min(1.0, WORK_SIDE_PX / max(rgb.shape[:2]))
    small = cv2.resize(rgb, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA)
    points = np.array(list(marks_px.values())) * scale
    size = small.shape[1], small.shape[0]
    known = None if chance is None else _resized(chance, size, cv2.INTER_AREA)
    noses = points[[mark.startswith("nose") for mark in marks_px]]
    mask = _seeds(small.shape[:2], points) if known is None else _chance_seeds(known, points, noses)
    models = np.zeros((1, 65)), np.zeros((1, 65))
    cv2.setRNGSeed(1)
    for done in range(ROUNDS):
        progress(done / (ROUNDS + 1))
        mode = cv2.GC_INIT_WITH_MASK if done == 0 else cv2.GC_EVAL
        try:
            cv2.grabCut(small, mask, WHOLE, *models, 1, mode)
        except cv2.error:
            return NoEdge("Dog and background could not be told apart here.")
    progress(ROUNDS / (ROUNDS + 1))
    dog = _tidied(np.isin(mask, (cv2.GC_FGD, cv2.GC_PR_FGD)).astype(np.uint8), points)
    share = float(dog.mean())
    if not SMALLEST_SHARE < share < LARGEST_SHARE:
        return NoEdge(
            "Dog and background could not be told apart here: use a plainer, contrasting background."
        )
    return refined(rgb, dog, points / scale)


def refined(rgb: Pixels, coarse: Mask, points_px: Array) -> Array:
    """The line of a coarse mask drawn to where hair covers half of the ground, photo px.

    In a band about the coarse edge the mask is drawn to the photo's own edges by a guided filter, and where
    dog and ground differ, mixed with each pixel's cover: where its colour lies between their colours nearby.
    """
    scale = min(1.0, REFINE_SIDE_PX / max(rgb.shape[:2]))
    shown = cv2.resize(rgb, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA)
    soft = _resized(coarse, (shown.shape[1], shown.shape[0]), cv2.INTER_LINEAR)
    here = _box_round(soft > 0.0)
    drawn = np.zeros_like(soft)
    drawn[here] = _drawn_anew(np.asarray(shown[here], np.float32) / np.float32(255), soft[here])
    smooth = cv2.GaussianBlur(drawn, (0, 0), COVER_SMOOTH_PX)
    return np.asarray(contour(_tidied((smooth > 0.5).astype(np.uint8), points_px * scale)) / scale)


def _box_round(dog: BoolArray) -> tuple[slice, slice]:
    """Rows and columns that hold a dog and all about it that its edge is drawn by."""
    found = [np.flatnonzero(dog.any(axis=axis)) for axis in (1, 0)]
    low, high = zip(*((int(at[0]), int(at[-1])) if len(at) else (0, 0) for at in found), strict=True)
    rows, columns = (
        slice(max(a - ROUND_PX, 0), b + ROUND_PX + 1) for a, b in zip(low, high, strict=True)
    )  # fmt: skip
    return rows, columns


def _drawn_anew(fine: Layer, coarse: Layer) -> Layer:
    """How much of each pixel (height, width) is dog, drawn anew in the band about a coarse mask's edge."""
    soft = np.asarray(cv2.GaussianBlur(coarse, (0, 0), 1.5), np.float32)
    dog = (soft > 0.5).astype(np.uint8)
    inward, outward = (cv2.distanceTransform(m, cv2.DIST_L2, 3) for m in (dog, 1 - dog))
    inner, outer = _nearby(fine, inward > BAND_PX), _nearby(fine, outward > BAND_PX)
    apart = np.square(inner - outer).sum(axis=2)
    cover = ((fine - outer) * (inner - outer)).sum(axis=2) / np.maximum(apart, 1e-6)
    trusted = np.clip(np.sqrt(apart) / APART_LEAST - 0.5, 0.0, 1.0)
    guided = np.mean([_guided(fine[:, :, c], soft) for c in range(3)], axis=0)
    share = COVER_SHARE * trusted
    drawn = np.where(
        (inward > BAND_PX) | (outward > BAND_PX),
        dog,
        share * np.clip(cover, 0, 1) + (1 - share) * np.clip(guided, 0, 1),
    )
    return np.asarray(drawn, np.float32)


def _resized(layer: NDArray[Any], size: tuple[int, int], how: int) -> Layer:
    return np.asarray(cv2.resize(layer.astype(np.float32), size, interpolation=how), np.float32)


def _guided(guide: Layer, mask: Layer) -> Layer:
    """The mask as a locally linear function of the guide, so that its edge follows the guide's (He and
    others, 2013)."""
    window = (2 * GUIDE_RADIUS_PX + 1,) * 2

    def mean(x: NDArray[Any]) -> Layer:
        return np.asarray(cv2.blur(x, window), np.float32)

    g, m = mean(guide), mean(mask)
    slope = (mean(guide * mask) - g * m) / (mean(guide * guide) - g * g + GUIDE_EVEN)
    return np.asarray(mean(slope) * guide + mean(m - slope * g))


def _nearby(rgb: Layer, where: BoolArray) -> Layer:
    """Mean colour nearby of the pixels told by `where`."""
    there = where.astype(np.float32)
    window = (2 * NEARBY_PX + 1,) * 2
    mean, weight = (cv2.blur(cv2.blur(x, window), window) for x in (rgb * there[:, :, None], there))
    return np.asarray(mean / (weight + 1e-4)[:, :, None])


def _chance_seeds(chance: Layer, points: Array, noses: Array) -> Mask:
    """GrabCut's starting mask from each pixel's chance of dog and the marks' hull. The nose is dog for
    certain: dark leather is easily taken for ground."""
    seeds = np.full(chance.shape, cv2.GC_PR_BGD, np.uint8)
    seeds[chance < HARDLY_DOG] = cv2.GC_BGD
    seeds[chance >= LIKELY_DOG] = cv2.GC_PR_FGD
    seeds[chance > SURE_DOG] = cv2.GC_FGD
    middle = (points.min(axis=0) + points.max(axis=0)) / 2
    hull = cv2.convexHull(points.astype(np.float32))[:, 0]
    core = np.asarray(np.round(middle + (hull - middle) * SURE_GROWTH), np.int32)
    inner = np.zeros_like(seeds)
    cv2.fillConvexPoly(inner, core, 1)
    for x, y in np.round(noses).astype(int).tolist():
        cv2.circle(inner, (x, y), NOSE_PX, 1, -1)
    seeds[(inner == 1) & (chance > LIKELY_DOG)] = cv2.GC_FGD
    return seeds


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
        fallen = top + np.array([0, 2 * shape[0]], np.int32)
        return np.asarray(cv2.convexHull(np.concatenate([top, fallen])), np.int32)

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
    kernel = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (3, 3))
    shut = cv2.morphologyEx(dog, cv2.MORPH_CLOSE, kernel)
    dog = _filled(np.asarray(cv2.morphologyEx(shut, cv2.MORPH_OPEN, kernel), np.uint8))
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
    return np.asarray(outside[1:-1, 1:-1] != 2, np.uint8)


def contour(mask: Mask) -> Array:
    """The outer line (N, 2) of a mask's largest piece, px, smoothed by about a pixel and simplified."""
    soft = cv2.GaussianBlur(mask.astype(np.float32), (0, 0), SMOOTH_PX)
    lines, _ = cv2.findContours((soft > 0.5).astype(np.uint8), cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE)
    if not lines:
        return np.zeros((0, 2))
    line = max(lines, key=cv2.contourArea)
    simple = cv2.approxPolyDP(line, SIMPLIFY_PX, closed=True)[:, 0].astype(float)
    return np.asarray(simple + 0.5)
