"""Dogs and their visit of today: the list, one dog, a new one."""

from __future__ import annotations

from dataclasses import asdict, dataclass
from typing import Any

from sqlalchemy.orm import Session

from dapwick.core.errors import BadInput
from dapwick.core.head.stand import STAND_FACTOR
from dapwick.core.outlines.wishes import Wishes
from dapwick.core.pose import MIN_MARKS
from dapwick.core.prior import CARRIAGES, MUZZLES
from dapwick.records import queries
from dapwick.records.models import DogRow, OutlineRow, PhotoRow, VisitRow
from dapwick.records.store import SalonStore

STAGES = ("photos", "marks", "outline", "cut")
ENOUGH_MARKS = 8
"""Marks on a photo from which the stage counts as done; the solve itself needs MIN_MARKS."""


@dataclass(frozen=True)
class PhotoCard:
    id: int
    view: str
    state: str
    file_name: str
    width_px: int
    height_px: int
    marks: dict[str, Any]
    has_edge: bool
    edge_by_hand: bool
    spare: bool
    taken: str | None
    looked: bool
    card_markers: int
    findings: tuple[dict[str, str], ...]


@dataclass(frozen=True)
class VisitCard:
    """One visit in the dog's strip; photo_id: the picture to show for it, bone: it measured the head."""

    id: int
    day: str
    photo_id: int | None
    photos: int
    bone: bool
    outline: str | None


@dataclass(frozen=True)
class DogCard:
    """One dog and its open visit. stages: photos, marks, outline, cut → done or needs_you. traits: what it minds;
    stylist: who cuts, where somebody was chosen."""

    id: int
    name: str
    breed: str
    coat: str
    born: str | None
    muzzle: str
    ears: str
    visits: tuple[VisitCard, ...]
    starts: str
    note: str
    photos: tuple[PhotoCard, ...]
    spares: tuple[PhotoCard, ...]
    hand_measures: tuple[dict[str, Any], ...]
    coat_probes: tuple[dict[str, Any], ...]
    wishes: dict[str, Any]
    traits: tuple[str, ...]
    stylist: str
    stages: dict[str, str]
    saved_outline: dict[str, Any] | None


def today(store: SalonStore) -> list[DogCard]:
    with store.session() as session:
        return [card_of(row) for row in queries.dogs_in_order(session)]


def one_dog(store: SalonStore, dog_id: int) -> DogCard:
    with store.session() as session:
        return card_of(queries.dog(session, dog_id))


def add_dog(store: SalonStore, name: str, coat: str, breed: str = "", born: str | None = None) -> DogCard:
    """A new dog with its first visit open."""
    name = name.strip()
    if not name:
        raise BadInput("the dog needs a name", expected="a name", got="nothing", where="name")
    if coat not in STAND_FACTOR:
        raise BadInput("unknown coat", expected=", ".join(STAND_FACTOR), got=coat, where="coat")
    with store.session() as session:
        row = new_dog_row(session, name, coat, breed, born)
        return card_of(row)


def new_dog_row(session: Session, name: str, coat: str, breed: str, born: str | None) -> DogRow:
    row = DogRow(name=name, coat=coat, breed=breed, born=born, visits=[VisitRow()])
    session.add(row)
    session.flush()
    return row


def set_hand_measures(store: SalonStore, dog_id: int, measures: list[dict[str, Any]]) -> None:
    with store.session() as session:
        queries.visit_today(session, dog_id).hand_measures = measures


def set_coat_probes(store: SalonStore, dog_id: int, probes: list[dict[str, Any]]) -> None:
    with store.session() as session:
        queries.visit_today(session, dog_id).coat_probes = probes


def set_wishes(store: SalonStore, dog_id: int, wishes: Wishes) -> None:
    with store.session() as session:
        queries.visit_today(session, dog_id).wishes = asdict(wishes)


def card_of(row: DogRow) -> DogCard:
    visit = row.visits[-1]
    photos = queries.photos_of(visit)
    return DogCard(
        row.id,
        row.name,
        row.breed,
        row.coat,
        row.born,
        row.muzzle,
        row.ears,
        tuple(_visit_card(v) for v in row.visits),
        visit.starts,
        visit.note,
        tuple(photo_card(p) for p in photos),
        tuple(photo_card(p) for p in queries.spares_of(visit)),
        tuple(visit.hand_measures),
        tuple(visit.coat_probes),
        dict(visit.wishes),
        tuple(row.traits),
        visit.stylist,
        _stages(photos, visit),
        saved_card(visit.outlines[-1]) if visit.outlines else None,
    )


def _visit_card(visit: VisitRow) -> VisitCard:
    photos = queries.photos_of(visit)
    shown = next((p for p in photos if p.view == "front"), photos[0] if photos else None)
    return VisitCard(
        visit.id,
        visit.created.date().isoformat(),
        shown.id if shown else None,
        len(photos),
        visit.bone is not None,
        visit.outlines[-1].family if visit.outlines else None,
    )


def set_head_kind(store: SalonStore, dog_id: int, muzzle: str, ears: str) -> DogCard:
    """Say what kind of head it is."""
    for given, known, where in ((muzzle, MUZZLES, "muzzle"), (ears, CARRIAGES, "ears")):
        if given not in known:
            raise BadInput(f"unknown {where}", expected=", ".join(known), got=given, where=where)
    with store.session() as session:
        row = queries.dog(session, dog_id)
        row.muzzle, row.ears = muzzle, ears
        return card_of(row)


def photo_card(p: PhotoRow) -> PhotoCard:
    """looked: the machine has seen it; then card_markers and findings say what of."""
    seen = p.looked or {}
    return PhotoCard(
        id=p.id,
        view=p.view,
        state=p.state,
        file_name=p.file_name,
        width_px=p.width_px,
        height_px=p.height_px,
        marks=p.marks,
        has_edge=p.coat_edge is not None,
        edge_by_hand=bool(p.edge_by_hand),
        spare=bool(p.spare),
        taken=p.taken.isoformat(timespec="seconds") if p.taken else None,
        looked=p.looked is not None,
        card_markers=(seen.get("card") or {}).get("markers", 0),
        findings=tuple(seen.get("findings", ())),
    )


def saved_card(row: OutlineRow) -> dict[str, Any]:
    return {
        "family": row.family,
        "params": row.params,
        "schools": row.schools,
        "zones": row.zones,
        "version": row.version,
        "saved": row.saved.isoformat(timespec="seconds"),
        "inputs_hash": row.inputs_hash,
    }


def _stages(photos: list[PhotoRow], visit: VisitRow) -> dict[str, str]:
    marked = [p for p in photos if len(p.marks) >= max(MIN_MARKS, ENOUGH_MARKS)]
    done = {
        "photos": len(photos) >= 2,
        "marks": len(marked) >= 2 and bool(visit.hand_measures),
        "outline": bool(visit.outlines),
        "cut": bool(visit.cuts) and visit.cuts[-1].ended is not None,
    }
    return {stage: "done" if done[stage] else "needs_you" for stage in STAGES}
