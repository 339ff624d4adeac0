"""What is read from a measured head: lengths, angles and ratios, each with its uncertainty."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from typing import Any, Final, Literal

import numpy as np

from dapwick.core.basics.arrays import Array, gradient
from dapwick.core.basics.marks import INDEX
from dapwick.core.solve.joint import HeadSolution, Places

Unit = Literal["mm", "deg", "ratio"]
NORMAL_95: Final = 1.959964
ACROSS, AHEAD, UP = 0, 1, 2
Rule = Callable[[Any], Any]
"""Marks (..., marks, 3) in the head frame, mm, to a measure (...); analytic, for `arrays.gradient`."""


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

    def wider(self, factor: float) -> Measure:
        """The same told so many times less surely."""
        low, high = (self.value + factor * (end - self.value) for end in (self.low, self.high))
        return replace(self, sigma=factor * self.sigma, low=low, high=high)


@dataclass(frozen=True)
class MeasureRule:
    id: str
    words: str
    unit: Unit
    of: Rule


def between(head: HeadSolution, a: str, b: str) -> tuple[float, float]:
    """The distance (mm) between two marks of a measured head, and its σ."""
    apart = head.points_mm[INDEX[b]] - head.points_mm[INDEX[a]]
    mm = float(np.linalg.norm(apart))
    slope = np.zeros_like(head.points_mm)
    slope[INDEX[b]], slope[INDEX[a]] = apart / mm, -apart / mm
    along = slope.ravel()
    return mm, float(np.sqrt(along @ head.covariance @ along))


def _at(mark: str) -> Rule:
    return lambda points: points[..., INDEX[mark], :]


def _middle(name: str) -> Rule:
    """Midway between the two marks of a pair."""
    left, right = _at(f"{name}_left"), _at(f"{name}_right")
    return lambda points: (left(points) + right(points)) / 2


def _between(a: Rule, b: Rule) -> Rule:
    def length(points: Any) -> Any:
        apart = a(points) - b(points)
        return np.sqrt((apart * apart).sum(axis=-1))

    return length


def _span(a: str, b: str) -> Rule:
    return _between(_at(a), _at(b))


def _pair(name: str) -> Rule:
    return _span(f"{name}_left", f"{name}_right")


def _ratio(top: Rule, bottom: Rule) -> Rule:
    return lambda points: top(points) / bottom(points)


def _mean(a: Rule, b: Rule) -> Rule:
    return lambda points: (a(points) + b(points)) / 2


def _side_view(points: Any, a: str, b: str) -> tuple[Any, Any]:
    """(forward, up) from mark a to mark b, as seen from the side."""
    apart = _at(b)(points) - _at(a)(points)
    return apart[..., AHEAD], apart[..., UP]


def _off_line(mark: str, start: str, end: str) -> Rule:
    """How far a mark lies under the line from start (behind) to end (before), seen from the side."""

    def depth(points: Any) -> Any:
        (ay, az), (by, bz) = _side_view(points, start, end), _side_view(points, start, mark)
        return (by * az - bz * ay) / np.sqrt(ay * ay + az * az)

    return depth


def _angle_at(corner: str, a: str, b: str) -> Rule:
    """Angle (deg) at a mark between two others, in space."""

    def angle(points: Any) -> Any:
        u, v = _at(a)(points) - _at(corner)(points), _at(b)(points) - _at(corner)(points)
        dot = (u * v).sum(axis=-1)
        size = np.sqrt((u * u).sum(axis=-1) * (v * v).sum(axis=-1))
        return np.arccos(dot / size) * (180 / math.pi)

    return angle


def _slope(behind: str, before: str) -> Rule:
    """How much a line falls towards the nose, degrees, seen from the side."""

    def slope(points: Any) -> Any:
        ahead, up = _side_view(points, behind, before)
        return np.arctan(-up / ahead) * (180 / math.pi)

    return slope


def _difference(a: Rule, b: Rule) -> Rule:
    return lambda points: a(points) - b(points)


def _eye_line(points: Any) -> Any:
    """Height of the line through the four eye corners."""
    return (_middle("eye_inner")(points)[..., UP] + _middle("eye_outer")(points)[..., UP]) / 2


def _over_eyes(mark: str) -> Rule:
    return lambda points: _at(mark)(points)[..., UP] - _eye_line(points)


def _eye_tilt(side: str) -> Rule:
    """How much the outer corner lies over the inner one, degrees, seen from the front."""
    outward = 1.0 if side == "right" else -1.0

    def tilt(points: Any) -> Any:
        apart = _at(f"eye_outer_{side}")(points) - _at(f"eye_inner_{side}")(points)
        return np.arctan(apart[..., UP] / (outward * apart[..., ACROSS])) * (180 / math.pi)

    return tilt


def _taper(points: Any) -> Any:
    """Angle (deg) between the lines from the nose tip to both mouth corners, seen from above."""
    half = (_at("mouth_corner_right")(points) - _at("mouth_corner_left")(points))[..., ACROSS] / 2
    ahead = (_at("nose_tip")(points) - _middle("mouth_corner")(points))[..., AHEAD]
    return 2 * np.arctan(half / ahead) * (180 / math.pi)


def _ear_base(side: str) -> Rule:
    front, back = _at(f"ear_front_{side}"), _at(f"ear_back_{side}")
    return lambda points: (front(points) + back(points)) / 2


def _jaw_depth(points: Any) -> Any:
    return _eye_line(points) - _middle("jaw_angle")(points)[..., UP]


SKULL_LENGTH: Final = _span("occiput", "stop")
MUZZLE_LENGTH: Final = _span("stop", "nose_tip")
SKULL_WIDTH: Final = _pair("cheek")
CROWN_HEIGHT: Final = _over_eyes("crown")
EAR_SET: Final = _mean(_over_eyes("ear_front_left"), _over_eyes("ear_front_right"))


def _both(name: str, words: str, unit: Unit, of: Callable[[str], Rule]) -> tuple[MeasureRule, MeasureRule]:
    left, right = (MeasureRule(f"{name}_{side}", f"{words}, {side}", unit, of(side)) for side in SIDES)
    return left, right


SIDES: Final = ("left", "right")
RULES: Final = (
    MeasureRule("head_length", "head length", "mm", _span("occiput", "nose_tip")),
    MeasureRule("skull_length", "skull length", "mm", SKULL_LENGTH),
    MeasureRule("muzzle_length", "muzzle length", "mm", MUZZLE_LENGTH),
    MeasureRule("skull_width", "skull width", "mm", SKULL_WIDTH),
    MeasureRule("eye_span_inner", "inner eye span", "mm", _pair("eye_inner")),
    MeasureRule("eye_span_outer", "outer eye span", "mm", _pair("eye_outer")),
    *_both("eye_opening", "eye opening", "mm", lambda s: _span(f"eye_inner_{s}", f"eye_outer_{s}")),
    MeasureRule("ear_span", "ear span", "mm", _pair("ear_front")),
    *_both("ear_base", "ear base", "mm", lambda s: _span(f"ear_front_{s}", f"ear_back_{s}")),
    *_both("ear_length", "ear length", "mm", lambda s: _between(_ear_base(s), _at(f"ear_tip_{s}"))),
    MeasureRule("lip_width", "lip width", "mm", _pair("mouth_corner")),
    MeasureRule("muzzle_depth", "muzzle depth", "mm", _off_line("chin", "stop", "nose_top")),
    MeasureRule("stop_depth", "stop depth", "mm", _off_line("stop", "crown", "nose_top")),
    MeasureRule("jaw_depth", "jaw depth under the eyes", "mm", _jaw_depth),
    MeasureRule("crown_height", "crown over the eyes", "mm", CROWN_HEIGHT),
    *_both("ear_set_height", "ear set over the eyes", "mm", lambda s: _over_eyes(f"ear_front_{s}")),
    MeasureRule("stop_angle", "stop angle", "deg", _angle_at("stop", "crown", "nose_top")),
    *_both("eye_tilt", "eye tilt", "deg", _eye_tilt),
    MeasureRule(
        "plane_angle",
        "skull to bridge",
        "deg",
        _difference(_slope("stop", "nose_top"), _slope("occiput", "stop")),
    ),
    MeasureRule(
        "jaw_angle",
        "jaw angle",
        "deg",
        _mean(
            _angle_at("jaw_angle_left", "ear_back_left", "chin"),
            _angle_at("jaw_angle_right", "ear_back_right", "chin"),
        ),
    ),
    MeasureRule("muzzle_taper", "muzzle taper", "deg", _taper),
    MeasureRule("skull_index", "skull width / length", "ratio", _ratio(SKULL_WIDTH, SKULL_LENGTH)),
    MeasureRule("muzzle_ratio", "muzzle / skull", "ratio", _ratio(MUZZLE_LENGTH, SKULL_LENGTH)),
    MeasureRule("face_index", "skull width / muzzle", "ratio", _ratio(SKULL_WIDTH, MUZZLE_LENGTH)),
    MeasureRule("eye_set_ratio", "eye span / skull width", "ratio", _ratio(_pair("eye_outer"), SKULL_WIDTH)),
    MeasureRule("ear_set_ratio", "ear set / crown height", "ratio", _ratio(EAR_SET, CROWN_HEIGHT)),
    MeasureRule(
        "dome_ratio",
        "dome / skull length",
        "ratio",
        _ratio(lambda points: -_off_line("crown", "occiput", "stop")(points), SKULL_LENGTH),
    ),
)


def values_of(rules: Sequence[Rule], flat: Any) -> Any:
    """Measures (..., rules) of marks laid flat (..., 3·marks)."""
    points = flat.reshape(*flat.shape[:-1], -1, 3)
    return np.stack([rule(points) for rule in rules], axis=-1)


def with_covariance(head: HeadSolution | Places, rules: Sequence[Rule]) -> tuple[Array, Array]:
    """Values (rules,) and covariance (rules, rules) of anything read from a head's marks, by its gradient
    through the marks' covariance."""
    at = head.points_mm.ravel()
    slope = gradient(lambda flat: values_of(rules, flat), at)
    return np.asarray(values_of(rules, at)), slope @ head.covariance @ slope.T


def measures_of(head: HeadSolution) -> tuple[Measure, ...]:
    """Every measure of a solved head."""
    values, covariance = with_covariance(head, [rule.of for rule in RULES])
    sigma = np.sqrt(np.diag(covariance))
    return tuple(
        Measure(rule.id, rule.words, v, rule.unit, s, v - NORMAL_95 * s, v + NORMAL_95 * s)
        for rule, v, s in zip(RULES, values.tolist(), sigma.tolist(), strict=True)
    )
