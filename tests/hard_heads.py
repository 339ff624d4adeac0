"""Heads that are hard to plan for, as grounds: flat, long, tiny and lopsided ones, hanging ears, coats that are thin,
patchy, over-long, or hardly known. Part of the zoo of hard inputs; made without a photo."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cache
from typing import Final

import numpy as np

from dapwick.core.basics.frame import into_head_frame
from dapwick.core.basics.head_kind import Muzzle
from dapwick.core.basics.marks import INDEX
from dapwick.core.head.coat import CoatProbe
from dapwick.core.head.ears import ears_of
from dapwick.core.outlines.ground import Ground
from dapwick.core.solve.joint import HeadSolution, solve_head
from dapwick.pipeline.head_model import skin_and_coat
from simheads import SimHead, marked_photo, random_camera, random_head

EVERY_ZONE: Final = (
    "crown",
    "back_skull",
    "visor",
    "temple",
    "cheek",
    "jaw",
    "muzzle_side",
    "chin",
    "throat",
)


@dataclass(frozen=True)
class Hard:
    """seed and kind of the made-up head; scale: its size; drop: ears hang; coat and its depth (mm): combed on the
    first `combed` zones, twice as deep on its left where lopsided."""

    seed: int
    kind: Muzzle = "any"
    scale: float = 1.0
    uneven_mm: float = 1.4
    drop: bool = False
    coat: str = "standing"
    depth_mm: float = 20.0
    combed: int = len(EVERY_ZONE)
    patchy: bool = False
    lopsided: bool = False


HARD_HEADS: Final = {
    "flat face": Hard(1, kind="short"),
    "flat face, drop ears, curl": Hard(2, kind="short", drop=True, coat="curl"),
    "long muzzle": Hard(3, kind="long"),
    "tiny, fine drop coat": Hard(4, scale=0.6, coat="fine_drop", depth_mm=9.0),
    "huge, drop ears": Hard(5, scale=1.6, drop=True, coat="wavy"),
    "lopsided bone": Hard(6, uneven_mm=5.0),
    "one side twice as deep": Hard(7, lopsided=True),
    "hardly any coat": Hard(8, depth_mm=3.0, coat="harsh"),
    "bare patches": Hard(9, patchy=True),
    "overgrown": Hard(10, depth_mm=70.0, coat="curl"),
    "overgrown fine drop": Hard(11, depth_mm=25.0, coat="fine_drop", drop=True),
    "one comb reading only": Hard(12, combed=1),
}


@cache
def hard_ground(name: str) -> Ground:
    hard = HARD_HEADS[name]
    head = solve_head(_shaped(hard).given)
    assert isinstance(head, HeadSolution)
    probes = tuple(_probes(hard))
    skin, coat = skin_and_coat(head, hard.coat, (), probes, ())
    return Ground(head, skin, coat, ears_of(head, probes), hard.coat)


def _shaped(hard: Hard) -> SimHead:
    sim = random_head(hard.seed, ("front", "left"), 1, hard.kind, asymmetry_mm=hard.uneven_mm)
    points = hard.scale * sim.points_mm
    if hard.drop:
        for side, out in (("left", -1.0), ("right", 1.0)):
            base = points[INDEX[f"ear_front_{side}"]]
            points[INDEX[f"ear_tip_{side}"]] = base + hard.scale * np.array([14.0 * out, 6.0, -48.0])
    rng = np.random.default_rng(hard.seed)
    points = np.asarray(into_head_frame(points))
    cameras = tuple(random_camera(rng, p.view, points) for p in sim.given.photos)
    photos = tuple(
        marked_photo(rng, p.name, p.view, camera, points)
        for p, camera in zip(sim.given.photos, cameras, strict=True)
    )
    return SimHead(points, cameras, replace(sim.given, photos=photos, hand_measures=()))


def _probes(hard: Hard):  # type: ignore[no-untyped-def]
    for i, zone in enumerate(EVERY_ZONE[: hard.combed]):
        depth = 1.0 if hard.patchy and i % 2 else hard.depth_mm
        if hard.lopsided:
            yield CoatProbe(zone, "left", 2 * depth)
            yield CoatProbe(zone, "right", depth)
        else:
            yield CoatProbe(zone, None, depth)
