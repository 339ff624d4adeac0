"""Heads without end: made up from what is expected of dogs' bone and coats, the same number always the same head.

Bone is drawn from the prior that measuring starts from, the skin between the marks and the coat on it from the
processes that tell how unsure both are; so a head that is made is one that the product would believe.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any, Final

import numpy as np
from scipy.spatial.distance import cdist

from dapwick.core.basics.arrays import Array, frozen
from dapwick.core.basics.camera import Camera, nominal_rotation
from dapwick.core.basics.frame import into_head_frame
from dapwick.core.basics.head_kind import Carriage, Muzzle
from dapwick.core.basics.marks import INDEX, MARK_IDS, PAIRS, View, guided_order
from dapwick.core.head.coat import Coat, CoatProbe, expected_depth_mm
from dapwick.core.head.ears import ears_of
from dapwick.core.head.skin import Skin, between_marks_mm, members, smoothed, vertex_normals
from dapwick.core.head.skin_and_coat import skin_and_coat
from dapwick.core.head.stand import length_of
from dapwick.core.head.zones import BARE, ZONES
from dapwick.core.outlines.ground import Ground
from dapwick.core.solve.joint import HeadSolution, Unsolved, solve_head
from dapwick.core.solve.observations import HandMeasure, HeadInput, PhotoMarks, PlacedMark
from dapwick.core.solve.prior import prior_for

VERSION: Final = "heads-1"
BONE_SHARE: Final = 0.45
"""Of how far dogs stray from the mean: the prior is wide on purpose, and a head made of all of it looks like none."""
UNEVEN_SHARE: Final = 0.35
"""Of how far the two sides of a drawn bone differ: most dogs are nearly even."""
SKIN_SHARE: Final = 0.35
COAT_SPREAD: Final = 0.2
"""A coat is so much longer or shorter as a whole (σ of its logarithm), and half of that from place to place."""
STANDS: Final[Mapping[str, float]] = {"fine_drop": 0.5, "harsh": 0.8}
"""How deep a coat of this type stands against the usual depth: what hangs is long enough when it is half as deep."""
COAT_ROUNDS: Final = 5
"""So often depths are evened out with their neighbours', lest a coat steps where zones meet."""
REACH_MM: Final = 24.0
KNOTS: Final = 90
MUZZLES: Final[tuple[Muzzle, ...]] = ("short", "medium", "long")
EARS: Final[tuple[Carriage, ...]] = ("prick", "button", "drop")
COATS: Final = ("curl", "standing", "wavy", "fine_drop", "harsh")
TAKEN: Final[tuple[View, ...]] = ("front", "left", "right", "top")
AWAY_MM, FOCAL_PX, WIDE_PX, HIGH_PX = 900.0, 2400.0, 1200, 900
KNOWN_MM: Final = 0.3
"""How well a made head is known (σ): its truth is what it was made of."""
TUFTS_MM: Final = 1.0


@dataclass(frozen=True)
class Wanted:
    """What kind of head is wanted. coat_share: how long its coat is against the usual; uneven: how uneven its bone
    is, as a share of what is drawn."""

    muzzle: Muzzle
    ears: Carriage
    coat_type: str
    coat_share: float = 1.0
    uneven: float = UNEVEN_SHARE


@dataclass(frozen=True)
class MadeHead:
    """A head with known truth. ground: what outlines are fitted on, told as surely as truth is."""

    seed: int
    wanted: Wanted
    ground: Ground
    version: str = VERSION

    @property
    def head(self) -> HeadSolution:
        return self.ground.head

    def at(self, mark: str) -> Array:
        """Where a mark truly lies (3,) mm, head frame."""
        return self.ground.face.at(mark)

    def now_mm(self, zone: str) -> float:
        """Hair length in a zone, as a comb would find it."""
        at = members(zone, None)
        return float(np.mean(length_of(self.ground.coat.depth_mm[at], self.ground.coat.stand[at])))


def some_kind(seed: int, **given: Any) -> Wanted:
    """A kind of head, drawn; given: what of it is fixed."""
    rng = np.random.default_rng([seed, 1])
    drawn: dict[str, Any] = {
        "muzzle": MUZZLES[int(rng.integers(len(MUZZLES)))],
        "ears": EARS[int(rng.integers(len(EARS)))],
        "coat_type": COATS[int(rng.integers(len(COATS)))],
        "coat_share": float(rng.uniform(0.8, 1.5)),
    }
    return Wanted(**(drawn | given))


def made_head(seed: int, wanted: Wanted) -> MadeHead:
    """The head of this number and kind."""
    rng = np.random.default_rng([seed, 2])
    head = _measured(_bone(rng, wanted), wanted)
    skin, coat = skin_and_coat(head, wanted.coat_type, (), _combed(wanted))
    skin = _own_skin(skin, rng)
    coat = _own_coat(coat, skin, rng, wanted.coat_share * STANDS.get(wanted.coat_type, 1.0))
    ground = Ground(head, skin, coat, ears_of(head, _ear_combs(rng, wanted)), wanted.coat_type)
    return MadeHead(seed, wanted, ground)


