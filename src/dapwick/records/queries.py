"""Reads from the records; each takes the session first."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime
from typing import Any, Final, TypeVar

from sqlalchemy import Select, Text, exists, func, select, type_coerce
from sqlalchemy.orm import Session, aliased, contains_eager, selectinload

from dapwick.core.basics.errors import NotFound
from dapwick.documents.bone import BoneDocument
from dapwick.records.models import (
    BookingRow,
    CutRow,
    CutStepRow,
    DogRow,
    OutlineRow,
    PhotoRow,
    PracticePersonRow,
    PracticeTaskRow,
    VariantRow,
    VisitRow,
)

MOST_NAMED: Final = 200
"""So many missing photos are told by name."""
LARGEST_ID: Final = 2**63 - 1
Row = TypeVar("Row", DogRow, BookingRow, PhotoRow, VariantRow, PracticePersonRow, PracticeTaskRow)
STEPS_LEARNED_FROM: Final = 3000
"""A stylist's pace is told by the latest steps; older ones tell of somebody they were."""


def by_id(session: Session, kind: type[Row], row_id: int) -> Row | None:
    """A row by its number, whatever number that is."""
    return session.get(kind, row_id) if 0 < row_id <= LARGEST_ID else None


def dog(session: Session, dog_id: int) -> DogRow:
    """A dog on the lists."""
    row = by_id(session, DogRow, dog_id)
    if row is None or row.removed is not None:
        raise NotFound("dog", dog_id)
    return row


def removed_dog(session: Session, dog_id: int) -> DogRow:
    """A dog that was taken off the lists."""
    row = by_id(session, DogRow, dog_id)
    if row is None or row.removed is None:
        raise NotFound("removed dog", dog_id)
    return row


def removed_dogs(session: Session) -> list[DogRow]:
    """The latest removed first."""
    rows = select(DogRow).where(DogRow.removed.is_not(None)).order_by(DogRow.removed.desc())
    return list(session.scalars(rows))


def dogs_called(session: Session, words: str, most: int) -> list[DogRow]:
    """Dogs whose name or breed holds these words, by name; those whose name begins with them first."""
    rows = select(DogRow).where(DogRow.removed.is_(None))
    if words:
        rows = rows.where(
            DogRow.name.icontains(words, autoescape=True) | DogRow.breed.icontains(words, autoescape=True)
        )
        rows = rows.order_by(~DogRow.name.istartswith(words, autoescape=True))
    return list(session.scalars(rows.order_by(DogRow.name, DogRow.id).limit(most)))


def dog_by_uid(session: Session, uid: str) -> DogRow | None:
    return session.scalar(select(DogRow).where(DogRow.uid == uid).limit(1))


def demo_dogs(session: Session) -> list[DogRow]:
    return list(session.scalars(select(DogRow).where(DogRow.demo.is_(True))))


def any_dog(session: Session) -> bool:
    return session.scalar(select(DogRow.id).limit(1)) is not None


def last_visits(session: Session, dog_ids: Sequence[int]) -> dict[int, datetime]:
    """When each dog's latest visit began."""
    found = select(VisitRow.dog_id, func.max(VisitRow.created)).where(VisitRow.dog_id.in_(dog_ids))
    return dict(session.execute(found.group_by(VisitRow.dog_id)).all())


def head_pictures(session: Session, dog_ids: Sequence[int]) -> dict[int, str]:
    """The picture of each dog's latest photo from the front that was not removed."""
    found = (
        # SQLite gives the other columns of the row that has the maximum.
        select(VisitRow.dog_id, PhotoRow.content_hash, func.max(PhotoRow.id))
        .join(VisitRow)
        .where(
            VisitRow.dog_id.in_(dog_ids),
            PhotoRow.view == "front",
            PhotoRow.state != "wet",
            PhotoRow.removed.is_(None),
            PhotoRow.spare.is_(False),
        )
        .group_by(VisitRow.dog_id)
    )
    return {dog_id: picture for dog_id, picture, _ in session.execute(found)}


