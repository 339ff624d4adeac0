"""Results as they are kept with a visit: measures of the head, lengths of a kept outline."""

from __future__ import annotations

from typing import Literal

from dapwick.documents.document import Document, Number


class MeasuresDocument(Document):
    """of: value and σ by measure id; version: how they were worked out."""

    of: dict[str, tuple[Number, Number]]
    version: str = ""


class ZoneDocument(Document):
    """One zone of one side of a kept outline; hair lengths, mm (see docs/formats.md). Outlines kept by earlier
    versions lack some of them."""

    zone: str
    side: Literal["left", "right"]
    leave_mm: Number
    low: Number | None = None
    high: Number | None = None
    now_mm: Number | None = None
    now_low: Number | None = None
    now_high: Number | None = None
    remove_mm: Number | None = None
    shortage_mm: Number | None = None
    wanted_mm: Number | None = None
    depth_mm: Number | None = None
    chance_short: Number | None = None
    tool: str = ""
    clipped: bool = False
    why: str = ""
    shortest_mm: Number | None = None
    longest_mm: Number | None = None
    by: str = ""
    seen: bool = True
