"""The open head file (`dapwick-head`, version 1) and what the core makes of it."""

from __future__ import annotations

import json
import math
from pathlib import Path
from typing import Annotated, Any, Literal

from pydantic import BaseModel, BeforeValidator, ConfigDict, Field, ValidationError

from dapwick.core.basics.errors import BadInput
from dapwick.core.basics.frame import LEVEL_TIP_DEG
from dapwick.core.basics.head_kind import Carriage, Muzzle
from dapwick.core.basics.marks import Kind, View
from dapwick.core.head.coat import CoatProbe
from dapwick.core.outlines.wishes import Wishes
from dapwick.core.solve.observations import HandMeasure, HeadInput, PhotoMarks, PlacedMark
from dapwick.core.solve.scale_card import CardReading

State = Literal["dry", "wet", "finished"]
Line = list[tuple[float, float]]


class _Open(BaseModel):
    """Unknown fields are kept on a round trip."""

    model_config = ConfigDict(extra="allow")


class MarkEntry(_Open):
    at: tuple[float, float]
    kind: Kind | None = None
    unsure: bool = False


def _bare_pair(value: Any) -> Any:
    return {"at": value} if isinstance(value, (list, tuple)) else value


class CardEntry(_Open):
    """The scale card as it was read in a photo."""

    px_per_mm: float = Field(gt=0)
    sigma: float = Field(default=0.005, gt=0)
    markers: int = 0


class PhotoEntry(_Open):
    file: str | None = None
    view: View
    state: State = "dry"
    width: int = Field(gt=0)
    height: int = Field(gt=0)
    focal_px: float | None = Field(default=None, gt=0)
    focal_sigma: float | None = Field(default=None, gt=0)
    marks: dict[str, Annotated[MarkEntry, BeforeValidator(_bare_pair)]]
    coat_edge: Line | None = None
    skin_edge: Line | None = None
    card: CardEntry | None = None


class HandMeasureEntry(_Open):
    model_config = ConfigDict(extra="allow", populate_by_name=True)
    from_mark: str = Field(alias="from")
    to_mark: str = Field(alias="to")
    mm: float
    sigma_mm: float = 1.0


class ProbeEntry(_Open):
    zone: str
    side: Literal["left", "right"] | None = None
    depth_mm: float
    length_mm: float | None = None


class DogEntry(_Open):
    name: str = "dog"
    coat: str = "standing"
    born: str | None = None
    muzzle: Muzzle = "any"
    ears: Carriage = "any"


class WishesEntry(_Open):
    fullness: float = 0.0
    eyes: str = "any"
    beard: str = "any"
    ears: str = "any"
    weeks_between: int | None = None


class StylistEntry(_Open):
    hand: Literal["left", "right"] = "right"


class HeadFile(_Open):
    format: Literal["dapwick-head"]
    version: Literal[1]
    dog: DogEntry = DogEntry()
    photos: list[PhotoEntry] = []
    hand_measures: list[HandMeasureEntry] = []
    coat_probes: list[ProbeEntry] = []
    wishes: WishesEntry = WishesEntry()
    handling: list[str] = []
    stylist: StylistEntry = StylistEntry()
    level_tip_deg: float = LEVEL_TIP_DEG

    def owner_wishes(self) -> Wishes:
        w = self.wishes
        return Wishes(w.fullness, w.eyes, w.beard, w.ears, w.weeks_between)  # type: ignore[arg-type]

    def head_input(self) -> HeadInput:
        names = [photo_name(photo, i) for i, photo in enumerate(self.photos)]
        photos = tuple(photo_marks(photo, name) for photo, name in zip(self.photos, names, strict=True))
        return HeadInput(
            photos,
            tuple(HandMeasure(m.from_mark, m.to_mark, m.mm, m.sigma_mm) for m in self.hand_measures),
            self.level_tip_deg,
            self.dog.muzzle,
            self.dog.ears,
        )

    def probes(self) -> tuple[CoatProbe, ...]:
        return tuple(CoatProbe(p.zone, p.side, p.depth_mm, p.length_mm) for p in self.coat_probes)


def photo_name(photo: PhotoEntry, index: int) -> str:
    return photo.file or f"photo {index + 1}"


def photo_marks(photo: PhotoEntry, name: str) -> PhotoMarks:
    marks = {key: PlacedMark(m.at[0], m.at[1], m.kind, m.unsure) for key, m in photo.marks.items()}
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
