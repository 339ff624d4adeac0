"""Measured heads cut to an outline by a human hand, and photographed: what the check is tried on."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from dapwick.core.after.cameras import FoundCamera, cameras_on
from dapwick.core.after.readings import FinishedPhoto
from dapwick.core.basics.arrays import Array
from dapwick.core.basics.camera import Camera
from dapwick.core.basics.marks import View
from dapwick.core.head.silhouettes import Edge
from dapwick.core.head.skin_and_coat import STANDS_OUT_MM
from dapwick.core.outlines.fit import Outline
from dapwick.pipeline.check import eyes_and_nose
from dapwick.vision.silhouette import silhouette
from simheads import marked_photo, random_camera

VIEWS: tuple[View, ...] = ("front", "left", "right")


@dataclass(frozen=True)
class CutHead:
    """off_mm (V,): how far each vertex's surface really lies off the plan; photos of it, their cameras as they were
    (truth) and as found from eyes and nose."""

    off_mm: Array
    photos: list[FinishedPhoto]
    cameras: list[Camera]


def photographed(
    outline: Outline, off_mm: Array, rng: np.random.Generator, views: Sequence[View] = VIEWS, look: int = 0
) -> CutHead:
    """Photos of a head whose surface lies off_mm (V,) off its outline, by a hand that marks eyes and nose."""
    ground = outline.ground
    off = np.maximum(outline.leave_mm + off_mm, 0.3) - outline.leave_mm
    # An edge is traced where half of the ground shows through, a little within the hair's ends.
    seen = outline.leave_mm + off - STANDS_OUT_MM
    surface = ground.skin.vertices_mm + seen[:, None] * ground.skin.outward
    marked, lines, cameras = [], {}, {}
    for i, view in enumerate(views):
        camera = random_camera(rng, view, ground.head.points_mm)
        line = silhouette(camera.project(surface), ground.skin.template.faces)
        name = f"finished-{look}-{i}"
        marked.append(eyes_and_nose(marked_photo(rng, name, view, camera, ground.head.points_mm)))
        lines[name], cameras[name] = line, camera
    solved = cameras_on(ground.head, marked)
    usable = [(p, found) for p in marked if isinstance(found := solved[p.name], FoundCamera)]
    photos = [FinishedPhoto(p.name, c, Edge(c.camera, p.view, lines[p.name]), look) for p, c in usable]
    return CutHead(off, photos, [cameras[p.name] for p, _ in usable])
