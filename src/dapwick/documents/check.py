"""A finished head's check as it is kept with its visit, and what was done about it."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, ConfigDict, Field

from dapwick.core.after.check import Check, Sides
from dapwick.core.after.readings import Spot
from dapwick.core.after.tolerance import State
from dapwick.documents.document import Document

Side = Literal["left", "right"]
Done = Literal["done", "skipped", "left"]
"""Taken in; passed over; left because the dog had had enough."""


class _Entry(BaseModel):
    """Screens are answered with these as they are kept."""

    model_config = ConfigDict(frozen=True, allow_inf_nan=False)


class PlaceEntry(_Entry):
    """A zone of one side: off_mm as hair is drawn out (long more than 0), low..high its 90 % interval; depth_mm as it
    stands and its σ; left_mm: hair found there."""

    zone: str
    side: Side
    state: State
    off_mm: float
    low: float
    high: float
    depth_mm: float
    sigma_mm: float
    left_mm: float
    part: str = ""


class TouchUpEntry(_Entry):
    zone: str
    side: Side
    off_mm: float
    low: float
    high: float
    leave_mm: float
    words: str


class ShortEntry(_Entry):
    zone: str
    side: Side
    missing_mm: float
    weeks: tuple[int, int]
    words: str


class ToCombEntry(_Entry):
    zone: str
    side: Side
    off_mm: float
    leave_mm: float
    why: str = ""
    words: str
    state: State = "outside"
    spot: Spot = "middle"


class EvenEntry(_Entry):
    """Left minus right of the outline, mm; bone_mm: how far the bone under it differs."""

    zone: str
    mm: float
    low: float
    high: float
    bone_mm: float
    state: Sides
    words: str


class CheckDocument(Document):
    """rests_on: the hash of what it was made from."""

    version: str
    rests_on: str
    words: str
    places: list[PlaceEntry] = Field(default=[], max_length=100)
    touch_ups: list[TouchUpEntry] = Field(default=[], max_length=100)
    short: list[ShortEntry] = Field(default=[], max_length=100)
    comb: list[ToCombEntry] = Field(default=[], max_length=100)
    even: list[EvenEntry] = Field(default=[], max_length=100)

    @classmethod
    def of(cls, check: Check, rests_on: str) -> CheckDocument:
        return cls(
            version=check.version,
            rests_on=rests_on,
            words=check.words,
            places=[PlaceEntry.model_validate(_rounded(p)) for p in check.places],
            touch_ups=[TouchUpEntry.model_validate(_rounded(t)) for t in check.touch_ups],
            short=[ShortEntry.model_validate(_rounded(s)) for s in check.short],
            comb=[ToCombEntry.model_validate(_rounded(c)) for c in check.comb],
            even=[EvenEntry.model_validate(_rounded(e)) for e in check.even],
        )


class TouchedUp(Document):
    """What was done at a place; photos: how many finished photos there were by then, so that those taken later count
    as a look at what was done; off_mm, sigma_mm: how long it was found before, mm of hair, which is what the hand had
    left."""

    state: Done
    photos: int = 0
    off_mm: float | None = None
    sigma_mm: float | None = None


def _rounded(one: object) -> dict[str, object]:
    return {k: round(v, 2) if isinstance(v, float) else v for k, v in vars(one).items()}
