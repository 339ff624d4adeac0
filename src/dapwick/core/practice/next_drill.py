"""Which drill is worth doing next: the one whose answer about this person is least certain."""

from __future__ import annotations

import math
from collections.abc import Mapping
from typing import Final, Literal

from dapwick.core.practice.trend import Point

Drill = Literal["bone", "eye", "long_side", "suits", "plan"]
DRILLS: Final[tuple[Drill, ...]] = ("bone", "eye", "long_side", "suits", "plan")
NAMES: Final[Mapping[Drill, str]] = {
    "bone": "Find the bone",
    "eye": "By eye",
    "long_side": "The long side",
    "suits": "What suits him",
    "plan": "The whole plan",
}
A_SESSION: Final[Mapping[Drill, int]] = {"bone": 3, "eye": 6, "long_side": 12, "suits": 3, "plan": 1}
"""Heads, guesses, faults, orders or plans that make a session of three to five minutes."""
WANTED: Final[Mapping[Drill, float]] = {
    "bone": 1.3,
    "eye": 1.35,
    "long_side": 1.35,
    "suits": 0.35,
    "plan": 1.6,
}
"""How sure a figure is wanted: its interval's upper end over its lower one; of a share, the difference."""


def doubt(drill: Drill, latest: Point | None) -> float:
    """How unsure the figure of a drill is, 1 where it is as sure as wanted; more for what was never tried."""
    if latest is None:
        return 10.0 - DRILLS.index(drill)
    if drill == "suits":
        return (latest.high - latest.low) / WANTED[drill]
    return math.log(latest.high / latest.low) / math.log(WANTED[drill])


def next_drill(latest: Mapping[Drill, Point | None]) -> Drill:
    """The drill that is least certain about the person."""
    return max(DRILLS, key=lambda drill: doubt(drill, latest.get(drill)))


def why_next(drill: Drill, latest: Point | None) -> str:
    """One sentence for the button."""
    if latest is None:
        return "Not tried yet."
    return {
        "bone": f"Where your marks fall is known to {latest.low:.0f} to {latest.high:.0f} mm: least sure of all.",
        "eye": f"How far off your guesses are: {latest.low:.0%} to {latest.high:.0%}, least sure of all.",
        "long_side": f"What you find is known to {latest.low:.1f} to {latest.high:.1f} mm: least sure of all.",
        "suits": f"How often you and Dapwick agree: {latest.low:.0%} to {latest.high:.0%}, least sure of all.",
        "plan": f"How far off your cuts end: {latest.low:.1f} to {latest.high:.1f} mm, least sure of all.",
    }[drill]
