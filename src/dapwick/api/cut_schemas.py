"""Wire shapes of the kit and the cut."""

from __future__ import annotations

from datetime import datetime
from typing import Literal

from pydantic import BaseModel, Field

from dapwick.api.said import Mm, Name, OneLine, Said
from dapwick.core.cut.handling import About
from dapwick.core.plan.kit import Hand, Kind, Use, When, Work
from dapwick.documents.cut_sheet import SheetOut, Side


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


class ChipOut(BaseModel):
    code: str
    words: str


class TraitOut(BaseModel):
    """places: where it may be seen; a trait with places is said with one of them."""

    code: str
    words: str
    about: About
    places: list[ChipOut]


class CutGuide(BaseModel):
    """What can be said of a dog, and noted at a step; sayable: places for which a length can be said."""

    traits: list[TraitOut]
    notes: list[ChipOut]
    sayable: list[ChipOut]


class TraitsIn(Said):
    traits: list[Name] = Field(max_length=60)


class StylistIn(Said):
    name: Name


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
