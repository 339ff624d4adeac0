"""Lengths by zone and side: what to leave and take off, in hair length, with how sure that is."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Final

import numpy as np
from scipy.special import ndtr

from dapwick.core.basics.arrays import Array, IntArray
from dapwick.core.head.stand import length_of
from dapwick.core.head.zones import ZONES, Side
from dapwick.core.outlines.covers import Cover
from dapwick.core.outlines.ear_cut import EarZone, ear_zones
from dapwick.core.outlines.fit import Outline
from dapwick.core.outlines.ground import FLOOR_MM
from dapwick.core.outlines.posterior_samples import PosteriorSamples
from dapwick.core.plan.kit import USUAL_KIT, Kit
from dapwick.core.plan.telling import TELLING_SHORTAGE_MM
from dapwick.core.plan.tools import BY_EYE, clipped_to, guard_over

SIDES: Final[tuple[Side, Side]] = ("left", "right")
NORMAL_90: Final = 1.644854
SHORTEST_PERCENTILE, LONGEST_PERCENTILE = 10, 90
SHORT_PERCENTILE: Final = 75
"""A quarter of a zone without enough hair is seen by everybody; a few places are not."""
CLIPPED_SHARE: Final = 0.6
OUT_OF_ROOM_MM: Final = 0.5
SEEN_SHARE: Final = 0.25
"""A zone's coat is seen where an edge or a comb reads it close by at least this share of it."""
SCISSORED, CLIPPED = "scissors", "clipper"
DONE_BY: Final = {
    "guard": CLIPPED,
    "shears over comb": SCISSORED,
    "blending shears": "thinning",
    "thinning shears": "thinning",
}
"""What a cover's tool comes to, where it is not said already."""
EAR_ORDER: Final = ("ear_outside", "ear_inside", "ear_edge", "ear_base_front", "ear_base_rear")


@dataclass(frozen=True)
class ZoneLength:
    """One zone of one side. All but depth_mm are hair lengths (mm); depth_mm is the outline's depth
    over the skin. low..high is the 90 % interval of leave_mm; now_mm the coat as it is, now_low..now_high its
    90 % interval; wanted_mm what the family asks, room apart; shortest_mm..longest_mm the range over the zone.
    clipped: a blade or thinning sets it rather than the outline's surface; by: what does; why: the rule that set it.
    seen: an edge or a comb reads the coat there; elsewhere it is what dogs usually wear."""

    zone: str
    side: Side
    leave_mm: float
    low: float
    high: float
    now_mm: float
    now_low: float
    now_high: float
    remove_mm: float
    shortage_mm: float
    wanted_mm: float
    depth_mm: float
    chance_short: float
    tool: str
    clipped: bool
    why: str
    shortest_mm: float
    longest_mm: float
    by: str = SCISSORED
    seen: bool = True

    def wider(self, factor: float) -> ZoneLength:
        """The same told so many times less surely."""

        def from_middle(middle: float, end: float) -> float:
            return max(middle + factor * (end - middle), 0.0)

        return replace(
            self,
            low=from_middle(self.leave_mm, self.low),
            high=from_middle(self.leave_mm, self.high),
            now_low=from_middle(self.now_mm, self.now_low),
            now_high=from_middle(self.now_mm, self.now_high),
        )


def zone_lengths(
    outline: Outline, draws: PosteriorSamples | None = None, kit: Kit = USUAL_KIT
) -> tuple[ZoneLength, ...]:
    """Every planned zone, left then right, ears last. Without draws (while a slider moves) the interval is the
    skin's own uncertainty alone."""
    lengths = _Lengths(
        length_of(outline.leave_mm, outline.ground.coat.stand),
        outline.ground.now_mm,
        length_of(outline.wanted_mm, outline.ground.coat.stand),
    )
    skin = [
        _zone(outline, lengths, draws, kit, zone, side) for zone in outline.family.planned for side in SIDES
    ]
    return (*skin, *_ears(outline, kit))


@dataclass(frozen=True)
class _Lengths:
    """Hair lengths (V,), mm: left, there now, and wanted."""

    leave: Array
    now: Array
    wanted: Array


def told_short_mm(outline: Outline, zones: Sequence[ZoneLength]) -> Array:
    """Depth (V,) mm that is missing, in the zones of which shortage is told: what is drawn as missing and what is said
    to be are one thing."""
    told = np.zeros(len(outline.short_mm))
    for zone in zones:
        if zone.shortage_mm > 0 and zone.zone in ZONES:
            at = outline.ground.skin.in_zone(zone.zone, zone.side)
            told[at] = outline.short_mm[at]
    return told


def planned_groups(outline: Outline) -> list[IntArray]:
    """Vertices (K,) of each planned zone and side that is scissored."""
    found = []
    for zone in outline.family.planned:
        for side in SIDES:
            at = outline.ground.skin.in_zone(zone, side)
            found.append(at[~outline.covered[at]])
    return [at for at in found if len(at)]


