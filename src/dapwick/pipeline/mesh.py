"""The head as a mesh for a turntable: what stands still, and what a setting of an outline leaves.

Positions are packed as little-endian 16-bit whole numbers of STEP_MM, in base64, which a browser reads at once.
"""

from __future__ import annotations

import base64
from dataclasses import dataclass
from typing import Any, Final

import numpy as np
from numpy.typing import NDArray

from dapwick.core.basics.arrays import Array, IntArray
from dapwick.core.outlines.ear_cut import EAR_VERTICES, closed_faces
from dapwick.core.outlines.effects import ears_now
from dapwick.core.outlines.ground import Ground

STEP_MM: Final = 0.05
UNIT_STEPS: Final = 16_384


@dataclass(frozen=True)
class Mesh:
    """skin (V, 3) mm, outward (V, 3) unit, coat (V,) depth mm, ears (2·E, 3) mm with the hair they carry now,
    faces over skin then ears, bare (V,) 1 where no coat grows; eyes (2, 3) and nose (3,) mm."""

    skin: str
    outward: str
    coat: str
    ears: str
    faces: str
    bare: str
    eyes_mm: tuple[tuple[float, float, float], ...]
    nose_mm: tuple[float, float, float]


def mesh_of(ground: Ground) -> Mesh:
    face = ground.face
    eyes = tuple((face.at(f"eye_inner_{s}") + face.at(f"eye_outer_{s}")) / 2 for s in ("left", "right"))
    nose = (face.at("nose_tip") + face.at("nose_top")) / 2
    return Mesh(
        packed_mm(ground.skin.vertices_mm),
        _packed(ground.skin.outward * UNIT_STEPS, "<i2"),
        packed_mm(ground.coat.depth_mm),
        packed_mm(np.concatenate(ears_now(ground))),
        _packed(_faces(ground), "<u2"),
        _packed(ground.bare, "u1"),
        tuple(_three(eye) for eye in eyes),
        _three(nose),
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
