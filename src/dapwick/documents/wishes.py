"""What the owner asked for."""

from __future__ import annotations

from dataclasses import asdict

from pydantic import Field

from dapwick.core.outlines.wishes import Wishes
from dapwick.documents.document import Document, Number


class WishesDocument(Document):
    """fullness: -1 shorter to 1 fuller; lengths: mm by zone; body_mm: the body's clip, body_ends: where it ends,
    as_body: what of the head is as short."""

    fullness: Number = 0.0
    eyes: str = "any"
    beard: str = "any"
    ears: str = "any"
    weeks_between: int | None = None
    lengths: dict[str, Number] = Field(default={})
    body_mm: Number | None = None
    body_ends: str = "ring"
    as_body: tuple[str, ...] = ()

    def wishes(self) -> Wishes:
        """Raises BadInput for what cannot be wished."""
        return Wishes(**self.model_dump())

    @staticmethod
    def of(wishes: Wishes) -> WishesDocument:
        return WishesDocument.model_validate(asdict(wishes))
