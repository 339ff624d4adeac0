"""Crest: clipped face and rounded throat under a free crest; ears clipped to the fold."""

from __future__ import annotations

from typing import Final

from dapwick.core.outlines.covers import Cover, below, setting_lines, side_view
from dapwick.core.outlines.ear_cut import EarCut
from dapwick.core.outlines.ear_schools import CREST_LINE, EDGE_BEVELLED, crest_ears
from dapwick.core.outlines.face import Face
from dapwick.core.outlines.family import (
    AT_THE_EAR,
    UPWARD,
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
    CLIPPER_CARE,
    EYE_CARE,
    LASHES_KEPT,
    LEATHER,
    LEATHER_CARE,
    LIP_CARE,
    ROUND_THROAT,
    fullness,
)
from dapwick.core.outlines.work_schools import (
    EARS_WHEN,
    FACE_GROWTH,
    MINDED,
    SET_LINE,
    THROAT_END,
    THROAT_GROWTH,
)

USUAL_CREST_MM: Final = 34.0
QUARTER: Final = 0.25
UNDER_THE_EYES: Final = 0.7
LONG_BACK: Final = 0.7


def usual_crest(_face: Face) -> float:
    """Free hair over the crown."""
    return USUAL_CREST_MM


def design(face: Face, crest_mm: float, params: Params, schools: Schools) -> Design:
    """The crest stands free: narrow at the sides, long over crown and nape."""
    half = face.half_width + params["side_mm"]
    crest = skull_ball(
        face,
        half,
        face.crown_height + crest_mm,
        UNDER_THE_EYES * face.crown_height,
        LONG_BACK * crest_mm,
        2.0,
    )
    clean = Cover("clean face and throat", below(lambda side: _clean(face, side)), params["face_mm"])
    lines = setting_lines(
        "outer eye corner to the cheek's whisker spot", lambda side: _clean(face, side)[1:5]
    )
    ears = crest_ears(face, EarCut("left", outside_mm=14.0, edge_mm=params["ear_mm"]), schools)
    return Design(crest, ears, (clean,), lines, least_mm=4.0)


def _clean(face: Face, side: str) -> list[tuple[float, float]]:
    """Behind the jaw, whisker spot on the cheek, outer eye corner, over the eye, then off the nose."""
    jaw, cheek = side_view(face, "jaw_angle", side), side_view(face, "cheek", side)
    eye, stop = side_view(face, "eye_outer", side), side_view(face, "stop", side)
    return [(jaw[0] - 30.0, jaw[1] - 10.0), (jaw[0], jaw[1] + 2.0), (cheek[0], cheek[1] - 2.0),
            (eye[0] - 2.0, eye[1] + 3.0), (stop[0] - 4.0, max(stop[1], eye[1]) + 6.0),
            (stop[0] + 6.0, max(stop[1], eye[1]) + 6.0)]  # fmt: skip


CREST: Final = Family(
    id="crest",
    name="Crest",
    description="Clipped face and rounded throat under a free crest; ears clipped to the fold.",
    size_words="crest over the crown",
    parameters=(
        fullness(),
        Parameter("side_mm", "Sides", "mm", 2.0, 26.0, 7.0, "narrower", "fuller", 5.0,
                  grip=Grip("temple", (-1, 0, 0))),
        Parameter("face_mm", "Face", "mm", 0.5, 6.0, 1.5, "closer", "softer", 1.5, "beard"),
        Parameter("ear_mm", "Ears", "mm", 3.0, 80.0, 30.0, "shorter", "longer", 14.0, "ears", AT_THE_EAR),
    ),
    schools=(
        LASHES_KEPT, CREST_LINE, LEATHER, EDGE_BEVELLED, ROUND_THROAT, THROAT_END, THROAT_GROWTH, FACE_GROWTH,
        SET_LINE, EARS_WHEN, MINDED,
    ),
    default_size=usual_crest,
    design=design,
    size_reach=(24.0, 50.0),
    size_grip=UPWARD,
    conditions=(
        Condition("crown", "{value:.0f} mm stand on the crown, a free crest wants {want:.0f}", least=17.0),
        Condition(
            "crown_over_temple", "the crest would stand {value:.0f} mm over the sides, it wants {want:.0f}",
            least=6.0,
        ),
    ),
    ideals=(
        Ideal("crown_hair", 38.0, 10.0, "{value:.0f} mm of hair on the crown: a free crest wants {want:.0f}", 1),
        Ideal("skull_index", 0.75, 0.12, "the skull is {value:.2f} as broad as long: broad for a narrow crest", -1),
        Ideal("ear_carriage", 0.0, 0.5, "standing ears stand beside a crest", -1),
    ),
    coats={"harsh": (2.2, "harsh hair makes no free crest"), "fine_drop": (0.8, "fine hair falls to one side")},
    finish="Clipped face; the crest combed up and tipped.",
    cautions=(CLIPPER_CARE, EYE_CARE, LIP_CARE, LEATHER_CARE),
)  # fmt: skip
