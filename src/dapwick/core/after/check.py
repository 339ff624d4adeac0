"""What a finished head's deviations mean at the table: what to take in, what is short, whether it is even."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final, Literal

import numpy as np

from dapwick.core.after.combing import ToComb, to_comb
from dapwick.core.after.deviations import VERSION, Deviations, ZoneOff
from dapwick.core.after.tolerance import NOT_TOUCHED, TOLERANCE_MM, State, within
from dapwick.core.basics.arrays import Array
from dapwick.core.head.growth import weeks_range
from dapwick.core.head.stand import length_of
from dapwick.core.head.zones import ZONES, Side, zone_words
from dapwick.core.outlines.fit import Outline
from dapwick.core.outlines.ground import FLOOR_MM

SIDES_MM: Final = 1.0
"""The sides of an outline may differ by this much before anybody sees it."""
NORMAL_90: Final = 1.645
SURELY: Final = 1.28
"""A place is long or short for sure where it is off by so many σ."""
SURELY_APART: Final = 1.645
"""One side is fuller than the other for sure where it is so by so many σ."""
MORE_LIKELY: Final = 0.25
"""An estimate is over its tolerance where it is so many σ past it: about three chances in five."""
PARTLY: Final = 0.6
"""Where less of a zone's seen places than this is off, the part that is, is named."""
Sides = Literal["even", "uneven", "unsure"]
HAIR: Final = 0.6
"""What is off is the hair where it is so by this many σ with all that is unsure of the skin."""


@dataclass(frozen=True)
class Place:
    """A zone of one side after the cut. off_mm: hair too long (more than 0) or too short as it is drawn out, low..high
    its 90 % interval; depth_mm the same as it stands, sigma_mm its σ; left_mm: hair found there; part: where in the
    zone."""

    zone: str
    side: Side
    state: State
    off_mm: float
    low: float
    high: float
    depth_mm: float
    sigma_mm: float
    left_mm: float
    part: str


@dataclass(frozen=True)
class TouchUp:
    """A place to take in by off_mm, low..high, which leaves leave_mm."""

    zone: str
    side: Side
    off_mm: float
    low: float
    high: float
    leave_mm: float
    words: str


@dataclass(frozen=True)
class Short:
    """A place that came out short: weeks (fast, slow) until it matches."""

    zone: str
    side: Side
    missing_mm: float
    weeks: tuple[int, int]
    words: str


@dataclass(frozen=True)
class Evenness:
    """Left minus right of an outline at a zone, mm as it stands, low..high its 90 % interval; bone_mm: how far the bone
    under it differs, which is no fault of the cut."""

    zone: str
    mm: float
    low: float
    high: float
    bone_mm: float
    state: Sides
    words: str


@dataclass(frozen=True)
class Check:
    """A finished head against its plan."""

    places: tuple[Place, ...]
    touch_ups: tuple[TouchUp, ...]
    short: tuple[Short, ...]
    comb: tuple[ToComb, ...]
    even: tuple[Evenness, ...]
    words: str
    version: str = VERSION


def check_of(found: Deviations) -> Check:
    """What to do, and what to leave. Never asks to add hair, nor to cut into what is short or unseen."""
    outline = found.outline
    places = tuple(_place(found, zone) for zone in found.zones)
    unseen = tuple(Place(z, s, "unseen", 0.0, 0.0, 0.0, 0.0, 0.0, 0.0, "") for z, s in found.unseen)
    touch_ups = tuple(
        t for t in (_touch_up(outline, p) for p in places if p.state == "long") if t is not None
    )
    short = tuple(_short(outline, p) for p in places if p.state == "short")
    comb = to_comb(found, {(p.zone, p.side): p.state for p in places})
    even = tuple(_even(found, zone) for zone in ZONES if _both(found, zone))
    return Check(places + unseen, touch_ups, short, comb, even, _words(touch_ups, short, even, places))


