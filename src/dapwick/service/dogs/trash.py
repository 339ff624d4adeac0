"""Taking dogs off the lists, bringing them back, and the purge that says what goes for good."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from sqlalchemy import delete, select
from sqlalchemy.orm import Session

from dapwick.core.basics.errors import BadInput, NotFound
from dapwick.records import queries
from dapwick.records.models import (
    BookingRow,
    CutRow,
    CutStepRow,
    DogRow,
    ExpectationRow,
    OutlineRow,
    PhotoRow,
    VisitRow,
    now,
)
from dapwick.records.store import SalonStore
from dapwick.service.dogs.cards import local_day


@dataclass(frozen=True)
class Removed:
    """A dog off the lists and what a purge of it would take: visits, photos and their bytes on disk, outlines, cuts."""

    id: int
    name: str
    breed: str
    removed: str
    visits: int
    photos: int
    photo_bytes: int
    outlines: int
    cuts: int


def remove_dog(store: SalonStore, dog_id: int) -> None:
    """Off every list, kept whole: `restore_dog` brings it back."""
    with store.session() as session:
        queries.dog(session, dog_id).removed = now()


def restore_dog(store: SalonStore, dog_id: int) -> None:
    with store.session() as session:
        row = queries.by_id(session, DogRow, dog_id)
        if row is None:
            raise NotFound("removed dog", dog_id)
        row.removed = None


def removed_dogs(store: SalonStore) -> list[Removed]:
    with store.reading() as session:
        return [_removed(store, session, row) for row in queries.removed_dogs(session)]


def purge_dog(store: SalonStore, dog_id: int, name: str) -> Removed:
    """For good: only a dog that was removed before, and only by its name. Says what went."""
    with store.session() as session:
        row = queries.removed_dog(session, dog_id)
        if name.strip() != row.name:
            raise BadInput(
                "a purge cannot be undone",
                expected=f"the name {row.name}",
                got=name[:40] or "nothing",
                where="purge",
            )
        goes = _removed(store, session, row)
        digests = _erase(session, row)
    _forget_unused(store, digests)
    return goes


def erase_dogs(store: SalonStore, rows: Iterable[int]) -> None:
    """Dogs for good, whatever state they are in: for the demo's own."""
    digests: set[str] = set()
    with store.session() as session:
        for dog_id in rows:
            row = session.get(DogRow, dog_id)
            if row:
                digests |= _erase(session, row)
    _forget_unused(store, digests)


def _removed(store: SalonStore, session: Session, row: DogRow) -> Removed:
    photos = [p for visit in row.visits for p in visit.photos]
    assert row.removed is not None
    return Removed(
        row.id,
        row.name,
        row.breed,
        local_day(row.removed).isoformat(),
        len(row.visits),
        len(photos),
        sum(store.photo_size(p.content_hash) for p in photos),
        sum(len(visit.outlines) for visit in row.visits),
        sum(len(visit.cuts) for visit in row.visits),
    )


def _erase(session: Session, row: DogRow) -> set[str]:
    """Every record of a dog; returns the photo files that it had."""
    visits = select(VisitRow.id).where(VisitRow.dog_id == row.id)
    cuts = select(CutRow.id).where(CutRow.visit_id.in_(visits))
    digests = set(session.scalars(select(PhotoRow.content_hash).where(PhotoRow.visit_id.in_(visits))))
    session.execute(delete(CutStepRow).where(CutStepRow.cut_id.in_(cuts)))
    for of_visit in (CutRow, ExpectationRow, OutlineRow, PhotoRow):
        session.execute(delete(of_visit).where(of_visit.visit_id.in_(visits)))
    session.execute(delete(BookingRow).where(BookingRow.dog_id == row.id))
    session.execute(delete(VisitRow).where(VisitRow.dog_id == row.id))
    session.execute(delete(DogRow).where(DogRow.id == row.id))
    return digests


def _forget_unused(store: SalonStore, digests: Iterable[str]) -> None:
    with store.session() as session:
        unused = [digest for digest in digests if not queries.file_is_used(session, digest)]
        for digest in unused:
            store.forget_photo(digest)
