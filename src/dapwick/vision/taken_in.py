"""The photo of a dog with its coat taken in to a planned outline.

Nothing is cut out and nothing is painted: the picture is drawn in, so that what showed at the old coat's edge shows at
the new one's. Hair between skin and edge is shortened along its own way, wall and body behind follow and settle a
little farther out, eyes and nose stand still. Then light is put on the new form.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

import cv2
import numpy as np
from scipy.ndimage import distance_transform_edt, gaussian_filter

from dapwick.core.basics.arrays import Array, BoolArray, IntArray
from dapwick.vision.mesh_image import carried, faces_seen
from dapwick.vision.photo import Pixels
from dapwick.vision.rim import CutHead, Rim, Worn, rim_of
from dapwick.vision.silhouette import silhouette
from dapwick.vision.spread import spread

FIELD_PX: Final = 170
"""The head's longer side in the grid on which the drawing-in is worked out."""
STILL_MM: Final = 7.0
"""Round a place that stands still."""
JUST_OUTSIDE_MM: Final = 1.6
VARIES_OVER_MM: Final = 5.0
SETTLED: Final = 2.4
"""What lies outside has come to rest this many times as far away as the farthest that is drawn in, and then"""
SETTLED_MM: Final = 30.0
RIM_MM, FACING_MM = 6.0, 20.0
"""From so deep inside the rim the surface's own shift counts, and so deep in full."""
LEANS: Final = 0.02
LIGHT_PX: Final = 2.5
DIMMEST, BRIGHTEST = 0.85, 1.12


@dataclass(frozen=True)
class SeenHead:
    """A head's surface as a photo shows it: places_px (V, 2), away_mm (V,) from the camera, light (V,): how bright
    its slope is."""

    places_px: Array
    away_mm: Array
    light: Array

    def scaled(self, scale: float) -> SeenHead:
        return SeenHead(self.places_px * scale, self.away_mm, self.light)


@dataclass(frozen=True)
class Taking:
    """before, after: the head with the coat as worn, and as planned, over the same vertices; faces (F, 3); ear, fades,
    bare (V,): vertices of an ear, where the head runs into the body, and of leather and eyes; traced (N, 2) px: the
    coat's edge, empty where none was read; still (K, 2) px: what does not move; px_a_mm: scale at the head."""

    before: SeenHead
    after: SeenHead
    faces: IntArray
    ear: BoolArray
    fades: BoolArray
    bare: BoolArray
    traced: Array
    still: Array
    px_a_mm: float


def taken_in(rgb: Pixels, taking: Taking) -> Pixels:
    """The same photo (height, width, 3), its coat taken in."""
    height, width = rgb.shape[:2]
    span = float(np.nanmax(np.ptp(taking.after.places_px, axis=0)))
    scale = min(FIELD_PX / span, 1.0)
    shape = (int(height * scale) + 1, int(width * scale) + 1)
    shift, light = _field(taking, scale, _varies(rgb, shape, scale * taking.px_a_mm))
    back = np.array([[1 / scale, 0.0, 0.0], [0.0, 1 / scale, 0.0]])

    def enlarged(field: Array) -> Array:
        return np.asarray(
            cv2.warpAffine(
                field.astype(np.float32), back, (width, height), flags=cv2.INTER_CUBIC,
                borderMode=cv2.BORDER_REPLICATE,
            )
        )  # fmt: skip

    offset = enlarged(shift) / scale
    x, y = np.meshgrid(np.arange(width), np.arange(height))
    drawn = cv2.remap(
        rgb,
        (x + offset[..., 0]).astype(np.float32),
        (y + offset[..., 1]).astype(np.float32),
        cv2.INTER_CUBIC,
        borderMode=cv2.BORDER_REPLICATE,
    )
    lit = drawn * enlarged(light)[..., None]
    return np.asarray(np.clip(lit, 0, 255).astype(np.uint8))


