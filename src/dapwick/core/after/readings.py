"""What finished photos and combs read of a head, before anything is concluded: how far off its plan, and where.

Where a silhouette ray grazes the planned surface, a photo's edge shows how far the true surface stands off it. A comb
pushed to the skin shows how deep the hair is.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, fields, replace
from typing import Final, Literal

import numpy as np
from scipy.spatial.distance import cdist

from dapwick.core.after.cameras import MOVES, STEPS, FoundCamera
from dapwick.core.basics.arrays import Array, BoolArray, IntArray
from dapwick.core.head.coat import CoatProbe, middle_of
from dapwick.core.head.silhouettes import DRY_EARS, Edge, Outside, RimSamples, depth_to_edge, rim_samples
from dapwick.core.head.skin import Skin
from dapwick.core.head.skin_and_coat import STANDS_OUT_MM
from dapwick.core.head.zones import BARE, ZONES, Side
from dapwick.core.outlines.fit import Outline

EDGE_MM: Final = 0.8
"""How well one place of a traced edge is read (σ); more where it is seen obliquely."""
CUT_COMB_MM: Final = 1.5
"""How well a comb reads hair that was cut, in the middle of a zone (σ): cut hair ends alike, and a coat as it grew is
read less well (core/head/coat.py)."""
FOUND_WITHIN_MM: Final = 8.0
"""A comb meant for one spot of a zone goes in so near it: where the plan runs from short to long, that makes it
unsure."""
SEEN_WITHIN_MM: Final = 11.0
"""A place counts as seen where an edge was read so near."""
MOST_READINGS: Final = 260
REPEATS_MM: Final = 6.0
SIDES: Final[tuple[Side, ...]] = ("left", "right")
COMB: Final = -1
"""In the stead of a photo's number."""
Spot = Literal["middle", "front", "back", "above", "below"]
TOWARDS: Final[Mapping[Spot, tuple[int, int]]] = {
    "front": (1, 1),
    "back": (1, -1),
    "above": (2, 1),
    "below": (2, -1),
}
"""Axis of the head's frame, and which way along it, a spot lies from a zone's middle."""


@dataclass(frozen=True)
class FinishedPhoto:
    """A photo of the finished head: its camera on the known bone, and the traced edge. taken: 0 for the first look,
    more for those after touch-ups, which count where both saw."""

    name: str
    found: FoundCamera
    edge: Edge
    taken: int = 0


@dataclass(frozen=True)
class CutComb(CoatProbe):
    """A comb pushed to the skin of the finished head: in the middle of a zone, or beside it."""

    spot: Spot = "middle"


@dataclass(frozen=True)
class Read:
    """Readings of all photos and combs: at (R,) vertices, mm (R,) off the plan, sigma (R,), photo (R,) its number,
    COMB where a comb read the hair alone; leans (R, MOVES) how a move of the photo's camera changes each."""

    at: IntArray
    mm: Array
    sigma: Array
    photo: IntArray
    leans: Array

    def only(self, keep: BoolArray) -> Read:
        return Read(self.at[keep], self.mm[keep], self.sigma[keep], self.photo[keep], self.leans[keep])

    @classmethod
    def together(cls, parts: Sequence[Read]) -> Read:
        return cls(*(np.concatenate([getattr(p, f.name) for p in (NOTHING, *parts)]) for f in fields(cls)))

    @property
    def combed(self) -> BoolArray:
        """Readings (R,) of the hair alone."""
        return np.asarray(self.photo == COMB)


NOTHING: Final = Read(
    np.zeros(0, np.intp), np.zeros(0), np.zeros(0), np.zeros(0, np.intp), np.zeros((0, MOVES))
)


def spots_of(skin: Skin, zone: str, side: Side) -> tuple[Spot, ...]:
    """Where combs go in, one after the other: the middle, then beside it the way the zone is longer."""
    spread = skin.vertices_mm[skin.in_zone(zone, side)].std(axis=0)
    return ("middle", "back", "front") if spread[1] > spread[2] else ("middle", "above", "below")


def spot_at(skin: Skin, zone: str, side: Side, spot: Spot) -> int:
    """The vertex of a spot: the zone's middle, or as far beside it as its places stray (σ)."""
    if spot == "middle":
        return middle_of(skin, zone, side)
    members, (axis, way) = skin.in_zone(zone, side), TOWARDS[spot]
    places = skin.vertices_mm[members]
    at = places.mean(axis=0)
    at[axis] += way * places[:, axis].std()
    return int(members[np.argmin(np.linalg.norm(places - at, axis=1))])


