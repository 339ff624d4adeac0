"""A line that draws itself: trace roughly along the coat, and the edge runs where coat and ground part nearby."""

from __future__ import annotations

from typing import Final

import cv2
import numpy as np
from scipy.ndimage import gaussian_filter1d
from scipy.spatial import cKDTree

from dapwick.core.basics.arrays import Array, IntArray, unit
from dapwick.core.basics.errors import BadInput
from dapwick.vision.photo import SCREEN_SIDE_PX, Pixels

SNAP_SHARE: Final = 0.018
"""How far from the trail the line may run, over the photo's longer side."""
STEP_PX: Final = 2.0
MOST_STEPS: Final = 4_000
STEADIED_PX: Final = 8.0
"""A hand's tremble is smoothed away before the trail says which way is across."""
SIDE_PX: Final = 7
"""So many pixels on each side are averaged: coat against ground, not hair against hair."""
STRAYING: Final = 0.25
"""What the farthest place from the trail costs, in edges of full strength."""
SMOOTH_STEPS: Final = 3.0
FEWEST_POINTS: Final = 3


def trailed(rgb: Pixels, line: Array | None, trail_px: Array, width_px: int, height_px: int) -> Array:
    """The edge (N, 2) px with the stretch along a trail (M, 2) drawn anew; the rest of it stays as it is.

    rgb: the photo at any size. The new stretch stays within SNAP_SHARE of the trail. Without an edge yet, a trail round
    the dog begins one. Raises BadInput for a trail too short to follow.
    """
    scale = min(1.0, SCREEN_SIDE_PX / max(width_px, height_px))
    size = max(1, round(width_px * scale)), max(1, round(height_px * scale))
    shown = np.asarray(cv2.resize(rgb, size, interpolation=cv2.INTER_AREA), np.uint8)
    steady = _steadied(np.clip(trail_px, 0.0, [width_px, height_px]) * scale)
    drawn = _strongest(shown, steady, SNAP_SHARE * max(size)) / scale
    return drawn if line is None or len(line) < FEWEST_POINTS else spliced(line, drawn)


def _steadied(trail: Array) -> Array:
    """The trail in even steps, without the hand's tremble; its ends stay."""
    along = np.concatenate([[0.0], np.cumsum(np.linalg.norm(np.diff(trail, axis=0), axis=1))])
    steps = min(round(along[-1] / STEP_PX), MOST_STEPS)
    if steps < FEWEST_POINTS:
        raise BadInput(
            "trail too short",
            expected="a line along the coat's edge",
            got="a dot",
            where="coat edge",
            remedy="Press and draw along the edge.",
        )
    at = np.linspace(0.0, along[-1], steps + 1)
    even = np.column_stack([np.interp(at, along, trail[:, axis]) for axis in (0, 1)])
    return np.asarray(gaussian_filter1d(even, STEADIED_PX / STEP_PX, axis=0, mode="nearest"))


def _strongest(shown: Pixels, trail: Array, snap: float) -> Array:
    """The path along a trail where the two sides differ most, each step at most a pixel across from the last."""
    across = unit(np.gradient(trail, axis=0) @ np.array([[0.0, 1.0], [-1.0, 0.0]]))
    reach = max(1, round(snap))
    offsets = np.arange(-reach - SIDE_PX, reach + SIDE_PX + 1)
    at = trail[:, None] + offsets[None, :, None] * across[:, None]
    band = cv2.remap(
        shown, (at[..., 0] - 0.5).astype(np.float32), (at[..., 1] - 0.5).astype(np.float32),
        cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE,
    )  # fmt: skip
    apart = _sides_apart(np.asarray(band, float))
    straying = STRAYING * (offsets[SIDE_PX:-SIDE_PX] / reach) ** 2
    chosen = _cheapest(straying[None] - apart / max(float(apart.max()), 1e-9))
    off = gaussian_filter1d(offsets[SIDE_PX:-SIDE_PX][chosen].astype(float), SMOOTH_STEPS, mode="nearest")
    return np.asarray(trail + off[:, None] * across)


def _sides_apart(band: Array) -> Array:
    """How much the colours on both sides differ at each place of a straightened band (steps, places, 3)."""
    summed = np.cumsum(np.pad(band, ((0, 0), (1, 0), (0, 0))), axis=1)
    count = band.shape[1] - 2 * SIDE_PX
    first = summed[:, SIDE_PX : SIDE_PX + count] - summed[:, :count]
    second = (
        summed[:, 2 * SIDE_PX + 1 : 2 * SIDE_PX + 1 + count] - summed[:, SIDE_PX + 1 : SIDE_PX + 1 + count]
    )
    return np.asarray(np.linalg.norm(first - second, axis=2))


def _cheapest(cost: Array) -> IntArray:
    """The column of each row (steps, places) on the cheapest way down that moves at most one place a step."""
    total, came = cost.copy(), np.zeros(cost.shape, dtype=np.int64)
    for row in range(1, len(cost)):
        before = np.pad(total[row - 1], 1, constant_values=np.inf)
        near = np.stack([before[:-2], before[1:-1], before[2:]])
        came[row] = near.argmin(axis=0) - 1
        total[row] += near.min(axis=0)
    way = [int(total[-1].argmin())]
    for row in range(len(cost) - 1, 0, -1):
        way.append(way[-1] + int(came[row, way[-1]]))
    return np.array(way[::-1])


def spliced(line: Array, drawn: Array) -> Array:
    """A closed line with the arc that lies along `drawn` replaced by it; the other arc stays point by point."""
    begins, ends = (int(np.linalg.norm(line - end, axis=1).argmin()) for end in (drawn[0], drawn[-1]))
    ahead, back = _arc(line, begins, ends), _arc(line, ends, begins)
    if _away(ahead, drawn) <= _away(back, drawn):
        return np.vstack([drawn, back])
    return np.vstack([drawn[::-1], ahead])


def _arc(line: Array, first: int, last: int) -> Array:
    """The points of a closed line from one to another, both included."""
    return line[np.arange(first, last + 1 + (len(line) if last < first else 0)) % len(line)]


def _away(arc: Array, drawn: Array) -> float:
    return float(cKDTree(drawn).query(arc)[0].mean())
