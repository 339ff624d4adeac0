"""A surface as a file other programs open: PLY (text, with σ and zone a vertex), STL or GLB; mm, head frame."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Final, cast

import numpy as np
import trimesh
from numpy.typing import ArrayLike

from dapwick.core.basics.arrays import Array, IntArray
from dapwick.core.basics.errors import BadInput

ENDINGS: Final = (".ply", ".stl", ".glb")


def surface_file(
    vertices_mm: Array, faces: IntArray, sigma_mm: Array, zone: IntArray, zone_ids: Sequence[str], ending: str
) -> bytes:
    """The file's content. vertices_mm (V, 3), faces (F, 3); sigma_mm, zone (V,): carried by PLY alone, whose comments
    name the zones. Raises BadInput for another ending."""
    if ending not in ENDINGS:
        raise BadInput("surface file", expected=", ".join(ENDINGS), got=ending or "no ending", where="--to")
    known: dict[str, ArrayLike] = {"sigma_mm": sigma_mm.astype(np.float32), "zone": zone.astype(np.uint8)}
    mesh = trimesh.Trimesh(vertices_mm, faces, process=False, vertex_attributes=known)
    if ending == ".ply":
        told = mesh.export(file_type="ply", encoding="ascii", vertex_normal=False)
        return _with_legend(cast(bytes, told), zone_ids)
    return cast(bytes, mesh.export(file_type=ending[1:]))


def _with_legend(ply: bytes, zone_ids: Sequence[str]) -> bytes:
    """The PLY with comments of ours in place of its writer's: the frame, and which zone each number is."""
    legend = ["comment head frame, mm: x to the dog's right, y forward, z up"]
    legend += [f"comment zone {i} {name}" for i, name in enumerate(zone_ids)]
    lines = ply.split(b"\n")
    head = [line for line in lines[: lines.index(b"end_header")] if not line.startswith(b"comment")]
    return b"\n".join(
        [*head[:2], *(one.encode() for one in legend), *head[2:], *lines[lines.index(b"end_header") :]]
    )
