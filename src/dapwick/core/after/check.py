"""What a finished head's deviations mean at the table: what to take in, what is short, whether it is even."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Final, Literal

import numpy as np
from scipy.special import ndtr

from dapwick.core.after.deviations import VERSION, Deviations, ZoneOff
from dapwick.core.after.readings import Spot, planned_round, spot_at, spots_of
from dapwick.core.basics.arrays import Array
from dapwick.core.head.growth import weeks_range
from dapwick.core.head.stand import length_of
from dapwick.core.head.zones import ZONES, Side, zone_words
from dapwick.core.outlines.fit import Outline
from dapwick.core.outlines.ground import FLOOR_MM, SPANNED

TOLERANCE_MM: Final[Mapping[str, float]] = {
    zone: 2.0 if zone in ("cheek", "crown", "visor", "jaw") else 3.0 for zone in ZONES
}
SIDES_MM: Final = 1.0
"""The sides of an outline may differ by this much before anybody sees it."""
NORMAL_90: Final = 1.645
SURELY: Final = 1.28
"""A place is long or short for sure where it is off by so many σ."""
SETTLED: Final = (0.22, 0.85)
"""A zone was combed enough where it is so unlikely, or so likely, to be long by more than its tolerance."""
SURELY_APART: Final = 1.645
"""One side is fuller than the other for sure where it is so by so many σ."""
MORE_LIKELY: Final = 0.25
"""An estimate is over its tolerance where it is so many σ past it: about three chances in five."""
NOT_TOUCHED: Final = (*SPANNED, "brow")
"""Zones that are cut by line and eye, too small for a photo from two paces to tell."""
COMBED_UNSEEN: Final = ("cheek", "jaw", "muzzle_side")
"""Zones whose sides are compared with a comb where no photo shows them."""
UNSEEN_LONG: Final = 0.14
"""How often a hand leaves a zone longer than its tolerance."""
CLOSE_MM: Final = 4.0
"""A blade set what was planned shorter: no comb tells it better."""
WORTH_A_COMB: Final = 0.12
MOST_COMBS: Final = 6
BESIDE: Final[Mapping[Spot, str]] = {
    "middle": "in the middle",
    "front": "a finger's width further forward",
    "back": "a finger's width further back",
    "above": "a finger's width higher up",
    "below": "a finger's width lower down",
}
PARTLY: Final = 0.6
"""Where less of a zone's seen places than this is off, the part that is, is named."""
Sides = Literal["even", "uneven", "unsure"]
State = Literal["long", "short", "outside", "inside", "true", "unsure", "unseen"]
"""outside, inside: off the outline as it is drawn, but as likely for a skull that was misjudged as for the hair."""
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
class ToComb:
    """A place that a comb pushed to the skin has to tell: off the outline as drawn by off_mm (as it stands; outside
    more than 0), by its hair or by a skull unlike the measured one, or not told by any photo, or not settled by the
    combs before. leave_mm: how deep hair was planned at the spot; spot: where in the zone to push it in."""

    zone: str
    side: Side
    off_mm: float
    leave_mm: float
    why: str
    words: str
    state: State
    spot: Spot


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


def _within(zone: ZoneOff) -> bool:
    """Photos that agree show it no further outside its outline than a hand may be off, and surely not by twice that."""
    tolerance = TOLERANCE_MM[zone.zone]
    surely = zone.surface_mm + zone.surface_sigma < 2 * tolerance
    return zone.pictured and not zone.contested and zone.surface_mm < tolerance and surely


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
    if zone.hair_mm > 0 and _within(zone):
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


