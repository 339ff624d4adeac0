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
    """The likeliest view and state with their chances, 0 to 1; both None where no dog's head was seen."""

    view: View | None
    view_chance: float
    state: State | None
    state_chance: float

    @property
    def asks(self) -> tuple[Asked, ...]:
        """What a person is asked instead."""
        unsure: list[Asked] = []
        if self.view_chance < SURE:
            unsure.append("view")
        if self.state_chance < SURE:
            unsure.append("state")
        return tuple(unsure)


def sorted_photo(guess: Guess | NoGuess, view: View | None = None) -> Sorted:
    """What first guesses make of a photo. view: where it is known, and so not asked; they were made for
    it then."""
    if isinstance(guess, NoGuess):
        return Sorted(view, 1.0 if view else 0.0, None, 0.0)
    wet = guess.wet_chance > 0.5
    return Sorted(
        guess.view,
        1.0 if view else guess.view_chances[guess.view],
        "wet" if wet else "dry",
        max(guess.wet_chance, 1 - guess.wet_chance),
    )


@dataclass(frozen=True)
class Slot:
    """Where a photo goes: its likeliest view, whether that is sure, and the two slots a person would choose from."""

    view: View
    sure: bool
    maybe: tuple[View, View]


def slot_for(guess: Guess | NoGuess, file_name: str = "") -> Slot:
    """The slot of a photo. Sure where the picture and its file's name together make it so: never into a view that has
    no slot, never where no head was seen."""
    seen = isinstance(guess, Guess)
    chances = {v: guess.view_chances[v] if isinstance(guess, Guess) else 1 / len(VIEWS) for v in VIEWS}
    words = words_in(file_name)
    weighed = {
        v: c * (NAMED_COUNTS if words & set(WORDS_OF_VIEW.get(v, (v,))) else 1.0) for v, c in chances.items()
    }
    likeliest = max(weighed, key=lambda v: weighed[v])
    first, second = sorted(SLOTS, key=lambda v: -weighed[v])[:2]
    sure = seen and likeliest in SLOTS and weighed[likeliest] >= SURE * sum(weighed.values())
    return Slot(likeliest if likeliest in SLOTS else first, sure, (first, second))


def words_in(file_name: str) -> set[str]:
    return set(re.split(r"[^a-z]+", file_name.lower()))
