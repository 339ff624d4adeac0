"""Correcting a traced edge by saying where: a short stroke on coat, or on what is no coat, and the edge follows."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Final

import cv2
import numpy as np
from numpy.typing import NDArray

from dapwick.core.basics.arrays import Array, BoolArray
from dapwick.core.basics.errors import BadInput
from dapwick.vision.edge import WHOLE, Mask, contour
from dapwick.vision.photo import SCREEN_SIDE_PX, Pixels

FEWEST_POINTS: Final = 3
FAR_PX: Final = 1e5
STROKE_SHARE: Final = 0.006
"""Half a stroke's width over the photo's longer side: what is surely as the stroke says."""
REACH_SHARE: Final = 0.15
"""How far from a stroke the edge may follow it, over the photo's longer side."""
LIKELY_SHARE: Final = 0.03
WORK_SIDE_PX: Final = 220
ROUNDS: Final = 2
Point = Sequence[float]
Window = tuple[slice, slice]


@dataclass(frozen=True)
class Stroke:
    """A chalk stroke (M, 2) px of the photo, and whether it lies on coat."""

    points_px: Array
    coat: bool


def followed(
    rgb: Pixels, line: Array | None, strokes: Sequence[Stroke], width_px: int, height_px: int
) -> Array:
    """The edge (N, 2) px after the last of some strokes; the ones before hold where they lie.

    rgb: the photo at any size. Round the stroke coat and ground are told apart anew by their colours there; what
    changes is only what hangs together with the stroke and lies within its reach, so that handwork elsewhere stays.
    Without an edge yet, a stroke on coat begins one. Raises BadInput when nothing of the dog would be left.
    """
    scale = min(1.0, SCREEN_SIDE_PX / max(width_px, height_px))
    size = max(1, round(height_px * scale)), max(1, round(width_px * scale))
    mask = _filled(line, scale, size)
    last = strokes[-1]
    drawn = _drawn(last, scale, size)
    window = _window(drawn, round(REACH_SHARE * max(size)))
    fixed = [(_drawn(s, scale, size)[window], s.coat) for s in strokes]
    shown = cv2.resize(rgb, size[::-1], interpolation=cv2.INTER_AREA)[window]
    apart = _told_apart(np.asarray(shown, np.uint8), mask[window], fixed)
    changed = (apart != mask[window]) & (apart == last.coat) | drawn[window]
    mask[window][_touching(changed, drawn[window])] = last.coat
    found = contour(mask) / scale
    if len(found) < FEWEST_POINTS:
        raise BadInput(
            "nothing of the dog would be left",
            expected="a shorter stroke",
            got="one that takes the whole edge away",
            where="coat edge",
            remedy="Draw a shorter stroke, or find the edge again.",
        )
    return found


def _filled(line: Array | None, scale: float, size: tuple[int, int]) -> Mask:
    mask: Mask = np.zeros(size, np.uint8)
    if line is not None and len(line) >= FEWEST_POINTS:
        cv2.fillPoly(mask, [np.round(line * scale - 0.5).astype(np.int32)], 1)
    return mask


