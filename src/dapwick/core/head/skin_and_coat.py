"""Skin and coat of one head in one problem.

A dry photo's edge shows how far skin and coat stand out together, a comb how deep the coat is, a wet photo's edge the
skin under hair that lies flat: each reading is a sum of the two, and where comb and edge meet, what is left is the
skin. Both are Gaussian processes over the template (head/gaussian_process.py) around the warp to the marks and the coat
that is usual. Which skin is seen edge-on depends on the coat's own shape, so the places where edges are read are found
anew on the surface that the last round found.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Final

import numpy as np

from dapwick.core.basics.arrays import Array, BoolArray, frozen
from dapwick.core.basics.errors import BadInput
from dapwick.core.head.coat import (
    TUFTS_MM,
    Coat,
    CoatProbe,
    expected_depth_mm,
    probe_readings,
    stand_of,
)
from dapwick.core.head.gaussian_process import Kernel, Posterior, Readings, merged, posterior_from
from dapwick.core.head.silhouettes import DRY_EARS, WET_EARS, Edge, RimSamples, outside_of, rim_samples
from dapwick.core.head.skin import Skin, skin_of, vertex_normals
from dapwick.core.head.stand import STAND_FACTOR
from dapwick.core.head.wet import FARTHEST_OFF_MM, wet_readings, wet_thickness_mm
from dapwick.core.head.zones import BARE, ZONES
from dapwick.core.solve.joint import HeadSolution

MORE_ROUNDS: Final = 1
"""So often the places that edges show are found anew."""
EDGE_SIGMA_MM: Final = 2.5
CAMERA_SIGMA_MM: Final = 2.0
"""How far a photo's whole edge may be shifted by its camera's uncertainty."""
STANDS_OUT_MM: Final = 1.5
"""Hair still stands where half of the background shows through and an edge is drawn: a comb finds it about so much
farther out,"""
ENDS_SIGMA_MM: Final = 2.5
"""more or less (σ) as this dog's hair ends, soft or in a hard rim: the same in all its photos. Depth is what a comb
finds, so combs tell it."""
EDGES: Final = 1
SKIN_REACH_MM, COAT_REACH_MM = 18.0, 24.0
"""How far along the skin one reading still tells of its neighbour."""
SKIN_SIDES_ALIKE, COAT_SIDES_ALIKE = 0.9, 0.75
FINER_SHAPE_MM: Final = 1.0
"""How far skin strays between two readings, whatever they say (σ)."""
VARIES_MM: Final = dict.fromkeys(ZONES, 8.0) | {
    "jaw": 16.0, "throat": 16.0, "nape": 11.0, "cheek": 10.0, "temple": 10.0, "stop": 13.0, "inner_corner": 13.0,
    "bridge": 13.0,
}  # fmt: skip
"""How much a coat's depth differs from the usual from dog to dog (σ): more where hair hangs, and where some dogs are
clean and others furnished."""
CLEAN: Final = ("stop", "inner_corner", "bridge", "bare")
APART_MM: Final = 40.0
LONG_OR_SHORT: Final = 0.4
"""Share by which a whole coat may be longer or shorter than expected (σ)."""
STILL_UNKNOWN: Final = 0.6
"""A coat is read where edges and combs leave less than this share of how unknown its outside was (σ)."""
SKIN, COAT = 0, 1


@dataclass(frozen=True)
class Seen:
    """A head, its warped skin, how far off (2, V) skin and coat are expected, and how both may differ from that. stand,
    stand_sigma (V,)."""

    head: HeadSolution
    skin: Skin
    usual: Array
    stand: Array
    stand_sigma: Array
    like: tuple[Kernel, Kernel]


def skin_and_coat(
    head: HeadSolution,
    coat_type: str,
    dry: Sequence[Edge],
    probes: Sequence[CoatProbe] = (),
    wet: Sequence[Edge] = (),
) -> tuple[Skin, Coat]:
    """The skin and the coat over it from marks, edges of dry and wet photos and combs. BadInput: an unknown coat."""
    if coat_type not in STAND_FACTOR:
        raise BadInput("unknown coat", expected=", ".join(STAND_FACTOR), got=coat_type, where="dog")
    warped = skin_of(head)
    usual = np.stack([np.zeros(len(warped.sigma_mm)), expected_depth_mm(warped)])
    base = Seen(head, warped, usual, *stand_of(warped, coat_type, probes), _alike(warped))
    combed = [probe_readings(warped, p) for p in probes if p.zone in ZONES]
    known = _told(base, [*_of_edges(base, dry, wet, base.usual), *combed])
    for _ in range(MORE_ROUNDS if dry or wet else 0):
        known = _told(base, [*_of_edges(base, dry, wet, _off(base, known)), *combed])
    return _set_right(base, _off(base, known), known, combed_at(warped, probes))


def _told(base: Seen, parts: Sequence[Readings]) -> Posterior:
    return posterior_from(places_mm(base.skin), merged(base.skin.vertices_mm, parts, 2), *base.like)


def _off(base: Seen, known: Posterior) -> Array:
    """How far (2, V) the skin lies off the warp, and how deep the coat is."""
    off = known.value(base.usual)
    off[COAT] = np.maximum(off[COAT], 0.0)
    return off


def places_mm(skin: Skin) -> Array:
    """Where each vertex lies for the readings (V, 4): in space, and the clean face apart from the rest, whose coat says
    little of it."""
    clean = np.isin(skin.template.zone, [ZONES.index(z) for z in CLEAN])
    return np.column_stack([skin.vertices_mm, np.where(clean, APART_MM, 0.0)])


def dry_readings(seen: RimSamples, one_sided: bool = True) -> Readings:
    """Skin and coat together, read off a dry silhouette."""
    sigma = EDGE_SIGMA_MM * seen.slant
    off = seen.off_mm + STANDS_OUT_MM
    return Readings(seen.at, off, sigma, CAMERA_SIGMA_MM, one_sided, (1.0, 1.0), EDGES, ENDS_SIGMA_MM)


def _alike(skin: Skin) -> tuple[Kernel, Kernel]:
    usual = expected_depth_mm(skin)
    varies = np.array([VARIES_MM[z] for z in ZONES])[skin.template.zone]
    return (
        Kernel(skin.sigma_mm, SKIN_REACH_MM, SKIN_SIDES_ALIKE),
        Kernel(varies, COAT_REACH_MM, COAT_SIDES_ALIKE, LONG_OR_SHORT * usual),
    )


def _of_edges(base: Seen, dry: Sequence[Edge], wet: Sequence[Edge], off: Array) -> list[Readings]:
    """What edges tell where skin lies `off[SKIN]` from the warp and the coat `off[COAT]` over it."""
    head, skin = base.head, base.skin
    found = []
    if dry:
        worn = outside_of(skin, off.sum(axis=0))
        found += [dry_readings(rim_samples(head, skin, edge, worn, DRY_EARS)) for edge in dry]
    if wet:
        cover = wet_thickness_mm(off[COAT], base.stand)
        worn = outside_of(skin, off[SKIN] + cover)
        # A clean face's hair is no flatter wet than dry: its dry edges tell, and its wet ones would only mislead about
        # how thick the wet coat lies elsewhere.
        seen = [rim_samples(head, skin, edge, worn, WET_EARS, FARTHEST_OFF_MM, CLEAN) for edge in wet]
        found.append(wet_readings(_as_one(seen), cover, off[COAT]))
    return found


def _as_one(seen: Sequence[RimSamples]) -> RimSamples:
    return RimSamples(
        np.concatenate([s.at for s in seen]),
        np.concatenate([s.off_mm for s in seen]),
        np.concatenate([s.slant for s in seen]),
    )


def combed_at(skin: Skin, probes: Sequence[CoatProbe]) -> BoolArray:
    """Vertices (V,) of the zones a comb was pushed into: it tells of its whole zone."""
    found = np.zeros(len(skin.sigma_mm), dtype=bool)
    for probe in probes:
        if probe.zone in ZONES:
            found[skin.in_zone(probe.zone, probe.side)] = True
    return found


def _outside_before(base: Seen) -> Array:
    """How well (V,) the coat's outside is known before anything is read (σ, mm)."""
    return np.asarray(np.sqrt(sum(like.sigma_mm**2 + like.whole**2 for like in base.like)))


