"""Close: the whole face clipped for health or upkeep, the top one guard up."""

from __future__ import annotations

from typing import Final

from dapwick.core.outlines.covers import Cover, everywhere, setting_lines, side_area, side_view
from dapwick.core.outlines.ear_cut import EarCut
from dapwick.core.outlines.ear_schools import EDGE_TIDIED
from dapwick.core.outlines.face import SIDES, Face
from dapwick.core.outlines.family import (
    AT_THE_EAR,
    UPWARD,
    Design,
    Family,
    Ideal,
    Parameter,
    Params,
    School,
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
    fullness,
)
from dapwick.core.outlines.work_schools import EARS_WHEN, FACE_GROWTH, MINDED, THROAT_GROWTH

USUAL_FACE_MM: Final = 5.0
TOP_AS: Final = 1.6
"""The top is one guard up: guards rise by about this factor."""
EARS: Final = School("ears", "The ears?", ("close", "left"), "close", "All one length is the least upkeep.")


def usual_face(_face: Face) -> float:
    """Length of the face."""
    return USUAL_FACE_MM


def design(face: Face, face_mm: float, params: Params, schools: Schools) -> Design:
    top = Cover("top", side_area(*(_top(face, s) for s in SIDES)), max(TOP_AS * face_mm, params["top_mm"]))
    all_over = Cover("whole face", everywhere, face_mm)
    left = schools["ears"] == "left"
    ears = (
        EarCut("left, edges tidied", edge_mm=params["ear_mm"])
        if left
        else EarCut("one length with the face", outside_mm=face_mm, edge_mm=min(face_mm, params["ear_mm"]))
    )
    shell = skull_ball(face, face.half_width + 40.0, face.crown_height + 40.0, 140.0, 40.0)
    return Design(shell, ears, (all_over, top), setting_lines("top", lambda side: _top(face, side)[:3]))


def _top(face: Face, side: str) -> list[tuple[float, float]]:
    eye, ear = side_view(face, "eye_outer", side), side_view(face, "ear_back", side)
    stop = side_view(face, "stop", side)
    return [(ear[0] - 300.0, ear[1]), (ear[0], ear[1]), (eye[0], eye[1] + 12.0), (stop[0] + 8.0, eye[1] + 14.0),
            (stop[0] + 8.0, eye[1] + 300.0), (ear[0] - 300.0, eye[1] + 300.0)]  # fmt: skip


CLOSE: Final = Family(
    id="close",
    name="Close",
    description="The whole face clipped for health or upkeep, the top one guard up.",
    size_words="length of the face",
    parameters=(
        fullness(),
        Parameter("top_mm", "Top", "mm", 3.0, 22.0, 9.0, "shorter", "longer", 4.0),
        Parameter("ear_mm", "Ears", "mm", 2.0, 30.0, 6.0, "close", "left", 6.0, "ears", AT_THE_EAR),
    ),
    schools=(EARS, LASHES_KEPT, LEATHER, EDGE_TIDIED, THROAT_GROWTH, FACE_GROWTH, EARS_WHEN, MINDED),
    default_size=usual_face,
    design=design,
    size_reach=(3.5, 9.0),
    size_grip=UPWARD,
    ideals=(
        Ideal("hair_kept", 0.55, 0.25, "{value:.0%} of the coat is left: weeks of growth go", 1),
    ),
    coats={"standing": (0.4, "clipped, white skin shows pink under 1.5 mm")},
    finish="Clipper all over.",
    cautions=(CLIPPER_CARE, EYE_CARE, LIP_CARE, LEATHER_CARE),
)  # fmt: skip
