"""Brick: two flat sides from the widest part of the cheek to the nose, skull and bridge parallel."""

from __future__ import annotations

from typing import Final

from dapwick.core.basics.shapes import Field, common, half_space, union
from dapwick.core.outlines.covers import Cover, below, setting_lines, side_view
from dapwick.core.outlines.ear_cut import EarCut
from dapwick.core.outlines.ear_schools import EDGE_TIDIED, OUTSIDE_CLOSE, with_outside
from dapwick.core.outlines.face import Face
from dapwick.core.outlines.family import Condition, Design, Family, Grip, Ideal, Parameter, Params, Schools
from dapwick.core.outlines.parts import beard_covers, brows
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
from dapwick.core.outlines.work_schools import THROAT_END, THROAT_GROWTH, WORK

EDGE_MM: Final = 7.0
SIDE_HAIR_MM: Final = 9.0
BACK_HAIR_MM: Final = 7.0
CLOSE_MM: Final = 4.0
BRIDGE_MM: Final = 5.0


def usual_half_width(face: Face) -> float:
    """Half the width at the cheeks, with little hair: the bone makes the brick."""
    return face.half_width + SIDE_HAIR_MM


def design(face: Face, half_width: float, params: Params, schools: Schools) -> Design:
    nose_half = face.half("mouth_corner") * 0.8 + params["beard_side_mm"]
    surface = union(
        6.0,
        _skull_box(face, half_width, nose_half, params["top_mm"]),
        _muzzle_box(face, half_width, nose_half, params["beard_mm"]),
        brows(face, params["brow_mm"], schools["between_brows"] == "split"),
    )
    throat = Cover("throat and jaw", below(lambda side: _throat(face, side)), CLOSE_MM)
    lines = setting_lines("behind the ear to under the jaw", lambda side: _throat(face, side)[1:4])
    ears = EarCut("clipped close, edges clean", clipped=(0.0, 1.0), outside_mm=3.0, edge_mm=3.0)
    ears = with_outside(ears, schools)
    return Design(
        surface,
        ears,
        (throat, *beard_covers(face, schools)),
        lines,
        schools["inner_corners"] == "left",
        least_mm=5.0,
    )


def _sides(face: Face, half_width: float, nose_half: float) -> Field:
    """A straight line from the widest part of the cheek to the front of the nose, level behind it, on both sides."""
    cheek, nose = float(face.middle("cheek")[1]), face.ahead("nose_tip")
    slope = (half_width - nose_half) / (nose - cheek)
    return common(
        EDGE_MM,
        *(half_space((s * half_width, cheek, 0), (s, slope, 0)) for s in (1.0, -1.0)),
        *(half_space((s * half_width, 0, 0), (s, 0, 0)) for s in (1.0, -1.0)),
    )


def _skull_box(face: Face, half_width: float, nose_half: float, top_mm: float) -> Field:
    """Top parallel to the bridge; front at the stop, back behind the occiput."""
    slope = face.bridge_slope
    crown = face.at("crown")
    low = float(face.middle("jaw_angle")[2]) - 6.0
    return common(
        EDGE_MM,
        _sides(face, half_width, nose_half),
        half_space((0, float(crown[1]), float(crown[2]) + top_mm), (0, slope, 1.0)),
        half_space((0, face.ahead("stop") + 1.0, 0), (0, 1, 0)),
        half_space((0, face.ahead("occiput") - BACK_HAIR_MM, 0), (0, -1, 0)),
        half_space((0, 0, low), (0, 0, -1)),
    )


