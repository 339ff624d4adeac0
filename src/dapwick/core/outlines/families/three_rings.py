"""Three rings: round the end of the muzzle, round the eyes, round the back skull, each run into the next."""

from __future__ import annotations

from typing import Final

from dapwick.core.basics.shapes import swept_rings
from dapwick.core.outlines.covers import Cover, below, setting_lines, side_view
from dapwick.core.outlines.ear_cut import TIP, EarCut
from dapwick.core.outlines.ear_schools import EDGE_TIDIED, TIP_LINE, toward_the_tip
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
from dapwick.core.outlines.schools import (
    BRIDGE,
    CORNERS_TAMED,
    EYE_CARE,
    JAW,
    LASHES_KEPT,
    LEATHER,
    LEATHER_CARE,
    fullness,
)
from dapwick.core.outlines.work_schools import WORK

USUAL_HAIR_MM: Final = 22.0
EYE_RING: Final = 0.92
REAR_RING: Final = 0.8
BEHIND_MM: Final = 18.0
"""Hair behind the occiput."""
TIGHT_MM: Final = 8.0
SET_BACK_MM: Final = 0.55


def usual_radius(face: Face) -> float:
    """The ring round the back skull: half the cheek width and a good hand's depth of hair."""
    return face.half_width + USUAL_HAIR_MM


def design(face: Face, radius_mm: float, params: Params, schools: Schools) -> Design:
    muzzle = face.half("mouth_corner") * 0.75 + params["muzzle_mm"]
    nose, chin = face.at("nose_tip"), face.at("chin")
    muzzle_level = float(nose[2] + chin[2]) / 2
    eyes_level = face.eye_level - 0.28 * radius_mm
    skull_level = face.eye_level - 0.12 * radius_mm
    ring_y = float(face.middle("ear_front")[1])
    rear_y = face.ahead("occiput") - BEHIND_MM + REAR_RING * radius_mm
    surface = swept_rings(
        [
            (0, float(nose[1]) - SET_BACK_MM * muzzle, muzzle_level),
            (0, float(face.middle("eye_inner")[1]) - 10.0, eyes_level),
            (0, min(ring_y, float(face.middle("eye_inner")[1]) - 24.0), skull_level),
            (0, min(rear_y, ring_y - 20.0), skull_level + 2.0),
        ],
        [muzzle, EYE_RING * radius_mm + params["eye_ring_mm"], radius_mm, REAR_RING * radius_mm],
    )
    tight = Cover(
        "under ear and jaw", below(lambda side: _tight(face, side)), TIGHT_MM, tool="shears over comb"
    )
    ears = EarCut(
        "only the very tips clipped", (TIP, 1.0), outside_mm=params["ear_mm"], edge_mm=params["ear_mm"]
    )
    ears = toward_the_tip(face, ears, schools)
    lines = setting_lines("under the ear and jaw", lambda side: _tight(face, side)[1:4])
    return Design(surface, ears, (tight,), lines, schools["inner_corners"] != "cleared", least_mm=8.0)


def _tight(face: Face, side: str) -> list[tuple[float, float]]:
    """The tight line under ear and jaw, by which the head stands off the body."""
    ear, jaw = side_view(face, "ear_back", side), side_view(face, "jaw_angle", side)
    throat = side_view(face, "throat", side)
    return [(ear[0] - 40.0, ear[1] - 34.0), (ear[0] - 10.0, ear[1] - 34.0), (jaw[0] - 6.0, jaw[1] - 10.0),
            (throat[0] + 14.0, throat[1] + 5.0), (throat[0] + 20.0, throat[1] - 60.0)]  # fmt: skip


THREE_RINGS: Final = Family(
    id="three_rings",
    name="Three rings",
    description="Rings round the end of the muzzle, the eyes and the back skull, one run into the next; spiky.",
    size_words="ring round the back skull",
    parameters=(
        fullness(),
        Parameter(
            "muzzle_mm", "Muzzle ring", "mm", 4.0, 34.0, 16.0, "neater", "fuller", 5.0, "beard",
            Grip("chin", (0, 0, -1)),
        ),
        Parameter(
            "eye_ring_mm", "Eye ring", "mm", -12.0, 10.0, 0.0, "eyes wide open", "deeper", 4.0, "eyes",
            Grip("visor", (0, 0, 1)),
        ),
        Parameter("ear_mm", "Ears", "mm", 2.0, 30.0, 12.0, "close", "left", 6.0, "ears", AT_THE_EAR),
    ),
    schools=(CORNERS_TAMED, JAW, BRIDGE, LASHES_KEPT, TIP_LINE, LEATHER, EDGE_TIDIED, *WORK),
    default_size=usual_radius,
    design=design,
    conditions=(
        Condition(
            "ring_steps", "the rings would not widen from nose to skull ({value:.2f} of one another)",
            least=1.05,
        ),
        Condition("crown", "{value:.0f} mm stand on the crown: too little for a ring", least=9.0),
        Condition("cheek", "{value:.0f} mm stand at the cheeks: too little for a ring", least=8.0),
    ),
    ideals=(
        Ideal("ear_carriage", 1.0, 0.5, "hanging ears hide the ring round the back skull", 1),
        Ideal("muzzle_ratio", 0.6, 0.15, "the muzzle is {value:.2f} of the skull: the rings draw out into a cone", -1),
        Ideal("skull_index", 0.95, 0.15, "the skull is {value:.2f} as broad as long: narrow for three rings", 1),
    ),
    coats={"curl": (1.0, "curl makes a smooth ball, not spiky rings"),
           "wavy": (1.0, "waves lie down between the rings"),
           "fine_drop": (2.4, "fine drop hair cannot stand as rings")},
    finish="Finger and thumb, thinning shears; spiky, unpicked corners.",
    cautions=(EYE_CARE, LEATHER_CARE),
)  # fmt: skip
