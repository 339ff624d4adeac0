"""Dogs: one, a new one, those looked for; what is known of a dog and its open visit, part by part."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from typing import Any, Final

from sqlalchemy.orm import Session

from dapwick.core.basics.errors import BadInput
from dapwick.core.basics.head_kind import CARRIAGES, MUZZLES, Carriage, Muzzle
from dapwick.core.head.stand import STAND_FACTOR
from dapwick.core.outlines.wishes import Wishes
from dapwick.documents.readings import CombDocument, ReadingDocument, combs_from, readings_from
from dapwick.documents.wishes import WishesDocument
from dapwick.records import queries
from dapwick.records.models import Beside, DogRow, VisitRow
from dapwick.records.store import SalonStore
from dapwick.service.concurrency.versions import check_base
from dapwick.service.dogs.cards import DogCard, card_of, local_day, parts_of
from dapwick.service.visits.bookings import walk_in

FOUND_AT_ONCE: Final = 30
LONGEST_WORDS: Final = 1000
LONGEST_NOTE: Final = 400
FIRST_BORN, LAST_BORN = 1980, 2100


@dataclass(frozen=True)
class Brief:
    """A dog in a list."""

    id: int
    name: str
    breed: str
    coat: str
    last_visit: str | None
    picture: str | None


def one_dog(store: SalonStore, dog_id: int) -> DogCard:
    with store.reading() as session:
        return card_of(queries.dog(session, dog_id))


def find_dogs(store: SalonStore, words: str = "", most: int = FOUND_AT_ONCE) -> list[Brief]:
    """Dogs whose name or breed has these words, by name."""
    with store.reading() as session:
        rows = queries.dogs_called(session, words.strip(), most)
        last = queries.last_visits(session, [row.id for row in rows])
        shown = queries.head_pictures(session, [row.id for row in rows])
        return [
            Brief(
                row.id,
                row.name,
                row.breed,
                row.coat,
                local_day(last[row.id]).isoformat() if row.id in last else None,
                shown.get(row.id),
            )
            for row in rows
        ]


def add_dog(
    store: SalonStore,
    name: str,
    coat: str,
    breed: str = "",
    born: str | None = None,
    muzzle: Muzzle = "any",
    ears: Carriage = "any",
) -> DogCard:
    """A new dog, here now: its first visit open, and in today's book as one who walked in."""
    about = checked_about(name, coat, breed, born)
    _check_kind(muzzle, ears)
    with store.session() as session:
        row = new_dog_row(session, **about)
        row.muzzle, row.ears = muzzle, ears
        session.add(walk_in(row))
        session.flush()
        return card_of(row)


def new_dog_row(session: Session, name: str, coat: str, breed: str, born: str | None) -> DogRow:
    row = DogRow(name=name, coat=coat, breed=breed, born=born, visits=[VisitRow()])
    session.add(row)
    session.flush()
    return row


def checked_about(name: str, coat: str, breed: str, born: str | None) -> dict[str, Any]:
    """What is said of a dog itself; what cannot be is refused."""
    name = name.strip()
    if not name:
        raise BadInput("the dog needs a name", expected="a name", got="nothing", where="name")
    if coat not in STAND_FACTOR:
        raise BadInput("unknown coat", expected=", ".join(STAND_FACTOR), got=coat, where="coat")
    if born:
        try:
            year = date.fromisoformat(born).year
        except ValueError as error:
            raise BadInput("birthday", expected="a day, YYYY-MM-DD", got=born[:20], where="born") from error
        if not FIRST_BORN <= year <= LAST_BORN:
            raise BadInput("birthday", expected=f"{FIRST_BORN} to {LAST_BORN}", got=born[:20], where="born")
    return {"name": name, "coat": coat, "breed": breed.strip(), "born": born or None}


def set_about(store: SalonStore, dog_id: int, given: Mapping[str, Any], base: str | None = None) -> DogCard:
    """Name, breed, coat and birthday."""
    about = checked_about(given["name"], given["coat"], given["breed"], given["born"])
    with store.session() as session:
        row = queries.dog(session, dog_id)
        wanted = [about["name"], about["breed"], about["coat"], about["born"]]
        check_part(row, "about", wanted, base)
        row.name, row.breed, row.coat, row.born = wanted
        return card_of(row)


