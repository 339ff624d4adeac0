"""The coat on one head: depth over the skin with its uncertainty, from silhouettes and comb probes.

Depth is how far the coat stands off the skin as worn. A dry photo's coat edge touches the coat where
the line of sight grazes it, so at skin seen edge-on the distance to the edge is the depth. Between
such places a Gaussian process over the skin, with the two sides tied softly, fills in honestly.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Final

import numpy as np

from dapwick.core.basics.arrays import Array, BoolArray, IntArray, frozen
from dapwick.core.basics.errors import BadInput
from dapwick.core.head.gaussian_process import Kernel, Posterior, Readings, is_near, merged, posterior_from
from dapwick.core.head.silhouettes import Edge, rim_samples
from dapwick.core.head.skin import Skin
from dapwick.core.head.stand import STAND_FACTOR, stand_from
from dapwick.core.head.zones import BARE, DEFAULT_DEPTH_MM, EAR_ZONES, ZONES
from dapwick.core.solve.joint import HeadSolution

EDGE_SIGMA_MM: Final = 3.5
CAMERA_SIGMA_MM: Final = 2.0
"""How far a photo's whole edge may be shifted by its camera's uncertainty."""
PRIOR_SIGMA_MM: Final = 8.0
HANGING_SIGMA_MM: Final[Mapping[str, float]] = {"jaw": 14.0, "throat": 14.0, "nape": 11.0, "cheek": 10.0}
"""Where hair hangs, depths differ more from dog to dog."""
TUFTS_MM: Final = 2.0
"""A coat's own unevenness from tuft to tuft, which no reading takes away."""
LONG_OR_SHORT: Final = 0.4
"""Share by which a whole coat may be longer or shorter than expected (σ)."""
REACH_MM: Final = 24.0
"""How far along the skin one reading of the coat still tells of its neighbour."""
SIDES_ALIKE: Final = 0.75
CONFIDENCE_90: Final = 1.2816


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
    """depth_mm, sigma_mm (V,) over the skin's vertices; stand (V,): long hair's depth / length there (head/stand.py).
    readings: how many silhouette and comb readings it rests on; read (V,): whether one is close by;
    known: what they tell, to ask what more would."""

    depth_mm: Array
    sigma_mm: Array
    stand: Array
    readings: int
    read: BoolArray
    known: Posterior


def coat_of(
    head: HeadSolution,
    skin: Skin,
    coat_type: str,
    edges: Sequence[Edge],
    probes: Sequence[CoatProbe] = (),
) -> Coat:
    """Depth of the coat all over the skin from what is known of it."""
    if coat_type not in STAND_FACTOR:
        raise BadInput("unknown coat", expected=", ".join(STAND_FACTOR), got=coat_type, where="dog")
    mean = expected_depth_mm(skin)
    parts = [_dry(head, skin, edge, mean) for edge in edges] + [
        probe_readings(skin, p) for p in probes if p.zone in ZONES
    ]
    readings = merged(skin.vertices_mm, parts)
    stray = np.array([HANGING_SIGMA_MM.get(z, PRIOR_SIGMA_MM) for z in ZONES])[skin.template.zone]
    like = Kernel(stray, REACH_MM, SIDES_ALIKE, LONG_OR_SHORT * mean)
    known = posterior_from(skin.vertices_mm, readings, like)
    depth, sigma = known.value(mean), known.sigma()
    bare = skin.template.zone == ZONES.index(BARE)
    return Coat(
        frozen(np.where(bare, 0.0, np.maximum(depth, 0.0))),
        # Skin that lies off as one puts the coat off by the same everywhere, which no number of readings averages out.
        frozen(np.where(bare, 0.5, np.hypot(np.hypot(sigma, skin.as_one_mm), TUFTS_MM))),
        frozen(_stand(skin, coat_type, probes)),
        len(readings.at),
        is_near(skin.vertices_mm, readings.at),
        known,
    )


def expected_depth_mm(skin: Skin) -> Array:
    """Depth (V,) expected before anything is seen of the coat."""
    return np.array([DEFAULT_DEPTH_MM[z] for z in ZONES])[skin.template.zone]


def _dry(head: HeadSolution, skin: Skin, edge: Edge, mean_mm: Array) -> Readings:
    """Depth where a dry photo's edge touches the coat."""
    seen = rim_samples(head, skin, edge, mean_mm)
    return dry_readings(skin, seen.at, seen.off_mm, seen.slant)


def dry_readings(skin: Skin, at: IntArray, off_mm: Array, slant: Array) -> Readings:
    """Depths read off a dry silhouette, as sure as such readings are. At vertices (R,), mm."""
    sigma = np.hypot(EDGE_SIGMA_MM * slant, skin.sigma_mm[at])
    return Readings(at, np.maximum(off_mm, 0.0), sigma, CAMERA_SIGMA_MM, one_sided=True)


def probe_readings(skin: Skin, probe: CoatProbe) -> Readings:
    """A comb depth holds for the middle of its zone (both sides when none is named)."""
    sides = (probe.side,) if probe.side else ("left", "right")
    at = []
    for side in sides:
        members = skin.in_zone(probe.zone, side)
        middle = skin.vertices_mm[members].mean(axis=0)
        at.append(int(members[np.argmin(np.linalg.norm(skin.vertices_mm[members] - middle, axis=1))]))
    return Readings(np.array(at), np.full(len(at), probe.depth_mm), np.full(len(at), 2.0))


def _stand(skin: Skin, coat_type: str, probes: Sequence[CoatProbe]) -> Array:
    """Stand factor by vertex: the coat type's, or this dog's where a comb gave depth and length."""
    stand = np.full(len(skin.vertices_mm), STAND_FACTOR[coat_type])
    for probe in probes:
        if probe.length_mm and probe.zone in ZONES:
            stand[skin.in_zone(probe.zone, probe.side)] = stand_from(probe.depth_mm, probe.length_mm)
    return stand
