"""A zone parted where one length, or one tool, will not do: by what sets it, then by how its length runs.

A piece aims at what the outline asks, not at the coat that is surely there: hair is cut down to the outline and never
below it, so where the coat is shorter nothing is cut, and where it is only expected the comb is asked first.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Final

import numpy as np

from dapwick.core.basics.arrays import Array, BoolArray, IntArray
from dapwick.core.cut.runs import Run, run_over
from dapwick.core.head.skin import Skin
from dapwick.core.head.stand import length_of
from dapwick.core.head.zones import ZONES, Side, zone_words
from dapwick.core.outlines.ear_cut import CLIPPED_MM, NONE, WHOLE, EarCut
from dapwick.core.outlines.fit import Outline
from dapwick.core.outlines.ground import CLEARED_MM, FLOOR_MM, SPANNED
from dapwick.core.plan.lengths import CLIPPED, DONE_BY, SCISSORED, ZoneLength

ROUNDING_MM: Final = 0.1
SPREAD_MM: Final = 5.0
"""A place whose lengths spread further is parted: one guard, and one number, would not do for all of it."""
LEAST_PLACES: Final = 4
MIXED_SHARE: Final = 0.2
"""From this share of a place on, hair that is missing there is told apart from hair that comes off."""
LEAST_SHARE: Final = 0.06
"""A smaller remainder of a zone belongs to the line that bounds it."""
OFF_MM: Final = 1.0
"""Less than this coming off is nothing to do."""
UNSURE_MM: Final = 1.0
"""The outline asks this much more than is surely there: the comb is asked first."""
WHEREVER: Final = ""
CLEARED: Final = "cleared"
"""By what a place is set where nothing may stand in the way of eye, nose, lip or ear canal."""
AXES: Final[tuple[tuple[str, ...], ...]] = (
    ("back", "middle", "front"),
    ("lower", "middle", "upper"),
    ("inner", "middle", "outer"),
)


@dataclass(frozen=True)
class Piece:
    """Part of a zone on one side that one step brings to length; hair lengths, mm.

    part: which ("upper"), "" for all of the zone. by: what sets it (core/plan/lengths.py), or CLEARED. leave_mm: what
    the outline asks, low..high its 90 % interval, shortest_mm..longest_mm over all of its places; now_mm: the coat
    expected there, sure_mm what of it is there with 90 % confidence. run: how the length runs, where it differs; bands:
    where its lengths spread too far for one guard, the parts that each take their own."""

    zone: str
    side: Side
    part: str
    by: str
    leave_mm: float
    low: float
    high: float
    shortest_mm: float
    longest_mm: float
    now_mm: float
    now_low: float
    now_high: float
    sure_mm: float
    why: str
    run: Run | None = None
    bands: tuple[Piece, ...] = ()

    @property
    def key(self) -> tuple[str, Side, str]:
        return self.zone, self.side, self.part

    @property
    def place(self) -> tuple[str, Side]:
        return self.zone, self.side

    @property
    def words(self) -> str:
        return f"{self.part} {zone_words(self.zone)}".strip()

    @property
    def remove_mm(self) -> float:
        return max(self.now_mm - self.leave_mm, 0.0)

    @property
    def missing_mm(self) -> float:
        """Hair the outline asks that is not expected there."""
        return max(self.leave_mm - self.now_mm, 0.0) if self.by == SCISSORED else 0.0

    @property
    def upper_mm(self) -> float:
        """The longest place's own upper end: no blade or guard that passes may leave less."""
        return self.longest_mm + max(self.high - self.leave_mm, 0.0)

    @property
    def unsure(self) -> bool:
        """Hair comes off if it is as expected, but so much is not surely there."""
        return self.by == SCISSORED and self.leave_mm > self.sure_mm + UNSURE_MM


def whole(z: ZoneLength) -> Piece:
    """A zone as one piece."""
    return Piece(
        z.zone, z.side, WHEREVER, z.by, z.wanted_mm, z.low, z.high, min(z.shortest_mm, z.wanted_mm),
        max(z.longest_mm, z.wanted_mm), z.now_mm, z.now_low, z.now_high, z.now_low, z.why,
    )  # fmt: skip


