"""The small head beside each step: its outline and coat, the zone worked on, the line to follow."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from itertools import pairwise
from typing import Final

import numpy as np
from scipy.spatial import cKDTree

from dapwick.core.basics.arrays import Array, BoolArray, IntArray
from dapwick.core.basics.fair import FAIR_MM, fair
from dapwick.core.basics.marks import INDEX
from dapwick.core.cut.rule import Path
from dapwick.core.cut.sheet import Step
from dapwick.core.head.zones import EAR_ZONES, ZONES, Side
from dapwick.core.outlines.ear_cut import ear_faces
from dapwick.core.outlines.effects import ears_cut, ears_now
from dapwick.core.outlines.fit import Outline
from dapwick.core.plan.finished import surface
from dapwick.pipeline.aligned_views import AXES, flat, marks_seen
from dapwick.pipeline.head_model import head_faces
from dapwick.vision.silhouette import silhouette

FACING: Final = 0.12
"""Least slope toward the eye of skin that is shown."""
MASK_PX: Final = 200
BETWEEN: Final = 5
"""Places between two marks at which a line is laid on the surface."""
PATCH_MM: Final = 1.5
"""A zone's edge is no cutting line: it is pulled softer than an outline."""
EAR_TIPS: Final = (INDEX["ear_tip_left"], INDEX["ear_tip_right"])
STRAIGHT_AHEAD: Final = {"bridge", "stop", "visor", "brow", "inner_corner"}
FROM_ABOVE: Final = {"crown", "back_skull"}


@dataclass(frozen=True)
class SmallHead:
    """One view, mm, x right and y down: skin, coat as it is, and the outline, each a closed line; marks: where each
    mark lies, for the face."""

    skin: Array
    coat: Array
    outline: Array
    marks: Mapping[str, tuple[float, float]]


@dataclass(frozen=True)
class Drawn:
    """Heads by view; patches: where a zone of a side lies in a view, by `zone:side@view`; of each step its view,
    its line (N, 2) with the arrow at its end, and the lengths written on the head as (x, y, mm)."""

    heads: Mapping[str, SmallHead]
    patches: Mapping[str, Array]
    views: Mapping[str, str]
    lines: Mapping[str, Array]
    lengths: Mapping[str, tuple[tuple[float, float, float], ...]]


def drawn(outline: Outline, steps: Sequence[Step]) -> Drawn:
    """What every step of a sheet is drawn with."""
    views = {step.id: view_of(step) for step in steps}
    patches: dict[str, Array] = {}
    for step in steps:
        view = views[step.id]
        for zone, side in _worked(step):
            key = f"{zone}:{side}@{view}"
            if key not in patches:
                patches[key] = fair(_patch(outline, zone, side, view), PATCH_MM)
    lines = {step.id: _step_line(outline, step, views[step.id]) for step in steps}
    return Drawn(
        {view: _head(outline, view) for view in dict.fromkeys(views.values())},
        {key: line for key, line in patches.items() if len(line)},
        views,
        lines,
        {step.id: tuple(_lengths(outline, step, views[step.id])) for step in steps},
    )


def view_of(step: Step) -> str:
    """The view in which a step is best seen: its line's, else by where it works."""
    if step.path is not None:
        return step.path.view
    if step.side and not STRAIGHT_AHEAD & set(step.zones):
        return step.side
    return "top" if step.zones and set(step.zones) <= FROM_ABOVE else "front"


def _worked(step: Step) -> list[tuple[str, Side]]:
    sides: tuple[Side, ...] = (step.side,) if step.side else ("left", "right")
    return [(zone, side) for zone in step.zones for side in sides]


def _head(outline: Outline, view: str) -> SmallHead:
    ground = outline.ground
    faces = head_faces(ground)
    coat = np.concatenate([surface(outline, ground.coat.depth_mm), *ears_now(ground)])
    cut = np.concatenate([surface(outline, outline.leave_mm), *ears_cut(outline)])
    skin = ground.skin
    lines = ((skin.vertices_mm, skin.template.faces), (coat, faces), (cut, faces))
    skin_line, coat_line, cut_line = (
        fair(silhouette(flat(places, view), of, MASK_PX), FAIR_MM) for places, of in lines
    )
    return SmallHead(skin_line, coat_line, cut_line, marks_seen(ground.head.points_mm, view))