def _bone(rng: np.random.Generator, wanted: Wanted) -> Array:
    """Marks (marks, 3) mm, head frame."""
    prior = prior_for(wanted.muzzle, wanted.ears)
    drawn = BONE_SHARE * np.linalg.cholesky(prior.covariance) @ rng.standard_normal(prior.mean_mm.size)
    off = drawn.reshape(-1, 3)
    mirrored = off.copy()
    for left, right in PAIRS:
        mirrored[left], mirrored[right] = off[right] * [-1, 1, 1], off[left] * [-1, 1, 1]
    paired = [i for pair in PAIRS for i in pair]
    midline = [i for i in range(len(MARK_IDS)) if i not in paired]
    mirrored[midline, 0] = -off[midline, 0]
    even, uneven = (off + mirrored) / 2, (off - mirrored) / 2
    size = float(np.exp(0.12 * rng.standard_normal()))
    return np.asarray(into_head_frame(size * prior.mean_mm + even + wanted.uneven * uneven))


def _measured(points_mm: Array, wanted: Wanted) -> HeadSolution:
    """The head as it would be measured by somebody who errs nowhere."""
    photos = tuple(_photo(view, points_mm) for view in TAKEN)
    across = float(np.linalg.norm(points_mm[INDEX["cheek_left"]] - points_mm[INDEX["cheek_right"]]))
    given = HeadInput(
        photos,
        (HandMeasure("cheek_left", "cheek_right", across, 0.1),),
        muzzle=wanted.muzzle,
        ears=wanted.ears,
    )
    found = solve_head(given)
    if isinstance(found, Unsolved):
        raise AssertionError("a made head must be solvable: " + " ".join(f.message for f in found.findings))
    covariance = KNOWN_MM**2 * np.eye(3 * len(MARK_IDS))
    return replace(found, points_mm=frozen(points_mm), covariance=frozen(covariance), findings=())


def camera_for(view: View, points_mm: Array) -> Camera:
    """A camera that looks straight at a head from a pace away."""
    rotation = nominal_rotation(view)
    middle = points_mm.mean(axis=0)
    return Camera(rotation, np.array([0, 0, AWAY_MM]) - rotation @ middle, FOCAL_PX, WIDE_PX, HIGH_PX)


def _photo(view: View, points_mm: Array) -> PhotoMarks:
    camera = camera_for(view, points_mm)
    places = camera.project(points_mm)
    marks: Mapping[str, PlacedMark] = {
        mark: PlacedMark(float(x), float(y), sigma_px=0.5)
        for mark in guided_order(view)
        for x, y in (places[INDEX[mark]],)
    }
    return PhotoMarks(view, view, WIDE_PX, HIGH_PX, marks, focal_px=FOCAL_PX, focal_sigma=0.001)


def _combed(wanted: Wanted) -> list[CoatProbe]:
    """Combs in every zone: nothing of the coat is left to be guessed."""
    return [CoatProbe(zone, side, 20.0) for zone in ZONES if zone != BARE for side in ("left", "right")]


def _smooth(places_mm: Array, rng: np.random.Generator) -> Array:
    """A smooth random field (V,) over places, of unit spread, alike on both sides but for a little."""
    knots = places_mm[rng.choice(len(places_mm), KNOTS, replace=False)]
    both = np.concatenate([knots, knots * [-1, 1, 1]])
    each = rng.standard_normal(KNOTS)
    weight = np.concatenate([each, 0.9 * each + 0.1 * rng.standard_normal(KNOTS)])
    near = np.exp(-0.5 * cdist(places_mm, both, "sqeuclidean") / REACH_MM**2)
    return np.asarray(near @ weight / np.sqrt((near**2).sum(axis=1)))


def _own_skin(skin: Skin, rng: np.random.Generator) -> Skin:
    off = SKIN_SHARE * between_marks_mm() * _smooth(skin.vertices_mm, rng)
    vertices = skin.vertices_mm + off[:, None] * skin.outward
    return Skin(
        frozen(vertices),
        frozen(vertex_normals(vertices, skin.template)),
        frozen(np.full(len(vertices), KNOWN_MM)),
        skin.template,
    )


def _own_coat(coat: Coat, skin: Skin, rng: np.random.Generator, share: float) -> Coat:
    longer = share * np.exp(
        COAT_SPREAD * rng.standard_normal() + COAT_SPREAD / 2 * _smooth(skin.vertices_mm, rng)
    )
    bare = skin.template.zone == ZONES.index(BARE)
    depth = np.where(bare, 0.0, longer * smoothed(expected_depth_mm(skin), COAT_ROUNDS))
    everywhere = np.ones(len(depth))
    return replace(
        coat,
        depth_mm=frozen(depth),
        sigma_mm=frozen(KNOWN_MM * everywhere),
        outside_sigma_mm=frozen(TUFTS_MM * everywhere),
        with_skin=frozen(0.0 * everywhere),
        read=everywhere > 0,
    )


def _ear_combs(rng: np.random.Generator, wanted: Wanted) -> list[CoatProbe]:
    longer = wanted.coat_share * float(np.exp(COAT_SPREAD * rng.standard_normal()))
    return [
        CoatProbe(zone, side, mm * longer)
        for zone, mm in (("ear_outside", 14.0), ("ear_edge", 16.0))
        for side in ("left", "right")
    ]
