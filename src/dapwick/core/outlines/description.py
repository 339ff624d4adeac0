"""Whether a finished head is what its name says: the proportions a family's own description asks, read from the
result.

Everything is read from the surface as it would be left (head frame, mm), ears apart unless they hang, since hanging
ears are part of the outline and standing ones only break it.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from functools import cache, cached_property
from typing import Final

import numpy as np

from dapwick.core.basics.arrays import Array, BoolArray, IntArray
from dapwick.core.head.growth import MOST_WEEKS, growth_mm
from dapwick.core.head.stand import depth_of, length_of
from dapwick.core.head.template import template
from dapwick.core.head.zones import ZONES
from dapwick.core.outlines.effects import ears_cut
from dapwick.core.outlines.face import Face
from dapwick.core.outlines.family import Condition
from dapwick.core.outlines.fit import Outline
from dapwick.core.outlines.ground import Ground, Wanted, room_left

SECTORS: Final = 36
SLICES: Final = 40
LOOKED_AT: Final = (1, 2, 3, 4, 6, 8, 12, 18, MOST_WEEKS)
"""Weeks at which a coat is grown to see: closer ones closer together."""
GLANCED_AT: Final = (2, 6, MOST_WEEKS)
"""The same while a slider is on its way."""
BROWS_LONGEST: Final = 80


@dataclass(frozen=True)
class Finished:
    """A head as it would be left. depth_mm (V,): over the skin; ears_mm: hanging ears' surfaces (E, 3), (0, 3) where
    they stand."""

    outline: Outline
    depth_mm: Array

    @property
    def face(self) -> Face:
        return self.outline.ground.face

    @cached_property
    def vertices_mm(self) -> Array:
        """The surface over each place of the skin (V, 3)."""
        skin = self.outline.ground.skin
        return np.asarray(skin.vertices_mm + self.depth_mm[:, None] * skin.outward)

    @cached_property
    def points_mm(self) -> Array:
        """The head without its ears (N, 3), closely enough for its silhouettes: hair spreads vertices apart, so faces
        and edges are taken at their middles too."""
        return _close_set(self.vertices_mm, *_parts_of_head())

    @cached_property
    def with_hanging_ears_mm(self) -> Array:
        """The head and the ears that hang beside it (N, 3)."""
        if not self.face.ears_hang:
            return self.points_mm
        return np.concatenate([self.points_mm, *ears_cut(self.outline)])

    def zone(self, *names: str) -> BoolArray:
        """Skin (V,) of some zones."""
        return np.isin(self.outline.ground.skin.template.zone, [ZONES.index(name) for name in names])

    def hair_mm(self, *zones: str) -> float:
        """Middle depth over some zones."""
        return float(np.median(self.depth_mm[self.zone(*zones)]))

    @cached_property
    def own_points_mm(self) -> Array:
        """The same (N, 3) of the head proper: nape and throat belong to the neck as soon as the head is set off."""
        return _close_set(self.vertices_mm, *_parts_of_own_head())

    @cached_property
    def radii_mm(self) -> Array:
        """How far the front silhouette lies from its own middle, by sector (SECTORS,), from the right round over the
        crown."""
        p = self.own_points_mm[:, [0, 2]]
        middle = np.array([0.0, (p[:, 1].max() + p[:, 1].min()) / 2])
        off = p - middle
        which = ((np.arctan2(off[:, 1], off[:, 0]) + np.pi) / (2 * np.pi) * SECTORS).astype(int) % SECTORS
        far = np.zeros(SECTORS)
        np.maximum.at(far, which, np.hypot(*off.T))
        return far

    def half_width_at(self, up_mm: float, points_mm: Array, band_mm: float = 6.0) -> float:
        """Half the width of the front silhouette around a level."""
        return float(_reach(points_mm[:, 2], points_mm[:, 0], np.array([up_mm]), band_mm)[0])

    def half_widths_ahead(self, ahead_mm: Array, band_mm: float = 5.0) -> Array:
        """Half the width of the top silhouette around some places along the head (K,)."""
        return _reach(self.points_mm[:, 1], self.points_mm[:, 0], ahead_mm, band_mm)


def _reach(along: Array, across: Array, places: Array, band_mm: float) -> Array:
    """How far points reach across, to either side, within a band around places (K,); 0 where there are none."""
    order = np.argsort(along)
    ends = np.searchsorted(along[order], [places - band_mm, places + band_mm])
    far = np.abs(across[order])
    return np.array([far[a:b].max() if b > a else 0.0 for a, b in ends.T.tolist()])


@cache
def _parts_of_head() -> tuple[IntArray, IntArray, IntArray]:
    """Vertices (N,), edges (E, 2) and faces (F, 3) of the template, each once."""
    return _parts(template().faces)


@cache
def _parts_of_own_head() -> tuple[IntArray, IntArray, IntArray]:
    """The same without nape and throat."""
    faces = template().faces
    neck = np.isin(template().zone, [ZONES.index("nape"), ZONES.index("throat")])
    return _parts(faces[~neck[faces].any(axis=1)])


def _parts(faces: IntArray) -> tuple[IntArray, IntArray, IntArray]:
    pairs = np.sort(np.concatenate([faces[:, [0, 1]], faces[:, [1, 2]], faces[:, [2, 0]]]), axis=1)
    return np.unique(faces), np.unique(pairs, axis=0), faces


def _close_set(vertices_mm: Array, corners: IntArray, edges: IntArray, faces: IntArray) -> Array:
    """Corners, middles of edges and middles of faces (N, 3)."""
    return np.concatenate(
        [vertices_mm[corners], vertices_mm[edges].mean(axis=1), vertices_mm[faces].mean(axis=1)]
    )


def front_uneven(done: Finished) -> float:
    """How far the front silhouette strays from a circle, as a share of its radius (σ)."""
    r = _smoothed(done.radii_mm)
    return float(r.std() / r.mean())


def _smoothed(around: Array) -> Array:
    """Each sector (SECTORS,) with its two neighbours: a dent narrower than that is not seen as a shape."""
    return np.asarray((np.roll(around, 1) + around + np.roll(around, -1)) / 3)


def circle_off_eyes(done: Finished) -> float:
    """How far the middle of the front silhouette lies under the eyes, as a share of its radius."""
    up = done.own_points_mm[:, 2]
    return (done.face.eye_level - float(up.max() + up.min()) / 2) / float(done.radii_mm.mean())


def fuller_below(done: Finished) -> float:
    """Width midway between eyes and chin against width midway between eyes and crown, hanging ears with it."""
    head, eyes = done.points_mm, done.face.eye_level
    top, low = float(head[:, 2].max()), float(done.own_points_mm[:, 2].min())
    above = done.half_width_at((eyes + top) / 2, head)
    return done.half_width_at((eyes + low) / 2, done.with_hanging_ears_mm) / max(above, 1.0)


def crown_past_cheek(done: Finished) -> float:
    """Crown's hair less cheek's, mm; a hanging ear's hair lies on the cheek."""
    on_it = (done.outline.design.ears.outside_mm or 0.0) if done.face.ears_hang else 0.0
    return done.hair_mm("crown") - done.hair_mm("cheek") - on_it