def _varies(rgb: Pixels, shape: tuple[int, int], px_a_mm: float) -> Array:
    """How much a photo varies round each place of the grid (H, W): the spread of its grey, levels of 255."""
    grey = cv2.resize(cv2.cvtColor(rgb, cv2.COLOR_RGB2GRAY), shape[::-1], interpolation=cv2.INTER_AREA)
    fine = grey.astype(float)
    near = VARIES_OVER_MM * px_a_mm
    mean = gaussian_filter(fine, near)
    return np.asarray(np.sqrt(np.maximum(gaussian_filter(fine**2, near) - mean**2, 0.0)))


def _field(taking: Taking, scale: float, varies: Array) -> tuple[Array, Array]:
    """On the grid: from where each pixel takes its picture (H, W, 2) px, and the change of light (H, W)."""
    shape: tuple[int, int] = varies.shape[:2]
    before, after, faces = taking.before.scaled(scale), taking.after.scaled(scale), taking.faces
    px_a_mm = taking.px_a_mm * scale
    seen = faces_seen(after.places_px, after.away_mm, faces, shape)
    moved = before.places_px - after.places_px
    head_only = faces[~taking.ear[faces].any(axis=1)]
    worn = Worn(
        silhouette(before.places_px, head_only),
        silhouette(before.places_px, faces),
        taking.traced * scale,
        varies,
    )
    cut = CutHead(seen, faces, after.places_px, moved, taking.ear, taking.fades, taking.bare)
    rim = rim_of(silhouette(after.places_px, faces), cut, worn, px_a_mm)
    inside = seen >= 0
    known, values = _known(rim, inside, taking.still * scale, px_a_mm)
    rows, columns = np.nonzero(inside)
    toward = np.zeros((*shape, 2))
    toward[rows, columns] = carried(seen, rows, columns, after.places_px, faces, moved)
    deep_mm = distance_transform_edt(inside) / px_a_mm
    leaning = LEANS * inside * np.clip((deep_mm - RIM_MM) / (FACING_MM - RIM_MM), 0.0, 1.0)
    light = np.ones(shape)
    change = np.clip(after.light / np.maximum(before.light, 1e-6), DIMMEST, BRIGHTEST)
    change = np.where(taking.ear, 1.0, change)[:, None]
    light[rows, columns] = carried(seen, rows, columns, after.places_px, faces, change)[:, 0]
    return spread(known, values, leaning, toward), np.asarray(gaussian_filter(light, LIGHT_PX))


def _known(rim: Rim, inside: BoolArray, still: Array, px_a_mm: float) -> tuple[BoolArray, Array]:
    """Where the drawing-in is known beforehand (H, W), and what it is there (H, W, 2): along the rim and just outside
    it, at what stands still, and far away."""
    shape = inside.shape
    known, values = np.zeros(shape, bool), np.zeros((*shape, 2))

    def pin(places: Array, offsets: Array) -> None:
        x, y = np.clip(np.round(places).astype(int), 0, np.array(shape)[::-1] - 1).T
        known[y, x], values[y, x] = True, offsets

    held = rim.held
    past = rim.places + rim.outward * max(JUST_OUTSIDE_MM * px_a_mm, 1.6)
    loose = rim.from_px + rim.outward * rim.loose_px[:, None]
    x, y = np.clip(np.round(past).astype(int), 0, np.array(shape)[::-1] - 1).T
    cut = held & (rim.loose_px > 0.5) & ~inside[y, x]
    pin(past[cut], loose[cut])
    pin(rim.places[held], rim.from_px[held])
    for place in still:
        spot = np.zeros(shape, np.uint8)
        cv2.circle(spot, (round(place[0]), round(place[1])), max(int(STILL_MM * px_a_mm), 2), 1, -1)
        at = (spot > 0) & inside
        known |= at
        values[at] = 0.0
    farthest = float(np.linalg.norm(rim.from_px, axis=1).max())
    far = distance_transform_edt(~inside) > SETTLED * farthest + SETTLED_MM * px_a_mm
    border = np.ones(shape, bool)
    border[1:-1, 1:-1] = False
    known |= (far | border) & ~inside
    return known, values
