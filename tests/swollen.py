"""Silhouettes of a head's skin swollen by so much coat, as each of its photos would show them."""

from __future__ import annotations

import numpy as np

from dapwick.core.head.silhouettes import Edge
from dapwick.core.head.skin import Skin
from dapwick.core.solve.joint import HeadSolution
from dapwick.vision.silhouette import silhouette


def edges_over(head: HeadSolution, skin: Skin, cover_mm: np.ndarray) -> list[Edge]:
    """Silhouettes of what lies so far (V,) over the skin."""
    surface = skin.vertices_mm + cover_mm[:, None] * skin.outward
    return [
        Edge(camera, photo.view, silhouette(camera.project(surface), skin.template.faces))
        for camera, photo in zip(head.cameras, head.photos, strict=True)
    ]
