"""How it goes: one person's own progress, what a trainer may see of others, and the answers as a table."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

from dapwick.core.head.zones import zone_words
from dapwick.core.practice.next_drill import A_SESSION
from dapwick.core.practice.progress import Progress, progress_of
from dapwick.documents.practice import (
    BoneTold,
    EyeAnswer,
    EyeAsked,
    EyeTold,
    LongSideAnswer,
    LongSideAsked,
    LongSideTold,
    PlanAnswer,
    PlanTold,
    SuitsAnswer,
    SuitsTold,
)
from dapwick.exports.practice_csv import practice_csv
from dapwick.records import practice_queries
from dapwick.records.models import PracticePersonRow, PracticeTaskRow
from dapwick.records.store import SalonStore
from dapwick.service.concurrency.budget import heavy
from dapwick.service.practice.history import answered, done_of
from dapwick.service.practice.people import shown_people


@dataclass(frozen=True)
class Own:
    """A person's progress."""

    id: int
    name: str
    shown: bool
    progress: Progress


@heavy
def progress(store: SalonStore, person_id: int) -> Own:
    with store.reading() as session:
        person = practice_queries.person(session, person_id)
        rows = answered(session, person_id)
        return _own(person, rows)


@heavy
def shown_to_trainer(store: SalonStore) -> list[Own]:
    """How it goes with those who let a trainer see it."""
    with store.reading() as session:
        return [_own(person, answered(session, person.id)) for person in shown_people(session)]


def results_csv(store: SalonStore, person_id: int) -> str:
    """Everything one person answered."""
    with store.reading() as session:
        practice_queries.person(session, person_id)
        return practice_csv([one for row in answered(session, person_id) for one in _rows(row)])


def _own(person: PracticePersonRow, rows: list[PracticeTaskRow]) -> Own:
    return Own(person.id, person.name, person.shown, progress_of(done_of(rows)))


def _rows(row: PracticeTaskRow) -> Iterator[dict[str, Any]]:
    about = {
        "when": row.answered.isoformat(" ", "minutes") if row.answered else "",
        "drill": row.drill,
        "session": row.turn // A_SESSION[row.asked.drill] + 1,
    }
    for one in _told(row):
        yield about | one


def _told(row: PracticeTaskRow) -> Iterator[dict[str, Any]]:
    asked, answer, told = row.asked, row.answer, row.told
    if isinstance(told, BoneTold):
        for miss in told.misses:
            yield {"what": miss.mark, "off": round(miss.off_mm, 2), "unit": "mm"}
    elif isinstance(told, EyeTold) and isinstance(asked, EyeAsked) and isinstance(answer, EyeAnswer):
        off = round(answer.guess / told.true - 1.0, 3)
        yield {
            "what": asked.measure,
            "answer": answer.guess,
            "truth": round(told.true, 2),
            "off": off,
            "unit": "share",
        }
    elif (
        isinstance(told, LongSideTold)
        and isinstance(asked, LongSideAsked)
        and isinstance(answer, LongSideAnswer)
    ):
        yield {
            "what": f"{asked.side} {zone_words(asked.zone)}",
            "answer": f"{answer.side} {zone_words(answer.zone)}",
            "truth": asked.mm,
            "off": answer.mm,
            "unit": "mm",
            "right": told.found,
        }
    elif isinstance(told, SuitsTold) and isinstance(answer, SuitsAnswer):
        yield {"what": "order", "answer": " ".join(answer.order), "right": f"{told.right} of {told.pairs}"}
    elif isinstance(told, PlanTold) and isinstance(answer, PlanAnswer):
        yield {"what": answer.family, "off": round(told.off_mm, 2), "unit": "mm", "right": not told.faults}