def bookings_on(session: Session, day: str) -> list[BookingRow]:
    """A day's bookings in their order; those without a time last."""
    rows = (
        select(BookingRow)
        .join(DogRow)
        .where(BookingRow.day == day, BookingRow.removed.is_(None), DogRow.removed.is_(None))
        .options(contains_eager(BookingRow.dog))
        .order_by(BookingRow.starts == "", BookingRow.starts, BookingRow.id)
    )
    return list(session.scalars(rows))


def bookings_between(session: Session, first: str, last: str) -> list[BookingRow]:
    rows = (
        select(BookingRow)
        .join(DogRow)
        .where(BookingRow.day.between(first, last), BookingRow.removed.is_(None), DogRow.removed.is_(None))
        .options(contains_eager(BookingRow.dog))
        .order_by(BookingRow.day, BookingRow.starts, BookingRow.id)
    )
    return list(session.scalars(rows))


def bookings_of(session: Session, dog_id: int, first: str) -> list[BookingRow]:
    """A dog's bookings from a day on that have not begun."""
    rows = select(BookingRow).where(
        BookingRow.dog_id == dog_id,
        BookingRow.day >= first,
        BookingRow.visit_id.is_(None),
        BookingRow.removed.is_(None),
    )
    return list(session.scalars(rows.order_by(BookingRow.day, BookingRow.starts)))


def booking(session: Session, booking_id: int) -> BookingRow:
    row = by_id(session, BookingRow, booking_id)
    if row is None:
        raise NotFound("booking", booking_id)
    return row


def left_open(session: Session, since: datetime, most: int) -> list[VisitRow]:
    """Visits with photos that nobody ended, begun since a moment, the latest first; each dog's latest alone."""
    later = aliased(VisitRow)
    has_later = exists().where(later.dog_id == VisitRow.dog_id, later.id > VisitRow.id)
    rows = (
        select(VisitRow)
        .join(DogRow)
        .where(
            VisitRow.created >= since,
            VisitRow.ended.is_(None),
            ~has_later,
            DogRow.removed.is_(None),
            VisitRow.photos.any(PhotoRow.removed.is_(None)),
        )
        .options(contains_eager(VisitRow.dog))
        .order_by(VisitRow.id.desc())
        .limit(most)
    )
    return list(session.scalars(rows))


def latest_visits_of(session: Session, dog_ids: Sequence[int]) -> dict[int, VisitRow]:
    """Each dog's latest visit, its photos without their edges and what the machine saw in them."""
    latest = select(func.max(VisitRow.id)).where(VisitRow.dog_id.in_(dog_ids)).group_by(VisitRow.dog_id)
    photos = selectinload(VisitRow.photos).defer(PhotoRow.looked).defer(PhotoRow.coat_edge)
    also = (selectinload(VisitRow.outlines), selectinload(VisitRow.cuts))
    rows = session.scalars(select(VisitRow).where(VisitRow.id.in_(latest)).options(photos, *also))
    return {row.dog_id: row for row in rows}


def coats_seen(session: Session, dog_ids: Sequence[int]) -> dict[int, datetime]:
    """When each dog's dry coat was last photographed."""
    found = (
        select(VisitRow.dog_id, func.max(VisitRow.created))
        .join(PhotoRow, PhotoRow.visit_id == VisitRow.id)
        .where(VisitRow.dog_id.in_(dog_ids), PhotoRow.state == "dry", PhotoRow.removed.is_(None))
        .group_by(VisitRow.dog_id)
    )
    return dict(session.execute(found).all())


HAS_BONE: Final = func.length(VisitRow.bone) > len("null")
"""A bone was kept with the visit; both nothing and an empty document count as none."""


def visits_with_bone(session: Session, dog_ids: Sequence[int]) -> dict[int, list[int]]:
    """Ids of the visits that measured the head, by dog."""
    found: dict[int, list[int]] = {}
    rows = select(VisitRow.dog_id, VisitRow.id).where(VisitRow.dog_id.in_(dog_ids), HAS_BONE)
    for dog_id, visit_id in session.execute(rows.order_by(VisitRow.id)):
        found.setdefault(dog_id, []).append(visit_id)
    return found


def visit_counts(session: Session, dog_ids: Sequence[int]) -> dict[int, int]:
    found = select(VisitRow.dog_id, func.count()).where(VisitRow.dog_id.in_(dog_ids))
    return dict(session.execute(found.group_by(VisitRow.dog_id)).all())


