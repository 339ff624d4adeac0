"""A bone as it is kept with a visit."""

from __future__ import annotations

from base64 import b64decode, b64encode
from typing import Any

import numpy as np

from dapwick.core.basics.marks import MARK_IDS
from dapwick.core.solve.bone import Bone


def packed(bone: Bone) -> dict[str, Any]:
    """A bone as it is kept: marks in mm by id; the covariance's lower triangle, float32, base64."""
    lower = bone.covariance[np.tril_indices(len(bone.covariance))].astype("<f4")
    return {
        "marks_mm": {m: np.round(at, 3).tolist() for m, at in zip(MARK_IDS, bone.points_mm, strict=True)},
        "covariance": b64encode(lower.tobytes()).decode(),
        "visits": bone.visits,
        "age_weeks": bone.age_weeks,
        "version": bone.version,
    }


def unpacked(kept: dict[str, Any]) -> Bone:
    points = np.array([kept["marks_mm"][m] for m in MARK_IDS])
    covariance = np.zeros((points.size, points.size))
    lower = np.tril_indices(points.size)
    covariance[lower] = np.frombuffer(b64decode(kept["covariance"]), "<f4")
    covariance = covariance + np.tril(covariance, -1).T
    return Bone(points, covariance, kept["visits"], kept["age_weeks"], kept["version"])
