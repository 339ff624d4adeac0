"""Rounded topknot, clean face: clipped below the line from ear to eye, a ball of hair above it."""

from __future__ import annotations

from typing import Final

from dapwick.core.outlines.covers import Cover, below, setting_lines, side_view
from dapwick.core.outlines.ear_cut import EarCut
from dapwick.core.outlines.ear_schools import EDGE_ROUNDED, TASSEL_LINE, TASSEL_V, tassel
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
    School,
    Schools,
)
from dapwick.core.outlines.parts import skull_ball
from dapwick.core.outlines.schools import (
    BOW,
    CLIPPER_CARE,
    CROWN,
    EYE_CARE,
    LASHES_KEPT,
    LEATHER_CARE,
    LIP_CARE,
    THROAT,
    fullness,
)
from dapwick.core.outlines.work_schools import FACE_GROWTH, SET_LINE, THROAT_END, THROAT_GROWTH, WORK

USUAL_HAIR_MM: Final = 24.0
BACK_SHARE: Final = 0.8
EXPONENT: Final = 2.1
EARS: Final = School(
    "ears",
    "The ears?",
    ("natural", "tasselled", "rounded"),
    "natural",
    "Natural ears run into the topknot; a tassel is an inverted V clipped above it.",
)


def usual_hair(_face: Face) -> float:
    """Hair standing over the crown."""
    return USUAL_HAIR_MM


def design(face: Face, hair_mm: float, params: Params, schools: Schools) -> Design:
    half = face.half_width + params["side_mm"] * hair_mm / USUAL_HAIR_MM
    ball = skull_ball(
        face, half, face.crown_height + hair_mm, 0.55 * face.crown_height, BACK_SHARE * hair_mm, EXPONENT
    )
    clean = Cover("clean face", below(lambda side: _clean(face, side)), params["face_mm"])
    lines = setting_lines("front of the ear to the outer eye corner", lambda side: _clean(face, side)[1:5])
    return Design(ball, _ears(face, schools, params["ear_mm"]), (clean,), lines, least_mm=4.0)


def _ears(face: Face, schools: Schools, ear_mm: float) -> EarCut:
    style = schools["ears"]
    if style == "tasselled":
        return tassel(face, EarCut("clipped, a tassel left", outside_mm=3.0, edge_mm=ear_mm), schools)
    if style == "rounded":
        return EarCut("rounded at the tip", outside_mm=ear_mm, edge_mm=0.6 * ear_mm)
    return EarCut("natural, ends tidied", outside_mm=None, edge_mm=ear_mm)


def _clean(face: Face, side: str) -> list[tuple[float, float]]:
    """Behind the ear, ear's front to outer eye corner, over the eye to the stop's notch, then off the nose."""
    ear, front = side_view(face, "ear_back", side), side_view(face, "ear_front", side)
    eye, stop = side_view(face, "eye_outer", side), side_view(face, "stop", side)
    return [(ear[0] - 34.0, ear[1] - 26.0), (ear[0] - 4.0, ear[1] - 12.0), (front[0], front[1] - 2.0),
            (eye[0] - 2.0, eye[1] + 3.0), (stop[0] - 4.0, max(stop[1], eye[1]) + 7.0),
            (stop[0] + 6.0, max(stop[1], eye[1]) + 7.0)]  # fmt: skip


TOPKNOT: Final = Family(
    id="topknot",
    name="Topknot",
    description="Face and throat clipped clean below the line from ear to eye; a topknot round from all sides.",
    size_words="hair over the crown",
    parameters=(
        fullness(),
        Parameter(
            "side_mm", "Sides", "mm", 6.0, 34.0, 18.0, "tighter", "rounder", 5.0, grip=Grip("temple", (-1, 0, 0))
        ),
        Parameter("face_mm", "Face", "mm", 0.5, 6.0, 1.5, "closer", "softer", 1.5, "beard"),
        Parameter("ear_mm", "Ears", "mm", 3.0, 80.0, 40.0, "shorter", "longer", 15.0, "ears", AT_THE_EAR),
    ),
    schools=(
        EARS, CROWN, BOW, LASHES_KEPT, TASSEL_LINE, TASSEL_V, EDGE_ROUNDED, THROAT, THROAT_END, THROAT_GROWTH,
        FACE_GROWTH, SET_LINE, *WORK,
    ),
    default_size=usual_hair,
    design=design,
    size_reach=(18.0, 45.0),
    size_grip=UPWARD,
    conditions=(
        Condition(
            "crown_over_face", "the crown would stand {value:.0f} mm over the face, a topknot wants {want:.0f}",
            least=9.0,
        ),
        Condition("crown", "{value:.0f} mm stand on the crown, a topknot wants {want:.0f}", least=11.0),
        Condition("knot_uneven", "the topknot would be {value:.0%} out of round", most=0.07),
    ),
    ideals=(
        Ideal("muzzle_ratio", 0.75, 0.2, "the muzzle is {value:.2f} of the skull: clean, it shows short", 1),
        Ideal("ear_carriage", 0.0, 0.5, "standing ears stand through a topknot", -1),
        Ideal("crown_hair", 30.0, 10.0, "{value:.0f} mm of hair on the crown: little for a topknot", 1),
    ),
    coats={"harsh": (2.0, "harsh hair does not scissor into a ball"),
           "fine_drop": (1.4, "fine drop hair wants a band rather than a ball"), "wavy": (0.6, "waves part on top")},
    finish="Scissored round from all sides.",
    cautions=(CLIPPER_CARE, EYE_CARE, LIP_CARE, LEATHER_CARE),
)  # fmt: skip
