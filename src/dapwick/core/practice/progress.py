"""How it goes: a person's answers of one drill as a trend by session, and what they are told of themselves."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Final, TypeVar

import numpy as np

from dapwick.core.practice import bone, eye, long_side
from dapwick.core.practice.bone import Miss
from dapwick.core.practice.eye import Guess
from dapwick.core.practice.long_side import Eye, Trial
from dapwick.core.practice.next_drill import A_SESSION, NAMES, Drill, next_drill, why_next
from dapwick.core.practice.trend import Point, Session, exp_of, odds_of, share_told, spread_told, trend

One = TypeVar("One")
USUAL_MISS_MM, USUAL_GUESS, USUAL_CUT_MM = 5.0, 0.2, 3.0
WAYS_TOLD: Final = 2
"""Directions in which a mark's miss is told."""
MOST_SAID: Final = 4
PLAN_SIGMA: Final = 0.35
"""How far one plan's figure lies from what a person can (σ of the logarithm): six places, one head."""
UNITS: Final[dict[Drill, str]] = {"bone": "mm", "eye": "%", "long_side": "mm", "suits": "share", "plan": "mm"}
FIGURES: Final[dict[Drill, str]] = {
    "bone": "how far off your marks are",
    "eye": "how far off your guesses are",
    "long_side": "the smallest fault you find",
    "suits": "how often you order outlines as Dapwick does",
    "plan": "how far off your cuts end",
}


@dataclass(frozen=True)
class Cut:
    """What came of a whole plan: off_mm over its places, and the causes of what was off."""

    off_mm: float
    causes: tuple[str, ...]


@dataclass(frozen=True)
class Done:
    """All that a person answered, oldest first, each with its turn in the drill."""

    misses: tuple[tuple[int, Miss], ...] = ()
    guesses: tuple[tuple[int, Guess], ...] = ()
    trials: tuple[Trial, ...] = ()
    orders: tuple[tuple[int, int, int], ...] = ()
    """(turn, pairs right, pairs)."""
    cuts: tuple[tuple[int, Cut], ...] = ()


@dataclass(frozen=True)
class DrillProgress:
    """points: the drill's figure after each session, in `unit`; says: what a person is told, the surest first."""

    drill: Drill
    name: str
    figure: str
    unit: str
    points: tuple[Point, ...]
    says: tuple[str, ...]
    answers: int

    @property
    def latest(self) -> Point | None:
        return self.points[-1] if self.points else None


@dataclass(frozen=True)
class Progress:
    """Every drill, and the one worth doing next with the reason."""

    drills: tuple[DrillProgress, ...]
    next: Drill
    why: str


def progress_of(done: Done, seen: Eye | None = None) -> Progress:
    """All of it. seen: the eye of these trials, where it is known already."""
    drills = (
        _bone(done),
        _eye(done),
        _long_side(done, seen),
        _suits(done),
        _plan(done),
    )
    latest = {one.drill: one.latest for one in drills}
    chosen = next_drill(latest)
    return Progress(drills, chosen, why_next(chosen, latest[chosen]))


def sessions_of(drill: Drill, turned: Sequence[tuple[int, One]]) -> list[list[One]]:
    """Answers by session, those of one turn together."""
    found: dict[int, list[One]] = {}
    for turn, one in turned:
        found.setdefault(turn // A_SESSION[drill], []).append(one)
    return [found[key] for key in sorted(found)]


def _told(drill: Drill, points: Sequence[Point], says: Sequence[str], answers: int) -> DrillProgress:
    return DrillProgress(
        drill, NAMES[drill], FIGURES[drill], UNITS[drill], tuple(points), tuple(says[:MOST_SAID]), answers
    )


def _bone(done: Done) -> DrillProgress:
    def told(misses: list[Miss]) -> Session:
        return spread_told(np.array([miss.off_mm for miss in misses]), WAYS_TOLD)

    points = _over("bone", done.misses, told, math.log(USUAL_MISS_MM / math.sqrt(WAYS_TOLD)))
    both = [Point(*(math.sqrt(WAYS_TOLD) * v for v in (p.value, p.low, p.high))) for p in points]
    misses = [miss for _, miss in done.misses]
    says = [bone.lean_words(lean) for lean in bone.leans_of(misses) if lean.told]
    return _told("bone", both, [*says, *_seen_and_felt(misses)], len(misses))


def _seen_and_felt(misses: Sequence[Miss]) -> list[str]:
    """Marks that are seen and marks that are felt through coat, told apart."""
    rms = {
        words: math.sqrt(float(np.mean([m.off_mm**2 for m in misses if (m.kind == "felt") == felt])))
        for words, felt in (("seen", False), ("felt", True))
        if any((m.kind == "felt") == felt for m in misses)
    }
    return (
        [f"{' and '.join(f'{words} marks {mm:.0f} mm off' for words, mm in rms.items()).capitalize()}."]
        if rms
        else []
    )


def _eye(done: Done) -> DrillProgress:
    def told(guesses: list[Guess]) -> Session:
        return spread_told(np.array([guess.off for guess in guesses]))

    points = _over("eye", done.guesses, told, math.log(USUAL_GUESS))
    guesses = [guess for _, guess in done.guesses]
    says = [eye.lean_words(lean) for lean in eye.leans_of(guesses) if lean.told]
    return _told("eye", points, [*says, *(one.words for one in eye.calibration(guesses))], len(guesses))


def _over(
    drill: Drill, turned: Sequence[tuple[int, One]], told: Callable[[list[One]], Session], usual: float
) -> tuple[Point, ...]:
    return exp_of(trend([told(one) for one in sessions_of(drill, turned)], usual))


def _long_side(done: Done, seen: Eye | None) -> DrillProgress:
    if not done.trials:
        return _told("long_side", (), (), 0)
    seen = seen or long_side.eye_of(done.trials)
    missed = sorted((t for t in seen.thresholds if t.missed), key=lambda t: -t.mm)
    says = [f"You miss the {one.words}." for one in missed]
    if not missed:
        says.append("No place is surely worse than another yet.")
    amount = long_side.amount_of(done.trials)
    says += [long_side.amount_words(amount)] if amount and amount.told else []
    return _told("long_side", seen.trend, says, len(done.trials))


def _suits(done: Done) -> DrillProgress:
    def told(orders: list[tuple[int, int]]) -> Session:
        return share_told(sum(right for right, _ in orders), sum(of for _, of in orders))

    turned = [(turn, (right, of)) for turn, right, of in done.orders]
    points = odds_of(trend([told(one) for one in sessions_of("suits", turned)], 0.7))
    right, of = (sum(one[i] for _, one in turned) for i in (0, 1))
    return _told("suits", points, [f"{right} of {of} pairs as Dapwick has them."] if of else [], len(turned))


def _plan(done: Done) -> DrillProgress:
    def told(cuts: list[Cut]) -> Session:
        return Session(
            float(np.mean([math.log(max(c.off_mm, 0.3)) for c in cuts])), PLAN_SIGMA / math.sqrt(len(cuts))
        )

    points = _over("plan", done.cuts, told, math.log(USUAL_CUT_MM))
    causes = [cause for _, cut in done.cuts for cause in cut.causes]
    said = [
        f"{causes.count(cause)} of {len(causes)} faults came from the {cause}."
        for cause in sorted(set(causes), key=lambda c: -causes.count(c))
    ]
    return _told("plan", points, said, len(done.cuts))