def past_the_nose(done: Finished) -> float:
    """How far hair passes the nose, or skin that passes it, mm."""
    skin = float(done.outline.ground.skin.vertices_mm[:, 1].max())
    return float(done.points_mm[:, 1].max()) - max(done.face.ahead("nose_tip"), skin)


def side_bulge(done: Finished) -> float:
    """How far the sides stray from a straight line between the cheek's widest part and the nose, seen from above, as
    a share of that line."""
    back, front = float(done.face.middle("cheek")[1]), done.face.ahead("nose_tip") - 8.0
    along = np.linspace(back, front, 9)
    width = done.half_widths_ahead(along)
    chord = np.interp(along, [back, front], [width[0], width[-1]])
    return float(np.abs(width - chord).max()) / (front - back)


def boxed(done: Finished) -> float:
    """Share of its bounding box that the front silhouette of the skull fills: a ball 0.79, a box 1."""
    p = done.own_points_mm
    low, high = float(done.face.middle("jaw_angle")[2]), float(p[:, 2].max())
    levels = np.linspace(low, high, SLICES)
    widths = _reach(p[:, 2], p[:, 0], levels, 3.0)
    return float(widths.mean() / widths.max())


def planes_apart_deg(done: Finished) -> float:
    """Angle between the finished top of the skull and the bridge in profile."""
    top = done.vertices_mm[done.zone("crown")]
    fall = -float(np.polyfit(top[:, 1], top[:, 2], 1)[0])
    return abs(float(np.degrees(np.arctan(fall) - np.arctan(done.face.bridge_slope))))


def arched(done: Finished) -> float:
    """Height of the front silhouette over the ears' base against its half width there: a half circle 1."""
    p = done.points_mm
    base = float(done.face.middle("ear_front")[2])
    return (float(p[:, 2].max()) - base) / max(done.half_width_at(base, p), 1.0)


def crown_over(zones: tuple[str, ...]) -> Callable[[Finished], float]:
    """Crown's hair less that of some zones, mm."""
    return lambda done: done.hair_mm("crown") - done.hair_mm(*zones)


