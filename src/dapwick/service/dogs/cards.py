"""One dog and its open visit as the screens show them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import UTC, date, datetime
from typing import Any, Final

from sqlalchemy import select
from sqlalchemy.orm import Session, object_session

from dapwick.core.basics.marks import View
from dapwick.core.solve.pose import MIN_MARKS
from dapwick.documents.marks import Marks
from dapwick.documents.next_time import NotePart
from dapwick.documents.readings import CombDocument, ReadingDocument
from dapwick.documents.review import SeenFinding
from dapwick.documents.wishes import WishesDocument
from dapwick.pipeline.bursts import bursts
from dapwick.records import queries
from dapwick.records.models import DogRow, OutlineRow, PhotoRow, VisitRow
from dapwick.service.concurrency.versions import version_of
from dapwick.service.visits.provenance import changed_since, provenance_of

STAGES: Final = ("wishes", "photos", "marks", "outline", "cut", "check", "next")
ENOUGH_MARKS: Final = 8
"""Marks on a photo from which the stage counts as done; the solve itself needs MIN_MARKS."""


@dataclass(frozen=True)
class PhotoCard:
    """picture: the hash its picture is shown under; maybe: the views to choose from where its own is not sure;
    together: ids of the photos in the same state taken with it, its own too; versions: of its marks, its edge and its
    place among the slots."""

    id: int
    picture: str
    view: str
    state: str
    file_name: str
    width_px: int
    height_px: int
    marks: Marks
    has_edge: bool
    edge_by_hand: bool
    spare: bool
    maybe: tuple[View, ...]
    taken: str | None
    together: tuple[int, ...]
    looked: bool
    card_markers: int
    findings: tuple[SeenFinding, ...]
    versions: dict[str, str]


@dataclass(frozen=True)
class VisitCard:
    """One visit in the dog's strip; picture: the one to show for it, bone: it measured the head."""

    id: int
    day: str
    picture: str | None
    photos: int
    bone: bool
    outline: str | None
    next_note: str
    ended: bool


@dataclass(frozen=True)
class DogCard:
    """One dog and its open visit. stages: id → done, needs_you or stale; stale: why, by stage. traits: what it minds;
    stylist: who cuts, where somebody was chosen; from_last: parts of the
    last visit's note, by where they matter. versions: of each part that can be changed."""

    id: int
    name: str
    breed: str
    coat: str
    born: str | None
    muzzle: str
    ears: str
    visits: tuple[VisitCard, ...]
    note: str
    next_note: str
    owner_words: str
    photos: tuple[PhotoCard, ...]
    spares: tuple[PhotoCard, ...]
    hand_measures: tuple[ReadingDocument, ...]
    coat_probes: tuple[CombDocument, ...]
    wishes: WishesDocument
    traits: tuple[str, ...]
    stylist: str
    stages: dict[str, str]
    stale: dict[str, list[str]]
    saved_outline: dict[str, Any] | None
    removed: bool = False
    versions: dict[str, str] = field(default_factory=dict)
    from_last: tuple[NotePart, ...] = ()


def local_day(at: datetime) -> date:
    """The salon's day of a moment kept in UTC."""
    return at.replace(tzinfo=UTC).astimezone().date()


def card_of(row: DogRow) -> DogCard:
    visit = row.visits[-1]
    photos = queries.photos_of(visit)
    stale = stale_of(visit)
    session = object_session(row)
    assert session is not None
    measured = queries.visits_with_bone(session, [row.id]).get(row.id, [])
    return DogCard(
        row.id,
        row.name,
        row.breed,
        row.coat,
        row.born,
        row.muzzle,
        row.ears,
        visit_cards(session, row, measured),
        visit.note,
        visit.next_note,
        visit.owner_words,
        tuple(photo_card(p) for p in photos),
        tuple(photo_card(p) for p in queries.spares_of(visit)),
        tuple(visit.hand_measures),
        tuple(visit.coat_probes),
        visit.wishes,
        tuple(row.traits),
        visit.stylist,
        stages_of(visit, photos, stale, any(m < visit.id for m in measured)),
        stale,
        saved_card(visit.outlines[-1]) if visit.outlines else None,
        row.removed is not None,
        versions_of(visit),
        tuple(visit.from_last),
    )


def versions_of(visit: VisitRow) -> dict[str, str]:
    """The version of each part of a visit and its dog as it is now."""
    return {part: version_of(content, visit.dog.uid) for part, content in parts_of(visit).items()}


def parts_of(visit: VisitRow) -> dict[str, Any]:
    """The parts of a visit and its dog that are changed one by one. What belongs to a visit names it, so that a
    change meant for one never lands in the next."""
    dog = visit.dog
    return {
        "about": [dog.name, dog.breed, dog.coat, dog.born],
        "kind": [dog.muzzle, dog.ears],
        "traits": dog.traits,
        "wishes": [visit.id, visit.wishes, visit.owner_words],
        "hand_measures": [visit.id, visit.hand_measures],
        "coat_probes": [visit.id, visit.coat_probes],
        "stylist": [visit.id, visit.stylist],
        "next_note": [visit.id, visit.next_note],
        "outline": [visit.id, kept_setting_of(visit.outlines[-1]) if visit.outlines else None],
        "for_next": [visit.id, {key: one.model_dump() for key, one in visit.for_next.items()}],
        "combed_after": [visit.id, visit.combed_after],
        "touched_up": [visit.id, {place: one.state for place, one in visit.touched_up.items()}],
    }


