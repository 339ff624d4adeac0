"""Shapes that several families are built from, placed on a face (head frame, mm)."""

from __future__ import annotations

from typing import Final

import numpy as np

from dapwick.core.basics.shapes import (
    Field,
    above,
    capsule,
    common,
    egg,
    half_space,
    superellipsoid,
    union,
    without,
)
from dapwick.core.outlines.covers import NOTHING, Cover, side_area, side_view
from dapwick.core.outlines.face import SIDES, Face
from dapwick.core.outlines.family import Schools

BEFORE_STOP_MM: Final = -2.0
"""Where the skull's outline ends against the stop in profile; what stands farther out is visor or brow."""
PEAK_BEHIND_MM: Final = 18.0
PEAK_BASE_MM: Final = 9.0


def skull_ball(
    face: Face,
    half_width: float,
    up: float,
    down: float,
    back_mm: float,
    exponent: float = 2.0,
    centre_up: float = 0.0,
) -> Field:
    """A ball over the skull: so wide, so far above and below the eye line, from just before the stop to
    back_mm behind the occiput; widest where the ears are set on."""
    return _ball(
        face, half_width, up, down, back_mm, face.ahead("stop") + BEFORE_STOP_MM, centre_up, exponent
    )


def jaw_ball(
    face: Face,
    half_width: float,
    up: float,
    down: float,
    back_mm: float,
    centre_up: float = 0.0,
    reach: float = 1.0,
) -> Field:
    """The same carried forward below the bridge, to the nose or a share of the way: beard, lips and jaw, half
    a circle in profile."""
    stop = face.ahead("stop")
    front = stop + reach * (face.ahead("nose_tip") - stop)
    ball = _ball(face, half_width, up, down, back_mm, front, centre_up, 2.0)
    return without(4.0, ball, above(face.up("nose_top")))


def _ball(
    face: Face,
    half_width: float,
    up: float,
    down: float,
    back_mm: float,
    front: float,
    centre_up: float,
    exponent: float,
) -> Field:
    back = face.ahead("occiput") - back_mm
    middle = (face.ahead("occiput") + face.ahead("stop")) / 2
    return egg(
        (0, middle, face.eye_level + centre_up),
        (half_width, middle - back, down),
        (half_width, front - middle, up),
        exponent,
    )


def muzzle_sleeve(face: Face, hair_mm: float, blunt: float = 0.8) -> Field:
    """A rounded sleeve over the muzzle that ends at the nose leather, so nothing passes the nose."""
    radius = face.half("mouth_corner") + hair_mm
    nose, chin = face.at("nose_tip"), face.at("chin")
    level = float(nose[2] + chin[2]) / 2 - 2.0
    end = float(nose[1]) - 0.9 * radius * blunt
    start = min(float(face.middle("mouth_corner")[1]) - 10.0, end - 5.0)
    return capsule((0, start, level), (0, end, level), radius, radius * blunt)


def visor(face: Face, peak_mm: float) -> Field:
    """The cap's peak: a soft C from one outer eye corner to the other, standing out over the eyes."""
    at = (0.0, face.ahead("stop") - PEAK_BEHIND_MM, face.eye_level + PEAK_BEHIND_MM)
    return superellipsoid(at, (face.half("eye_outer") + 4.0, peak_mm + PEAK_BASE_MM, 13.0 + 0.15 * peak_mm))


def brows(face: Face, hair_mm: float, split: bool) -> Field:
    """A wedge over each eye, longest toward the middle, flat at the side of the head: on the line from the
    side of the nose to the outer eye corner. split: a gap between them, else they meet."""
    return union(5.0, *(_brow(face, side, hair_mm, split) for side in SIDES))


def _brow(face: Face, side: str, hair_mm: float, split: bool) -> Field:
    outward = 1.0 if side == "right" else -1.0
    inner, outer = face.at(f"eye_inner_{side}"), face.at(f"eye_outer_{side}")
    start = outer + [0.0, -6.0, 11.0]
    inside = 0.55 if split else 0.2
    end = inner * [inside, 1, 1] + [0.0, 2.0 + 0.75 * hair_mm, 11.0 - 0.15 * hair_mm]
    wedge = capsule(start.tolist(), end.tolist(), 5.0 + 0.2 * hair_mm, 4.0 + 0.35 * hair_mm)
    if split:
        return wedge
    return union(5.0, wedge, capsule(end.tolist(), [outward * 2.0, end[1] - 2, end[2]], 6.0, 6.0))


def beard(face: Face, long_mm: float, side_mm: float, square: float = 2.4) -> Field:
    """A full beard combed forward: from the mouth corners to the nose, long_mm below the chin, side_mm beyond
    the lips; `square` is the superellipsoid's exponent."""
    half = face.half("mouth_corner") + side_mm
    back = float(face.middle("mouth_corner")[1]) - 8.0
    front = face.ahead("nose_tip") - 1.0
    level = face.lip_level
    top, low = face.up("nose_top") - 1.0 - level, level - face.up("chin") + long_mm
    reach = (front - back) / 2
    return egg((0, back + reach, level), (half, reach, low), (half, reach, top), square)


def beard_covers(face: Face, schools: Schools) -> tuple[Cover, ...]:
    """A natural beard, of which nothing comes off: before the mouth corners and under the lip."""
    if schools["beard"] != "natural":
        return ()
    sides = [_beard_area(face, side) for side in SIDES]
    return (Cover("beard left as it is", side_area(*sides), tool=NOTHING),)


def _beard_area(face: Face, side: str) -> list[tuple[float, float]]:
    corner = side_view(face, "mouth_corner", side)
    back, level = corner[0] - 4.0, corner[1] - 2.0
    return [(back, level), (back, level - 200.0), (back + 300.0, level - 200.0), (back + 300.0, level)]


def jaw_v(face: Face, below_mm: float, surface: Field) -> Field:
    """The jaw cut in two straight cuts, down from the nose and up to the ear, and the point taken off."""
    chin, ear = face.at("chin"), face.middle("ear_back")
    low = float(chin[2]) - below_mm
    turn = float(face.middle("mouth_corner")[1])
    front = half_space((0, face.ahead("nose_tip"), face.up("lip_front") - below_mm * 0.4), (0, 0.35, -1.0))
    rear_normal = np.array([0.0, -(float(face.middle("jaw_angle")[2]) - low), -(turn - float(ear[1]))])
    rear = half_space((0, turn, low), rear_normal.tolist())
    point = half_space((0, turn, low + 4.0), (0, 0, -1.0))
    return common(5.0, surface, front, rear, point)
