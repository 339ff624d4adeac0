"""A bone as it is kept with a visit."""

from __future__ import annotations

from base64 import b64decode, b64encode

import numpy as np

from dapwick.core.basics.marks import MARK_IDS
from dapwick.core.solve.bone import Bone
from dapwick.documents.document import Document, Number


class BoneDocument(Document):
    """marks_mm: places by mark id; covariance: its lower triangle row by row, float32, base64."""

    marks_mm: dict[str, tuple[Number, Number, Number]]
    covariance: str
    visits: int
    age_weeks: Number | None
    version: str

    @staticmethod
    def of(bone: Bone) -> BoneDocument:
        lower = bone.covariance[np.tril_indices(len(bone.covariance))].astype("<f4")
        places = {m: np.round(at, 3).tolist() for m, at in zip(MARK_IDS, bone.points_mm, strict=True)}
        return BoneDocument(
            marks_mm=places,
            covariance=b64encode(lower.tobytes()).decode(),
            visits=bone.visits,
            age_weeks=bone.age_weeks,
            version=bone.version,
        )

    def bone(self) -> Bone:
        """Raises KeyError or ValueError for one that no head can have."""
        points = np.array([self.marks_mm[m] for m in MARK_IDS])
        covariance = np.zeros((points.size, points.size))
        lower = np.tril_indices(points.size)
        covariance[lower] = np.frombuffer(b64decode(self.covariance), "<f4")
        covariance = covariance + np.tril(covariance, -1).T
        return Bone(points, covariance, self.visits, self.age_weeks, self.version)
