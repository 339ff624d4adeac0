"""Find the bone: marks set on a coated head, against where they truly are.

A mark is set by pointing: all that is known of it is the ray the finger points along. So a miss is told across that
ray only, and said in the head's own directions.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Final, Literal

import numpy as np

from dapwick.core.basics.arrays import Array, unit
from dapwick.core.basics.marks import RULE_OF, Kind, View, guided_order
from dapwick.core.practice.leaning import Answer, Lean, Usual, leans

Way = Literal["up", "ahead", "out"]
AXIS: Final[Mapping[Way, int]] = {"out": 0, "ahead": 1, "up": 2}
WORDS: Final[Mapping[Way, tuple[str, str]]] = {
    "up": ("too low", "too high"),
    "ahead": ("too far back", "too far forward"),
    "out": ("too close to the middle", "too wide"),
}
OFF_MIDDLE: Final = ("too far to his left", "too far to his right")
"""How a mark of the middle line lies off it."""
ACROSS: Final = 0.5
"""A direction is told where the ray runs along it by less than this (cosine)."""
USUAL: Final = Usual(mean=0.8, thing=2.5, scatter=4.0, told_beyond=1.0)
"""mm."""
MARKS_A_HEAD, SEEN_A_HEAD = 5, 1
VIEWS: Final[tuple[View, ...]] = ("front", "left", "right", "top")


@dataclass(frozen=True)
class Ray:
    """Where a finger points from and along (3,) mm, head frame."""

    start: Array
    along: Array


@dataclass(frozen=True)
class Miss:
    """A mark that was set: mm off (across the ray), and by direction of the head, where it can be told."""

    mark: str
    kind: Kind
    off_mm: float
    ways: Mapping[Way, float]
    words: str


def miss_of(mark: str, ray: Ray, true_mm: Array) -> Miss:
    """How far a ray passes a mark by. true_mm (3,): where it is."""
    along = unit(np.asarray(ray.along, dtype=float))
    to = np.asarray(ray.start) - true_mm
    off = to - float(to @ along) * along
    ways = {way: _signed(mark, way, off) for way, axis in AXIS.items() if abs(along[axis]) < ACROSS}
    mm = float(np.linalg.norm(off))
    return Miss(mark, RULE_OF[mark].kind, mm, ways, _words(mark, mm, ways))


def _signed(mark: str, way: Way, off: Array) -> float:
    """Out is away from the middle; on the middle line to the dog's right."""
    left = way == "out" and mark.endswith("_left")
    return float(-off[AXIS[way]] if left else off[AXIS[way]])


def _words(mark: str, mm: float, ways: Mapping[Way, float]) -> str:
    if mm < 1.0 or not ways:
        return "there"
    way = max(ways, key=lambda w: abs(ways[w]))
    words = OFF_MIDDLE if way == "out" and not RULE_OF[mark].paired else WORDS[way]
    return f"{mm:.0f} mm off, {words[ways[way] > 0]}"


def answers_of(misses: Sequence[Miss]) -> list[Answer]:
    """What misses tell of a person's leans: by mark, both sides together, and direction; off the middle line no mark
    can be told too wide."""
    return [
        Answer(f"{RULE_OF[miss.mark].name}/{way}", mm)
        for miss in misses
        for way, mm in miss.ways.items()
        if way != "out" or RULE_OF[miss.mark].paired
    ]


def leans_of(misses: Sequence[Miss], asked: Sequence[str] = ()) -> tuple[Lean, ...]:
    """A person's leans. asked: things that may be asked though they never were."""
    return leans(answers_of(misses), USUAL, asked)


def lean_words(lean: Lean) -> str:
    """ "You set the occiput 6 mm too low (3 to 8)"."""
    name, _, way = lean.thing.partition("/")
    rule = next(r for r in RULE_OF.values() if r.name == name)
    low, high = sorted((abs(lean.low), abs(lean.high)))
    side = next(words for key, words in WORDS.items() if key == way)[lean.off > 0]
    where = f"the {rule.words}" + (", on either side," if rule.paired else "")
    return f"You set {where} {abs(lean.off):.0f} mm {side} ({low:.0f} to {high:.0f})."


def marks_to_ask(view: View, misses: Sequence[Miss], rng: np.random.Generator) -> tuple[str, ...]:
    """Which marks are worth setting on a view: those of which least is known, felt ones before seen ones."""
    order = [m for m in guided_order(view) if RULE_OF[m].name != "ear_tip"]
    things = [f"{RULE_OF[m].name}/up" for m in order]
    width = {lean.thing: lean.width for lean in leans_of(misses, things)}
    felt = {m: 1.0 if RULE_OF[m].kind == "felt" else 0.6 for m in order}
    worth = {m: felt[m] * width[f"{RULE_OF[m].name}/up"] * rng.uniform(0.9, 1.1) for m in order}
    ranked = sorted(order, key=lambda m: -worth[m])
    # Some of what is seen plainly among what is felt: the difference says where a miss comes from.
    plain = [m for m in ranked if RULE_OF[m].kind != "felt"][:SEEN_A_HEAD]
    chosen: list[str] = []
    for mark in (*plain, *ranked):
        if RULE_OF[mark].name not in {RULE_OF[m].name for m in chosen}:
            chosen.append(mark)
    return tuple(sorted(chosen[:MARKS_A_HEAD], key=order.index))
