"""What Next time and How far off are asked and answer."""

from __future__ import annotations

from pydantic import BaseModel, Field

from dapwick.api.book_schemas import BookingOut
from dapwick.api.said import Said as Given
from dapwick.core.after.coming import EventId
from dapwick.core.after.expected import Kind
from dapwick.core.head.zones import Side
from dapwick.documents.next_time import NotePart, Said


class ToTellOut(BaseModel):
    part: NotePart
    kept: bool


class EventOut(BaseModel):
    """What shows as it grows out: weeks after the cut and days, low to high of four dogs in five; minded: by this
    owner."""

    id: EventId
    words: str
    weeks: float
    low: float
    high: float
    day: str
    low_day: str
    high_day: str
    minded: bool


class ComingOut(BaseModel):
    """The same of an outline that is not cut yet."""

    id: EventId
    words: str
    weeks: float
    low: float
    high: float
    minded: bool


class FreeOut(BaseModel):
    day: str
    starts: str


class RateOut(BaseModel):
    """How fast a zone grows, mm of hair a month, low to high of four dogs in five."""

    zone: str
    zone_words: str
    mm_a_month: float
    low: float
    high: float


class NextTimeOut(BaseModel):
    """reason: what is missing while there is no forecast; chance: by week after the cut, that something the owner minds
    shows; weeks, day: proposed; card: what the owner is told, line by line."""

    reason: str
    from_day: str
    parts: list[ToTellOut]
    events: list[EventOut]
    chance: list[float]
    weeks: int | None
    asked_weeks: int | None
    day: str | None
    words: str
    free: list[FreeOut]
    minutes: int
    booked: list[BookingOut]
    rates: list[RateOut]
    growth_visits: int
    disagreeing: list[str]
    card: list[str]
    ended: bool


class ForNextIn(Given):
    """What was made of the note's parts; one that is left out is told as it came."""

    said: dict[str, Said] = Field(max_length=100)


class LastingOut(BaseModel):
    """An outline cut for so many weeks: what to set, the weeks it is likely to last then, what is shorter, what shows
    first."""

    cut_for: int
    params: dict[str, float]
    weeks: int
    words: str
    first: str


class TallyOut(BaseModel):
    """One kind of reading; see core/after/expected.py."""

    kind: Kind
    words: str
    readings: int
    visits: int
    taken_back: int
    inside: int
    share: float
    low: float
    high: float
    bias_sigma: float
    bias_low: float
    bias_high: float
    bias: float
    unit: str
    wider: float
    wider_low: float
    wider_high: float
    offer: float | None
    says: str


class ReadingOut(BaseModel):
    """One reading: what was expected, its 95 % interval, what was found; off_sigma: how far off, in σ."""

    dog: str
    day: str
    kind: Kind
    what: str
    expected: float
    low: float
    high: float
    found: float
    unit: str
    off_sigma: float
    inside: bool
    counts: bool


class HowFarOffOut(BaseModel):
    """factors: the salon's own in use, by kind; demo: all readings are of the demo dogs."""

    tallies: list[TallyOut]
    factors: dict[str, float]
    latest: list[ReadingOut]
    demo: bool


class HandNoteOut(BaseModel):
    """What a stylist's own hand leaves long (more than 0) or short at a place, mm, in words to them."""

    zone: str
    side: Side
    mm: float
    words: str


class HandOut(BaseModel):
    """told: False where this stylist does not want to hear of it."""

    stylist: str
    told: bool
    notes: list[HandNoteOut]


class ToldIn(Given):
    stylist: str = Field(max_length=80)
    told: bool


class FactorIn(Given):
    """1 takes a factor back."""

    factor: float


class HoursIO(Given):
    """When the salon works: HH:MM; closed: days, 0 Monday to 6 Sunday; tables: heads at once."""

    opens: str = Field(max_length=5)
    closes: str = Field(max_length=5)
    closed: list[int] = Field(max_length=7)
    tables: int = Field(ge=-100, le=1000)
