"""Lengths by zone and side: what to leave and take off, in hair length, with how sure that is."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

import numpy as np

from dapwick.core.measures import NORMAL_95
from dapwick.core.outlines.fit import Outline
from dapwick.core.plan.growth import weeks_to_grow
from dapwick.core.plan.tools import guard_for

SIDES: Final = ("left", "right")
TELLING_SHORTAGE_MM: Final = 2.0
SHORTEST_PERCENTILE: Final = 10
SHORT_PERCENTILE: Final = 75
"""A quarter of a zone without enough hair is seen by everybody; a few places are not."""


@dataclass(frozen=True)
class ZoneLength:
    """One zone of one side. All but depth_mm are hair lengths (mm); depth_mm is the outline's depth
    over the skin. low..high is the 95 % interval of leave_mm; now_mm is the coat as it is."""

    zone: str
    side: str
    leave_mm: float
    low: float
    high: float
    now_mm: float
    now_low: float
    now_high: float
    remove_mm: float
    shortage_mm: float
    depth_mm: float
    chance_short: float
    tool: str


def zone_lengths(outline: Outline) -> tuple[ZoneLength, ...]:
    """Every planned zone, left then right."""
    return tuple(_zone(outline, zone, side) for zone in outline.family.planned for side in SIDES)


def _zone(outline: Outline, zone: str, side: str) -> ZoneLength:
    skin, coat = outline.ground.skin, outline.ground.coat
    at = skin.in_zone(zone, side)
    leave, now = outline.leave_mm[at] / coat.stand[at], coat.depth_mm[at] / coat.stand[at]
    of_each = np.stack(
        [
            leave, now, now - leave, coat.stand[at], skin.sigma_mm[at], coat.sigma_mm[at], outline.leave_mm[at],
            outline.chance_short[at],
        ]
    )  # fmt: skip
    middle, now_middle, off, stand, skin_sigma, coat_sigma, depth, chance = np.median(
        of_each, axis=1
    ).tolist()
    # A zone's median is steadier than one place on it, but its places err together: no √n here.
    spread = NORMAL_95 * skin_sigma / stand
    now_spread = NORMAL_95 * coat_sigma / stand
    short = float(np.percentile(outline.short_mm[at], SHORT_PERCENTILE)) / stand
    return ZoneLength(
        zone=zone,
        side=side,
        leave_mm=middle,
        low=max(middle - spread, 0.0),
        high=middle + spread,
        now_mm=now_middle,
        now_low=max(now_middle - now_spread, 0.0),
        now_high=now_middle + now_spread,
        remove_mm=max(off, 0.0),
        shortage_mm=short if short >= TELLING_SHORTAGE_MM else 0.0,
        depth_mm=depth,
        chance_short=chance,
        tool=guard_for(float(np.percentile(leave, SHORTEST_PERCENTILE))),
    )


@dataclass(frozen=True)
class Verdict:
    """Whether the outline can be cut today, or in how many weeks, and why in plain words."""

    when: str
    weeks: int
    reasons: tuple[str, ...]


def verdict_of(outline: Outline, zones: tuple[ZoneLength, ...], coat_type: str) -> Verdict:
    worst = max(zones, key=lambda z: z.shortage_mm)
    weeks = weeks_to_grow(worst.shortage_mm, coat_type)
    when = "today" if weeks == 0 else "later" if weeks <= 26 else "not_on_this_coat"
    return Verdict(when, weeks, tuple(_reasons(outline, zones, worst)))


def _reasons(outline: Outline, zones: tuple[ZoneLength, ...], worst: ZoneLength) -> list[str]:
    sizes, words = outline.sizes, outline.family.size_words
    reasons = [
        f"Room all round: {words} {sizes.smallest:.0f}–{sizes.largest:.0f} mm, yours {outline.size_mm:.0f}."
    ]
    if worst.shortage_mm:
        place = f"{worst.zone.replace('_', ' ').capitalize()}, {worst.side}"
        reasons.append(f"{place}: {worst.shortage_mm:.0f} mm more hair wanted than is surely there.")
    uneven = _most_uneven(zones)
    if uneven:
        reasons.append(uneven)
    vague = max(zones, key=lambda z: z.now_high - z.now_low)
    reasons.append(
        f"Least sure of the coat: {vague.zone.replace('_', ' ')}, ±{(vague.now_high - vague.now_low) / 2:.0f} mm. "
        "A comb pushed to the skin there would tell."
    )
    return reasons


def _most_uneven(zones: tuple[ZoneLength, ...], telling_mm: float = 3.0) -> str | None:
    """The pair of sides that must be cut to different lengths for an even outline."""
    pairs = list(zip(zones[::2], zones[1::2], strict=True))
    left, right = max(pairs, key=lambda pair: abs(pair[0].leave_mm - pair[1].leave_mm))
    difference = left.leave_mm - right.leave_mm
    if abs(difference) < telling_mm:
        return None
    longer = "left" if difference > 0 else "right"
    return (
        f"For an even outline leave {abs(difference):.0f} mm more on the {longer} {left.zone.replace('_', ' ')}: "
        "the bone, or the head's measure, differs there."
    )
