"""Visits of a dog: one is open, those before are kept with what they measured."""

from __future__ import annotations

from collections.abc import Callable
from typing import Final

from sqlalchemy.orm import Session

from dapwick.core.measures.measure import measures_of
from dapwick.core.solve.joint import VERSION, HeadSolution, Unsolved
from dapwick.documents.bone import BoneDocument
from dapwick.documents.results import MeasuresDocument
from dapwick.documents.wishes import WishesDocument
from dapwick.pipeline.head_model import solved_head
from dapwick.records import queries
from dapwick.records.models import DogRow, VisitRow, now
from dapwick.records.store import SalonStore
from dapwick.service.after.next_time import kept_parts
from dapwick.service.concurrency.budget import heavy
from dapwick.service.concurrency.slow_write import compute_then_write
from dapwick.service.dogs.cards import DogCard, card_of
from dapwick.service.visits.bookings import tie_to_book
from dapwick.service.visits.head_input import bone_before, head_input_of
from dapwick.service.visits.provenance import geometry_hash, provenance_of

Measured = tuple[str, HeadSolution | Unsolved]
"""The head of a visit, with the key of what it was worked out from."""


def start_visit(store: SalonStore, dog_id: int) -> DogCard:
    """Open a new visit: the one before keeps the bone it measured, and what it had to say for the next time."""

    def write(session: Session, made: Measured) -> DogCard:
        dog = queries.dog(session, dog_id)
        visit = _opened(session, dog, made)
        tie_to_book(session, visit)
        session.flush()
        return card_of(dog)

    return _with_head(store, dog_id, write)


def begin_booking(store: SalonStore, booking_id: int) -> DogCard:
    """Begin what was booked: a visit that is still empty is used, else a new one opened. Asked twice, it goes on with
    the same visit."""
    with store.session() as session:
        booked = queries.booking(session, booking_id)
        dog = queries.dog(session, booked.dog_id)
        dog_id, last = dog.id, dog.visits[-1]
        if booked.visit_id is not None:
            return card_of(dog)
        if is_empty(last):
            booked.visit_id = last.id
            last.created = now()
            return card_of(dog)

    def write(session: Session, made: Measured) -> DogCard:
        booked, dog = queries.booking(session, booking_id), queries.dog(session, dog_id)
        if booked.visit_id is None:
            booked.visit_id = _opened(session, dog, made).id
        return card_of(dog)

    return _with_head(store, dog_id, write)


def end_visit(store: SalonStore, dog_id: int) -> DogCard:
    """The dog goes home; what is written down afterwards still belongs to this visit."""

    def write(session: Session, made: Measured) -> DogCard:
        dog = queries.dog(session, dog_id)
        close(dog.visits[-1], made[1])
        return card_of(dog)

    return _with_head(store, dog_id, write)


def reopen_visit(store: SalonStore, dog_id: int) -> DogCard:
    """Take back that it ended."""
    with store.session() as session:
        dog = queries.dog(session, dog_id)
        dog.visits[-1].ended = None
        return card_of(dog)


def close(visit: VisitRow, head: HeadSolution | Unsolved) -> None:
    """Keep with a visit what it measured. head: of its marks as they are."""
    if isinstance(head, HeadSolution):
        visit.bone, visit.measures = BoneDocument.of(head.bone), kept_measures(head)
    else:
        before = bone_before(visit)
        visit.bone = BoneDocument.of(before) if before else None
    visit.ended = visit.ended or now()


def kept_measures(head: HeadSolution) -> MeasuresDocument:
    """Measures as they are kept."""
    found = {m.id: (round(m.value, 4), round(m.sigma, 4)) for m in measures_of(head)}
    return MeasuresDocument(of=found, version=VERSION)


SAID_OF_THE_DOG: Final = {"lengths", "body_mm", "body_ends", "as_body"}
"""What is said of a dog once and holds until somebody says otherwise."""


def is_empty(visit: VisitRow) -> bool:
    """Nothing was put into it yet."""
    has = (
        visit.photos,
        visit.hand_measures,
        visit.coat_probes,
        visit.combed_after,
        visit.outlines,
        visit.cuts,
        visit.wishes.model_fields_set - SAID_OF_THE_DOG,
    )
    asked = visit.owner_words
    return not any(has) and not asked and visit.ended is None


def _opened(session: Session, dog: DogRow, made: Measured) -> VisitRow:
    """A new visit; the one before is closed."""
    last = dog.visits[-1]
    close(last, made[1])
    visit = VisitRow(note=last.next_note or last.note, from_last=kept_parts(last))
    kept = last.wishes.model_dump(include=SAID_OF_THE_DOG & last.wishes.model_fields_set)
    if kept:
        visit.wishes = WishesDocument.model_validate(kept)
    dog.visits.append(visit)
    session.flush()
    return visit


def _with_head(store: SalonStore, dog_id: int, write: Callable[[Session, Measured], DogCard]) -> DogCard:
    """A change that keeps the head of the open visit; worked out beside the records, so that nobody waits for it, and
    kept only as what is marked then."""

    @heavy
    def compute() -> Measured:
        with store.reading() as session:
            visit = queries.visit_today(session, dog_id)
            key, given = _key(visit), head_input_of(visit)
        return key, solved_head(given)

    return compute_then_write(
        store, compute, lambda session, made: _key(queries.visit_today(session, dog_id)) == made[0], write
    )


def _key(visit: VisitRow) -> str:
    return f"{visit.id} {geometry_hash(provenance_of(visit))}"
