"""Cautions that belong to the steps: shown where they apply, short, and never as medical advice.

Which steps carry one follows from where they work and what with, not from a list by hand, so that none is missing.
Told in full where it first applies and after a break; in between by its short form, so that none is read past.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Final

from dapwick.core.cut.case import Case
from dapwick.core.cut.drafts import Draft
from dapwick.core.cut.handling import EARS, EYES, MUZZLE

FULL_AGAIN_AFTER: Final = 6
"""Steps after which a caution that still applies is told in full again."""
MOST_IN_FULL: Final = 2
"""Told in full on one step; the others wait for the next one they apply to, in their short form meanwhile."""
SHARP: Final = frozenset({"straight", "curved", "blending", "thinning", "detail", "clip"})
NEAR_THE_EYE: Final = frozenset((*EYES, "temple"))
NEAR_THE_TONGUE: Final = frozenset({"lip_line", "lip_fold", "chin", "muzzle_side"})
NOSE_HELD: Final = frozenset({"bridge", "muzzle_side", "visor", "stop"})
FACE: Final = frozenset({*EYES, *MUZZLE, "temple", "cheek", "jaw"})
EAR_FOLDS: Final = frozenset({"ear_inside", "ear_base_front", "ear_base_rear"})
JAW_SEEN: Final = frozenset({"jaw", "cheek"})


@dataclass(frozen=True)
class Caution:
    """brief: a few words; words: the whole; danger: smaller is told first; applies: to which steps; always: true of
    the whole dog or of every such cut, so it is told in full now and then and not at all in between."""

    id: str
    brief: str
    words: str
    danger: int
    applies: Callable[[Draft, Case], bool]
    always: bool = False


@dataclass(frozen=True)
class ShownCaution:
    """A caution on one step, in full or in short."""

    id: str
    brief: str
    words: str
    full: bool


def _works(draft: Draft) -> bool:
    return draft.rule.doing == "work"


def _in(draft: Draft, zones: frozenset[str]) -> bool:
    return any(zone in zones for zone, _ in draft.places)


def _cuts(draft: Draft) -> bool:
    return _works(draft) and draft.rule.use in SHARP


def _clips_with(draft: Draft, kind: str) -> bool:
    return (
        _works(draft)
        and draft.choice is not None
        and draft.choice.tool is not None
        and draft.choice.tool.kind == kind
    )


def _scissors(draft: Draft) -> bool:
    """Cuts with shears, blades and hands apart."""
    return _cuts(draft) and not draft.clips and draft.rule.use != "clip"


def _shapes(draft: Draft) -> bool:
    """Scissored to the outline."""
    return _scissors(draft) and draft.rule.number == "outline"


def _asked(draft: Draft, key: str) -> bool:
    return key in draft.rule.cautions


CAUTIONS: Final = (
    Caution(
        "eyes", "Away from the eye, points down",
        "Cut away from the eye, points never toward it, a finger on the lid. Stop if the dog turns.",
        0, lambda d, c: _cuts(d) and _in(d, NEAR_THE_EYE),
    ),
    Caution(
        "tongue", "Mouth closed, feel for the tongue",
        "Mouth held closed gently, feel for the tongue coming, stretch the lip flat; mind the bumps at its edge.",
        1, lambda d, c: _cuts(d) and _in(d, NEAR_THE_TONGUE),
    ),
    Caution(
        "leather", "Leather held, toward the tip",
        "Leather held between the fingers, cut toward its tip; mind the fold in the rear edge. Ear wounds bleed long.",
        2, lambda d, c: _cuts(d) and _in(d, frozenset(EARS)),
    ),
    Caution(
        "guard_leather", "Guard outward only, never down the edge",
        "A comb guard traps leather between its teeth: outward only, from the middle, never down the edge.",
        2, lambda d, c: _clips_with(d, "guard") and _in(d, frozenset(EARS)),
    ),
    Caution(
        "ear_folds", "Small folds inside and at the base",
        "Small folds of skin lie inside the ear and at its base: spread them flat with a finger before you cut.",
        3, lambda d, c: _cuts(d) and _in(d, EAR_FOLDS),
    ),
    Caution(
        "ear_tips", "Only the tips; a hand on the dog",
        "At the ear's edge only the tips of the shears close; the free hand stays on the dog.",
        3, lambda d, c: _scissors(d) and _in(d, frozenset({"ear_edge"})),
    ),
    Caution(
        "lip_backwards", "Back to front: practised hands only",
        "Scissors turned back to front along a lip are for practised hands: the tongue comes from behind them.",
        3, lambda d, c: _scissors(d) and _in(d, frozenset({"lip_line"})),
    ),
    Caution(
        "pink_lip", "Pink at the lip's groove",
        "On a white dog the groove of the lip shows pink: leave a little more there than beside it.",
        4, lambda d, c: _cuts(d) and "white_coat" in c.traits and _in(d, frozenset({"lip_line", "lip_fold"})),
    ),
    Caution(
        "canal", "Nothing that hurts; a vet where in doubt",
        "Never dig in the canal, nothing that hurts. Smell, redness or pain: leave it and send them to a vet.",
        3, lambda d, c: _asked(d, "canal"),
    ),
    Caution(
        "clipper", "Skin taut, keep moving, feel the heat",
        "Skin taut, keep moving, no pressing on jaw bone, feel the blade's heat. Redness after: stop, longer blade.",
        4, lambda d, c: _works(d) and d.clips,
    ),
    Caution(
        "wet_mouth", "Wipe the mouth, feel the blade",
        "A wet mouth clogs and heats the blade: wipe it dry, wipe the blade, feel it on your wrist.",
        5, lambda d, c: _works(d) and d.clips and _in(d, NEAR_THE_TONGUE),
    ),
    Caution(
        "skin_up", "Skin not pulled up",
        "Skin pulled up while the line from ear to eye is set: the line lands too high. Let go and look first.",
        5, lambda d, c: _works(d) and d.clips and _in(d, frozenset({"temple"})),
    ),
    Caution(
        "panting_face", "No face scissoring while it pants",
        "No scissors at the face while it pants: tongue and head come forward with each breath. Wait.",
        1, lambda d, c: _scissors(d) and "pants" in c.traits and _in(d, FACE),
    ),
    Caution(
        "breath", "Watch its breath",
        "Panting, a flat face, heat, age, stress signs: pause. A little unfinished is right when it has had enough.",
        5, lambda d, c: _works(d) and bool({"flat_face", "pants", "old", "ill"} & set(c.traits)), always=True,
    ),
    Caution(
        "nose", "Thumb on bone, never on the nose",
        "Thumb on the bone of the bridge, never on the soft nose. Firm but not tight; do not let go when it pulls.",
        6, lambda d, c: _cuts(d) and _in(d, NOSE_HELD),
    ),
    Caution(
        "whiskers", "Mind the whiskers",
        "Whisker spots on the cheeks: some dogs cannot bear them cut. Comb round them, or leave them.",
        7, lambda d, c: _cuts(d) and "minds_whiskers" in c.traits and _in(d, frozenset({"muzzle_side", "cheek"})),
    ),
    Caution(
        "beard_whiskers", "Whiskers hide in the beard",
        "Whiskers hide in the beard and hold it up: find them with the comb, cut none without meaning to.",
        7, lambda d, c: _shapes(d) and _in(d, frozenset({"chin", "muzzle_side"})), always=True,
    ),
    Caution(
        "one_thinning_cut", "Never twice in one place",
        "Two thinning cuts in one place make a hole: one cut, comb, look.",
        8, lambda d, c: _works(d) and d.rule.use in ("thinning", "blending"),
    ),
    Caution(
        "short_strokes", "Short strokes on curves",
        "Short strokes on a curve: a long one cuts it flat.",
        9, lambda d, c: _works(d) and d.rule.use == "curved", always=True,
    ),
    Caution(
        "jaw", "Not round the jaw",
        "Hold at nose and lip, never round the jaw: it pulls the hair out of place and the jaw line lies.",
        8, lambda d, c: _cuts(d) and _in(d, JAW_SEEN) and d.rule.number == "outline",
    ),
    Caution(
        "band", "No skin under the band",
        "Comb under the band before it closes: no skin caught, the ears free to move.",
        9, lambda d, c: _asked(d, "band"),
    ),
    Caution(
        "table", "Table at your waist",
        "Table height: hands between waist and shoulder. A dog on a table is never left alone.",
        10, lambda d, c: _asked(d, "table"),
    ),
)  # fmt: skip


def cautions_on(drafts: Sequence[Draft], case: Case) -> list[tuple[ShownCaution, ...]]:
    """What is told on each of the steps in their order."""
    last_full: dict[str, int] = {}
    read: set[str] = set()
    by_step: list[tuple[ShownCaution, ...]] = []
    for i, draft in enumerate(drafts):
        if draft.rule.doing == "rest":
            last_full.clear()
        applying = sorted((c for c in CAUTIONS if c.applies(draft, case)), key=lambda c: c.danger)
        due = [c for c in applying if i - last_full.get(c.id, -99) > FULL_AGAIN_AFTER]
        # One that nobody has read yet goes before one that is told again.
        due = sorted(due, key=lambda c: (c.id in read, c.danger))[:MOST_IN_FULL]
        read |= {c.id for c in due}
        last_full |= {c.id: i for c in due}
        by_step.append(
            tuple(
                ShownCaution(c.id, c.brief, c.words, c in due) for c in applying if c in due or not c.always
            )
        )
    return by_step