def hair_at(*zones: str) -> Callable[[Finished], float]:
    """Middle depth of some zones, mm."""
    return lambda done: done.hair_mm(*zones)


def brows(done: Finished) -> float:
    """Depth of the brows at their longest, mm."""
    return float(np.percentile(done.depth_mm[done.zone("brow")], BROWS_LONGEST))


def ring_steps(done: Finished) -> float:
    """The smaller of the two steps from ring to ring, front to back: each ring's half width over the one before."""
    nose, eye = done.face.ahead("nose_tip"), float(done.face.middle("eye_inner")[1])
    skull = float(done.face.middle("ear_front")[1])
    muzzle, eyes, back = done.half_widths_ahead(np.array([nose - 12.0, eye - 8.0, skull]))
    return float(min(eyes / max(muzzle, 1.0), back / max(eyes, 1.0)))


def knot_uneven(done: Finished) -> float:
    """How far the silhouette over the eyes strays from a round one seen from the front, as a share of its radius
    (σ): over the sectors of the upper half, from the ears' base up."""
    r = done.radii_mm
    upper = r[SECTORS // 2 + 3 : -3]
    return float(upper.std() / upper.mean())


def wide(done: Finished) -> float:
    """Width against height from the front, neck apart."""
    p = done.own_points_mm
    return 2 * float(np.abs(p[:, 0]).max()) / float(np.ptp(p[:, 2]))


MEASURES: Final[Mapping[str, Callable[[Finished], float]]] = {
    "front_uneven": front_uneven,
    "circle_off_eyes": circle_off_eyes,
    "fuller_below": fuller_below,
    "crown_past_cheek": crown_past_cheek,
    "past_the_nose": past_the_nose,
    "side_bulge": side_bulge,
    "boxed": boxed,
    "planes_apart": planes_apart_deg,
    "arched": arched,
    "crown_over_cheek": crown_over(("cheek",)),
    "crown_over_temple": crown_over(("temple",)),
    "crown_over_face": crown_over(("muzzle_side", "cheek")),
    "crown": hair_at("crown"),
    "cheek": hair_at("cheek"),
    "chin": hair_at("chin"),
    "brows": brows,
    "ring_steps": ring_steps,
    "knot_uneven": knot_uneven,
    "wide": wide,
}
"""What descriptions ask, by name."""


@dataclass(frozen=True)
class Broken:
    """A condition that a finished head does not hold, and the value it has."""

    condition: Condition
    value: float

    @property
    def said(self) -> str:
        return self.condition.said(self.value)


def broken_on(outline: Outline, depth_mm: Array) -> tuple[Broken, ...]:
    """What a head left at this depth (V,) mm does not hold of its family's own description, in the family's order."""
    done = Finished(outline, depth_mm)
    values = [(one, MEASURES[one.of](done)) for one in outline.family.conditions]
    return tuple(Broken(one, value) for one, value in values if not one.holds(value))


def holds_today(outline: Outline) -> bool:
    """Whether an outline as it would be left is what its family's name says."""
    return not broken_on(outline, outline.leave_mm)


def weeks_until_it_holds(outline: Outline, looked_at: Sequence[int] = LOOKED_AT) -> int | None:
    """Whole weeks after which an outline that does not hold its description does, cut into the coat as it grows; None
    where growth does not bring it within half a year."""
    return next((weeks for weeks in looked_at if holds_after(outline, weeks)), None)


def holds_after(outline: Outline, weeks: float) -> bool:
    """Whether the outline holds its description some weeks on: cut as it is set, or fuller by what grew."""
    return any(not broken_on(outline, depth) for depth in left_after(outline, weeks))


def left_after(outline: Outline, weeks: float) -> tuple[Array, Array]:
    """Depths (V,) mm that the outline leaves in the coat as it will stand some weeks on: as it is set, and with all
    that is scissored longer by what grew."""
    ground = outline.ground
    cover, none = outline.cover, np.zeros(len(outline.cover))
    ceiling = np.where(ground.bare, 0.0, _grown(ground, ground.ceiling_mm, weeks))
    fuller = np.where(outline.covered, outline.wanted_mm, _grown(ground, outline.leave_mm, weeks))
    free = ground.free_mm(outline.design)
    set_so, grown = (
        room_left(Wanted(wanted, none, outline.covered, cover), ground.floor_mm, ceiling, free)
        for wanted in (outline.wanted_mm, fuller)
    )
    return set_so, grown


def _grown(ground: Ground, depth_mm: Array, weeks: float) -> Array:
    """Depth (V,) mm of hair as it will stand some weeks on."""
    stand = ground.coat.stand
    return depth_of(length_of(depth_mm, stand) + growth_mm(weeks, ground.coat_type), stand)
