"""Outlines over the wire: what is asked, drawn, told and kept."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import BaseModel, Field

from dapwick.api.said import Name, OneLine, Said
from dapwick.api.schemas import Line, Point, Side

VerdictWord = Literal["today", "later", "not_on_this_coat"]
Place = tuple[float, float, float]


Numbers = Annotated[dict[Name, float], Field(max_length=40)]
Chosen = Annotated[dict[Name, Name], Field(max_length=40)]


class OutlineIn(Said):
    """One setting of an outline."""

    family: Name = "round"
    params: Numbers = Field(default={})
    schools: Chosen = Field(default={})


class PreviewIn(OutlineIn):
    """weeks_ahead: drawn as grown so long after the cut."""

    weeks_ahead: float = Field(default=0.0, ge=0, le=52)


class SurfaceIn(OutlineIn):
    """The finished head as a file."""

    ending: Literal["glb", "stl", "ply"] = "glb"


class PictureIn(PreviewIn):
    """cut: as it will be, else as the dog came."""

    view: Literal["front", "side"] = "front"
    cut: bool = True


class ZoneOut(BaseModel):
    """All but depth_mm are hair lengths, mm; intervals are of 90 %."""

    zone: str
    side: Side
    leave_mm: float
    low: float
    high: float
    now_mm: float
    now_low: float
    now_high: float
    remove_mm: float
    shortage_mm: float
    wanted_mm: float
    depth_mm: float
    chance_short: float
    tool: str
    clipped: bool
    why: str
    shortest_mm: float
    longest_mm: float
    by: str
    seen: bool


class ParameterOut(BaseModel):
    id: str
    words: str
    unit: str
    low: float
    high: float
    value: float
    fitted: float
    words_low: str
    words_high: str


class SchoolOut(BaseModel):
    id: str
    about: str
    question: str
    choices: list[str]
    chosen: str
    default: str
    reason: str


class HandleOut(BaseModel):
    """Where a parameter is pulled on a photo, px, and how far it moves there for one unit."""

    parameter: str
    words: str
    at: Point
    px_a_unit: Point


class MovingLinesOut(BaseModel):
    """Lines over one photo, px, that move with a slider."""

    photo_id: int
    outline: Line
    shortage: Line
    skin_band_px: float
    handles: list[HandleOut]


class PhotoLinesOut(MovingLinesOut):
    """All lines over one photo, px."""

    skin: Line
    coat: Line
    coat_on_head: Line
    setting: list[Line]


class SizesOut(BaseModel):
    words: str
    now: float
    smallest: float
    fitted: float
    largest: float


class LevelOut(BaseModel):
    """How a photo lies on the sheet: where the eyes' middle is, and the picture of one mm upward there (for a
    photo from above, of one mm backward, so that the nose points down under the front view)."""

    photo_id: int
    at: Point
    px_per_mm_up: Point


class EffectOut(BaseModel):
    """A proportion of the silhouette now and after."""

    id: str
    words: str
    now: float
    after: float


class ToldOut(BaseModel):
    """One of the owner's wishes, met or why not."""

    wish: str
    met: bool
    words: str


class DepthsOut(BaseModel):
    """On the mesh: leave and short (V,) mm, ears (2·E, 3) mm; packed as in MeshOut."""

    leave: str
    short: str
    ears: str


class ReadinessOut(BaseModel):
    """When an outline can be cut, what it is called as it stands, what of its description it does not hold, and why;
    comb_first: zones whose coat nothing has
    read and which that rests on."""

    verdict: VerdictWord
    called: str
    broken: list[str]
    weeks: int
    weeks_low: int
    weeks_high: int
    reasons: list[str]
    comb_first: list[str]


class InsteadOut(BaseModel):
    """The outline that comes nearest and can be cut today, if any can."""

    family: str | None
    name: str | None


class MovingOutlineOut(ReadinessOut):
    """What changes of an outline while a slider is on its way."""

    family: str
    sizes: SizesOut
    parameters: list[ParameterOut]
    zones: list[ZoneOut]
    photos: list[MovingLinesOut]
    depths: DepthsOut


class OutlineOut(ReadinessOut):
    """An outline at rest with all that is told of it."""

    family: str
    name: str
    description: str
    finish: str
    sizes: SizesOut
    parameters: list[ParameterOut]
    schools: list[SchoolOut]
    zones: list[ZoneOut]
    runs_out: float
    effects: list[EffectOut]
    wishes: list[ToldOut]
    notes: list[str]
    cautions: list[str]
    photos: list[PhotoLinesOut]
    sheet: dict[str, dict[str, Line]]
    levels: list[LevelOut]
    eyes_mm: Place
    depths: DepthsOut
    text: str
    version: str


class ThumbOut(ReadinessOut):
    """An outline fitted for this dog, small: lines in mm by view; rank: lower first."""

    family: str
    name: str
    description: str
    own: int | None
    rank: float
    views: dict[str, dict[str, Line]]


class ChoiceOut(BaseModel):
    """An outline to choose from; own: the salon's own variant's id."""

    key: str
    name: str
    description: str
    own: int | None


class NeckOut(BaseModel):
    """A neck to draw, packed as in MeshOut; fade: uint8, 255 whole; like: uint16, the skin's vertex it is like."""

    positions: str
    outward: str
    faces: str
    fade: str
    like: str


class MeshOut(BaseModel):
    """The head for a turntable. Positions and depths: base64 of little-endian int16 in steps of step_mm;
    outward: int16 of 16384 a unit; faces: uint16; bare: uint8; colours (skin then ears, red, green, blue): uint8;
    stand: uint8, hundredths."""

    ground: str
    step_mm: float
    skin: str
    outward: str
    coat: str
    ears: str
    faces: str
    bare: str
    eyes_mm: list[Place]
    eye_wide_mm: float
    nose_mm: Place
    nose_wide_mm: float
    lips_mm: list[list[Place]]
    colours: str
    leather: Place
    stand: str
    coat_type: str
    neck: NeckOut


class VariantIn(Said):
    """A setting to keep as the salon's own outline."""

    name: OneLine = Field(max_length=200)
    family: Name
    params: Numbers = Field(default={})
    schools: Chosen = Field(default={})


class VariantFile(Said):
    """An outline's document, as it is exported and taken in."""

    document: dict[str, Any]