def pieces_on(outline: Outline, zones: Sequence[ZoneLength]) -> dict[tuple[str, Side], tuple[Piece, ...]]:
    """Every planned zone and side in its pieces."""
    places = _Places.of(outline)
    return {
        (z.zone, z.side): tuple(places.pieces(z) if z.zone in ZONES else ear_pieces(z, outline.design.ears))
        for z in zones
    }


@dataclass(frozen=True)
class _Places:
    """All skin of a head (V,): what the outline asks, what is there (hair length, mm), and by which cover; clear:
    nothing may stand there."""

    skin: Skin
    points_mm: Array
    aim_mm: Array
    now_mm: Array
    sure_mm: Array
    cover: IntArray
    clear: BoolArray
    by_cover: Mapping[int, str]

    @classmethod
    def of(cls, outline: Outline) -> _Places:
        ground, stand = outline.ground, outline.ground.coat.stand
        free = ground.free_mm(outline.design)
        floor = np.where(outline.covered, 0.0, FLOOR_MM)
        depth = np.minimum(np.maximum(outline.wanted_mm, floor), np.maximum(free, CLEARED_MM))
        by = {i: DONE_BY.get(c.tool, c.tool) for i, c in enumerate(outline.design.covers)}
        return cls(
            ground.skin,
            ground.head.points_mm,
            _as_set(length_of(depth, stand), outline),
            ground.now_mm,
            length_of(ground.ceiling_mm, stand),
            np.where(outline.covered, outline.cover, -1),
            (free < FLOOR_MM) & ~outline.covered,
            {-1: SCISSORED, **by},
        )

    def pieces(self, z: ZoneLength) -> Iterator[Piece]:
        at = self.skin.in_zone(z.zone, z.side)
        if z.zone in SPANNED:
            yield self._piece(z, at, z.by, WHEREVER)
            return
        kept = at[~self.clear[at]]
        if 2 * len(kept) < len(at):
            yield self._piece(z, at, CLEARED, WHEREVER)
            return
        kinds = self._kinds(kept)
        named: set[str] = set()
        for i, (by, members) in enumerate(kinds):
            others = [one for j, (_, one) in enumerate(kinds) if j != i]
            part, axis = self._apart(members, np.concatenate(others)) if others else (WHEREVER, None)
            while part in named:
                part = f"other {part}"
            named.add(part)
            yield from self._split(z, members, by, part, axis)

    def _kinds(self, at: IntArray) -> list[tuple[str, IntArray]]:
        """Places by what sets them, the remainders of a line left out; covers that set alike are one."""
        found: dict[tuple[str, int], list[int]] = {}
        for vertex, cover in zip(at.tolist(), self.cover[at].tolist(), strict=True):
            by = self.by_cover[cover]
            found.setdefault((by, cover if by == CLIPPED else -1), []).append(vertex)
        least = max(LEAST_PLACES, LEAST_SHARE * len(at))
        kept = [(by, np.array(members)) for (by, _), members in found.items() if len(members) >= least]
        return kept or [(SCISSORED, at)]

    def _apart(self, mine: IntArray, other: IntArray) -> tuple[str, int]:
        """What one part of a zone is called beside the others, and the way in which they lie apart."""
        along = self._along(np.concatenate([mine, other]))
        off = along[:, : len(mine)].mean(axis=1) - along[:, len(mine) :].mean(axis=1)
        off /= along.std(axis=1) + 1e-6
        axis = int(np.abs(off).argmax())
        return AXES[axis][2 if off[axis] > 0 else 0], axis

    def _along(self, at: IntArray) -> Array:
        """Forward, up and outward of places, (3, N) mm."""
        x, y, z = self.skin.vertices_mm[at].T
        return np.stack([y, z, np.abs(x)])

    def _split(self, z: ZoneLength, at: IntArray, by: str, part: str, axis: int | None) -> Iterator[Piece]:
        """One piece, or where hair is missing in some of it and comes off in the rest, each by itself."""
        missing = self.aim_mm[at] - self.now_mm[at]
        share = float((missing > OFF_MM).mean())
        if by == SCISSORED and MIXED_SHARE < share < 1 - MIXED_SHARE and len(at) >= 2 * LEAST_PLACES:
            for words, members, along in self._bands(at, missing, axis):
                yield self._banded(z, members, by, f"{part} {words}".strip(), along if axis is None else axis)
        else:
            yield self._banded(z, at, by, part, axis)

    def _banded(self, z: ZoneLength, at: IntArray, by: str, part: str, axis: int | None) -> Piece:
        one = self._piece(z, at, by, part)
        if by != SCISSORED or _spread(self.aim_mm[at]) <= SPREAD_MM or len(at) < 2 * LEAST_PLACES:
            return one
        return replace(
            one,
            bands=tuple(
                self._piece(z, members, by, f"{part} {words}".strip())
                for words, members, _ in self._bands(at, self.aim_mm[at], axis)
            ),
        )

    def _bands(self, at: IntArray, values: Array, taken: int | None) -> list[tuple[str, IntArray, int]]:
        """Two parts along the way in which the values change most, or three where two do not do; taken: the way
        in which this place is a part already."""
        along, options = self._along(at), []
        for axis, names in enumerate(AXES):
            ordered = np.argsort(along[axis], kind="stable")
            for count in (2, 3):
                parts = np.array_split(ordered, count)
                worst = max(_spread(values[one]) for one in parts)
                called = names if count == 3 else (names[0], names[2])
                found = [(words, at[one], axis) for words, one in zip(called, parts, strict=True)]
                options.append((axis == taken, worst > SPREAD_MM, count, worst, found))
        return min(options, key=lambda option: option[:4])[4]

    def _piece(self, z: ZoneLength, at: IntArray, by: str, part: str) -> Piece:
        aim, now = self.aim_mm[at], self.now_mm[at]
        middle, now_middle = float(np.median(aim)), float(np.median(now))
        down, up = z.leave_mm - z.low, z.high - z.leave_mm
        exact = by in (CLIPPED, CLEARED)
        run = None if exact else run_over(self.points_mm, self.skin.vertices_mm[at], aim)
        return Piece(
            zone=z.zone,
            side=z.side,
            part=part,
            by=by,
            leave_mm=middle,
            low=middle if exact else max(middle - down, 0.0),
            high=middle if exact else middle + up,
            shortest_mm=float(aim.min()),
            longest_mm=float(aim.max()),
            now_mm=now_middle,
            now_low=max(now_middle - (z.now_mm - z.now_low), 0.0),
            now_high=now_middle + (z.now_high - z.now_mm),
            sure_mm=float(np.median(self.sure_mm[at])),
            why=z.why,
            run=run,
        )


