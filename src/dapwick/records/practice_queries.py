"""Reads of who practises and what they answered; each takes the session first."""

from __future__ import annotations

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from dapwick.core.basics.errors import NotFound
from dapwick.records.models import PracticePersonRow, PracticeTaskRow
from dapwick.records.queries import by_id


def person(session: Session, person_id: int) -> PracticePersonRow:
    row = by_id(session, PracticePersonRow, person_id)
    if row is None:
        raise NotFound("person who practises", person_id)
    return row


def people(session: Session) -> list[PracticePersonRow]:
    """Those on the list, by name."""
    rows = select(PracticePersonRow).where(PracticePersonRow.removed.is_(None))
    return list(session.scalars(rows.order_by(PracticePersonRow.name)))


def person_called(session: Session, name: str) -> PracticePersonRow | None:
    """By name, however it is written; off the list too."""
    rows = select(PracticePersonRow).where(func.lower(PracticePersonRow.name) == name.lower())
    return session.scalars(rows.order_by(PracticePersonRow.id)).first()


def task(session: Session, task_id: int) -> PracticeTaskRow:
    row = by_id(session, PracticeTaskRow, task_id)
    if row is None:
        raise NotFound("practice question", task_id)
    return row


def open_task(session: Session, person_id: int, drill: str) -> PracticeTaskRow | None:
    """The question of a drill that waits for its answer."""
    rows = select(PracticeTaskRow).where(
        PracticeTaskRow.person_id == person_id,
        PracticeTaskRow.drill == drill,
        PracticeTaskRow.answered.is_(None),
    )
    return session.scalars(rows.order_by(PracticeTaskRow.id)).first()


def turns(session: Session, person_id: int, drill: str) -> int:
    """How many questions of a drill were asked so far."""
    rows = select(func.max(PracticeTaskRow.turn)).where(
        PracticeTaskRow.person_id == person_id, PracticeTaskRow.drill == drill
    )
    last = session.scalar(rows)
    return 0 if last is None else last + 1


def answered(session: Session, person_id: int, most: int) -> list[PracticeTaskRow]:
    """The latest of a person's answered questions, oldest first."""
    rows = (
        select(PracticeTaskRow)
        .where(PracticeTaskRow.person_id == person_id, PracticeTaskRow.answered.is_not(None))
        .order_by(PracticeTaskRow.id.desc())
        .limit(most)
    )
    return list(session.scalars(rows))[::-1]
