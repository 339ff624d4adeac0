"""Tables. JSON columns hold what is always read and written whole (marks, edges, results)."""

from __future__ import annotations

from datetime import UTC, datetime
from typing import Any

from sqlalchemy import JSON, ForeignKey, String, UniqueConstraint
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column, relationship


def now() -> datetime:
    return datetime.now(UTC).replace(tzinfo=None)


class Base(DeclarativeBase):
    """Root of all tables."""


class DogRow(Base):
    """muzzle, ears: the kind of head, where somebody said so; traits: codes of core/plan/handling.py."""

    __tablename__ = "dog"
    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(String(80))
    breed: Mapped[str] = mapped_column(String(120), default="")
    coat: Mapped[str] = mapped_column(String(20))
    born: Mapped[str | None] = mapped_column(String(10), default=None)
    muzzle: Mapped[str] = mapped_column(String(8), default="any")
    ears: Mapped[str] = mapped_column(String(8), default="any")
    traits: Mapped[list[str]] = mapped_column(JSON, default=list)
    visits: Mapped[list[VisitRow]] = relationship(back_populates="dog", order_by="VisitRow.id")


class VisitRow(Base):
    """hand_measures: list of {from, to, mm, sigma_mm}; coat_probes as in the head file; bone: what had been
    measured when the visit ended (service/bones.py); wishes: as in the head file; stylist: who cuts."""

    __tablename__ = "visit"
    id: Mapped[int] = mapped_column(primary_key=True)
    dog_id: Mapped[int] = mapped_column(ForeignKey("dog.id"))
    starts: Mapped[str] = mapped_column(String(5), default="")
    note: Mapped[str] = mapped_column(String(400), default="")
    hand_measures: Mapped[list[dict[str, Any]]] = mapped_column(JSON, default=list)
    coat_probes: Mapped[list[dict[str, Any]]] = mapped_column(JSON, default=list)
    bone: Mapped[dict[str, Any] | None] = mapped_column(JSON, default=None)
    wishes: Mapped[dict[str, Any]] = mapped_column(JSON, default=dict)
    stylist: Mapped[str] = mapped_column(String(40), default="")
    created: Mapped[datetime] = mapped_column(default=now)
    dog: Mapped[DogRow] = relationship(back_populates="visits")
    photos: Mapped[list[PhotoRow]] = relationship(back_populates="visit", order_by="PhotoRow.id")
    outlines: Mapped[list[OutlineRow]] = relationship(back_populates="visit", order_by="OutlineRow.id")
    cuts: Mapped[list[CutRow]] = relationship(back_populates="visit", order_by="CutRow.id")


class PhotoRow(Base):
    """marks: {id: {at: [x, y], kind?, unsure?}}, px after EXIF orientation. content_hash names the
    original file; removed photos stay until a purge. spare: kept beside the slots. coat_edge: the traced
    line, on a wet photo the near-skin edge. looked: what the machine saw (service/looking.py)."""

    __tablename__ = "photo"
    id: Mapped[int] = mapped_column(primary_key=True)
    visit_id: Mapped[int] = mapped_column(ForeignKey("visit.id"))
    view: Mapped[str] = mapped_column(String(24))
    state: Mapped[str] = mapped_column(String(12))
    file_name: Mapped[str] = mapped_column(String(200))
    content_hash: Mapped[str] = mapped_column(String(64))
    width_px: Mapped[int]
    height_px: Mapped[int]
    focal_px: Mapped[float | None] = mapped_column(default=None)
    taken: Mapped[datetime | None] = mapped_column(default=None)
    marks: Mapped[dict[str, Any]] = mapped_column(JSON, default=dict)
    coat_edge: Mapped[list[list[float]] | None] = mapped_column(JSON, default=None)
    edge_by_hand: Mapped[bool] = mapped_column(default=False)
    looked: Mapped[dict[str, Any] | None] = mapped_column(JSON, default=None)
    spare: Mapped[bool] = mapped_column(default=False)
    removed: Mapped[datetime | None] = mapped_column(default=None)
    visit: Mapped[VisitRow] = relationship(back_populates="photos")


class OutlineRow(Base):
    """A saved plan: the result as it was shown, from which inputs and with which version."""

    __tablename__ = "outline"
    id: Mapped[int] = mapped_column(primary_key=True)
    visit_id: Mapped[int] = mapped_column(ForeignKey("visit.id"))
    family: Mapped[str] = mapped_column(String(24))
    params: Mapped[dict[str, Any]] = mapped_column(JSON)
    schools: Mapped[dict[str, Any]] = mapped_column(JSON, default=dict)
    zones: Mapped[list[dict[str, Any]]] = mapped_column(JSON)
    inputs_hash: Mapped[str] = mapped_column(String(64))
    version: Mapped[str] = mapped_column(String(40))
    saved: Mapped[datetime] = mapped_column(default=now)
    visit: Mapped[VisitRow] = relationship(back_populates="outlines")


class CutRow(Base):
    """One go at the cut: the sheet as it was when it began (service/cutsheet.py), by whom, and how it ended.
    stopped_after: the last step's id where it was ended early."""

    __tablename__ = "cut"
    id: Mapped[int] = mapped_column(primary_key=True)
    visit_id: Mapped[int] = mapped_column(ForeignKey("visit.id"))
    sheet: Mapped[dict[str, Any]] = mapped_column(JSON)
    inputs_hash: Mapped[str] = mapped_column(String(64))
    stylist: Mapped[str] = mapped_column(String(40), default="")
    started: Mapped[datetime] = mapped_column(default=now)
    ended: Mapped[datetime | None] = mapped_column(default=None)
    stopped_after: Mapped[str | None] = mapped_column(String(80), default=None)
    visit: Mapped[VisitRow] = relationship(back_populates="cuts")
    steps: Mapped[list[CutStepRow]] = relationship(back_populates="cut", order_by="CutStepRow.at")


class CutStepRow(Base):
    """What was really done in one step: state done or skipped; seconds it was on the screen; tool and length where
    they differ from the sheet; notes: chips."""

    __tablename__ = "cut_step"
    __table_args__ = (UniqueConstraint("cut_id", "step"),)
    id: Mapped[int] = mapped_column(primary_key=True)
    cut_id: Mapped[int] = mapped_column(ForeignKey("cut.id"))
    step: Mapped[str] = mapped_column(String(80))
    rule: Mapped[str] = mapped_column(String(40))
    state: Mapped[str] = mapped_column(String(8))
    usual_min: Mapped[float]
    seconds: Mapped[float | None] = mapped_column(default=None)
    tool: Mapped[str] = mapped_column(String(60), default="")
    length_mm: Mapped[float | None] = mapped_column(default=None)
    notes: Mapped[list[str]] = mapped_column(JSON, default=list)
    at: Mapped[datetime] = mapped_column(default=now)
    cut: Mapped[CutRow] = relationship(back_populates="steps")


class VariantRow(Base):
    """A salon's own variant of a family: its document (core/outlines/variant.py)."""

    __tablename__ = "variant"
    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(String(60))
    document: Mapped[dict[str, Any]] = mapped_column(JSON)
    created: Mapped[datetime] = mapped_column(default=now)
    removed: Mapped[datetime | None] = mapped_column(default=None)


class SettingRow(Base):
    """Something the salon set for itself."""

    __tablename__ = "setting"
    key: Mapped[str] = mapped_column(String(40), primary_key=True)
    value: Mapped[Any] = mapped_column(JSON)
