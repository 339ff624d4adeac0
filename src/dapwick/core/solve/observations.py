"""What a stylist gives the solver: marks on photos and measures taken by hand."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Final

from dapwick.core.basics.errors import BadInput
from dapwick.core.basics.frame import LEVEL_TIP_DEG
from dapwick.core.basics.head_kind import Carriage, Muzzle
from dapwick.core.basics.marks import FELT_MM, INDEX, RULE_OF, SEEN_PX_AT_1200, Kind, View
from dapwick.core.solve.bone import Bone, prior_of
from dapwick.core.solve.prior import ShapePrior, prior_for
from dapwick.core.solve.scale_card import CardReading

FOCAL_SHARE_OF_LONGER_SIDE: Final = 0.85
FOCAL_SIGMA_UNKNOWN: Final = 0.25
FOCAL_SIGMA_EXIF: Final = 0.03
SHORTEST_MM, LONGEST_MM = 3.0, 400.0
FINEST_SIGMA_MM: Final = 0.1
"""No calliper on a living head reads finer."""


@dataclass(frozen=True)
class PlacedMark:
    """One mark on one photo. x_px, y_px in the photo frame after EXIF orientation. sigma_px: its standard
    deviation where that is known better than by its kind (a mark guessed by the machine)."""

    x_px: float
    y_px: float
    kind: Kind | None = None
    unsure: bool = False
    sigma_px: float | None = None

    def spread(self, mark: str, longer_side_px: int) -> tuple[float, float]:
        """Standard deviations (px, mm); the mm part is turned to px by the photo's scale."""
        if self.sigma_px is not None:
            return self.sigma_px, 0.0
        kind = self.kind or RULE_OF[mark].kind
        double = 2.0 if self.unsure else 1.0
        px = SEEN_PX_AT_1200 * longer_side_px / 1200.0
        return px * double, FELT_MM * double if kind == "felt" else 0.0


@dataclass(frozen=True)
class PhotoMarks:
    """One photo's marks. focal_sigma is relative (0.03 = 3 %); None means no EXIF to go by.
    card: the scale card, where it was seen."""

    name: str
    view: View
    width_px: int
    height_px: int
    marks: Mapping[str, PlacedMark]
    focal_px: float | None = None
    focal_sigma: float | None = None
    lens: str | None = None
    card: CardReading | None = None

    def __post_init__(self) -> None:
        unknown = sorted(set(self.marks) - set(INDEX))
        if unknown:
            raise BadInput("unknown mark", expected="one of the 24 mark ids", got=unknown[0], where=self.name)
        for mark, at in self.marks.items():
            if not (math.isfinite(at.x_px) and math.isfinite(at.y_px)):
                raise BadInput(
                    "mark without a place",
                    expected="two finite numbers",
                    got=f"{at.x_px}, {at.y_px}",
                    where=f"{self.name}, {mark}",
                )
        if self.focal_px is not None and not (math.isfinite(self.focal_px) and self.focal_px > 0):
            raise BadInput(
                "focal length", expected="a number above 0 px", got=str(self.focal_px), where=self.name
            )

    @property
    def longer_side_px(self) -> int:
        return max(self.width_px, self.height_px)

    @property
    def focal_guess_px(self) -> float:
        return self.focal_px or FOCAL_SHARE_OF_LONGER_SIDE * self.longer_side_px

    @property
    def focal_spread(self) -> float:
        if self.focal_px is None:
            return FOCAL_SIGMA_UNKNOWN
        return self.focal_sigma or FOCAL_SIGMA_EXIF

    @property
    def lens_key(self) -> str:
        """Photos with the same key share one focal length."""
        return self.lens or (
            f"{self.focal_px:.1f}/{self.longer_side_px}" if self.focal_px else f"of {self.name}"
        )


@dataclass(frozen=True)
class HandMeasure:
    """A distance between two marks taken with calliper or tape."""

    from_mark: str
    to_mark: str
    mm: float
    sigma_mm: float = 1.0

    def __post_init__(self) -> None:
        where = f"hand measure {self.from_mark} to {self.to_mark}"
        for mark in (self.from_mark, self.to_mark):
            if mark not in INDEX:
                raise BadInput("unknown mark", expected="one of the 24 mark ids", got=mark, where=where)
        if self.from_mark == self.to_mark:
            raise BadInput(
                "a measure from a mark to itself", expected="two marks", got=self.from_mark, where=where
            )
        if not (SHORTEST_MM <= self.mm <= LONGEST_MM):
            raise BadInput(
                "hand measure out of reach",
                expected=f"{SHORTEST_MM:g} to {LONGEST_MM:g} mm",
                got=f"{self.mm:g}",
                where=where,
                remedy="Check the unit: the field is in millimetres.",
            )
        if not self.sigma_mm >= FINEST_SIGMA_MM:
            raise BadInput(
                "hand measure's σ",
                expected=f"at least {FINEST_SIGMA_MM:g} mm",
                got=f"{self.sigma_mm:g}",
                where=where,
            )


@dataclass(frozen=True)
class HeadInput:
    """Everything known about one head before the solve. muzzle, ears: the kind of head, where somebody said
    so. bone: what earlier visits measured; age_weeks: the dog's age today, for a puppy's growth since."""

    photos: tuple[PhotoMarks, ...]
    hand_measures: tuple[HandMeasure, ...] = ()
    level_tip_deg: float = LEVEL_TIP_DEG
    muzzle: Muzzle = "any"
    ears: Carriage = "any"
    bone: Bone | None = None
    age_weeks: float | None = None

    @property
    def prior(self) -> ShapePrior:
        """What is expected of this head before any photo."""
        return prior_of(self.bone, self.age_weeks) if self.bone else prior_for(self.muzzle, self.ears)
