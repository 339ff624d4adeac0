"""What the check is asked and answers."""

from __future__ import annotations

from typing import Annotated

from pydantic import BaseModel, Field

from dapwick.api.schemas import ProbeIO
from dapwick.core.after.readings import Spot
from dapwick.core.basics.marks import View
from dapwick.documents.check import Done, EvenEntry, PlaceEntry, ShortEntry, ToCombEntry, TouchUpEntry
from dapwick.documents.cut_sheet import Point


class TickOut(BaseModel):
    """A place along an outline: where it was planned and where it is, photo px; mm long (more than 0) or short."""

    planned: Point
    found: Point
    mm: float


class CheckedPhotoOut(BaseModel):
    """edge, outline: closed lines, photo px; why_not: why it does not count."""

    id: int
    view: View
    looked: bool
    width: int
    height: int
    edge: list[Point]
    outline: list[Point]
    ticks: list[TickOut]
    why_not: str


class StepForOut(BaseModel):
    """How the sheet did a place."""

    number: int
    title: str
    tool: str
    direction: str
    hold: str
    cautions: list[str]


class TouchUpOut(TouchUpEntry):
    """place: its key; done: what was done about it; step: how the sheet did it."""

    place: str
    zone_words: str
    done: Done | None
    step: StepForOut | None


class ToCombOut(ToCombEntry):
    zone_words: str


class CutCombIO(ProbeIO):
    """A comb pushed to the skin of the finished head: in the middle of a zone, or beside it."""

    spot: Spot = "middle"


CutCombs = Annotated[list[CutCombIO], Field(max_length=60)]


class PlaceOut(PlaceEntry):
    zone_words: str


class CheckOut(BaseModel):
    """reason: what is missing while there is no check; waiting: photos that are being looked at; pictures: views that
    can be shown before and after; combed: comb depths that count."""

    reason: str
    waiting: int
    words: str
    photos: list[CheckedPhotoOut]
    touch_ups: list[TouchUpOut]
    short: list[ShortEntry]
    comb: list[ToCombOut]
    combed: list[CutCombIO]
    even: list[EvenEntry]
    places: list[PlaceOut]
    pictures: list[View]


class TouchedUpIn(BaseModel):
    """What was done about each place, by "zone/side"; a place left out is open."""

    done: dict[str, Done] = Field(max_length=100)
