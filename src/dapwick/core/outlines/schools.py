"""Questions on which stylists differ, shared by the families that ask them; defaults with their reason."""

from __future__ import annotations

from dataclasses import replace
from typing import Final

from dapwick.core.outlines.family import Parameter, School

INNER_CORNERS: Final = School(
    "inner_corners",
    "Inner eye corners?",
    ("cleared", "tamed", "left"),
    "cleared",
    "Cleared lasts longer and the eyes are seen.",
)
CORNERS_TAMED: Final = School(
    "inner_corners",
    "Inner eye corners?",
    ("cleared", "tamed", "left"),
    "tamed",
    "The ring round the eyes wants its corners full; tamed keeps them out of the eye.",
)
BETWEEN_BROWS: Final = School(
    "between_brows",
    "Between the brows?",
    ("split", "fall"),
    "split",
    "Split shows both eyes; a fall on request, cleared at its bridge end only.",
)
FRINGE: Final = School(
    "fringe",
    "How is the fringe cut?",
    ("blending", "straight"),
    "blending",
    "Blending shears at 45° leave no hard line.",
)
JAW: Final = School(
    "jaw",
    "How is the jaw cut?",
    ("arc", "two_cuts"),
    "arc",
    "An arc for standing coats; two straight cuts and the point off for fine drop coats, whose hair holds no arc.",
    by_coat={"fine_drop": "two_cuts"},
)
CROWN: Final = School(
    "crown",
    "How is the crown set?",
    ("comb_lines", "lift_cut"),
    "comb_lines",
    "Comb line by comb line; the lift cut is for big standing heads.",
)
LEATHER: Final = School(
    "leather",
    "Ears: which way is the leather clipped?",
    ("with", "against"),
    "with",
    "With the growth, outward: safer, and it blends.",
    about="ears",
)
THROAT: Final = School(
    "throat",
    "What shape has the throat?",
    ("V", "U", "round"),
    "V",
    "A V lengthens the neck; asked each time.",
    about="clipping",
)
ROUND_THROAT: Final = replace(THROAT, default="round", reason="Round under a round crest; asked each time.")
DOME_TOP: Final = School(
    "dome_top",
    "Top of the dome?",
    ("blended", "strip", "flat"),
    "blended",
    "Blended keeps the dome; clipped flat, the dome is lost.",
)
LASHES: Final = School("lashes", "Eyelashes?", ("off", "kept"), "off", "Off on domes; ask the owner.")
LASHES_KEPT: Final = replace(LASHES, default="kept", reason="Kept, unless the owner wants them off.")
BOW: Final = School(
    "bow", "A bow or band?", ("no", "yes"), "no",
    "Front hair for a bow is no longer than the ear tops.",
)  # fmt: skip
BRIDGE: Final = School(
    "bridge",
    "Bridge of the nose?",
    ("thinned", "grown"),
    "thinned",
    "Thinned for most; left to grow for weight on drop coats.",
    by_coat={"fine_drop": "grown"},
)
BEARD: Final = School(
    "beard",
    "The beard?",
    ("shaped", "natural", "shortened", "thinned"),
    "shaped",
    "Shaped to the outline; natural: nothing comes off but what passes the nose; shortened where it drips.",
)
BEARD_NATURAL: Final = replace(
    BEARD,
    choices=("natural", "shortened", "thinned"),
    default="thinned",
    reason="Thinned at the chin, never shaped.",
)
CANALS: Final = School(
    "canals",
    "Hair in the ear canals?",
    ("no", "only the worst", "all"),
    "no",
    "Left alone unless a vet says otherwise.",
)
EYE_CARE: Final = "Cut away from the eye, points never toward it, a finger on the lid. Stop if the dog turns."
LEATHER_CARE: Final = "Hold the leather between the fingers and cut toward its tip."
LIP_CARE: Final = "Hold the mouth closed gently, feel for the tongue, stretch the lip flat."
CLIPPER_CARE: Final = "Keep the skin taut and the clipper moving; feel the blade's heat; stop at redness."


def fullness() -> Parameter:
    return Parameter("fullness", "Fullness", "", -1.0, 1.0, 0.0, "shorter", "fuller")
