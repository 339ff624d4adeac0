"""Cut for so many weeks: the projection run backwards, to what has to be shorter today."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Final

import numpy as np

from dapwick.core.after.coming import MOST_CHANCE, Coming, EventId, coming
from dapwick.core.head.growth import Growth
from dapwick.core.head.stand import STAND_FACTOR, depth_of, length_of
from dapwick.core.outlines.family import FULLNESS, Parameter, Steer
from dapwick.core.outlines.fit import Outline
from dapwick.core.outlines.wishes import Wishes

ROUNDS: Final = 3
FULLNESS_STEP: Final = 0.3
MORE: Final = 1.1
"""A little more than the middle rate asks, since not every dog grows at it."""
TURNED_BY: Final[Mapping[EventId, Steer]] = {"eyes": "eyes", "sight": "eyes", "beard": "beard"}
Draw = Callable[[Mapping[str, float]], Outline]


@dataclass(frozen=True)
class Lasting:
    """An outline cut for so many weeks. params: what to set; weeks: it is then likely to last; words: what is shorter,
    empty where nothing has to be; first: what shows first."""

    cut_for: int
    params: Mapping[str, float]
    weeks: int
    words: str
    first: str


def cut_to_last(
    draw: Draw, params: Mapping[str, float], weeks: int, growth: Growth, wishes: Wishes
) -> Lasting:
    """The setting that lasts so many weeks, or comes nearest. draw: the outline at a setting."""
    outline = draw(params)
    begun, told = dict(outline.params), coming(outline, growth, wishes)
    for _ in range(ROUNDS):
        shorter = _shorter(outline, told, weeks, growth)
        if not shorter:
            break
        outline = draw({**params, **shorter})
        params = {**params, **shorter}
        told = coming(outline, growth, wishes)
    first = next((e.words for e in told.events if e.minded), "")
    return Lasting(weeks, params, told.weeks, _words(outline, begun), first)


def _shorter(outline: Outline, told: Coming, weeks: int, growth: Growth) -> dict[str, float]:
    """Parameters to turn so that what shows too early shows later; empty where nothing does, or none is left."""
    found: dict[str, float] = {}
    for event in told.events:
        if not event.minded or event.chance[weeks] < MOST_CHANCE:
            continue
        missing = next((w for w in range(weeks + 1) if event.chance[w] >= MOST_CHANCE), weeks)
        by = (weeks - missing + 1) * MORE * growth.usual_mm_a_week
        turned = _turned(outline, event.id)
        before = outline.params.get(turned.id, turned.default) if turned else outline.params[FULLNESS]
        if turned is None:
            to = max(before - FULLNESS_STEP, -1.0)
        else:
            to = max(_less(before, by, outline.ground.coat_type), turned.low)
        if to < before - 1e-6:
            found[turned.id if turned else FULLNESS] = round(to, 3)
    return found


def _turned(outline: Outline, event: EventId) -> Parameter | None:
    """The parameter in mm that an event hangs on; None where it is the size."""
    steer = TURNED_BY.get(event)
    return (
        next((p for p in outline.family.turned if p.steer == steer and p.unit == "mm"), None)
        if steer
        else None
    )


def _less(depth_mm: float, by_mm: float, coat_type: str) -> float:
    """A depth whose hair is so much shorter."""
    stand = np.array([STAND_FACTOR[coat_type]])
    length = length_of(np.array([max(depth_mm, 0.0)]), stand) - by_mm
    return float(depth_of(np.maximum(length, 0.0), stand)[0])


def _words(outline: Outline, begun: Mapping[str, float]) -> str:
    """What is shorter than it was, in the words of its own sliders."""
    said = []
    for parameter in outline.family.turned:
        by = begun.get(parameter.id, 0.0) - outline.params.get(parameter.id, 0.0)
        if by >= 0.5 and parameter.unit == "mm":
            said.append(f"{parameter.words.lower()} {by:.0f} mm less")
    if outline.params[FULLNESS] < begun[FULLNESS] - 1e-6:
        said.append("shorter all round")
    return ", ".join(said)
