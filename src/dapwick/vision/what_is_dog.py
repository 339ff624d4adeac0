"""Each pixel's chance of dog, joined from what stands out, the first guesses and the places known to be dog."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Final

import cv2
import numpy as np
from numpy.typing import NDArray

from dapwick.core.basics.arrays import Array
from dapwick.vision.photo import Pixels
from dapwick.vision.salient import close_look, put_away, whole_look

SURELY: Final = 0.99
"""No look is surer than this, so that none overrules the others by a rounded one."""
LEAST_COVERED: Final = 0.7
"""A look that takes fewer of the known places for dog saw something else."""
SOFT_SHARE: Final = 0.006
"""Of the photo's longer side: what stands out is told with edges sharper than they are known, a few hairs inside."""
BESIDE_GUESSES: Final = 0.5
"""What a look counts beside first guesses that agree: they know better where hair covers half of the ground."""
APART, AGREED = 0.5, 0.8
"""Overlap with what stands out below which first guesses do not count, and from which they count in full."""
Layer = NDArray[np.float32]
Weighed = tuple[Layer, float]


def chance_of_dog(rgb: Pixels, places_px: Array, guessed: Array | None, close: bool = True) -> Array | None:
    """The chance (height, width), or None where nothing that stands out lies under the places.

    places_px (N, 2): where the dog is known or thought to be; guessed (height, width): chance of dog by the first
    guesses, if any; close: the places are sure enough to look closer about them.
    """
    looks = [softened(look) for look in (whole_look(rgb), *([close_look(rgb, places_px)] if close else []))]
    put_away()
    weighed = [(look, covered(look, places_px)) for look in looks]
    good = [(look, share) for look, share in weighed if share >= LEAST_COVERED]
    if guessed is None:
        return joined(good) if good else None
    mine = np.asarray(guessed, np.float32)
    beside = [(look, BESIDE_GUESSES * share) for look, share in good]
    return joined([*beside, (mine, _agreed(mine, good[-1][0]) if good else 1.0)])


def softened(look: Layer) -> Layer:
    """A look with its edges as wide as they are unsure; where it does not reach it still has no say."""
    there = np.isfinite(look)
    blurred = cv2.GaussianBlur(np.where(there, look, 0.0), (0, 0), SOFT_SHARE * max(look.shape))
    return np.asarray(np.where(there, blurred, np.nan), np.float32)


def covered(look: Layer, places_px: Array) -> float:
    """Share of the places within a look that it takes for dog; 0 where it reaches none of them."""
    rows, columns = (
        np.clip(places_px[:, axis].round().astype(int), 0, look.shape[side] - 1)
        for axis, side in ((1, 0), (0, 1))
    )
    seen = look[rows, columns]
    seen = seen[np.isfinite(seen)]
    return float((seen > 0.5).mean()) if len(seen) else 0.0


def joined(looks: Sequence[Weighed]) -> Array:
    """Looks (height, width) by weight, as a mean of log odds; a look that does not reach a pixel has no say there."""
    total = np.zeros(looks[0][0].shape)
    weight = np.full(total.shape, 1e-9)
    for look, share in looks:
        there = np.isfinite(look)
        chance = np.clip(np.where(there, look, 0.5), 1 - SURELY, SURELY)
        total += share * there * np.log(chance / (1 - chance))
        weight += share * there
    return np.asarray(1 / (1 + np.exp(-total / weight)))


def _agreed(guessed: Layer, look: Layer) -> float:
    """How much first guesses count beside a look: by how far both take the same pixels for dog."""
    there = np.isfinite(look)
    mine, theirs = (guessed > 0.5) & there, (look > 0.5) & there
    overlap = (mine & theirs).sum() / max(int((mine | theirs).sum()), 1)
    return float(np.clip((overlap - APART) / (AGREED - APART), 0.0, 1.0))
