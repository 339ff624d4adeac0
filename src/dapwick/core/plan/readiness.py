"""Whether an outline can be cut on this coat now: what it is called, when it will be what its name says, and what is
in the way."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Final, Literal

from dapwick.core.head.growth import growth_mm, weeks_range
from dapwick.core.head.zones import zone_words
from dapwick.core.outlines.description import LOOKED_AT, Broken, broken_on, weeks_until_it_holds
from dapwick.core.outlines.fit import Outline
from dapwick.core.plan.lengths import ZoneLength
from dapwick.core.plan.telling import TELLING_SHORTAGE_MM

When = Literal["today", "later", "not_on_this_coat"]
VAGUE_MM: Final = 8.0
OUTLINED: Final = ("crown", "back_skull", "visor", "brow", "temple", "cheek", "muzzle_side", "chin")
"""Zones that make an outline as it is seen: what hangs under jaw and neck need not be known to say when."""
MOST_NAMED: Final = 2
MOST_BROKEN: Final = 2


@dataclass(frozen=True)
class Readiness:
    """When an outline can be cut so that it is what its name says, weeks until then (with the range of slow and fast
    growers), and why. called: what it is called as it stands; broken: what of its description it does not hold;
    comb_first: the zones whose coat nothing has read and
    which this rests on, widest first."""

    when: When
    weeks: int
    weeks_range: tuple[int, int]
    called: str
    broken: tuple[str, ...]
    reasons: tuple[str, ...]
    comb_first: tuple[str, ...]


def readiness_of(
    outline: Outline, zones: Sequence[ZoneLength], looked_at: Sequence[int] = LOOKED_AT
) -> Readiness:
    """When it can be cut and what is missing, nothing else: enough while a slider moves."""
    coat_type = outline.ground.coat_type
    broken = broken_on(outline, outline.leave_mm)
    weeks = weeks_until_it_holds(outline, looked_at) if broken else 0
    when: When = "not_on_this_coat" if weeks is None else "later" if weeks else "today"
    return Readiness(
        when,
        weeks or 0,
        weeks_range(growth_mm(weeks or 0, coat_type), coat_type),
        called(outline.family.name, when),
        sentences([one.said for one in broken]),
        sentences([*_in_the_way(outline, zones, broken), room_words(outline)]),
        unseen_zones(zones),
    )


def _in_the_way(outline: Outline, zones: Sequence[ZoneLength], broken: Sequence[Broken]) -> list[str]:
    """What keeps the outline from being cut as its name says, or from being told surely."""
    return [
        *_rests_on(unseen_zones(zones)),
        *(one.said for one in broken[:MOST_BROKEN]),
        *_shortage(zones, outline.ground.coat_type),
    ]


def sentences(reasons: Sequence[str]) -> tuple[str, ...]:
    """Reasons as they are shown: each once, with a capital."""
    return tuple(dict.fromkeys(r[:1].upper() + r[1:] for r in reasons if r))


def called(name: str, when: When) -> str:
    """A family's name stands alone only on a head that holds its description."""
    words = {"today": name, "later": f"Growing into {name.lower()}"}
    return words.get(when, f"Nearest to {name.lower()}")


def unseen_zones(zones: Sequence[ZoneLength]) -> tuple[str, ...]:
    """Scissored zones whose hair is only what dogs usually wear, and may be so much shorter that what is planned is not
    there; the least known first. Where no lack would be told even with the least, a comb would change nothing."""
    half = {
        z.zone: (z.now_high - z.now_low) / 2
        for z in zones
        if z.zone in OUTLINED
        and not z.seen
        and not z.clipped
        and z.leave_mm - z.now_low > TELLING_SHORTAGE_MM
    }
    return tuple(sorted((z for z, mm in half.items() if mm > VAGUE_MM), key=lambda z: -half[z]))


def room_words(outline: Outline) -> str:
    """Between which ends the main size can be chosen."""
    sizes, words = outline.sizes, outline.family.size_words
    return (
        f"room all round: {words} {sizes.smallest:.0f}–{sizes.largest:.0f} mm, yours {outline.size_mm:.0f}."
    )


def _rests_on(unseen: Sequence[str]) -> list[str]:
    if not unseen:
        return []
    places = " and ".join(zone_words(zone) for zone in unseen[:MOST_NAMED])
    return [f"coat at {places} not seen: comb there first."]


def _shortage(zones: Sequence[ZoneLength], coat_type: str) -> list[str]:
    """The place that lacks most: it is left alone and grows; the rest of the outline stands."""
    worst = max(zones, key=lambda z: z.shortage_mm)
    if not worst.shortage_mm:
        return []
    low, high = weeks_range(worst.shortage_mm, coat_type)
    lacking = len({z.zone for z in zones if z.shortage_mm > 0})
    place = f"{worst.side} {zone_words(worst.zone)}"
    others = f", most of {lacking} places that lack" if lacking > 1 else ""
    return [f"{worst.shortage_mm:.0f} mm still to grow at the {place}{others}: {low}–{high} weeks."]
