"""What is kept of practice: what was asked, what was answered, and what came of it."""

from __future__ import annotations

from typing import Annotated, Final, Literal

import numpy as np
from pydantic import BaseModel, ConfigDict, Field

from dapwick.core.basics.head_kind import Carriage, Muzzle
from dapwick.core.basics.marks import Kind, View
from dapwick.core.head.zones import Side
from dapwick.core.plan.verdict import Against
from dapwick.core.practice.bone import Ray, Way
from dapwick.core.practice.heads import Wanted
from dapwick.core.practice.whole_plan import Cause, PlanMade, Where

Mm = Annotated[float, Field(allow_inf_nan=False, ge=-100_000, le=100_000)]
Three = tuple[Mm, Mm, Mm]
MOST_PLACES: Final = 30
LONGEST_KEY: Final = 24
Key = Annotated[str, Field(max_length=LONGEST_KEY)]


class _Kept(BaseModel):
    """Screens are answered with these as they are kept."""

    model_config = ConfigDict(frozen=True)


class HeadKind(_Kept):
    """What kind of head was made (core/practice/heads.py)."""

    muzzle: Muzzle
    ears: Carriage
    coat_type: str
    coat_share: float
    uneven: float

    def wanted(self) -> Wanted:
        return Wanted(**self.model_dump())

    @staticmethod
    def of(wanted: Wanted) -> HeadKind:
        return HeadKind.model_validate(vars(wanted))


class OfMadeHead(_Kept):
    """A head by its number and kind."""

    seed: int
    kind: HeadKind


class BoneAsked(_Kept):
    """head: made, or none where photo names one of the photographed dogs'."""

    drill: Literal["bone"] = "bone"
    head: OfMadeHead | None = None
    dog: str = ""
    photo: str = ""
    view: View
    marks: tuple[str, ...]


class EyeAsked(_Kept):
    drill: Literal["eye"] = "eye"
    head: OfMadeHead
    measure: str


class LongSideAsked(_Kept):
    """mm: how much longer the place was left."""

    drill: Literal["long_side"] = "long_side"
    head: OfMadeHead
    family: str
    zone: str
    side: Side
    mm: float


class SuitsAsked(_Kept):
    """wish: which of those in core/practice/suits.py."""

    drill: Literal["suits"] = "suits"
    head: OfMadeHead
    families: tuple[str, ...]
    wish: int


class PlanAsked(_Kept):
    drill: Literal["plan"] = "plan"
    head: OfMadeHead
    families: tuple[str, ...]
    wish: int
    weeks: int


Asked = Annotated[BoneAsked | EyeAsked | LongSideAsked | SuitsAsked | PlanAsked, Field(discriminator="drill")]


class RayGiven(_Kept):
    """Where a finger points from and along, mm, head frame."""

    start: Three
    along: Three

    def ray(self) -> Ray:
        return Ray(np.array(self.start), np.array(self.along))


class BoneAnswer(_Kept):
    """rays: on a made head, by mark; px: on a photo."""

    drill: Literal["bone"] = "bone"
    rays: dict[Key, RayGiven] = Field(default={}, max_length=MOST_PLACES)
    px: dict[Key, tuple[Mm, Mm]] = Field(default={}, max_length=MOST_PLACES)


class EyeAnswer(_Kept):
    drill: Literal["eye"] = "eye"
    guess: float
    within: int


class LongSideAnswer(_Kept):
    drill: Literal["long_side"] = "long_side"
    zone: Key
    side: Side
    mm: float


class SuitsAnswer(_Kept):
    """order: best first; why: what speaks most against the last."""

    drill: Literal["suits"] = "suits"
    order: tuple[Key, ...] = Field(max_length=MOST_PLACES)
    why: Key


class PlanAnswer(_Kept):
    """lengths (mm) and tools by zone; order: of the zones."""

    drill: Literal["plan"] = "plan"
    family: Key
    lengths: dict[Key, float] = Field(max_length=MOST_PLACES)
    tools: dict[Key, Key] = Field(max_length=MOST_PLACES)
    order: tuple[Key, ...] = Field(max_length=MOST_PLACES)

    def made(self) -> PlanMade:
        """Raises BadInput for what is no whole plan."""
        return PlanMade(self.family, self.lengths, self.tools, self.order)


Answered = Annotated[
    BoneAnswer | EyeAnswer | LongSideAnswer | SuitsAnswer | PlanAnswer, Field(discriminator="drill")
]


class MissKept(_Kept):
    """A mark off by off_mm; ways: by direction of the head."""

    mark: str
    kind: Kind
    off_mm: float
    ways: dict[Way, float]
    words: str


class BoneTold(_Kept):
    drill: Literal["bone"] = "bone"
    misses: tuple[MissKept, ...]


class EyeTold(_Kept):
    drill: Literal["eye"] = "eye"
    true: float
    words: str


class LongSideTold(_Kept):
    drill: Literal["long_side"] = "long_side"
    found: bool
    words: str


class SuitsTold(_Kept):
    drill: Literal["suits"] = "suits"
    right: int
    pairs: int
    why: Against
    why_right: bool
    words: str


class FaultKept(_Kept):
    zone: str
    side: Where
    mm: float
    cause: Cause
    words: str


class PlanTold(_Kept):
    """off_mm: root mean square over the places that were planned."""

    drill: Literal["plan"] = "plan"
    off_mm: float
    faults: tuple[FaultKept, ...]
    words: str


Told = Annotated[BoneTold | EyeTold | LongSideTold | SuitsTold | PlanTold, Field(discriminator="drill")]
