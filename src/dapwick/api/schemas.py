"""What goes over the wire. px are photo px after EXIF orientation; lines are [[x, y], ...]."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field

from dapwick.api.said import Mm, Name, OneLine, Px, Said
from dapwick.core.basics.head_kind import Carriage, Muzzle
from dapwick.core.basics.marks import Kind, View
from dapwick.documents.next_time import NotePart

StageState = Literal["done", "needs_you", "stale"]
State = Literal["dry", "wet", "finished"]
Side = Literal["left", "right"]
Point = tuple[float, float]
Line = list[Point]
PointIn = tuple[Px, Px]
LineIn = list[PointIn]


class Problem(BaseModel):
    """Every error answer. message is one sentence for the screen. Of a change that was overtaken: what is there now,
    and its version."""

    message: str
    what: str = ""
    expected: str = ""
    got: str = ""
    where: str = ""
    remedy: str = ""
    now: Any = None
    version: str = ""


class MarkIn(Said):
    at: PointIn
    kind: Kind | None = None
    unsure: bool = False
    expected: bool = False


class JobOut(BaseModel):
    """Long work in the background: how it is doing, and what came of it."""

    id: int
    what: str
    kind: Literal["waiting", "working", "done", "stopped", "failed"]
    words: str
    share: float
    result: dict[str, Any] | None


class PhotoFindingOut(BaseModel):
    """view: the slot the photo belongs in instead, where that is what is wrong."""

    code: str
    message: str
    view: View | None


class PhotoOut(BaseModel):
    """picture: the hash its picture is shown under; maybe: the views to choose from where its own is not sure;
    together: ids of the photos in the same state taken with it, its own too; looked: the machine has seen it;
    card_markers: how many of the scale card's markers it saw."""

    id: int
    picture: str
    view: View
    state: State
    file_name: str
    width_px: int
    height_px: int
    marks: dict[str, MarkIn]
    has_edge: bool
    edge_by_hand: bool
    spare: bool
    maybe: list[View]
    taken: str | None
    together: list[int]
    looked: bool
    card_markers: int
    findings: list[PhotoFindingOut]
    versions: dict[str, str]
    job: JobOut | None = None


class PlaceIO(Said):
    """Where a photo lies: in a slot or beside; maybe: waiting for an answer which of these views it shows."""

    view: View
    state: State
    spare: bool = False
    maybe: list[View] = Field(default=[], max_length=4)


class MoveIn(Said):
    """version: of the slot the photo was moved from."""

    photo_id: int
    to: PlaceIO
    version: str | None = None


class MovesIn(Said):
    moves: list[MoveIn] = Field(min_length=1, max_length=100)


class MovedOut(BaseModel):
    photo_id: int
    was: PlaceIO
    now: PlaceIO


class EdgeIO(Said):
    """A coat edge (on a wet photo the near-skin edge); empty where there is none yet. neck: two points of a line across
    the neck, below which nothing counts."""

    line: LineIn = Field(max_length=20_000)
    neck: LineIn | None = Field(default=None, min_length=2, max_length=2)


class TrailIn(Said):
    """A trail along the coat's edge, photo px."""

    points: LineIn = Field(min_length=1, max_length=4_000)


class StrokeIn(Said):
    """A chalk stroke in photo px; coat: it lies on coat, else on what is none."""

    points: LineIn = Field(min_length=1, max_length=2_000)
    coat: bool


class StrokesIn(Said):
    strokes: list[StrokeIn] = Field(min_length=1, max_length=40)


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


class HandMeasureIO(Said):
    model_config = ConfigDict(populate_by_name=True, allow_inf_nan=False)
    from_mark: Name
    to_mark: Name
    mm: Mm
    sigma_mm: Mm = 1.0


class ProbeIO(Said):
    zone: Name
    side: Side | None = None
    depth_mm: Mm
    length_mm: Mm | None = None


HandMeasures = Annotated[list[HandMeasureIO], Field(max_length=60)]
"""More than there are distances worth measuring."""
Probes = Annotated[list[ProbeIO], Field(max_length=60)]


class SavedOutlineOut(BaseModel):
    """A kept plan: rests_on names the version of each kind of input, version how it was worked out."""

    family: str
    params: dict[str, float]
    schools: dict[str, str]
    version: str
    saved: str
    rests_on: dict[str, str]


class VisitOut(BaseModel):
    """A visit in the dog's strip; bone: it measured the head."""

    id: int
    day: str
    picture: str | None
    photos: int
    bone: bool
    outline: str | None
    next_note: str
    ended: bool


class DogOut(BaseModel):
    """One dog and its open visit. stale: by stage, what changed since its result; versions: of each part, for the
    If-Match of a change; views_wanted: of each state of the coat, in the order they are taken."""

    id: int
    name: str
    breed: str
    coat: str
    born: str | None
    muzzle: Muzzle
    ears: Carriage
    visits: list[VisitOut]
    note: str
    next_note: str
    owner_words: str
    photos: list[PhotoOut]
    spares: list[PhotoOut]
    views_wanted: dict[State, list[View]]
    hand_measures: list[HandMeasureIO]
    coat_probes: list[ProbeIO]
    wishes: WishesIO
    traits: list[str]
    stylist: str
    stages: dict[str, StageState]
    stale: dict[str, list[str]]
    saved_outline: SavedOutlineOut | None
    removed: bool
    versions: dict[str, str]
    from_last: list[NotePart]


