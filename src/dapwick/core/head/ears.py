"""Ears: flaps of their own on the head, each with its leather's outline and its own coat.

A flap is a leaf from the ear's base to its tip, placed by ear_front, ear_back and ear_tip alone, so that no
warp of the skull smears it. How it is carried follows from where the tip lies against the base.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Final

import numpy as np

from dapwick.core.basics.arrays import Array, IntArray, frozen, unit
from dapwick.core.basics.head_kind import Carriage
from dapwick.core.basics.marks import INDEX
from dapwick.core.head.coat import CoatProbe
from dapwick.core.head.zones import EAR_ZONES, Side
from dapwick.core.solve.joint import HeadSolution

ALONG, ACROSS = 11, 7
"""Vertices of a flap from base to tip, and from its front edge to its rear."""
FULLEST_AT: Final = 0.3
FULLER: Final = 0.18
CUPPED: Final = 0.22
"""How far a flap's middle lies behind its edges, as a share of its width."""
EAR_COAT_SIGMA_MM: Final = 8.0
COMB_SIGMA_MM: Final = 2.0
CARRIED_ABOVE: Final[tuple[tuple[float, Carriage], ...]] = (
    (0.75, "prick"),
    (0.4, "tipped"),
    (-0.5, "button"),
)
"""Rise of the tip over the base, as a share of the ear's length, from which an ear is carried so."""
LIFT: Final[Mapping[Carriage, float]] = {"prick": 0.0, "tipped": 0.4, "button": 0.5, "drop": 0.22}
"""How far, in lengths, a folded or hanging ear's middle stands off the straight way to its tip."""
STANDS: Final = (0.25, 0.9)
"""Forward and up, as an ear stands from its base."""
TURNS_FROM, TURNED_AT = 0.1, 0.55
"""Along a folded ear, where its leaf begins to turn and has turned."""
FOLDED_SIDEWAYS: Final = 0.35
"""A folded ear first stands, then turns over; a hanging one falls over the side of the head."""


@dataclass(frozen=True)
class EarCoat:
    """Depth (mm) of one zone of an ear, and its σ."""

    zone: str
    depth_mm: float
    sigma_mm: float


@dataclass(frozen=True)
class Ear:
    """One flap: vertices (ALONG·ACROSS, 3) mm, head frame, and faces; leather_mm (K, 3) its outline, closed;
    length along it and base width, mm; sigma_mm of the tip's place."""

    side: Side
    carriage: Carriage
    vertices_mm: Array
    faces: IntArray
    leather_mm: Array
    length_mm: float
    base_mm: float
    sigma_mm: float
    coat: tuple[EarCoat, ...]


def ears_of(head: HeadSolution, probes: Sequence[CoatProbe] = ()) -> tuple[Ear, Ear]:
    """The two ears, left and right."""
    left, right = (_ear(head, side, probes) for side in SIDES)
    return left, right


SIDES: Final[tuple[Side, Side]] = ("left", "right")


def carriage_of(base_mm: Array, tip_mm: Array) -> Carriage:
    """How an ear is carried, from its base's middle and its tip. base_mm, tip_mm (3,), head frame."""
    rise = float(tip_mm[2] - base_mm[2]) / max(float(np.linalg.norm(tip_mm - base_mm)), 1e-6)
    return next((carriage for least, carriage in CARRIED_ABOVE if rise > least), "drop")