def cut_minutes_of(session: Session, dog_ids: Sequence[int]) -> dict[int, list[float]]:
    """Minutes each dog's ended cuts took, oldest first."""
    found: dict[int, list[float]] = {}
    rows = _cut_minutes().where(VisitRow.dog_id.in_(dog_ids)).order_by(CutRow.id)
    for dog_id, seconds in session.execute(rows):
        found.setdefault(dog_id, []).append((seconds or 0.0) / 60.0)
    return found


def latest_cut_minutes(session: Session, most: int) -> list[float]:
    """Minutes of the salon's latest ended cuts."""
    latest = select(CutRow.id).where(CutRow.ended.is_not(None)).order_by(CutRow.id.desc()).limit(most)
    return [
        (seconds or 0.0) / 60.0 for _, seconds in session.execute(_cut_minutes().where(CutRow.id.in_(latest)))
    ]


def cut_minutes_by_visit(session: Session, dog_id: int) -> dict[int, float]:
    """Minutes that each visit's latest cut took so far."""
    rows = (
        select(CutRow.visit_id, CutRow.id, func.sum(CutStepRow.seconds))
        .select_from(CutRow)
        .join(VisitRow, VisitRow.id == CutRow.visit_id)
        .join(CutStepRow, CutStepRow.cut_id == CutRow.id)
        .where(VisitRow.dog_id == dog_id, CutStepRow.seconds.is_not(None))
        .group_by(CutRow.id)
        .order_by(CutRow.id)
    )
    return {visit_id: (seconds or 0.0) / 60.0 for visit_id, _, seconds in session.execute(rows)}


def cut_notes_by_visit(session: Session, dog_id: int) -> dict[int, list[str]]:
    """Chips noted at the table, each once, by visit."""
    found: dict[int, list[str]] = {}
    rows = (
        select(CutRow.visit_id, CutStepRow.notes)
        .select_from(CutRow)
        .join(VisitRow, VisitRow.id == CutRow.visit_id)
        .join(CutStepRow, CutStepRow.cut_id == CutRow.id)
        .where(VisitRow.dog_id == dog_id, func.length(CutStepRow.notes) > len("[]"))
        .order_by(CutStepRow.at)
    )
    for visit_id, notes in session.execute(rows):
        found.setdefault(visit_id, []).extend(n for n in notes if n not in found[visit_id])
    return found


def _cut_minutes() -> Select[int, float | None]:
    """Of each ended cut the dog and the seconds that were timed."""
    return (
        select(VisitRow.dog_id, func.sum(CutStepRow.seconds))
        .select_from(CutRow)
        .join(VisitRow, VisitRow.id == CutRow.visit_id)
        .join(CutStepRow, CutStepRow.cut_id == CutRow.id)
        .where(CutRow.ended.is_not(None), CutStepRow.seconds.is_not(None))
        .group_by(CutRow.id)
    )


def visit_today(session: Session, dog_id: int) -> VisitRow:
    """The visit that is open for a dog: its latest."""
    return dog(session, dog_id).visits[-1]


def last_outline_by(session: Session, stylist: str) -> OutlineRow | None:
    """The outline a stylist kept last, on whichever dog."""
    kept = select(OutlineRow).join(VisitRow).where(VisitRow.stylist == stylist).order_by(OutlineRow.id.desc())
    return session.scalars(kept.limit(1)).first()


def photos_of(visit: VisitRow) -> list[PhotoRow]:
    """The photos in their slots."""
    return [photo for photo in visit.photos if photo.removed is None and not photo.spare]


def seen_in_photos(session: Session, visit: VisitRow) -> list[tuple[str, str, str, dict[str, Any], str, str]]:
    """Of each photo in its slot: content, view, state, marks, and as they are written down its edge and scale card.
    Edges are long: to know whether one has changed nobody needs to read it."""
    line, neck = (type_coerce(one, Text) for one in (PhotoRow.coat_edge, PhotoRow.neck))
    written = line, neck, func.json_extract(PhotoRow.looked, "$.card")
    rows = select(PhotoRow.content_hash, PhotoRow.view, PhotoRow.state, PhotoRow.marks, *written).where(
        PhotoRow.visit_id == visit.id, PhotoRow.removed.is_(None), PhotoRow.spare.is_(False)
    )
    return [
        (content, view, state, marks, "".join(w for w in (edge, neck) if w and w != "null"), card or "")
        for content, view, state, marks, edge, neck, card in session.execute(rows.order_by(PhotoRow.id))
    ]


