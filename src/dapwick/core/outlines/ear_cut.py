"""What is left on an ear: leather clipped between two places along it, hair elsewhere, and the ear so cut."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Final

import numpy as np

from dapwick.core.basics.arrays import Array, IntArray, unit
from dapwick.core.head.ears import ACROSS, ALONG, Ear, grid_faces
from dapwick.core.head.stand import depth_of, length_of
from dapwick.core.head.zones import Side

CLIPPED_MM: Final = 1.5
"""Length left where leather is clipped: a 10 with the growth, outward, which is the safe default."""
SHORT_MM: Final = 6.5
"""Leather cut to this or shorter is clipped; its edge is scissored still."""
CLIPPABLE: Final = ("ear_outside", "ear_inside")
TIP, THIRD, FOLD, WHOLE, NONE = 0.8, 0.66, 0.45, 0.0, 1.0
"""Share along the leather from its base at which clipping starts."""
OVER_THE_EDGE: Final = 0.75
EAR_VERTICES: Final = 2 * ALONG * ACROSS


@dataclass(frozen=True)
class EarCut:
    """clipped: share along the leather from base (0) to tip (1) where clipping starts and where it ends.
    outside_mm, inside_mm, edge_mm: most hair length left elsewhere; None leaves what is there. by_hand: the outside is
    carded or stripped, however short."""

    words: str
    clipped: tuple[float, float] = (NONE, NONE)
    outside_mm: float | None = None
    inside_mm: float | None = CLIPPED_MM
    edge_mm: float | None = None
    by_hand: bool = False


def with_said_edge(cut: EarCut, mm: float | None) -> EarCut:
    """The cut with its edges no longer than was said."""
    if mm is None or (cut.edge_mm is not None and cut.edge_mm <= mm):
        return cut
    return replace(cut, words=f"{cut.words}, edges as short as the body", edge_mm=mm)


@dataclass(frozen=True)
class EarZone:
    """One zone of one ear, hair lengths (mm): left, there now, σ of both; depth_mm as it stands."""

    zone: str
    side: Side
    leave_mm: float
    now_mm: float
    sigma_mm: float
    depth_mm: float
    clipped: bool


def ear_zones(ear: Ear, cut: EarCut, stand: float) -> tuple[EarZone, ...]:
    """What the cut leaves in each zone of an ear whose long hair's factor is `stand`."""
    most = {"ear_outside": cut.outside_mm, "ear_inside": cut.inside_mm, "ear_edge": cut.edge_mm}
    limits = [most.get(c.zone, cut.outside_mm) for c in ear.coat]
    if cut.clipped[0] <= 0.0 and cut.clipped[1] >= 1.0:
        limits = [
            limit if c.zone == "ear_canal" else CLIPPED_MM for c, limit in zip(ear.coat, limits, strict=True)
        ]
    factor = np.array(stand)
    now = length_of(np.array([c.depth_mm for c in ear.coat]), factor)
    sigma = length_of(np.array([c.sigma_mm for c in ear.coat]), factor)
    leave = np.minimum(now, [np.inf if limit is None else limit for limit in limits])
    depth = depth_of(leave, factor)
    numbers = np.column_stack([leave, now, sigma, depth]).tolist()
    return tuple(
        EarZone(
            c.zone,
            ear.side,
            left,
            was,
            spread,
            deep,
            left <= (SHORT_MM if c.zone in CLIPPABLE else CLIPPED_MM)
            and not (cut.by_hand and c.zone != "ear_inside"),
        )
        for c, (left, was, spread, deep) in zip(ear.coat, numbers, strict=True)
    )


def ear_surface(ear: Ear, depth_mm: dict[str, float], clipped: tuple[float, float]) -> Array:
    """The ear with its hair (2·ALONG·ACROSS, 3), mm, head frame: outer face, then inner.

    Hair stands off the leather by the zone's depth and reaches past its edge and tip by the edge's; between
    clipped[0] and clipped[1] along the leather only the clipped length is left.
    """
    grid = ear.vertices_mm.reshape(ALONG, ACROSS, 3)
    t = np.linspace(0.0, 1.0, ALONG)
    bare = (t >= clipped[0]) & (t <= clipped[1])
    outside, inside, edge = (
        np.where(bare, CLIPPED_MM, depth_mm.get(zone, 0.0))
        for zone in ("ear_outside", "ear_inside", "ear_edge")
    )
    along = unit(np.asarray(np.gradient(grid, axis=0)))
    across = unit(np.asarray(np.gradient(grid, axis=1)))
    off = unit(np.cross(along, across)) * (1.0 if ear.side == "right" else -1.0)
    s = np.linspace(-1.0, 1.0, ACROSS)
    past = (np.sign(s) * np.abs(s) ** 3)[None, :, None] * edge[:, None, None] * across
    tip = (t**4)[:, None, None] * edge[-1] * along * OVER_THE_EDGE
    spread = grid + past + tip
    round_off = np.sqrt(np.clip(1.0 - 0.8 * s**2, 0.0, 1.0))[None, :, None]
    outer = spread - off * outside[:, None, None] * round_off
    inner = spread + off * inside[:, None, None] * round_off
    return np.concatenate([outer.reshape(-1, 3), inner.reshape(-1, 3)])


def flap_faces() -> IntArray:
    """Faces (F, 3) of a leaf's grid, seen from both sides."""
    one = grid_faces()
    return np.concatenate([one, one[:, ::-1]])


def ear_faces() -> IntArray:
    """Faces (F, 3) of `ear_surface`, seen from both sides."""
    one = closed_faces()
    return np.concatenate([one, one[:, ::-1]])


def closed_faces() -> IntArray:
    """Faces of `ear_surface` once: outer face, inner face, and the wall between them. (F, 3)."""
    one, n = grid_faces(), ALONG * ACROSS
    i = np.arange(n).reshape(ALONG, ACROSS)
    rim = np.concatenate([i[:, 0], i[-1, 1:], i[::-1, -1][1:]])
    a, b = rim[:-1], rim[1:]
    wall = np.concatenate([np.column_stack([a, b, b + n]), np.column_stack([a, b + n, a + n])])
    return np.concatenate([one, one[:, ::-1] + n, wall])
