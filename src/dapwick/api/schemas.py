"""What goes over the wire. px are photo px after EXIF orientation; lines are [[x, y], ...]."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, ConfigDict, Field

from dapwick.core.marks import Kind, View

StageState = Literal["done", "needs_you"]
State = Literal["dry", "wet", "finished"]
Side = Literal["left", "right"]
Point = tuple[float, float]
Line = list[Point]


class Problem(BaseModel):
    """Every error answer. message is one sentence for the screen."""

    message: str
    what: str = ""
    expected: str = ""
    got: str = ""
    where: str = ""
    remedy: str = ""


class MarkIn(BaseModel):
    at: Point
    kind: Kind | None = None
    unsure: bool = False


class JobOut(BaseModel):
    """A look in the background."""

    kind: Literal["waiting", "working", "stopped", "failed"]
    words: str
    share: float


class PhotoFindingOut(BaseModel):
    code: str
    message: str


class PhotoOut(BaseModel):
    """looked: the machine has seen it; card_markers: how many of the scale card's markers it saw."""

    id: int
    view: View
    state: State
    file_name: str
    width_px: int
    height_px: int
    marks: dict[str, MarkIn]
    has_edge: bool
    edge_by_hand: bool
    spare: bool
    taken: str | None
    looked: bool
    card_markers: int
    findings: list[PhotoFindingOut]
    job: JobOut | None = None


class MoveIn(BaseModel):
    view: View
    state: State
    spare: bool = False


class EdgeIO(BaseModel):
    """A coat edge (on a wet photo the near-skin edge); empty where there is none yet."""

    line: Line = Field(max_length=20_000)


class BrushIn(BaseModel):
    stroke: Line = Field(max_length=5_000)
    radius_px: float
    add: bool


class AdviceOut(BaseModel):
    code: str
    words: str
    fine: bool


class GuidanceOut(BaseModel):
    """at: eyes and nose in shares of the frame's width and height."""

    found: bool
    good: bool
    advice: list[AdviceOut]
    level_deg: float
    turn_deg: float
    nod_deg: float
    fill: float
    sharpness: float
    at: list[Point]


class HandMeasureIO(BaseModel):
    model_config = ConfigDict(populate_by_name=True)
    from_mark: str
    to_mark: str
    mm: float
    sigma_mm: float = 1.0


class ProbeIO(BaseModel):
    zone: str
    side: Side | None = None
    depth_mm: float
    length_mm: float | None = None


class ZoneOut(BaseModel):
    """One zone of one side; all but depth_mm are hair lengths in mm."""

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
    depth_mm: float
    chance_short: float
    tool: str


class SavedOutlineOut(BaseModel):
    family: str
    params: dict[str, float]
    schools: dict[str, str]
    zones: list[ZoneOut]
    version: str
    saved: str


class DogOut(BaseModel):
    id: int
    name: str
    breed: str
    coat: str
    born: str | None
    starts: str
    note: str
    photos: list[PhotoOut]
    spares: list[PhotoOut]
    hand_measures: list[HandMeasureIO]
    coat_probes: list[ProbeIO]
    stages: dict[str, StageState]
    saved_outline: SavedOutlineOut | None


class NewDog(BaseModel):
    name: str = Field(max_length=80)
    coat: str
    breed: str = Field(default="", max_length=120)
    born: str | None = None


class MeasureOut(BaseModel):
    id: str
    words: str
    value: float
    unit: Literal["mm", "deg", "ratio"]
    sigma: float
    low: float
    high: float


class FindingOut(BaseModel):
    code: str
    message: str
    photo: str | None
    photo_id: int | None
    mark: str | None


class GhostOut(BaseModel):
    mark: str
    at: Point
    sigma_px: float


class CameraOut(BaseModel):
    photo_id: int
    distance_mm: float
    yaw_deg: float
    pitch_deg: float
    roll_deg: float
    focal_px: float


class MeasuredOut(BaseModel):
    solved: bool
    measures: list[MeasureOut]
    findings: list[FindingOut]
    ghosts: dict[int, list[GhostOut]]
    cameras: list[CameraOut]


class MarksIn(BaseModel):
    marks: dict[str, MarkIn]


class MarkRuleOut(BaseModel):
    id: str
    words: str
    feel: str
    kind: Kind


class MarkGuide(BaseModel):
    """Marks in the order worth placing them, by view."""

    rules: list[MarkRuleOut]
    order: dict[str, list[str]]


class OutlineIn(BaseModel):
    """moving: a slider is on its way; lines that do not change with it come empty."""

    family: str = "round"
    params: dict[str, float] = {}
    schools: dict[str, str] = {}
    moving: bool = False


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
    question: str
    choices: list[str]
    default: str
    reason: str


class PhotoLinesOut(BaseModel):
    photo_id: int
    skin: Line
    coat: Line
    coat_on_head: Line
    outline: Line
    shortage: Line
    skin_band_px: float


class SizesOut(BaseModel):
    words: str
    now: float
    smallest: float
    fitted: float
    largest: float


class HandleOut(BaseModel):
    """The centre handle on one photo: where it is and how many px one mm up moves it."""

    photo_id: int
    at: Point
    px_per_mm_up: Point


class OutlineOut(BaseModel):
    family: str
    name: str
    description: str
    sizes: SizesOut
    parameters: list[ParameterOut]
    schools: list[SchoolOut]
    zones: list[ZoneOut]
    verdict: Literal["today", "later", "not_on_this_coat"]
    weeks: int
    reasons: list[str]
    notes: list[str]
    cautions: list[str]
    photos: list[PhotoLinesOut]
    sheet: dict[str, dict[str, Line]]
    handles: list[HandleOut]
    version: str
