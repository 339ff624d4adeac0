"""Teddy: round but fuller below the eye line than above, with a round muzzle that nothing passes."""

from __future__ import annotations

from typing import Final

from dapwick.core.basics.shapes import Field, half_space, superellipsoid, union, without
from dapwick.core.outlines.ear_cut import EarCut
from dapwick.core.outlines.ear_schools import EDGE_ROUNDED, OUTSIDE_SHAPED, with_outside
from dapwick.core.outlines.face import Face
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
from dapwick.core.outlines.parts import beard_covers, jaw_ball, jaw_v, muzzle_sleeve, skull_ball, visor
from dapwick.core.outlines.schools import (
    BEARD,
    BOW,
    BRIDGE,
    CROWN,
    EYE_CARE,
    FRINGE,
    INNER_CORNERS,
    JAW,
    LASHES_KEPT,
    LEATHER_CARE,
    LIP_CARE,
    fullness,
)
from dapwick.core.outlines.work_schools import WORK

BACK_COVER_MM: Final = 14.0
CHEEK_HAIR_MM: Final = 20.0
NARROWER_ABOVE: Final = 0.9
JOIN_MM: Final = 10.0
AT_THE_NOSE_MM: Final = 1.0
LEAST_MM: Final = 9.0


def usual_width(face: Face) -> float:
    """Half the width across the cheeks, with their hair."""
    return face.half_width + CHEEK_HAIR_MM


def design(face: Face, half_width: float, params: Params, schools: Schools) -> Design:
    top = face.crown_height + min(params["crown_mm"], _fullest(face, half_width, params))
    down = face.eye_level - face.up("chin") + params["jaw_mm"]
    surface = union(
        JOIN_MM,
        skull_ball(face, NARROWER_ABOVE * half_width, top, 0.6 * down, BACK_COVER_MM, 2.2),
        _cheeks(face, half_width, down),
        jaw_ball(face, 0.86 * half_width, 0.2 * down, down, 0.0),
        muzzle_sleeve(face, params["muzzle_mm"], 0.95),
        visor(face, params["visor_mm"]),
    )
    surface = without(2.0, surface, half_space((0, face.ahead("nose_tip") - AT_THE_NOSE_MM, 0), (0, -1, 0)))
    if schools["jaw"] == "two_cuts":
        surface = jaw_v(face, params["jaw_mm"], surface)
    ears = EarCut("rounded, full to the jaw", outside_mm=params["ear_mm"], edge_mm=params["ear_mm"])
    return Design(
        surface,
        with_outside(ears, schools),
        beard_covers(face, schools),
        corners_left=schools["inner_corners"] == "left",
        least_mm=LEAST_MM,
    )


def _fullest(face: Face, half_width: float, params: Params) -> float:
    """Hair of the cheeks, that of a hanging ear with it: the crown is never fuller."""
    return max(half_width - face.half_width, LEAST_MM) + (params["ear_mm"] if face.ears_hang else 0.0)


def _cheeks(face: Face, half_width: float, down: float) -> Field:
    """The fullest part: a wide ball whose middle lies below the eye line."""
    back, front = face.middle("ear_back")[1] - 6.0, face.middle("mouth_corner")[1] + 6.0
    level = face.eye_level - 0.42 * down
    return superellipsoid(
        (0, float(front + back) / 2, level), (half_width, float(front - back) / 2 + 10.0, 0.6 * down), 2.3
    )


TEDDY: Final = Family(
    id="teddy",
    name="Teddy",
    description="Round, fuller below the eyes than above; a round muzzle that nothing passes, rounded ears.",
    size_words="half width at the cheeks",
    parameters=(
        fullness(),
        Parameter("crown_mm", "Crown", "mm", 4.0, 35.0, 13.0, "lower", "higher", 4.0, grip=Grip("crown", (0, 0, 1))),
        Parameter("jaw_mm", "Jaw", "mm", 4.0, 35.0, 16.0, "tighter", "deeper", 5.0, grip=Grip("chin", (0, 0, -1))),
        Parameter(
            "visor_mm", "Fringe", "mm", 0.0, 26.0, 8.0, "eyes wide open", "longer fringe", 5.0, "eyes",
            Grip("visor", (0, 1, 0)),
        ),
        Parameter(
            "muzzle_mm", "Muzzle", "mm", 3.0, 30.0, 15.0, "neater", "rounder", 5.0, "beard",
            Grip("muzzle_side", (-1, 0, 0)),
        ),
        Parameter("ear_mm", "Ears", "mm", 2.0, 40.0, 16.0, "close", "full", 8.0, "ears", AT_THE_EAR),
    ),
    schools=(
        INNER_CORNERS, FRINGE, JAW, CROWN, BEARD, BRIDGE, LASHES_KEPT, BOW, OUTSIDE_SHAPED, EDGE_ROUNDED, *WORK,
    ),
    default_size=usual_width,
    design=design,
    conditions=(
        Condition("fuller_below", "it would be {value:.2f} as wide below the eyes as above: a teddy is fuller below",
                  least=1.05),
        Condition("crown_past_cheek", "the crown would be fuller than the cheeks by {value:.0f} mm", most=4.0),
        Condition("past_the_nose", "hair would pass the nose by {value:.0f} mm", most=5.0),
        Condition(
            "front_uneven", "from the front it would be {value:.0%} out of round, a teddy allows {want:.0%}",
            most=0.085,
        ),
        Condition("cheek", "{value:.0f} mm stand at the cheeks: too little to scissor round", least=7.0),
    ),
    ideals=(
        Ideal("muzzle_ratio", 0.55, 0.15, "the muzzle is {value:.2f} of the skull: long for a teddy's round nose", -1),
        Ideal("width_to_height", 1.02, 0.14, "width to height would be {value:.2f}"),
        Ideal("eye_height", 0.55, 0.07, "the eyes would sit {value:.0%} up the head: a teddy wants them halfway"),
    ),
    coats={"harsh": (1.8, "harsh hair does not stand soft and round"),
           "fine_drop": (0.4, "fine drop hair: sides layered, the jaw a V with its point off")},
    finish="Blending shears; lip line cut clean.",
    cautions=(EYE_CARE, LIP_CARE, LEATHER_CARE),
)  # fmt: skip
