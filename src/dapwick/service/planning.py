"""From a head file or a visit to a planned outline: solve, trace what is missing, fit, draw."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any, Final

import numpy as np

from dapwick.core.arrays import Array, frozen
from dapwick.core.camera import Camera
from dapwick.core.errors import BadInput
from dapwick.core.head.coat import Coat, CoatProbe, coat_of
from dapwick.core.head.silhouettes import Edge
from dapwick.core.head.skin import Skin, skin_of
from dapwick.core.head.template import NOT_ON_SKIN
from dapwick.core.head.wet import set_right
from dapwick.core.marks import MARK_IDS
from dapwick.core.measures import NORMAL_95
from dapwick.core.observations import PhotoMarks
from dapwick.core.outlines.families import family
from dapwick.core.outlines.fit import Fit, Ground, Outline, draw_outline, fit_family
from dapwick.core.plan.lengths import Verdict, ZoneLength, verdict_of, zone_lengths
from dapwick.core.solve import HeadSolution
from dapwick.vision.edge import NoEdge, trace_edge
from dapwick.vision.guess import NoGuess, dog_chance, guess_marks
from dapwick.vision.photo import Pixels
from dapwick.vision.silhouette import silhouette

SHEET_VIEWS: Final[Mapping[str, tuple[int, int, int, int]]] = {
    "front": (0, -1, 2, -1),
    "left": (1, -1, 2, -1),
    "top": (0, 1, 1, -1),
}
"""Aligned views as (axis across, sign, axis down, sign) of the head frame; mm, y down."""
TELLING_SHORTAGE_MM: Final = 3.0
SHORTAGE_DOTS: Final = 60
NO_EDGES: Final[Mapping[str, Array]] = {}
NOTHING: Final = frozen(np.zeros((0, 2)))


@dataclass(frozen=True)
class PhotoLines:
    """Lines over one photo, px: skin, the traced coat edge, the coat on the head alone, the outline left,
    and dots where hair is missing. skin_band_px: 95 % half-width of the skin line."""

    photo: str
    skin: Array
    coat: Array
    coat_on_head: Array
    outline: Array
    shortage: Array
    skin_band_px: float


@dataclass(frozen=True)
class Plan:
    """An outline on this head with all that is told of it."""

    outline: Outline
    zones: tuple[ZoneLength, ...]
    verdict: Verdict
    photos: tuple[PhotoLines, ...]
    sheet: Mapping[str, Mapping[str, Array]]


@dataclass(frozen=True)
class FittedGround:
    """A ground with one family fitted on it and the lines that do not change while dragging."""

    ground: Ground
    fit: Fit
    family_id: str
    coat_type: str
    edges: tuple[Edge, ...]
    photos: tuple[PhotoMarks, ...]
    notes: tuple[str, ...]
    skin_lines: Mapping[str, Array]
    coat_lines: Mapping[str, Array]


def coat_edge_of(
    head: HeadSolution, photo: PhotoMarks, rgb: Pixels, chance: Array | None = None
) -> Array | NoEdge:
    """The coat's edge on a photo of a solved head. chance: each pixel's chance of dog, where it is known;
    else it is guessed from the picture."""
    if chance is None:
        guess = guess_marks(rgb, photo.view)
        chance = None if isinstance(guess, NoGuess) else dog_chance(guess, rgb.shape[1], rgb.shape[0])
    return trace_edge(rgb, edge_seeds(head, photo), chance)


def edge_seeds(head: HeadSolution, photo: PhotoMarks) -> dict[str, tuple[float, float]]:
    """Places on the dog in a photo: the marks placed on it and where the others are expected, so that a
    photo with little more than eyes and nose marked is not taken for a small dog. Ear tips count only
    where placed."""
    camera = head.camera_of(photo.name)
    expected = camera.project(head.points_mm) if camera else np.full((len(MARK_IDS), 2), np.nan)
    seeds = {
        mark: (float(x), float(y))
        for mark, (x, y) in zip(MARK_IDS, expected, strict=True)
        if mark not in NOT_ON_SKIN and np.isfinite([x, y]).all()
    }
    return seeds | {mark: (m.x_px, m.y_px) for mark, m in photo.marks.items()}


def fitted_ground(
    head: HeadSolution,
    coat_type: str,
    edges: Mapping[str, Array],
    probes: Sequence[CoatProbe],
    family_id: str,
    notes: Sequence[str] = (),
    wet: Mapping[str, Array] = NO_EDGES,
) -> FittedGround:
    """Skin and coat of a solved head, and the family's own choice on it. edges, wet: photo name to line
    (px), of dry and of wet photos."""
    chosen = family(family_id)
    skin = skin_on(head, wet)
    touching = edges_on(head, edges)
    coat: Coat = coat_of(head, skin, coat_type, touching, probes)
    ground = Ground(head, skin, coat)
    combed_out = skin.vertices_mm + coat.depth_mm[:, None] * skin.outward
    skin_lines, coat_lines = (
        {
            photo.name: outer_line(skin, camera, points)
            for photo, camera in zip(head.photos, head.cameras, strict=True)
        }
        for points in (skin.vertices_mm, combed_out)
    )
    return FittedGround(
        ground,
        fit_family(ground, chosen),
        family_id,
        coat_type,
        touching,
        head.photos,
        tuple(notes),
        skin_lines,
        coat_lines,
    )


def skin_on(head: HeadSolution, wet: Mapping[str, Array]) -> Skin:
    """The skin of a solved head, set right by the edges of its wet photos."""
    return set_right(head, skin_of(head), edges_on(head, wet))


def edges_on(head: HeadSolution, lines: Mapping[str, Array]) -> tuple[Edge, ...]:
    """Traced lines with the cameras that saw them; those of photos that were not solved are left out."""
    return tuple(
        Edge(camera, photo.view, lines[photo.name])
        for camera, photo in zip(head.cameras, head.photos, strict=True)
        if photo.name in lines
    )


def plan_on(fitted: FittedGround, params: Mapping[str, Any], moving: bool = False) -> Plan:
    """Everything shown for one setting of the sliders. While a slider is moving, what does not change
    with it (skin, coat) and the aligned sheet are left empty."""
    outline = draw_outline(fitted.ground, family(fitted.family_id), fitted.fit, params)
    zones = zone_lengths(outline)
    by_camera = {id(edge.camera): edge.line_px for edge in fitted.edges}
    skin = fitted.ground.skin
    finished = surface(outline, outline.leave_mm)
    sigma_mm = float(np.median(skin.sigma_mm))
    photos = tuple(
        PhotoLines(
            photo=photo.name,
            skin=NOTHING if moving else fitted.skin_lines[photo.name],
            coat=NOTHING if moving else by_camera.get(id(camera), NOTHING),
            coat_on_head=NOTHING if moving else fitted.coat_lines[photo.name],
            outline=outer_line(skin, camera, finished, coarse=moving),
            shortage=shortage_dots(outline, camera),
            skin_band_px=NORMAL_95 * sigma_mm * camera.focal_px / camera.distance_mm,
        )
        for photo, camera in zip(fitted.photos, fitted.ground.head.cameras, strict=True)
    )
    sheet = {} if moving else sheet_lines(outline)
    return Plan(outline, zones, verdict_of(outline, zones, fitted.coat_type), photos, sheet)


def surface(outline: Outline, depth_mm: Array) -> Array:
    """The surface (V, 3) mm at some depth over the skin."""
    skin = outline.ground.skin
    return np.asarray(skin.vertices_mm + depth_mm[:, None] * skin.outward)


def outer_line(skin: Skin, camera: Camera, points_mm: Array, coarse: bool = False) -> Array:
    """Silhouette (N, 2) px of a surface over the template's faces in one photo."""
    faces = skin.template.coarse_faces if coarse else skin.template.faces
    return silhouette(camera.project(points_mm), faces)


