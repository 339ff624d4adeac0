"""What a family of outlines is: parameters in plain words and one shape rule.

A family is one file in `families/`; adding one needs no screen code.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any, Final

import numpy as np

from dapwick.core.arrays import Array
from dapwick.core.errors import BadInput
from dapwick.core.marks import INDEX
from dapwick.core.shapes import Field
from dapwick.core.solve import HeadSolution

Params = Mapping[str, float]
FULLNESS: Final = "fullness"
"""The parameter every family has: its main size between the true ends."""


@dataclass(frozen=True)
class Parameter:
    """One thing that can be turned. default is the family's ideal, tolerance how far from it costs one
    unit in the fit; words_low/high name the ends of its slider."""

    id: str
    words: str
    unit: str
    low: float
    high: float
    default: float
    words_low: str
    words_high: str
    tolerance: float = 1.0


@dataclass(frozen=True)
class School:
    """A question on which stylists differ, and its default with the reason."""

    id: str
    question: str
    choices: tuple[str, ...]
    default: str
    reason: str


@dataclass(frozen=True)
class Family:
    """`shape(head, size_mm, params)` is the target surface's field (head frame, mm).

    default_size(head): the size (mm) it would like on this head, coat apart.
    size_words: what the main size is called. planned: zones it gives lengths for, in reading order.
    """

    id: str
    name: str
    description: str
    size_words: str
    parameters: tuple[Parameter, ...]
    schools: tuple[School, ...]
    planned: tuple[str, ...]
    default_size: Callable[[HeadSolution], float]
    shape: Callable[[HeadSolution, float, Params], Field]
    cautions: tuple[str, ...] = ()

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


def settle_schools(family: Family, given: Mapping[str, str]) -> dict[str, str]:
    """Each school's choice, default where none is given."""
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
    return {s.id: given.get(s.id, s.default) for s in family.schools}


def eye_centre(head: HeadSolution) -> Array:
    """Midway between the outer eye corners (3,): where a round outline is centred."""
    corners = head.points_mm[[INDEX["eye_outer_left"], INDEX["eye_outer_right"]]]
    return np.asarray(corners.mean(axis=0), dtype=np.float64)