def _drawn(stroke: Stroke, scale: float, size: tuple[int, int]) -> BoolArray:
    """Where a stroke lies."""
    path = np.round(np.clip(stroke.points_px, -FAR_PX, FAR_PX) * scale - 0.5).astype(np.int32)
    lies: Mask = np.zeros(size, np.uint8)
    thick = max(1, round(2 * STROKE_SHARE * max(size)))
    cv2.polylines(lies, [path], False, 1, thick)
    if len(path) == 1:
        cv2.circle(lies, tuple(path[0].tolist()), thick // 2, 1, -1)
    return np.asarray(lies == 1)


def _window(drawn: BoolArray, reach: int) -> Window:
    """The rows and columns a stroke reaches; empty where it lies off the photo."""
    rows, columns = np.flatnonzero(drawn.any(axis=1)), np.flatnonzero(drawn.any(axis=0))
    if not len(rows):
        return slice(0, 0), slice(0, 0)
    return (
        slice(max(0, int(rows[0]) - reach), int(rows[-1]) + reach + 1),
        slice(max(0, int(columns[0]) - reach), int(columns[-1]) + reach + 1),
    )


def _told_apart(shown: Pixels, mask: Mask, fixed: Sequence[tuple[BoolArray, bool]]) -> BoolArray:
    """Coat (rows, columns) by its colours: strokes hold, the window's rim stays as it is, the rest may turn."""
    if not mask.size:
        return np.asarray(mask == 1)
    scale = min(1.0, WORK_SIDE_PX / max(mask.shape))
    size = max(1, round(mask.shape[1] * scale)), max(1, round(mask.shape[0] * scale))
    seeds = _seeds(mask, fixed, size)
    sure = {int(v) for v in np.unique(seeds)}
    if not sure & {cv2.GC_FGD, cv2.GC_PR_FGD} or not sure & {cv2.GC_BGD, cv2.GC_PR_BGD}:
        return np.asarray(mask == 1)
    small = np.asarray(cv2.resize(shown, size, interpolation=cv2.INTER_AREA), np.uint8)
    cv2.setRNGSeed(1)
    try:
        cv2.grabCut(small, seeds, WHOLE, np.zeros((1, 65)), np.zeros((1, 65)), ROUNDS, cv2.GC_INIT_WITH_MASK)
    except cv2.error:
        return np.asarray(mask == 1)
    coat = np.isin(seeds, (cv2.GC_FGD, cv2.GC_PR_FGD)).astype(np.float32)
    return np.asarray(cv2.resize(coat, mask.shape[::-1], interpolation=cv2.INTER_LINEAR) > 0.5)


def _seeds(mask: Mask, fixed: Sequence[tuple[BoolArray, bool]], size: tuple[int, int]) -> Mask:
    def small(layer: NDArray[np.uint8]) -> BoolArray:
        return np.asarray(cv2.resize(layer.astype(np.float32), size, interpolation=cv2.INTER_AREA) > 0.3)

    seeds = np.where(small(mask), cv2.GC_PR_FGD, cv2.GC_PR_BGD).astype(np.uint8)
    for edge in (seeds[0], seeds[-1], seeds[:, 0], seeds[:, -1]):
        edge[:] = np.where(edge == cv2.GC_PR_FGD, cv2.GC_FGD, cv2.GC_BGD)
    last, coat = fixed[-1]
    near = max(1, round(LIKELY_SHARE / REACH_SHARE * max(size) / 2))
    round_it = cv2.dilate(
        small(last.astype(np.uint8)).astype(np.uint8), np.ones((2 * near + 1, 2 * near + 1), np.uint8)
    )
    seeds[(round_it == 1) & np.isin(seeds, (cv2.GC_PR_FGD, cv2.GC_PR_BGD))] = (
        cv2.GC_PR_FGD if coat else cv2.GC_PR_BGD
    )
    for lies, on_coat in fixed:
        seeds[small(lies.astype(np.uint8))] = cv2.GC_FGD if on_coat else cv2.GC_BGD
    return seeds


def _touching(changed: BoolArray, drawn: BoolArray) -> BoolArray:
    """The pieces of what changed that hang together with the stroke."""
    if not changed.size:
        return changed
    _, labels = cv2.connectedComponents(changed.astype(np.uint8), connectivity=4)
    return np.asarray(np.isin(labels, np.unique(labels[drawn & changed])) & changed)


def checked_edge(line: Sequence[Point], width_px: int, height_px: int) -> Array:
    """An edge as a client sends it: at least a triangle, finite, on the photo."""
    points = np.asarray(line, dtype=float).reshape(-1, 2) if len(line) else np.zeros((0, 2))
    if len(points) < FEWEST_POINTS or not np.isfinite(points).all():
        raise BadInput(
            "coat edge", expected=f"at least {FEWEST_POINTS} points", got=f"{len(points)}", where="coat edge"
        )
    return np.clip(points, 0.0, [width_px, height_px])


def checked_neck(neck: Sequence[Point] | None, width_px: int, height_px: int) -> list[list[float]] | None:
    """A line across the neck as a client sends it: two points apart, on the photo; None for none."""
    if neck is None:
        return None
    points = np.asarray(neck, dtype=float).reshape(-1, 2) if len(neck) else np.zeros((0, 2))
    if len(points) != 2 or not np.isfinite(points).all() or np.allclose(points[0], points[1]):
        raise BadInput("neck line", expected="two points apart", got=f"{len(points)}", where="coat edge")
    rounded: list[list[float]] = np.round(np.clip(points, 0.0, [width_px, height_px]), 1).tolist()
    return rounded