def _ear(head: HeadSolution, side: Side, probes: Sequence[CoatProbe]) -> Ear:
    front, back, tip = _of_ear(head, side)
    carriage = carriage_of((front + back) / 2, tip)
    grid = flap_of(head, side)
    spine = grid[:, ACROSS // 2]
    edge = np.concatenate([grid[:, 0], grid[::-1, -1]])
    return Ear(
        side,
        carriage,
        frozen(grid.reshape(-1, 3)),
        grid_faces(),
        frozen(edge),
        float(np.linalg.norm(np.diff(spine, axis=0), axis=1).sum()),
        float(np.linalg.norm(back - front)),
        float(head.sigma_mm[INDEX[f"ear_tip_{side}"]].mean()),
        _coat(side, probes),
    )


def _of_ear(head: HeadSolution, side: Side) -> tuple[Array, Array, Array]:
    front, back, tip = (head.points_mm[INDEX[f"ear_{part}_{side}"]] for part in ("front", "back", "tip"))
    return front, back, tip


def flap_of(head: HeadSolution, side: Side) -> Array:
    """An ear's leather (ALONG, ACROSS, 3) mm, head frame, base to tip."""
    front, back, tip = _of_ear(head, side)
    carriage = carriage_of((front + back) / 2, tip)
    return _grid(front, back, tip, carriage, 1.0 if side == "right" else -1.0)


def upright(flap: Array, outward: float, high_mm: float) -> Array:
    """What stands of a folded ear (ALONG, ACROSS, 3) mm: its base, drawn up. outward: 1 on the dog's right, else -1."""
    way = unit(np.array([FOLDED_SIDEWAYS * outward, *STANDS]))
    return np.asarray(flap[0] + np.linspace(0.0, high_mm, ALONG)[:, None, None] * way)


def _grid(front: Array, back: Array, tip: Array, carriage: Carriage, outward: float) -> Array:
    """Vertices (ALONG, ACROSS, 3): a spine from base to tip with the leaf's width across it."""
    base = (front + back) / 2
    length, width = float(np.linalg.norm(tip - base)), float(np.linalg.norm(back - front))
    sideways = 1.0 if carriage == "drop" else FOLDED_SIDEWAYS
    way, base_way = np.array([sideways * outward, *STANDS]), unit(back - front)
    if carriage != "drop":
        way = way - (way @ base_way) * base_way
    stand_off = LIFT[carriage] * length * unit(way)
    t = np.linspace(0.0, 1.0, ALONG)[:, None]
    control = (base + tip) / 2 + 2.0 * stand_off
    spine = (1 - t) ** 2 * base + 2 * t * (1 - t) * control + t**2 * tip
    along = unit(np.gradient(spine, axis=0))
    across = np.broadcast_to(unit(back - front), along.shape)
    if carriage in ("tipped", "button"):
        # Turned over, a leaf lies across its fold: its rear edge outward, however the base runs.
        fold = np.cross(stand_off, tip - base)
        fold = unit(fold * (1.0 if fold[0] * outward > 0 else -1.0))
        across = across + np.clip((t - TURNS_FROM) / (TURNED_AT - TURNS_FROM), 0.0, 1.0) * (fold - across)
    across = unit(across - (across * along).sum(axis=1, keepdims=True) * along)
    behind = outward * np.cross(along, across)
    s = np.linspace(-1.0, 1.0, ACROSS)
    half = width / 2 * _leaf(t[:, 0])
    offset = half[:, None, None] * s[None, :, None] * across[:, None, :]
    cup = CUPPED * half[:, None, None] * (1 - s[None, :, None] ** 2) * behind[:, None, :]
    return np.asarray(spine[:, None, :] + offset + cup)


def _leaf(t: Array) -> Array:
    """Half width along a leaf as a share of its base's: a little fuller, then to a rounded point."""
    full = (
        1.0
        + FULLER * np.exp(-(((t - FULLEST_AT) / 0.25) ** 2))
        - FULLER * np.exp(-((FULLEST_AT / 0.25) ** 2))
    )
    return np.asarray(full * np.sqrt(np.clip(1.0 - t**1.7, 0.0, 1.0)))


def grid_faces() -> IntArray:
    """Faces (F, 3) of a grid of rows by columns of vertices."""
    i = np.arange(ALONG * ACROSS).reshape(ALONG, ACROSS)
    a, b, c, d = i[:-1, :-1].ravel(), i[:-1, 1:].ravel(), i[1:, 1:].ravel(), i[1:, :-1].ravel()
    return np.concatenate([np.column_stack([a, b, c]), np.column_stack([a, c, d])])


def _coat(side: Side, probes: Sequence[CoatProbe]) -> tuple[EarCoat, ...]:
    """Each ear zone's depth: combed, or what is usual with a wide σ."""
    combed = {p.zone: p for p in probes if p.side in (None, side)}
    return tuple(
        EarCoat(zone, combed[zone].depth_mm, COMB_SIGMA_MM)
        if zone in combed
        else EarCoat(zone, usual, EAR_COAT_SIGMA_MM)
        for zone, usual in EAR_ZONES.items()
    )
