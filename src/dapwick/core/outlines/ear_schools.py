"""How ears are done, on which stylists differ, and the cut of the ear that each choice comes to, in mm on this
leather."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from typing import Final

from dapwick.core.outlines.ear_cut import CLIPPED_MM, FOLD, NONE, THIRD, TIP, EarCut
from dapwick.core.outlines.face import SIDES, Face
from dapwick.core.outlines.family import School, Schools

BULB, QUARTER = 0.18, 0.25
LINE_AT: Final[Mapping[str, float]] = {
    "tip": TIP, "third": THIRD, "fold": FOLD, "quarter": QUARTER, "bulb": BULB, "none": NONE,
}  # fmt: skip
"""Share of the leather from its base at which a line lies."""
UPPER_AT: Final[Mapping[str, float]] = {"bulb": BULB, "third": 1.0 - THIRD, "fold": FOLD, "none": 0.0}
"""The same for ears that are clipped from the base down and left long below."""
LINE_WORDS: Final[Mapping[str, str]] = {
    "tip": "the very tip", "third": "a third", "fold": "the fold", "quarter": "a quarter left at the base",
    "bulb": "the bulb at the base",
}  # fmt: skip
TASSEL_FROM: Final = 0.7
"""Share of the leather from its base at which a crest's tassel begins."""
TELLING_MM: Final = 3.0

ABOUT: Final = "ears"
TIP_LINE: Final = School(
    "ear_line", "Ears: the clip line?", ("tip", "third", "fold", "none"), "tip",
    "At the tip: enough is left to frame the face. Too low cannot be taken back this visit.", about=ABOUT,
)  # fmt: skip
UPPER_LINE: Final = School(
    "ear_line", "Ears: clipped down to?", ("bulb", "third", "fold", "none"), "third",
    "The upper third, so that the feathering below it stays full.", about=ABOUT,
)  # fmt: skip
TASSEL_LINE: Final = School(
    "ear_line", "Ears: where does the tassel begin?", ("third", "fold", "tip"), "third",
    "The lowest third is left as the tassel.", about=ABOUT, only_with=("ears", "tasselled"),
)  # fmt: skip
CREST_LINE: Final = School(
    "ear_line", "Ears: the clip line?", ("quarter", "fold", "none"), "quarter",
    "Clipped to the fold, a quarter of the base left to run into the crest.", about=ABOUT,
)  # fmt: skip
EAR_V: Final = School(
    "ear_v", "Ears: which way does the V stand?", ("upright", "inverted"), "upright",
    "Upright runs into long hair; inverted leaves a tassel that flares, its ends not rounded off.", about=ABOUT,
)  # fmt: skip
TASSEL_V: Final = replace(EAR_V, default="inverted", only_with=("ears", "tasselled"))
OUTSIDE_SHAPED: Final = School(
    "ear_outside", "Ears: the outside?", ("shaped", "left", "shaved", "carded", "stripped"), "shaped",
    "Shaped to the outline; heavy ears left long are hot and damp.", about=ABOUT,
)  # fmt: skip
OUTSIDE_CLOSE: Final = replace(
    OUTSIDE_SHAPED,
    choices=("close", "left", "shaved", "carded", "stripped"),
    default="close",
    reason="Close ears show the skull; card or strip them where the coat is pulled.",
)
OUTSIDE_STRIPPED: Final = replace(
    OUTSIDE_SHAPED, default="stripped", reason="Pulled like the skull: no blade on the leather."
)
EDGE_ROUNDED: Final = School(
    "ear_edge", "Ears: the edge?", ("rounded", "tidied", "bevelled"), "rounded",
    "Rounded frames a round face; tidied leaves its length; bevelled for long feathering.", about=ABOUT,
)  # fmt: skip
EDGE_TIDIED: Final = replace(EDGE_ROUNDED, default="tidied")
EDGE_BEVELLED: Final = replace(EDGE_ROUNDED, default="bevelled")
EDGE_WORDS: Final[Mapping[str, str]] = {
    "rounded": "ends rounded toward the tip",
    "tidied": "ends tidied only",
    "bevelled": "edge bevelled with thinning shears, level with the breast bone at most",
}
V_WORDS: Final[Mapping[str, str]] = {
    "upright": "as a V standing on its point",
    "inverted": "as a V turned over, so that the tassel flares, its ends not rounded off",
}


def with_outside(cut: EarCut, schools: Schools) -> EarCut:
    """The outside as it was chosen: left alone, or taken close; carded and stripped as short as it was shaped."""
    how = schools.get("ear_outside", "shaped")
    if how == "left":
        return replace(cut, words="left, ends tidied", clipped=(NONE, NONE), outside_mm=None)
    if how == "shaved":
        return replace(
            cut, words=f"shaved, {EDGE_WORDS[schools.get('ear_edge', 'tidied')]}", outside_mm=CLIPPED_MM
        )
    if how in ("carded", "stripped"):
        return replace(cut, words=f"{how}, no blade on the outside", clipped=(NONE, NONE), by_hand=True)
    return cut


def toward_the_tip(face: Face, cut: EarCut, schools: Schools) -> EarCut:
    """Clipped from the line to the tip."""
    line = schools["ear_line"]
    if line == "none":
        return replace(cut, words="left unclipped, hair run into the outline", clipped=(NONE, NONE))
    said = _mm(face, 1.0 - LINE_AT[line], "up from the tip")
    return replace(cut, words=f"clipped from {LINE_WORDS[line]} on, {said}", clipped=(LINE_AT[line], 1.0))


def from_the_base(face: Face, cut: EarCut, schools: Schools) -> EarCut:
    """Clipped from the base down to the line, long below it."""
    line = schools["ear_line"]
    if line == "none":
        return replace(cut, words="left unclipped, feathering run into the dome", clipped=(NONE, NONE))
    said = _mm(face, UPPER_AT[line], "down from the base")
    words = f"clipped down to {LINE_WORDS[line]}, {said}, {V_WORDS[schools['ear_v']]}"
    return replace(cut, words=words, clipped=(0.0, UPPER_AT[line]))


def crest_ears(face: Face, cut: EarCut, schools: Schools) -> EarCut:
    """Clipped from a quarter of the base, or from the fold, to the tassel under the fold."""
    line = schools["ear_line"]
    if line == "none":
        return replace(cut, words="left unclipped, run into the crest")
    said = _mm(face, LINE_AT[line], "left at the base")
    words = f"clipped from {LINE_WORDS[line]} to the tassel, {said}"
    return replace(cut, words=words, clipped=(LINE_AT[line], TASSEL_FROM))


def tassel(face: Face, cut: EarCut, schools: Schools) -> EarCut:
    """Clipped from the base to where the tassel begins."""
    share = LINE_AT[schools["ear_line"]]
    said = _mm(face, 1.0 - share, "of leather under it")
    return replace(
        cut, words=f"clipped, a tassel left with {said}, {V_WORDS[schools['ear_v']]}", clipped=(0.0, share)
    )


def _mm(face: Face, share: float, words: str) -> str:
    """A share of both leathers in mm; one number where they are alike."""
    left, right = (share * face.leather_mm(side) for side in SIDES)
    if abs(left - right) < TELLING_MM:
        return f"{(left + right) / 2:.0f} mm {words}"
    return f"{left:.0f} mm {words} on the left, {right:.0f} on the right"
