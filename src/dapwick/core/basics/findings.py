"""What the solver has to say besides numbers: named, in plain words, with the culprit."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from dapwick.core.basics.marks import View

Code = Literal[
    "too_few_marks",
    "sides_swapped",
    "pair_swapped",
    "wrong_view",
    "mark_off",
    "hand_measure_contradicts",
    "card_contradicts",
    "felt_outside",
    "felt_one_sided",
    "uneven_pair",
    "no_scale",
    "depth_unknown",
    "behind_camera",
    "mark_outside_photo",
    "blurred",
    "too_dark",
    "burnt_out",
    "head_too_small",
    "too_near",
    "turned_too_far",
    "edge_unsure",
    "no_dog_found",
    "other_head",
]


@dataclass(frozen=True)
class Finding:
    """message is one plain sentence and what to do; photo and mark name the culprit; view: the slot the photo belongs
    in instead."""

    code: Code
    message: str
    photo: str | None = None
    mark: str | None = None
    leaves_photo_out: bool = False
    view: View | None = None
