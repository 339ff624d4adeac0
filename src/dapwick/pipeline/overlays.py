"""What lies over each photo: lines that change with the outline, and those that stand still with the head."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

import numpy as np

from dapwick.core.basics.arrays import Array, frozen, unit
from dapwick.core.basics.camera import Camera
from dapwick.core.basics.fair import FAIR_MM, fair
from dapwick.core.outlines.covers import SettingLine, on_skin
from dapwick.core.outlines.family import FULLNESS, Grip
from dapwick.core.outlines.fit import Outline
from dapwick.core.outlines.ground import Ground
from dapwick.core.plan.finished import surface
from dapwick.core.plan.lengths import NORMAL_90
from dapwick.core.plan.telling import TELLING_SHORTAGE_MM
from dapwick.pipeline.head_model import HeadModel, seen_by

SHORTAGE_DOTS: Final = 60
SEEN_ALONG: Final = 0.5
"""A grip is shown where its axis is seen at least this much from the side."""
OFF_THE_SKIN_MM: Final = 1.0
NOTHING: Final = frozen(np.zeros((0, 2)))


@dataclass(frozen=True)
class Handle:
    """Where a parameter is pulled on a photo: a place on the outline (px) and how far it moves for one unit."""

    parameter: str
    at_px: tuple[float, float]
    px_a_unit: tuple[float, float]


@dataclass(frozen=True)
class MovingLines:
    """Lines over one photo that move with a slider, px: the outline left and dots where hair is missing.
    skin_band_px: 90 % half-width of the skin line."""

    photo: str
    outline: Array
    shortage: Array
    skin_band_px: float
    handles: tuple[Handle, ...]


@dataclass(frozen=True)
class PhotoLines(MovingLines):
    """All lines over one photo, px: also skin, the traced coat edge, the coat with the ears' on the head alone, and
    the setting lines."""

    skin: Array
    coat: Array
    coat_on_head: Array
    setting: tuple[Array, ...]


def moving_lines(
    model: HeadModel, outline: Outline, finished: Array, ears: tuple[Array, Array], short_mm: Array
) -> tuple[MovingLines, ...]:
    """What moves over each photo, drawn coarsely: enough while a slider is on its way. short_mm (V,): what is told as
    missing."""
    return tuple(
        MovingLines(photo.name, *_moving(model, outline, camera, finished, ears, short_mm, coarse=True))
        for photo, camera in model.seen
    )


def photo_lines(
    model: HeadModel, outline: Outline, finished: Array, ears: tuple[Array, Array], short_mm: Array
) -> tuple[PhotoLines, ...]:
    """The finished surface and all beside it over each photo. short_mm (V,): what is told as missing."""
    by_camera = {id(edge.camera): edge.line_px for edge in model.edges}
    lines = [_off_skin(line, model.ground) for line in outline.design.lines]
    return tuple(
        PhotoLines(
            photo.name,
            *_moving(model, outline, camera, finished, ears, short_mm),
            skin=model.skin_lines[photo.name],
            coat=by_camera.get(id(camera), NOTHING),
            coat_on_head=model.coat_lines[photo.name],
            setting=tuple(_in_sight(camera, line) for line in lines),
        )
        for photo, camera in model.seen
    )


def _moving(
    model: HeadModel,
    outline: Outline,
    camera: Camera,
    finished: Array,
    ears: tuple[Array, Array],
    short_mm: Array,
    coarse: bool = False,
) -> tuple[Array, Array, float, tuple[Handle, ...]]:
    """Outline, shortage, the skin's band and handles in one photo."""
    sigma_mm = float(np.median(model.ground.skin.sigma_mm))
    line = seen_by(camera, model.ground, finished, ears, coarse)
    return (
        line if coarse else fair(line, FAIR_MM * camera.px_a_mm),
        shortage_dots(outline, short_mm, camera),
        NORMAL_90 * sigma_mm * camera.px_a_mm,
        handles_on(outline, camera, finished, ears),
    )


def shortage_dots(outline: Outline, short_mm: Array, camera: Camera) -> Array:
    """Places (N, 2) px on the wanted surface where hair is told as missing (short_mm (V,)), on the side the camera
    sees."""
    skin = outline.ground.skin
    facing = ((camera.centre_mm - skin.vertices_mm) * skin.outward).sum(axis=1) > 0
    at = np.flatnonzero((short_mm > TELLING_SHORTAGE_MM) & facing & ~outline.ground.bare)
    step = max(1, -(-len(at) // SHORTAGE_DOTS))
    return camera.project(surface(outline, outline.wanted_mm)[at[::step]])


def _off_skin(line: SettingLine, ground: Ground) -> tuple[SettingLine, Array]:
    return line, on_skin(line, ground.skin)


def _in_sight(camera: Camera, drawn: tuple[SettingLine, Array]) -> Array:
    """A setting line (K, 2) px where its side of the head faces the camera."""
    line, places = drawn
    outward = 1.0 if line.side == "right" else -1.0
    off = places + [outward * OFF_THE_SKIN_MM, 0.0, 0.0]
    facing = (camera.centre_mm[0] - places[:, 0]) * outward > 0
    return camera.project(off[facing]) if facing.sum() > 1 else NOTHING


def handles_on(
    outline: Outline, camera: Camera, finished: Array, ears: tuple[Array, Array]
) -> tuple[Handle, ...]:
    """A handle for each parameter that can be pulled in this photo."""
    sizes = outline.sizes
    reach = {FULLNESS: max(sizes.largest - sizes.fitted, sizes.fitted - sizes.smallest, 1.0)}
    gripped = [(FULLNESS, outline.family.size_grip)]
    gripped += [(p.id, p.grip) for p in outline.family.turned if p.grip]
    found = []
    for parameter, grip in gripped:
        handle = _handle(
            outline, camera, finished, ears, parameter, grip, grip.gain * reach.get(parameter, 1.0)
        )
        if handle:
            found.append(handle)
    return tuple(found)


def _handle(
    outline: Outline,
    camera: Camera,
    finished: Array,
    ears: tuple[Array, Array],
    parameter: str,
    grip: Grip,
    gain_mm: float,
) -> Handle | None:
    side = 1.0 if camera.centre_mm[0] > 0 else -1.0
    axis = np.array(grip.axis, dtype=float) * [-side if abs(camera.centre_mm[0]) > 200 else 1.0, 1.0, 1.0]
    places = finished[outline.ground.skin.in_zone(grip.zone)] if not grip.zone.startswith("ear_") else None
    if places is None:
        ear = outline.ground.ears[1 if side > 0 else 0]
        places = ears[1 if side > 0 else 0]
        axis = unit(ear.vertices_mm[-1] - ear.vertices_mm[0])
    at = places[int(np.argmax(places @ axis))]
    to_camera = unit(camera.centre_mm - at)
    if np.sqrt(max(1.0 - float(to_camera @ axis) ** 2, 0.0)) < SEEN_ALONG:
        return None
    here, moved = camera.project(np.stack([at, at + axis * gain_mm]))
    return Handle(parameter, _pair(here), _pair(moved - here))


def _pair(at: Array) -> tuple[float, float]:
    return float(at[0]), float(at[1])
