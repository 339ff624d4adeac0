"""Brows and beard: close skull, cheeks and throat; brows on their line, a long beard combed forward."""

from __future__ import annotations

from typing import Final

from dapwick.core.basics.shapes import union
from dapwick.core.outlines.covers import Cover, setting_lines, side_area, side_view
from dapwick.core.outlines.ear_cut import EarCut
from dapwick.core.outlines.ear_schools import EDGE_TIDIED, OUTSIDE_CLOSE, with_outside
from dapwick.core.outlines.face import SIDES, Face
from dapwick.core.outlines.family import Condition, Design, Family, Grip, Ideal, Parameter, Params, Schools
from dapwick.core.outlines.parts import beard, beard_covers, brows
from dapwick.core.outlines.schools import (
    BEARD,
    BETWEEN_BROWS,
    BRIDGE,
    CLIPPER_CARE,
    EYE_CARE,
    INNER_CORNERS,
    LASHES_KEPT,
    LEATHER,
    LIP_CARE,
    THROAT,
    fullness,
)
from dapwick.core.outlines.work_schools import FACE_GROWTH, THROAT_END, THROAT_GROWTH, WORK

USUAL_BEARD_MM: Final = 28.0
SQUARE: Final = 3.0


def usual_beard(_face: Face) -> float:
    """How far the beard hangs below the chin."""
    return USUAL_BEARD_MM


def design(face: Face, beard_mm: float, params: Params, schools: Schools) -> Design:
    split = schools["between_brows"] == "split"
    surface = union(
        4.0,
        beard(face, beard_mm, params["beard_side_mm"], SQUARE),
        brows(face, params["brow_mm"], split),
    )
    sides = [_close(face, side) for side in SIDES]
    close = Cover("skull, cheeks and throat", side_area(*sides), params["close_mm"])
    ears = EarCut(
        "clipped close, edges clean", clipped=(0.0, 1.0), outside_mm=params["close_mm"], edge_mm=2.0
    )
    ears = with_outside(ears, schools)
    lines = setting_lines("outer eye corner to mouth corner", lambda side: _close(face, side)[1:5])
    return Design(
        surface,
        ears,
        (close, *beard_covers(face, schools)),
        lines,
        schools["inner_corners"] == "left",
        least_mm=5.0,
    )


def _close(face: Face, side: str) -> list[tuple[float, float]]:
    """Everything behind: brow bone, outer eye corner, mouth corner, and down behind the chin."""
    eye, corner = side_view(face, "eye_outer", side), side_view(face, "mouth_corner", side)
    stop = side_view(face, "stop", side)
    high = eye[1] + 15.0
    return [(stop[0] - 4.0, high + 80.0), (stop[0] - 4.0, high), (eye[0] - 6.0, eye[1] + 6.0), (eye[0] - 4.0, eye[1]),
            corner, (corner[0] - 2.0, corner[1] - 100.0), (corner[0] - 300.0, corner[1] - 100.0),
            (corner[0] - 300.0, high + 80.0)]  # fmt: skip


BROWS_BEARD: Final = Family(
    id="brows_beard",
    name="Brows and beard",
    description="Close skull, cheeks and throat; brows on the line from nose to eye, a long beard combed forward.",
    size_words="beard below the chin",
    parameters=(
        fullness(),
        Parameter(
            "beard_side_mm", "Beard's sides", "mm", 2.0, 26.0, 10.0, "slimmer", "wider", 4.0, "beard",
            Grip("muzzle_side", (-1, 0, 0)),
        ),
        Parameter(
            "brow_mm", "Brows", "mm", 3.0, 34.0, 18.0, "shorter", "longer", 5.0, "eyes", Grip("brow", (0, 1, 0), 0.75)
        ),
        Parameter("close_mm", "Skull and cheeks", "mm", 1.5, 10.0, 4.0, "closer", "softer", 2.0),
    ),
    schools=(
        BETWEEN_BROWS, INNER_CORNERS, BEARD, BRIDGE, LASHES_KEPT, OUTSIDE_CLOSE, LEATHER, EDGE_TIDIED, THROAT,
        THROAT_END, THROAT_GROWTH, FACE_GROWTH, *WORK,
    ),
    default_size=usual_beard,
    design=design,
    size_reach=(24.0, 40.0),
    size_grip=Grip("chin", (0, 0, -1)),
    conditions=(
        Condition("chin", "{value:.0f} mm stand at the chin: no beard", least=9.0),
        Condition("brows", "the brows would be {value:.0f} mm: none to see over a close skull", least=6.0),
    ),
    ideals=(
        Ideal("muzzle_ratio", 0.75, 0.2, "the muzzle is {value:.2f} of the skull: little room for a beard", 1),
        Ideal("skull_index", 0.8, 0.15, "clipped close the skull shows {value:.2f} as broad as long", -1),
        Ideal("plane_angle", 0.0, 12.0, "bridge and skull planes differ by {value:.0f}°: clipped close it shows"),
    ),
    coats={"standing": (0.7, "clipped standing hair shows pink"), "curl": (0.5, "a curly beard does not lie forward"),
           "fine_drop": (1.0, "a fine beard hangs and drips")},
    finish="Clipped or carded skull, beard combed forward, nothing taken from its top.",
    cautions=(CLIPPER_CARE, EYE_CARE, LIP_CARE),
)  # fmt: skip
