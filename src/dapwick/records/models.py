"""Tables. JSON columns hold what is always read and written whole (marks, edges, results); large ones that lists do not
need are read when they are asked for."""

from __future__ import annotations

from collections.abc import Callable
from datetime import UTC, datetime
from typing import Any, Final
from uuid import uuid4

from sqlalchemy import JSON, ForeignKey, String, UniqueConstraint
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column, relationship

from dapwick.core.basics.head_kind import Carriage, Muzzle
from dapwick.core.basics.marks import State, View
from dapwick.documents.bone import BoneDocument
from dapwick.documents.check import CheckDocument, TouchedUp
from dapwick.documents.edge import EdgeDocument
from dapwick.documents.marks import Marks
from dapwick.documents.next_time import NotePart, Said
from dapwick.documents.practice import Answered, Asked, Told
from dapwick.documents.readings import CombDocument, FinishedComb, ReadingDocument
from dapwick.documents.results import MeasuresDocument, ZoneDocument
from dapwick.documents.review import ReviewDocument
from dapwick.documents.wishes import WishesDocument
from dapwick.records.typed import Typed


def now() -> datetime:
    return datetime.now(UTC).replace(tzinfo=None)


def new_uid() -> str:
    return uuid4().hex


ONCE: Final = {"sqlite_autoincrement": True}
"""Ids come once: that of a row which is gone is never given to another."""


class Base(DeclarativeBase):
    """Root of all tables."""


class DogRow(Base):
    """muzzle, ears: the kind of head, where somebody said so; traits: codes of core/cut/handling.py. uid: the same
    in every salon that has the dog from a bundle. demo: it came with the demo salon. removed: taken off the lists,
    kept until a purge."""

    __tablename__ = "dog"
    __table_args__ = ONCE
    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(String(80), index=True)
    breed: Mapped[str] = mapped_column(String(120), default="")
    coat: Mapped[str] = mapped_column(String(20))
    born: Mapped[str | None] = mapped_column(String(10), default=None)
    muzzle: Mapped[Muzzle] = mapped_column(String(8), default="any")
    ears: Mapped[Carriage] = mapped_column(String(8), default="any")
    traits: Mapped[list[str]] = mapped_column(JSON, default=list)
    uid: Mapped[str] = mapped_column(String(32), default=new_uid, index=True)
    demo: Mapped[bool] = mapped_column(default=False)
    removed: Mapped[datetime | None] = mapped_column(default=None)
    visits: Mapped[list[VisitRow]] = relationship(back_populates="dog", order_by="VisitRow.id")


class VisitRow(Base):
    """bone: what had been measured when the visit ended, measures: the same in words of the trade, {id: [value,
    σ]}; owner_words: what was said; note: what was known when it began, next_note what the next one is to know;
    stylist: who cuts. checked: the finished head against its plan; touched_up: what was done about it, by zone and
    side; combed_after: what a comb found on it. from_last: the parts of the last visit's note; for_next: what was
    made of this one's, by part (service/after/next_time.py)."""

    __tablename__ = "visit"
    __table_args__ = ONCE
    id: Mapped[int] = mapped_column(primary_key=True)
    dog_id: Mapped[int] = mapped_column(ForeignKey("dog.id"), index=True)
    note: Mapped[str] = mapped_column(String(400), default="")
    next_note: Mapped[str] = mapped_column(String(400), default="")
    owner_words: Mapped[str] = mapped_column(String(1000), default="")
    hand_measures: Mapped[list[ReadingDocument]] = mapped_column(Typed(list[ReadingDocument]), default=list)
    coat_probes: Mapped[list[CombDocument]] = mapped_column(Typed(list[CombDocument]), default=list)
    bone: Mapped[BoneDocument | None] = mapped_column(Typed(BoneDocument), default=None, deferred=True)
    measures: Mapped[MeasuresDocument | None] = mapped_column(Typed(MeasuresDocument), default=None)
    wishes: Mapped[WishesDocument] = mapped_column(Typed(WishesDocument), default=WishesDocument)
    stylist: Mapped[str] = mapped_column(String(40), default="")
    checked: Mapped[CheckDocument | None] = mapped_column(Typed(CheckDocument), default=None, deferred=True)
    touched_up: Mapped[dict[str, TouchedUp]] = mapped_column(Typed(dict[str, TouchedUp]), default=dict)
    combed_after: Mapped[list[FinishedComb]] = mapped_column(Typed(list[FinishedComb]), default=list)
    from_last: Mapped[list[NotePart]] = mapped_column(Typed(list[NotePart]), default=list)
    for_next: Mapped[dict[str, Said]] = mapped_column(Typed(dict[str, Said]), default=dict)
    created: Mapped[datetime] = mapped_column(default=now, index=True)
    ended: Mapped[datetime | None] = mapped_column(default=None)
    dog: Mapped[DogRow] = relationship(back_populates="visits")
    expectations: Mapped[list[ExpectationRow]] = relationship(
        back_populates="visit", order_by="ExpectationRow.id"
    )
    photos: Mapped[list[PhotoRow]] = relationship(back_populates="visit", order_by="PhotoRow.id")
    outlines: Mapped[list[OutlineRow]] = relationship(back_populates="visit", order_by="OutlineRow.id")
    cuts: Mapped[list[CutRow]] = relationship(back_populates="visit", order_by="CutRow.id")


