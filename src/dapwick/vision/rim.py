"""The rim of a cut head over a photo: each place of it with the place of the old coat's edge that is brought there."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

import cv2
import numpy as np
from scipy.ndimage import (
    distance_transform_edt,
    gaussian_filter1d,
    map_coordinates,
    median_filter,
    minimum_filter1d,
)

from dapwick.core.basics.arrays import Array, BoolArray, IntArray
from dapwick.core.basics.fair import resampled
from dapwick.vision.mesh_image import carried

STEP_PX: Final = 1.5
SMOOTH: Final = 3.0
"""Steps along the rim over which its outward way is smoothed."""
STEADY: Final = 9
"""Steps of the median that drops single wild readings."""
AGREE_MM: Final = 14.0
"""A traced edge this far from the modelled coat's is another thing's: a body, a lead, the other ear."""
EAR_AGREES_MM: Final = 7.0
REACH_MM: Final = 90.0
CUT_MM: Final = 5.0
"""From this much taken off the edge is scissored: its loose ends are gone too."""
LOOSE_MM: Final = 18.0
"""So far past an edge single hairs stand at most,"""
LOOSE_SHARE, LOOSE_ON_EARS = 0.8, 0.3
"""and so far as a share of what comes off there."""
PLAIN: Final = 10.0
"""Levels of grey over which what lies behind the dog varies, at most, where loose hairs may be pressed into it: grass
and flowers would be drawn to streaks."""
BESIDE_EAR_MM: Final = 16.0
"""Over so much of the rim the cut runs out beside an ear that is left as it is."""
COVERED_MM: Final = 4.0


@dataclass(frozen=True)
class Rim:
    """places (N, 2) px along a cut outline, outward (N, 2) unit; from_px (N, 2): where in the photo what shows there
    stood, as an offset; loose_px (N,): how much of what stood past it goes with it; held (N,): the rim is seen there,
    rather than running into the body."""

    places: Array
    outward: Array
    from_px: Array
    loose_px: Array
    held: BoolArray


@dataclass(frozen=True)
class Worn:
    """The coat before the cut, px: silhouettes of the head alone (N, 2) and of all with its ears, the edge that was
    traced on the photo, empty where there is none, and how much the photo varies round each pixel (height, width),
    levels of grey."""

    head: Array
    whole: Array
    traced: Array
    varies: Array


@dataclass(frozen=True)
class CutHead:
    """The cut head as it is rastered: seen (height, width), the face of each pixel; faces, places_px (V, 2),
    moved_px (V, 2): from there to where the same hair stood before; ear, fades, bare (V,): vertices of an ear,
    those where the head runs into the body, and those of nose leather and eyes, which stand still."""

    seen: IntArray
    faces: IntArray
    places_px: Array
    moved_px: Array
    ear: BoolArray
    fades: BoolArray
    bare: BoolArray


def rim_of(outline: Array, cut: CutHead, worn: Worn, px_a_mm: float) -> Rim:
    """outline (N, 2) px: the cut head's silhouette."""
    places = resampled(outline, STEP_PX)
    outward = outward_of(places)
    rows, columns = _nearest_seen(cut.seen, places - outward)
    corners = cut.faces[cut.seen[rows, columns]]
    ear, fades, bare = (np.asarray(of[corners].all(axis=1)) for of in (cut.ear, cut.fades, cut.bare))
    own = carried(cut.seen, rows, columns, cut.places_px, cut.faces, cut.moved_px)
    shape, reach = cut.seen.shape, int(REACH_MM * px_a_mm)

    def leaves(line: Array) -> Array:
        return _leaves(filled(line, shape), places, outward, reach)

    modelled, among_ears = leaves(worn.head), leaves(worn.whole)
    stood = np.where(ear, among_ears, modelled)
    traced = leaves(worn.traced)
    # Behind a hanging ear the way out of the head leads through the ear: what is seen out there is not the head's.
    covered = ~ear & (_apart(among_ears, modelled) > COVERED_MM * px_a_mm)
    seen = (_apart(traced, stood) < np.where(ear, EAR_AGREES_MM, AGREE_MM) * px_a_mm) & ~covered
    off = np.where(ear, (own * outward).sum(axis=1), np.nan_to_num(modelled))
    share = np.clip(np.abs(off) / (CUT_MM * px_a_mm), 0.0, 1.0)
    farther = _steadied(np.where(seen, share * (traced - stood), 0.0))
    across = np.where(ear[:, None], own, outward * _steadied(np.nan_to_num(modelled))[:, None])
    from_px = np.where(bare[:, None], 0.0, _smoothed(across + outward * farther[:, None]))
    # An ear that is not where it was measured is left as it is: a wrong one is worse than an uncut one.
    left = ear & ~seen
    from_px = from_px * _running_out(left, BESIDE_EAR_MM * px_a_mm)[:, None]
    photographed = _inside(places + from_px, shape)
    edge, most = places + from_px, int(LOOSE_MM * px_a_mm)
    room = _room(filled(worn.traced, shape), edge, outward, most)
    loose = np.minimum(room, np.where(ear, LOOSE_ON_EARS, LOOSE_SHARE) * np.maximum(off, 0.0))
    plain = _at(worn.varies, edge + outward * most) < PLAIN
    loose = minimum_filter1d(np.where(seen & plain & ~bare, loose, 0.0), STEADY, mode="wrap")
    return Rim(places, outward, from_px, _smoothed(loose), photographed & (seen | ~(fades | left)))


