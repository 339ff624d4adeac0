"""What Practice is asked and answers."""

from __future__ import annotations

from pydantic import BaseModel, Field

from dapwick.api.outline_schemas import DepthsOut, MeshOut
from dapwick.core.basics.marks import Kind, View
from dapwick.core.head.zones import Side
from dapwick.core.practice.next_drill import Drill
from dapwick.documents.practice import Answered, Told


class PersonIn(BaseModel):
    name: str = Field(max_length=200)


class PersonChangeIn(BaseModel):
    """What is left out stays."""

    shown: bool | None = None
    removed: bool | None = None


class PersonOut(BaseModel):
    id: int
    name: str
    shown: bool


class PeopleOut(BaseModel):
    """stylists: of the kit, who do not practise yet."""

    people: list[PersonOut]
    stylists: list[str]


class PointOut(BaseModel):
    value: float
    low: float
    high: float


class DrillProgressOut(BaseModel):
    """points: the figure after each session with its 90 % interval."""

    drill: Drill
    name: str
    figure: str
    unit: str
    points: list[PointOut]
    says: list[str]
    answers: int


class ProgressOut(BaseModel):
    drills: list[DrillProgressOut]
    next: Drill
    why: str


class OwnOut(BaseModel):
    id: int
    name: str
    shown: bool
    progress: ProgressOut


class TaskIn(BaseModel):
    drill: Drill


class SceneOut(BaseModel):
    """A made head: with its coat, without any, and, where it was cut, cut."""

    mesh: MeshOut
    bare: DepthsOut
    cut: DepthsOut | None


class PhotoToMarkOut(BaseModel):
    """A photographed dog's photo; under: the address of the same view wet, or nothing."""

    dog: str
    url: str
    under: str | None
    width_px: int
    height_px: int


class MarkAskedOut(BaseModel):
    id: str
    words: str
    feel: str
    kind: Kind


class PlaceOut(BaseModel):
    zone: str
    side: Side
    words: str


class MeasureAskedOut(BaseModel):
    """question: as it is asked."""

    id: str
    question: str
    unit: str
    least: float
    most: float


class FamilyOfferedOut(BaseModel):
    id: str
    name: str
    description: str


class ChoiceOfOut(BaseModel):
    id: str
    words: str


class ZoneNowOut(BaseModel):
    """A zone to plan: hair there now, mm."""

    zone: str
    words: str
    now_mm: float


class TaskOut(BaseModel):
    """A question: number of many in its session. What the drill does not ask about is empty."""

    id: int
    drill: Drill
    name: str
    number: int
    of: int
    view: View | None = None
    scene: SceneOut | None = None
    photo: PhotoToMarkOut | None = None
    marks: list[MarkAskedOut] = []
    measure: MeasureAskedOut | None = None
    sure: list[int] = []
    places: list[PlaceOut] = []
    place_of: str = ""
    """Which place each vertex belongs to, from 1, as bytes in base64."""
    families: list[FamilyOfferedOut] = []
    reasons: list[ChoiceOfOut] = []
    wish: str = ""
    weeks: int | None = None
    coat: str = ""
    zones: list[ZoneNowOut] = []
    tools: list[ChoiceOfOut] = []


class AnswerIn(BaseModel):
    answer: Answered


class LaterOut(BaseModel):
    cut: DepthsOut
    later: DepthsOut


class ShownOut(BaseModel):
    """What came of an answer: marks_mm, marks_px where marks truly are; right: the right order; lengths_mm: the
    outline's own."""

    told: Told
    marks_mm: dict[str, tuple[float, float, float]]
    marks_px: dict[str, tuple[float, float]]
    lines: list[str]
    right: list[str]
    lengths_mm: dict[str, float]
    cut: LaterOut | None
    progress: DrillProgressOut
    next: Drill
    why: str
    session_over: bool
