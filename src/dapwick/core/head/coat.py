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
from scipy.linalg import cho_factor, cho_solve
from scipy.spatial.distance import cdist

from dapwick.core.arrays import Array, BoolArray, IntArray, frozen, unit
from dapwick.core.camera import Camera
from dapwick.core.errors import BadInput
from dapwick.core.head.skin import Skin
from dapwick.core.head.zones import BARE, DEFAULT_DEPTH_MM, ZONES
from dapwick.core.marks import INDEX
from dapwick.core.solve import HeadSolution

EDGE_SIGMA_MM: Final = 2.5
PRIOR_SIGMA_MM: Final = 11.0
REACH_MM: Final = 24.0
"""How far along the skin one reading of the coat still tells of its neighbour."""
SIDES_ALIKE: Final = 0.75
GRAZING: Final = 0.30
"""Largest |cosine| between hair direction and sight line that still counts as edge-on."""
DEEPEST_MM: Final = 75.0
ACROSS: Final = 0.6
"""Largest |cosine| between the edge line and the hair's picture."""
FRAME_PX: Final = 3.0
MAX_READINGS: Final = 260
SECTORS: Final = 90
OUTERMOST_MM: Final = 5.0
REPEATS_MM: Final = 9.0
"""Readings closer than this repeat one another: n of them count as one."""
EAR_MARGIN_MM: Final = {"standing": (26.0, 12.0), "hanging": (42.0, 42.0)}
"""An ear's half width with its hair, at the base and at the tip."""
NOT_READ: Final = ("nape", "throat", BARE)
CONFIDENCE_90: Final = 1.2816

STAND_FACTOR: Final[Mapping[str, float]] = {
    "standing": 0.9,
    "harsh": 0.85,
    "curl": 0.75,
    "wavy": 0.7,
    "fine_drop": 0.3,
}
"""depth / length by coat type; editable defaults of the trade, not law."""


@dataclass(frozen=True)
class CoatProbe:
    """A comb pushed to the skin in a zone: depth, and the hair drawn out along it if measured."""

    zone: str
    side: str | None
    depth_mm: float
    length_mm: float | None = None

    def __post_init__(self) -> None:
        if self.zone not in ZONES:
            raise BadInput("unknown zone", expected=", ".join(ZONES), got=self.zone, where="comb depth")
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
class CoatEdge:
    """The coat's silhouette on one dry photo: a closed line (N, 2), photo px, and its camera."""

    camera: Camera
    view: str
    line_px: Array


@dataclass(frozen=True)
class Coat:
    """depth_mm, sigma_mm (V,) over the skin's vertices; stand (V,) = depth / length there.
    readings: how many silhouette and comb readings it rests on."""

    depth_mm: Array
    sigma_mm: Array
    stand: Array
    readings: int


@dataclass(frozen=True)
class Readings:
    """at (R,) skin vertices with a depth read there and its standard deviation, mm."""

    at: IntArray
    depth_mm: Array
    sigma_mm: Array


def coat_of(
    head: HeadSolution,
    skin: Skin,
    coat_type: str,
    edges: Sequence[CoatEdge],
    probes: Sequence[CoatProbe] = (),
) -> Coat:
    """Depth of the coat all over the skin from what is known of it."""
    if coat_type not in STAND_FACTOR:
        raise BadInput("unknown coat", expected=", ".join(STAND_FACTOR), got=coat_type, where="dog")
    parts = [edge_readings(head, skin, edge) for edge in edges] + [probe_readings(skin, p) for p in probes]
    readings = _thinned(skin, parts)
    mean = np.array([DEFAULT_DEPTH_MM[z] for z in ZONES])[skin.template.zone]
    depth, sigma = _regress(skin, mean, readings)
    bare = skin.template.zone == ZONES.index(BARE)
    return Coat(
        frozen(np.where(bare, 0.0, np.maximum(depth, 0.0))),
        frozen(np.where(bare, 0.5, sigma)),
        frozen(_stand(skin, coat_type, probes)),
        len(readings.at),
    )


