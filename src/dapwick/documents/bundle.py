"""The documents of a dog bundle: everything kept of a dog, checked as it comes in."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field

from dapwick.core.basics.errors import BadInput
from dapwick.core.basics.head_kind import Carriage, Muzzle
from dapwick.core.basics.marks import State, View
from dapwick.core.cut.handling import checked_traits
from dapwick.core.head.stand import STAND_FACTOR
from dapwick.core.outlines.variant import read_variant
from dapwick.documents.bone import BoneDocument
from dapwick.documents.check import CheckDocument, TouchedUp
from dapwick.documents.head_file import Line
from dapwick.documents.marks import Marks
from dapwick.documents.next_time import NotePart, Said
from dapwick.documents.readings import CombDocument, FinishedComb, ReadingDocument
from dapwick.documents.results import MeasuresDocument, ZoneDocument
from dapwick.documents.review import ReviewDocument
from dapwick.documents.wishes import WishesDocument

Hash = Annotated[str, Field(pattern="^[0-9a-f]{64}$")]
Size = Annotated[int, Field(gt=0, le=100_000)]


class _Kept(BaseModel):
    """Made from rows by their attributes; fields of later versions are passed over."""

    model_config = ConfigDict(from_attributes=True, extra="ignore", allow_inf_nan=False)


class PhotoDocument(_Kept):
    view: View
    state: State
    file_name: str = Field(max_length=200)
    content_hash: Hash
    width_px: Size
    height_px: Size
    focal_px: float | None = None
    taken: datetime | None = None
    marks: Marks = Field(max_length=80)
    coat_edge: Line | None = Field(default=None, max_length=20_000)
    edge_by_hand: bool = False
    neck: Line | None = Field(default=None, min_length=2, max_length=2)
    looked: ReviewDocument | None = None
    spare: bool = False
    removed: datetime | None = None


class OutlineDocument(_Kept):
    family: str = Field(max_length=24)
    params: dict[str, float]
    schools: dict[str, str]
    zones: list[ZoneDocument] = Field(max_length=200)
    inputs_hash: str = Field(max_length=64)
    rests_on: dict[str, str]
    lines: dict[str, Line]
    version: str = Field(max_length=40)
    saved: datetime


class StepDocument(_Kept):
    step: str = Field(max_length=80)
    rule: str = Field(max_length=40)
    state: str = Field(max_length=8)
    usual_min: float
    seconds: float | None = None
    tool: str = Field(default="", max_length=60)
    length_mm: float | None = None
    notes: list[str] = []
    at: datetime


class SheetStep(_Kept):
    """What the records themselves ask of a sheet's step."""

    model_config = ConfigDict(extra="allow")
    id: str
    rule: str
    usual_min: float = 0.0
    tool_id: str | None = None


class SheetEntry(_Kept):
    model_config = ConfigDict(extra="allow")
    format: Literal["dapwick-cutsheet"]
    steps: list[SheetStep] = Field(max_length=1_000)


class CutDocument(_Kept):
    sheet: dict[str, Any]
    inputs_hash: str = Field(max_length=64)
    stylist: str = Field(max_length=40)
    started: datetime
    made: datetime | None = None
    ended: datetime | None = None
    stopped_after: str | None = None
    steps: list[StepDocument] = Field(default=[], max_length=500)


class ExpectationDocument(_Kept):
    kind: str = Field(max_length=16)
    what: str = Field(max_length=80)
    expected: float
    sigma: float
    found: float
    unit: str = Field(max_length=8)
    version: str = Field(default="", max_length=40)
    at: datetime
    taken_back: bool = False


class VisitDocument(_Kept):
    created: datetime
    ended: datetime | None = None
    note: str = Field(default="", max_length=400)
    next_note: str = Field(default="", max_length=400)
    owner_words: str = Field(default="", max_length=1000)
    hand_measures: list[ReadingDocument] = Field(default=[], max_length=200)
    coat_probes: list[CombDocument] = Field(default=[], max_length=200)
    bone: BoneDocument | None = None
    measures: MeasuresDocument | None = None
    wishes: WishesDocument = WishesDocument()
    stylist: str = Field(default="", max_length=40)
    checked: CheckDocument | None = None
    touched_up: dict[str, TouchedUp] = Field(default={}, max_length=100)
    combed_after: list[FinishedComb] = Field(default=[], max_length=200)
    from_last: list[NotePart] = Field(default=[], max_length=100)
    for_next: dict[str, Said] = Field(default={}, max_length=200)
    expectations: list[ExpectationDocument] = Field(default=[], max_length=2_000)
    photos: list[PhotoDocument] = Field(default=[], max_length=500)
    outlines: list[OutlineDocument] = Field(default=[], max_length=2_000)
    cuts: list[CutDocument] = Field(default=[], max_length=500)


class DogDocument(_Kept):
    """variants: the salon's own outlines that its visits used, by the key they are named with here."""

    uid: str = Field(pattern="^[0-9a-f]{32}$")
    name: str = Field(min_length=1, max_length=80)
    breed: str = Field(default="", max_length=120)
    coat: str
    born: str | None = None
    muzzle: Muzzle = "any"
    ears: Carriage = "any"
    traits: list[str] = []
    visits: list[VisitDocument] = Field(min_length=1, max_length=3_000)
    variants: dict[str, dict[str, Any]] = {}


def check_visit(visit: VisitDocument) -> None:
    """What the types above do not say of a visit. Raises ValidationError, or BadInput for what cannot be wished."""
    for cut in visit.cuts:
        SheetEntry.model_validate(cut.sheet)
    visit.wishes.wishes()


def check_dog(document: DogDocument) -> None:
    """What the types of a dog's document do not say: coats, handling, measured heads."""
    for visit in document.visits:
        check_visit(visit)
        if visit.bone:
            visit.bone.bone()
    if document.coat not in STAND_FACTOR:
        raise BadInput("unknown coat", expected=", ".join(STAND_FACTOR), got=document.coat[:20], where="dog")
    checked_traits(document.traits)
    for variant in document.variants.values():
        read_variant(variant)
