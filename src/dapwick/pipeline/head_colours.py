"""The dog's own colours on its head: each place of the coat takes its colour from the photos that see it, light and
shade taken out; what no photo sees is like the other side, or like what lies next to it."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Final

import cv2
import numpy as np
from scipy.spatial import cKDTree

from dapwick.core.basics.arrays import Array, BoolArray, IntArray
from dapwick.core.outlines.ear_cut import EAR_VERTICES
from dapwick.core.outlines.effects import ears_now
from dapwick.core.outlines.ground import Ground
from dapwick.pipeline.cut_photo import normals
from dapwick.pipeline.head_model import HeadModel, head_faces
from dapwick.vision.mesh_image import faces_seen
from dapwick.vision.photo import Pixels
from dapwick.vision.rim import filled

FACING: Final = 0.2
"""A place is seen where it faces the camera at least so much (cosine)."""
HIDDEN_MM: Final = 14.0
"""What lies this much behind what is seen there is hidden."""
SEEN_SIDE_PX: Final = 360
BLUR_MM: Final = 2.5
EDGE_MM: Final = 4.0
"""Single hairs are drawn anew; the photo gives the colour of a lock."""
MOST_SHADE: Final = 0.3
"""So much darker or lighter than the mean light and shade may be taken to be, as log."""
USUAL: Final = (176.0, 152.0, 122.0)
"""A coat of which no photo tells the colour."""
USUAL_LEATHER: Final = (30.0, 27.0, 28.0)
LIGHTEST_LEATHER: Final = 90.0
NEAR_NOSE_MM: Final = 11.0
STEADY: Final = 40.0
"""Pulls the light's slope toward none: a saddle is not a shadow."""


@dataclass(frozen=True)
class HeadColours:
    """0 to 255. hair (V + 2·E, 3): over the skin's places and then both ears'; leather (3,): the nose's."""

    hair: Array
    leather: Array


def colours_of(model: HeadModel, photos: Mapping[str, Callable[[], Pixels]]) -> HeadColours:
    """photos: what reads each, by name."""
    ground = model.ground
    worn = _worn(ground)
    faces, slopes = head_faces(ground), normals(worn, head_faces(ground))
    total, weight = np.zeros((len(worn), 3)), np.zeros(len(worn))
    for photo, camera in model.seen:
        if photo.name not in photos:
            continue
        rgb = photos[photo.name]()
        larger = rgb.shape[1] / camera.width_px
        away = np.linalg.norm(worn - camera.centre_mm, axis=1)
        facing = ((camera.centre_mm - worn) * slopes).sum(axis=1) / away
        places = camera.project(worn) * larger
        edge = next((e.line_px for e in model.edges if e.camera is camera), None)
        px_a_mm = larger * camera.px_a_mm
        hair = _hair(edge if edge is None else edge * larger, rgb.shape[:2], EDGE_MM * px_a_mm)
        seen = _in_sight(places, away, faces, hair, facing)
        if not seen.any():
            continue
        found = _without_light(_sampled(rgb, hair, places[seen], BLUR_MM * px_a_mm), slopes[seen])
        share = facing[seen] ** 2
        total[seen] += share[:, None] * found
        weight[seen] += share
    bare = np.flatnonzero(ground.bare)
    nose = bare[_near_nose(ground, bare) & (weight[bare] > 0)]
    leather = total[nose].sum(axis=0) / weight[nose].sum() if len(nose) else np.array(USUAL_LEATHER)
    weight[bare], total[bare] = 0.0, 0.0
    return HeadColours(_filled(total, weight, worn, ground), np.minimum(leather, LIGHTEST_LEATHER))


def _near_nose(ground: Ground, at: IntArray) -> BoolArray:
    nose = (ground.face.at("nose_tip") + ground.face.at("nose_top")) / 2
    off = np.linalg.norm(ground.skin.vertices_mm[at] - nose, axis=1)
    return np.asarray(off < NEAR_NOSE_MM)


