"""What the owner asked for."""

from __future__ import annotations

from dataclasses import asdict

from dapwick.core.outlines.wishes import Wishes
from dapwick.documents.document import Document, Number


class WishesDocument(Document):
    """fullness: -1 shorter to 1 fuller."""

    fullness: Number = 0.0
    eyes: str = "any"
    beard: str = "any"
    ears: str = "any"
    weeks_between: int | None = None

    def wishes(self) -> Wishes:
        """Raises BadInput for what cannot be wished."""
        return Wishes(self.fullness, self.eyes, self.beard, self.ears, self.weeks_between)  # type: ignore[arg-type]

    @staticmethod
    def of(wishes: Wishes) -> WishesDocument:
        return WishesDocument.model_validate(asdict(wishes))
