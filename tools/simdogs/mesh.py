"""A head's skin as a mesh."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from skimage.measure import marching_cubes

from .dog import HeadForm
from .form import Points, gradient, skin_field


@dataclass(frozen=True)
class SkinMesh:
    vertices: Points
    faces: NDArray[np.int64]
    normals: Points


def skin_mesh(head: HeadForm, step_mm: float = 2.5) -> SkinMesh:
    lo, hi = np.array([-125.0, -280.0, -260.0]), np.array([125.0, 100.0, 125.0])
    axes = [np.arange(a, b, step_mm) for a, b in zip(lo, hi, strict=True)]
    grid = np.stack(np.meshgrid(*axes, indexing="ij"), axis=-1)
    values = skin_field(head, grid.reshape(-1, 3)).reshape(grid.shape[:3])
    vertices, faces, _, _ = marching_cubes(values, 0.0, spacing=(step_mm,) * 3)
    vertices = vertices + lo
    return SkinMesh(vertices, faces.astype(np.int64), gradient(head, vertices))
