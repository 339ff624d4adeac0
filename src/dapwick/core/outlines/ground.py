"""What an outline is fitted on: head, skin, coat and ears, and the room between floor and ceiling.

Room at a place is the interval from the floor (safe minimum) to the ceiling (the coat that is there less
its uncertainty at the chosen confidence). Nothing is ever planned above the ceiling.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Final

import numpy as np

from dapwick.core.basics.arrays import Array, BoolArray, IntArray, frozen
from dapwick.core.basics.shapes import TRACE_ROUNDS, exit_distance, outside
from dapwick.core.head.coat import CONFIDENCE_90, Coat
from dapwick.core.head.ears import Ear
from dapwick.core.head.skin import Skin
from dapwick.core.head.stand import depth_of, length_of
from dapwick.core.head.zones import BARE, ZONES
from dapwick.core.outlines.clear import keep_clear
from dapwick.core.outlines.face import Face
from dapwick.core.outlines.family import Design, Family
from dapwick.core.solve.joint import HeadSolution

FLOOR_MM: Final = 3.0
"""Depth below which scissored hair on a pet head is not planned; blades go closer, outlines do not."""
SPANNED: Final = ("stop", "inner_corner", "bridge")
"""Zones whose hair stays short by itself: an outline passes over them, and asks no hair there."""
MOST_DOUBTED, MOST_DOUBTED_UNREAD = 1 / 2, 1 / 3
"""Share of the expected coat that doubt may take from the ceiling: where something has read it, and where a comb is
asked for before anything is cut."""
LEAST_SHARE: Final = 0.5
"""A design's least depth is at most this share of the coat."""
ROUNDED_MM: Final = 4.0
"""Width over which a surface runs into the least depth."""
CLEARED_MM: Final = 0.5
"""Depth left on skin that lies in a place kept clear."""


@dataclass(frozen=True)
class Ground:
    """Everything an outline is fitted on."""

    head: HeadSolution
    skin: Skin
    coat: Coat
    ears: tuple[Ear, Ear]
    coat_type: str

    @cached_property
    def face(self) -> Face:
        return Face(self.head.points_mm, self.coat_type)

    @cached_property
    def ceiling_mm(self) -> Array:
        """Depth (V,) over the skin as told up to which there is coat with 90 % confidence: an outline lies at a place
        of its own, whatever the skin under it, so what counts is how well the coat's outside is known. However vague
        the coat, all but MOST_DOUBTED of it is counted on: what is cut off on a doubt does not come back."""
        most = np.where(self.coat.read, MOST_DOUBTED, MOST_DOUBTED_UNREAD) * self.coat.depth_mm
        return frozen(self.coat.depth_mm - np.minimum(CONFIDENCE_90 * self.coat.outside_sigma_mm, most))

    @cached_property
    def floor_mm(self) -> Array:
        """Least depth (V,) of scissored hair: FLOOR_MM, or less where less is expected. What is not surely there is
        not cut to nothing for that."""
        return frozen(np.where(self.bare, 0.0, np.minimum(FLOOR_MM, self.coat.depth_mm)))

    @cached_property
    def now_mm(self) -> Array:
        """Hair length (V,) there now."""
        return frozen(length_of(self.coat.depth_mm, self.coat.stand))

    @cached_property
    def bare(self) -> BoolArray:
        """Skin (V,) on which no coat grows."""
        return np.asarray(self.skin.template.zone == ZONES.index(BARE))

    @cached_property
    def asks(self) -> BoolArray:
        """Skin (V,) whose hair an outline is made of."""
        spanned = np.isin(self.skin.template.zone, [ZONES.index(z) for z in SPANNED])
        return np.asarray(~self.bare & ~spanned)

    @cached_property
    def _free(self) -> dict[bool, Array]:
        """How far (V,) hair goes before it would reach a place kept clear, corners cleared or left."""
        found = {}
        for left in (False, True):
            around = outside(keep_clear(self.face, left))
            found[left] = frozen(exit_distance(around, self.skin.vertices_mm, self.skin.outward))
        return found

    def said_mm(self, by_zone: Mapping[str, float]) -> Array:
        """Hair length (V,) said for each place's zone, NaN where none was."""
        said = np.full(len(self.skin.vertices_mm), np.nan)
        for zone, mm in by_zone.items():
            said[self.skin.in_zone(zone)] = mm
        return said

    def free_mm(self, design: Design) -> Array:
        """Depth (V,) mm that a design leaves free: less than the floor in places kept clear."""
        return self._free[design.corners_left]

    def members(self, family: Family) -> IntArray:
        """Vertices (K,) of the zones the family plans."""
        return np.flatnonzero(np.isin(self.skin.template.zone, [ZONES.index(z) for z in family.planned]))

    @cached_property
    def pairs(self) -> tuple[IntArray, IntArray]:
        """A sample of the skin: (S,) vertices of the dog's right and their partners on its left."""
        template = self.skin.template
        right = np.flatnonzero((template.vertices_mm[:, 0] > 0) & self.asks)[::SAMPLE_EVERY]
        return right, np.asarray(template.mirror[right])


