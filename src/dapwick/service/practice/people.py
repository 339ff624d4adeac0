"""Who practises, and who of them lets a trainer see how it goes."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

from sqlalchemy.orm import Session

from dapwick.core.basics.errors import BadInput
from dapwick.records import practice_queries
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
        here = tuple(_person(row) for row in practice_queries.people(session))
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
        row = practice_queries.person_called(session, said)
        if row is None:
            if len(practice_queries.people(session)) >= MOST:
                raise BadInput("people", expected=f"at most {MOST}", got="one more", where="practice")
            row = PracticePersonRow(name=said)
            session.add(row)
        row.removed = None
        session.flush()
        return _person(row)


def settle(store: SalonStore, person_id: int, shown: bool | None, removed: bool | None) -> Person:
    """Whether a trainer may see them, and whether they are on the list."""
    with store.session() as session:
        row = practice_queries.person(session, person_id)
        row.shown = row.shown if shown is None else shown
        if removed is not None:
            row.removed = now() if removed else None
        return _person(row)


def shown_people(session: Session) -> list[PracticePersonRow]:
    """Those who let a trainer see how it goes."""
    return [row for row in practice_queries.people(session) if row.shown]


def _person(row: PracticePersonRow) -> Person:
    return Person(row.id, row.name, row.shown)
