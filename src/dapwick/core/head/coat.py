"""The coat on one head: depth over the skin with its uncertainty, what is expected of it and what a comb tells.

Depth is how far the coat stands off the skin as worn.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Final

import numpy as np

from dapwick.core.basics.arrays import Array, BoolArray
from dapwick.core.basics.errors import BadInput
from dapwick.core.head.gaussian_process import Posterior, Readings
from dapwick.core.head.skin import Skin
from dapwick.core.head.stand import STAND_FACTOR, STAND_SIGMA, ratio_sigma, stand_from
from dapwick.core.head.zones import DEFAULT_DEPTH_MM, EAR_ZONES, ZONES

TUFTS_MM: Final = 2.0
"""A coat's own unevenness from tuft to tuft, which no reading takes away."""
COMB_SIGMA_MM: Final = 3.0
"""How far a comb's reading in a zone's middle is off what stands there all in all."""
CONFIDENCE_90: Final = 1.2816
COAT_ALONE: Final = (0.0, 1.0)
"""What a comb shows of skin and coat."""


@dataclass(frozen=True)
class CoatProbe:
    """A comb pushed to the skin in a zone: depth, and the hair drawn out along it if measured."""

    zone: str
    side: str | None
    depth_mm: float
    length_mm: float | None = None

    def __post_init__(self) -> None:
        if self.zone not in (*ZONES, *EAR_ZONES):
            known = ", ".join((*ZONES, *EAR_ZONES))
            raise BadInput("unknown zone", expected=known, got=self.zone, where="comb depth")
        if not 0 <= self.depth_mm <= 200:
            raise BadInput("comb depth", expected="0 to 200 mm", got=f"{self.depth_mm:g}", where=self.zone)
        if self.length_mm is not None and self.length_mm < self.depth_mm:
            raise BadInput(
                "hair shorter than it is deep",
                expected=f"a length of at least {self.depth_mm:g} mm",
                got=f"{self.length_mm:g}",
                where=self.zone,
            )


@dataclass(frozen=True)
class Coat:
    """depth_mm, sigma_mm (V,) over the skin's vertices; outside_sigma_mm (V,): how well the place is known where it
    ends, which is better than the depth, since an edge shows skin and coat together; with_skin (V,): correlation of
    the depth's error with the skin's; stand, stand_sigma (V,): long hair's depth / length there (head/stand.py).
    readings: how many silhouette and comb readings it rests on; read (V,): whether they tell much of the coat
    there; known: what they
    tell of skin and coat, to ask what more would."""

    depth_mm: Array
    sigma_mm: Array
    outside_sigma_mm: Array
    with_skin: Array
    stand: Array
    stand_sigma: Array
    readings: int
    read: BoolArray
    known: Posterior


def expected_depth_mm(skin: Skin) -> Array:
    """Depth (V,) expected before anything is seen of the coat."""
    return np.array([DEFAULT_DEPTH_MM[z] for z in ZONES])[skin.template.zone]


def probe_readings(skin: Skin, probe: CoatProbe) -> Readings:
    """A comb depth holds for the middle of its zone (both sides when none is named)."""
    sides = (probe.side,) if probe.side else ("left", "right")
    at = [middle_of(skin, probe.zone, side) for side in sides]
    mm, sigma = np.full(len(at), probe.depth_mm), np.full(len(at), COMB_SIGMA_MM)
    return Readings(np.array(at), mm, sigma, of=COAT_ALONE)


def middle_of(skin: Skin, zone: str, side: str) -> int:
    """The vertex in the middle of a zone of one side, where a comb is pushed in."""
    members = skin.in_zone(zone, side)
    middle = skin.vertices_mm[members].mean(axis=0)
    return int(members[np.argmin(np.linalg.norm(skin.vertices_mm[members] - middle, axis=1))])


def stand_of(skin: Skin, coat_type: str, probes: Sequence[CoatProbe]) -> tuple[Array, Array]:
    """Stand factor by vertex (V,) and its σ: what the coat type usually has, drawn towards this dog's where combs gave
    depth and length. One ratio of two rough readings is not the whole zone's."""
    stand = np.full(len(skin.vertices_mm), STAND_FACTOR[coat_type])
    sigma = np.full(len(stand), STAND_SIGMA)
    for probe in probes:
        if probe.length_mm and probe.zone in ZONES:
            at = skin.in_zone(probe.zone, probe.side)
            read, rough = (
                stand_from(probe.depth_mm, probe.length_mm),
                ratio_sigma(probe.depth_mm, probe.length_mm),
            )
            share = sigma[at] ** 2 / (sigma[at] ** 2 + rough**2)
            stand[at] += share * (read - stand[at])
            sigma[at] *= np.sqrt(1.0 - share)
    return stand, sigma
