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
from dapwick.core.cut.handling import EARS, EYES

FULL_AGAIN_AFTER: Final = 6
"""Steps after which a caution that still applies is told in full again."""
MOST_IN_FULL: Final = 2
"""Told in full on one step; the others wait for the next one they apply to, in their short form meanwhile."""
SHARP: Final = frozenset({"straight", "curved", "blending", "thinning", "detail", "clip"})
NEAR_THE_EYE: Final = frozenset((*EYES, "temple"))
NEAR_THE_TONGUE: Final = frozenset({"lip_line", "lip_fold", "chin", "muzzle_side"})
NOSE_HELD: Final = frozenset({"bridge", "muzzle_side", "visor", "stop"})
JAW_SEEN: Final = frozenset({"jaw", "cheek"})


@dataclass(frozen=True)
class Caution:
    """brief: a few words; words: the whole; danger: smaller is told first; applies: to which steps; always: true of
    the whole dog, so it is told in full now and then and not at all in between."""

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
