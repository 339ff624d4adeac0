"""Wire shapes of the salon: name and first start, network, passcode, backups, long work."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, Field

from dapwick.api.said import OneLine, Said
from dapwick.core.basics.days import USUAL_STYLE, DayStyle


class SalonOut(BaseModel):
    """started: it was chosen how to begin; network: other machines reach it at address; version: of the program;
    days: how days and times are said."""

    name: str
    started: bool
    demo: bool
    network: bool
    address: str | None
    days: DayStyle
    version: str


class BeginningIn(Said):
    """stylist, hand: who cuts, where somebody said so; days: how days and times are said there."""

    kind: Literal["demo", "empty"]
    name: OneLine = Field(default="", max_length=60)
    stylist: OneLine = Field(default="", max_length=40)
    hand: Literal["right", "left"] = "right"
    days: DayStyle = USUAL_STYLE


class NameIn(Said):
    name: OneLine = Field(max_length=60)


class DaysIn(Said):
    days: DayStyle


class DemoIn(Said):
    do: Literal["reset", "remove"]


class TriedOut(BaseModel):
    """dog_id: the demo dog to try on."""

    dog_id: int


class CodeIn(Said):
    code: str = Field(max_length=64)


class EntranceOut(BaseModel):
    """Whether the passcode counts here, whether this tablet has given it, and whether the salon can be run from it."""

    passcode: bool
    entered: bool
    runs: bool


class BackupSettingIO(Said):
    """folder: a whole path, or nothing for beside the records."""

    daily: bool
    folder: OneLine = Field(default="", max_length=400)


class BackupOut(BaseModel):
    """whole: photos and all in one file; else its photos lie beside it."""

    name: str
    made: str
    photos: int
    bytes: int
    whole: bool
    trouble: str


class BackupsOut(BaseModel):
    """folder: where they lie; last: the day of the latest daily one; missing: photos on record whose file is gone;
    undo: moment of the records that the last restore replaced."""

    daily: bool
    folder: str
    last: str | None
    trouble: str
    missing: list[str]
    backups: list[BackupOut]
    undo: str | None


class RestoreIn(Said):
    name: str = Field(max_length=200)


class UndoneOut(BaseModel):
    """The moment of the records that are back."""

    of: str
