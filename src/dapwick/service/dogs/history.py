"""A dog over time: what each visit measured, its coat by zone, the outline it was given, how long the cut took."""

from __future__ import annotations

from dataclasses import dataclass
from statistics import fmean
from typing import Any, Final

from sqlalchemy.orm import Session

from dapwick.core.measures.measure import NORMAL_95, RULES, measures_of
from dapwick.core.solve.joint import HeadSolution
from dapwick.documents.results import MeasuresDocument, ZoneDocument
from dapwick.pipeline.head_model import solved_head
from dapwick.records import queries
from dapwick.records.models import DogRow, OutlineRow, VisitRow
from dapwick.records.store import SalonStore
from dapwick.service.concurrency.budget import HEAVY
from dapwick.service.dogs.cards import local_day
from dapwick.service.visits.head_input import head_input_of

FOLLOWED: Final = ("skull_width", "skull_length", "muzzle_length", "eye_span_outer", "ear_span")
"""Measures worth following from visit to visit."""
DRAWN: Final = 4
"""Outlines of so many visits, the latest, are drawn over each other, and their coat told."""
WORDS: Final = {rule.id: rule.words for rule in RULES}


@dataclass(frozen=True)
class Followed:
    """A measure as one visit had it, mm, 95 % interval."""

    id: str
    words: str
    value: float
    low: float
    high: float


@dataclass(frozen=True)
class ZoneThen:
    """Hair of a zone on one visit, mm of length, both sides together: as it came, and as it was left by plan."""

    zone: str
    came_mm: float
    left_mm: float


@dataclass(frozen=True)
class VisitThen:
    """One visit of the history. lines: the kept outline in aligned views, mm; family and version: which, and worked
    out by which; minutes: of the cut; notes: chips noted at the table."""

    id: int
    day: str
    note: str
    next_note: str
    owner_words: str
    stylist: str
    measures: tuple[Followed, ...]
    coat: tuple[ZoneThen, ...]
    lines: dict[str, Any]
    family: str | None
    version: str
    minutes: float | None
    cut_notes: tuple[str, ...]


@dataclass(frozen=True)
class History:
    """Oldest first, the open visit last."""

    visits: tuple[VisitThen, ...]


def history_of(store: SalonStore, dog_id: int) -> History:
    with store.reading() as session:
        dog = queries.dog(session, dog_id)
        visits = visits_then(session, dog)
        given = head_input_of(dog.visits[-1])
    if not visits[-1].measures:
        with HEAVY.turn():
            head = solved_head(given)
        if isinstance(head, HeadSolution):
            visits[-1] = VisitThen(**{**vars(visits[-1]), "measures": _measured(head)})
    return History(tuple(visits))


def visits_then(session: Session, dog: DogRow) -> list[VisitThen]:
    """Every visit as it was kept, oldest first."""
    minutes = queries.cut_minutes_by_visit(session, dog.id)
    notes = queries.cut_notes_by_visit(session, dog.id)
    drawn = [v.id for v in dog.visits if v.outlines][-DRAWN:]
    return [_then(v, minutes.get(v.id), tuple(notes.get(v.id, ())), v.id in drawn) for v in dog.visits]


def _then(visit: VisitRow, minutes: float | None, notes: tuple[str, ...], drawn: bool) -> VisitThen:
    kept = visit.outlines[-1] if visit.outlines else None
    cut = visit.cuts[-1] if visit.cuts else None
    return VisitThen(
        visit.id,
        local_day(visit.created).isoformat(),
        visit.note,
        visit.next_note,
        visit.owner_words,
        visit.stylist or (cut.stylist if cut else ""),
        _kept_measures(visit.measures if visit.ended else None),
        _coat(kept) if drawn else (),
        kept.lines if kept and drawn else {},
        kept.family if kept else None,
        kept.version if kept else "",
        round(minutes, 1) if minutes else None,
        notes,
    )


def _measured(head: HeadSolution) -> tuple[Followed, ...]:
    return tuple(
        Followed(m.id, m.words, m.value, m.low, m.high) for m in measures_of(head) if m.id in FOLLOWED
    )


def _kept_measures(kept: MeasuresDocument | None) -> tuple[Followed, ...]:
    if not kept:
        return ()
    return tuple(
        Followed(key, WORDS[key], value, value - NORMAL_95 * sigma, value + NORMAL_95 * sigma)
        for key, (value, sigma) in kept.of.items()
        if key in FOLLOWED
    )


def _coat(kept: OutlineRow | None) -> tuple[ZoneThen, ...]:
    if kept is None:
        return ()
    by_zone: dict[str, list[ZoneDocument]] = {}
    for zone in kept.zones:
        if zone.now_mm is not None:
            by_zone.setdefault(zone.zone, []).append(zone)
    return tuple(
        ZoneThen(
            zone,
            round(fmean(side.now_mm or 0.0 for side in sides), 1),
            round(fmean(side.leave_mm for side in sides), 1),
        )
        for zone, sides in by_zone.items()
    )
