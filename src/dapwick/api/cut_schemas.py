"""Wire shapes of the kit and the cut."""

from __future__ import annotations

from datetime import datetime
from typing import Literal

from pydantic import BaseModel, Field

from dapwick.api.said import Mm, Name, OneLine, Said
from dapwick.core.plan.kit import Hand, Kind, Use, When, Work
from dapwick.core.plan.rule import Doing

Side = Literal["left", "right"]
Point = tuple[float, float]


class ToolIO(Said):
    id: OneLine = Field(min_length=1, max_length=60)
    kind: Kind
    name: Name
    use: Use
    leaves_mm: Mm | None = None


class SkinLimitsIO(Said):
    first_mm: Mm
    then_mm: list[Mm] = Field(min_length=1, max_length=10)
    white_mm: Mm
    sore_mm: Mm


class StylistIO(Said):
    name: Name
    hand: Hand = "right"
    awkward_side: Side | None = None
    awkward: When = "first"
    work: Work = "clip_first"


class KitIO(Said):
    tools: list[ToolIO] = Field(max_length=200)
    against_share: float
    skin: SkinLimitsIO
    stylists: list[StylistIO] = Field(max_length=60)


class TraitOut(BaseModel):
    code: str
    words: str
    about: Literal["minds", "dog", "coat", "skin"]


class ChipOut(BaseModel):
    code: str
    words: str


class CutGuide(BaseModel):
    """What can be said of a dog, and noted at a step."""

    traits: list[TraitOut]
    notes: list[ChipOut]


class TraitsIn(Said):
    traits: list[Name] = Field(max_length=60)


class StylistIn(Said):
    name: Name


class EndOut(BaseModel):
    """One end of how a length runs over a place: mm, and where in words."""

    mm: float
    words: str


class RunOut(BaseModel):
    short: EndOut
    long: EndOut


class CutOfZone(BaseModel):
    """part: of the zone, "" for all of it; upper_mm: no blade or guard goes under that."""

    zone: str
    side: Side
    part: str = ""
    upper_mm: float | None = None
    run: RunOut | None = None
    leave_mm: float
    low: float
    high: float
    now_mm: float
    remove_mm: float
    shortest_mm: float
    longest_mm: float


class PartOut(BaseModel):
    """run: how the length runs there, where it is not one number."""

    words: str
    leave_mm: float | None
    run: str = ""


class CombFirstOut(BaseModel):
    """A place to be combed to the skin and read before the step."""

    zone: str
    side: Side
    words: str
    asks_mm: float
    sure_mm: float


class LengthAt(BaseModel):
    """A length written on the head, mm."""

    at: Point
    mm: float


class AloneOut(BaseModel):
    """A place where nothing is cut, and why."""

    zone: str
    side: Side
    part: str
    reason: str
    missing_mm: float
    weeks: tuple[int, int]


class CautionOut(BaseModel):
    id: str
    brief: str
    words: str
    full: bool


class BecauseOut(BaseModel):
    of: str
    words: str


class StepOut(BaseModel):
    id: str
    number: int
    rule: str
    chapter: str
    doing: Doing
    title: str
    how: str
    side: Side | None
    zones: list[str]
    cuts: list[CutOfZone]
    leave_mm: Point | None
    parts: list[PartOut]
    comb_first: list[CombFirstOut] = []
    eye: str
    tool: str
    tool_id: str | None
    then_scissors: bool
    told: str
    direction: str
    hold: str
    check: str
    cautions: list[CautionOut]
    minutes: float
    usual_min: float
    minded: list[str]
    may_end: bool
    ends_with: str
    sides_words: list[str]
    why: list[BecauseOut]
    view: str
    line: list[Point]
    lengths: list[LengthAt] = []


class SmallHeadOut(BaseModel):
    skin: list[Point]
    coat: list[Point]
    outline: list[Point]


class SheetStylist(BaseModel):
    name: str
    hand: Hand
    first_side: Side


class SheetOut(BaseModel):
    """The cut sheet (see docs/formats.md) with its drawings, mm."""

    format: str
    version: str
    dog: str
    family: str
    outline: str
    finish: str
    schools: dict[str, str]
    stylist: SheetStylist
    traits: list[str]
    minutes: float
    tools: list[str]
    left_alone: list[str]
    before_time: str = ""
    alone: list[AloneOut] = []
    steps: list[StepOut]
    heads: dict[str, SmallHeadOut]
    patches: dict[str, list[Point]]


class EntryIn(Said):
    """What was done in one step; tool and length where they differ from the sheet. state open takes it back."""

    state: Literal["done", "skipped", "open"]
    seconds: float | None = Field(default=None, ge=0)
    tool: OneLine = Field(default="", max_length=60)
    length_mm: float | None = Field(default=None, ge=0, le=200)
    notes: list[Name] = Field(default=[], max_length=12)
    at: datetime | None = None


class EntryOut(EntryIn):
    step: str


class StartIn(Said):
    again: bool = False


class EndIn(Said):
    stopped_after: Name | None = None


class CutOut(BaseModel):
    """version: of the cut that has begun, for the If-Match of its steps."""

    id: int | None
    version: str | None
    sheet: SheetOut | None
    reason: str
    stylist: str
    started: datetime | None
    ended: datetime | None
    stopped_after: str | None
    stale: bool
    log: dict[str, EntryOut]