def shortage_dots(outline: Outline, camera: Camera) -> Array:
    """Places (N, 2) px on the wanted surface where hair is missing, on the side the camera sees."""
    skin = outline.ground.skin
    facing = ((camera.centre_mm - skin.vertices_mm) * skin.outward).sum(axis=1) > 0
    planned = np.zeros(len(facing), dtype=bool)
    planned[outline.ground.members(outline.family)] = True
    at = np.flatnonzero((outline.short_mm > TELLING_SHORTAGE_MM) & facing & planned)
    step = max(1, -(-len(at) // SHORTAGE_DOTS))
    return camera.project(surface(outline, outline.wanted_mm)[at[::step]])


def sheet_lines(outline: Outline) -> dict[str, dict[str, Array]]:
    """Outline, coat and skin of the aligned views, mm, x right and y down, shared scale and level."""
    skin = outline.ground.skin
    surfaces = {
        "skin": skin.vertices_mm,
        "coat": surface(outline, outline.ground.coat.depth_mm),
        "outline": surface(outline, outline.leave_mm),
    }
    return {
        view: {name: silhouette(flat(points, view), skin.template.faces) for name, points in surfaces.items()}
        for view in SHEET_VIEWS
    }


def flat(points: Array, view: str) -> Array:
    """Points (N, 3) of the head as an aligned view shows them (N, 2), mm."""
    across, sign_across, down, sign_down = SHEET_VIEWS[view]
    return np.column_stack([sign_across * points[:, across], sign_down * points[:, down]])


def needs_coat(edges: Mapping[str, Array], probes: Sequence[CoatProbe]) -> None:
    """An outline without any reading of the coat would be an invention."""
    if not edges and not probes:
        raise BadInput(
            "nothing is known of the coat",
            expected="a dry photo whose coat edge can be traced, or a comb depth",
            got="neither",
            where="outline",
            remedy="Add a dry photo against a plain background.",
        )