def kept_setting_of(row: OutlineRow) -> list[Any]:
    """What was chosen of a kept outline."""
    return [row.family, row.params, row.schools]


def stale_of(visit: VisitRow) -> dict[str, list[str]]:
    """Stages whose result rests on something that has changed since, and what."""
    if not visit.outlines:
        return {}
    found: dict[str, list[str]] = {}
    kept = visit.outlines[-1]
    changed = changed_since(kept.rests_on, provenance_of(visit)) if kept.rests_on else ()
    if changed:
        found["outline"] = list(changed)
    cut = visit.cuts[-1] if visit.cuts else None
    if cut and cut.ended is None and kept.saved > (cut.made or cut.started):
        found["cut"] = ["the outline"]
    elif changed and cut and cut.ended is None:
        found["cut"] = list(changed)
    return found


def stages_of(
    visit: VisitRow, photos: list[PhotoRow], stale: dict[str, list[str]], known: bool
) -> dict[str, str]:
    """known: an earlier visit has measured the head."""
    before = [p for p in photos if p.state != "finished"]
    marked = [p for p in before if len(p.marks) >= max(MIN_MARKS, ENOUGH_MARKS)]
    done = {
        "wishes": bool(visit.wishes.model_fields_set or visit.owner_words),
        "photos": len(before) >= 2,
        # A head that earlier visits measured has its size already.
        "marks": len(marked) >= 2 and (known or bool(visit.hand_measures)),
        "outline": bool(visit.outlines),
        "cut": bool(visit.cuts) and visit.cuts[-1].ended is not None,
        "check": any(photo.state == "finished" for photo in photos) and not open_touch_ups(visit),
        "next": visit.ended is not None,
    }
    return {s: "stale" if s in stale else "done" if done[s] else "needs_you" for s in STAGES}


def open_touch_ups(visit: VisitRow) -> list[str]:
    """Places that the check found long and of which nothing was said yet."""
    found = [f"{t.zone}/{t.side}" for t in visit.checked.touch_ups] if visit.checked else []
    return [place for place in found if place not in visit.touched_up]


def visit_cards(session: Session, row: DogRow, measured: Sequence[int]) -> tuple[VisitCard, ...]:
    """measured: visits that measured the head."""
    shown = _shown_photos(session, row)
    kept = select(OutlineRow.visit_id, OutlineRow.family).join(VisitRow).where(VisitRow.dog_id == row.id)
    families = dict(session.execute(kept.order_by(OutlineRow.id)).all())
    return tuple(
        VisitCard(
            visit.id,
            local_day(visit.created).isoformat(),
            shown.get(visit.id, (None, 0))[0],
            shown.get(visit.id, (None, 0))[1],
            visit.id in measured,
            families.get(visit.id),
            visit.next_note,
            visit.ended is not None,
        )
        for visit in row.visits
    )


def _shown_photos(session: Session, row: DogRow) -> dict[int, tuple[str, int]]:
    """By visit: the picture to show for it and how many photos there are."""
    columns = select(PhotoRow.visit_id, PhotoRow.content_hash, PhotoRow.view).join(VisitRow)
    there = (VisitRow.dog_id == row.id, PhotoRow.removed.is_(None), PhotoRow.spare.is_(False))
    found: dict[int, tuple[str, int]] = {}
    fronts = set()
    for visit_id, picture, view in session.execute(columns.where(*there).order_by(PhotoRow.id)):
        shown, count = found.get(visit_id, (picture, 0))
        if view == "front" and visit_id not in fronts:
            shown = picture
            fronts.add(visit_id)
        found[visit_id] = (shown, count + 1)
    return found


def photo_card(p: PhotoRow) -> PhotoCard:
    """looked: the machine has seen it; then card_markers and findings say what of."""
    seen = p.looked
    return PhotoCard(
        id=p.id,
        picture=p.content_hash,
        view=p.view,
        state=p.state,
        file_name=p.file_name,
        width_px=p.width_px,
        height_px=p.height_px,
        marks=p.marks,
        has_edge=p.coat_edge is not None,
        edge_by_hand=bool(p.edge_by_hand),
        spare=bool(p.spare),
        maybe=tuple(p.maybe or ()),
        taken=p.taken.isoformat(timespec="seconds") if p.taken else None,
        together=_together(p),
        looked=p.looked is not None,
        card_markers=seen.card.markers if seen and seen.card else 0,
        findings=tuple(seen.findings) if seen else (),
        versions={
            "marks": version_of(p.marks, p.content_hash),
            "edge": version_of(p.edge, p.content_hash),
            "slot": version_of(slot_of(p), p.content_hash),
        },
    )


def _together(p: PhotoRow) -> tuple[int, ...]:
    alike = {q.id: q.taken for q in p.visit.photos if q.removed is None and q.state == p.state}
    return bursts({**alike, p.id: p.taken})[p.id]


def slot_of(p: PhotoRow) -> list[Any]:
    """Where a photo lies."""
    return [p.view, p.state, bool(p.spare), p.removed is not None]


def saved_card(row: OutlineRow) -> dict[str, Any]:
    return {
        "family": row.family,
        "params": row.params,
        "schools": row.schools,
        "zones": row.zones,
        "version": row.version,
        "saved": row.saved.isoformat(timespec="seconds"),
        "inputs_hash": row.inputs_hash,
        "rests_on": row.rests_on,
    }