def set_head_kind(
    store: SalonStore, dog_id: int, muzzle: Muzzle, ears: Carriage, base: str | None = None
) -> DogCard:
    """Say what kind of head it is."""
    _check_kind(muzzle, ears)
    with store.session() as session:
        row = queries.dog(session, dog_id)
        check_part(row, "kind", [muzzle, ears], base)
        row.muzzle, row.ears = muzzle, ears
        return card_of(row)


def _check_kind(muzzle: str, ears: str) -> None:
    known: tuple[tuple[str, tuple[str, ...], str], ...] = (
        (muzzle, MUZZLES, "muzzle"),
        (ears, CARRIAGES, "ears"),
    )
    for given, kinds, where in known:
        if given not in kinds:
            raise BadInput(f"unknown {where}", expected=", ".join(kinds), got=given, where=where)


def set_hand_measures(
    store: SalonStore,
    dog_id: int,
    measures: Sequence[ReadingDocument | dict[str, Any]],
    base: str | None = None,
    beside: Beside | None = None,
) -> DogCard:
    """beside: what is written in the same change."""
    with store.session() as session:
        visit = queries.visit_today(session, dog_id)
        readings = readings_from(measures)
        check_part(visit.dog, "hand_measures", [visit.id, readings], base)
        visit.hand_measures = readings
        if beside:
            beside(visit)
        return card_of(visit.dog)


def set_coat_probes(
    store: SalonStore,
    dog_id: int,
    probes: Sequence[CombDocument | dict[str, Any]],
    base: str | None = None,
    beside: Beside | None = None,
) -> DogCard:
    """beside: what is written in the same change."""
    with store.session() as session:
        visit = queries.visit_today(session, dog_id)
        combs = combs_from(probes)
        check_part(visit.dog, "coat_probes", [visit.id, combs], base)
        visit.coat_probes = combs
        if beside:
            beside(visit)
        return card_of(visit.dog)


def set_wishes(
    store: SalonStore, dog_id: int, wishes: Wishes, owner_words: str | None = None, base: str | None = None
) -> DogCard:
    """What the owner asked for, and in which words; None leaves the words as they are."""
    if owner_words is not None and len(owner_words) > LONGEST_WORDS:
        raise _too_long("the owner's words", LONGEST_WORDS, owner_words)
    with store.session() as session:
        visit = queries.visit_today(session, dog_id)
        said = visit.owner_words if owner_words is None else owner_words
        asked = WishesDocument.of(wishes)
        check_part(visit.dog, "wishes", [visit.id, asked, said], base)
        visit.wishes, visit.owner_words = asked, said
        return card_of(visit.dog)


def set_next_note(store: SalonStore, dog_id: int, note: str, base: str | None = None) -> DogCard:
    """What the next visit is to know."""
    if len(note) > LONGEST_NOTE:
        raise _too_long("the note", LONGEST_NOTE, note)
    with store.session() as session:
        visit = queries.visit_today(session, dog_id)
        check_part(visit.dog, "next_note", [visit.id, note], base)
        visit.next_note = note
        return card_of(visit.dog)


def check_part(row: DogRow, part: str, wanted: Any, base: str | None) -> None:
    """Refuse a change of a part that was made on top of something that has changed since."""
    check_base(f"{PART_WORDS[part]} of {row.name}", parts_of(row.visits[-1])[part], wanted, base, row.uid)


PART_WORDS: Final = {
    "about": "Name and coat",
    "kind": "The kind of head",
    "traits": "The handling",
    "wishes": "The wishes",
    "hand_measures": "The calliper readings",
    "coat_probes": "The comb depths",
    "stylist": "Who cuts",
    "next_note": "The note",
    "outline": "The outline",
    "touched_up": "What was taken in",
    "combed_after": "The comb depths after the cut",
    "for_next": "The note’s parts",
}


def _too_long(what: str, most: int, got: str) -> BadInput:
    return BadInput(f"{what} too long", expected=f"at most {most} letters", got=str(len(got)), where="note")
