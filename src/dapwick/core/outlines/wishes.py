"""The owner's wishes, how they steer a fit, and what is told of those that cannot be met."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Final, Literal

import numpy as np

from dapwick.core.basics.errors import BadInput
from dapwick.core.head.growth import RATE_SPREAD, growth_mm
from dapwick.core.head.stand import STAND_FACTOR, depth_of
from dapwick.core.outlines.family import Family, Parameter, Steer

Eyes = Literal["any", "open", "veiled"]
Beard = Literal["any", "short", "long"]
Ears = Literal["any", "keep", "short"]
BodyEnds = Literal["ring", "occiput", "shoulder"]
BODY_ENDS: Final = ("ring", "occiput", "shoulder")
AsBody = Literal["throat", "ear_edges"]
AS_BODY: Final = ("throat", "ear_edges")
"""What of the head can be said to be as short as the body; the nape is, wherever the body's clip runs to it."""
SAYABLE: Final = (
    "crown", "back_skull", "nape", "visor", "brow", "temple", "cheek", "jaw", "throat", "muzzle_side", "chin",
)  # fmt: skip
"""Zones for which a length can be said."""
SHORTEST_BODY_MM, SHORTEST_SAID_MM, LONGEST_SAID_MM = 0.25, 3.0, 120.0
"""Under the shortest it is a blade's length, which the outline's own questions set."""
CHOICES: Final[Mapping[str, tuple[str, ...]]] = {
    "eyes": ("any", "open", "veiled"),
    "beard": ("any", "short", "long"),
    "ears": ("any", "keep", "short"),
}
TOWARD: Final[Mapping[str, int]] = {"open": -1, "short": -1, "veiled": 1, "long": 1, "keep": 1}
"""Which end of a steered parameter a wish asks for."""
ASKS: Final = 0.7
"""How far from its default toward that end."""
FIRM: Final = 0.5
"""A wished-for value is held this many times tighter (tolerance) than a family's own."""
USUAL_WEEKS: Final = 6
MOST_WEEKS: Final = 26
FULLNESS_MM: Final = 14.0
"""A wish of ±1 for fullness moves the main size so far."""
GROWN_SHARE: Final = 0.5
"""Of the growth beyond the usual weeks between visits, so much is taken off in advance."""
EYE_FALL_MM: Final = 30.0
"""Fringe this long falls over the eye."""
LIKELY: Final = 0.52
"""A rate so many σ over the middle one is passed by three dogs in ten."""


@dataclass(frozen=True)
class Wishes:
    """fullness: -1 shorter to 1 fuller than the family's own; weeks_between visits, None where unsaid; lengths: hair
    length (mm) said for a zone, which the outline is fitted round; body_mm: length of the body's clip, to which the
    head is joined, body_ends: where that clip ends; as_body: what else is as short."""

    fullness: float = 0.0
    eyes: Eyes = "any"
    beard: Beard = "any"
    ears: Ears = "any"
    weeks_between: int | None = None
    lengths: Mapping[str, float] = field(default_factory=dict, hash=False)
    body_mm: float | None = None
    body_ends: BodyEnds = "ring"
    as_body: tuple[AsBody, ...] = ()

    def __post_init__(self) -> None:
        for key, allowed in CHOICES.items():
            if getattr(self, key) not in allowed:
                raise BadInput(
                    f"wish: {key}", expected=", ".join(allowed), got=str(getattr(self, key)), where="wishes"
                )
        if not -1.0 <= self.fullness <= 1.0:
            raise BadInput("wish: fullness", expected="-1 to 1", got=f"{self.fullness:g}", where="wishes")
        if self.weeks_between is not None and not 1 <= self.weeks_between <= MOST_WEEKS:
            raise BadInput(
                "weeks between visits",
                expected=f"1 to {MOST_WEEKS}",
                got=str(self.weeks_between),
                where="wishes",
            )
        self._check_said()

    def _check_said(self) -> None:
        if self.body_ends not in BODY_ENDS:
            raise BadInput(
                "where the body's clip ends",
                expected=", ".join(BODY_ENDS),
                got=str(self.body_ends),
                where="wishes",
            )
        for place in self.as_body:
            if place not in AS_BODY:
                raise BadInput(
                    "what is as short as the body",
                    expected=", ".join(AS_BODY),
                    got=str(place),
                    where="wishes",
                )
        if self.body_mm is not None:
            _check_length("body", self.body_mm, SHORTEST_BODY_MM)
        for zone, mm in self.lengths.items():
            if zone not in SAYABLE:
                raise BadInput("a length for a place", expected=", ".join(SAYABLE), got=zone, where="wishes")
            _check_length(zone, mm, SHORTEST_SAID_MM)

    @property
    def ear_edge_mm(self) -> float | None:
        """Length that the ears' edges were said to be as short as."""
        return self.body_mm if "ear_edges" in self.as_body else None

    @property
    def said_mm(self) -> dict[str, float]:
        """Length (mm) by zone: what was said, and what is as short as the body."""
        if self.body_mm is None:
            return dict(self.lengths)
        joined = ["nape"] * (self.body_ends == "ring") + ["throat"] * ("throat" in self.as_body)
        return {**dict.fromkeys(joined, max(self.body_mm, SHORTEST_SAID_MM)), **self.lengths}