def _place(found: Deviations, zone: ZoneOff) -> Place:
    outline = found.outline
    off, sigma = _taken_for(zone), zone.told_sigma
    low, high = (off + k * NORMAL_90 * sigma for k in (-1, 1))
    left = _hair(outline, zone, off)
    planned = _hair(outline, zone, 0.0)
    state = _combed_state(zone) if zone.combed else _state(zone, found.other(zone))
    return Place(
        zone.zone, zone.side, state, left - planned, _hair(outline, zone, low) - planned,
        _hair(outline, zone, high) - planned, off, sigma, left, "" if zone.combed else _part(found, zone),
    )  # fmt: skip


def _taken_for(zone: ZoneOff) -> float:
    """How far off it is taken for, mm: hair that is long by comb, by no more than the head stands outside its outline
    where photos that agree show it."""
    if zone.combed and zone.pictured and not zone.contested and zone.hair_mm > 0:
        return min(zone.hair_mm, max(zone.surface_mm, 0.0))
    return zone.told_mm


def _combed_state(zone: ZoneOff) -> State:
    """A comb knows the hair: what the surface does beside it is the skull's. Hair that is long where the head lies
    within its outline all the same stays: cut as long as planned, it would lie inside it."""
    off, sigma, tolerance = abs(zone.hair_mm), zone.hair_sigma, TOLERANCE_MM[zone.zone]
    if zone.hair_mm > 0 and within(zone):
        return "true"
    if off > max(tolerance, SURELY * sigma):
        return "long" if zone.hair_mm > 0 else "short"
    return "true" if off + sigma < 2 * tolerance else "unsure"


def _state(zone: ZoneOff, other: ZoneOff | None) -> State:
    """Off the outline where it is so for sure, and more likely than not by more than the tolerance. What stands
    outside and surely further than the other side does is long too: how far a camera stood leaves both sides unsure
    together."""
    off, sigma, tolerance = abs(zone.surface_mm), zone.surface_sigma, TOLERANCE_MM[zone.zone]
    if zone.contested:
        return "unsure"
    if other and not other.contested and zone.apart_sigma and zone.surface_mm > tolerance / 2:
        apart = zone.surface_mm - other.surface_mm
        if apart > max(tolerance + MORE_LIKELY * zone.apart_sigma, SURELY_APART * zone.apart_sigma):
            return "long"
    if off > max(tolerance + MORE_LIKELY * sigma, SURELY * sigma):
        hair = zone.hair_mm * np.sign(zone.surface_mm) > max(HAIR * zone.hair_sigma, tolerance / 2)
        if zone.surface_mm > 0:
            return "long" if hair else "outside"
        return "short" if hair else "inside"
    return "true" if off + sigma < 2 * tolerance else "unsure"


def _hair(outline: Outline, zone: ZoneOff, depth_off_mm: float) -> float:
    """Hair length (mm) at a zone's middle where its surface lies so far off the plan."""
    ground, at = outline.ground, zone.places
    depth = np.maximum(outline.leave_mm[at] + depth_off_mm, 0.0)
    return float(np.median(length_of(depth, ground.coat.stand[at])))


def _touch_up(outline: Outline, place: Place) -> TouchUp | None:
    if place.zone in NOT_TOUCHED:
        return None
    # Clipped places may be left closer than scissored ones; either way nothing goes under what was planned.
    least = min(FLOOR_MM, place.left_mm - place.off_mm)
    off = min(place.off_mm, place.left_mm - least)
    if off <= 0:
        return None
    words = f"{place.side} {zone_words(place.zone)}, {off:.0f} mm long"
    words += f", most of it {place.part}" if place.part else ""
    return TouchUp(
        place.zone, place.side, off, max(place.low, 0.0), min(place.high, place.left_mm - least), place.left_mm - off,
        words,
    )  # fmt: skip


def _short(outline: Outline, place: Place) -> Short:
    weeks = weeks_range(-place.off_mm, outline.ground.coat_type)
    words = f"{place.side} {zone_words(place.zone)}, {-place.off_mm:.0f} mm short: level in {_weeks(weeks)}"
    return Short(place.zone, place.side, -place.off_mm, weeks, words)


def _weeks(weeks: tuple[int, int]) -> str:
    low, high = min(weeks), max(weeks)
    return f"{low} weeks" if low == high else f"{low} to {high} weeks"


