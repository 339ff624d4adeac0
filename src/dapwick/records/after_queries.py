"""Reads of what came after the cut; each takes the session first."""

from __future__ import annotations

from sqlalchemy import func, select
from sqlalchemy.orm import Session, contains_eager

from dapwick.records.models import BookingRow, CutRow, DogRow, ExpectationRow, VisitRow


def expectations(session: Session) -> list[ExpectationRow]:
    """What was expected of readings in this salon, oldest first, of dogs on the lists."""
    rows = (
        select(ExpectationRow)
        .join(VisitRow)
        .join(DogRow)
        .where(ExpectationRow.here.is_(True), DogRow.removed.is_(None))
        .options(contains_eager(ExpectationRow.visit).contains_eager(VisitRow.dog))
        .order_by(ExpectationRow.id)
    )
    return list(session.scalars(rows))


def booking_of_visit(session: Session, visit_id: int) -> BookingRow | None:
    """The time in the book that a visit began from."""
    return session.scalar(select(BookingRow).where(BookingRow.visit_id == visit_id).limit(1))


def checked_visits_of(session: Session, stylist: str, most: int) -> list[VisitRow]:
    """The latest visits a stylist cut whose finished heads were checked, oldest first."""
    rows = (
        select(VisitRow)
        .join(CutRow, CutRow.visit_id == VisitRow.id)
        .join(DogRow, DogRow.id == VisitRow.dog_id)
        .where(
            CutRow.stylist == stylist, func.length(VisitRow.checked) > len("null"), DogRow.removed.is_(None)
        )
        .group_by(VisitRow.id)
        .order_by(VisitRow.id.desc())
        .limit(most)
    )
    return list(session.scalars(rows))[::-1]