Beside = Callable[["VisitRow"], None]
"""What else of a visit is written in the same change as one of its parts."""


class ExpectationRow(Base):
    """What was expected, with its σ, before a person read it: kind (core/after/expected.py) and what of it, found.
    taken_back: the reading was removed again; it is told, not counted; here: read in this salon, not come
    with a bundle."""

    __tablename__ = "expectation"
    __table_args__ = ONCE
    id: Mapped[int] = mapped_column(primary_key=True)
    visit_id: Mapped[int] = mapped_column(ForeignKey("visit.id"), index=True)
    kind: Mapped[str] = mapped_column(String(16), index=True)
    what: Mapped[str] = mapped_column(String(80))
    expected: Mapped[float]
    sigma: Mapped[float]
    found: Mapped[float]
    unit: Mapped[str] = mapped_column(String(8))
    version: Mapped[str] = mapped_column(String(40), default="")
    at: Mapped[datetime] = mapped_column(default=now)
    taken_back: Mapped[bool] = mapped_column(default=False)
    here: Mapped[bool] = mapped_column(default=True)
    visit: Mapped[VisitRow] = relationship(back_populates="expectations")


class BookingRow(Base):
    """A time in the book: day as ISO date, starts HH:MM or nothing for whoever walks in, minutes kept free for it;
    visit_id once the visit has begun. uid names it in a calendar."""

    __tablename__ = "booking"
    __table_args__ = ONCE
    id: Mapped[int] = mapped_column(primary_key=True)
    dog_id: Mapped[int] = mapped_column(ForeignKey("dog.id"), index=True)
    day: Mapped[str] = mapped_column(String(10), index=True)
    starts: Mapped[str] = mapped_column(String(5), default="")
    minutes: Mapped[int]
    words: Mapped[str] = mapped_column(String(200), default="")
    visit_id: Mapped[int | None] = mapped_column(ForeignKey("visit.id"), default=None)
    uid: Mapped[str] = mapped_column(String(32), default=new_uid)
    removed: Mapped[datetime | None] = mapped_column(default=None)
    dog: Mapped[DogRow] = relationship()


class PhotoRow(Base):
    """content_hash names the original file; removed photos stay until a purge. spare: kept beside the slots; maybe: the
    views it may show, likeliest first, until somebody says. coat_edge: the traced line, on a wet photo the near-skin
    edge; neck: two points of a line across the neck, below which nothing of the edge counts. looked: what the machine
    saw (pipeline/review.py)."""

    __tablename__ = "photo"
    __table_args__ = ONCE
    id: Mapped[int] = mapped_column(primary_key=True)
    visit_id: Mapped[int] = mapped_column(ForeignKey("visit.id"), index=True)
    view: Mapped[View] = mapped_column(String(24))
    state: Mapped[State] = mapped_column(String(12))
    file_name: Mapped[str] = mapped_column(String(200))
    content_hash: Mapped[str] = mapped_column(String(64), index=True)
    width_px: Mapped[int]
    height_px: Mapped[int]
    focal_px: Mapped[float | None] = mapped_column(default=None)
    taken: Mapped[datetime | None] = mapped_column(default=None)
    marks: Mapped[Marks] = mapped_column(Typed(Marks), default=dict)
    coat_edge: Mapped[list[list[float]] | None] = mapped_column(JSON, default=None)
    edge_by_hand: Mapped[bool] = mapped_column(default=False)
    neck: Mapped[list[list[float]] | None] = mapped_column(JSON, default=None)
    looked: Mapped[ReviewDocument | None] = mapped_column(Typed(ReviewDocument), default=None)
    spare: Mapped[bool] = mapped_column(default=False)
    maybe: Mapped[list[View] | None] = mapped_column(JSON, default=None)
    removed: Mapped[datetime | None] = mapped_column(default=None)
    visit: Mapped[VisitRow] = relationship(back_populates="photos")

    @property
    def edge(self) -> EdgeDocument:
        return EdgeDocument(line=self.coat_edge or [], neck=self.neck)


class OutlineRow(Base):
    """A saved plan: the result as it was shown, from which inputs and with which version. rests_on: the hash of each
    kind of input (service/visits/provenance.py); lines: its aligned views, mm (pipeline/plan.py sheet_lines)."""

    __tablename__ = "outline"
    __table_args__ = ONCE
    id: Mapped[int] = mapped_column(primary_key=True)
    visit_id: Mapped[int] = mapped_column(ForeignKey("visit.id"), index=True)
    family: Mapped[str] = mapped_column(String(24))
    params: Mapped[dict[str, Any]] = mapped_column(JSON)
    schools: Mapped[dict[str, Any]] = mapped_column(JSON, default=dict)
    zones: Mapped[list[ZoneDocument]] = mapped_column(Typed(list[ZoneDocument]), deferred=True)
    inputs_hash: Mapped[str] = mapped_column(String(64))
    rests_on: Mapped[dict[str, str]] = mapped_column(JSON, default=dict)
    lines: Mapped[dict[str, Any]] = mapped_column(JSON, default=dict, deferred=True)
    version: Mapped[str] = mapped_column(String(40))
    saved: Mapped[datetime] = mapped_column(default=now)
    visit: Mapped[VisitRow] = relationship(back_populates="outlines")