def _running_out(left: BoolArray, over_px: float) -> Array:
    """Along a closed line of even steps (N,): 0 where it is left as it is, 1 from `over_px` away from there."""
    if not left.any():
        return np.ones(len(left))
    steps = distance_transform_edt(~np.tile(left, 3))[len(left) : 2 * len(left)]
    return np.asarray(np.clip(steps * STEP_PX / over_px, 0.0, 1.0))


def _inside(places: Array, shape: tuple[int, ...]) -> BoolArray:
    """Which places (N, 2) px lie within the picture, not on its last pixel: what stands on it runs on beyond."""
    return np.asarray(((places > 1.0) & (places < np.array(shape[1::-1]) - 2.0)).all(axis=1))


def _at(picture: Array, places: Array) -> Array:
    """What a picture (height, width) shows at places (N, 2) px, its own border beyond it."""
    return np.asarray(map_coordinates(picture, places.T[::-1], order=1, mode="nearest"))


def _apart(one: Array, other: Array) -> Array:
    return np.asarray(np.nan_to_num(np.abs(one - other), nan=np.inf))


def filled(line: Array, shape: tuple[int, ...]) -> BoolArray:
    """What a closed line (N, 2) px encloses, (height, width)."""
    mask = np.zeros(shape, np.uint8)
    if len(line) > 2:
        cv2.fillPoly(mask, [np.round(line * 16).astype(np.int32)], 1, cv2.LINE_8, 4)
    return np.asarray(mask > 0)


def outward_of(line: Array) -> Array:
    """Unit ways (N, 2) out of a closed line at even steps, smoothed along it."""
    smooth = gaussian_filter1d(line, SMOOTH, axis=0, mode="wrap")
    along = (np.roll(smooth, -1, axis=0) - np.roll(smooth, 1, axis=0)) / 2
    x, y = line.T
    turns = 1.0 if float((x * np.roll(y, -1) - np.roll(x, -1) * y).sum()) > 0 else -1.0
    way = turns * np.column_stack([along[:, 1], -along[:, 0]])
    return np.asarray(way / np.maximum(np.linalg.norm(way, axis=1, keepdims=True), 1e-9))


def _nearest_seen(seen: IntArray, places: Array) -> tuple[IntArray, IntArray]:
    """The pixel nearest to each place (N, 2) that shows the head."""
    rows, columns = distance_transform_edt(seen < 0, return_distances=False, return_indices=True)
    limit = np.array(seen.shape) - 1
    y, x = np.clip(np.round(places[:, ::-1]).astype(int), 0, limit).T
    return rows[y, x], columns[y, x]


def _leaves(mask: BoolArray, places: Array, outward: Array, reach: int) -> Array:
    """How far along its way each place (N, 2) leaves the mask, px; less than 0 where the mask lies behind it, nan where
    it does not leave within reach, or nothing is there."""
    steps = np.arange(-reach, reach + 1)
    at = places[:, None] + outward[:, None] * steps[None, :, None]
    inside = map_coordinates(mask.astype(float), [at[..., 1], at[..., 0]], order=1) > 0.5
    ahead, behind = ~inside[:, reach:], inside[:, reach::-1]
    out = np.where(ahead.any(axis=1), ahead.argmax(axis=1), np.nan)
    back = np.where(behind.any(axis=1), -behind.argmax(axis=1).astype(float), np.nan)
    return np.asarray(np.where(inside[:, reach], out, back))


def _room(mask: BoolArray, edge: Array, outward: Array, most: int) -> Array:
    """How far out of an edge (N, 2) the wall is free before something else of the dog begins, px, at most `most`."""
    steps = np.arange(most + 1)
    at = edge[:, None] + outward[:, None] * steps[None, :, None]
    inside = map_coordinates(mask.astype(float), [at[..., 1], at[..., 0]], order=1) > 0.5
    off = np.cumsum(~inside, axis=1) > 0
    again = off & inside
    return np.asarray(
        np.where(again.any(axis=1), np.maximum(again.argmax(axis=1) - 2, 0), most).astype(float)
    )


def _steadied(along: Array) -> Array:
    return np.asarray(median_filter(along, STEADY, mode="wrap"))


def _smoothed(along: Array) -> Array:
    return np.asarray(gaussian_filter1d(along, SMOOTH, axis=0, mode="wrap"))
