"""Wet photos, whose hair lies flat: what their edges show is the skin and a share of the coat's length."""

from __future__ import annotations

from typing import Final

import numpy as np

from dapwick.core.basics.arrays import Array
from dapwick.core.head.gaussian_process import Readings
from dapwick.core.head.silhouettes import RimSamples
from dapwick.core.head.stand import length_of

WET_OFFSET_MM: Final = 2.0
"""How far wet hair, combed flat, stands off the skin at least."""
WET_SHARE: Final = 0.15
"""and as a share of its length: what lies over one place is what grows before it."""
LIES_SIGMA_MM: Final = 2.5
"""How far all of a wet coat may lie thicker or thinner (σ), from dog to dog: no number of readings averages it out."""
EDGE_SIGMA_MM: Final = 2.2
FARTHEST_OFF_MM: Final = 16.0
"""A wet edge farther than this from where it is expected is an ear's, a collar's or a beard's."""


def wet_thickness_mm(depth_mm: Array, stand: Array) -> Array:
    """How far (V,) wet hair, combed flat, stands off the skin: a share of its length, which the dry coat tells."""
    return np.maximum(WET_OFFSET_MM, WET_SHARE * length_of(depth_mm, stand))


def wet_readings(seen: RimSamples, cover_mm: Array, depth_mm: Array, one_sided: bool = True) -> Readings:
    """Skin and the coat's share read off wet silhouettes, all in one part: how thick the wet coat lies is the same
    error in each. cover_mm, depth_mm (V,): how thick it is taken to lie wet, and to stand dry."""
    near = np.abs(seen.off_mm - cover_mm[seen.at]) < FARTHEST_OFF_MM
    at, off = seen.at[near], seen.off_mm[near]
    share = np.where(cover_mm[at] > WET_OFFSET_MM, cover_mm[at] / np.maximum(depth_mm[at], 1.0), 0.0)
    off = off - cover_mm[at] + share * depth_mm[at]
    sigma = EDGE_SIGMA_MM * seen.slant[near]
    return Readings(at, off, sigma, LIES_SIGMA_MM, one_sided, of=(1.0, share))