def planned_round(outline: Outline, vertex: int) -> Array:
    """Depths (K,) planned where a comb meant for a vertex may go in."""
    places = outline.ground.skin.vertices_mm
    return np.asarray(outline.leave_mm[np.linalg.norm(places - places[vertex], axis=1) < FOUND_WITHIN_MM])


def combed_on(outline: Outline, combs: Sequence[CutComb]) -> Read:
    """How far hair stands off the plan where combs went in, as well as a hand finds the spot."""
    skin = outline.ground.skin
    told = [
        (spot_at(skin, one.zone, side, one.spot), one.depth_mm)
        for one in combs
        if one.zone in ZONES
        for side in sides_of(one)
    ]
    at = np.array([vertex for vertex, _ in told], np.intp)
    planned = [planned_round(outline, vertex) for vertex, _ in told]
    mm = np.array([depth - deep.mean() for (_, depth), deep in zip(told, planned, strict=True)])
    sigma = np.array([np.hypot(CUT_COMB_MM, deep.std()) for deep in planned])
    return Read(at, mm, sigma, np.full(len(at), COMB, np.intp), np.zeros((len(at), MOVES)))


def sides_of(comb: CutComb) -> tuple[Side, ...]:
    """The sides a comb tells of: both where none was named."""
    return tuple(side for side in SIDES if comb.side in (None, side))


def read_photo(outline: Outline, number: int, photo: FinishedPhoto, planned: Outside, by: Array) -> Read:
    """Readings of one photo, its camera moved `by` (MOVES,) from where its marks put it."""
    ground, found = outline.ground, replace(photo.found, camera=photo.found.moved(by))
    edge = replace(photo.edge, camera=found.camera)
    seen: RimSamples = rim_samples(ground.head, ground.skin, edge, planned, DRY_EARS)
    keep = ground.skin.template.zone[seen.at] != ZONES.index(BARE)
    at, off, slant = seen.at[keep], seen.off_mm[keep], seen.slant[keep]
    leans = _leans(ground.skin, at, edge, found)
    # Told from the camera that the marks gave, whose covariance is known: the move taken since is given back.
    mm = off + STANDS_OUT_MM - outline.leave_mm[at] - leans @ by
    return Read(at, mm, EDGE_MM * slant, np.full(len(at), number), leans)


def _leans(skin: Skin, at: IntArray, edge: Edge, found: FoundCamera) -> Array:
    """How each move of a photo's camera changes what is read at vertices (K,): (K, MOVES)."""
    origin, outward = skin.vertices_mm[at], skin.outward[at]

    def with_move(step: Array) -> Array:
        return depth_to_edge(replace(edge, camera=found.moved(step)), origin, outward)

    slopes = [
        (with_move(step) - with_move(-step)) / (2 * STEPS[i])
        for i, step in enumerate(np.diag(STEPS))
    ]  # fmt: skip
    return np.asarray(np.nan_to_num(np.column_stack(slopes)))


def newest(outline: Outline, parts: Sequence[Read], taken: Sequence[int]) -> list[Read]:
    """The readings of each photo but those near which a later look has read anew."""
    places = outline.ground.skin.vertices_mm
    kept = []
    for part, when in zip(parts, taken, strict=True):
        later = np.concatenate(
            [np.zeros(0, np.intp), *(p.at for p, t in zip(parts, taken, strict=True) if t > when)]
        )
        if len(later) and len(part.at):
            near = cdist(places[part.at], places[later]).min(axis=1) < SEEN_WITHIN_MM
            part = part.only(~near)
        kept.append(part)
    return kept


def thinned(outline: Outline, parts: Sequence[Read]) -> Read:
    """All readings, at most MOST_READINGS; neighbours along one edge repeat each other."""
    together = Read.together(parts)
    step = max(1, -(-len(together.at) // MOST_READINGS))
    keep = np.arange(len(together.at)) % step == 0
    thin = together.only(keep)
    places = outline.ground.skin.vertices_mm[thin.at]
    near = (cdist(places, places) < REPEATS_MM) & (thin.photo[:, None] == thin.photo)
    sigma = thin.sigma * np.sqrt(np.maximum(near.sum(axis=1), 1))
    return Read(thin.at, thin.mm, sigma, thin.photo, thin.leans)
