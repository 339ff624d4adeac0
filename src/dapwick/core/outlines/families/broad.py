"""Broad: wavy or curly working heads; rounded sides, chin and muzzle one length, the skull shows its width."""

from __future__ import annotations

from typing import Final

from dapwick.core.outlines.covers import Cover, setting_lines, side_area, side_view
from dapwick.core.outlines.ear_cut import EarCut
from dapwick.core.outlines.ear_schools import EDGE_ROUNDED, OUTSIDE_SHAPED, with_outside
from dapwick.core.outlines.face import SIDES, Face
from dapwick.core.outlines.family import (
    AT_THE_EAR,
    Condition,
    Design,
    Family,
    Grip,
    Ideal,
    Parameter,
    Params,
    Schools,
)
from dapwick.core.outlines.parts import skull_ball
from dapwick.core.outlines.schools import (
    BRIDGE,
    CANALS,
    EYE_CARE,
    FRINGE,
    INNER_CORNERS,
    LASHES_KEPT,
    LEATHER_CARE,
    LIP_CARE,
    fullness,
)
from dapwick.core.outlines.work_schools import WORK

USUAL_SIDE_MM: Final = 15.0
WIDER_THAN_HIGH: Final = 0.8
BOXED: Final = 2.6


def usual_half_width(face: Face) -> float:
    return face.half_width + USUAL_SIDE_MM


def design(face: Face, half_width: float, params: Params, schools: Schools) -> Design:
    hair = half_width - face.half_width
    up = face.crown_height + WIDER_THAN_HIGH * hair
    down = face.eye_level - face.up("throat") + hair
    surface = skull_ball(face, half_width, up, down, 0.8 * hair, BOXED)
    muzzle = Cover(
        "chin and muzzle", side_area(*(_muzzle(face, s) for s in SIDES)), params["body_mm"], tool="guard"
    )
    fringe = Cover(
        "fringe", side_area(*(_fringe(face, s) for s in SIDES)), params["fringe_mm"], tool="blending shears"
    )
    ears = EarCut(
        "clipped inside, thinned outside", outside_mm=params["ear_mm"], edge_mm=0.6 * params["ear_mm"]
    )
    lines = setting_lines("outer eye corner to mouth corner", lambda side: _muzzle(face, side)[:3])
    return Design(
        surface,
        with_outside(ears, schools),
        (muzzle, fringe),
        lines,
        schools["inner_corners"] == "left",
        least_mm=8.0,
    )


def _muzzle(face: Face, side: str) -> list[tuple[float, float]]:
    """Before the line from outer eye corner over the mouth corner down."""
    eye, corner = side_view(face, "eye_outer", side), side_view(face, "mouth_corner", side)
    return [(eye[0], eye[1]), (corner[0] + 2.0, corner[1] + 4.0), (corner[0], corner[1] - 80.0),
            (corner[0] + 200.0, corner[1] - 80.0), (corner[0] + 200.0, eye[1] + 4.0)]  # fmt: skip


def _fringe(face: Face, side: str) -> list[tuple[float, float]]:
    eye, stop = side_view(face, "eye_outer", side), side_view(face, "stop", side)
    return [(eye[0] - 4.0, eye[1] + 2.0), (stop[0] + 40.0, eye[1] + 2.0), (stop[0] + 40.0, eye[1] + 22.0),
            (eye[0] - 4.0, eye[1] + 22.0)]  # fmt: skip


BROAD: Final = Family(
    id="broad",
    name="Broad",
    description="Rounded sides that show the skull's width; chin and muzzle one length; thinned ears.",
    size_words="half width",
    parameters=(
        fullness(),
        Parameter(
            "body_mm", "Chin and muzzle", "mm", 3.0, 30.0, 12.0, "shorter", "longer", 4.0, "beard",
            Grip("chin", (0, 0, -1)),
        ),
        Parameter("fringe_mm", "Fringe", "mm", 2.0, 24.0, 9.0, "eyes wide open", "softer", 4.0, "eyes"),
        Parameter("ear_mm", "Ears", "mm", 2.0, 36.0, 12.0, "thinner", "fuller", 6.0, "ears", AT_THE_EAR),
    ),
    schools=(INNER_CORNERS, FRINGE, CANALS, BRIDGE, LASHES_KEPT, OUTSIDE_SHAPED, EDGE_ROUNDED, *WORK),
    default_size=usual_half_width,
    design=design,
    size_reach=(13.0, 30.0),
    conditions=(
        Condition("wide", "it would be {value:.2f} as wide as high: no width to show", least=0.92),
        Condition("cheek", "{value:.0f} mm stand at the cheeks: too little to round", least=7.0),
    ),
    ideals=(
        Ideal("skull_index", 0.98, 0.12, "the skull is {value:.2f} as broad as long: no width to show", 1),
        Ideal("ear_carriage", 0.0, 0.7, "standing ears take the eye off the width", -1),
    ),
    coats={"fine_drop": (1.6, "fine drop hair hangs over the width"), "harsh": (0.8, "harsh sides look ragged"),
           "standing": (0.5, "standing hair hides the skull's width")},
    finish="Thinning shears; ears shaved inside.",
    cautions=(EYE_CARE, LEATHER_CARE, LIP_CARE),
)  # fmt: skip
