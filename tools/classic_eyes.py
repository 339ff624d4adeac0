"""Eyes and nose by classical means alone, to measure the small network against: three dark round places
that lie as two eyes and a nose do.
"""

from __future__ import annotations

from itertools import combinations

import cv2
import numpy as np

from dapwick.vision.photo import Pixels

SIDE_PX = 400
SCALES_PX = (4.0, 5.5, 7.5, 10.0)
KEPT = 14


def eyes_and_nose(rgb: Pixels) -> dict[str, tuple[float, float]] | None:
    """Centres (photo px) of `eye_right`, `eye_left`, `nose` on a front photo; None when nothing fits."""
    scale = SIDE_PX / max(rgb.shape[:2])
    small = cv2.resize(rgb, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA)
    dark = 255.0 - cv2.cvtColor(small, cv2.COLOR_RGB2GRAY).astype(np.float32)
    spots = dark_spots(dark)
    best, found = 0.0, None
    for a, b, nose in combinations(spots, 3):
        for left, right, low in ((a, b, nose), (a, nose, b), (b, nose, a)):
            score = likeness(left, right, low)
            if score > best:
                first, second = sorted((left, right), key=lambda s: s[0])
                best, found = score, (first, second, low)
    if found is None:
        return None
    names = ("eye_right", "eye_left", "nose")
    return {name: (s[0] / scale, s[1] / scale) for name, s in zip(names, found, strict=True)}


def dark_spots(dark: np.ndarray) -> list[tuple[float, float, float, float]]:
    """(x, y, size, strength) of the strongest dark blobs over scales."""
    spots = []
    for s in SCALES_PX:
        ring = s * s * (cv2.GaussianBlur(dark, (0, 0), s) - cv2.GaussianBlur(dark, (0, 0), 1.6 * s))
        top = cv2.dilate(ring, np.ones((9, 9)))
        ys, xs = np.nonzero((ring == top) & (ring > 0))
        spots += [(float(x), float(y), s, float(ring[y, x])) for y, x in zip(ys, xs, strict=True)]
    kept: list[tuple[float, float, float, float]] = []
    for spot in sorted(spots, key=lambda s: -s[3]):
        if all(np.hypot(spot[0] - k[0], spot[1] - k[1]) > 8 for k in kept):
            kept.append(spot)
        if len(kept) == KEPT:
            break
    return kept


def likeness(a, b, nose) -> float:  # type: ignore[no-untyped-def]
    """How much three spots lie as two eyes over a nose; 0 for not at all."""
    apart = np.hypot(a[0] - b[0], a[1] - b[1])
    level = abs(a[1] - b[1]) / max(apart, 1e-6)
    mid = ((a[0] + b[0]) / 2, (a[1] + b[1]) / 2)
    below, aside = nose[1] - mid[1], abs(nose[0] - mid[0])
    if (
        not (20 < apart < 140)
        or level > 0.35
        or not (0.05 * apart < below < 1.3 * apart)
        or aside > 0.35 * apart
    ):
        return 0.0
    alike = min(a[2], b[2]) / max(a[2], b[2])
    return float(alike * min(a[3], b[3]) * nose[3] * (1 - level) * (1 - aside / apart))
