"""Whether an outline suits this head and coat: today, in some weeks, or not, and why, in plain words."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Final, Literal

import numpy as np

from dapwick.core.head.growth import growth_mm, weeks_to_grow
from dapwick.core.head.stand import length_of
from dapwick.core.head.zones import zone_words
from dapwick.core.outlines.effects import Effect, effects_of, ideal_values
from dapwick.core.outlines.family import Steer
from dapwick.core.outlines.fit import Outline
from dapwick.core.outlines.wishes import (
    ASKS,
    TOWARD,
    Wishes,
    WishOutcome,
    fringe_limit,
    steered,
    steering_words,
)
from dapwick.core.plan.lengths import ZoneLength
from dapwick.core.plan.readiness import (
    VAGUE_MM,
    Readiness,
    When,
    readiness_of,
    room_words,
    sentences,
)
from dapwick.core.plan.telling import UNEVEN_MM

MOST_REASONS: Final = 4
TELLING_EFFECT: Final = 0.06
MISSED: Final = 0.75
"""An ideal is told as missed from this many tolerances on."""
MOST_DEPARTURE: Final = 3.0
UNMET_COST: Final = 1.5
WEEK_COST: Final = 0.15
HAIR_COST: Final = 2.0
"""What it costs to take all the coat off: weeks of growth go."""
RANK_STEP: Final = 1000.0
STAGE: Final[dict[When, int]] = {"today": 0, "later": 1, "not_on_this_coat": 2}


Against = Literal["grows", "head", "coat", "wish", "hair"]
"""What speaks against an outline: hair that is not there yet, the head's proportions, the coat's type, what the owner
asked for, how much comes off."""


@dataclass(frozen=True)
class Verdict(Readiness):
    """Also what speaks against it, departure from what the family and the owner want (the sum of that), rank (lower
    first), effects on the silhouette, and the wishes."""

    against: Mapping[Against, float]
    departure: float
    rank: float
    effects: tuple[Effect, ...]
    wishes: tuple[WishOutcome, ...]


def verdict_of(outline: Outline, zones: Sequence[ZoneLength]) -> Verdict:
    ready = readiness_of(outline, zones)
    coat_type = outline.ground.coat_type
    values = ideal_values(outline)
    missed = _missed(outline, values)
    wishes = wish_outcomes(outline, zones)
    effects = effects_of(outline)
    coat_cost = outline.family.coats.get(coat_type, (0.0, ""))[0]
    removed = 1.0 - values["hair_kept"]
    against: dict[Against, float] = {
        "head": sum(cost for cost, _ in missed),
        "coat": coat_cost,
        "wish": UNMET_COST * sum(not w.met for w in wishes),
        "grows": WEEK_COST * ready.weeks,
        "hair": HAIR_COST * removed,
    }
    departure = sum(against.values())
    room = sentences([room_words(outline)])
    reasons = [
        *(reason for reason in ready.reasons if reason not in room),
        *(sentence for cost, sentence in sorted(missed, reverse=True) if cost >= MISSED),
        *_coat(outline),
        *steering_words(outline.fit.wishes, coat_type),
        *_uneven(zones),
        *_effects(effects),
        *_vague(zones),
        *room,
    ]
    return Verdict(
        **vars(replace(ready, reasons=sentences(reasons)[:MOST_REASONS])),
        against=against,
        departure=departure,
        rank=STAGE[ready.when] * RANK_STEP + departure,
        effects=effects,
        wishes=wishes,
    )


def _missed(outline: Outline, values: Mapping[str, float]) -> list[tuple[float, str]]:
    """(cost, sentence) of every ideal."""
    return [
        (
            min(ideal.departure(values[ideal.of]), MOST_DEPARTURE),
            ideal.sentence.format(value=values[ideal.of], want=ideal.want) + ".",
        )
        for ideal in outline.family.ideals
    ]


def _coat(outline: Outline) -> list[str]:
    cost, sentence = outline.family.coats.get(outline.ground.coat_type, (0.0, ""))
    return [sentence + "."] if cost else []


def _uneven(zones: Sequence[ZoneLength]) -> list[str]:
    """The pair of sides that must be cut to different lengths for an even outline, or that the coat leaves
    uneven."""
    pairs = [(a, b) for a, b in zip(zones[::2], zones[1::2], strict=True) if not a.clipped and not b.clipped]
    if not pairs:
        return []
    left, right = max(pairs, key=lambda pair: abs(pair[0].leave_mm - pair[1].leave_mm))
    difference = left.leave_mm - right.leave_mm
    if abs(difference) < UNEVEN_MM:
        return []
    longer = "left" if difference > 0 else "right"
    place = zone_words(left.zone)
    if abs(left.wanted_mm - right.wanted_mm) < UNEVEN_MM:
        shorter = "right" if difference > 0 else "left"
        return [f"{place} {abs(difference):.0f} mm shorter on the {shorter}: less coat is surely there."]
    return [
        f"for an even outline leave {abs(difference):.0f} mm more on the {longer} {place}: the bone differs there."
    ]


def _effects(effects: Sequence[Effect]) -> list[str]:
    by_id = {e.id: e for e in effects}
    said = []
    width = by_id["width_mm"]
    share = by_id["ear_over_skull"]
    wider = share.now / share.after - 1.0
    if wider > TELLING_EFFECT:
        said.append(f"skull will look {wider:.0%} broader: ear hair comes off.")
    if 1 - width.after / width.now > TELLING_EFFECT:
        said.append(f"{width.now - width.after:.0f} mm narrower from the front than now.")
    muzzle = by_id["muzzle_share"]
    if muzzle.after / muzzle.now - 1.0 > TELLING_EFFECT:
        said.append(f"muzzle will look {muzzle.after / muzzle.now - 1:.0%} longer.")
    return said


def _vague(zones: Sequence[ZoneLength]) -> list[str]:
    vague = max((z for z in zones if not z.clipped), key=lambda z: z.high - z.low, default=None)
    if vague is None or (vague.high - vague.low) / 2 < VAGUE_MM:
        return []
    half = (vague.high - vague.low) / 2
    return [
        f"least sure: {zone_words(vague.zone)}, ±{half:.0f} mm; a comb pushed to the skin there would tell."
    ]


def wish_outcomes(outline: Outline, zones: Sequence[ZoneLength]) -> tuple[WishOutcome, ...]:
    """Each wish, met or with the reason why not."""
    wishes = outline.fit.wishes
    outcomes = [_steered_wish(outline, zones, steer, wish) for steer, wish in _said(wishes)]
    outcomes += [_said_length(zones, zone, mm) for zone, mm in wishes.said_mm.items()]
    if wishes.fullness:
        outcomes.append(_fullness_wish(outline, zones, wishes))
    if wishes.weeks_between is not None:
        outcomes.append(_weeks_wish(outline, wishes))
    return tuple(outcomes)


MET_MM: Final = 1.5
"""A length that was said is met within so much."""


def _said_length(zones: Sequence[ZoneLength], zone: str, said_mm: float) -> WishOutcome:
    """A length said for a zone: left so, or why not."""
    here = [z for z in zones if z.zone == zone]
    words = f"{zone_words(zone)} {said_mm:g} mm"
    if not here:
        return WishOutcome(words, False, "this outline plans no length there.")
    worst = max(here, key=lambda z: abs(z.leave_mm - said_mm))
    if abs(worst.leave_mm - said_mm) <= MET_MM:
        return WishOutcome(words, True, f"{worst.leave_mm:.0f} mm left; the rest is fitted round it.")
    if worst.now_mm < said_mm:
        return WishOutcome(
            words, False, f"the coat there is {worst.now_mm:.0f} mm: it grows, nothing comes off."
        )
    return WishOutcome(words, False, f"{worst.leave_mm:.0f} mm is what is surely there, or kept clear.")


def _said(wishes: Wishes) -> list[tuple[Steer, str]]:
    every: tuple[tuple[Steer, str], ...] = (
        ("eyes", wishes.eyes), ("beard", wishes.beard), ("ears", wishes.ears),
    )  # fmt: skip
    return [(steer, wish) for steer, wish in every if wish != "any"]


ZONES_OF: Final = {
    "eyes": ("visor", "brow"),
    "beard": ("chin", "muzzle_side"),
    "ears": ("ear_outside", "ear_edge"),
}
CLOSE_ENOUGH: Final = 0.6
"""A wish is met when a steered parameter came at least this share of the way asked."""


def _steered_wish(outline: Outline, zones: Sequence[ZoneLength], steer: Steer, wish: str) -> WishOutcome:
    name = f"{steer} {wish}"
    parameters = steered(outline.family, steer)
    if not parameters:
        return WishOutcome(name, wish != "long", f"{outline.family.name} leaves no choice at the {steer}.")
    here = [z for z in zones if z.zone in ZONES_OF[steer]]
    short = max((z.shortage_mm for z in here), default=0.0)
    lead = parameters[0]
    end = lead.high if TOWARD[wish] > 0 else lead.low
    asked = lead.default + ASKS * (end - lead.default)
    value = outline.params[lead.id]
    came = (value - lead.default) / (asked - lead.default) if asked != lead.default else 1.0
    now = float(np.median([z.now_mm for z in here])) if here else 0.0
    leave = float(np.median([z.leave_mm for z in here])) if here else 0.0
    if TOWARD[wish] > 0 and (short > 0 or came < CLOSE_ENOUGH):
        return WishOutcome(name, False, _too_little(outline, lead.words, asked, value, lead.unit, now, short))
    if came < CLOSE_ENOUGH:
        return WishOutcome(
            name,
            False,
            f"{lead.words}: {value:.0f} of the {asked:.0f} {lead.unit} wished: shorter would show skin.",
        )
    return WishOutcome(name, True, f"{lead.words}: {leave:.0f} mm left of {now:.0f}.")


def _too_little(
    outline: Outline, words: str, asked: float, value: float, unit: str, now: float, short: float
) -> str:
    coat_type = outline.ground.coat_type
    weeks = weeks_to_grow(max(short, asked - value if unit == "mm" else 0.0), coat_type)
    return f"{words}: {asked:.0f} {unit} wished, the coat there is {now:.0f} mm: about {weeks} weeks to grow.".replace(
        "  ", " "
    )


def _fullness_wish(outline: Outline, zones: Sequence[ZoneLength], wishes: Wishes) -> WishOutcome:
    sizes = outline.sizes
    if wishes.fullness > 0 and outline.size_mm > sizes.largest + 0.5:
        return WishOutcome(
            "fuller", False, f"the coat carries {sizes.largest:.0f} mm, {outline.size_mm:.0f} wished."
        )
    short = max(z.shortage_mm for z in zones)
    if wishes.fullness > 0 and short:
        weeks = weeks_to_grow(short, outline.ground.coat_type)
        return WishOutcome("fuller", False, f"{short:.0f} mm are missing: about {weeks} weeks to grow.")
    word = "fuller" if wishes.fullness > 0 else "shorter"
    return WishOutcome(word, True, f"{outline.family.size_words} {outline.size_mm:.0f} mm.")


def _weeks_wish(outline: Outline, wishes: Wishes) -> WishOutcome:
    """Whether the fringe is still out of the eyes at the next visit."""
    ground = outline.ground
    weeks = wishes.weeks_between or 0
    visor = ground.skin.in_zone("visor")
    fringe = float(np.median(length_of(outline.leave_mm[visor], ground.coat.stand[visor])))
    limit = fringe_limit(wishes, ground.coat_type)
    name = f"{weeks} weeks between visits"
    if fringe <= limit + 1.0:
        return WishOutcome(
            name,
            True,
            f"fringe {fringe:.0f} mm, by then {fringe + growth_mm(weeks, ground.coat_type):.0f}: out of the eyes.",
        )
    at = max(0, int((limit + growth_mm(weeks, ground.coat_type) - fringe) / growth_mm(1, ground.coat_type)))
    return WishOutcome(name, False, f"fringe {fringe:.0f} mm falls over the eyes after {at} weeks.")
