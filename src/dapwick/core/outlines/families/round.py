"""Round: from the front a circle centred between the eyes, equal all round from jaw to crown.

From the side the visor angles out over the eyes like a cap's peak and the muzzle runs into the
circle; from above the visor is a soft C from one outer eye corner to the other.
"""

from __future__ import annotations

from typing import Final

import numpy as np

from dapwick.core.arrays import Array
from dapwick.core.marks import INDEX
from dapwick.core.outlines.family import Family, Parameter, Params, School, eye_centre
from dapwick.core.shapes import Field, above, capsule, superellipsoid, union, without
from dapwick.core.solve import HeadSolution

BACK_COVER_MM: Final = 22.0
"""Hair wanted behind the occiput when the circle has its usual size."""
BEFORE_STOP_MM: Final = -2.0
"""Where the skull's circle ends against the stop in profile; what stands farther out is visor."""
SIGHT_RADII_MM: Final = (7.0, 15.0)
SIGHT_REACH_MM: Final = 70.0
JOIN_MM: Final = 12.0


def usual_radius(head: HeadSolution) -> float:
    """Half the cheek width and the depth to the chin, whichever asks more, with a finger of hair."""
    p = head.points_mm
    half_width = float(np.linalg.norm(p[INDEX["cheek_left"]] - p[INDEX["cheek_right"]])) / 2
    centre = eye_centre(head)
    to_chin = float(centre[2] - p[INDEX["chin"], 2])
    to_crown = float(p[INDEX["crown"], 2] - centre[2])
    return max(half_width, to_chin, to_crown) + 18.0


def shape(head: HeadSolution, radius_mm: float, params: Params) -> Field:
    """Skull ball, muzzle ring and visor as one, the lines of sight kept clear."""
    centre = eye_centre(head) + [0.0, 0.0, params["centre_up_mm"]]
    parts = (
        skull_ball(head, centre, radius_mm),
        jaw_ball(head, centre, radius_mm),
        muzzle_ring(head, params),
        visor(head, params),
    )
    return without(3.0, union(JOIN_MM, *parts), *lines_of_sight(head))


def _back_mm(head: HeadSolution, radius_mm: float) -> float:
    """Rearmost point of the circle in profile; a fuller circle stands further off the occiput."""
    return float(head.points_mm[INDEX["occiput"], 1]) - BACK_COVER_MM - (radius_mm - usual_radius(head))


def skull_ball(head: HeadSolution, centre: Array, radius_mm: float) -> Field:
    """A circle from the front, in profile from behind the occiput to just before the stop."""
    back, stop = _back_mm(head, radius_mm), float(head.points_mm[INDEX["stop"], 1])
    front = stop + BEFORE_STOP_MM
    return superellipsoid((0, (front + back) / 2, centre[2]), (radius_mm, (front - back) / 2, radius_mm))


def jaw_ball(head: HeadSolution, centre: Array, radius_mm: float) -> Field:
    """The same circle carried forward to the nose below the bridge: beard, lips and jaw."""
    back, p = _back_mm(head, radius_mm), head.points_mm
    front = float(p[INDEX["nose_tip"], 1])
    ball = superellipsoid((0, (front + back) / 2, centre[2]), (radius_mm, (front - back) / 2, radius_mm))
    return without(4.0, ball, above(float(p[INDEX["nose_top"], 2])))


def muzzle_ring(head: HeadSolution, params: Params) -> Field:
    """A rounded sleeve over the muzzle that ends at the nose leather, so nothing passes the nose."""
    p = head.points_mm
    lips = p[[INDEX["mouth_corner_left"], INDEX["mouth_corner_right"]]].mean(axis=0)
    half = float(np.linalg.norm(p[INDEX["mouth_corner_left"]] - p[INDEX["mouth_corner_right"]])) / 2
    radius = half + params["muzzle_mm"]
    nose, chin = p[INDEX["nose_tip"]], p[INDEX["chin"]]
    level = (nose[2] + chin[2]) / 2 - 2.0
    end = nose[1] - 0.72 * radius
    return capsule((0, min(lips[1] - 10.0, end - 5.0), level), (0, end, level), radius, radius * 0.8)


def visor(head: HeadSolution, params: Params) -> Field:
    """The cap's peak: a soft C from one outer eye corner to the other, standing out over the eyes."""
    p = head.points_mm
    half = float(np.linalg.norm(p[INDEX["eye_outer_left"]] - p[INDEX["eye_outer_right"]])) / 2
    at = (0.0, float(p[INDEX["stop"], 1]) - 18.0, float(eye_centre(head)[2]) + 18.0)
    return superellipsoid(at, (half + 6.0, params["visor_mm"] + 12.0, 17.0))


def lines_of_sight(head: HeadSolution) -> list[Field]:
    """A widening rod of sight forward from each eye; no hair is left in it."""
    p, rods = head.points_mm, []
    for side, outward in (("left", -0.25), ("right", 0.25)):
        eye = (p[INDEX[f"eye_inner_{side}"]] + p[INDEX[f"eye_outer_{side}"]]) / 2
        far = eye + SIGHT_REACH_MM * np.array([outward, 1.0, 0.05])
        rods.append(capsule(eye.tolist(), far.tolist(), *SIGHT_RADII_MM))
    return rods


ROUND: Final = Family(
    id="round",
    name="Round",
    description="A circle centred between the eyes, equal all round from jaw to crown.",
    size_words="radius",
    parameters=(
        Parameter("fullness", "Fullness", "", -1.0, 1.0, 0.0, "shorter", "fuller"),
        Parameter("centre_up_mm", "Centre", "mm", -25.0, 15.0, 0.0, "lower", "higher", tolerance=3.0),
        Parameter("visor_mm", "Visor", "mm", 0.0, 30.0, 12.0, "eyes wide open", "longer peak", tolerance=5.0),
        Parameter("muzzle_mm", "Muzzle", "mm", 3.0, 30.0, 14.0, "neater", "fuller", tolerance=6.0),
    ),
    schools=(
        School(
            "inner_corners",
            "Inner eye corners?",
            ("cleared", "tamed", "left"),
            "cleared",
            "Cleared lasts longer and the eyes are seen.",
        ),
        School(
            "fringe",
            "How is the fringe cut?",
            ("blending", "straight"),
            "blending",
            "Blending shears at 45° leave no hard line.",
        ),
    ),
    planned=("crown", "visor", "temple", "cheek", "jaw", "chin"),
    default_size=usual_radius,
    shape=shape,
    cautions=(
        "Cut away from the eye, points never toward it, a finger on the lid. Stop if the dog turns.",
        "Hold the leather between the fingers and cut toward its tip.",
    ),
)
