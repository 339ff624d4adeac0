"""The edge of the coat on a photo, as it was drawn."""

from __future__ import annotations

from dapwick.documents.document import Document

Line = list[list[float]]


class EdgeDocument(Document):
    """line: closed, photo px, empty where there is none; neck: two points of a line across the neck, below which
    nothing of it counts."""

    line: Line
    neck: Line | None = None