def _zone(
    outline: Outline, lengths: _Lengths, draws: PosteriorSamples | None, kit: Kit, zone: str, side: Side
) -> ZoneLength:
    ground = outline.ground
    at, stand = ground.skin.in_zone(zone, side), ground.coat.stand
    leave, now, coat_sigma = lengths.leave[at], lengths.now[at], ground.coat.sigma_mm[at]
    of_each = np.stack(
        [leave, now, now - leave, lengths.wanted[at], outline.leave_mm[at], stand[at], coat_sigma,
         outline.leave_mm[at] - ground.coat.depth_mm[at], outline.short_mm[at]]
    )  # fmt: skip
    of_each.sort(axis=1)
    middle, now_middle, off, wanted, depth, factor, sigma, over, *_ = of_each[:, len(at) // 2].tolist()
    shortest, longest = (
        float(of_each[0, len(at) * share // 100]) for share in (SHORTEST_PERCENTILE, LONGEST_PERCENTILE)
    )
    longest_asked = float(of_each[3, -1])
    seen = float(ground.coat.read[at].mean()) >= SEEN_SHARE
    # What may lack is not what does: a doubt is told by the interval and asked to be combed.
    short = float(of_each[8, len(at) * SHORT_PERCENTILE // 100])
    covered = float(outline.covered[at].mean()) > CLIPPED_SHARE
    cover = _cover(outline, at) if covered else None
    low, high = _interval(outline, draws, at, middle, covered)
    missing = float(length_of(np.array(short), np.array(factor))) if short > 0 else 0.0
    by_stand = now_middle * float(np.median(ground.coat.stand_sigma[at]))
    spread = NORMAL_90 * float(np.hypot(sigma, by_stand)) / factor
    return ZoneLength(
        zone=zone,
        side=side,
        leave_mm=middle,
        low=low,
        high=high,
        now_mm=now_middle,
        now_low=max(now_middle - spread, 0.0),
        now_high=now_middle + spread,
        remove_mm=max(off, 0.0),
        shortage_mm=missing if missing >= TELLING_SHORTAGE_MM else 0.0,
        wanted_mm=wanted,
        depth_mm=depth,
        chance_short=float(ndtr(over / float(np.median(ground.coat.outside_sigma_mm[at])))),
        tool=_tool(cover, longest_asked + high - middle, kit),
        clipped=covered,
        why=_why(outline, zone, at, cover),
        shortest_mm=shortest,
        longest_mm=longest,
        by=DONE_BY.get(cover.tool, cover.tool) if cover else SCISSORED,
        seen=seen,
    )


def _interval(
    outline: Outline, draws: PosteriorSamples | None, at: IntArray, middle: float, covered: bool
) -> tuple[float, float]:
    drawn = draws.interval(at) if draws else None
    if drawn:
        return min(drawn[0], middle), max(drawn[1], middle)
    skin, stand = outline.ground.skin, outline.ground.coat.stand
    spread = 0.0 if covered else NORMAL_90 * float(np.median(skin.sigma_mm[at] / stand[at]))
    return max(middle - spread, 0.0), middle + spread


def _cover(outline: Outline, at: IntArray) -> Cover:
    """The cover that holds most of a zone."""
    return outline.design.covers[int(np.bincount(outline.cover[at][outline.cover[at] >= 0]).argmax())]


def _tool(cover: Cover | None, upper_mm: float, kit: Kit) -> str:
    """upper_mm: the longest place's length at the upper end of its interval."""
    if cover is None:
        return guard_over(upper_mm, kit).words
    if DONE_BY.get(cover.tool, cover.tool) != CLIPPED or cover.length_mm is None:
        return cover.tool
    return clipped_to(cover.length_mm, kit).words


def _why(outline: Outline, zone: str, at: IntArray, cover: Cover | None) -> str:
    """Which rule set the zone's length."""
    said = outline.fit.wishes.said_mm.get(zone)
    if said is not None:
        return f"said: {said:g} mm"
    if cover is not None:
        return f"{outline.family.name}: {cover.words}"
    half, free = len(at) / 2, outline.ground.free_mm(outline.design)[at]
    if np.count_nonzero(free < FLOOR_MM) > half:
        return "kept clear"
    limited = np.count_nonzero(outline.wanted_mm[at] - outline.leave_mm[at] > OUT_OF_ROOM_MM)
    return "as much as is surely there" if limited > half else f"{outline.family.name}: the outline"


def _ears(outline: Outline, kit: Kit) -> list[ZoneLength]:
    stand = float(np.median(outline.ground.coat.stand))
    sides = [ear_zones(ear, outline.design.ears, stand) for ear in outline.ground.ears]
    return [
        _ear(outline, zone, kit)
        for pair in zip(*sides, strict=True)
        for zone in pair
        if zone.zone in EAR_ORDER
    ]


def _ear(outline: Outline, z: EarZone, kit: Kit) -> ZoneLength:
    spread = NORMAL_90 * z.sigma_mm
    kept_whole = z.leave_mm >= z.now_mm
    return ZoneLength(
        zone=z.zone,
        side=z.side,
        leave_mm=z.leave_mm,
        low=max(z.leave_mm - (spread if kept_whole else 0.0), 0.0),
        high=z.leave_mm + (spread if kept_whole else 0.0),
        now_mm=z.now_mm,
        now_low=max(z.now_mm - spread, 0.0),
        now_high=z.now_mm + spread,
        remove_mm=max(z.now_mm - z.leave_mm, 0.0),
        shortage_mm=0.0,
        wanted_mm=z.leave_mm,
        depth_mm=z.depth_mm,
        chance_short=0.5 if kept_whole else 0.0,
        tool="left" if kept_whole else clipped_to(z.leave_mm, kit).words if z.clipped else BY_EYE,
        clipped=z.clipped,
        why=f"{outline.family.name}: {outline.design.ears.words}",
        shortest_mm=z.leave_mm,
        longest_mm=z.leave_mm,
        by=CLIPPED if z.clipped else SCISSORED,
        seen=True,
    )
