"""What a photo's edge says of the surface it goes round: how far from the skin it stands.

Each silhouette ray grazes the surface, so at skin seen edge-on the distance to the edge is the surface's
distance from that skin; on a dry photo the coat's depth, on a wet one how far the skin was misjudged.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Final

import numpy as np
from scipy.spatial.distance import cdist

from dapwick.core.basics.arrays import Array, BoolArray, IntArray, unit
from dapwick.core.basics.camera import Camera
from dapwick.core.basics.marks import INDEX
from dapwick.core.head.ears import SIDES, carriage_of, flap_of, upright
from dapwick.core.head.skin import Skin, vertex_normals
from dapwick.core.head.zones import BARE, ZONES
from dapwick.core.solve.joint import HeadSolution

GRAZING: Final = 0.20
"""Largest |cosine| between a surface's normal and the sight line that still counts as edge-on."""
ROUNDED_MM: Final = 60.0
"""About how round a head is: seen not quite edge-on, a place lies inside its silhouette by this times cosine² / 2."""
DEEPEST_MM: Final = 75.0
ACROSS: Final = 0.6
"""Largest |cosine| between the edge line and the hair's picture."""
FRAME_PX: Final = 3.0
OUTERMOST_MM: Final = 4.0
NOT_READ: Final = ("temple", "back_skull", "nape", "throat", BARE)
"""Zones whose outline is an ear's root, the neck's or the body's as often as their own."""
BESIDE_AN_EAR_MM: Final = 6.0
BEFORE_AN_EAR_MM: Final = 14.0


@dataclass(frozen=True)
class EarMargin:
    """How far from its leather (mm, at base and tip) an ear's hair may make the silhouette."""

    standing: tuple[float, float]
    hanging: tuple[float, float]

    def wearing(self, worn: Outside) -> EarMargin:
        """The same where hair is as long as the head's: an ear's is no shorter."""
        more = max(1.0, float(np.median(worn.cover_mm)) / USUAL_MM)
        base, tip, low, end = (more * one for one in (*self.standing, *self.hanging))
        return EarMargin((base, tip), (low, end))


DRY_EARS: Final = EarMargin((18.0, 20.0), (28.0, 28.0))
WET_EARS: Final = EarMargin((10.0, 8.0), (18.0, 18.0))
USUAL_MM: Final = 24.0
"""A coat so deep on the head goes with these margins; deeper ones widen them."""
FOLD_MM: Final = 40.0
"""A folded ear stands so far up before it turns over: where, its marks do not tell."""


@dataclass(frozen=True)
class Edge:
    """A silhouette on one photo: a closed line (N, 2), photo px, and its camera. neck_px: two points of a line across
    the neck, where one was drawn; what lies beyond it, seen from the eyes, is not the head's and says nothing."""

    camera: Camera
    view: str
    line_px: Array
    neck_px: Array | None = None


@dataclass(frozen=True)
class Outside:
    """A surface over the skin, as it is believed now: places (V, 3) mm, their normals, and how far each lies over
    the skin (V,) mm."""

    at_mm: Array
    outward: Array
    cover_mm: Array


def outside_of(skin: Skin, cover_mm: Array) -> Outside:
    """The surface that lies cover_mm (V,) over the skin."""
    surface = skin.vertices_mm + cover_mm[:, None] * skin.outward
    return Outside(surface, vertex_normals(surface, skin.template), cover_mm)


@dataclass(frozen=True)
class RimSamples:
    """Skin whose outside is seen edge-on: its vertices at (R,), how far the edge stands off each (mm, outward), and
    how obliquely it is seen (1 exactly edge-on, more the less so)."""

    at: IntArray
    off_mm: Array
    slant: Array


def rim_samples(
    head: HeadSolution,
    skin: Skin,
    edge: Edge,
    worn: Outside,
    ears: EarMargin = DRY_EARS,
    from_inside_mm: float = 0.0,
    skipped: Sequence[str] = (),
) -> RimSamples:
    """Where a surface over the skin is seen edge-on in one photo and nothing else (ear, neck) makes the silhouette:
    how far off the skin the edge shows it to be. from_inside_mm: start looking so far under the skin, which finds an
    edge inside it. skipped: zones whose edge is of no use."""
    at, cosine = edge_on(head, skin, edge.camera, edge.view, worn)
    outward = skin.outward[at]
    off = depth_to_edge(edge, skin.vertices_mm[at] - from_inside_mm * outward, outward) - from_inside_mm
    hit = skin.vertices_mm[at] + off[:, None] * outward
    keep = np.isfinite(off) & (off < DEEPEST_MM)
    keep &= ~_by_an_ear(head, edge.camera, edge.view, hit, ears.wearing(worn))
    keep &= ~_beyond_neck(head, edge, hit) & ~np.isin(
        skin.template.zone[at], [ZONES.index(z) for z in skipped]
    )
    inside = ROUNDED_MM * cosine**2 / 2
    return RimSamples(at[keep], (off - inside)[keep], (1.0 + 2.0 * cosine)[keep])


def _beyond_neck(head: HeadSolution, edge: Edge, hit_mm: Array) -> BoolArray:
    """Which silhouette points (N, 3) lie on the other side of the neck's line than the eyes."""
    if edge.neck_px is None:
        return np.zeros(len(hit_mm), dtype=bool)
    eyes = head.points_mm[[INDEX["eye_inner_left"], INDEX["eye_inner_right"]]].mean(axis=0)
    a, b = edge.neck_px
    pictured = edge.camera.project(np.vstack([eyes, hit_mm])) - a
    side = (b - a)[0] * pictured[:, 1] - (b - a)[1] * pictured[:, 0]
    return np.asarray(side[1:] * side[0] < 0)


