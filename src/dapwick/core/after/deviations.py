"""How far a finished head lies off its plan, place by place and zone by zone.

Where a silhouette ray grazes the planned surface, the edge of a finished photo shows how far the true surface stands
off it: one reading along the hair. A reading is the sum of what the hand left too long or too short, of how far the
skin was misjudged, of how the photo's camera leans (which moves a whole side at once), of where hair is taken to end,
and of noise. All but the last are Gaussian quantities with priors of their own and found together (Rasmussen and
Williams, 2006, ch. 2), so that errors which many readings share do not pass for many readings. A comb pushed to the
skin reads the hair alone, wherever skin and camera are: what no photo can tell, it does.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Final

import numpy as np
from scipy.linalg import cho_factor, cho_solve
from scipy.spatial.distance import cdist

from dapwick.core.after.cameras import MOVES
from dapwick.core.after.readings import (
    SEEN_WITHIN_MM,
    SIDES,
    CutComb,
    FinishedPhoto,
    Read,
    Spot,
    combed_on,
    newest,
    read_photo,
    sides_of,
    spot_at,
    thinned,
)
from dapwick.core.basics.arrays import Array, BoolArray, IntArray, frozen
from dapwick.core.head.silhouettes import outside_of
from dapwick.core.head.zones import BARE, ZONES, Side
from dapwick.core.outlines.fit import Outline

VERSION: Final = "check-3"
STRAY_MM: Final = 0.5
"""How far a photo's whole edge lies off for loose hairs and where it was taken to end (σ)."""
ENDS_MM: Final = 2.0
"""How far all photos of a head may lie off together, for where hair is taken to end (σ)."""
HAND_MM, ZONE_MM, LOCAL_MM = 1.2, 1.3, 1.3
"""How far a hand strays: over the whole head, over a zone of one side, and within it (σ)."""
SLIPS_DOF: Final = 4.0
"""Most zones are as the hand leaves them, one now and then is far off: zones stray as Student's t with so many degrees
of freedom."""
FIRST_MM: Final = 3.0
"""How far zones are let stray at first (σ), before they say so themselves: begun with less, a camera that leans would
explain what one zone has too much."""
ROUNDS, SLIP_ROUNDS = 3, 4
"""So often cameras are moved by what the edges say, and what strays is weighed anew."""
FREE_MM: Final = 6.0
"""How far a zone may lie off while it is told itself (σ)."""
LEAST_MM: Final = 0.3
WIDER: Final = 1.35
"""So much wider than the model itself tells are the zones' σ: heads of other makers show what it does not know of
(necks beside cheeks, bone misjudged together); docs/check.md says how well they hold."""
CONTESTED: Final = 1.8
"""A photo that lies so many σ off what all of them tell contests a zone."""
LOCAL_REACH_MM: Final = 12.0
SKIN_REACH_MM, SKIN_SIDES_ALIKE = 18.0, 0.9
FEWEST: Final = 4
CAMERA_DOUBT: Final = 1.2
"""So much more a camera's variance is than its marks tell: their bone is off together, not each by itself."""
WILD: Final = 6.0
"""Readings so many σ off what the rest say are something else's edge."""
NOWHERE: Final = np.zeros(0, np.intp)
DISAGREES, AGREES = 1.5, 0.7
"""Photos whose readings fit so badly are tried with each of them left out, and one is where that helps so much."""


@dataclass(frozen=True)
class ZoneOff:
    """A zone of one side: how far (mm, over the skin) its surface stands off the plan, long more than 0, and what of
    that is hair; σ of both; apart_sigma: of how far its surface differs from the other side's, None where that was not
    seen; contested: some photo tells quite another thing of it; places (K,) vertices of it that were seen, all of them
    where a comb told; combed: one did, so that its hair is known whatever its surface is; pictured: photos show its
    surface."""

    zone: str
    side: Side
    surface_mm: float
    surface_sigma: float
    hair_mm: float
    hair_sigma: float
    apart_sigma: float | None
    contested: bool
    places: IntArray
    combed: bool = False
    pictured: bool = True

    @property
    def told_mm(self) -> float:
        """How far off it is told: what a comb knows of the hair, else what photos show of the surface."""
        return self.hair_mm if self.combed else self.surface_mm

    @property
    def told_sigma(self) -> float:
        return self.hair_sigma if self.combed else self.surface_sigma


