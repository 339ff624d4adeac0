"""The demo dogs as head files."""

from __future__ import annotations

from collections.abc import Sequence

from dapwick.demo.dogs import FIRST, calliper_mm, hand_marks, photos_of, truth
from dapwick.documents.head_file import HeadFile


def demo_head_file(key: str, slots: Sequence[str] = FIRST) -> HeadFile:
    """A demo dog as a head file: marks by a steady hand, one calliper reading."""
    known = truth(key)
    photos = [
        {
            **{k: p[k] for k in ("file", "view", "state", "width", "height", "focal_px")},
            "marks": hand_marks(p),
        }
        for p in photos_of(known, slots)
    ]
    across = ("eye_outer_left", "eye_outer_right")
    measure = {"from": across[0], "to": across[1], "mm": calliper_mm(known, *across), "sigma_mm": 1.0}
    return HeadFile.model_validate(
        {
            "format": "dapwick-head",
            "version": 1,
            "dog": {"name": known["dog"], "coat": known["coat"]},
            "photos": photos,
            "hand_measures": [measure],
        }
    )
