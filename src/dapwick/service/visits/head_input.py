"""Everything a visit gives the solver and the head model."""

from __future__ import annotations

from datetime import date
from typing import Final

from sqlalchemy.orm import object_session

from dapwick.core.head.coat import CoatProbe
from dapwick.core.solve.bone import Bone
from dapwick.core.solve.observations import HeadInput
from dapwick.pipeline.head_model import PhotoSource, photo_source
from dapwick.records import queries
from dapwick.records.models import PhotoRow, VisitRow
from dapwick.records.store import SalonStore
from dapwick.service.photos.kept_review import chance_of
from dapwick.service.photos.taking_in import marks_of, slot_name

DAYS_A_WEEK: Final = 7.0


def head_input_of(visit: VisitRow) -> HeadInput:
    """Its marked photos but the finished ones, its hand measures, the kind of head, and the bone that earlier
    visits measured."""
    return HeadInput(
        tuple(marks_of(p) for p in queries.photos_of(visit) if p.state != "finished"),
        tuple(reading.measure() for reading in visit.hand_measures),
        muzzle=visit.dog.muzzle,
        ears=visit.dog.ears,
        bone=bone_before(visit),
        age_weeks=age_weeks_at(visit),
    )


def probes_of(visit: VisitRow) -> tuple[CoatProbe, ...]:
    """Its comb readings."""
    return tuple(comb.probe() for comb in visit.coat_probes)


def sources_of(store: SalonStore, visit: VisitRow, tracing: bool = True) -> tuple[PhotoSource, ...]:
    """The edges of its photos, and the pixels of those not traced yet. tracing: False where edges count as far as
    they were traced already."""
    return tuple(_source(store, row, tracing) for row in queries.photos_of(visit) if row.state != "finished")


def _source(store: SalonStore, row: PhotoRow, tracing: bool) -> PhotoSource:
    digest, looked, size = row.content_hash, row.looked, (row.width_px, row.height_px)
    data = (lambda: store.photo_bytes(digest)) if tracing else None
    chance = lambda: chance_of(looked, *size)  # noqa: E731
    return photo_source(slot_name(row), row.state, row.coat_edge, data, chance, row.neck)


def bone_before(visit: VisitRow) -> Bone | None:
    """What earlier visits of the dog measured, from the latest that did."""
    session = object_session(visit)
    kept = queries.bone_before(session, visit) if session else None
    return kept.bone() if kept else None


def age_weeks_at(visit: VisitRow) -> float | None:
    """The dog's age on the day of a visit."""
    try:
        born = date.fromisoformat(visit.dog.born or "")
    except ValueError:
        return None
    return max((visit.created.date() - born).days / DAYS_A_WEEK, 0.0)