def _patch(outline: Outline, zone: str, side: Side, view: str) -> Array:
    """Where a zone lies on the finished surface, as far as a view shows it; nothing for zones without skin."""
    if zone in EAR_ZONES:
        ear = ears_cut(outline)[0 if side == "left" else 1]
        return silhouette(flat(ear, view), ear_faces(), MASK_PX)
    if zone not in ZONES:
        return np.zeros((0, 2))
    skin = outline.ground.skin
    inside = np.zeros(len(skin.vertices_mm), dtype=bool)
    inside[skin.in_zone(zone, side)] = True
    faces: IntArray = skin.template.faces
    toward = skin.outward @ np.array(AXES[view][4], dtype=float)
    kept = faces[inside[faces].any(axis=1) & (toward[faces].mean(axis=1) > FACING)]
    if not len(kept):
        return np.zeros((0, 2))
    both_ways = np.concatenate([kept, kept[:, ::-1]])
    return silhouette(flat(surface(outline, outline.leave_mm), view), both_ways, MASK_PX)


def _lengths(outline: Outline, step: Step, view: str) -> Iterator[tuple[float, float, float]]:
    """The two ends of each place whose length runs, where a view shows them."""
    skin, toward = outline.ground.skin, np.array(AXES[view][4], dtype=float)
    for run in (cut.run for cut in step.cuts if cut.run and step.doing == "work"):
        for end in (run.short, run.long):
            at = int(((skin.vertices_mm - end.at_mm) ** 2).sum(axis=1).argmin())
            if skin.outward[at] @ toward > FACING:
                (x, y), mm = flat(skin.vertices_mm[at : at + 1], view)[0].tolist(), end.mm
                yield x, y, mm


def _step_line(outline: Outline, step: Step, view: str) -> Array:
    """A step's line: from mark to mark, or of a blend from the longer place into the shorter."""
    if step.toward is None:
        return _line(outline, step.path, step.side, view)
    skin = outline.ground.skin
    ends = [skin.vertices_mm[skin.in_zone(zone, side)].mean(axis=0) for zone, side in step.toward]
    return _over(outline, np.stack(ends), np.zeros(2, dtype=bool), view)


def _line(outline: Outline, path: Path | None, side: Side | None, view: str) -> Array:
    """A step's line from mark to mark over the finished surface, on the side worked on."""
    if path is None:
        return np.zeros((0, 2))
    names = [name if name in INDEX else f"{name}_{side or 'left'}" for name in path.marks]
    marks = np.asarray(outline.ground.head.points_mm[[INDEX[name] for name in names]])
    return _over(outline, marks, np.array([INDEX[name] in EAR_TIPS for name in names]), view)


def _over(outline: Outline, marks: Array, on_ear: BoolArray, view: str) -> Array:
    """A line (N, 2) through places (K, 3) mm, laid on the finished surface but where it goes to an ear's tip."""
    skin, finished = outline.ground.skin.vertices_mm, surface(outline, outline.leave_mm)
    steps = [
        a + (b - a) * np.linspace(0.0, 1.0, BETWEEN, endpoint=False)[:, None] for a, b in pairwise(marks)
    ]
    along = np.concatenate([*steps, marks[-1:]])
    _, near = cKDTree(skin).query(along)
    over = finished[near]
    # Toward an ear's tip the line leaves the head.
    off = np.repeat(on_ear[1:] | on_ear[:-1], BETWEEN).tolist() + [bool(on_ear[-1])]
    over = np.where(np.array(off)[:, None], along, over)
    smooth = over.copy()
    smooth[1:-1] = (over[:-2] + 2 * over[1:-1] + over[2:]) / 4
    return flat(smooth, view)