def _set_right(base: Seen, off: Array, known: Posterior, combed: BoolArray) -> tuple[Skin, Coat]:
    warped, together = base.skin, known.covariance()
    skin_var, coat_var, both = together[:, SKIN, SKIN], together[:, COAT, COAT], together[:, SKIN, COAT]
    vertices = warped.vertices_mm + off[SKIN][:, None] * warped.outward
    skin = replace(
        warped,
        vertices_mm=frozen(vertices),
        outward=frozen(vertex_normals(vertices, warped.template)),
        sigma_mm=frozen(np.sqrt(skin_var + FINER_SHAPE_MM**2)),
    )
    bare = warped.template.zone == ZONES.index(BARE)
    outside = np.maximum(skin_var + coat_var + 2 * both, 0.0) + TUFTS_MM**2
    told = known.readings.of[COAT] > 0.99
    return skin, Coat(
        frozen(np.where(bare, 0.0, off[COAT])),
        frozen(np.where(bare, 0.5, np.sqrt(coat_var + TUFTS_MM**2))),
        frozen(np.where(bare, 0.5, np.sqrt(outside))),
        frozen(np.where(bare, 0.0, both / np.sqrt(skin_var * coat_var))),
        frozen(base.stand),
        frozen(base.stand_sigma),
        int(told.sum()),
        combed | (np.sqrt(outside) < STILL_UNKNOWN * _outside_before(base)),
        known,
    )