def foreseen(
    head: HeadSolution, skin: Skin, camera: Camera, view: str, worn: Outside, ears: EarMargin
) -> RimSamples:
    """What a photo would let read were it taken with this camera and its edge as far off as expected. At vertices
    (R,), mm."""
    at, cosine = edge_on(head, skin, camera, view, worn)
    keep = ~_by_an_ear(head, camera, view, worn.at_mm[at], ears.wearing(worn))
    return RimSamples(at[keep], worn.cover_mm[at[keep]], (1.0 + 2.0 * cosine)[keep])


def edge_on(
    head: HeadSolution, skin: Skin, camera: Camera, view: str, worn: Outside
) -> tuple[IntArray, Array]:
    """Skin vertices whose outside makes the silhouette in a photo, and the |cosine| each is seen at. (K,)."""
    outward = worn.outward
    cosine = np.abs((unit(worn.at_mm - camera.centre_mm) * outward).sum(axis=1))
    read = ~np.isin(skin.template.zone, [ZONES.index(z) for z in NOT_READ])
    # Behind the crown the line of the neck comes up to the skull's.
    crown, occiput = head.points_mm[[INDEX["crown"], INDEX["occiput"]], 1]
    read &= skin.vertices_mm[:, 1] > (crown + occiput) / 2
    grazing = (cosine < GRAZING) & read
    if view in ("front", "back"):
        # Below the mouth the chest is behind the beard: the silhouette there is not the head's.
        mouth = head.points_mm[INDEX["lip_front"], 2]
        grazing &= (skin.vertices_mm[:, 2] > mouth) & (outward[:, 2] > -0.35)
    if view == "top":
        # Behind the skull lies the neck: from above the silhouette there is the body's.
        grazing &= outward[:, 1] > -0.35
    at = np.flatnonzero(grazing)
    at = at[_outermost(camera, skin, worn, at)]
    return at, cosine[at]


def _outermost(camera: Camera, skin: Skin, worn: Outside, at: IntArray) -> BoolArray:
    """Which of some vertices (K,) are pictured on a surface's own silhouette: a muzzle before the cheeks is not. A
    little farther out, nothing of the surface is pictured."""
    corners = camera.project(worn.at_mm)[skin.template.coarse_faces]
    if not np.isfinite(corners).all():
        return np.zeros(len(at), dtype=bool)
    beyond = camera.project(worn.at_mm[at] + OUTERMOST_MM * worn.outward[at])
    return ~_within(beyond, corners)


def _within(points_px: Array, corners_px: Array) -> BoolArray:
    """Which points (K, 2) any triangle of a closed surface's picture (F, 3, 2) covers."""
    a, side = corners_px, np.roll(corners_px, -1, axis=1) - corners_px
    front = side[:, 0, 0] * side[:, 1, 1] - side[:, 0, 1] * side[:, 1, 0] > 0
    a, side = a[front], side[front]
    inside = np.ones((len(points_px), len(a)), dtype=bool)
    for k in range(3):
        off = points_px[:, None] - a[:, k]
        inside &= side[:, k, 0] * off[..., 1] - side[:, k, 1] * off[..., 0] >= 0
    return np.asarray(inside.any(axis=1))


def depth_to_edge(edge: Edge, origin: Array, outward: Array) -> Array:
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


def _by_an_ear(head: HeadSolution, camera: Camera, view: str, hit_mm: Array, ears: EarMargin) -> BoolArray:
    """Whether a silhouette point may be an ear's: near its leather in the picture, however it is carried; seen from a
    side, over the base of one that stands, however high; from front or back, outside of where one is rooted."""
    near = np.zeros(len(hit_mm), dtype=bool)
    hit = camera.project(hit_mm)
    px_per_mm = camera.px_a_mm
    for side, sign in zip(SIDES, (-1.0, 1.0), strict=True):
        front, back = (head.points_mm[INDEX[f"ear_{part}_{side}"]] for part in ("front", "back"))
        flap = flap_of(head, side)
        carriage = carriage_of(flap[0].mean(axis=0), flap[-1, 0])
        hanging = carriage == "drop"
        leather = [flap] if carriage in ("prick", "drop") else [flap, upright(flap, sign, FOLD_MM)]
        for grid in leather:
            margin = np.linspace(*(ears.hanging if hanging else ears.standing), len(grid)).repeat(
                grid.shape[1]
            )
            away = cdist(hit, camera.project(grid.reshape(-1, 3)))
            near |= (away < margin * px_per_mm).any(axis=1)
        outside = sign * hit_mm[:, 0] - sign * front[0]
        above = hit_mm[:, 2] > front[2] - BEFORE_AN_EAR_MM
        if view in ("left", "right") and not hanging:
            low, high = sorted((float(front[1]), float(back[1])))
            near |= above & (hit_mm[:, 1] > low - ears.standing[0]) & (hit_mm[:, 1] < high + ears.standing[0])
        if view in ("front", "back"):
            near |= outside > 0 if hanging else (outside > -BESIDE_AN_EAR_MM) & above
        if view == "top" and hanging:
            near |= (outside > 0) & (hit_mm[:, 1] < front[1] + BEFORE_AN_EAR_MM)
    return near
