"""First guesses from a photo alone: where the marks lie, what is dog, which view and state it shows.

Two looks: one at the whole photo to find the head, one closer. Each is taken again mirrored and the two
are averaged. A guess is never a mark: it waits until someone accepts it.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache
from typing import Final

import cv2
import numpy as np

from dapwick.core.basics.arrays import Array
from dapwick.core.basics.marks import INDEX, MARK_IDS, VIEWS, View, guided_order, swapped
from dapwick.vision.network import CELLS, SIDE_PX, Reading, read
from dapwick.vision.photo import Pixels
from dapwick.vision.square import LEAST_SIDE_PX, square_cut

VERSION: Final = "guess-3"
CLOSER_SHARE: Final = 2.0
"""Side of the closer look over the span of the marks found first: closer finds eyes better, ears worse."""
LEAST_HEAD: Final = 0.9
"""Chance of a head at all, both looks together, from which guesses are told."""
LEAST_PEAK, PEAKS = 0.045, 8
"""Mean height of the sharpest heat maps of both looks from which they are: below it lie noise, rooms, everyday things,
above it dogs of any hand. The network alone takes noise for a head."""
LEAST_CHANCE: Final = 0.045
FEWEST_MARKS: Final = 3
WINDOW_CELLS: Final = 3.5
SPREAD_CELLS: Final = 9.0
"""Heat further off than this does not widen a mark's σ any more."""
SIGMA_FACTOR: Final = 0.9
"""Told σ over the heat's own spread; set so that errors on another hand's dogs stay in their intervals."""
SIGMA_FLOOR_CELLS: Final = 0.4
VIEW_TEMPERATURE: Final = 0.75
"""Told chances of views are so much surer than the network's own, which is trained on worse pictures than are taken."""
NOTHING: Final = "No dog's head could be made out in this photo."
KEPT_READINGS: Final = 32
"""Pictures whose readings are kept: a photo is sorted, reviewed and traced by one run of the network."""
MIRROR: Final = np.array([INDEX[swapped(m)] for m in MARK_IDS])
MIRROR_VIEW: Final = np.array(
    [VIEWS.index(v.replace("left", "?").replace("right", "left").replace("?", "right")) for v in VIEWS]
)


@dataclass(frozen=True)
class GuessedMark:
    """Where a mark seems to be, photo px, and its standard deviation."""

    x_px: float
    y_px: float
    sigma_px: float


@dataclass(frozen=True)
class Guess:
    """view_chances by view; wet_chance; marks told for the likeliest view; dog (48, 48): chance that a
    cell of the whole photo (its longer side across) is dog."""

    view: View
    view_chances: Mapping[View, float]
    wet_chance: float
    marks: Mapping[str, GuessedMark]
    dog: Array


@dataclass(frozen=True)
class NoGuess:
    """No dog's head could be made out."""

    reason: str


@dataclass(frozen=True)
class _Look:
    """One square look: photo px → look px is a scale about a corner."""

    reading: Reading
    corner_px: Array
    px_per_cell: float

    @property
    def heat(self) -> Array:
        """Chances (marks, 48, 48), each mark's summing to 1."""
        raw = self.reading.heat.reshape(len(MARK_IDS), -1)
        chance = np.exp(raw - raw.max(axis=1, keepdims=True))
        return np.asarray((chance / chance.sum(axis=1, keepdims=True)).reshape(-1, CELLS, CELLS))


