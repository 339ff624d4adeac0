"""Skin that is not scissored to the outline: clipped to a length, or left as a share of the coat it carries.

A cover's bounds are setting lines between marks, drawn as areas in side view (forward, up; mm).
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Final

import numpy as np
from scipy.spatial import cKDTree

from dapwick.core.basics.arrays import Array, BoolArray
from dapwick.core.basics.marks import INDEX
from dapwick.core.head.skin import Skin
from dapwick.core.head.stand import depth_of
from dapwick.core.outlines.face import SIDES, Face

Region = Callable[[Array], BoolArray]
"""Points (N, 3) of skin, head frame, to whether each is covered."""
Places = Sequence[Sequence[float]]
FAR_MM: Final = 400.0
LINE_STEP_MM: Final = 4.0
NEAR_A_LINE: Final = 4
NOTHING: Final = "nothing"
"""The tool of a cover of which nothing comes off."""
FACING: Final = 0.15
"""Least outward slope of skin that a line in side view is drawn on."""


@dataclass(frozen=True)
class Cover:
    """length_mm: clipped to that; else share: that part of the coat's depth is left, at most most_mm of it.
    words: what it is called where a length is explained; tool: clippers, what thins, or NOTHING where it is left as it
    is."""

    words: str
    where: Region
    length_mm: float | None = None
    share: float = 1.0
    most_mm: float = FAR_MM
    tool: str = "clipper"

    def depth_mm(self, coat_mm: Array, stand: Array) -> Array:
        """Depth (N,) mm left on skin with so much coat (N,) mm."""
        if self.length_mm is not None:
            return depth_of(np.full(len(coat_mm), self.length_mm), stand)
        return np.minimum(self.share * coat_mm, self.most_mm)


@dataclass(frozen=True)
class SettingLine:
    """A line drawn on the dog before clippers follow it: places (K, 2) in side view of one side."""

    words: str
    side: str
    places: Array


def side_area(left: Places, right: Places) -> Region:
    """Skin inside an area of the side view, each side with its own corners (forward, up)."""
    corners = (np.asarray(left, dtype=float), np.asarray(right, dtype=float))

    def region(p: Array) -> BoolArray:
        on_right = p[:, 0] > 0
        return np.where(on_right, _inside(p[:, 1:], corners[1]), _inside(p[:, 1:], corners[0]))

    return region


def below(corners: Callable[[str], Places]) -> Region:
    """Skin under a line that runs from the back of the head forward, given for each side."""
    left, right = (list(corners(side)) for side in SIDES)
    return side_area(*(_closed_below(line) for line in (left, right)))


def _closed_below(line: list[Sequence[float]]) -> Places:
    (back, back_z), (front, front_z) = line[0], line[-1]
    return [
        (back - FAR_MM, back_z), *line, (front + FAR_MM, front_z), (front + FAR_MM, -FAR_MM), (back - FAR_MM, -FAR_MM),
    ]  # fmt: skip


def _inside(points: Array, corners: Array) -> BoolArray:
    """Points (N, 2) inside a polygon (K, 2), by crossings of the ray forward."""
    a, b = corners, np.roll(corners, -1, axis=0)
    x, y = points[:, 0, None], points[:, 1, None]
    spans = (a[:, 1] > y) != (b[:, 1] > y)
    rise = np.where(b[:, 1] == a[:, 1], 1.0, b[:, 1] - a[:, 1])
    crossing = a[:, 0] + (y - a[:, 1]) / rise * (b[:, 0] - a[:, 0])
    return np.asarray((spans & (x < crossing)).sum(axis=1) % 2 == 1)


def setting_lines(words: str, corners: Callable[[str], Places]) -> tuple[SettingLine, ...]:
    """The same line on both sides."""
    return tuple(SettingLine(words, side, np.asarray(corners(side), dtype=float)) for side in SIDES)


def everywhere(p: Array) -> BoolArray:
    """Every place (N, 3) mm: True (N,)."""
    return np.ones(len(p), dtype=bool)


def side_view(face: Face, mark: str, side: str) -> tuple[float, float]:
    """(forward, up) of a mark, of its own side where it has one."""
    at = face.at(f"{mark}_{side}" if f"{mark}_{side}" in INDEX else mark)
    return float(at[1]), float(at[2])


def on_skin(line: SettingLine, skin: Skin) -> Array:
    """The line as it lies on the skin (K, 3), mm: each place with the width of the skin around it."""
    outward = skin.outward[:, 0] * (1 if line.side == "right" else -1)
    facing = skin.vertices_mm[outward > FACING]
    ends = np.linalg.norm(np.diff(line.places, axis=0), axis=1)
    steps = [
        a + (b - a) * np.linspace(0, 1, max(2, round(length / LINE_STEP_MM)))[:, None]
        for a, b, length in zip(line.places, line.places[1:], ends.tolist(), strict=False)
    ]
    along = np.concatenate(steps)
    away, near = cKDTree(facing[:, 1:]).query(along, k=NEAR_A_LINE)
    weight = 1.0 / (away + 1.0)
    across = (facing[near, 0] * weight).sum(axis=1) / weight.sum(axis=1)
    return np.column_stack([across, along])