def _check_length(place: str, mm: float, least_mm: float) -> None:
    if not least_mm <= mm <= LONGEST_SAID_MM:
        expected = f"{least_mm:g} to {LONGEST_SAID_MM:g} mm"
        raise BadInput(f"length said: {place}", expected=expected, got=f"{mm:g}", where="wishes")


NO_WISHES: Final = Wishes()


@dataclass(frozen=True)
class Aim:
    """What a fit aims for: a parameter's (or size's) ideal and how far from it costs one unit."""

    value: float
    tolerance: float


@dataclass(frozen=True)
class WishOutcome:
    """One wish, whether the plan meets it, and why in plain words."""

    wish: str
    met: bool
    words: str


def aim_of(parameter: Parameter, wishes: Wishes, coat_type: str) -> Aim:
    """A parameter's ideal under these wishes."""
    wish = _wish_for(parameter.steer, wishes)
    aim = Aim(parameter.default, parameter.tolerance)
    if wish != "any":
        end = parameter.high if TOWARD[wish] > 0 else parameter.low
        aim = Aim(parameter.default + ASKS * (end - parameter.default), FIRM * parameter.tolerance)
    if parameter.steer == "eyes" and parameter.unit == "mm" and wishes.weeks_between is not None:
        deepest = _deepest_fringe(wishes.weeks_between, coat_type)
        aim = Aim(max(min(aim.value, deepest), parameter.low), aim.tolerance)
    return aim


def size_shift(wishes: Wishes, coat_type: str) -> float:
    """How far (mm) wishes move the main size from the family's usual one."""
    return FULLNESS_MM * wishes.fullness - GROWN_SHARE * extra_growth(wishes, coat_type)


def extra_growth(wishes: Wishes, coat_type: str) -> float:
    """Growth (mm of length) beyond that of the usual weeks between visits; negative for more frequent ones."""
    weeks = wishes.weeks_between or USUAL_WEEKS
    return growth_mm(weeks, coat_type) - growth_mm(USUAL_WEEKS, coat_type)


def fringe_limit(wishes: Wishes, coat_type: str) -> float:
    """Longest fringe (mm) that is still out of the eyes at the next visit; no limit where no weeks are said."""
    if wishes.weeks_between is None:
        return EYE_FALL_MM
    return EYE_FALL_MM - growth_mm(wishes.weeks_between, coat_type)


def _deepest_fringe(weeks_between: int, coat_type: str) -> float:
    """Deepest fringe (mm) that is likely still out of the eyes by then, a dog's own rate being known so well and no
    better."""
    grown = growth_mm(weeks_between, coat_type) * (1.0 + LIKELY * RATE_SPREAD)
    left = np.array([max(EYE_FALL_MM - grown, 0.0)])
    return float(depth_of(left, np.array([STAND_FACTOR[coat_type]]))[0])


def _wish_for(steer: Steer | None, wishes: Wishes) -> str:
    return getattr(wishes, steer) if steer else "any"


def steered(family: Family, steer: Steer) -> tuple[Parameter, ...]:
    return tuple(p for p in family.turned if p.steer == steer)


def steering_words(wishes: Wishes, coat_type: str) -> tuple[str, ...]:
    """What the wishes did to the fit, told even where they are all met."""
    said = []
    extra = extra_growth(wishes, coat_type)
    if abs(extra) >= 2.0:
        change = GROWN_SHARE * abs(extra)
        said.append(
            f"{wishes.weeks_between} weeks between visits: {change:.0f} mm {'shorter' if extra > 0 else 'fuller'} "
            f"all round, so that it {'holds its shape' if extra > 0 else 'keeps what need not go'}."
        )
    return tuple(said)
