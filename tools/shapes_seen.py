"""A sheet of planned heads, shaded, front, side and top, to be looked at: every outline on own and others' dogs.

python tools/shapes_seen.py OUT.png [FAMILY,FAMILY,...]

The thin line is the coat's silhouette now; below each head, hair to leave and hair now (mm) by zone.
"""

from __future__ import annotations

import sys
from collections.abc import Iterator

import cv2
import numpy as np
from numpy.typing import NDArray

from coat_truth import grounded
from dapwick.core.basics.arrays import Array, IntArray, unit
from dapwick.core.outlines.ear_cut import ear_faces
from dapwick.core.outlines.effects import ears_cut
from dapwick.core.outlines.families import FAMILIES
from dapwick.core.outlines.fit import Outline
from dapwick.core.plan.lengths import zone_lengths
from dapwick.demo.dogs import ALL_SEVEN
from dapwick.pipeline.head_model import HeadModel
from dapwick.pipeline.plan import drawn_on, fit_on
from foreign_truth import WAYS, measured
from skulls.dressed import dressed

OWN = ("fogbell", "bobbin", "tiller", "squall")
FOREIGN = (("hulled", 0), ("lofted", 1), ("balls", 1), ("swept", 2))
SEED = 77
WIDE, HIGH, PX_PER_MM = 190, 190, 0.8
FRONT = np.array([[-1.0, 0, 0], [0, 0, 1], [0, 1, 0]])
SIDE = np.array([[0.0, 1, 0], [0, 0, 1], [1, 0, 0]])
TOP = np.array([[-1.0, 0, 0], [0, -1, 0], [0, 0, 1]])
MIDDLE = ((FRONT, (WIDE // 2, 90)), (SIDE, (WIDE // 2, 90)), (TOP, (WIDE // 2, 90)))
LIGHT = np.array([0.3, 0.45, 0.84])
HAIR, COAT_NOW, LEATHER = (225, 205, 190), (80, 140, 220), (190, 150, 225)
TOLD = ("crown", "back_skull", "temple", "cheek", "jaw", "chin", "muzzle_side")
Picture = NDArray[np.uint8]
Surface = tuple[Array, IntArray, tuple[int, int, int]]


def heads() -> Iterator[tuple[str, HeadModel]]:
    for key in OWN:
        yield key, grounded(key, ALL_SEVEN[:4]).model
    for kind, i in FOREIGN:
        dog = dressed(kind, i + 1, SEED)[i]
        found = measured(dog, WAYS[1], i)
        if found:
            yield f"{kind} {dog.coat}", found[0]


def pictured(outline: Outline, name: str) -> Picture:
    """One head, front and side."""
    ground = outline.ground
    skin = ground.skin
    planned = skin.vertices_mm + outline.leave_mm[:, None] * skin.outward
    now = skin.vertices_mm + ground.coat.depth_mm[:, None] * skin.outward
    ears = [(points, ear_faces(), LEATHER) for points in ears_cut(outline)]
    sides = []
    for turn, at in MIDDLE:
        picture = np.full((HIGH, WIDE, 3), 255, np.uint8)
        _shade(picture, [(planned, skin.template.faces, HAIR), *ears], turn, at)
        _outline(picture, _px(now, turn, at), skin.template.coarse_faces)
        sides.append(picture)
    both = np.hstack(sides)
    rows = {(z.zone, z.side): z for z in zone_lengths(outline)}
    told = [(zone, rows[zone, "left"]) for zone in TOLD if (zone, "left") in rows]
    said = " ".join(f"{zone[:3]}{z.leave_mm:.0f}/{z.now_mm:.0f}" for zone, z in told)
    cv2.putText(both, name, (4, 12), 0, 0.36, (0, 0, 0), 1, cv2.LINE_AA)
    cv2.putText(both, said, (2, HIGH - 6), 0, 0.3, (0, 0, 160), 1, cv2.LINE_AA)
    return both


def _px(points_mm: Array, turn: Array, at: tuple[int, int]) -> NDArray[np.int32]:
    return ((points_mm @ turn.T)[:, :2] * [PX_PER_MM, -PX_PER_MM] + at).astype(np.int32)


def _shade(picture: Picture, surfaces: list[Surface], turn: Array, at: tuple[int, int]) -> None:
    """Faces that face the eye, the farthest first."""
    drawn = []
    for points, faces, colour in surfaces:
        seen = (points @ turn.T)[faces]
        normal = np.cross(seen[:, 1] - seen[:, 0], seen[:, 2] - seen[:, 0])
        lit = 0.35 + 0.65 * np.maximum(unit(normal) @ LIGHT, 0.0)
        px = _px(points, turn, at)[faces]
        drawn += [
            (seen[i, :, 2].mean(), px[i], tuple(lit[i] * one for one in colour))
            for i in np.flatnonzero(normal[:, 2] > 0)
        ]
    for _, corners, colour in sorted(drawn, key=lambda one: one[0]):
        cv2.fillConvexPoly(picture, corners, colour)


def _outline(picture: Picture, px: NDArray[np.int32], faces: IntArray) -> None:
    mask = np.zeros(picture.shape[:2], np.uint8)
    for face in faces:
        cv2.fillConvexPoly(mask, px[face], 255)
    lines, _ = cv2.findContours(mask, cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE)
    cv2.drawContours(picture, lines, -1, COAT_NOW, 1)


def main(out: str, families: str = ",".join(FAMILIES)) -> None:
    rows = []
    for name, model in heads():
        plans = [(key, drawn_on(fit_on(model, FAMILIES[key]), {})) for key in families.split(",")]
        rows.append(np.hstack([pictured(outline, f"{name} {key}") for key, outline in plans]))
    cv2.imwrite(out, np.vstack(rows))


if __name__ == "__main__":
    main(*sys.argv[1:3])
