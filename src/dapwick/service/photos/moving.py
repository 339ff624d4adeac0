"""Photos moved between the slots and beside them: several at once, swapped with what is there, taken back whole."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from sqlalchemy.orm import Session

from dapwick.core.basics.errors import BadInput
from dapwick.core.basics.marks import State, View
from dapwick.records import queries
from dapwick.records.models import PhotoRow
from dapwick.records.store import SalonStore
from dapwick.service.concurrency.versions import check_base
from dapwick.service.dogs.cards import slot_of


@dataclass(frozen=True)
class Place:
    """Where a photo lies: in the slot of its view and state, or beside them; maybe: waiting for an answer which of
    these views it shows."""

    view: View
    state: State
    spare: bool = False
    maybe: tuple[View, ...] = ()


@dataclass(frozen=True)
class Move:
    """One photo to a place. base: the version of the place it was moved from on a screen."""

    photo_id: int
    to: Place
    base: str | None = None


@dataclass(frozen=True)
class Moved:
    """What became of a photo; `was` moved back takes it back."""

    photo_id: int
    was: Place
    now: Place


def move_photos(store: SalonStore, moves: Sequence[Move]) -> tuple[Moved, ...]:
    """All of the moves or none. What lay in a slot changes places with the photo that takes it, or is kept beside where
    that one came from none. Returns all that moved."""
    with store.session() as session:
        rows = {one.photo_id: queries.photo(session, one.photo_id) for one in moves}
        _check(session, moves, rows)
        before = {row.id: place_of(row) for row in _neighbours(rows)}
        for one in moves:
            _lay(rows[one.photo_id], one.to)
        for one in moves:
            _make_room(rows, rows[one.photo_id], before[one.photo_id])
        return tuple(
            Moved(row.id, before[row.id], place_of(row))
            for row in _neighbours(rows)
            if place_of(row) != before[row.id]
        )


def _check(session: Session, moves: Sequence[Move], rows: dict[int, PhotoRow]) -> None:
    wanted = [(rows[one.photo_id].visit_id, one.to.view, one.to.state) for one in moves if not one.to.spare]
    if len(set(wanted)) < len(wanted) or len(rows) < len(moves):
        raise BadInput("photos moved", expected="a slot for each", got="two photos for one slot")
    for one in moves:
        row = rows[one.photo_id]
        told = [one.to.view, one.to.state, one.to.spare, False]
        check_base(f"The place of the photo {row.file_name}", slot_of(row), told, one.base, row.content_hash)


def _neighbours(rows: dict[int, PhotoRow]) -> list[PhotoRow]:
    visits = {row.visit_id: row.visit for row in rows.values()}
    return [photo for visit in visits.values() for photo in visit.photos if photo.removed is None]


def place_of(row: PhotoRow) -> Place:
    return Place(row.view, row.state, bool(row.spare), tuple(row.maybe or ()))


def _lay(row: PhotoRow, to: Place) -> None:
    if row.view != to.view or row.state != to.state:
        # What was seen in it was told for the view it lay in; a line drawn by hand is as right as it was.
        row.looked = None
        if not row.edge_by_hand:
            row.coat_edge = None
    row.view, row.state, row.spare, row.maybe = to.view, to.state, to.spare, list(to.maybe) or None


def _make_room(moved: dict[int, PhotoRow], row: PhotoRow, came_from: Place) -> None:
    """Others leave the slot that a photo has taken: for the one it came from, while that is free."""
    if row.spare:
        return
    for other in queries.others_in_slot(row.visit, row):
        left = came_from.view, came_from.state
        taken = {(p.view, p.state) for p in queries.photos_of(row.visit)}
        if came_from.spare or left in taken:
            _lay(other, Place(other.view, other.state, spare=True))
        else:
            _lay(other, Place(came_from.view, came_from.state))