def spares_of(visit: VisitRow) -> list[PhotoRow]:
    """Photos kept beside the slots."""
    return [photo for photo in visit.photos if photo.removed is None and photo.spare]


def others_in_slot(visit: VisitRow, row: PhotoRow) -> list[PhotoRow]:
    """Photos in the slot that another photo belongs to by its view and state."""
    return [p for p in photos_of(visit) if p is not row and (p.view, p.state) == (row.view, row.state)]


def photos_named(session: Session, digests: Sequence[str]) -> list[PhotoRow]:
    """Photos on record by their content, with their dogs."""
    if not digests:
        return []
    some = list(digests)[:MOST_NAMED]
    return list(
        session.scalars(select(PhotoRow).where(PhotoRow.content_hash.in_(some)).order_by(PhotoRow.id))
    )


def picture_is_shown(session: Session, digest: str) -> str | None:
    """The file name of a photo of this content that is on a list: neither it nor its dog removed."""
    rows = (
        select(PhotoRow.file_name)
        .join(VisitRow)
        .join(DogRow)
        .where(PhotoRow.content_hash == digest, PhotoRow.removed.is_(None), DogRow.removed.is_(None))
    )
    return session.scalar(rows.limit(1))


def every_dog(session: Session) -> list[tuple[int, bool]]:
    """Ids of all dogs, and whether they were removed."""
    rows = session.execute(select(DogRow.id, DogRow.removed.is_not(None)).order_by(DogRow.id))
    return [(dog_id, bool(gone)) for dog_id, gone in rows]


def file_is_used(session: Session, digest: str) -> bool:
    return session.scalar(select(PhotoRow.id).where(PhotoRow.content_hash == digest).limit(1)) is not None


def all_files(session: Session) -> set[str]:
    """Hashes of every photo on record, removed ones too."""
    return set(session.scalars(select(PhotoRow.content_hash)))


def shown_files(session: Session) -> set[str]:
    """Hashes of the photos on a list: neither they nor their dog removed."""
    shown = select(PhotoRow.content_hash).join(VisitRow).join(DogRow)
    return set(session.scalars(shown.where(PhotoRow.removed.is_(None), DogRow.removed.is_(None))))


def photo(session: Session, photo_id: int) -> PhotoRow:
    row = by_id(session, PhotoRow, photo_id)
    if row is None or row.removed is not None:
        raise NotFound("photo", photo_id)
    return row


def bone_before(session: Session, visit: VisitRow) -> BoneDocument | None:
    """What earlier visits of the dog measured, from the latest that did."""
    earlier = select(VisitRow.bone).where(VisitRow.dog_id == visit.dog_id, VisitRow.id < visit.id, HAS_BONE)
    return session.scalar(earlier.order_by(VisitRow.id.desc()).limit(1))


def steps_done_by(session: Session, stylist: str) -> list[tuple[str, float, float]]:
    """The latest steps a stylist has done, oldest first: rule, its usual minutes, seconds."""
    columns = select(CutStepRow.rule, CutStepRow.usual_min, CutStepRow.seconds).join(CutRow)
    rows = columns.where(
        CutRow.stylist == stylist, CutStepRow.state == "done", CutStepRow.seconds.is_not(None)
    )
    latest = rows.order_by(CutStepRow.at.desc(), CutStepRow.id.desc()).limit(STEPS_LEARNED_FROM)
    return [(rule, usual, seconds or 0.0) for rule, usual, seconds in session.execute(latest)][::-1]


def variants(session: Session) -> list[VariantRow]:
    """The salon's own outlines, oldest first."""
    return list(
        session.scalars(select(VariantRow).where(VariantRow.removed.is_(None)).order_by(VariantRow.id))
    )


def variant(session: Session, variant_id: int) -> VariantRow:
    """One of them; a removed one still opens, because visits may have used it."""
    row = by_id(session, VariantRow, variant_id)
    if row is None:
        raise NotFound("outline", variant_id)
    return row
