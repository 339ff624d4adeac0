"""From finished photos to a check: cameras on the known bone, the planned outline over each photo, what stands off."""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Final

import numpy as np

from dapwick.core.after.cameras import FoundCamera, cameras_on
from dapwick.core.after.check import Check, check_of
from dapwick.core.after.deviations import Deviations, deviations
from dapwick.core.after.readings import CutComb, FinishedPhoto
from dapwick.core.basics.arrays import Array
from dapwick.core.basics.fair import FAIR_MM, fair
from dapwick.core.basics.findings import Finding
from dapwick.core.basics.marks import View
from dapwick.core.head.silhouettes import Edge, edge_on, outside_of
from dapwick.core.outlines.effects import ears_cut
from dapwick.core.outlines.fit import Outline
from dapwick.core.plan.finished import surface
from dapwick.core.solve.joint import HeadSolution
from dapwick.core.solve.observations import PhotoMarks
from dapwick.pipeline.head_model import seen_by, traced_edge
from dapwick.vision.edge import NoEdge
from dapwick.vision.photo import read_photo

SEEN: Final = (
    "eye_inner_left", "eye_inner_right", "eye_outer_left", "eye_outer_right", "nose_tip", "nose_top", "stop",
    "ear_front_left", "ear_front_right",
)  # fmt: skip
"""What a finished photo's camera is found from: plain to see whatever was cut, and the ears' bases, which lie far
enough behind the eyes to tell how the head is turned."""
COUNTED: Final[tuple[View, ...]] = ("front", "left", "right", "three_quarter_left", "three_quarter_right")
"""Views whose eyes and nose give their camera; from above and behind they do not."""
TOLD: Final = ("long", "short", "outside", "inside")
TICK_EVERY_MM: Final = 7.0
LEAST_TICK_MM: Final = 1.0


@dataclass(frozen=True)
class TakenPhoto:
    """A finished photo with its marks (placed, or guessed with their σ), its traced edge (N, 2) px, and whether it was
    taken at the first look (0) or after touch-ups."""

    marks: PhotoMarks
    edge: Array
    taken: int = 0


@dataclass(frozen=True)
class Tick:
    """A place along a photo's outline: where it was planned and where it is, px, and how far off, mm."""

    planned_px: tuple[float, float]
    found_px: tuple[float, float]
    mm: float


@dataclass(frozen=True)
class PhotoCheck:
    """outline_px (N, 2): the plan over the photo; ticks along it where it was read; finding: why it could not be used
    (then nothing else is there)."""

    name: str
    outline_px: Array
    ticks: tuple[Tick, ...]
    finding: Finding | None = None


@dataclass(frozen=True)
class CheckedHead:
    check: Check
    found: Deviations
    photos: tuple[PhotoCheck, ...]
    cameras: Mapping[str, FoundCamera]


def checked_head(outline: Outline, taken: Sequence[TakenPhoto], combs: Sequence[CutComb] = ()) -> CheckedHead:
    """The check of a head that was cut to an outline: by its finished photos, and by a comb where one was pushed in."""
    head = outline.ground.head
    stood = [camera.distance_mm for camera in head.cameras]
    stood_mm = float(np.median(stood)) if stood else None
    cameras = cameras_on(head, [eyes_and_nose(one.marks) for one in taken], stood_mm)
    usable = [
        FinishedPhoto(one.marks.name, camera, Edge(camera.camera, one.marks.view, one.edge), one.taken)
        for one in taken
        if isinstance(camera := cameras[one.marks.name], FoundCamera) and len(one.edge) > 2
    ]
    found = deviations(outline, usable, combs)
    check = check_of(found)
    # What a comb told of is hair, and no photo shows how deep it is.
    combed = {(z.zone, z.side) for z in found.zones if z.combed}
    told = {(p.zone, p.side) for p in check.places if p.state in TOLD} - combed
    drawn = {one.name: _drawn(outline, found, one, told) for one in usable}
    for name in found.left_out:
        drawn[name] = replace(drawn[name], ticks=(), finding=_disagrees(name))
    photos = tuple(drawn.get(name) or _unused(name, camera) for name, camera in cameras.items())
    return CheckedHead(check, found, photos, {one.name: one.found for one in usable})


def taken_from(head: HeadSolution, marks: PhotoMarks, data: bytes) -> TakenPhoto | None:
    """A finished photo with its edge traced from its file; None where no edge was found."""
    line = traced_edge(head, marks, read_photo(data, marks.name).rgb)
    return None if isinstance(line, NoEdge) else TakenPhoto(marks, line)


def eyes_and_nose(photo: PhotoMarks) -> PhotoMarks:
    """The marks a camera is found from; all of them where these are too few."""
    few = {mark: at for mark, at in photo.marks.items() if mark in SEEN}
    return replace(photo, marks=few) if len(few) >= 4 else photo


def _unused(name: str, camera: FoundCamera | Finding) -> PhotoCheck:
    finding = (
        camera if isinstance(camera, Finding) else Finding("edge_unsure", f"{name}: no edge was found.", name)
    )
    return PhotoCheck(name, np.zeros((0, 2)), (), finding)


def _disagrees(name: str) -> Finding:
    message = f"{name}: it shows another head than the other photos do. Take it again, straight on."
    return Finding("other_head", message, name, leaves_photo_out=True)


def _drawn(
    outline: Outline, found: Deviations, photo: FinishedPhoto, told: Collection[tuple[str, str]]
) -> PhotoCheck:
    ground, camera = outline.ground, photo.found.camera
    planned = surface(outline, outline.leave_mm)
    line = seen_by(camera, ground, planned, ears_cut(outline))
    at, _ = edge_on(
        ground.head, ground.skin, camera, photo.edge.view, outside_of(ground.skin, outline.leave_mm)
    )
    # Only what is told is drawn: a tick that no line speaks of would be a riddle.
    places = np.concatenate(
        [np.zeros(0, np.intp), *(z.places for z in found.zones if (z.zone, z.side) in told)]
    )
    at = at[np.isin(at, places) & np.isfinite(found.surface_mm[at])]
    off = found.surface_mm[at]
    here = camera.project(planned[at])
    there = camera.project(planned[at] + off[:, None] * ground.skin.outward[at])
    ticks, kept = [], np.zeros((0, 2))
    apart = TICK_EVERY_MM * camera.px_a_mm
    for start, end, mm in zip(here, there, off, strict=True):
        if abs(mm) < LEAST_TICK_MM or (len(kept) and np.linalg.norm(kept - start, axis=1).min() < apart):
            continue
        kept = np.vstack([kept, start])
        ticks.append(Tick(tuple(start.tolist()), tuple(end.tolist()), float(mm)))
    return PhotoCheck(photo.name, fair(line, FAIR_MM * camera.px_a_mm), tuple(ticks))