@dataclass(frozen=True)
class Deviations:
    """zones: those that photos saw; unseen: (zone, side) that none did. surface_mm, sigma_mm (V,): of every vertex,
    nan where none was read. left_out: photos that tell another head than the rest; disputed: spots where a comb told
    what photos contradict, and does not count; combs: all that were pushed in."""

    outline: Outline
    zones: tuple[ZoneOff, ...]
    unseen: tuple[tuple[str, Side], ...]
    surface_mm: Array
    sigma_mm: Array
    readings: int
    left_out: tuple[str, ...] = ()
    disputed: tuple[tuple[str, Side, Spot], ...] = ()
    combs: tuple[CutComb, ...] = ()
    version: str = VERSION

    def of(self, zone: str, side: str) -> ZoneOff | None:
        return next((z for z in self.zones if (z.zone, z.side) == (zone, side)), None)

    def other(self, zone: ZoneOff) -> ZoneOff | None:
        """The same zone of the other side."""
        return self.of(zone.zone, "right" if zone.side == "left" else "left")

    def pushed(self, zone: str, side: Side) -> tuple[Spot, ...]:
        """The spots of a zone of one side that were combed."""
        return tuple(one.spot for one in self.combs if one.zone == zone and side in sides_of(one))


def deviations(
    outline: Outline, photos: Sequence[FinishedPhoto], combs: Sequence[CutComb] = ()
) -> Deviations:
    """What finished photos, and combs pushed to the skin since, tell of a head that was cut to an outline. Mirrored or
    other dogs' photos have no camera and never come here; one that tells quite another head than the rest is left
    out."""
    field, misfit = _found(outline, photos)
    left_out: tuple[str, ...] = ()
    if len(photos) > 2 and misfit > DISAGREES:
        without = [_found(outline, [p for p in photos if p is not one]) for one in photos]
        best = min(range(len(photos)), key=lambda i: without[i][1])
        if without[best][1] < AGREES * misfit:
            field, left_out = without[best][0], (photos[best].name,)
    return field.summed(left_out, tuple(combs))


def _found(outline: Outline, photos: Sequence[FinishedPhoto]) -> tuple[_Field, float]:
    """The field that explains the photos, cameras moved by what the edges say of them, and how badly readings went
    together at the worst before wild ones were set aside."""
    planned = outside_of(outline.ground.skin, outline.leave_mm)
    moved_by = np.zeros((len(photos), MOVES))
    cameras = [CAMERA_DOUBT * p.found.covariance for p in photos]
    zone_var = np.full(2 * len(ZONES), FIRST_MM**2)
    misfit = 0.0
    for _ in range(ROUNDS):
        parts = [
            read_photo(outline, i, p, planned, by)
            for i, (p, by) in enumerate(zip(photos, moved_by, strict=True))
        ]
        everything = read = thinned(outline, newest(outline, parts, [p.taken for p in photos]))
        for again in range(SLIP_ROUNDS):
            field = _Field(outline, read, cameras, zone_var)
            misfit = misfit if again else max(misfit, field.misfit)
            read, zone_var = read.only(~field.wild()), field.strayed()
        field = _Field(outline, read, cameras, zone_var)
        moved_by = field.moves()
    field.everything = everything
    return field, misfit


def _told_of(by_photos: list[ZoneOff], with_combs: list[ZoneOff]) -> list[ZoneOff]:
    """Both sides of a zone: its surface as photos show it, its hair as a comb tells it where one was pushed in."""
    told = {zone.side: zone for zone in by_photos}
    for zone in with_combs:
        if zone.combed and zone.side in told:
            told[zone.side] = replace(
                told[zone.side], hair_mm=zone.hair_mm, hair_sigma=zone.hair_sigma, combed=True
            )
        elif zone.combed:
            told[zone.side] = zone
    return [told[side] for side in SIDES if side in told]


