"""A neck and the start of a chest for pictures: a head that ends behind the ears is a mask.

It is drawn, not measured: as wide as nape and throat stand apart, running back and down, and fading out.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

import numpy as np

from dapwick.core.basics.arrays import Array, IntArray, unit
from dapwick.core.outlines.ground import Ground

ROUND, ALONG = 36, 12
WAY: Final = (0.0, -0.62, -0.78)
STARTS_MM, LONG = 26.0, 1.2
"""So far inside the head it begins; its length, in its own widths."""
ROUNDISH, OF_THE_HEAD = 0.9, 0.85
"""How wide it is against its height, and against the skull at the least."""
WIDENS: Final = 0.9
FADES_FROM: Final = 0.35
"""Along it, from where it fades."""


@dataclass(frozen=True)
class Neck:
    """vertices_mm, outward (N, 3); faces (F, 3); fade (N,): 1 whole to 0 gone; like (N,): the skin's vertex whose hair
    and colour it has."""

    vertices_mm: Array
    outward: Array
    faces: IntArray
    fade: Array
    like: IntArray


def neck_of(ground: Ground) -> Neck:
    """The neck of a head."""
    skin = ground.skin
    nape, throat = (skin.vertices_mm[skin.in_zone(zone)].mean(axis=0) for zone in ("nape", "throat"))
    way = unit(np.array(WAY))
    across = np.array([1.0, 0.0, 0.0])
    up = np.cross(across, way)
    half_up = abs(float((nape - throat) @ up)) / 2
    half_across = max(ROUNDISH * half_up, OF_THE_HEAD * float(np.abs(skin.vertices_mm[:, 0]).max()))
    start = (nape + throat) / 2 - STARTS_MM * way
    t = np.linspace(0.0, 1.0, ALONG)
    turn = np.linspace(0.0, 2 * np.pi, ROUND, endpoint=False)
    wider = (1.0 + WIDENS * t**1.5)[:, None, None]
    ring = half_across * np.cos(turn)[:, None] * across + half_up * np.sin(turn)[:, None] * up
    centre = start + (t * (STARTS_MM + LONG * 2 * half_up))[:, None] * way
    vertices = (centre[:, None] + wider * ring).reshape(-1, 3)
    outward = np.tile(unit(ring), (ALONG, 1))
    fade = np.clip((1.0 - t) / (1.0 - FADES_FROM), 0.0, 1.0).repeat(ROUND)
    lower = np.tile(np.sin(turn) * np.sign(up[2]) < -0.2, ALONG)
    like = np.where(lower, _middle(ground, "throat"), _middle(ground, "nape"))
    return Neck(vertices, outward, _tube(), fade, like)


def _middle(ground: Ground, zone: str) -> int:
    """The vertex that stands for a zone: the one nearest to its middle."""
    at = ground.skin.in_zone(zone)
    places = ground.skin.vertices_mm[at]
    return int(at[np.linalg.norm(places - places.mean(axis=0), axis=1).argmin()])


def _tube() -> IntArray:
    i = np.arange(ALONG * ROUND).reshape(ALONG, ROUND)
    a, b = i[:-1], np.roll(i[:-1], -1, axis=1)
    c, d = np.roll(i[1:], -1, axis=1), i[1:]
    return np.concatenate([np.stack([a, b, c], -1).reshape(-1, 3), np.stack([a, c, d], -1).reshape(-1, 3)])