def edge_readings(head: HeadSolution, skin: Skin, edge: CoatEdge) -> Readings:
    """Depth at skin seen edge-on in one photo, where nothing else (ear, neck) makes the silhouette."""
    sight = unit(skin.vertices_mm - edge.camera.centre_mm)
    grazing = np.abs((sight * skin.outward).sum(axis=1)) < GRAZING
    grazing &= ~np.isin(skin.template.zone, [ZONES.index(z) for z in NOT_READ]) & _outermost(
        edge.camera, skin
    )
    if edge.view in ("front", "back"):
        # Below the mouth the chest is behind the beard: the silhouette there is not the head's.
        mouth = head.points_mm[INDEX["lip_front"], 2]
        grazing &= (skin.vertices_mm[:, 2] > mouth) & (skin.outward[:, 2] > -0.35)
    at = np.flatnonzero(grazing)
    depth = _depth_to_edge(edge, skin.vertices_mm[at], skin.outward[at])
    hit = skin.vertices_mm[at] + depth[:, None] * skin.outward[at]
    keep = np.isfinite(depth) & (depth < DEEPEST_MM) & ~_by_an_ear(head, edge, hit)
    at, depth = at[keep], depth[keep]
    slant = 1.0 + 2.0 * np.abs((sight[at] * skin.outward[at]).sum(axis=1))
    return Readings(at, depth, np.hypot(EDGE_SIGMA_MM * slant, skin.sigma_mm[at]))


def _outermost(camera: Camera, skin: Skin) -> BoolArray:
    """Vertices pictured on the skin's own silhouette: a muzzle before the cheeks is not. The skin
    pictures as seen from its middle without overhang, so the farthest in each direction is the edge."""
    pictured = camera.project(skin.vertices_mm)
    away = pictured - (pictured.min(axis=0) + pictured.max(axis=0)) / 2
    far = np.linalg.norm(away, axis=1)
    sector = ((np.arctan2(away[:, 1], away[:, 0]) + np.pi) / (2 * np.pi) * SECTORS).astype(int) % SECTORS
    farthest = np.zeros(SECTORS)
    np.maximum.at(farthest, sector, far)
    farthest = np.maximum(farthest, np.maximum(np.roll(farthest, 1), np.roll(farthest, -1)))
    px_per_mm = camera.focal_px / camera.distance_mm
    return np.asarray(far > farthest[sector] - OUTERMOST_MM * px_per_mm)


def _depth_to_edge(edge: CoatEdge, origin: Array, outward: Array) -> Array:
    """mm along each hair until its picture crosses the coat edge outward; 0 where the skin already
    pictures outside, nan where it never crosses."""
    start, ahead = edge.camera.project(origin), edge.camera.project(origin + outward)
    step = ahead - start
    a, b = edge.line_px, np.roll(edge.line_px, -1, axis=0)
    side = b - a
    to_a = a[None] - start[:, None]
    det = step[:, None, 0] * side[None, :, 1] - step[:, None, 1] * side[None, :, 0]
    det = np.where(np.abs(det) < 1e-9, np.nan, det)
    along = (to_a[..., 0] * side[None, :, 1] - to_a[..., 1] * side[None, :, 0]) / det
    on_side = (to_a[..., 0] * step[:, None, 1] - to_a[..., 1] * step[:, None, 0]) / det
    crossed = (on_side >= 0) & (on_side < 1) & (along > 0)
    inside = crossed.sum(axis=1) % 2 == 1
    along = np.where(crossed, along, np.inf)
    nearest = along.argmin(axis=1)
    first = np.take_along_axis(along, nearest[:, None], axis=1)[:, 0]
    # The coat is touched only where the edge runs across the hair; elsewhere it is the neck's or body's.
    across = np.abs((unit(side)[nearest] * unit(step)).sum(axis=1)) < ACROSS
    met = start + np.where(np.isfinite(first), first, 0.0)[:, None] * step
    framed = (
        (met > FRAME_PX) & (met < [edge.camera.width_px - FRAME_PX, edge.camera.height_px - FRAME_PX])
    ).all(axis=1)
    depth = np.where(inside, _unprojected(edge.camera, origin, outward, first), 0.0)
    return np.where(np.isfinite(first) & across & framed, depth, np.nan)


def _unprojected(camera: Camera, origin: Array, outward: Array, pictured: Array) -> Array:
    """Distance along the hair whose picture lies `pictured` times the first mm's picture away.

    In a pinhole the picture of origin + d·outward is a projective function of d: with depths z and
    slope s along the hair, pictured = d (z + s) / (z + d s).
    """
    z = origin @ camera.rotation[2] + camera.translation_mm[2]
    s = outward @ camera.rotation[2]
    with np.errstate(invalid="ignore"):
        d = pictured * z / (z + s - pictured * s)
    return np.where(np.isfinite(d) & (d >= 0), d, np.nan)