class WishesIO(Said):
    """The owner's wishes; fullness -1 shorter to 1 fuller; lengths: mm said by zone; body_mm: the body's clip."""

    fullness: float = Field(default=0.0, ge=-10, le=10)
    eyes: Literal["any", "open", "veiled"] = "any"
    beard: Literal["any", "short", "long"] = "any"
    ears: Literal["any", "keep", "short"] = "any"
    weeks_between: int | None = Field(default=None, ge=-1_000, le=1_000)
    lengths: dict[Name, float] = Field(default={}, max_length=20)
    body_mm: float | None = Field(default=None, ge=-1_000, le=1_000)
    body_ends: Literal["ring", "occiput", "shoulder"] = "ring"
    as_body: tuple[Literal["throat", "ear_edges"], ...] = Field(default=(), max_length=2)


class WishesIn(WishesIO):
    """words: the owner's own; left out they stay as they are."""

    words: str | None = Field(default=None, max_length=1000)


class NoteIn(Said):
    note: str = Field(max_length=400)


class AboutIn(Said):
    name: Name
    coat: Name
    breed: OneLine = Field(default="", max_length=120)
    born: str | None = Field(default=None, max_length=10)


class NewDog(AboutIn):
    muzzle: Muzzle = "any"
    ears: Carriage = "any"


class MeasureOut(BaseModel):
    id: str
    words: str
    value: float
    unit: Literal["mm", "deg", "ratio"]
    sigma: float
    low: float
    high: float


class ProportionOut(BaseModel):
    """One proportion in words; sure: they do not straddle a band's edge."""

    measure: str
    words: str
    sure: bool


class UnevennessOut(BaseModel):
    """Left minus right of a pair of marks along one way, mm."""

    pair: str
    way: Literal["out", "forward", "up"]
    words: str
    mm: float
    sigma: float
    real: bool
    verdict: str


class BandOut(BaseModel):
    """Where a measure changes its word: words has one more than edges."""

    measure: str
    noun: str
    words: list[str]
    edges: list[float]
    usual: list[float]
    why: str


class BandsIn(Said):
    """Edges by measure; what is not named goes back to the usual."""

    edges: dict[Name, Annotated[list[float], Field(max_length=12)]] = Field(max_length=60)


class NextOut(BaseModel):
    """One addition that would narrow the planned lengths: by gain_mm on average, most in zone; seconds: what it costs
    at the table."""

    kind: Literal["mark", "hand", "photo", "wet_photo", "comb"]
    what: str
    sentence: str
    gain_mm: float
    zone: str
    before_mm: float
    after_mm: float
    seconds: float


class ViewDrawingOut(BaseModel):
    """mm, x right and y down, one scale and level for all views."""

    skin: Line
    ears: dict[str, Line]
    marks: dict[str, Point]
    combs: dict[str, Point]


class HeadDrawingOut(BaseModel):
    """carriage by side; sigma_mm by mark."""

    views: dict[str, ViewDrawingOut]
    carriage: dict[str, Carriage]
    sigma_mm: dict[str, float]


class HeadKindIn(Said):
    """What kind of head somebody says it is; it narrows what is expected before marks are placed."""

    muzzle: Muzzle
    ears: Carriage


class FindingOut(BaseModel):
    code: str
    message: str
    photo: str | None
    photo_id: int | None
    mark: str | None


class GhostOut(BaseModel):
    """expected: the solve's own expectation, which tells nothing new when it is taken."""

    mark: str
    at: Point
    sigma_px: float
    sure: bool
    expected: bool


class CameraOut(BaseModel):
    photo_id: int
    distance_mm: float
    yaw_deg: float
    pitch_deg: float
    roll_deg: float
    focal_px: float


class MeasuredOut(BaseModel):
    """known_visits: how many earlier visits' bone it starts from. uneven: of each pair whose sides really
    differ, the surest difference, the surest pair first; unevenness: every difference. wider: the
    salon's own factor on ±."""

    solved: bool
    known_visits: int
    measures: list[MeasureOut]
    proportions: list[ProportionOut]
    uneven: list[UnevennessOut]
    unevenness: list[UnevennessOut]
    findings: list[FindingOut]
    ghosts: dict[int, list[GhostOut]]
    cameras: list[CameraOut]
    wider: float


class MarksIn(Said):
    marks: dict[Name, MarkIn] = Field(max_length=80)


class MarkRuleOut(BaseModel):
    id: str
    words: str
    feel: str
    kind: Kind


class SpanOut(BaseModel):
    """A distance worth measuring by hand."""

    from_mark: str
    to_mark: str
    words: str


class MarkGuide(BaseModel):
    """Marks in the order worth placing them, by view; distances to measure, zones to comb, best first."""

    rules: list[MarkRuleOut]
    order: dict[str, list[str]]
    spans: list[SpanOut]
    combed: list[str]