class CutRow(Base):
    """One go at the cut: the sheet in use (documents/cut_sheet.py), by whom, how it ended. started: when the cut began;
    made: when this sheet of it was made. stopped_after: the last step's id where it was ended early."""

    __tablename__ = "cut"
    __table_args__ = ONCE
    id: Mapped[int] = mapped_column(primary_key=True)
    visit_id: Mapped[int] = mapped_column(ForeignKey("visit.id"), index=True)
    sheet: Mapped[dict[str, Any]] = mapped_column(JSON, deferred=True)
    inputs_hash: Mapped[str] = mapped_column(String(64))
    stylist: Mapped[str] = mapped_column(String(40), default="", index=True)
    started: Mapped[datetime] = mapped_column(default=now)
    made: Mapped[datetime | None] = mapped_column(default=now)
    ended: Mapped[datetime | None] = mapped_column(default=None, index=True)
    stopped_after: Mapped[str | None] = mapped_column(String(80), default=None)
    visit: Mapped[VisitRow] = relationship(back_populates="cuts")
    steps: Mapped[list[CutStepRow]] = relationship(back_populates="cut", order_by="CutStepRow.at")


class CutStepRow(Base):
    """What was really done in one step: state done or skipped; seconds it was on the screen; tool and length where
    they differ from the sheet; notes: chips."""

    __tablename__ = "cut_step"
    __table_args__ = (UniqueConstraint("cut_id", "step"), ONCE)
    id: Mapped[int] = mapped_column(primary_key=True)
    cut_id: Mapped[int] = mapped_column(ForeignKey("cut.id"), index=True)
    step: Mapped[str] = mapped_column(String(80))
    rule: Mapped[str] = mapped_column(String(40))
    state: Mapped[str] = mapped_column(String(8))
    usual_min: Mapped[float]
    seconds: Mapped[float | None] = mapped_column(default=None)
    tool: Mapped[str] = mapped_column(String(60), default="")
    length_mm: Mapped[float | None] = mapped_column(default=None)
    notes: Mapped[list[str]] = mapped_column(JSON, default=list)
    at: Mapped[datetime] = mapped_column(default=now, index=True)
    cut: Mapped[CutRow] = relationship(back_populates="steps")


class VariantRow(Base):
    """A salon's own variant of a family: its document (core/outlines/variant.py)."""

    __tablename__ = "variant"
    __table_args__ = ONCE
    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(String(60))
    document: Mapped[dict[str, Any]] = mapped_column(JSON)
    created: Mapped[datetime] = mapped_column(default=now)
    removed: Mapped[datetime | None] = mapped_column(default=None)


class PracticePersonRow(Base):
    """Who practises. shown: they let a trainer see how it goes; removed: off the list, with what they did kept."""

    __tablename__ = "practice_person"
    __table_args__ = ONCE
    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(String(40))
    uid: Mapped[str] = mapped_column(String(32), default=new_uid)
    shown: Mapped[bool] = mapped_column(default=False)
    created: Mapped[datetime] = mapped_column(default=now)
    removed: Mapped[datetime | None] = mapped_column(default=None)
    tasks: Mapped[list[PracticeTaskRow]] = relationship(
        back_populates="person", order_by="PracticeTaskRow.id"
    )


class PracticeTaskRow(Base):
    """One question of a drill: turn counts a person's own in that drill, from 0; told: what came of the answer."""

    __tablename__ = "practice_task"
    __table_args__ = (UniqueConstraint("person_id", "drill", "turn"), ONCE)
    id: Mapped[int] = mapped_column(primary_key=True)
    person_id: Mapped[int] = mapped_column(ForeignKey("practice_person.id"), index=True)
    drill: Mapped[str] = mapped_column(String(12))
    turn: Mapped[int]
    asked: Mapped[Asked] = mapped_column(Typed(Asked))
    answer: Mapped[Answered | None] = mapped_column(Typed(Answered), default=None)
    told: Mapped[Told | None] = mapped_column(Typed(Told), default=None)
    version: Mapped[str] = mapped_column(String(40))
    begun: Mapped[datetime] = mapped_column(default=now)
    answered: Mapped[datetime | None] = mapped_column(default=None)
    person: Mapped[PracticePersonRow] = relationship(back_populates="tasks")


class SettingRow(Base):
    """Something the salon set for itself."""

    __tablename__ = "setting"
    key: Mapped[str] = mapped_column(String(40), primary_key=True)
    value: Mapped[Any] = mapped_column(JSON)


class SessionRow(Base):
    """A tablet that has given the passcode; only the hash of its token is kept."""

    __tablename__ = "session"
    token_hash: Mapped[str] = mapped_column(String(64), primary_key=True)
    created: Mapped[datetime] = mapped_column(default=now)
    seen: Mapped[datetime] = mapped_column(default=now)
