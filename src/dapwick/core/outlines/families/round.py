"""Round: from the front a circle centred between the eyes, equal all round from jaw to crown.

From the side the visor angles out over the eyes like a cap's peak and the muzzle runs into the
circle; from above the visor is a soft C from one outer eye corner to the other.
"""

from __future__ import annotations

from typing import Final

from dapwick.core.basics.shapes import union
from dapwick.core.outlines.ear_cut import TIP, EarCut
from dapwick.core.outlines.ear_schools import EDGE_ROUNDED, TIP_LINE, toward_the_tip
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
from dapwick.core.outlines.parts import jaw_ball, jaw_v, muzzle_sleeve, skull_ball, visor
from dapwick.core.outlines.schools import (
    BOW,
    BRIDGE,
    CROWN,
    EYE_CARE,
    FRINGE,
    INNER_CORNERS,
    JAW,
    LASHES_KEPT,
    LEATHER,
    LEATHER_CARE,
    fullness,
)
from dapwick.core.outlines.work_schools import WORK

JOIN_MM: Final = 9.0
AHEAD_SHARE: Final = 0.55
"""How far along the muzzle the circle is carried; the muzzle runs into it from there."""
FINGER_MM: Final = 18.0


def usual_radius(face: Face) -> float:
    """Half the cheek width and the depth to the chin, whichever asks more, with a finger of hair."""
    to_chin = face.eye_level - face.up("chin")
    return max(face.half_width, to_chin, face.crown_height) + FINGER_MM


def design(face: Face, radius_mm: float, params: Params, schools: Schools) -> Design:
    """Skull ball, muzzle sleeve and visor as one; as much hair behind the occiput as at the cheeks."""
    up = params["centre_up_mm"]
    back = max(radius_mm - face.half_width, 0.0)
    surface = union(
        JOIN_MM,
        skull_ball(face, radius_mm, radius_mm, radius_mm, back, centre_up=up),
        jaw_ball(face, radius_mm, radius_mm, radius_mm, back, centre_up=up, reach=AHEAD_SHARE),
        muzzle_sleeve(face, params["muzzle_mm"]),
        visor(face, params["visor_mm"]),
    )
    if schools["jaw"] == "two_cuts":
        surface = jaw_v(face, radius_mm - up - (face.eye_level - face.up("chin")), surface)
    ears = EarCut(
        "tips just breaking the circle, hair run into it",
        clipped=(TIP, 1.0),
        outside_mm=params["ear_mm"],
        edge_mm=params["ear_mm"],
    )
    ears = toward_the_tip(face, ears, schools)
    return Design(surface, ears, corners_left=schools["inner_corners"] == "left", least_mm=9.0)


ROUND: Final = Family(
    id="round",
    name="Round",
    description="A circle centred between the eyes, equal all round from jaw to crown.",
    size_words="radius",
    parameters=(
        fullness(),
        Parameter(
            "centre_up_mm", "Centre", "mm", -25.0, 15.0, 0.0, "lower", "higher", 6.0,
            grip=Grip("crown", (0, 0, 1)),
        ),
        Parameter(
            "visor_mm", "Visor", "mm", 0.0, 30.0, 12.0, "eyes wide open", "longer peak", 5.0, "eyes",
            Grip("visor", (0, 1, 0)),
        ),
        Parameter(
            "muzzle_mm", "Muzzle", "mm", 3.0, 30.0, 14.0, "neater", "fuller", 6.0, "beard",
            Grip("muzzle_side", (-1, 0, 0)),
        ),
        Parameter("ear_mm", "Ears", "mm", 2.0, 30.0, 10.0, "close", "left", 6.0, "ears", AT_THE_EAR),
    ),
    schools=(INNER_CORNERS, FRINGE, JAW, CROWN, BRIDGE, LASHES_KEPT, BOW, TIP_LINE, LEATHER, EDGE_ROUNDED, *WORK),
    default_size=usual_radius,
    design=design,
    conditions=(
        Condition(
            "front_uneven", "from the front it would be {value:.0%} out of round, a round allows {want:.0%}",
            most=0.05,
        ),
        Condition("arched", "the top would be flat: {value:.2f} as high over the ears as it is wide", least=0.3),
        Condition("circle_off_eyes", "the circle's middle would lie {value:.0%} of its size under the eyes", most=0.3),
        Condition("cheek", "{value:.0f} mm stand at the cheeks: too little to scissor round", least=7.0),
    ),
    ideals=(
        Ideal("width_to_height", 1.0, 0.12, "width to height would be {value:.2f}, a circle wants {want:.0f}"),
        Ideal("muzzle_ratio", 0.55, 0.18, "the muzzle is {value:.2f} of the skull: it breaks a circle in profile", -1),
        Ideal("roundness", 0.95, 0.05, "from the front only {value:.2f} round", 1),
    ),
    coats={"fine_drop": (2.0, "fine drop hair falls: the circle needs cutting short to stand"),
           "harsh": (0.6, "harsh hair makes a spiky circle")},
    finish="Scissors and blending shears all round.",
    cautions=(EYE_CARE, LEATHER_CARE),
)  # fmt: skip
