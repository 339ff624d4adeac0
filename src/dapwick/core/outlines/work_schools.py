"""How the work is gone about, on which stylists differ: what comes first, and which way blades go."""

from __future__ import annotations

from typing import Final

from dapwick.core.outlines.family import School

ORDER: Final = School(
    "order", "Eyes or sides first?", ("eyes_first", "sides_first"), "eyes_first",
    "The eyes set the width of what is beside them. Fine drop hair falls from the sides: there they are layered first.",
    about="order", by_coat={"fine_drop": "sides_first"},
)  # fmt: skip
EARS_WHEN: Final = School(
    "ears_when", "When are the ears done?", ("after_jaw", "first"), "after_jaw",
    "After the jaw, so that their ends are set against it; first, where they hang in the way.", about="order",
)  # fmt: skip
MINDED: Final = School(
    "minded", "Places that the dog minds?", ("between", "last"), "between",
    "Bit by bit between the others; last, where one fright ends the cut.", about="order",
)  # fmt: skip
EXTENT: Final = School(
    "extent", "How much is there to do?", ("whole", "refine"), "whole",
    "Refine a head that is nearly there: corners, lip, ear joins, the last comb-up; no length is set.", about="order",
)  # fmt: skip
WORK: Final = (ORDER, EARS_WHEN, MINDED, EXTENT)
FACE_GROWTH: Final = School(
    "face_growth", "Face: which way is it clipped?", ("with", "against"), "with",
    "With the growth is safer; against it leaves about half, and the skin's limit counts what is left.",
    about="clipping",
)  # fmt: skip
THROAT_GROWTH: Final = School(
    "throat_growth", "Throat: which way is it clipped?", ("with", "against"), "with",
    "With the growth is safer; whorls under the jaw turn, so look where it lies.", about="clipping",
)  # fmt: skip
THROAT_END: Final = School(
    "throat_end", "How far down is the throat clipped?", ("nose_length", "breast_bone"), "nose_length",
    "The muzzle's length folded down from the jaw: that far and no further.", about="clipping",
)  # fmt: skip
SET_LINE: Final = School(
    "set_line", "The set line?", ("crisp", "blended"), "crisp",
    "Crisp shows the line between face and top; blended where it would look hard.", about="clipping",
)  # fmt: skip
