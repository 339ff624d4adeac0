"""What is read from a measured head: lengths and ratios, each with its uncertainty."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, Final, Literal

import numpy as np

from dapwick.core.arrays import gradient
from dapwick.core.marks import INDEX
from dapwick.core.solve import HeadSolution

Unit = Literal["mm", "ratio"]
NORMAL_95: Final = 1.959964
Rule = Callable[[Any], Any]


@dataclass(frozen=True)
class Measure:
    """value ± sigma, and the 95 % interval low..high, in `unit`; words as stylists say it."""

    id: str
    words: str
    value: float
    unit: Unit
    sigma: float
    low: float
    high: float


@dataclass(frozen=True)
class MeasureRule:
    id: str
    words: str
    unit: Unit
    of: Rule


def _span(a: str, b: str) -> Rule:
    def length(points: Any) -> Any:
        apart = points[..., INDEX[a], :] - points[..., INDEX[b], :]
        return np.sqrt((apart * apart).sum(axis=-1))

    return length


def _pair(name: str) -> Rule:
    return _span(f"{name}_left", f"{name}_right")


def _ratio(top: Rule, bottom: Rule) -> Rule:
    return lambda points: top(points) / bottom(points)


_skull_length, _muzzle_length, _skull_width = (
    _span("occiput", "stop"),
    _span("stop", "nose_tip"),
    _pair("cheek"),
)

RULES: Final = (
    MeasureRule("head_length", "head length", "mm", _span("occiput", "nose_tip")),
    MeasureRule("skull_length", "skull length", "mm", _skull_length),
    MeasureRule("muzzle_length", "muzzle length", "mm", _muzzle_length),
    MeasureRule("skull_width", "skull width", "mm", _skull_width),
    MeasureRule("eye_span_inner", "inner eye span", "mm", _pair("eye_inner")),
    MeasureRule("eye_span_outer", "outer eye span", "mm", _pair("eye_outer")),
    MeasureRule("ear_span", "ear span", "mm", _pair("ear_front")),
    MeasureRule("lip_width", "lip width", "mm", _pair("mouth_corner")),
    MeasureRule("skull_index", "skull width / length", "ratio", _ratio(_skull_width, _skull_length)),
    MeasureRule("muzzle_ratio", "muzzle / skull", "ratio", _ratio(_muzzle_length, _skull_length)),
)


def measures_of(head: HeadSolution) -> tuple[Measure, ...]:
    """Every measure of a solved head; σ by the measure's gradient through the marks' covariance."""

    def values(flat: Any) -> Any:
        points = flat.reshape(*flat.shape[:-1], -1, 3)
        return np.stack([rule.of(points) for rule in RULES], axis=-1)

    at = head.points_mm.ravel()
    slope = gradient(values, at)
    sigma = np.sqrt(np.einsum("mi,ij,mj->m", slope, head.covariance, slope))
    return tuple(
        Measure(
            rule.id,
            rule.words,
            float(v),
            rule.unit,
            float(s),
            float(v - NORMAL_95 * s),
            float(v + NORMAL_95 * s),
        )
        for rule, v, s in zip(RULES, values(at), sigma, strict=True)
    )