def guess_marks(rgb: Pixels, view: View | None = None) -> Guess | NoGuess:
    """What a photo seems to show. view: when it is known already (the slot it lies in)."""
    height, width = rgb.shape[:2]
    whole = _look(rgb, np.array([width / 2, height / 2]), float(max(width, height)))
    first = _marks(whole, view or _likeliest(whole))
    if len(first) < FEWEST_MARKS:
        return NoGuess(NOTHING)
    at = np.array([[m.x_px, m.y_px] for m in first.values()])
    low, high = at.min(axis=0), at.max(axis=0)
    closer = _look(rgb, (low + high) / 2, CLOSER_SHARE * float((high - low).max()))
    sharpness = min(_sharpness(whole), _sharpness(closer))
    if _chance(whole.reading.head + closer.reading.head) < LEAST_HEAD or sharpness < LEAST_PEAK:
        return NoGuess(NOTHING)
    chances = _softmax((whole.reading.view + 2 * closer.reading.view) / (3 * VIEW_TEMPERATURE))
    seen = view or VIEWS[int(chances.argmax())]
    marks = {
        mark: at
        for mark, at in _marks(closer, seen).items()
        if -0.05 * width <= at.x_px <= 1.05 * width and -0.05 * height <= at.y_px <= 1.05 * height
    }
    if len(marks) < FEWEST_MARKS:
        return NoGuess(NOTHING)
    wet = _chance((whole.reading.wet + 2 * closer.reading.wet) / 3)
    dog = 1 / (1 + np.exp(-whole.reading.dog.astype(float)))
    return Guess(seen, dict(zip(VIEWS, chances.tolist(), strict=True)), wet, marks, dog)


def dog_chance(guess: Guess, width: int, height: int) -> Array:
    """The guess's chance of dog spread over a photo of this size, (height, width)."""
    side = max(width, height)
    large = cv2.resize(guess.dog.astype(np.float32), (side, side), interpolation=cv2.INTER_LINEAR)
    top, left = (side - height) // 2, (side - width) // 2
    return np.asarray(large[top : top + height, left : left + width])


def _look(rgb: Pixels, centre_px: Array, side_px: float) -> _Look:
    side_px = max(side_px, LEAST_SIDE_PX)
    picture = square_cut(rgb, centre_px, side_px, SIDE_PX)
    return _Look(_read(picture.tobytes()), centre_px - side_px / 2, side_px / CELLS)


@lru_cache(maxsize=KEPT_READINGS)
def _read(picture: bytes) -> Reading:
    """What the network reads from a picture (SIDE_PX, SIDE_PX, 3) of bytes, straight and mirrored as one."""
    shown = np.frombuffer(picture, np.uint8).reshape(SIDE_PX, SIDE_PX, 3)
    straight, mirrored = read(shown), read(shown[:, ::-1])
    half = np.float32(0.5)
    return Reading(
        np.asarray((straight.heat + mirrored.heat[MIRROR][:, :, ::-1]) * half, np.float32),
        np.asarray((straight.dog + mirrored.dog[:, ::-1]) * half, np.float32),
        (straight.view + mirrored.view[MIRROR_VIEW]) / 2,
        (straight.wet + mirrored.wet) / 2,
        (straight.head + mirrored.head) / 2,
    )


def _sharpness(look: _Look) -> float:
    return float(np.sort(look.heat.max(axis=(1, 2)))[-PEAKS:].mean())


def _likeliest(look: _Look) -> View:
    return VIEWS[int(look.reading.view.argmax())]


def _marks(look: _Look, view: View) -> dict[str, GuessedMark]:
    """Peaks of the heat for the marks told in this view, refined to the mean round the peak."""
    heat = look.heat
    centres = np.arange(CELLS) + 0.5
    found = {}
    for mark in guided_order(view):
        chance = heat[INDEX[mark]]
        row, column = np.unravel_index(int(chance.argmax()), chance.shape)
        near = (np.abs(centres - centres[row])[:, None] < WINDOW_CELLS) & (
            np.abs(centres - centres[column])[None] < WINDOW_CELLS
        )
        weight = chance * near
        total = float(weight.sum())
        if total < LEAST_CHANCE:
            continue
        y, x = float(weight.sum(axis=1) @ centres) / total, float(weight.sum(axis=0) @ centres) / total
        spread = np.square(centres - y)[:, None] + np.square(centres - x)[None]
        cells = SIGMA_FACTOR * float(np.sqrt((chance * np.minimum(spread, SPREAD_CELLS**2)).sum() / 2))
        px = look.corner_px + np.array([x, y]) * look.px_per_cell
        sigma = max(cells, SIGMA_FLOOR_CELLS) * look.px_per_cell
        found[mark] = GuessedMark(float(px[0]), float(px[1]), float(sigma))
    return found


def _chance(logit: float) -> float:
    return float(1 / (1 + np.exp(-logit)))


def _softmax(logits: Array) -> Array:
    chance = np.exp(logits - logits.max())
    return np.asarray(chance / chance.sum())
