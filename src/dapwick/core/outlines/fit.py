"""A family fitted into the room this coat leaves, and what it asks that is not there."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from typing import Any, Final

import numpy as np
from scipy.optimize import least_squares

from dapwick.core.basics.arrays import Array, BoolArray, IntArray, frozen
from dapwick.core.head.stand import depth_of
from dapwick.core.outlines.covers import NOTHING, Cover, everywhere
from dapwick.core.outlines.ear_cut import with_said_edge
from dapwick.core.outlines.family import FULLNESS, Design, Family, Params, Schools
from dapwick.core.outlines.ground import CLEARED_MM, FLOOR_MM, Ground, Wanted, room_left, wanted_on, with_said
from dapwick.core.outlines.wishes import NO_WISHES, Aim, Wishes, aim_of, size_shift

VERSION: Final = "fit-4"
SHORT_WEIGHT: Final = 1.25
"""Of a millimetre that is missing, up to BENT_MM."""
BARE_WEIGHT: Final = 2.0
"""Of a millimetre of skin left barer than the floor."""
REMOVED_WEIGHT: Final = 3.0
"""Of hair cut down to 1/e: from 30 mm to 10 costs as much as from 15 to 5, for what is left decides how long it takes
to come back to anything."""
BENT_MM: Final = 4.0
"""Hair missing in one place bends the outline there: from about here on it costs ever less, lest a small place that
lacks has all of a good coat cut down to it."""
REST_MM: Final = 2.0
"""Added to both lengths of such a ratio: nobody sees whether one millimetre is left or two."""
UNEVEN_WEIGHT: Final = 0.5
SAID_WEIGHT: Final = 1.0
"""Of a millimetre by which the shape leaves a length that was said."""
IDEAL_WEIGHT: Final = 1.0
SIZE_TOLERANCE_MM: Final = 10.0
"""A size this far from the family's usual one costs as much as each other parameter's tolerance."""
SHARE_ALLOWED: Final = 0.05
"""A size holds while at most this share more of the planned skin is bare or runs short than at the fit."""
MOST_ROUNDS: Final = 8
MOST_UNDER_MM: Final = 6.0
"""A surface deeper under the skin than this is as bare as it gets."""


@dataclass(frozen=True)
class Sizes:
    """The main size (mm): smallest (skin plus floor), fitted, largest (inside the coat)."""

    smallest: float
    fitted: float
    largest: float

    def at(self, fullness: float) -> float:
        """-1 is the smallest, 0 the fitted, +1 the largest."""
        end = self.largest if fullness >= 0 else self.smallest
        return self.fitted + abs(fullness) * (end - self.fitted)


@dataclass(frozen=True)
class Fit:
    """A family's own choice on this ground: its parameters, the true ends of its main size, what it cost, and
    the wishes it was made under."""

    params: Params
    sizes: Sizes
    cost: float
    wishes: Wishes


@dataclass(frozen=True)
class Outline:
    """A fitted outline. Depths (V,) mm over the skin: wanted by the family, left after the room has spoken, and short:
    wanted beyond the coat as it is expected. covered (V,): clipped or thinned rather than scissored to a surface."""

    family: Family
    params: Params
    schools: Schools
    design: Design
    size_mm: float
    fit: Fit
    wanted_mm: Array
    leave_mm: Array
    short_mm: Array
    covered: BoolArray
    cover: IntArray
    ground: Ground
    version: str = VERSION

    @property
    def sizes(self) -> Sizes:
        return self.fit.sizes


@dataclass(frozen=True)
class _Sample:
    """A ground thinned to right-hand places and their left-hand partners."""

    ground: Ground
    at: IntArray
    partner: IntArray
    vertices_mm: Array
    outward: Array
    ceiling_mm: Array
    coat_mm: Array
    stand: Array
    share: Array
    said_mm: Array
    fitted_round_mm: Array

    def shape(self, design: Design) -> Wanted:
        """What the design by itself wants."""
        free = self.ground.free_mm(design)[self.at]
        return wanted_on(design, self.vertices_mm, self.outward, self.coat_mm, self.stand, free)

    def wanted(self, design: Design) -> Wanted:
        """The same with what was said."""
        return with_said(self.shape(design), self.said_mm, self.stand, self.ground.free_mm(design)[self.at])

    def left(self, design: Design, wanted: Wanted) -> Array:
        free = self.ground.free_mm(design)[self.at]
        return room_left(wanted, np.minimum(FLOOR_MM, self.ceiling_mm), self.ceiling_mm, free)


def _sample(ground: Ground, wishes: Wishes) -> _Sample:
    right, left = ground.pairs
    at = np.concatenate([right, left])
    half = len(right)
    partner = np.concatenate([np.arange(half) + half, np.arange(half)])
    skin, coat = ground.skin, ground.coat
    return _Sample(
        ground,
        at,
        partner,
        skin.vertices_mm[at],
        skin.outward[at],
        ground.ceiling_mm[at],
        coat.depth_mm[at],
        coat.stand[at],
        _even_shares(skin.template.zone[at]),
        ground.said_mm(wishes.said_mm)[at],
        ground.said_mm(wishes.lengths)[at],
    )


def fit_family(ground: Ground, family: Family, schools: Schools, wishes: Wishes = NO_WISHES) -> Fit:
    """Bounded least squares from the family's default rule; deterministic.

    Minimises skin left bare, hair wanted that is not there, hair taken off, sides of the outline that differ, and
    departure from the family's ideals as the owner's wishes move them, over an even
    sample of the skin.
    """
    sample = _sample(ground, wishes)
    usual = family.default_size(ground.face)
    aims = [Aim(usual, SIZE_TOLERANCE_MM)]
    aims += [aim_of(p, wishes, ground.coat_type) for p in family.turned]
    ideal, tolerance = np.array([a.value for a in aims]), np.array([a.tolerance for a in aims])

    def designed(x: Array) -> Design:
        return family.design(ground.face, float(x[0]), _named(family, x[1:]), schools)

    def costs(x: Array) -> Array:
        design = designed(x)
        wanted = sample.wanted(design)
        return np.concatenate([_costs(sample, design, wanted), IDEAL_WEIGHT * (x - ideal) / tolerance])

    low = np.array([usual - family.size_reach[0], *(p.low for p in family.turned)])
    high = np.array([usual + family.size_reach[1], *(p.high for p in family.turned)])
    found = least_squares(
        costs,
        np.clip(ideal, low + 1e-3, high - 1e-3),
        bounds=(low, high),
        x_scale=tolerance,
        diff_step=2e-3,
        xtol=3e-3,
        ftol=3e-3,
        max_nfev=MOST_ROUNDS,
    )
    x = found.x

    def shares(size: float) -> tuple[float, float]:
        """(share of the skin left bare, share wanting hair that is not there) at a size."""
        design = designed(np.array([size, *x[1:]]))
        wanted = sample.wanted(design)
        bare = (wanted.depth_mm < FLOOR_MM) & ~wanted.clipped
        thin = (wanted.depth_mm < SHORTEST_CLIPPED_MM) & wanted.clipped
        return float((bare | thin).mean()), float((wanted.depth_mm > sample.ceiling_mm).mean())

    fitted = float(x[0])
    bare, short = (share + SHARE_ALLOWED for share in shares(fitted))
    smallest = _last_size(fitted, float(low[0]), lambda size: shares(size)[0] <= bare)
    largest = _last_size(fitted, float(high[0]), lambda size: shares(size)[1] <= short)
    # Fuller or shorter is said of what fits, not of what is usual, and never beyond what the coat carries.
    fitted = float(np.clip(fitted + size_shift(wishes, ground.coat_type), smallest, largest))
    params = {FULLNESS: 0.0, **_named(family, x[1:])}
    return Fit(params, Sizes(smallest, fitted, largest), 2.0 * float(found.cost), wishes)


SHORTEST_CLIPPED_MM: Final = 0.4


def _costs(sample: _Sample, design: Design, wanted: Wanted) -> Array:
    """Residuals (5·S,) of what a design does to the coat."""
    depth = wanted.depth_mm
    bare = np.where(wanted.clipped, 0.0, np.maximum(FLOOR_MM - depth, 0.0)) + np.minimum(
        wanted.under_mm, MOST_UNDER_MM
    )
    short = _told(np.maximum(depth - sample.ceiling_mm, 0.0))
    left = sample.left(design, wanted)
    taken = np.log((sample.coat_mm + REST_MM) / (np.minimum(left, sample.coat_mm) + REST_MM))
    removed = np.where(wanted.clipped, 0.0, taken)
    surface = sample.vertices_mm + left[:, None] * sample.outward
    mirrored = surface[sample.partner] * [-1.0, 1.0, 1.0]
    uneven = ((surface - mirrored) * sample.outward).sum(axis=1)
    uneven = np.where(wanted.clipped, 0.0, uneven)
    return np.concatenate(
        [
            SHORT_WEIGHT * sample.share * short,
            BARE_WEIGHT * sample.share * bare,
            REMOVED_WEIGHT * sample.share * removed,
            UNEVEN_WEIGHT * sample.share * uneven,
            SAID_WEIGHT * sample.share * _off_said(sample, design),
        ]
    )


def _off_said(sample: _Sample, design: Design) -> Array:
    """How far (N,) mm the design's own surface lies from a length that was said, 0 where none was: the rest is fitted
    round it. What is as short as the body is joined to the head, it does not draw the head in."""
    said = ~np.isnan(sample.fitted_round_mm)
    off = np.zeros(len(sample.at))
    if said.any():
        asked = depth_of(np.where(said, sample.fitted_round_mm, 0.0), sample.stand)
        off[said] = (sample.shape(design).depth_mm - asked)[said]
    return off


def _told(short_mm: Array) -> Array:
    """What missing hair (N,) costs, mm."""
    return np.asarray(short_mm / np.sqrt(1.0 + (short_mm / BENT_MM) ** 2))


def _even_shares(zone: IntArray) -> Array:
    """Weight (N,) of each sampled place, so that a small zone counts as much as a large one."""
    _, which, count = np.unique(zone, return_inverse=True, return_counts=True)
    return np.asarray(1.0 / np.sqrt(len(count) * count[which]))


def _named(family: Family, values: Array) -> dict[str, float]:
    return {p.id: float(v) for p, v in zip(family.turned, values, strict=True)}


def _last_size(start: float, end: float, holds: Callable[[float], bool], rounds: int = 6) -> float:
    """The size nearest `end` for which the condition still holds, by bisection from `start`."""
    good, bad = start, end
    for _ in range(rounds):
        middle = (good + bad) / 2
        good, bad = (middle, bad) if holds(middle) else (good, middle)
    return good


def draw_outline(
    ground: Ground, family: Family, fit: Fit, given: Mapping[str, Any], schools: Schools
) -> Outline:
    """The family on this head: the fit's own parameters with the given ones laid over them, what it
    wants everywhere and what can be left."""
    params = {**fit.params, **family.checked(given)}
    size = fit.sizes.at(params[FULLNESS])
    design = family.design(ground.face, size, params, schools)
    skin, coat, free = ground.skin, ground.coat, ground.free_mm(design)
    shape = wanted_on(design, skin.vertices_mm, skin.outward, coat.depth_mm, coat.stand, free)
    wanted = with_said(shape, ground.said_mm(fit.wishes.said_mm), coat.stand, free)
    design, cover = _with_said_covers(ground, design, wanted.cover, fit.wishes)
    design = replace(design, ears=with_said_edge(design.ears, fit.wishes.ear_edge_mm))
    untouched = np.isin(cover, [i for i, one in enumerate(design.covers) if one.tool == NOTHING])
    leave = room_left(wanted, ground.floor_mm, ground.ceiling_mm, free)
    leave = np.where(untouched, np.minimum(coat.depth_mm, np.maximum(free, CLEARED_MM)), leave)
    asked = ground.asks & ~wanted.clipped
    there = np.maximum(leave, coat.depth_mm)
    short = np.where(asked, np.maximum(wanted.depth_mm - there, 0.0), 0.0)
    return Outline(
        family,
        params,
        dict(schools),
        design,
        size,
        fit,
        frozen(wanted.depth_mm),
        frozen(leave),
        frozen(short),
        wanted.clipped,
        cover,
        ground,
    )


BY_COMB: Final = ("visor", "brow", "chin", "muzzle_side")
"""Zones where a length that is said is cut over the comb: no guard goes there."""


def _with_said_covers(
    ground: Ground, design: Design, cover: IntArray, wishes: Wishes
) -> tuple[Design, IntArray]:
    """The design with a cover for each length that was said, and which cover holds each place (V,)."""
    said = wishes.said_mm
    covers = tuple(
        Cover(f"said, {mm:g} mm", everywhere, mm, tool="shears over comb" if zone in BY_COMB else "guard")
        for zone, mm in said.items()
    )
    held = cover.copy()
    for i, zone in enumerate(said):
        held[ground.skin.in_zone(zone)] = len(design.covers) + i
    return replace(design, covers=(*design.covers, *covers)), held
