"""From a studied head to a planned outline with all that is told of it, drawn over its photos."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, Final

import numpy as np

from dapwick.core.arrays import Array, frozen, unit
from dapwick.core.camera import Camera
from dapwick.core.head.stand import depth_of, length_of
from dapwick.core.outlines.covers import SettingLine, on_skin
from dapwick.core.outlines.draws import draws_of
from dapwick.core.outlines.effects import ears_cut, ears_now
from dapwick.core.outlines.family import FULLNESS, Family, Grip, settle_schools
from dapwick.core.outlines.fit import Fit, Outline, draw_outline, fit_family
from dapwick.core.outlines.ground import Ground
from dapwick.core.outlines.verdict import Verdict, quick_verdict, verdict_of
from dapwick.core.outlines.wishes import NO_WISHES, Wishes
from dapwick.core.plan.growth import growth_mm
from dapwick.core.plan.kit import USUAL_KIT, Kit
from dapwick.core.plan.lengths import NORMAL_90, ZoneLength, planned_groups, zone_lengths
from dapwick.service.describe import in_words
from dapwick.service.study import Study, head_faces, seen_by
from dapwick.vision.silhouette import MASK_SIDE_PX, silhouette

SHEET_VIEWS: Final[Mapping[str, tuple[int, int, int, int]]] = {
    "front": (0, -1, 2, -1),
    "left": (1, -1, 2, -1),
    "top": (0, 1, 1, -1),
}
"""Aligned views as (axis across, sign, axis down, sign) of the head frame; mm, y down."""
TELLING_SHORTAGE_MM: Final = 3.0
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
class PhotoLines:
    """Lines over one photo, px: skin, the traced coat edge, the coat with the ears' on the head alone, the
    outline left, the setting lines, and dots where hair is missing. skin_band_px: 90 % half-width of the skin
    line."""

    photo: str
    skin: Array
    coat: Array
    coat_on_head: Array
    outline: Array
    setting: tuple[Array, ...]
    shortage: Array
    skin_band_px: float
    handles: tuple[Handle, ...]


@dataclass(frozen=True)
class Plan:
    """An outline on this head with all that is told of it. runs_out: chance that somewhere the hair is not
    there; None while a slider moves. depth_mm (V,) and ears_mm: what is shown, grown if asked; text: the drawing
    in words."""

    outline: Outline
    zones: tuple[ZoneLength, ...]
    verdict: Verdict
    runs_out: float | None
    depth_mm: Array
    ears_mm: tuple[Array, Array]
    photos: tuple[PhotoLines, ...]
    sheet: Mapping[str, Mapping[str, Array]]
    text: str


@dataclass(frozen=True)
class FittedGround:
    """A study with one family fitted on it."""

    study: Study
    family: Family
    schools: Mapping[str, str]
    fit: Fit

    @property
    def ground(self) -> Ground:
        return self.study.ground


def fit_on(
    study: Study, chosen: Family, schools: Mapping[str, str] | None = None, wishes: Wishes = NO_WISHES
) -> FittedGround:
    """The family's own choice on a studied head; schools not named are the family's usual ones."""
    settled = settle_schools(chosen, schools or {}, study.ground.coat_type)
    return FittedGround(study, chosen, settled, fit_family(study.ground, chosen, settled, wishes))


def drawn_on(fitted: FittedGround, params: Mapping[str, Any]) -> Outline:
    return draw_outline(fitted.ground, fitted.family, fitted.fit, params, fitted.schools)


def plan_on(
    fitted: FittedGround,
    params: Mapping[str, Any],
    moving: bool = False,
    weeks_ahead: float = 0.0,
    kit: Kit = USUAL_KIT,
) -> Plan:
    """Everything shown for one setting of the sliders, as it will be some weeks after the cut. While a slider
    is moving, what does not change with it (skin, coat), draws and the aligned sheet are left out."""
    outline = drawn_on(fitted, params)
    draws = None if moving else draws_of(outline)
    zones = zone_lengths(outline, draws, kit)
    runs_out = draws.chance_out(planned_groups(outline)) if draws else None
    depth, ears = grown(outline, weeks_ahead)
    finished = surface(outline, depth)
    verdict = quick_verdict(outline, zones) if moving else verdict_of(outline, zones)
    return Plan(
        outline,
        zones,
        verdict,
        runs_out,
        depth,
        ears,
        photos_of(fitted, outline, finished, ears, moving),
        {} if moving else sheet_lines(outline, finished, ears),
        "" if moving else in_words(outline, zones, verdict),
    )


def thumb_on(fitted: FittedGround) -> Plan:
    """The outline as fitted, small: its verdict and the aligned views."""
    outline = drawn_on(fitted, {})
    zones = zone_lengths(outline)
    depth, ears = grown(outline, 0.0)
    sheet = sheet_lines(outline, surface(outline, depth), ears)
    return Plan(outline, zones, verdict_of(outline, zones), None, depth, ears, (), sheet, "")


def photos_of(
    fitted: FittedGround, outline: Outline, finished: Array, ears: tuple[Array, Array], moving: bool = False
) -> tuple[PhotoLines, ...]:
    """The finished surface and all beside it over each photo."""
    study, ground = fitted.study, fitted.ground
    by_camera = {id(edge.camera): edge.line_px for edge in study.edges}
    sigma_mm = float(np.median(ground.skin.sigma_mm))
    lines = [] if moving else [_off_skin(line, ground) for line in outline.design.lines]
    return tuple(
        PhotoLines(
            photo=photo.name,
            skin=NOTHING if moving else study.skin_lines[photo.name],
            coat=NOTHING if moving else by_camera.get(id(camera), NOTHING),
            coat_on_head=NOTHING if moving else study.coat_lines[photo.name],
            outline=seen_by(camera, ground, finished, ears, coarse=moving),
            setting=tuple(_in_sight(camera, line) for line in lines),
            shortage=shortage_dots(outline, camera),
            skin_band_px=NORMAL_90 * sigma_mm * camera.focal_px / camera.distance_mm,
            handles=handles_on(outline, camera, finished, ears),
        )
        for photo, camera in study.seen
    )


def surface(outline: Outline, depth_mm: Array) -> Array:
    """The surface (V, 3) mm at some depth over the skin."""
    skin = outline.ground.skin
    return np.asarray(skin.vertices_mm + depth_mm[:, None] * skin.outward)


def grown(outline: Outline, weeks: float) -> tuple[Array, tuple[Array, Array]]:
    """Depth (V,) of the finished head, and the ears, some weeks after the cut: every length longer by its
    growth."""
    ears = ears_cut(outline)
    if weeks <= 0:
        return outline.leave_mm, ears
    ground = outline.ground
    longer = growth_mm(weeks, ground.coat_type)
    stand = ground.coat.stand
    depth = depth_of(length_of(outline.leave_mm, stand) + longer, stand)
    depth = np.where(ground.bare, outline.leave_mm, depth)
    now = ears_now(ground)
    share = min(1.0, longer / max(length_of(np.array(15.0), np.median(stand)).item(), 1.0))
    mixed = (ears[0] + share * (now[0] - ears[0]), ears[1] + share * (now[1] - ears[1]))
    return depth, mixed


def shortage_dots(outline: Outline, camera: Camera) -> Array:
    """Places (N, 2) px on the wanted surface where hair is missing, on the side the camera sees."""
    skin = outline.ground.skin
    facing = ((camera.centre_mm - skin.vertices_mm) * skin.outward).sum(axis=1) > 0
    at = np.flatnonzero((outline.short_mm > TELLING_SHORTAGE_MM) & facing & ~outline.ground.bare)
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


def sheet_lines(
    outline: Outline, finished: Array, ears: tuple[Array, Array], side_px: int = MASK_SIDE_PX
) -> dict[str, dict[str, Array]]:
    """Outline, coat and skin of the aligned views, mm, x right and y down, shared scale and level. side_px: how
    finely they are traced."""
    ground = outline.ground
    faces, skin_faces = head_faces(ground), ground.skin.template.faces
    coat = np.concatenate([surface(outline, ground.coat.depth_mm), *ears_now(ground)])
    cut = np.concatenate([finished, *ears])
    return {
        view: {
            "skin": silhouette(flat(ground.skin.vertices_mm, view), skin_faces, side_px),
            "coat": silhouette(flat(coat, view), faces, side_px),
            "outline": silhouette(flat(cut, view), faces, side_px),
        }
        for view in SHEET_VIEWS
    }


def flat(points: Array, view: str) -> Array:
    """Points (N, 3) of the head as an aligned view shows them (N, 2), mm."""
    across, sign_across, down, sign_down = SHEET_VIEWS[view]
    return np.column_stack([sign_across * points[:, across], sign_down * points[:, down]])
