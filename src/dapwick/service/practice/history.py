"""What a person has answered, read back as the core has it."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Final

from sqlalchemy.orm import Session

from dapwick.core.practice.bone import Miss
from dapwick.core.practice.eye import Guess
from dapwick.core.practice.long_side import Trial
from dapwick.core.practice.next_drill import A_SESSION
from dapwick.core.practice.progress import Cut, Done
from dapwick.documents.practice import (
    BoneTold,
    EyeAnswer,
    EyeAsked,
    EyeTold,
    LongSideAnswer,
    LongSideAsked,
    PlanTold,
    SuitsTold,
)
from dapwick.records import practice_queries
from dapwick.records.models import PracticeTaskRow

MOST: Final = 600
"""The latest answers tell how it goes; what was years ago does not."""


def answered(session: Session, person_id: int) -> list[PracticeTaskRow]:
    """The latest of a person's answered questions, oldest first."""
    return practice_queries.answered(session, person_id, MOST)


def done_of(rows: Iterable[PracticeTaskRow]) -> Done:
    misses: list[tuple[int, Miss]] = []
    guesses: list[tuple[int, Guess]] = []
    trials: list[Trial] = []
    orders: list[tuple[int, int, int]] = []
    cuts: list[tuple[int, Cut]] = []
    for row in rows:
        asked, answer, told = row.asked, row.answer, row.told
        if isinstance(told, BoneTold):
            misses += [(row.turn, Miss(m.mark, m.kind, m.off_mm, m.ways, m.words)) for m in told.misses]
        elif isinstance(told, EyeTold) and isinstance(answer, EyeAnswer) and isinstance(asked, EyeAsked):
            guesses.append((row.turn, Guess(asked.measure, answer.guess, answer.within, told.true)))
        elif isinstance(answer, LongSideAnswer) and isinstance(asked, LongSideAsked):
            trials.append(trial_of(asked, answer, row.turn // A_SESSION["long_side"]))
        elif isinstance(told, SuitsTold):
            orders.append((row.turn, told.right, told.pairs))
        elif isinstance(told, PlanTold):
            cuts.append((row.turn, Cut(told.off_mm, tuple(f.cause for f in told.faults))))
    return Done(tuple(misses), tuple(guesses), tuple(trials), tuple(orders), tuple(cuts))


def trial_of(asked: LongSideAsked, answer: LongSideAnswer, session: int) -> Trial:
    """Raises BadInput where the answer names no place that was asked about."""
    return Trial(asked.zone, asked.side, asked.mm, session, (answer.zone, answer.side), answer.mm)
