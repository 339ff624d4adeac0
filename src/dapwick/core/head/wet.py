"""The skin set right by wet photos, whose hair lies flat."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from typing import Final

import numpy as np

from dapwick.core.basics.arrays import Array, IntArray, frozen
from dapwick.core.head.coat import Coat
from dapwick.core.head.gaussian_process import Kernel, Merged, Posterior, Readings, merged, posterior_from
from dapwick.core.head.silhouettes import WET_EARS, Edge, RimSamples, rim_samples
from dapwick.core.head.skin import Skin, vertex_normals
from dapwick.core.head.stand import length_of
from dapwick.core.solve.joint import HeadSolution

WET_OFFSET_MM: Final = 2.0
"""How far wet hair, combed flat, stands off the skin at least."""
WET_SHARE: Final = 0.15
"""and as a share of its length: what lies over one place is what grows before it."""
WET_OFFSET_SIGMA_MM: Final = 2.0
STILL_OFF_MM: Final = 3.0
"""How far all of the skin may still lie off as one (σ): wet coats lie thicker or thinner from dog to dog."""
EDGE_SIGMA_MM: Final = 2.2
FINER_SHAPE_MM: Final = 1.5
"""How far skin strays between two readings, whatever they say (σ)."""
FARTHEST_OFF_MM: Final = 16.0
"""A wet edge farther than this from the warped skin is an ear's, a collar's or a beard's, not the skin's."""
REACH_MM: Final = 26.0
SIDES_ALIKE: Final = 0.9


def wet_thickness_mm(coat: Coat) -> Array:
    """How far (V,) wet hair, combed flat, stands off the skin: a share of its length, which the dry coat tells."""
    return np.maximum(WET_OFFSET_MM, WET_SHARE * length_of(coat.depth_mm, coat.stand))


def set_right(
    head: HeadSolution, skin: Skin, wet: Sequence[Edge], offset_mm: Array | float = WET_OFFSET_MM
) -> Skin:
    """The skin nudged along its normals to wet edges; where they say nothing it stays as it was. offset_mm: how
    far the wet coat stands off it, one number or one a vertex."""
    known = read_wet(head, skin, wet, offset_mm)
    if known is None:
        return skin
    nudge, sigma = known.value(np.zeros(len(skin.sigma_mm))), known.sigma()
    vertices = skin.vertices_mm + nudge[:, None] * skin.outward
    return replace(
        skin,
        vertices_mm=frozen(vertices),
        outward=frozen(vertex_normals(vertices, skin.template)),
        sigma_mm=frozen(np.hypot(sigma, FINER_SHAPE_MM)),
        as_one_mm=STILL_OFF_MM,
    )


def read_wet(
    head: HeadSolution, skin: Skin, wet: Sequence[Edge], offset_mm: Array | float = WET_OFFSET_MM
) -> Posterior | None:
    """What wet edges tell of how far the warped skin is off; None where they say nothing. Values in mm over the skin
    (V,)."""
    cover = np.broadcast_to(np.asarray(offset_mm, dtype=np.float64), skin.sigma_mm.shape)
    seen = [rim_samples_wet(head, skin, edge, cover) for edge in wet]
    readings = merged(skin.vertices_mm, [_as_one(seen, cover)])
    return wet_known(skin, readings) if len(readings.at) else None


def wet_known(skin: Skin, readings: Merged) -> Posterior:
    """What wet readings tell of how far the warped skin is off."""
    return posterior_from(skin.vertices_mm, readings, Kernel(skin.sigma_mm, REACH_MM, SIDES_ALIKE))


def wet_readings(at: IntArray, off_mm: Array, slant: Array) -> Readings:
    """Offsets of the skin read off wet silhouettes, all in one part: how thick the wet coat lies is the same error in
    each. At vertices (R,), mm."""
    return Readings(at, off_mm, EDGE_SIGMA_MM * slant, WET_OFFSET_SIGMA_MM, one_sided=True)


def rim_samples_wet(head: HeadSolution, skin: Skin, edge: Edge, offset_mm: Array) -> RimSamples:
    """Skin seen edge-on in a wet photo, whose coat stands so far (V,) off it."""
    return rim_samples(head, skin, edge, offset_mm, WET_EARS, from_inside_mm=FARTHEST_OFF_MM)


def _as_one(seen: Sequence[RimSamples], offset_mm: Array) -> Readings:
    nothing = [np.zeros(0)]
    at = np.concatenate([np.zeros(0, dtype=np.intp), *(g.at for g in seen)])
    off = np.concatenate(nothing + [g.off_mm for g in seen]) - offset_mm[at]
    slant = np.concatenate(nothing + [g.slant for g in seen])
    near = np.abs(off) < FARTHEST_OFF_MM
    return wet_readings(at[near], off[near], slant[near])
