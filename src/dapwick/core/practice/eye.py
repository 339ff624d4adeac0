"""By eye: a measure guessed before it is told, and how sure the guesser was."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Final

import numpy as np
from scipy.stats import beta

from dapwick.core.basics.errors import BadInput
from dapwick.core.measures.measure import RULES, MeasureRule
from dapwick.core.practice.heads import MadeHead
from dapwick.core.practice.leaning import Answer, Lean, Usual, leans

QUESTIONS: Final[Mapping[str, tuple[str, tuple[str, ...]]]] = {
    "skull_width": ("How wide is the skull, cheek bone to cheek bone?", ("cheek_left", "cheek_right")),
    "muzzle_length": ("How long is the muzzle, stop to nose tip?", ("stop", "nose_tip")),
    "muzzle_ratio": ("How long is the muzzle against the skull?", ("nose_tip", "stop", "occiput")),
    "stop_depth": ("How deep is the stop, under a line from crown to nose?", ("crown", "stop", "nose_top")),
    "eye_span_outer": ("How far apart are the outer eye corners?", ("eye_outer_left", "eye_outer_right")),
    "skull_length": ("How long is the skull, occiput to stop?", ("occiput", "stop")),
    "crown_height": (
        "How high does the crown rise over the eyes?",
        ("crown", "eye_outer_left", "eye_outer_right"),
    ),
    "muzzle_depth": ("How deep is the muzzle, bridge to chin?", ("stop", "nose_top", "chin")),
    "ear_set_ratio": (
        "How high are the ears set, against the crown? (1: as high)",
        ("ear_front_left", "ear_front_right", "crown"),
    ),
    "skull_index": (
        "How wide is the skull against its length?",
        ("cheek_left", "cheek_right", "occiput", "stop"),
    ),
}
"""What is asked, and the marks it is read from."""
ASKED: Final = tuple(QUESTIONS)
RULE_BY_ID: Final[Mapping[str, MeasureRule]] = {rule.id: rule for rule in RULES if rule.id in ASKED}
RANGE: Final[Mapping[str, tuple[float, float]]] = {
    "skull_width": (40, 160), "muzzle_length": (10, 140), "muzzle_ratio": (0.1, 1.6), "stop_depth": (1, 40),
    "eye_span_outer": (30, 120), "skull_length": (50, 180), "crown_height": (10, 90), "muzzle_depth": (15, 110),
    "ear_set_ratio": (0.1, 1.6), "skull_index": (0.4, 1.6),
}  # fmt: skip
"""Between which ends a guess may lie, in the measure's unit."""
SURE: Final = (5, 10, 20)
"""How near (%) a guess may be said to be."""
USUAL: Final = Usual(mean=0.1, thing=0.12, scatter=0.15, told_beyond=0.03)
"""As logarithms of guess over truth."""
WORST: Final = math.log(4.0)
"""A slip of the finger counts for no more than four times too much."""
HELD: Final = 0.9
"""Of guesses said to be so near, as many should be."""
FEWEST: Final = 5


@dataclass(frozen=True)
class Guess:
    """A guess of a measure. within: how near (%) it was said to be."""

    measure: str
    guess: float
    within: int
    true: float

    def __post_init__(self) -> None:
        if self.measure not in RULE_BY_ID:
            raise BadInput(
                "unknown measure", expected=", ".join(ASKED), got=self.measure[:40], where="by eye"
            )
        if self.within not in SURE:
            expected = ", ".join(f"{s} %" for s in SURE)
            raise BadInput("how sure", expected=expected, got=f"{self.within} %", where="by eye")
        least, most = RANGE[self.measure]
        if not least <= self.guess <= most:
            raise BadInput("guess", expected=f"{least:g} to {most:g}", got=f"{self.guess:g}", where="by eye")

    @property
    def off(self) -> float:
        """As the logarithm of guess over truth."""
        return float(np.clip(math.log(self.guess / self.true), -WORST, WORST))

    @property
    def held(self) -> bool:
        """It was as near as it was said to be."""
        return abs(self.guess / self.true - 1.0) <= self.within / 100.0

    @property
    def words(self) -> str:
        share = self.guess / self.true - 1.0
        if abs(share) < 0.005:
            return "exactly"
        return f"{abs(share):.0%} {'too much' if share > 0 else 'too little'}"


@dataclass(frozen=True)
class Calibration:
    """Of the guesses said to be within so many %, how many were; words: what that says of the person."""

    within: int
    guesses: int
    held: int
    words: str


def measure_on(made: MadeHead, measure: str) -> float:
    """The truth."""
    return float(RULE_BY_ID[measure].of(made.head.points_mm))


def leans_of(guesses: Sequence[Guess]) -> tuple[Lean, ...]:
    """A person's leans by measure; those never asked are told as unknown."""
    return leans([Answer(g.measure, g.off) for g in guesses], USUAL, ASKED)


def lean_words(lean: Lean) -> str:
    low, high = sorted((abs(math.expm1(lean.low)), abs(math.expm1(lean.high))))
    more = "too much" if lean.off > 0 else "too little"
    words = RULE_BY_ID[lean.thing].words
    return f"You guess {words} {abs(math.expm1(lean.off)):.0%} {more} ({low:.0%} to {high:.0%})."


def calibration(guesses: Sequence[Guess]) -> tuple[Calibration, ...]:
    """Whether a person knows how good a guess is."""
    return tuple(
        _calibrated(within, [g for g in guesses if g.within == within])
        for within in SURE
        if any(g.within == within for g in guesses)
    )


def _calibrated(within: int, guesses: Sequence[Guess]) -> Calibration:
    held, of = sum(g.held for g in guesses), len(guesses)
    # Jeffreys' interval of a share; a few guesses tell nothing yet.
    low, high = beta.ppf([0.05, 0.95], held + 0.5, of - held + 0.5) if of >= FEWEST else (0.0, 1.0)
    said = "surer than you may be" if high < HELD else "nearer than you say" if low > HELD else ""
    return Calibration(
        within, of, held, f"“Within {within} %”: {held} of {of} were{', ' + said if said else ''}."
    )


def measure_to_ask(guesses: Sequence[Guess], made: MadeHead, rng: np.random.Generator) -> str:
    """The measure of which least is known, of those that can be guessed on this head: one without a stop has no depth
    of it."""
    here = [lean for lean in leans_of(guesses) if can_be_guessed(made, lean.thing)]
    return max(here, key=lambda lean: lean.width * rng.uniform(0.9, 1.1)).thing


def can_be_guessed(made: MadeHead, measure: str) -> bool:
    least, most = RANGE[measure]
    return 1.2 * least < measure_on(made, measure) < most / 1.2
