"""Which view and state a photo shows: told where it is sure, asked of a person where it is not."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Final, Literal

from dapwick.core.basics.marks import VIEWS, View
from dapwick.vision.guess import Guess, NoGuess

SLOTS: Final[tuple[View, ...]] = ("front", "left", "right", "top")
"""Views that a plan is made from, each with a slot of its own."""
NAMED_COUNTS: Final = 4.0
"""How much likelier a view becomes when the file's name says it: enough to break a tie, not to overrule."""
WORDS_OF_VIEW: Final[Mapping[str, tuple[str, ...]]] = {"top": ("top", "above"), "back": ("back", "rear")}
SURE: Final = 0.8
"""Chance from which a view or a state is told instead of asked."""
Asked = Literal["view", "state"]
State = Literal["dry", "wet"]


@dataclass(frozen=True)
class Sorted:
    """The likeliest view and state with their chances, 0 to 1; view and state None where no dog's head was seen.
    maybe: the two slots a person would choose from, likelier first."""

    view: View | None
    view_chance: float
    state: State | None
    state_chance: float
    maybe: tuple[View, View]

    @property
    def asks(self) -> tuple[Asked, ...]:
        """What a person is asked instead."""
        unsure: list[Asked] = []
        if self.view_chance < SURE:
            unsure.append("view")
        if self.state_chance < SURE:
            unsure.append("state")
        return tuple(unsure)

    @property
    def slot(self) -> View | None:
        """The slot it surely belongs in: never a view that has none."""
        return self.view if self.view in SLOTS and self.view_chance >= SURE else None


def sorted_photo(guess: Guess | NoGuess, view: View | None = None, file_name: str = "") -> Sorted:
    """What first guesses make of a photo. view: where it is known, and so not asked; they were made for it then.
    file_name: what it says helps, and the picture decides."""
    words = words_in(file_name)
    named = {v: NAMED_COUNTS if words & set(WORDS_OF_VIEW.get(v, (v,))) else 1.0 for v in VIEWS}
    seen = named if isinstance(guess, NoGuess) else {v: guess.view_chances[v] * named[v] for v in VIEWS}
    first, second = sorted(SLOTS, key=lambda v: -seen[v])[:2]
    if isinstance(guess, NoGuess):
        return Sorted(view, 1.0 if view else 0.0, None, 0.0, (first, second))
    likeliest = max(VIEWS, key=lambda v: seen[v])
    chance = seen[likeliest] / sum(seen.values())
    wet = guess.wet_chance
    state: State = "wet" if wet > 0.5 else "dry"
    return Sorted(view or likeliest, 1.0 if view else chance, state, max(wet, 1 - wet), (first, second))


def words_in(file_name: str) -> set[str]:
    return set(re.split(r"[^a-z]+", file_name.lower()))
