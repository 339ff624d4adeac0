"""A cut sheet's document as a model: what screens are answered with, and what kept ones are held against."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, Field

from dapwick.core.cut.rule import Doing
from dapwick.core.plan.kit import Hand

Side = Literal["left", "right"]
Point = tuple[float, float]


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
    comb_first: list[CombFirstOut] = Field(default=[])
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
    lengths: list[LengthAt] = Field(default=[])


class SmallHeadOut(BaseModel):
    skin: list[Point]
    coat: list[Point]
    outline: list[Point]
    marks: dict[str, Point] = Field(default={})


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
    rests_on: str = ""
    alone: list[AloneOut] = Field(default=[])
    steps: list[StepOut]
    heads: dict[str, SmallHeadOut]
    patches: dict[str, list[Point]]
