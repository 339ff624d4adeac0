"""The open head file (`dapwick-head`, version 1) and what the core makes of it."""

from __future__ import annotations

import json
import math
from pathlib import Path
from typing import Literal

from pydantic import Field, ValidationError

from dapwick.core.after.readings import CutComb
from dapwick.core.basics.errors import BadInput
from dapwick.core.basics.frame import LEVEL_TIP_DEG
from dapwick.core.basics.head_kind import Carriage, Muzzle
from dapwick.core.basics.marks import State, View
from dapwick.core.head.coat import CoatProbe
from dapwick.core.outlines.wishes import Wishes
from dapwick.core.solve.observations import HeadInput, PhotoMarks
from dapwick.core.solve.scale_card import CardReading
from dapwick.documents.document import Document
from dapwick.documents.marks import Marks, telling
from dapwick.documents.readings import CombDocument, FinishedComb, ReadingDocument
from dapwick.documents.wishes import WishesDocument

Line = list[tuple[float, float]]


class CardEntry(Document):
    """The scale card as it was read in a photo."""

    px_per_mm: float = Field(gt=0)
    sigma: float = Field(default=0.005, gt=0)
    markers: int = 0


class PhotoEntry(Document):
    file: str | None = None
    view: View
    state: State = "dry"
    width: int = Field(gt=0)
    height: int = Field(gt=0)
    focal_px: float | None = Field(default=None, gt=0)
    focal_sigma: float | None = Field(default=None, gt=0)
    marks: Marks
    coat_edge: Line | None = None
    skin_edge: Line | None = None
    neck: Line | None = Field(default=None, min_length=2, max_length=2)
    card: CardEntry | None = None


class DogEntry(Document):
    name: str = "dog"
    coat: str = "standing"
    born: str | None = None
    muzzle: Muzzle = "any"
    ears: Carriage = "any"


class StylistEntry(Document):
    hand: Literal["left", "right"] = "right"


class HeadFile(Document):
    format: Literal["dapwick-head"]
    version: Literal[1]
    dog: DogEntry = DogEntry()
    photos: list[PhotoEntry] = Field(default=[])
    hand_measures: list[ReadingDocument] = Field(default=[])
    coat_probes: list[CombDocument] = Field(default=[])
    combed_after: list[FinishedComb] = Field(default=[])
    wishes: WishesDocument = WishesDocument()
    handling: list[str] = Field(default=[])
    stylist: StylistEntry = StylistEntry()
    level_tip_deg: float = LEVEL_TIP_DEG

    def owner_wishes(self) -> Wishes:
        return self.wishes.wishes()

    def head_input(self) -> HeadInput:
        named = [(photo, photo_name(photo, i)) for i, photo in enumerate(self.photos)]
        return HeadInput(
            # A finished head tells what was cut; its bone is known by then.
            tuple(photo_marks(photo, name) for photo, name in named if photo.state != "finished"),
            tuple(reading.measure() for reading in self.hand_measures),
            self.level_tip_deg,
            self.dog.muzzle,
            self.dog.ears,
        )

    def finished(self) -> tuple[tuple[PhotoEntry, PhotoMarks], ...]:
        """Its photos of the finished head."""
        named = [(photo, photo_name(photo, i)) for i, photo in enumerate(self.photos)]
        return tuple((p, photo_marks(p, name)) for p, name in named if p.state == "finished")

    def combs_after(self) -> tuple[CutComb, ...]:
        """What a comb found on the finished head."""
        return tuple(comb.probe() for comb in self.combed_after)

    def probes(self) -> tuple[CoatProbe, ...]:
        return tuple(comb.probe() for comb in self.coat_probes)


def photo_name(photo: PhotoEntry, index: int) -> str:
    return photo.file or f"photo {index + 1}"


def photo_marks(photo: PhotoEntry, name: str) -> PhotoMarks:
    marks = telling(photo.marks)
    card = CardReading(photo.card.px_per_mm, photo.card.sigma, photo.card.markers) if photo.card else None
    return PhotoMarks(
        name, photo.view, photo.width, photo.height, marks, photo.focal_px, photo.focal_sigma, card=card
    )


def read_head_file(path: Path) -> HeadFile:
    """A head file from disk; what is wrong with it is told with file, field, expected and got."""
    try:
        data = json.loads(path.read_text("utf-8"), parse_constant=lambda word: math.nan)
    except OSError as error:
        raise BadInput(
            "cannot open it", expected="a head file", got=error.strerror or "nothing", where=str(path)
        ) from error
    except (UnicodeDecodeError, json.JSONDecodeError) as error:
        raise BadInput(
            "not JSON", expected="a head file in UTF-8 JSON", got=str(error), where=str(path)
        ) from error
    try:
        return HeadFile.model_validate(data)
    except ValidationError as error:
        raise bad_field(error, str(path)) from error


def bad_field(error: ValidationError, where: str) -> BadInput:
    """Pydantic's first complaint as one line a person can act on."""
    first = error.errors()[0]
    field = ".".join(str(part) for part in first["loc"]) or "file"
    got = json.dumps(first["input"], default=str)
    return BadInput(
        f"field {field}",
        expected=first["msg"].lower(),
        got=got if len(got) < 60 else got[:57] + "…",
        where=where,
    )
