"""A head's surfaces as meshes with what is known of each vertex: skin, coat as worn, coat as planned."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final, Literal

import numpy as np

from dapwick.core.basics.arrays import Array, IntArray
from dapwick.core.basics.marks import INDEX
from dapwick.core.head.zones import ZONES
from dapwick.core.outlines.ear_cut import EAR_VERTICES, closed_faces
from dapwick.core.outlines.effects import ears_cut, ears_now
from dapwick.core.outlines.fit import Outline
from dapwick.core.outlines.ground import Ground
from dapwick.core.plan.finished import surface

What = Literal["skin", "coat", "finished"]
EAR_SIDES: Final = ("left", "right")
PLACES: Final = (*ZONES, *(f"ear_{side}" for side in EAR_SIDES))
"""What a vertex's zone is an index into."""


@dataclass(frozen=True)
class Surface:
    """vertices_mm (V, 3) head frame; faces (F, 3) wound outward; sigma_mm (V,) how well each is known along its
    outward direction; zone (V,) index into PLACES."""

    vertices_mm: Array
    faces: IntArray
    sigma_mm: Array
    zone: IntArray


def skin_surface(ground: Ground) -> Surface:
    """The skin of the head, without ears."""
    skin = ground.skin
    return Surface(skin.vertices_mm, skin.template.faces, skin.sigma_mm, skin.template.zone)


def coat_surface(ground: Ground) -> Surface:
    """The coat as it is worn now, with the ears."""
    skin, coat = ground.skin, ground.coat
    worn = skin.vertices_mm + coat.depth_mm[:, None] * skin.outward
    return _with_ears(ground, worn, coat.outside_sigma_mm, ears_now(ground))


def finished_surface(outline: Outline) -> Surface:
    """The coat as an outline leaves it, with the ears: as sure as the skin that its lengths start from."""
    left = surface(outline, outline.leave_mm)
    return _with_ears(outline.ground, left, outline.ground.skin.sigma_mm, ears_cut(outline))


def _with_ears(ground: Ground, head_mm: Array, sigma_mm: Array, ears_mm: tuple[Array, Array]) -> Surface:
    template, ear = ground.skin.template, closed_faces()
    first = len(head_mm)
    zones = [np.full(len(one), len(ZONES) + i) for i, one in enumerate(ears_mm)]
    spread = [np.full(len(one), _ear_sigma_mm(ground, s)) for one, s in zip(ears_mm, EAR_SIDES, strict=True)]
    return Surface(
        np.concatenate([head_mm, *ears_mm]),
        np.concatenate([template.faces, ear + first, ear + first + EAR_VERTICES]),
        np.concatenate([sigma_mm, *spread]),
        np.concatenate([template.zone, *zones]),
    )


def _ear_sigma_mm(ground: Ground, side: str) -> float:
    """How well an ear is known: as its marks are, all together."""
    of_ear = [INDEX[f"ear_{part}_{side}"] for part in ("front", "back", "tip")]
    return float(np.sqrt((ground.head.sigma_mm[of_ear] ** 2).mean()))