def _as_set(length_mm: Array, outline: Outline) -> Array:
    """The same, where a blade's length is set to just that: depth and back leaves a rounding, which would ask for a
    longer blade."""
    found = length_mm.copy()
    for i, cover in enumerate(outline.design.covers):
        if cover.length_mm is not None:
            near = (outline.cover == i) & (np.abs(found - cover.length_mm) < ROUNDING_MM)
            found[near] = cover.length_mm
    return found


def _spread(lengths: Array) -> float:
    """From the tenth to the ninetieth of a hundred."""
    ordered, last = np.sort(lengths), len(lengths) - 1
    return float(ordered[round(0.9 * last)] - ordered[round(0.1 * last)])


def ear_pieces(z: ZoneLength, cut: EarCut) -> tuple[Piece, ...]:
    """An ear's zone; where the leather is clipped over part of its outside, that part is a piece of its own."""
    one = replace(whole(z), sure_mm=z.now_low)
    first, last = cut.clipped
    if z.zone != "ear_outside" or first >= last or (first <= WHOLE and last >= NONE):
        return (one,)
    part = "tip of the" if last >= NONE else "upper" if first <= WHOLE else "middle"
    rest = "rest of the"
    shaved = replace(
        one, part=part, by=CLIPPED, leave_mm=CLIPPED_MM, low=CLIPPED_MM, high=CLIPPED_MM,
        shortest_mm=CLIPPED_MM, longest_mm=CLIPPED_MM,
    )  # fmt: skip
    return shaved, replace(one, part=rest)
