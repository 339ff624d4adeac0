"""Wire shapes of the day, the book, lists of dogs and their history."""

from __future__ import annotations

from pydantic import BaseModel, Field

from dapwick.api.said import OneLine, Said
from dapwick.api.schemas import Line, StageState

Day = str


class BookingIn(Said):
    """starts HH:MM, or nothing for a dog that walks in; minutes kept free."""

    day: Day = Field(max_length=10)
    starts: str = Field(default="", max_length=5)
    minutes: int = Field(default=90, ge=-10_000, le=10_000)
    words: OneLine = Field(default="", max_length=200)


class BookingOut(BaseModel):
    id: int
    dog_id: int
    dog: str
    day: Day
    starts: str
    ends: str
    minutes: int
    words: str
    visit_id: int | None


class ExpectedOut(BaseModel):
    """Minutes for the head; low..high holds for four of five; heads: of this dog that it rests on."""

    minutes: float
    low: float
    high: float
    heads: int


class KnownOut(BaseModel):
    words: str
    fresh: bool


class DueOut(BaseModel):
    """One dog of a day; booking is nothing for a visit left open on an earlier day, which left_open then names."""

    booking: BookingOut | None
    dog_id: int
    name: str
    breed: str
    coat: str
    picture: str | None
    begun: bool
    ended: bool
    stages: dict[str, StageState]
    next: str
    expected: ExpectedOut
    known: list[KnownOut]
    note: str
    left_open: Day | None


class DayOut(BaseModel):
    day: Day
    today: bool
    dogs: list[DueOut]


class BriefOut(BaseModel):
    id: int
    name: str
    breed: str
    coat: str
    last_visit: Day | None
    picture: str | None


class RemovedOut(BaseModel):
    """A dog off the lists and what a purge would take."""

    id: int
    name: str
    breed: str
    removed: Day
    visits: int
    photos: int
    photo_bytes: int
    outlines: int
    cuts: int


class PurgeIn(Said):
    """The dog's name, so that nobody purges by a slip of the finger."""

    name: str = Field(max_length=80)


class FollowedOut(BaseModel):
    id: str
    words: str
    value: float
    low: float
    high: float


class ZoneThenOut(BaseModel):
    """Hair of a zone, mm of length: as it came, and as planned to be left."""

    zone: str
    came_mm: float
    left_mm: float


class VisitThenOut(BaseModel):
    """One visit of a dog's history; lines: its outline in the aligned views, mm."""

    id: int
    day: Day
    note: str
    next_note: str
    owner_words: str
    stylist: str
    measures: list[FollowedOut]
    coat: list[ZoneThenOut]
    lines: dict[str, Line]
    family: str | None
    version: str
    minutes: float | None
    cut_notes: list[str]


class HistoryOut(BaseModel):
    """Oldest visit first."""

    visits: list[VisitThenOut]
