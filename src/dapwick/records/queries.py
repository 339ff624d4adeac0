"""Reads from the records; each takes the session first."""

from __future__ import annotations

from sqlalchemy import select
from sqlalchemy.orm import Session, selectinload

from dapwick.core.errors import NotFound
from dapwick.records.models import CutRow, CutStepRow, DogRow, PhotoRow, VariantRow, VisitRow


def dogs_in_order(session: Session) -> list[DogRow]:
    """Dogs with visits and photos, by the time their visit starts."""
    load = selectinload(DogRow.visits).selectinload(VisitRow.photos)
    rows = list(session.scalars(select(DogRow).options(load)))
    return sorted(rows, key=lambda dog: (dog.visits[-1].starts or "99", dog.id))


def dog(session: Session, dog_id: int) -> DogRow:
    row = session.get(DogRow, dog_id)
    if row is None:
        raise NotFound("dog", dog_id)
    return row


def visit_today(session: Session, dog_id: int) -> VisitRow:
    """The visit that is open for a dog: its latest."""
    return dog(session, dog_id).visits[-1]


def photos_of(visit: VisitRow) -> list[PhotoRow]:
    """The photos in their slots."""
    return [photo for photo in visit.photos if photo.removed is None and not photo.spare]


def spares_of(visit: VisitRow) -> list[PhotoRow]:
    """Photos kept beside the slots."""
    return [photo for photo in visit.photos if photo.removed is None and photo.spare]


def others_in_slot(visit: VisitRow, row: PhotoRow) -> list[PhotoRow]:
    """Photos in the slot that another photo belongs to by its view and state."""
    return [p for p in photos_of(visit) if p is not row and (p.view, p.state) == (row.view, row.state)]


def file_is_used(session: Session, digest: str) -> bool:
    return session.scalar(select(PhotoRow.id).where(PhotoRow.content_hash == digest).limit(1)) is not None


def all_files(session: Session) -> set[str]:
    """Hashes of every photo on record, removed ones too."""
    return set(session.scalars(select(PhotoRow.content_hash)))


def photo(session: Session, photo_id: int) -> PhotoRow:
    row = session.get(PhotoRow, photo_id)
    if row is None or row.removed is not None:
        raise NotFound("photo", photo_id)
    return row


def steps_done_by(session: Session, stylist: str) -> list[CutStepRow]:
    """Every step a stylist has done, oldest first."""
    rows = select(CutStepRow).join(CutRow).where(CutRow.stylist == stylist, CutStepRow.state == "done")
    return list(session.scalars(rows.order_by(CutStepRow.at)))


def variants(session: Session) -> list[VariantRow]:
    """The salon's own outlines, oldest first."""
    return list(
        session.scalars(select(VariantRow).where(VariantRow.removed.is_(None)).order_by(VariantRow.id))
    )


def variant(session: Session, variant_id: int) -> VariantRow:
    """One of them; a removed one still opens, because visits may have used it."""
    row = session.get(VariantRow, variant_id)
    if row is None:
        raise NotFound("outline", variant_id)
    return row
