"""Natural: pulled or carded on the skull, tight sides, brows and beard thinned, nothing shaped."""

from __future__ import annotations

from typing import Final

from dapwick.core.outlines.covers import Cover, below, everywhere, setting_lines, side_area, side_view
from dapwick.core.outlines.ear_cut import EarCut
from dapwick.core.outlines.ear_schools import EDGE_TIDIED, OUTSIDE_STRIPPED, with_outside
from dapwick.core.outlines.face import SIDES, Face
from dapwick.core.outlines.family import AT_THE_EAR, UPWARD, Design, Family, Ideal, Parameter, Params, Schools
from dapwick.core.outlines.parts import beard_covers, skull_ball
from dapwick.core.outlines.schools import (
    BEARD_NATURAL,
    BETWEEN_BROWS,
    CORNERS_TAMED,
    EYE_CARE,
    LASHES_KEPT,
    LIP_CARE,
    fullness,
)
from dapwick.core.outlines.work_schools import WORK

USUAL_SKULL_MM: Final = 10.0
SIDE_MM: Final = 7.0


def usual_skull(_face: Face) -> float:
    """Depth of the carded skull."""
    return USUAL_SKULL_MM


def design(face: Face, skull_mm: float, params: Params, schools: Schools) -> Design:
    """No shape is cut: each part keeps its share of the coat that is there."""
    covers = (
        Cover("muzzle and beard", everywhere, share=params["beard_share"], tool="thinning shears"),
        Cover(
            "brows",
            side_area(*(_brow(face, s) for s in SIDES)),
            share=params["brow_share"],
            tool="thinning shears",
        ),
        Cover(
            "skull", side_area(*(_skull(face, s) for s in SIDES)), share=1.0, most_mm=skull_mm, tool="carding"
        ),
        Cover(
            "tight sides",
            below(lambda side: _sides(face, side)),
            SIDE_MM * skull_mm / USUAL_SKULL_MM,
            tool="carding",
        ),
    )
    ears = EarCut("pulled, edges tidied", outside_mm=params["ear_mm"], edge_mm=params["ear_mm"])
    ball = skull_ball(face, face.half_width + 60.0, face.crown_height + 60.0, 160.0, 60.0)
    lines = setting_lines("outer eye corner to mouth corner", lambda side: _sides(face, side)[2:5])
    left = (*covers, *beard_covers(face, schools))
    return Design(ball, with_outside(ears, schools), left, lines, schools["inner_corners"] != "cleared")


def _brow(face: Face, side: str) -> list[tuple[float, float]]:
    eye, stop = side_view(face, "eye_outer", side), side_view(face, "stop", side)
    return [(eye[0] - 10.0, eye[1] + 3.0), (stop[0] + 30.0, eye[1] + 3.0), (stop[0] + 30.0, eye[1] + 20.0),
            (eye[0] - 10.0, eye[1] + 20.0)]  # fmt: skip


def _skull(face: Face, side: str) -> list[tuple[float, float]]:
    eye, stop = side_view(face, "eye_outer", side), side_view(face, "stop", side)
    top = eye[1] + 18.0
    return [(stop[0] + 10.0, top), (stop[0] + 10.0, top + 200.0), (eye[0] - 300.0, top + 200.0),
            (eye[0] - 300.0, eye[1] - 10.0), (eye[0] - 12.0, eye[1]), (eye[0] - 10.0, top)]  # fmt: skip


def _sides(face: Face, side: str) -> list[tuple[float, float]]:
    """Behind the line from outer eye corner to mouth corner: cheeks and throat, tight."""
    ear, eye = side_view(face, "ear_back", side), side_view(face, "eye_outer", side)
    corner = side_view(face, "mouth_corner", side)
    behind = max(ear[1] - 4.0, eye[1] - 6.0)
    return [(ear[0] - 40.0, behind), (ear[0], behind), (eye[0] - 8.0, eye[1] - 2.0),
            (corner[0] - 12.0, corner[1]), (corner[0] - 14.0, corner[1] - 80.0)]  # fmt: skip


NATURAL: Final = Family(
    id="natural",
    name="Natural",
    description="Pulled or carded on the skull, tight sides; brows and beard thinned, not removed.",
    size_words="hair on the skull",
    parameters=(
        fullness(),
        Parameter("beard_share", "Beard", "", 0.3, 1.0, 0.75, "thinner", "left", 0.15, "beard"),
        Parameter("brow_share", "Brows", "", 0.3, 1.0, 0.75, "thinner", "left", 0.15, "eyes"),
        Parameter("ear_mm", "Ears", "mm", 2.0, 24.0, 6.0, "close", "left", 5.0, "ears", AT_THE_EAR),
    ),
    schools=(CORNERS_TAMED, BETWEEN_BROWS, BEARD_NATURAL, LASHES_KEPT, OUTSIDE_STRIPPED, EDGE_TIDIED, *WORK),
    default_size=usual_skull,
    design=design,
    size_reach=(6.0, 14.0),
    size_grip=UPWARD,
    ideals=(
        Ideal("muzzle_ratio", 0.6, 0.3, "the muzzle is {value:.2f} of the skull: a natural face shows it", 1),
        Ideal("width_to_height", 0.85, 0.3, "width to height would be {value:.2f}"),
    ),
    coats={"standing": (1.0, "standing hair left natural looks unkempt"), "curl": (1.4, "curl mats if only thinned"),
           "fine_drop": (1.2, "fine drop hair parts and trails"), "wavy": (0.6, "waves need shaping too")},
    finish="Pulled or carded; thinning shears at brows and chin.",
    cautions=(EYE_CARE, LIP_CARE),
)  # fmt: skip
