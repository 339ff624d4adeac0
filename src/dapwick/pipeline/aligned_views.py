"""The head as aligned views show it: front, side and top in mm, at one scale and level."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Final

import numpy as np

from dapwick.core.basics.arrays import Array, IntArray
from dapwick.core.basics.fair import FAIR_MM, fair
from dapwick.core.basics.marks import MARK_IDS
from dapwick.core.outlines.effects import ears_now
from dapwick.core.outlines.fit import Outline
from dapwick.core.plan.finished import surface
from dapwick.pipeline.head_model import head_faces
from dapwick.vision.silhouette import MASK_SIDE_PX, silhouette

AXES: Final[Mapping[str, tuple[int, int, int, int, tuple[float, float, float]]]] = {
    "front": (0, -1, 2, -1, (0, 1, 0)),
    "left": (1, -1, 2, -1, (-1, 0, 0)),
    "right": (1, 1, 2, -1, (1, 0, 0)),
    "top": (0, 1, 1, -1, (0, 0, 1)),
}
"""Views as (axis across, sign, axis down, sign, way to the eye) of the head frame; mm, y down."""
SHEET_VIEWS: Final = ("front", "left", "top")


def sheet_lines(
    outline: Outline, finished: Array, ears: tuple[Array, Array], side_px: int = MASK_SIDE_PX
) -> dict[str, dict[str, Array]]:
    """Outline, coat and skin of the aligned views, mm, x right and y down, shared scale and level. side_px: how
    finely they are traced."""
    ground = outline.ground
    faces, skin_faces = head_faces(ground), ground.skin.template.faces
    coat = np.concatenate([surface(outline, ground.coat.depth_mm), *ears_now(ground)])
    cut = np.concatenate([finished, *ears])

    def drawn(vertices_mm: Array, of: IntArray, view: str) -> Array:
        return fair(silhouette(flat(vertices_mm, view), of, side_px), FAIR_MM)

    return {
        view: {
            "skin": drawn(ground.skin.vertices_mm, skin_faces, view),
            "coat": drawn(coat, faces, view),
            "outline": drawn(cut, faces, view),
        }
        for view in SHEET_VIEWS
    }


def flat(points: Array, view: str) -> Array:
    """Points (N, 3) of the head as a view shows them (N, 2), mm."""
    across, sign_across, down, sign_down, _ = AXES[view]
    return np.column_stack([sign_across * points[:, across], sign_down * points[:, down]])


def marks_seen(points_mm: Array, view: str) -> dict[str, tuple[float, float]]:
    """Where each mark (marks, 3) lies in a view, mm."""
    places = flat(points_mm, view)
    return {mark: (float(x), float(y)) for mark, (x, y) in zip(MARK_IDS, places, strict=True)}
