"""What the machine saw in a photo, as it is kept with it."""

from __future__ import annotations

from pydantic import Field

from dapwick.core.basics.marks import View
from dapwick.documents.document import Document, Number
from dapwick.documents.head_file import CardEntry


class SeenFinding(Document):
    """What is wrong with a photo, as it is said; view: the slot it belongs in instead."""

    code: str
    message: str
    view: View | None = None


class GuessDocument(Document):
    """view: the likeliest; marks: (x, y, σ) in photo px by id; dog: chance of dog by cell of the whole photo."""

    view: View
    wet_chance: Number = 0.0
    marks: dict[str, tuple[Number, Number, Number]] = Field(default={})
    dog: list[list[Number]] | None = Field(default=None, max_length=512)


class ReviewDocument(Document):
    """One review: by which version, how good the photo is, what is wrong with it, the scale card, first guesses (none
    where no head was seen). The edge is kept apart."""

    version: str = ""
    quality: dict[str, Number] = Field(default={})
    findings: list[SeenFinding] = Field(default=[])
    card: CardEntry | None = None
    guess: GuessDocument | None = None
