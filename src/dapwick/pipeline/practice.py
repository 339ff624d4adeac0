"""Made heads as they are shown and judged: their colours, their mesh, and a finished one photographed and checked."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

import numpy as np

from dapwick.core.after.cameras import MOVES, FoundCamera
from dapwick.core.after.deviations import Deviations, deviations
from dapwick.core.after.readings import FinishedPhoto
from dapwick.core.basics.arrays import Array
from dapwick.core.basics.marks import View
from dapwick.core.head.silhouettes import Edge
from dapwick.core.head.skin_and_coat import STANDS_OUT_MM
from dapwick.core.head.zones import ZONES
from dapwick.core.outlines.ear_cut import EAR_VERTICES, ear_surface
from dapwick.core.outlines.fit import Outline
from dapwick.core.outlines.ground import Ground
from dapwick.core.practice.heads import MadeHead, camera_for
from dapwick.pipeline.head_colours import USUAL_LEATHER, HeadColours
from dapwick.pipeline.mesh import Mesh, mesh_of
from dapwick.vision.silhouette import silhouette

PALETTE: Final = (
    (214.0, 186.0, 150.0), (236.0, 228.0, 214.0), (122.0, 84.0, 58.0), (66.0, 60.0, 60.0), (176.0, 152.0, 122.0),
    (150.0, 146.0, 144.0), (196.0, 140.0, 92.0),
)  # fmt: skip
"""Colours of coats."""
PATTERNS: Final = ("whole", "whole", "mask", "parted")
SOFT_MM: Final = 9.0
SEEN_FROM: Final[tuple[View, ...]] = ("front", "left", "right")
SURE: Final = 1e-10


@dataclass(frozen=True)
class Shown:
    """A made head as it is sent: with its coat, and how it looks without any (depths (V,) and ears (2·E, 3), mm)."""

    mesh: Mesh
    bare_ears_mm: Array


def shown(made: MadeHead) -> Shown:
    ground = made.ground
    left, right = (ear_surface(ear, {}, (2.0, 2.0)) for ear in ground.ears)
    return Shown(mesh_of(ground, colours_for(made)), np.concatenate([left, right]))


def colours_for(made: MadeHead) -> HeadColours:
    """A coat's colours, drawn with the head."""
    rng = np.random.default_rng([made.seed, 3])
    one, other = (np.array(PALETTE[i]) for i in rng.choice(len(PALETTE), 2, replace=False))
    share = _second(made.ground, PATTERNS[int(rng.integers(len(PATTERNS)))])
    skin = one + share[:, None] * (other - one)
    ears = np.tile(other if share.any() and share.max() > 0.5 else one * 0.94, (2 * EAR_VERTICES, 1))
    hair = np.concatenate([skin, ears]) * rng.uniform(0.97, 1.03, (len(skin) + len(ears), 1))
    return HeadColours(np.clip(hair, 0.0, 255.0), np.array(USUAL_LEATHER))


def _second(ground: Ground, pattern: str) -> Array:
    """How much (V,) of the second colour each place has."""
    face, at = ground.face, ground.skin.vertices_mm
    if pattern == "mask":
        return _step(at[:, 1] - face.ahead("stop"))
    if pattern == "parted":
        return _step(np.abs(at[:, 0]) - 0.3 * face.half_width)
    return np.zeros(len(at))


def _step(mm: Array) -> Array:
    return np.asarray(1.0 / (1.0 + np.exp(-mm / (SOFT_MM / 3))))


def places_of(ground: Ground, places: tuple[tuple[str, str], ...]) -> Array:
    """For each vertex (V,) which of some places it belongs to, counted from 1; 0 for none."""
    zone, right = ground.skin.template.zone, ground.skin.vertices_mm[:, 0] > 0
    found = np.zeros(len(zone))
    for i, (name, side) in enumerate(places):
        found[(zone == ZONES.index(name)) & (right == (side == "right"))] = i + 1
    return found


def checked_against(outline: Outline, off_mm: Array) -> Deviations:
    """What the check finds of a made head whose surface lies off_mm (V,) off its outline, photographed from the front
    and both sides by somebody who knows where they stand."""
    ground = outline.ground
    depth = outline.leave_mm + off_mm
    surface = ground.skin.vertices_mm + (depth - STANDS_OUT_MM)[:, None] * ground.skin.outward
    photos = [_photo(view, ground, surface) for view in SEEN_FROM]
    return deviations(outline, photos)


def _photo(view: View, ground: Ground, surface: Array) -> FinishedPhoto:
    camera = camera_for(view, ground.head.points_mm)
    line = silhouette(camera.project(surface), ground.skin.template.faces)
    known = FoundCamera(camera, SURE * np.eye(MOVES), 0.0, np.zeros(2))
    return FinishedPhoto(view, known, Edge(camera, view, line))
