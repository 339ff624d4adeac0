"""Visits of a dog: one is open, those before are kept."""

from __future__ import annotations

from dapwick.core.solve import HeadSolution, solve_head
from dapwick.records import queries
from dapwick.records.models import VisitRow
from dapwick.records.store import SalonStore
from dapwick.service.bones import packed
from dapwick.service.dogs import DogCard, card_of
from dapwick.service.given import bone_before, given_of


def start_visit(store: SalonStore, dog_id: int) -> DogCard:
    """Open a new visit: the one before keeps the bone it measured."""
    with store.session() as session:
        dog = queries.dog(session, dog_id)
        last = dog.visits[-1]
        head = solve_head(given_of(last))
        if isinstance(head, HeadSolution):
            last.bone = packed(head.bone)
        else:
            before = bone_before(last)
            last.bone = packed(before) if before else None
        dog.visits.append(VisitRow(note=last.note))
        session.flush()
        return card_of(dog)