def to_comb(found: Deviations, states: Mapping[tuple[str, Side], State]) -> tuple[ToComb, ...]:
    """The places where a comb would tell most: those whose combs leave it open, those that look off and may be the
    skull's, those that photos leave open, and those that none saw. The likeliest to be long first, no more than a dog
    stands still for."""
    again = [_once_more(found, *spot) for spot in found.disputed]
    asked = [
        (_chance_long(zone), _ask(found, zone.zone, zone.side, states[zone.zone, zone.side], zone.surface_mm))
        for zone in found.zones
        if not zone.combed
        and zone.zone not in NOT_TOUCHED
        and _would_tell(zone, states[zone.zone, zone.side])
    ]
    unseen = [_ask(found, zone, side, "unseen", 0.0) for zone, side in found.unseen if zone in COMBED_UNSEEN]
    asked += [(UNSEEN_LONG, one) for one in unseen if one.leave_mm > CLOSE_MM]
    likely = [one for one in asked if one[0] >= WORTH_A_COMB or one[1].state in ("outside", "inside")]
    ranked = [one for _, one in sorted(likely, key=lambda one: -one[0])]
    beside = [_beside(found, zone) for zone in found.zones if _unsettled(found, zone)]
    disputed = {(zone, side) for zone, side, _ in found.disputed}
    open_still = [one for one in beside + ranked if (one.zone, one.side) not in disputed]
    return tuple((again + open_still)[:MOST_COMBS])


def _unsettled(found: Deviations, zone: ZoneOff) -> bool:
    """Whether what its combs tell leaves open if it is long, and there is a spot left to push one in."""
    if not zone.combed or zone.zone in NOT_TOUCHED or _within(zone):
        return False
    left = set(spots_of(found.outline.ground.skin, zone.zone, zone.side)) - set(
        found.pushed(zone.zone, zone.side)
    )
    return bool(left) and SETTLED[0] < _chance_long(zone) < SETTLED[1]


def _beside(found: Deviations, zone: ZoneOff) -> ToComb:
    """The next spot of a zone whose combs leave open whether it is long."""
    pushed = found.pushed(zone.zone, zone.side)
    spots = spots_of(found.outline.ground.skin, zone.zone, zone.side)
    spot = next(spot for spot in spots if spot not in pushed)
    asked = _ask(found, zone.zone, zone.side, "unsure", zone.hair_mm, spot)
    off = f"{abs(zone.hair_mm):.0f} mm {'long' if zone.hair_mm > 0 else 'short'} so far"
    why = f"{off}: once more, {BESIDE[spot]}."
    return replace(asked, why=why, words=f"{zone.side} {zone_words(zone.zone)}: {why}")


def _once_more(found: Deviations, zone: str, side: Side, spot: Spot) -> ToComb:
    asked = _ask(found, zone, side, "unsure", 0.0, spot)
    why = "comb and photos do not agree: once more."
    return replace(asked, why=why, words=f"{side} {zone_words(zone)}: {why}")


def _would_tell(zone: ZoneOff, state: State) -> bool:
    """Whether anything would come of combing it: what photos leave open, where it may lie outside its outline, and what
    is long by the photos alone and not for sure, since hair that was taken in does not come back."""
    if state == "long":
        return _chance_long(zone) < SETTLED[1]
    return state in ("outside", "inside") or (state == "unsure" and not _within(zone))


def _chance_long(zone: ZoneOff) -> float:
    """That hair is longer there than its tolerance allows."""
    return float(ndtr((zone.hair_mm - TOLERANCE_MM[zone.zone]) / zone.hair_sigma))


def _ask(
    found: Deviations, zone: str, side: Side, state: State, off_mm: float, spot: Spot = "middle"
) -> ToComb:
    at = spot_at(found.outline.ground.skin, zone, side, spot)
    deep = float(planned_round(found.outline, at).mean())
    why = {
        "long": f"{abs(off_mm):.0f} mm long by the photos: comb it before you cut.",
        "outside": f"{abs(off_mm):.0f} mm outside the outline: hair, or a fuller skull?",
        "inside": f"{abs(off_mm):.0f} mm inside the outline: hair, or a lower skull?",
        "unseen": "no photo shows it.",
    }.get(state, "the photos cannot tell.")
    words = f"{side} {zone_words(zone)}: {why} Push the comb in, {deep:.0f} mm deep were planned."
    return ToComb(zone, side, off_mm, deep, why, words, state, spot)


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
