"""Who practises, and who of them lets a trainer see how it goes."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from dapwick.core.basics.errors import BadInput, NotFound
from dapwick.records.models import PracticePersonRow, now
from dapwick.records.store import SalonStore
from dapwick.service.salon.kit import kit_of

LONGEST_NAME: Final = 40
MOST: Final = 60


@dataclass(frozen=True)
class Person:
    id: int
    name: str
    shown: bool


@dataclass(frozen=True)
class People:
    """people who practise; stylists: names of the kit that do not yet."""

    people: tuple[Person, ...]
    stylists: tuple[str, ...]


def people(store: SalonStore) -> People:
    with store.reading() as session:
        here = tuple(_person(row) for row in _listed(session))
        names = {one.name.casefold() for one in here}
        _, stylists = kit_of(session)
        return People(here, tuple(s.name for s in stylists if s.name.casefold() not in names))


def take_in(store: SalonStore, name: str) -> Person:
    """Somebody begins to practise; who was taken off the list comes back with what they did."""
    said = " ".join(name.split())
    if not 1 <= len(said) <= LONGEST_NAME:
        raise BadInput(
            "a name", expected=f"1 to {LONGEST_NAME} letters", got=said[:60] or "nothing", where="practice"
        )
    with store.session() as session:
        row = _by_name(session, said)
        if row is None:
            if len(_listed(session)) >= MOST:
                raise BadInput("people", expected=f"at most {MOST}", got="one more", where="practice")
            row = PracticePersonRow(name=said)
            session.add(row)
        row.removed = None
        session.flush()
        return _person(row)


def settle(store: SalonStore, person_id: int, shown: bool | None, removed: bool | None) -> Person:
    """Whether a trainer may see them, and whether they are on the list."""
    with store.session() as session:
        row = row_of(session, person_id)
        row.shown = row.shown if shown is None else shown
        if removed is not None:
            row.removed = now() if removed else None
        return _person(row)


def row_of(session: Session, person_id: int) -> PracticePersonRow:
    row = session.get(PracticePersonRow, person_id)
    if row is None:
        raise NotFound("person who practises", person_id)
    return row


def shown_people(session: Session) -> list[PracticePersonRow]:
    """Those who let a trainer see how it goes."""
    return [row for row in _listed(session) if row.shown]


def _listed(session: Session) -> list[PracticePersonRow]:
    rows = (
        select(PracticePersonRow).where(PracticePersonRow.removed.is_(None)).order_by(PracticePersonRow.name)
    )
    return list(session.scalars(rows))


def _by_name(session: Session, name: str) -> PracticePersonRow | None:
    wanted = select(PracticePersonRow).where(func.lower(PracticePersonRow.name) == name.lower())
    return session.scalars(wanted.order_by(PracticePersonRow.id)).first()


def _person(row: PracticePersonRow) -> Person:
    return Person(row.id, row.name, row.shown)