SAMPLE_EVERY: Final = 8


@dataclass(frozen=True)
class Wanted:
    """Depths (N,) a design wants on some skin: depth_mm; under_mm: how far the surface lies under the skin,
    where it does; clipped: covered skin, which blades take below the floor of scissored hair; cover: which
    cover holds it, -1 none."""

    depth_mm: Array
    under_mm: Array
    clipped: BoolArray
    cover: IntArray


def wanted_on(
    design: Design,
    vertices_mm: Array,
    outward: Array,
    coat_mm: Array,
    stand: Array,
    free_mm: Array,
    rounds: int = TRACE_ROUNDS,
) -> Wanted:
    """What a design wants on skin (N, 3) with so much coat, never reaching into a place kept clear."""
    cover = np.full(len(vertices_mm), -1, dtype=np.intp)
    for i, one in enumerate(design.covers):
        cover[one.where(vertices_mm)] = i
    depth, under = np.zeros(len(vertices_mm)), np.zeros(len(vertices_mm))
    shaped = cover < 0
    under[shaped] = np.maximum(design.surface(vertices_mm[shaped]), 0.0)
    least = np.minimum(design.least_mm, LEAST_SHARE * coat_mm[shaped])
    out = exit_distance(design.surface, vertices_mm[shaped], outward[shaped], rounds=rounds)
    depth[shaped] = _no_less(out, least)
    for i, one in enumerate(design.covers):
        at = cover == i
        depth[at] = one.depth_mm(coat_mm[at], stand[at])
    return Wanted(np.minimum(depth, free_mm), under, ~shaped, cover)


def with_said(wanted: Wanted, said_mm: Array, stand: Array, free_mm: Array) -> Wanted:
    """The same with hair lengths that were said (N,), NaN where none was, in place of the design's; they are set by
    blade, guard or comb, as covers are."""
    said = ~np.isnan(said_mm)
    if not said.any():
        return wanted
    depth = depth_of(np.where(said, said_mm, 0.0), stand)
    return replace(
        wanted,
        depth_mm=np.where(said, np.minimum(depth, free_mm), wanted.depth_mm),
        under_mm=np.where(said, 0.0, wanted.under_mm),
        clipped=wanted.clipped | said,
    )


def _no_less(depth_mm: Array, least_mm: Array) -> Array:
    """The larger of the two (N,), the one running into the other over ROUNDED_MM: bone that comes near the surface
    bends it, no more."""
    h = np.clip(0.5 + 0.5 * (depth_mm - least_mm) / ROUNDED_MM, 0.0, 1.0)
    return np.asarray(least_mm + (depth_mm - least_mm) * h + ROUNDED_MM * h * (1.0 - h))


def room_left(wanted: Wanted, floor_mm: Array, ceiling_mm: Array, free_mm: Array) -> Array:
    """What can be left (N,): within the room; in places kept clear next to nothing."""
    floor = np.where(wanted.clipped, 0.0, floor_mm)
    left = np.clip(wanted.depth_mm, floor, np.maximum(ceiling_mm, floor))
    return np.asarray(np.minimum(left, np.maximum(free_mm, CLEARED_MM)))