def _by_an_ear(head: HeadSolution, edge: CoatEdge, hit_mm: Array) -> BoolArray:
    """Whether a silhouette point may be an ear's: near its leather's middle line in the picture, or,
    seen from front or back, outside of where a hanging ear is rooted."""
    near = np.zeros(len(hit_mm), dtype=bool)
    hit = edge.camera.project(hit_mm)
    px_per_mm = edge.camera.focal_px / edge.camera.distance_mm
    for side, sign in (("left", -1.0), ("right", 1.0)):
        front = head.points_mm[INDEX[f"ear_front_{side}"]]
        base = (front + head.points_mm[INDEX[f"ear_back_{side}"]]) / 2
        tip = head.points_mm[INDEX[f"ear_tip_{side}"]]
        hanging = tip[2] < base[2]
        a, b = edge.camera.project(np.stack([base, tip]))
        t = np.clip((hit - a) @ (b - a) / max(float((b - a) @ (b - a)), 1e-9), 0.0, 1.0)
        at_base, at_tip = EAR_MARGIN_MM["hanging" if hanging else "standing"]
        margin = (at_base + t * (at_tip - at_base)) * px_per_mm
        near |= np.linalg.norm(hit - a - t[:, None] * (b - a), axis=1) < margin
        if hanging and edge.view in ("front", "back"):
            near |= sign * hit_mm[:, 0] > sign * front[0]
    return near


def probe_readings(skin: Skin, probe: CoatProbe) -> Readings:
    """A comb depth holds for the middle of its zone (both sides when none is named)."""
    sides = (probe.side,) if probe.side else ("left", "right")
    at = []
    for side in sides:
        members = skin.in_zone(probe.zone, side)
        middle = skin.vertices_mm[members].mean(axis=0)
        at.append(int(members[np.argmin(np.linalg.norm(skin.vertices_mm[members] - middle, axis=1))]))
    return Readings(np.array(at), np.full(len(at), probe.depth_mm), np.full(len(at), 2.0))


def _thinned(skin: Skin, parts: Sequence[Readings]) -> Readings:
    """All readings as one; neighbours along a silhouette repeat each other, so at most MAX_READINGS."""
    if not parts:
        return Readings(np.zeros(0, dtype=np.intp), np.zeros(0), np.zeros(0))
    at, depth, sigma = (
        np.concatenate([getattr(p, f) for p in parts]) for f in ("at", "depth_mm", "sigma_mm")
    )
    step = max(1, -(-len(at) // MAX_READINGS))
    at, depth, sigma = at[::step].astype(np.intp), depth[::step], sigma[::step]
    repeats = (cdist(skin.vertices_mm[at], skin.vertices_mm[at]) < REPEATS_MM).sum(axis=1)
    return Readings(at, depth, sigma * np.sqrt(np.maximum(repeats, 1)))


def _regress(skin: Skin, mean: Array, readings: Readings) -> tuple[Array, Array]:
    """Posterior mean and σ of depth at every vertex (Rasmussen and Williams, 2006, eq. 2.25–26)."""
    prior_variance = PRIOR_SIGMA_MM**2
    if not len(readings.at):
        return mean, np.full(len(mean), PRIOR_SIGMA_MM)
    known = skin.vertices_mm[readings.at]
    across = _kernel(skin.vertices_mm, known) * prior_variance
    within = _kernel(known, known) * prior_variance + np.diag(readings.sigma_mm**2)
    factor = cho_factor(within)
    depth = mean + across @ cho_solve(factor, readings.depth_mm - mean[readings.at])
    explained = np.einsum("vr,rv->v", across, cho_solve(factor, across.T))
    return depth, np.sqrt(np.maximum(prior_variance * _self_kernel(skin.vertices_mm) - explained, 0.25))


def _kernel(a: Array, b: Array) -> Array:
    """Likeness of depth at two places: near ones alike, mirrored ones SIDES_ALIKE as much."""
    near = np.exp(-0.5 * cdist(a, b, "sqeuclidean") / REACH_MM**2)
    mirrored = np.exp(-0.5 * cdist(a, b * [-1, 1, 1], "sqeuclidean") / REACH_MM**2)
    return np.asarray((near + SIDES_ALIKE * mirrored) / (1 + SIDES_ALIKE))


def _self_kernel(a: Array) -> Array:
    mirrored = np.exp(-0.5 * (2 * a[:, 0]) ** 2 / REACH_MM**2)
    return np.asarray((1 + SIDES_ALIKE * mirrored) / (1 + SIDES_ALIKE))


def _stand(skin: Skin, coat_type: str, probes: Sequence[CoatProbe]) -> Array:
    """Stand factor by vertex: the coat type's, or this dog's where a comb gave depth and length."""
    stand = np.full(len(skin.vertices_mm), STAND_FACTOR[coat_type])
    for probe in probes:
        if probe.length_mm:
            stand[skin.in_zone(probe.zone, probe.side)] = max(probe.depth_mm / probe.length_mm, 0.05)
    return stand