class _Field:
    """The readings of a head and what explains them."""

    def __init__(self, outline: Outline, read: Read, cameras: Sequence[Array], zone_var: Array) -> None:
        self.outline, self.read, self.cameras, self.zone_var = outline, read, cameras, zone_var
        self.everything = read
        """With the readings that were set aside as wild."""
        skin = outline.ground.skin
        self.places, self.skin_sigma = skin.vertices_mm, skin.sigma_mm
        # A side of its own: the middle line belongs to the half it lies in.
        self.cell = 2 * skin.template.zone + (skin.vertices_mm[:, 0] > 0)
        camera = sum(
            (self._of_photo(i) @ covariance @ self._of_photo(i).T for i, covariance in enumerate(cameras)),
            np.zeros((len(read.at), len(read.at))),
        )
        same = read.photo[:, None] == read.photo
        seen = ~read.combed
        both = seen[:, None] & seen
        noise = np.diag(read.sigma**2) + (STRAY_MM**2 * same + ENDS_MM**2) * both + camera
        self.heard = self.hair(read.at, read.at) + self.skin(read.at, read.at) * both + noise
        self.factor = cho_factor(self.heard) if len(read.at) else None

    def _of_photo(self, number: int) -> Array:
        return np.where(self.read.photo[:, None] == number, self.read.leans, 0.0)

    def hair(self, a: IntArray, b: IntArray) -> Array:
        """Covariance (A, B) of what a hand leaves too long, between vertices."""
        cell = self.cell[a][:, None] == self.cell[b]
        near = np.exp(-0.5 * cdist(self.places[a], self.places[b], "sqeuclidean") / LOCAL_REACH_MM**2)
        return np.asarray(HAND_MM**2 + self.zone_var[self.cell[a]][:, None] * cell + LOCAL_MM**2 * near)

    def strayed(self) -> Array:
        """How far (Z,) each zone of a side may stray, mm², after what is found of it: variational Student's t."""
        cells = np.arange(len(self.zone_var))
        across = self.zone_var[:, None] * (self.cell[self.read.at] == cells[:, None])
        left = self.zone_var.copy()
        off = np.zeros(len(cells))
        if self.factor is not None:
            off = across @ self.told
            left = left - (across * cho_solve(self.factor, across.T).T).sum(axis=1)
        return np.asarray((SLIPS_DOF * ZONE_MM**2 + off**2 + left) / (SLIPS_DOF + 1.0))

    def skin(self, a: IntArray, b: IntArray) -> Array:
        """Covariance (A, B) of how far the skin was misjudged."""
        other = self.places[b] * [-1.0, 1.0, 1.0]
        near, mirrored = (
            np.exp(-0.5 * cdist(self.places[a], p, "sqeuclidean") / SKIN_REACH_MM**2)
            for p in (self.places[b], other)
        )
        own = [
            np.sqrt(1.0 + SKIN_SIDES_ALIKE * np.exp(-0.5 * (2 * self.places[i, 0]) ** 2 / SKIN_REACH_MM**2))
            for i in (a, b)
        ]
        alike = (near + SKIN_SIDES_ALIKE * mirrored) / (own[0][:, None] * own[1])
        return np.asarray(alike * self.skin_sigma[a][:, None] * self.skin_sigma[b])

    def moves(self) -> Array:
        """How far (photos, MOVES) each camera is off where its marks put it."""
        return np.array([-c @ self._of_photo(i).T @ self.told for i, c in enumerate(self.cameras)])

    @cached_property
    def told(self) -> Array:
        return np.asarray(cho_solve(self.factor, self.read.mm)) if self.factor else np.zeros(0)

    def wild(self) -> BoolArray:
        """Readings (R,) that the others contradict, left out one by one (their own leverage taken off)."""
        if self.factor is None:
            return np.zeros(0, bool)
        inverse = cho_solve(self.factor, np.eye(len(self.read.at)))
        own = np.diag(inverse)
        return np.asarray(np.abs(self.told / own) > WILD / np.sqrt(own))

    @property
    def misfit(self) -> float:
        """How badly the readings go together: about 1 where they do as their σ say."""
        return float(self.read.mm @ self.told) / max(len(self.read.mm), 1)

    def summed(self, left_out: tuple[str, ...], combs: tuple[CutComb, ...]) -> Deviations:
        """What is told of every zone, by photos and by combs, each of the place where it went in and of no other:
        scissored by eye, hair is long wherever skin lies deeper than measured, and says nothing of its neighbours."""
        combed = combed_on(self.outline, combs)
        with_combs = self._with(combed) if len(combed.at) else self
        skin = self.outline.ground.skin
        pushed_in = {ZONES[i] for i in skin.template.zone[combed.at].tolist()}
        zones = [
            zone
            for name in ZONES
            if name != BARE
            for zone in _told_of(self._zone(name), with_combs._zone(name) if name in pushed_in else [])
        ]
        surface, sigma = self._everywhere(np.concatenate([NOWHERE, *(z.places for z in zones)]))
        names = {(z.zone, z.side) for z in zones}
        unseen = tuple((z, s) for z in ZONES if z != BARE for s in SIDES if (z, s) not in names)
        return Deviations(
            self.outline, tuple(zones), unseen, frozen(surface), frozen(sigma), len(with_combs.read.at), left_out,
            with_combs._disputed(combs), combs,
        )  # fmt: skip

    def _with(self, combed: Read) -> _Field:
        """The same with what combs found, but where photos contradict it."""
        everything = Read.together([self.read, combed])
        field = _Field(self.outline, everything, self.cameras, self.zone_var)
        field = _Field(
            self.outline, everything.only(~(field.wild() & everything.combed)), self.cameras, self.zone_var
        )
        field.everything = Read.together([self.everything, combed])
        return field

    @cached_property
    def _seen(self) -> BoolArray:
        """Vertices (V,) near which something was read."""
        if not len(self.read.at):
            return np.zeros(len(self.places), bool)
        return np.asarray(cdist(self.places, self.places[self.read.at]).min(axis=1) < SEEN_WITHIN_MM)

    def _disputed(self, combs: Sequence[CutComb]) -> tuple[tuple[str, Side, Spot], ...]:
        """Spots where a comb was set aside as wild."""
        pushed = self.everything.at[self.everything.combed]
        aside = pushed[~np.isin(pushed, self.read.at[self.read.combed])]
        spots = [(one.zone, side, one.spot) for one in combs if one.zone in ZONES for side in sides_of(one)]
        return tuple(spot for spot in spots if spot_at(self.outline.ground.skin, *spot) in aside)

    def _zone(self, zone: str) -> list[ZoneOff]:
        """Both sides of a zone as far as they were seen, told by their own readings: what is expected of a hand
        elsewhere in the head does not draw them in."""
        skin = self.outline.ground.skin
        sides = [(s, at, self._combed_in(at)) for s in SIDES for at in [skin.in_zone(zone, s)]]
        sides = [(s, at, comb) for s, at, comb in sides if comb or self._pictured(at)]
        if not sides:
            return []
        places = [at if comb else at[self._seen[at]] for _, at, comb in sides]
        free = self.zone_var.copy()
        free[self.cell[np.concatenate(places)]] = FREE_MM**2
        freed = _Field(self.outline, self.read, self.cameras, free)
        hair, hair_var = freed.means(places, with_skin=False)
        both, both_var = freed.means(places, with_skin=True)
        apart = (
            float(np.sqrt(both_var[0, 0] + both_var[1, 1] - 2 * both_var[0, 1])) if len(sides) > 1 else None
        )
        return [
            ZoneOff(
                zone, side, float(both[i]), WIDER * float(np.sqrt(both_var[i, i])), float(hair[i]),
                WIDER * float(np.sqrt(hair_var[i, i])), WIDER * apart if apart else None,
                self._contested(at, float(both[i]), float(np.sqrt(both_var[i, i]))), places[i], comb,
                self._pictured(at),
            )
            for i, (side, at, comb) in enumerate(sides)
        ]  # fmt: skip

    def _pictured(self, zone: IntArray) -> bool:
        return bool(np.isin(self.read.at[~self.read.combed], zone).sum() >= FEWEST)

    def _combed_in(self, zone: IntArray) -> bool:
        return bool(np.isin(self.read.at[self.read.combed], zone).any())

    def _heard_at(self, at: IntArray, skin_share: float) -> Array:
        """Covariance (A, R) of places with the readings; combs say nothing of the skin."""
        return self.hair(at, self.read.at) + skin_share * self.skin(at, self.read.at) * ~self.read.combed

    def _contested(self, zone: IntArray, mm: float, sigma: float) -> bool:
        """Whether some photo, taken by itself, tells quite another thing of a zone than all of them together."""
        every = self.everything.only(~self.everything.combed)
        here = np.isin(every.at, zone)
        leant = (
            every.mm + (every.leans * self.moves()[every.photo]).sum(axis=1) if len(every.at) else every.mm
        )
        told = [leant[here & (every.photo == k)] for k in range(len(self.cameras))]
        apart = CONTESTED * max(sigma, LOCAL_MM)
        return any(len(one) >= FEWEST and abs(float(np.median(one)) - mm) > apart for one in told)

    def means(self, groups: Sequence[IntArray], with_skin: bool) -> tuple[Array, Array]:
        """What is told (G,) of the means over groups of places, of hair or of hair and skin, and the covariance (G, G)
        that is left."""
        share = 1.0 if with_skin else 0.0
        across = np.array([self._heard_at(at, share).mean(axis=0) for at in groups])
        own = np.array([[(self.hair(a, b) + share * self.skin(a, b)).mean() for b in groups] for a in groups])
        left = own - across @ cho_solve(self.factor, across.T)
        return across @ self.told, left + LEAST_MM**2 * np.eye(len(groups))

    def _everywhere(self, at: IntArray) -> tuple[Array, Array]:
        surface, sigma = (np.full(len(self.places), np.nan) for _ in range(2))
        if self.factor is None or not len(at):
            return surface, sigma
        across = self._heard_at(at, 1.0)
        own = HAND_MM**2 + self.zone_var[self.cell[at]] + LOCAL_MM**2 + self.skin_sigma[at] ** 2
        surface[at] = across @ self.told
        left = own - (across * cho_solve(self.factor, across.T).T).sum(axis=1)
        sigma[at] = np.sqrt(np.maximum(left, 0.1))
        return surface, sigma
