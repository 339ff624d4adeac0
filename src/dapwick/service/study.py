"""A solved head studied for outlines: skin set right, coat and ears known, the lines that stay still."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cache
from typing import Final

import numpy as np

from dapwick.core.arrays import Array, IntArray
from dapwick.core.camera import Camera
from dapwick.core.errors import BadInput
from dapwick.core.head.coat import Coat, CoatProbe, coat_of
from dapwick.core.head.ears import ears_of
from dapwick.core.head.silhouettes import Edge
from dapwick.core.head.skin import Skin, skin_of
from dapwick.core.head.template import NOT_ON_SKIN
from dapwick.core.head.wet import set_right, wet_thickness_mm
from dapwick.core.marks import MARK_IDS
from dapwick.core.observations import PhotoMarks
from dapwick.core.outlines.ear_cut import EAR_VERTICES, ear_faces, flap_faces
from dapwick.core.outlines.effects import ears_now
from dapwick.core.outlines.ground import Ground
from dapwick.core.solve import HeadSolution
from dapwick.vision.edge import NoEdge, trace_edge
from dapwick.vision.guess import NoGuess, dog_chance, guess_marks
from dapwick.vision.photo import Pixels
from dapwick.vision.silhouette import MASK_SIDE_PX, silhouette

COARSE_MASK_PX: Final = 200
"""Mask of a line that is on the move: a pixel of it is about a millimetre of the head."""
NO_EDGES: Final[Mapping[str, Array]] = {}


@dataclass(frozen=True)
class Study:
    """A ground with the photos an outline is drawn over (none of a wet head), and their lines (px, by photo
    name): skin, and the coat with the ears' on it."""

    ground: Ground
    edges: tuple[Edge, ...]
    seen: tuple[tuple[PhotoMarks, Camera], ...]
    notes: tuple[str, ...]
    skin_lines: Mapping[str, Array]
    coat_lines: Mapping[str, Array]


def study_of(
    head: HeadSolution,
    coat_type: str,
    edges: Mapping[str, Array],
    probes: Sequence[CoatProbe],
    notes: Sequence[str] = (),
    wet: Mapping[str, Array] = NO_EDGES,
) -> Study:
    """Skin, coat and ears of a solved head. edges, wet: photo name to line (px), of dry and of wet photos."""
    touching = edges_on(head, edges)
    skin, coat = skin_and_coat(head, coat_type, touching, probes, edges_on(head, wet))
    ground = Ground(head, skin, coat, ears_of(head, probes), coat_type)
    combed_out = skin.vertices_mm + coat.depth_mm[:, None] * skin.outward
    seen = [(p, c) for p, c in zip(head.photos, head.cameras, strict=True) if p.name not in wet]
    skin_lines = {
        photo.name: silhouette(camera.project(skin.vertices_mm), skin.template.faces)
        for photo, camera in seen
    }
    coat_lines = {photo.name: seen_by(camera, ground, combed_out, ears_now(ground)) for photo, camera in seen}
    return Study(ground, touching, tuple(seen), tuple(notes), skin_lines, coat_lines)


def seen_by(
    camera: Camera, ground: Ground, points_mm: Array, ears: tuple[Array, Array], coarse: bool = False
) -> Array:
    """Silhouette (N, 2) px in one photo of a surface over the skin, with the ears."""
    places = camera.project(np.concatenate([points_mm, *ears]))
    return silhouette(places, head_faces(ground, coarse), COARSE_MASK_PX if coarse else MASK_SIDE_PX)


@cache
def _ear_faces(coarse: bool) -> IntArray:
    """Faces of an ear with its hair; coarse: the leaf's outer face alone, seen from both sides."""
    return flap_faces() if coarse else ear_faces()


def head_faces(ground: Ground, coarse: bool = False) -> IntArray:
    """Faces of the skin's vertices followed by both ears'."""
    template = ground.skin.template
    left = right = _ear_faces(coarse)
    first = len(template.vertices_mm)
    skin = template.coarse_faces if coarse else template.faces
    return np.concatenate([skin, left + first, right + first + EAR_VERTICES])


def skin_and_coat(
    head: HeadSolution,
    coat_type: str,
    dry: Sequence[Edge],
    probes: Sequence[CoatProbe],
    wet: Sequence[Edge],
) -> tuple[Skin, Coat]:
    """The skin set right by wet edges, whose hair is as thick as the dry coat tells, and the coat over it."""
    skin = skin_of(head)
    coat = coat_of(head, skin, coat_type, dry, probes)
    if not wet:
        return skin, coat
    skin = set_right(head, skin, wet, wet_thickness_mm(coat))
    return skin, coat_of(head, skin, coat_type, dry, probes)


def edges_on(head: HeadSolution, lines: Mapping[str, Array]) -> tuple[Edge, ...]:
    """Traced lines with the cameras that saw them; those of photos that were not solved are left out."""
    return tuple(
        Edge(camera, photo.view, lines[photo.name])
        for camera, photo in zip(head.cameras, head.photos, strict=True)
        if photo.name in lines
    )


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
