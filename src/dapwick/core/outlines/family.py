"""What a family of outlines is: parameters in plain words, schools, ideals, and one shape rule.

A family is one file in `families/`; adding one needs no screen code.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import Any, Final, Literal

from dapwick.core.basics.errors import BadInput
from dapwick.core.basics.shapes import Field
from dapwick.core.head.zones import BARE, ZONES
from dapwick.core.outlines.covers import Cover, SettingLine
from dapwick.core.outlines.ear_cut import EarCut
from dapwick.core.outlines.face import Face

Params = Mapping[str, float]
Schools = Mapping[str, str]
FULLNESS: Final = "fullness"
"""The parameter every family has: its main size between the true ends."""
HEAD_ZONES: Final = tuple(z for z in ZONES if z != BARE)
INFINITE: Final = float("inf")
Steer = Literal["eyes", "beard", "ears"]
About = Literal["shape", "ears", "clipping", "order"]


@dataclass(frozen=True)
class Grip:
    """Where a parameter is taken hold of on the drawing: the place of a zone that lies farthest along an
    axis of the head frame, which moves by `gain` mm along it for each unit."""

    zone: str
    axis: tuple[float, float, float]
    gain: float = 1.0


SIDEWAYS: Final = Grip("cheek", (-1.0, 0.0, 0.0))
UPWARD: Final = Grip("crown", (0.0, 0.0, 1.0))
AT_THE_EAR: Final = Grip("ear_edge", (0.0, 0.0, -1.0))


@dataclass(frozen=True)
class Parameter:
    """One thing that can be turned. default is the family's ideal, tolerance how far from it costs one
    unit in the fit; words_low/high name the ends of its slider; steer: which of the owner's wishes speaks of
    it; grip: where the drawing is pulled to turn it."""

    id: str
    words: str
    unit: str
    low: float
    high: float
    default: float
    words_low: str
    words_high: str
    tolerance: float = 1.0
    steer: Steer | None = None
    grip: Grip | None = None


@dataclass(frozen=True)
class School:
    """A question on which stylists differ, and its default with the reason. about: under which heading it is asked;
    only_with: another question
    and the answer to it without which this one is not asked; by_coat: coats for which another choice is usual."""

    id: str
    question: str
    choices: tuple[str, ...]
    default: str
    reason: str
    about: About = "shape"
    only_with: tuple[str, str] | None = None
    by_coat: Mapping[str, str] = field(default_factory=dict)


@dataclass(frozen=True)
class Ideal:
    """A ratio or angle that the family wants to meet: want ± tolerance costs one unit.

    of: a measure of the head (core/measures/measure.py) or of the finished outline (effects.py). one_sided: +1 only
    too little counts, -1 only too much. sentence: the reason told where it is missed, with {value}, {want}.
    """

    of: str
    want: float
    tolerance: float
    sentence: str
    one_sided: int = 0

    def departure(self, value: float) -> float:
        """In tolerances, 0 where it is met."""
        off = (value - self.want) / self.tolerance
        if self.one_sided:
            off = min(off * self.one_sided, 0.0)
        return abs(off)


@dataclass(frozen=True)
class Condition:
    """Something the family's own description promises of the finished head: of, a proportion read from the result
    (description.py), is at least `least` and at most `most`. Where it is not, the family's name is not put on it;
    sentence: what is told then, with {value} and {want}."""

    of: str
    sentence: str
    least: float = -INFINITE
    most: float = INFINITE

    @property
    def want(self) -> float:
        """The end that is set."""
        return self.least if self.least > -INFINITE else self.most

    def holds(self, value: float) -> bool:
        return self.least <= value <= self.most

    def said(self, value: float) -> str:
        """Why the name does not fit, in plain words."""
        return self.sentence.format(value=value, want=self.want) + "."


@dataclass(frozen=True)
class Design:
    """What one setting of a family asks of a head. surface: the target of scissored hair (head frame, mm);
    covers: skin that is clipped or thinned instead, later ones over earlier; corners_left: the inner corners
    and the stop are not cleared; least_mm: depth that scissors leave where bone comes near the surface or past it."""

    surface: Field
    ears: EarCut
    covers: tuple[Cover, ...] = ()
    lines: tuple[SettingLine, ...] = ()
    corners_left: bool = False
    least_mm: float = 6.0


@dataclass(frozen=True)
class Family:
    """`design(face, size_mm, params, schools)` is the family's rule.

    default_size(face): the size (mm) it would like on this head, coat apart; size_words: what it is called;
    size_reach: how far below and above that the fit may go;
    size_grip: where the drawing is pulled to change it. conditions: what must hold of the result for its name to be put
    on it; ideals: what it would like besides. coats: by coat type, what it costs the family and
    the reason told. planned: zones it gives lengths for, in reading order; based_on: the family under a variant.
    """

    id: str
    name: str
    description: str
    size_words: str
    parameters: tuple[Parameter, ...]
    schools: tuple[School, ...]
    default_size: Callable[[Face], float]
    design: Callable[[Face, float, Params, Schools], Design]
    planned: tuple[str, ...] = HEAD_ZONES
    size_reach: tuple[float, float] = (45.0, 45.0)
    size_grip: Grip = SIDEWAYS
    conditions: tuple[Condition, ...] = ()
    ideals: tuple[Ideal, ...] = ()
    coats: Mapping[str, tuple[float, str]] = field(default_factory=dict)
    finish: str = ""
    cautions: tuple[str, ...] = ()
    based_on: str = ""

    @property
    def shape_id(self) -> str:
        """The family whose rule this is: its own, or the one a salon's variant stands on."""
        return self.based_on or self.id

    @property
    def turned(self) -> tuple[Parameter, ...]:
        """Parameters besides the main size."""
        return tuple(p for p in self.parameters if p.id != FULLNESS)

    def checked(self, given: Mapping[str, Any]) -> dict[str, float]:
        """The given parameters as numbers; unknown or out-of-range ones are refused."""
        known = {p.id: p for p in self.parameters}
        settled: dict[str, float] = {}
        for key, value in given.items():
            if key not in known:
                raise BadInput(
                    "unknown parameter", expected=", ".join(known), got=key, where=f"outline {self.id}"
                )
            p = known[key]
            if not isinstance(value, (int, float)) or not p.low <= value <= p.high:
                raise BadInput(
                    p.words,
                    expected=f"{p.low:g} to {p.high:g} {p.unit}".strip(),
                    got=str(value),
                    where=f"outline {self.id}",
                )
            settled[key] = float(value)
        return settled


def settle_schools(family: Family, given: Mapping[str, str], coat_type: str | None = None) -> dict[str, str]:
    """Each school's choice; where none is given the default, which may hang on the coat."""
    known = {s.id: s for s in family.schools}
    for key, value in given.items():
        if key not in known:
            raise BadInput("unknown school", expected=", ".join(known), got=key, where=f"outline {family.id}")
        if value not in known[key].choices:
            raise BadInput(
                known[key].question,
                expected=", ".join(known[key].choices),
                got=value,
                where=f"outline {family.id}",
            )
    return {s.id: given.get(s.id) or _usual(s, coat_type) for s in family.schools}


def asked_of(family: Family, settled: Schools) -> tuple[School, ...]:
    """The questions that matter with what is chosen."""
    return tuple(
        s for s in family.schools if s.only_with is None or settled.get(s.only_with[0]) == s.only_with[1]
    )


def _usual(school: School, coat_type: str | None) -> str:
    return school.by_coat.get(coat_type or "", school.default)
