"""The marks: what is marked on a head, how well each can be seen, and where to feel for it.

Left and right are always the dog's own. Ids are fixed: they are written into head files.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final, Literal

from dapwick.core.basics.codes import code_words

Kind = Literal["seen", "edge", "felt"]
View = Literal["front", "left", "right", "top", "back", "three_quarter_left", "three_quarter_right"]
VIEWS: Final[tuple[View, ...]] = (
    "front",
    "left",
    "right",
    "top",
    "back",
    "three_quarter_left",
    "three_quarter_right",
)
KINDS: Final[tuple[Kind, ...]] = ("seen", "edge", "felt")
State = Literal["dry", "wet", "finished"]
STATES: Final[tuple[State, ...]] = ("dry", "wet", "finished")


@dataclass(frozen=True)
class MarkRule:
    """One kind of mark; `feel` tells a stylist where to put the finger."""

    name: str
    words: str
    feel: str
    paired: bool
    kind: Kind


RULES: Final = (
    MarkRule("nose_tip", "nose tip", "The foremost point of the nose leather.", False, "seen"),
    MarkRule("nose_top", "top of the nose", "The rear upper edge of the nose leather.", False, "seen"),
    MarkRule(
        "stop", "stop", "The deepest point between the eyes: roll a finger down off the brow.", False, "felt"
    ),
    MarkRule("crown", "crown", "The highest skin of the skull: press the comb down to it.", False, "felt"),
    MarkRule("occiput", "occiput", "The bump at the back of the skull.", False, "felt"),
    MarkRule("lip_front", "front lip", "The lower edge of the upper lip under the nose.", False, "seen"),
    MarkRule("chin", "chin", "The front of the lower jaw, felt through the beard.", False, "felt"),
    MarkRule("throat", "throat", "Where the jaw meets the neck.", False, "felt"),
    MarkRule("eye_inner", "inner eye corner", "Where the lids meet beside the nose.", True, "seen"),
    MarkRule("eye_outer", "outer eye corner", "Where the lids meet at the side.", True, "seen"),
    MarkRule("mouth_corner", "mouth corner", "Draw the lip back: where the lips meet.", True, "felt"),
    MarkRule(
        "cheek", "cheek bone", "The widest point of the cheek bone, pressed with the thumb.", True, "felt"
    ),
    MarkRule("ear_front", "front of the ear", "The front end of the ear's base.", True, "felt"),
    MarkRule("ear_back", "back of the ear", "The rear end of the ear's base.", True, "felt"),
    MarkRule("ear_tip", "ear tip", "The end of the leather, not of the hair.", True, "felt"),
    MarkRule("jaw_angle", "jaw corner", "The corner of the lower jaw under the ear.", True, "felt"),
)


def _ids(rule: MarkRule) -> tuple[str, ...]:
    return (f"{rule.name}_left", f"{rule.name}_right") if rule.paired else (rule.name,)


MARK_IDS: Final[tuple[str, ...]] = tuple(mark for rule in RULES for mark in _ids(rule))
INDEX: Final[dict[str, int]] = {mark: i for i, mark in enumerate(MARK_IDS)}
RULE_OF: Final[dict[str, MarkRule]] = {mark: rule for rule in RULES for mark in _ids(rule)}
PAIRS: Final[tuple[tuple[int, int], ...]] = tuple(
    (INDEX[f"{r.name}_left"], INDEX[f"{r.name}_right"]) for r in RULES if r.paired
)
MIDLINE: Final[tuple[int, ...]] = tuple(INDEX[r.name] for r in RULES if not r.paired)

SEEN_PX_AT_1200: Final = 2.0
"""Standard deviation (px) of a plainly seen mark on a photo 1,200 px across."""
FELT_MM: Final = 4.0
"""Standard deviation (mm) of a mark placed by feel through coat."""

_EYES_NOSE = (
    "eye_inner_left",
    "eye_inner_right",
    "eye_outer_left",
    "eye_outer_right",
    "nose_tip",
    "nose_top",
)
_FRONT = (
    "eye_inner_right",
    "eye_inner_left",
    "eye_outer_right",
    "eye_outer_left",
    "nose_tip",
    "nose_top",
    "stop",
    "cheek_right",
    "cheek_left",
    "ear_front_right",
    "ear_front_left",
    "ear_tip_right",
    "ear_tip_left",
    "crown",
    "lip_front",
    "chin",
    "mouth_corner_right",
    "mouth_corner_left",
)
_SIDE = (
    "nose_tip",
    "nose_top",
    "eye_inner",
    "eye_outer",
    "stop",
    "occiput",
    "crown",
    "ear_front",
    "ear_back",
    "ear_tip",
    "cheek",
    "mouth_corner",
    "lip_front",
    "chin",
    "jaw_angle",
    "throat",
)
_TOP = (
    "nose_tip",
    "nose_top",
    "stop",
    "eye_outer_right",
    "eye_outer_left",
    "cheek_right",
    "cheek_left",
    "ear_front_right",
    "ear_front_left",
    "crown",
    "occiput",
)
_BACK = (
    "occiput",
    "crown",
    "cheek_right",
    "cheek_left",
    "ear_back_right",
    "ear_back_left",
    "ear_tip_right",
    "ear_tip_left",
)


def guided_order(view: View) -> tuple[str, ...]:
    """Marks worth placing on a photo of this view, quickest and surest first."""
    if view in ("left", "right", "three_quarter_left", "three_quarter_right"):
        side = view.rsplit("_", 1)[-1]
        order = tuple(f"{m}_{side}" if RULE_OF.get(m) is None else m for m in _SIDE)
        return order if view in ("left", "right") else tuple(dict.fromkeys((*_EYES_NOSE, *order)))
    return {"front": _FRONT, "top": _TOP, "back": _BACK}[view]


def words_for(mark: str) -> str:
    """The mark in the trade's words, with its side: "outer eye corner, left"."""
    rule = RULE_OF[mark]
    return f"{rule.words}, {mark.rsplit('_', 1)[-1]}" if rule.paired else rule.words


@dataclass(frozen=True)
class Span:
    """A distance worth measuring by hand."""

    from_mark: str
    to_mark: str
    words: str


SPANS: Final = (
    Span("eye_outer_left", "eye_outer_right", "across the outer eye corners"),
    Span("stop", "nose_tip", "stop to nose tip"),
    Span("cheek_left", "cheek_right", "across the cheek bones"),
    Span("occiput", "stop", "occiput to stop"),
    Span("ear_front_left", "ear_front_right", "across the fronts of the ears"),
)


def swapped(mark: str) -> str:
    """The same mark on the dog's other side; a midline mark is its own."""
    if mark.endswith("_left"):
        return mark.removesuffix("_left") + "_right"
    if mark.endswith("_right"):
        return mark.removesuffix("_right") + "_left"
    return mark


def view_words(view: str) -> str:
    """A view as it is said: "left", "three quarter left"."""
    return code_words(view)
