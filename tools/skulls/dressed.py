"""A skull of another maker with hair on it, ears and a neck, and what four photos and a comb would tell of it.

Its hair shares nothing with the simulated dogs' nor with the product's zones: depth is a smooth field over directions
from the head's middle (long where pets are long, shorter round eyes and bridge, with lumps of its own), it droops as
it gets longer, and every tuft differs. Silhouettes are drawn by the cameras of `simheads`.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache

import cv2
import numpy as np
from numpy.typing import NDArray
from scipy.spatial import ConvexHull, cKDTree

from dapwick.core.basics.arrays import unit
from dapwick.core.basics.camera import Camera
from dapwick.core.basics.marks import INDEX, View
from dapwick.core.solve.observations import HeadInput
from simheads import HAND, hand_measure, marked_photo, random_camera
from skulls.kinds import Skull
from skulls.makers import skulls

Points = NDArray[np.float64]
FOUR: tuple[View, ...] = ("front", "left", "right", "top")
COATS = ("standing", "harsh", "curl", "wavy", "fine_drop")
AROUND, OUT_MM, OUT_STEP_MM = 2600, 230.0, 0.5
LUMPS, LUMP_WIDE = 7, 0.45
WET_SHARE = (0.08, 0.22)


@dataclass(frozen=True)
class Dressed:
    """skin_mm, normal (N, 3): places all over the skin, head frame; depth_mm (N,): how far the coat stands off it;
    edges: the silhouette (K, 2) px of each photo by its name, of a wet head where its name says so."""

    skull: Skull
    coat: str
    skin_mm: Points
    normal: Points
    depth_mm: Points
    given: HeadInput
    cameras: tuple[Camera, ...]
    edges: dict[str, Points]

    def combed_mm(self, at_mm: Points, rng: np.random.Generator) -> float:
        """A comb pushed to the skin somewhere near a place (3,)."""
        near = cKDTree(self.skin_mm).query(at_mm + rng.normal(0, 5.0, 3))[1]
        return float(max(0.0, self.depth_mm[near] + rng.normal(0, 1.5)))


def dressed(kind: str, count: int, seed: int = 0, dry: tuple[View, ...] = FOUR) -> list[Dressed]:
    """Dogs of a kind, each with its own coat and photos. dry: the views of its dry photos."""
    rng = np.random.default_rng([seed, 7, *kind.encode()])
    return [
        _dressed(one, np.random.default_rng(rng.integers(2**32)), dry) for one in skulls(kind, count, seed)
    ]


def _dressed(skull: Skull, rng: np.random.Generator, dry: tuple[View, ...]) -> Dressed:
    skin, normal, faces = skin_mesh(skull)
    lie = depth_over(skull, skin, rng)
    coat = str(rng.choice(COATS))
    fall = np.clip(lie / 90.0, 0, 0.5)[:, None] * rng.uniform(0.2, 1.0)
    along = unit(normal * (1 - fall) + fall * np.array([0.0, 0.0, -1.0]))
    tufts = lie * (1 + 0.05 * np.abs(rng.standard_normal(len(lie))))
    stands = lie * (along * normal).sum(axis=1)
    wet = np.maximum(1.5, rng.uniform(*WET_SHARE) * lie)
    points, photos, cameras, edges = skull.points_mm, [], [], {}
    taken = [(f"dry-{view}-{i}.jpg", view) for i, view in enumerate(dry)]
    for name, view in (*taken, ("wet-front.jpg", "front"), ("wet-left.jpg", "left")):
        camera = random_camera(rng, view, points)
        out, hair = (tufts, 1.0) if name.startswith("dry") else (wet, 0.2)
        surface = skin + out[:, None] * along
        edges[name] = outline_px(skull, surface, faces, camera, hair * float(np.median(lie)))
        photos.append(marked_photo(rng, name, view, camera, points))
        cameras.append(camera)
    hand = tuple(hand_measure(rng, points, a, b) for a, b in HAND[:2])
    return Dressed(skull, coat, skin, normal, stands, HeadInput(tuple(photos), hand), tuple(cameras), edges)


def without_wet(given: HeadInput) -> HeadInput:
    """The same head without its wet photos."""
    return HeadInput(tuple(p for p in given.photos if p.name.startswith("dry")), given.hand_measures)


def skin_mesh(skull: Skull) -> tuple[Points, Points, NDArray[np.intp]]:
    """Vertices (N, 3), outward normals and faces: where rays from the middle leave the head for good."""
    directions, faces = _sphere()
    middle = (skull.points_mm[INDEX["crown"]] + skull.points_mm[INDEX["throat"]]) / 2
    middle[:2] = 0.0, float(np.mean(skull.points_mm[[INDEX["stop"], INDEX["occiput"]], 1])) * 0.7
    t = np.arange(0.0, OUT_MM, OUT_STEP_MM)
    level = skull.field((middle + t[None, :, None] * directions[:, None]).reshape(-1, 3)).reshape(-1, len(t))
    last = np.maximum(len(t) - 1 - (level[:, ::-1] < 0).argmax(axis=1), 0)
    after = np.minimum(last + 1, len(t) - 1)
    rows = np.arange(len(directions))
    share = level[rows, last] / np.minimum(level[rows, last] - level[rows, after], -1e-9)
    skin = middle + (t[last] + OUT_STEP_MM * np.clip(share, 0, 1))[:, None] * directions
    slope = np.stack([skull.field(skin + e) - skull.field(skin - e) for e in np.eye(3) * 0.5], axis=1)
    return skin, unit(slope), faces


@cache
def _sphere() -> tuple[Points, NDArray[np.intp]]:
    """Even directions (Fibonacci's lattice) and their convex hull's triangles."""
    k = np.arange(AROUND) + 0.5
    up, turn = 1 - 2 * k / AROUND, np.pi * (1 + 5**0.5) * k
    flat = np.sqrt(1 - up**2)
    directions = np.column_stack([flat * np.cos(turn), flat * np.sin(turn), up])
    return directions, np.asarray(ConvexHull(directions).simplices, dtype=np.intp)


def depth_over(skull: Skull, skin: Points, rng: np.random.Generator) -> Points:
    """How long (N,) the coat lies over each place of the skin."""
    eyes = skull.points_mm[[INDEX["eye_outer_left"], INDEX["eye_outer_right"]]]
    nose, stop = skull.points_mm[INDEX["nose_tip"]], skull.points_mm[INDEX["stop"]]
    wide = float(np.linalg.norm(eyes[0] - eyes[1]))
    size = rng.uniform(10, 42)
    ahead = np.clip((skin[:, 1] - stop[1]) / max(float(nose[1] - stop[1]), 1.0), 0, 1)
    upper = 1 / (1 + np.exp(-(skin[:, 2] - stop[2] + 0.35 * wide) / (0.12 * wide)))
    face = (
        1
        - rng.uniform(0.4, 0.85) * upper * np.clip(2 * ahead, 0, 1)
        - rng.uniform(0, 0.5) * ahead * (1 - upper)
    )
    away = np.linalg.norm(skin[:, None] - eyes, axis=2).min(axis=1)
    face *= 1 - 0.6 * np.exp(-((away / (0.3 * wide)) ** 2))
    face *= 1 - 0.93 * np.exp(-((np.linalg.norm(skin - nose, axis=1) / (0.22 * wide)) ** 2))
    way = unit(skin - skin.mean(axis=0))
    folded = way * [0, 1, 1] + np.abs(way) * [1, 0, 0]
    lumps = unit(rng.standard_normal((LUMPS, 3)))
    tall = rng.normal(0, 0.3, LUMPS)
    near = np.exp(-((folded[:, None] - lumps) ** 2).sum(axis=2) / (2 * LUMP_WIDE**2))
    return np.asarray(size * face * np.exp(near @ tall))


def outline_px(
    skull: Skull, surface: Points, faces: NDArray[np.intp], camera: Camera, hair_mm: float
) -> Points:
    """The silhouette (K, 2) px of a coat's surface with ears and neck."""
    mask = np.zeros((camera.height_px, camera.width_px), np.uint8)
    px = camera.project(surface)
    for corner in np.round(px[faces] * 16).astype(np.int32):
        cv2.fillConvexPoly(mask, corner, 255, shift=4)
    p = skull.points_mm
    wide = float(np.ptp(p[:, 0]))
    for side in ("left", "right"):
        base = (p[INDEX[f"ear_front_{side}"]] + p[INDEX[f"ear_back_{side}"]]) / 2
        _thick(mask, camera, base, p[INDEX[f"ear_tip_{side}"]], 10 + 0.4 * hair_mm, 4 + 0.4 * hair_mm)
    neck = p[INDEX["occiput"]] * [0, 1, 1] + [0, 0.15 * wide, -0.4 * wide]
    _thick(
        mask,
        camera,
        neck,
        neck + wide * np.array([0, -0.5, -1.4]),
        0.28 * wide + hair_mm,
        0.4 * wide + hair_mm,
    )
    lines, _ = cv2.findContours(mask, cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE)
    line = max(lines, key=len)[:, 0].astype(float) + 0.5
    return np.asarray(line[:: max(1, len(line) // 700)])


def _thick(
    mask: NDArray[np.uint8], camera: Camera, a: Points, b: Points, at_a_mm: float, at_b_mm: float
) -> None:
    """A limb from a to b as discs."""
    share = np.linspace(0, 1, 40)[:, None]
    px = camera.project(a + share * (b - a))
    scale = camera.focal_px / camera.distance_mm
    for (x, y), s in zip(px, share[:, 0], strict=True):
        if np.isfinite((x, y)).all() and abs(x) < 9000 and abs(y) < 9000:
            cv2.circle(mask, (int(x), int(y)), int(scale * (at_a_mm + s * (at_b_mm - at_a_mm))), 255, -1)