def _muzzle_box(face: Face, half_width: float, nose_half: float, beard_mm: float) -> Field:
    """From the cheek to the nose: bridge on top, the beard squared off in front and below."""
    stop = face.at("stop")
    low = face.up("chin") - beard_mm
    rise = half_space((0, float(face.middle("mouth_corner")[1]) - 4.0, low), (0, -0.9, -1.0))
    return common(
        EDGE_MM,
        _sides(face, half_width, nose_half),
        half_space((0, float(stop[1]), float(stop[2]) + BRIDGE_MM), (0, face.bridge_slope, 1.0)),
        half_space((0, face.ahead("nose_tip") - 1.0, 0), (0, 1, 0)),
        half_space((0, 0, low), (0, 0, -1)),
        rise,
        half_space((0, float(face.middle("cheek")[1]) - 30.0, 0), (0, -1, 0)),
    )  # fmt: skip


def _throat(face: Face, side: str) -> list[tuple[float, float]]:
    """Ear's rear base to the jaw corner, forward under the jaw to the mouth corner's fall line."""
    corner = side_view(face, "mouth_corner", side)
    jaw, ear = side_view(face, "jaw_angle", side), side_view(face, "ear_back", side)
    chin_z = face.up("chin")
    return [(ear[0] - 30.0, ear[1] - 14.0), (ear[0], ear[1] - 16.0), (jaw[0], jaw[1] + 2.0),
            (corner[0] - 12.0, chin_z + 2.0), (corner[0] - 6.0, chin_z - 60.0)]  # fmt: skip


BRICK: Final = Family(
    id="brick",
    name="Brick",
    description="Flat sides from cheek to nose, skull and bridge parallel, small brows, a squared beard.",
    size_words="half width",
    parameters=(
        fullness(),
        Parameter("top_mm", "Top", "mm", 3.0, 24.0, 8.0, "flatter", "higher", 4.0, grip=Grip("crown", (0, 0, 1))),
        Parameter(
            "brow_mm", "Brows", "mm", 2.0, 28.0, 12.0, "neat", "longer", 5.0, "eyes", Grip("brow", (0, 1, 0), 0.75)
        ),
        Parameter(
            "beard_mm", "Beard", "mm", 4.0, 50.0, 26.0, "shorter", "longer", 8.0, "beard", Grip("chin", (0, 0, -1))
        ),
        Parameter(
            "beard_side_mm", "Beard's sides", "mm", 2.0, 24.0, 10.0, "slimmer", "wider", 4.0, "beard",
            Grip("muzzle_side", (-1, 0, 0)),
        ),
    ),
    schools=(
        BETWEEN_BROWS, INNER_CORNERS, BEARD, BRIDGE, LASHES_KEPT, OUTSIDE_CLOSE, LEATHER, EDGE_TIDIED, THROAT,
        THROAT_END, THROAT_GROWTH, *WORK,
    ),
    default_size=usual_half_width,
    design=design,
    conditions=(
        Condition(
            "side_bulge", "the sides would stray {value:.0%} from a straight line, a brick allows {want:.0%}",
            most=0.085,
        ),
        Condition(
            "boxed", "the skull would be {value:.0%} of a box from the front, a brick wants {want:.0%}",
            least=0.87,
        ),
        Condition(
            "planes_apart", "skull and bridge would lie {value:.0f}° apart: a brick wants them parallel",
            most=12.0,
        ),
        Condition("chin", "{value:.0f} mm stand at the chin: no beard to square off", least=9.0),
    ),
    ideals=(
        Ideal("plane_angle", 0.0, 9.0, "bridge and skull planes differ by {value:.0f}°: a brick reads as a wedge"),
        Ideal("muzzle_ratio", 0.85, 0.2, "the muzzle is {value:.2f} of the skull: short for a brick", 1),
        Ideal("skull_index", 0.78, 0.14, "the skull is {value:.2f} as broad as long: broad for flat sides", -1),
    ),
    coats={"curl": (0.8, "curl blunts the flat sides"), "standing": (0.8, "standing hair rounds the edges"),
           "fine_drop": (1.8, "fine drop hair hangs off a flat side")},
    finish="Clipped or carded sides, scissored beard.",
    cautions=(EYE_CARE, LIP_CARE, CLIPPER_CARE),
)  # fmt: skip
