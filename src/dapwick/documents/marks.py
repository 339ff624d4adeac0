"""Marks on a photo, by their ids."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Annotated, Any

from pydantic import BeforeValidator, TypeAdapter

from dapwick.core.basics.marks import Kind
from dapwick.core.solve.observations import PlacedMark
from dapwick.documents.document import Document, Number


class MarkDocument(Document):
    """One mark, photo px after EXIF orientation. expected: taken where the solve itself expected it, which tells
    nothing new of the head."""

    at: tuple[Number, Number]
    kind: Kind | None = None
    unsure: bool = False
    expected: bool = False

    def placed(self) -> PlacedMark:
        return PlacedMark(self.at[0], self.at[1], self.kind, self.unsure)


def _bare_pair(value: Any) -> Any:
    return {"at": value} if isinstance(value, (list, tuple)) else value


Mark = Annotated[MarkDocument, BeforeValidator(_bare_pair)]
"""A head file may say a mark as a bare pair of numbers."""
Marks = dict[str, Mark]
_MARKS: TypeAdapter[Marks] = TypeAdapter(Marks)


def telling(marks: Mapping[str, MarkDocument]) -> dict[str, PlacedMark]:
    """The marks that tell something of the head: somebody, or the machine's eyes, saw them there."""
    return {key: mark.placed() for key, mark in marks.items() if not mark.expected}


def marks_from(given: Mapping[str, Any]) -> Marks:
    """Marks from documents or from JSON. Raises ValidationError."""
    return _MARKS.validate_python(dict(given))