def _worn(ground: Ground) -> Array:
    skin = ground.skin
    outside = skin.vertices_mm + ground.coat.depth_mm[:, None] * skin.outward
    return np.concatenate([outside, *ears_now(ground)])


def _hair(edge: Array | None, shape: tuple[int, ...], within_px: float) -> BoolArray:
    """Pixels (height, width) of the dog that lie well inside its edge: past it the wall shows through single hairs."""
    if edge is None or len(edge) < 3:
        return np.ones(shape, bool)
    inside = filled(edge, shape).astype(np.uint8)
    return np.asarray(cv2.distanceTransform(inside, cv2.DIST_L2, 3) > within_px)


def _in_sight(places: Array, away: Array, faces: IntArray, hair: BoolArray, facing: Array) -> BoolArray:
    """Vertices (V,) that a photo sees: they face it, lie in it on hair, and nothing lies before them."""
    height, width = hair.shape
    inside = np.isfinite(places).all(axis=1) & (places >= 2).all(axis=1)
    inside &= (places[:, 0] < width - 3) & (places[:, 1] < height - 3)
    columns, rows = np.round(np.where(inside[:, None], places, 2)).astype(int).T
    inside &= hair[rows, columns]
    scale = SEEN_SIDE_PX / float(np.ptp(places[inside], axis=0).max()) if inside.sum() > 2 else 1.0
    low = places[inside].min(axis=0) if inside.any() else np.zeros(2)
    small = (places - low) * scale + 2
    image = faces_seen(small, away, faces, (SEEN_SIDE_PX + 6, SEEN_SIDE_PX + 6))
    x, y = np.clip(np.round(np.nan_to_num(small)).astype(int), 0, SEEN_SIDE_PX + 5).T
    nearest = np.where(image[y, x] >= 0, away[faces[image[y, x]]].mean(axis=1), np.inf)
    return np.asarray(inside & (facing > FACING) & (away < nearest + HIDDEN_MM))


def _sampled(rgb: Pixels, hair: BoolArray, places: Array, blur_px: float) -> Array:
    """Colours (N, 3) of locks: means over the hair around places (N, 2)."""
    weight = cv2.GaussianBlur(hair.astype(np.float32), (0, 0), blur_px)
    total = cv2.GaussianBlur(rgb.astype(np.float32) * hair[..., None].astype(np.float32), (0, 0), blur_px)
    x, y = np.round(places).astype(int).T
    return np.asarray(total[y, x] / np.maximum(weight[y, x], 1e-6)[:, None], dtype=float)


def _without_light(colours: Array, slopes: Array) -> Array:
    """Colours (N, 3) as under even light: what brightness follows from the slope alone is taken out."""
    bright = np.log(np.maximum(colours.mean(axis=1), 4.0))
    off = bright - bright.mean()
    pull = slopes.T @ slopes + STEADY * np.eye(3)
    shade = np.clip(slopes @ np.linalg.solve(pull, slopes.T @ off), -MOST_SHADE, MOST_SHADE)
    return np.asarray(colours * np.exp(-shade)[:, None])


def _filled(total: Array, weight: Array, worn: Array, ground: Ground) -> Array:
    """Where nothing was seen: the other side's colour, else the nearest seen one's."""
    if not (weight > 0).any():
        return np.tile(USUAL, (len(weight), 1))
    mirror = np.concatenate([ground.skin.template.mirror, _other_ear(len(ground.skin.vertices_mm))])
    own, others = weight > 0, weight[mirror] > 0
    colours = total / np.maximum(weight, 1e-9)[:, None]
    colours = np.where((~own & others)[:, None], colours[mirror], colours)
    known = own | others
    _, nearest = cKDTree(worn[known]).query(worn[~known]) if (~known).any() else (None, np.zeros(0, int))
    colours[~known] = colours[known][nearest]
    return np.asarray(np.clip(colours, 0.0, 255.0))


def _other_ear(first: int) -> IntArray:
    """For each vertex of the two ears, the same one of the other."""
    left = np.arange(EAR_VERTICES)
    return np.concatenate([first + EAR_VERTICES + left, first + left])
