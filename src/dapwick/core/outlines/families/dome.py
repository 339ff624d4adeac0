"""Dome: the crown a high smooth dome in front and side views over close cheeks, with a full lip."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Final

from dapwick.core.basics.shapes import Field, capsule, half_space, union, without
from dapwick.core.outlines.covers import Cover, below, setting_lines, side_area, side_view
from dapwick.core.outlines.ear_cut import THIRD, EarCut
from dapwick.core.outlines.ear_schools import EAR_V, EDGE_BEVELLED, UPPER_LINE, from_the_base
from dapwick.core.outlines.face import SIDES, Face
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
from dapwick.core.outlines.parts import brows, skull_ball
from dapwick.core.outlines.schools import (
    BRIDGE,
    CLIPPER_CARE,
    DOME_TOP,
    EYE_CARE,
    INNER_CORNERS,
    LASHES,
    LEATHER,
    LEATHER_CARE,
    THROAT,
    fullness,
)
from dapwick.core.outlines.work_schools import FACE_GROWTH, THROAT_END, THROAT_GROWTH, WORK

USUAL_TOP_MM: Final = 26.0
SIDE_MM: Final = 10.0
BACK_MM: Final = 12.0
FLAT_MM: Final = 8.0
STEP_UNDER_EAR_MM: Final = 4.0


def usual_top(_face: Face) -> float:
    """Hair standing over the crown."""
    return USUAL_TOP_MM


def design(face: Face, top_mm: float, params: Params, schools: Schools) -> Design:
    up = face.crown_height + top_mm
    half = face.half_width + SIDE_MM * top_mm / USUAL_TOP_MM
    dome = skull_ball(face, half, up, 0.75 * face.crown_height, BACK_MM, 2.1)
    if schools["dome_top"] == "flat":
        dome = without(3.0, dome, half_space((0, 0, face.up("crown") + FLAT_MM), (0, 0, -1)))
    lip_mm = params["lip_mm"]
    surface = union(7.0, dome, brows(face, lip_mm, True), union(7.0, *_lips(face, lip_mm)))
    close = Cover("cheeks, jaw and throat", below(lambda side: _step(face, side)), params["close_mm"])
    ears = EarCut(
        "soft V in the upper third, feathering left", (0.0, 1.0 - THIRD), 12.0, edge_mm=params["ear_mm"]
    )
    clean = Cover(
        "muzzle, under the eyes and chin",
        side_area(*(_clean(face, side, lip_mm) for side in SIDES)),
        params["close_mm"],
    )
    ears = from_the_base(face, ears, schools)
    lines = setting_lines("outer eye corner to the ear's base", lambda side: _step(face, side)[1:4])
    return Design(surface, ears, (close, clean), lines, schools["inner_corners"] == "left", least_mm=4.0)


def _lips(face: Face, lip_mm: float) -> Iterator[Field]:
    """A full clean lip from the mouth corner to the nose on both sides, as full as the brow."""
    front = face.at("lip_front")
    for side in ("left", "right"):
        corner = face.at(f"mouth_corner_{side}")
        inside = corner * [0.75, 1, 1]
        ahead = front + [0.35 * float(corner[0]), -6.0, -4.0]
        yield capsule(inside.tolist(), ahead.tolist(), 10.0 + 0.5 * lip_mm, 8.0 + 0.6 * lip_mm)


def _clean(face: Face, side: str, lip_mm: float) -> list[tuple[float, float]]:
    """The muzzle round its lip: over the lip up to the eyes, before it, and under it to the throat."""
    corner, eye = side_view(face, "mouth_corner", side), side_view(face, "eye_inner", side)
    front = side_view(face, "lip_front", side)
    over, under = 4.0 + 0.4 * lip_mm, 6.0 + 0.3 * lip_mm
    stop = side_view(face, "stop", side)
    return [(eye[0] + 2.0, eye[1] - 4.0), (stop[0] + 4.0, stop[1] + 2.0), (front[0] + 200.0, stop[1] + 2.0),
            (front[0] + 200.0, front[1] + over),
            (front[0], front[1] + over), (corner[0], corner[1] + over), (corner[0], corner[1] - under),
            (front[0], front[1] - under), (front[0] + 200.0, front[1] - under), (front[0] + 200.0, corner[1] - 200.0),
            (corner[0] + 2.0, corner[1] - 200.0), (corner[0] + 2.0, corner[1] + 12.0)]  # fmt: skip


def _step(face: Face, side: str) -> list[tuple[float, float]]:
    """The line of the step: nape, under the ear, outer eye corner, mouth corner, and down before the chin."""
    back, front = side_view(face, "ear_back", side), side_view(face, "ear_front", side)
    eye, corner = side_view(face, "eye_outer", side), side_view(face, "mouth_corner", side)
    return [(back[0] - 30.0, back[1] - 10.0), (back[0], back[1] - STEP_UNDER_EAR_MM), front,
            (eye[0] - 4.0, eye[1] - 2.0), (corner[0] + 2.0, corner[1] + 12.0),
            (corner[0] + 2.0, corner[1] - 80.0)]  # fmt: skip


DOME: Final = Family(
    id="dome",
    name="Dome",
    description="A high smooth dome over close cheeks and throat; a clean full lip, the brow as full as the lip.",
    size_words="hair over the crown",
    parameters=(
        fullness(),
        Parameter(
            "lip_mm", "Lip and brow", "mm", 3.0, 26.0, 13.0, "cleaner", "fuller", 5.0, "beard",
            Grip("muzzle_side", (-1, 0, 0), 0.6),
        ),
        Parameter("close_mm", "Cheeks", "mm", 1.5, 13.0, 6.0, "close", "softer", 3.0, grip=Grip("cheek", (-1, 0, 0))),
        Parameter("ear_mm", "Feathering", "mm", 3.0, 60.0, 30.0, "shorter", "longer", 12.0, "ears", AT_THE_EAR),
    ),
    schools=(
        DOME_TOP, LASHES, INNER_CORNERS, BRIDGE, UPPER_LINE, EAR_V, LEATHER, EDGE_BEVELLED, THROAT, THROAT_END,
        THROAT_GROWTH, FACE_GROWTH, *WORK,
    ),
    default_size=usual_top,
    design=design,
    size_reach=(18.0, 40.0),
    size_grip=UPWARD,
    conditions=(
        Condition("arched", "the top would be {value:.2f} as high as it is wide to a side: no dome", least=0.55),
        Condition(
            "crown_over_cheek", "the crown would stand {value:.0f} mm over the cheeks, a dome wants {want:.0f}",
            least=6.0,
        ),
        Condition("crown", "{value:.0f} mm stand on the crown, a dome wants {want:.0f}", least=11.0),
    ),
    ideals=(
        Ideal("dome_ratio", 0.42, 0.1, "the top is flat ({value:.2f} of its length): a dome needs more hair", 1),
        Ideal("ear_carriage", 0.0, 0.5, "standing ears break the line from dome to ear", -1),
        Ideal("muzzle_ratio", 0.65, 0.2, "the muzzle is {value:.2f} of the skull: little lip to balance a dome", 1),
    ),
    coats={"fine_drop": (2.2, "fine drop hair lies down: no dome stands"),
           "harsh": (1.6, "harsh hair does not blend into a smooth dome"), "wavy": (0.5, "waves need a lighter dome")},
    finish="Angled long into short with thinning shears.",
    cautions=(EYE_CARE, LEATHER_CARE, CLIPPER_CARE),
)  # fmt: skip
