"""A photo as it will look after the cut: the planned head laid over it, its coat taken in."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Final, Literal

import cv2
import numpy as np

from dapwick.core.basics.arrays import Array, IntArray, unit
from dapwick.core.basics.camera import Camera
from dapwick.core.basics.marks import INDEX, View
from dapwick.core.head.zones import ZONES
from dapwick.core.outlines.effects import ears_now
from dapwick.core.outlines.fit import Outline
from dapwick.core.outlines.ground import Ground
from dapwick.core.plan.finished import grown, surface
from dapwick.pipeline.head_model import HeadModel, head_faces
from dapwick.vision.photo import Pixels
from dapwick.vision.taken_in import SeenHead, Taking, taken_in

LARGEST_PX: Final = 1000
"""The longer side of a picture: two stand beside each other on a screen or a page."""
ROOM, BELOW = 0.28, 0.42
"""Of the head's larger side, what is shown round it and beneath it: neck and chest belong to a dog."""
RUNS_INTO_BODY: Final = ("nape", "throat")
STILL: Final = ("nose_tip", "nose_top")
EYES: Final = ("eye_inner", "eye_outer")
SIDES_SEEN: Final[dict[View, tuple[str, ...]]] = {
    "left": ("left",), "right": ("right",), "three_quarter_left": ("left",), "three_quarter_right": ("right",),
    "front": ("left", "right"), "top": ("left", "right"), "back": (),
}  # fmt: skip
PictureView = Literal["front", "side"]
SHOWING: Final[dict[PictureView, tuple[View, ...]]] = {"front": ("front",), "side": ("left", "right")}
KEY_LIGHT: Final = (-0.25, -0.75, -0.6)
"""Where light comes from in the camera's frame: above, a little from the left, from behind the camera."""
AMBIENT, KEY = 0.55, 0.6


@dataclass(frozen=True)
class Crop:
    """A part of a copy of a photo, px of that copy, and how it is scaled; larger: the copy against the photo."""

    larger: float
    left: int
    top: int
    right: int
    bottom: int
    scale: float

    def of(self, rgb: Pixels) -> Pixels:
        part = rgb[self.top : self.bottom, self.left : self.right]
        size = (round(part.shape[1] * self.scale), round(part.shape[0] * self.scale))
        return np.asarray(cv2.resize(part, size, interpolation=cv2.INTER_AREA), dtype=np.uint8)

    def places(self, px: Array) -> Array:
        """Where places (N, 2) px of the photo lie in the cropped picture."""
        return (px * self.larger - [self.left, self.top]) * self.scale


def crop_of(model: HeadModel, name: str, shape: tuple[int, ...]) -> Crop:
    """Head, neck and some wall of a photo: the same before and after the cut. shape (height, width) of the copy."""
    camera = next(c for p, c in model.seen if p.name == name)
    larger = shape[1] / camera.width_px
    line = model.coat_lines[name] * larger
    (left, top), (right, bottom) = line.min(axis=0), line.max(axis=0)
    side = max(right - left, bottom - top)
    low = np.maximum(np.array([left, top]) - ROOM * side, 0.0)
    high = np.minimum(np.array([right + ROOM * side, bottom + BELOW * side]), shape[1::-1])
    x0, y0, x1, y1 = (int(v) for v in (*np.floor(low), *np.ceil(high)))
    return Crop(larger, x0, y0, x1, y1, min(1.0, LARGEST_PX / max(x1 - x0, y1 - y0)))


def photo_from(model: HeadModel, side: PictureView) -> str | None:
    """The name of the photo that shows the head from the front or the side; None where none does."""
    seen = {photo.view: photo.name for photo, _ in reversed(model.seen)}
    return next((seen[view] for view in SHOWING[side] if view in seen), None)


def before_and_after(
    model: HeadModel, outline: Outline, weeks_ahead: float, photos: Mapping[str, Callable[[], Pixels]]
) -> list[tuple[Pixels, Pixels]]:
    """Every side that a photo shows, as it is and after the cut. photos: what reads each, by its name."""
    found = []
    for side in SHOWING:
        name = photo_from(model, side)
        if name is not None and name in photos:
            rgb = photos[name]()
            found.append(
                (crop_of(model, name, rgb.shape).of(rgb), cut_photo(model, outline, weeks_ahead, name, rgb))
            )
    return found


def cut_photo(model: HeadModel, outline: Outline, weeks_ahead: float, name: str, rgb: Pixels) -> Pixels:
    """A photo, cropped (see crop_of), with the coat taken in to an outline, some weeks after that. rgb (height,
    width, 3): the whole photo, or a smaller copy of it."""
    photo, camera = next((p, c) for p, c in model.seen if p.name == name)
    crop = crop_of(model, name, rgb.shape)
    ground = model.ground
    depth, ears = grown(outline, weeks_ahead)
    worn = np.concatenate([surface(outline, ground.coat.depth_mm), *ears_now(ground)])
    cut = np.concatenate([surface(outline, depth), *ears])
    faces, many = head_faces(ground), len(ground.skin.vertices_mm)
    ear, none = np.arange(len(cut)) >= many, np.zeros(len(cut) - many, bool)
    zones = np.array([zone in RUNS_INTO_BODY for zone in ZONES])[ground.skin.template.zone]
    edge = next((e.line_px for e in model.edges if e.camera is camera), np.zeros((0, 2)))
    taking = Taking(
        seen_head(camera, worn, faces, crop),
        seen_head(camera, cut, faces, crop),
        faces,
        ear,
        np.concatenate([zones, none]),
        np.concatenate([ground.bare, none]),
        crop.places(edge),
        crop.places(camera.project(_still(ground, photo.view))),
        camera.px_a_mm * crop.larger * crop.scale,
    )
    return taken_in(crop.of(rgb), taking)


def seen_head(camera: Camera, vertices_mm: Array, faces: IntArray, crop: Crop) -> SeenHead:
    """A surface (V, 3) as a cropped photo shows it."""
    slopes = normals(vertices_mm, faces) @ camera.rotation.T
    light = AMBIENT + KEY * np.clip(slopes @ unit(np.array(KEY_LIGHT)), 0.0, 1.0)
    away = np.linalg.norm(vertices_mm - camera.centre_mm, axis=1)
    return SeenHead(crop.places(camera.project(vertices_mm)), away, light)


def normals(vertices_mm: Array, faces: IntArray) -> Array:
    """Outward ways (V, 3), unit, of a mesh: its faces' means, by their area."""
    a, b, c = (vertices_mm[faces[:, i]] for i in range(3))
    slopes = np.zeros_like(vertices_mm)
    for i in range(3):
        np.add.at(slopes, faces[:, i], np.cross(b - a, c - a))
    return unit(slopes)


def _still(ground: Ground, view: View) -> Array:
    seen = [f"{eye}_{side}" for side in SIDES_SEEN[view] for eye in EYES]
    names = [*STILL, *seen] if view != "back" else seen
    return ground.head.points_mm[[INDEX[name] for name in names]]
