"""The bone of a dog that was measured before: what a later visit starts from.

Bone is measured once. A later visit's photos then solve little but their cameras, and what they add is
weighed in by Bayes' rule: the earlier visit's marks and covariance are the next one's prior. A puppy's head
is expected to have grown since, and how much is left open.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Final

import numpy as np

from dapwick.core.basics.arrays import Array
from dapwick.core.basics.marks import INDEX, MARK_IDS, RULE_OF
from dapwick.core.solve.prior import ShapePrior, muzzle_mode, shape_prior

KEPT_SIGMA_MM: Final = 0.8
"""However often it was measured, no mark on bone is felt in the same place to better than this."""
MOVED_SIGMA_MM: Final[Mapping[str, float]] = {
    "ear_tip": 22.0,
    "chin": 3.0,
    "mouth_corner": 3.0,
    "lip_front": 2.0,
    "throat": 4.0,
}
"""Marks that are not fixed to the skull: ears are carried this way or that, a mouth opens (σ, mm)."""
FRAME_MM: Final = 10.0
FRAME_RAD: Final = 0.1
"""How far the earlier head frame may lie from the present one: wide, since it says nothing of the head."""
GROWN_WEEKS: Final = 52.0
BORN_SHARE: Final = 0.28
GROWS_OVER_WEEKS: Final = 13.0
GROWN_ENOUGH: Final = 1.02
"""Past this growth a puppy's size is measured anew."""
GROWTH_SIGMA_SHARE: Final = 0.3
MUZZLE_GROWS_MORE: Final = 0.35


@dataclass(frozen=True)
class Bone:
    """Marks (marks, 3) mm and covariance (3·marks, 3·marks) mm², head frame, from `visits` visits; as they
    were seen, without leaning on the two sides being alike, which each visit's solve adds anew.
    age_weeks: the dog's age when it was measured, where that is known."""

    points_mm: Array
    covariance: Array
    visits: int = 1
    age_weeks: float | None = None
    version: str = ""


def share_of_grown(age_weeks: float) -> float:
    """A puppy's head size as a share of its grown size: a curve that slows as it nears 1.

    A rule of thumb, 0.6 at two months, 0.9 at six; breeds differ, hence the wide σ that goes with it.
    """
    return 1.0 - (1.0 - BORN_SHARE) * math.exp(-max(age_weeks, 0.0) / GROWS_OVER_WEEKS)


def growth_since(bone: Bone, age_weeks: float | None) -> float:
    """How much larger the head is expected to be now than when its bone was measured."""
    if bone.age_weeks is None or age_weeks is None or bone.age_weeks >= GROWN_WEEKS:
        return 1.0
    return share_of_grown(max(age_weeks, bone.age_weeks)) / share_of_grown(bone.age_weeks)


def prior_of(bone: Bone, age_weeks: float | None = None) -> ShapePrior:
    """What is expected of a known head today."""
    growth = growth_since(bone, age_weeks)
    mean = bone.points_mm * growth
    open_share = GROWTH_SIGMA_SHARE * (growth - 1.0)
    muzzle_mm = MUZZLE_GROWS_MORE * (growth - 1.0) * float(np.ptp(bone.points_mm[:, 1]))
    along = mean.ravel() / float((mean**2).sum())
    measured = math.sqrt(growth**2 * float(along @ bone.covariance @ along))
    modes = np.stack([muzzle_mode(muzzle_mm), *_frame_modes(mean)])
    stray = [MOVED_SIGMA_MM.get(RULE_OF[m].name, 0.0) for m in MARK_IDS]
    own = np.repeat(np.hypot(stray, KEPT_SIGMA_MM), 3)
    covariance = growth**2 * bone.covariance + modes.T @ modes + np.diag(own**2)
    return shape_prior(
        mean,
        (covariance + covariance.T) / 2,
        math.hypot(measured, open_share),
        known=True,
        sized=growth < GROWN_ENOUGH,
    )


def _frame_modes(mean_mm: Array) -> Array:
    """Six ways (6, 3·marks) to move a head as a whole."""
    axes = np.eye(3)
    shifts = [np.tile(FRAME_MM * axis, len(INDEX)) for axis in axes]
    turns = [FRAME_RAD * np.cross(axis, mean_mm).ravel() for axis in axes]
    return np.stack([*shifts, *turns])
