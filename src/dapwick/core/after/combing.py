"""Where a comb after the cut would tell most, and why it is asked for."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Final

from dapwick.core.after.deviations import Deviations, ZoneOff
from dapwick.core.after.readings import Spot, planned_round, spot_at, spots_of
from dapwick.core.after.tolerance import NOT_TOUCHED, State, chance_long, within
from dapwick.core.head.zones import Side, zone_words

SETTLED: Final = (0.22, 0.85)
"""A zone was combed enough where it is so unlikely, or so likely, to be long by more than its tolerance."""
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


def to_comb(found: Deviations, states: Mapping[tuple[str, Side], State]) -> tuple[ToComb, ...]:
    """The places where a comb would tell most: those whose combs leave it open, those that look off and may be the
    skull's, those that photos leave open, and those that none saw. The likeliest to be long first, no more than a dog
    stands still for."""
    again = [_once_more(found, *spot) for spot in found.disputed]
    asked = [
        (chance_long(zone), _ask(found, zone.zone, zone.side, states[zone.zone, zone.side], zone.surface_mm))
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
    if not zone.combed or zone.zone in NOT_TOUCHED or within(zone):
        return False
    left = set(spots_of(found.outline.ground.skin, zone.zone, zone.side)) - set(
        found.pushed(zone.zone, zone.side)
    )
    return bool(left) and SETTLED[0] < chance_long(zone) < SETTLED[1]


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
        return chance_long(zone) < SETTLED[1]
    return state in ("outside", "inside") or (state == "unsure" and not within(zone))


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
