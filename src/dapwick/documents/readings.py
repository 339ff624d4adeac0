"""Readings taken by hand: distances between marks by calliper or tape, coat depths by comb."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any, Literal

from pydantic import Field, TypeAdapter

from dapwick.core.after.readings import CutComb, Spot
from dapwick.core.head.coat import CoatProbe
from dapwick.core.solve.observations import HandMeasure
from dapwick.documents.document import Document, Number


class ReadingDocument(Document):
    """A distance between two marks, mm."""

    from_mark: str = Field(alias="from")
    to_mark: str = Field(alias="to")
    mm: Number
    sigma_mm: Number = 1.0

    def measure(self) -> HandMeasure:
        return HandMeasure(self.from_mark, self.to_mark, self.mm, self.sigma_mm)


class CombDocument(Document):
    """A comb pushed to the skin: how deep the coat stands, mm, and how long its hair is where that was read too."""

    zone: str
    side: Literal["left", "right"] | None = None
    depth_mm: Number
    length_mm: Number | None = None

    def probe(self) -> CoatProbe:
        return CoatProbe(self.zone, self.side, self.depth_mm, self.length_mm)


class FinishedComb(CombDocument):
    """A comb pushed to the skin of the finished head, in the middle of a zone or beside it. taken_in: its place had
    been taken in by then, so that it tells of what is left rather than of what was."""

    spot: Spot = "middle"
    taken_in: bool = False

    def probe(self) -> CutComb:
        return CutComb(self.zone, self.side, self.depth_mm, self.length_mm, self.spot)

    @property
    def places(self) -> tuple[str, ...]:
        """The places it tells of ("cheek/left")."""
        return tuple(f"{self.zone}/{side}" for side in ((self.side,) if self.side else ("left", "right")))


_READINGS: TypeAdapter[list[ReadingDocument]] = TypeAdapter(list[ReadingDocument])
_COMBS: TypeAdapter[list[CombDocument]] = TypeAdapter(list[CombDocument])
_FINISHED: TypeAdapter[list[FinishedComb]] = TypeAdapter(list[FinishedComb])


def readings_from(given: Sequence[Any]) -> list[ReadingDocument]:
    """Readings from documents or from JSON. Raises ValidationError."""
    return _READINGS.validate_python(list(given))


def combs_from(given: Sequence[Any]) -> list[CombDocument]:
    """Comb depths from documents or from JSON. Raises ValidationError."""
    return _COMBS.validate_python(list(given))


def finished_combs_from(given: Sequence[Any]) -> list[FinishedComb]:
    """Comb depths of a finished head from documents or from JSON. Raises ValidationError."""
    return _FINISHED.validate_python(list(given))
