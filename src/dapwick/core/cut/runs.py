"""How the length runs over a place: from where it is shortest to where it is longest, in words and on the head."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

import numpy as np

from dapwick.core.basics.arrays import Array
from dapwick.core.basics.marks import INDEX

TELLING_MM: Final = 4.0
"""Past this difference over a place one number would mislead."""
END_SHARE: Final = 0.15
"""The share of a place's skin that counts as either end."""
LANDMARKS: Final = {
    "the ear": ("ear_front", "ear_back"),
    "the eye": ("eye_outer",),
    "the inner corner": ("eye_inner",),
    "the stop": ("stop",),
    "the top": ("crown",),
    "the occiput": ("occiput",),
    "the nose": ("nose_tip", "nose_top"),
    "the lip": ("lip_front",),
    "the lip's corner": ("mouth_corner",),
    "the chin": ("chin",),
    "the jaw's corner": ("jaw_angle",),
    "the throat": ("throat",),
    "the cheek bone": ("cheek",),
}
_BY_ROW: Final = [
    (INDEX[name], words)
    for words, marks in LANDMARKS.items()
    for mark in marks
    for name in (mark, f"{mark}_left", f"{mark}_right")
    if name in INDEX
]
LANDMARK_ROWS: Final = [row for row, _ in _BY_ROW]
LANDMARK_WORDS: Final = [words for _, words in _BY_ROW]
WAYS: Final = (("behind", "in front"), ("below", "above"), ("inside", "outside"))


@dataclass(frozen=True)
class End:
    """One end of a run: mm of hair length, where in words, and where on the skin (head frame, mm)."""

    mm: float
    words: str
    at_mm: tuple[float, float, float]


@dataclass(frozen=True)
class Run:
    """From the shortest end to the longest."""

    short: End
    long: End

    @property
    def words(self) -> str:
        return f"{self.short.mm:.0f} {self.short.words}, {self.long.mm:.0f} {self.long.words}"


def run_over(points_mm: Array, places_mm: Array, length_mm: Array) -> Run | None:
    """The run over places (N, 3) of one head with their lengths (N,); None where one number does for all of them.
    points_mm (marks, 3): the head's marks, by which the ends are named."""
    count = max(1, round(END_SHARE * len(length_mm)))
    order = np.argsort(length_mm, kind="stable")
    ends = order[:count], order[-count:]
    short, long = (float(np.median(length_mm[end])) for end in ends)
    if long - short <= TELLING_MM:
        return None
    here, there = (places_mm[end].mean(axis=0) for end in ends)
    near, far = _called(points_mm, here, there)
    return Run(End(short, near, _triple(here)), End(long, far, _triple(there)))


def _called(points_mm: Array, short: Array, long: Array) -> tuple[str, str]:
    """What the two ends lie nearest to; where that is the same, which of them lies where."""
    near, far = _nearest(points_mm, short), _nearest(points_mm, long)
    if near != far:
        return f"at {near}", f"at {far}"
    apart = [long[1] - short[1], long[2] - short[2], abs(long[0]) - abs(short[0])]
    way = int(np.abs(apart).argmax())
    below, above = WAYS[way] if apart[way] > 0 else WAYS[way][::-1]
    return below, above


def _nearest(points_mm: Array, place: Array) -> str:
    away = np.linalg.norm(points_mm[LANDMARK_ROWS] - place, axis=1)
    return LANDMARK_WORDS[int(away.argmin())]


def _triple(place: Array) -> tuple[float, float, float]:
    return float(place[0]), float(place[1]), float(place[2])
