"""The head as a mesh for a turntable: what stands still, and what a setting of an outline leaves.

Positions are packed as little-endian 16-bit whole numbers of STEP_MM, in base64, which a browser reads at once.
"""

from __future__ import annotations

import base64
from dataclasses import dataclass
from typing import Any, Final

import numpy as np
from numpy.typing import NDArray
from scipy.spatial import cKDTree

from dapwick.core.basics.arrays import Array, IntArray
from dapwick.core.outlines.ear_cut import EAR_VERTICES, closed_faces
from dapwick.core.outlines.effects import ears_now
from dapwick.core.outlines.ground import Ground
from dapwick.pipeline.head_colours import HeadColours
from dapwick.pipeline.neck import neck_of

STEP_MM: Final = 0.05
UNIT_STEPS: Final = 16_384
LIP_PLACES: Final = 6
OFF_SKIN_MM: Final = 2.0
SIDES: Final = ("left", "right")
NOSE_WIDE: Final = 1.5
"""A nose's leather is so much wider than high."""


@dataclass(frozen=True)
class NeckMesh:
    """positions (N, 3) mm, outward (N, 3) unit, faces, fade (N,) 255 whole to 0 gone, like (N,) the skin's vertex whose
    hair and colour it has."""

    positions: str
    outward: str
    faces: str
    fade: str
    like: str


@dataclass(frozen=True)
class Mesh:
    """skin (V, 3) mm, outward (V, 3) unit, coat (V,) depth mm, ears (2·E, 3) mm with the hair they carry now,
    faces over skin then ears, bare (V,) 1 where no coat grows; eyes (2, 3) and nose (3,) mm, and how wide they are;
    lips: the mouth from corner to corner, and the groove under the nose, as lines of places mm;
    colours (V + 2·E, 3) and the nose's leather 0 to 255, stand (V,) in hundredths: depth of long hair against its
    length."""

    skin: str
    outward: str
    coat: str
    ears: str
    faces: str
    bare: str
    eyes_mm: tuple[tuple[float, float, float], ...]
    eye_wide_mm: float
    nose_mm: tuple[float, float, float]
    nose_wide_mm: float
    lips_mm: tuple[tuple[tuple[float, float, float], ...], ...]
    colours: str
    leather: tuple[float, float, float]
    stand: str
    coat_type: str
    neck: NeckMesh


def mesh_of(ground: Ground, colours: HeadColours) -> Mesh:
    """What is sent of a head."""
    face = ground.face
    eyes = tuple((face.at(f"eye_inner_{s}") + face.at(f"eye_outer_{s}")) / 2 for s in SIDES)
    nose = (face.at("nose_tip") + face.at("nose_top")) / 2
    return Mesh(
        packed_mm(ground.skin.vertices_mm),
        _packed(ground.skin.outward * UNIT_STEPS, "<i2"),
        packed_mm(ground.coat.depth_mm),
        packed_mm(np.concatenate(ears_now(ground))),
        _packed(_faces(ground), "<u2"),
        _packed(ground.bare, "u1"),
        tuple(_three(eye) for eye in eyes),
        float(
            np.mean([np.linalg.norm(face.at(f"eye_inner_{s}") - face.at(f"eye_outer_{s}")) for s in SIDES])
        ),
        _three(nose),
        NOSE_WIDE * float(np.linalg.norm(face.at("nose_tip") - face.at("nose_top"))),
        _lips(ground),
        _packed(colours.hair, "u1"),
        _three(colours.leather),
        _packed(ground.coat.stand * 100, "u1"),
        ground.coat_type,
        _neck(ground),
    )


def _lips(ground: Ground) -> tuple[tuple[tuple[float, float, float], ...], ...]:
    """Lines on the skin where dark lips meet, a hair's breadth off it."""
    at = ground.face.at
    front = at("lip_front")
    halves = [np.linspace(at(f"mouth_corner_{side}"), front, LIP_PLACES) for side in SIDES]
    mouth = np.concatenate([halves[0], halves[1][-2::-1]])
    groove = np.linspace(at("nose_tip"), front, 4)[1:] + [0.0, OFF_SKIN_MM / 2, 0.0]
    skin = ground.skin
    tree = cKDTree(skin.vertices_mm)

    def laid(line: Array) -> tuple[tuple[float, float, float], ...]:
        nearest = tree.query(line)[1]
        on = skin.vertices_mm[nearest] + OFF_SKIN_MM * skin.outward[nearest]
        return tuple(_three(place) for place in (line + on) / 2)

    return laid(mouth), tuple(_three(place) for place in groove)


def _neck(ground: Ground) -> NeckMesh:
    neck = neck_of(ground)
    return NeckMesh(
        packed_mm(neck.vertices_mm),
        _packed(neck.outward * UNIT_STEPS, "<i2"),
        _packed(neck.faces, "<u2"),
        _packed(neck.fade * 255, "u1"),
        _packed(neck.like, "<u2"),
    )


def _faces(ground: Ground) -> IntArray:
    """Faces each once, so that neighbours' normals do not cancel where light falls on them."""
    template = ground.skin.template
    ear, first = closed_faces(), len(template.vertices_mm)
    return np.concatenate([template.faces, ear + first, ear + first + EAR_VERTICES])


def packed_mm(values: Array) -> str:
    return _packed(values / STEP_MM, "<i2")


def _packed(values: NDArray[Any], kind: str) -> str:
    whole = np.round(values).astype(kind)
    return base64.b64encode(whole.tobytes()).decode()


def _three(at: Array) -> tuple[float, float, float]:
    return float(at[0]), float(at[1]), float(at[2])