AXES: Final = (("at the back", "in front"), ("below", "above"))
"""Names of a zone's two ends along the head (y) and up it (z)."""


def _part(found: Deviations, zone: ZoneOff) -> str:
    """Where in a zone most of what is off lies, where it is not all of it."""
    off = np.abs(found.surface_mm[zone.places])
    known = np.isfinite(off)
    if known.sum() < 8:
        return ""
    places, off = found.outline.ground.skin.vertices_mm[zone.places][known], off[known]
    much = off > 0.8 * np.quantile(off, 0.9)
    if much.mean() > PARTLY or np.ptp(off) < SIDES_MM:
        return ""
    apart = (places[much].mean(axis=0) - places.mean(axis=0))[1:] / np.maximum(places.std(axis=0)[1:], 1.0)
    axis = int(np.argmax(np.abs(apart)))
    return AXES[axis][int(apart[axis] > 0)] if abs(apart[axis]) > 0.4 else ""


def _both(found: Deviations, zone: str) -> bool:
    return zone not in NOT_TOUCHED and all(found.of(zone, side) for side in ("left", "right"))


def _even(found: Deviations, zone: str) -> Evenness:
    left, right = found.of(zone, "left"), found.of(zone, "right")
    assert left is not None
    assert right is not None
    bone, planned = _sides_differ(found.outline, zone)
    mm = planned + left.surface_mm - right.surface_mm
    sigma = left.apart_sigma or float(np.hypot(left.surface_sigma, right.surface_sigma))
    if left.combed and right.combed:
        mm, sigma = planned + left.hair_mm - right.hair_mm, float(np.hypot(left.hair_sigma, right.hair_sigma))
    low, high = mm - NORMAL_90 * sigma, mm + NORMAL_90 * sigma
    if left.contested or right.contested:
        words = f"{zone_words(zone)}: the photos do not agree"
        return Evenness(zone, mm, low, high, bone, "unsure", words)
    if abs(mm) > max(SIDES_MM + MORE_LIKELY * sigma, NORMAL_90 * sigma):
        fuller = "left" if mm > 0 else "right"
        return Evenness(
            zone, mm, low, high, bone, "uneven", f"{zone_words(zone)}: {fuller} fuller by {abs(mm):.0f} mm"
        )
    within = max(abs(low), abs(high))
    state: Sides = "even" if within < 2 * TOLERANCE_MM[zone] else "unsure"
    return Evenness(zone, mm, low, high, bone, state, f"{zone_words(zone)}: even within {within:.0f} mm")


def _sides_differ(outline: Outline, zone: str) -> tuple[float, float]:
    """Left minus right (mm, along the hair) of the bone under a zone, and of the outline as it was planned."""
    ground, skin = outline.ground, outline.ground.skin
    right, left = ground.pairs
    here = np.isin(right, skin.in_zone(zone, "right"))
    right, left = right[here], left[here]
    if not len(right):
        return 0.0, 0.0

    def differ(surface: Array) -> float:
        mirrored = surface[left] * [-1.0, 1.0, 1.0]
        return float(((mirrored - surface[right]) * skin.outward[right]).sum(axis=1).mean())

    return differ(skin.vertices_mm), differ(skin.vertices_mm + outline.leave_mm[:, None] * skin.outward)


def _words(
    touch_ups: tuple[TouchUp, ...],
    short: tuple[Short, ...],
    even: tuple[Evenness, ...],
    places: tuple[Place, ...],
) -> str:
    """The check in one sentence."""
    if not places:
        return "No photo shows enough of the head to tell."
    said = []
    if touch_ups:
        said.append(f"{len(touch_ups)} {'place' if len(touch_ups) == 1 else 'places'} to take in")
    if short:
        said.append(f"{len(short)} came out short")
    known = [one for one in even if one.state != "unsure"]
    uneven = [one for one in known if one.state == "uneven"]
    if known and not uneven:
        within = max(max(abs(one.low), abs(one.high)) for one in known)
        said.append(f"even within {within:.0f} mm")
    elif uneven:
        said.append(uneven[0].words)
    return ("; ".join(said) or "true to plan").capitalize() + "."
