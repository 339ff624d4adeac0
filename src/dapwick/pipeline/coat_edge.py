"""The coat's edge on a photo: the one way it is traced, whoever asks for it."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Final

import cv2
import numpy as np

from dapwick.core.basics.arrays import Array
from dapwick.core.basics.marks import MARK_IDS, View
from dapwick.core.head.template import NOT_ON_SKIN
from dapwick.core.solve.joint import HeadSolution
from dapwick.core.solve.observations import PhotoMarks
from dapwick.vision.card import SeenCard
from dapwick.vision.edge import NoEdge, trace_edge
from dapwick.vision.guess import NoGuess, dog_chance, guess_marks
from dapwick.vision.photo import Pixels
from dapwick.vision.what_is_dog import chance_of_dog

Places = Mapping[str, tuple[float, float]]
Progress = Callable[[float], None]
QUIETLY: Final[Progress] = lambda share: None  # noqa: E731


def coat_edge(
    rgb: Pixels,
    seeds: Places,
    guessed: Array | None,
    card: SeenCard | None,
    progress: Progress = QUIETLY,
    close: bool = True,
) -> Array | NoEdge:
    """The coat's silhouette (N, 2) px. seeds: places on the dog by mark, px; guessed (height, width): each pixel's
    chance of dog by the first guesses; card: a scale card in the photo, which is no dog; close: the seeds are marks,
    not guesses alone, so a closer look is taken about them."""
    chance = (
        chance_of_dog(rgb, np.array(list(seeds.values())).reshape(-1, 2), guessed, close) if seeds else None
    )
    return trace_edge(rgb, seeds, None if chance is None else without_card(chance, card), progress)


def guessed_chance(rgb: Pixels, view: View) -> Array | None:
    """Each pixel's chance of dog (height, width), guessed from the picture."""
    guess = guess_marks(rgb, view)
    return None if isinstance(guess, NoGuess) else dog_chance(guess, rgb.shape[1], rgb.shape[0])


def without_card(chance: Array, card: SeenCard | None) -> Array:
    """The chance of dog with none where the card lies, whatever lies beside it."""
    if card is None:
        return chance
    left = chance.copy()
    cv2.fillPoly(left, [np.round(card.outline_px).astype(np.int32)], 0.0)
    return left


def edge_seeds(head: HeadSolution, photo: PhotoMarks) -> dict[str, tuple[float, float]]:
    """Places on the dog in a photo: the marks placed on it and where the others are expected, so that a
    photo with little more than eyes and nose marked is not taken for a small dog. Ear tips count only
    where placed."""
    camera = head.camera_of(photo.name)
    expected = camera.project(head.points_mm) if camera else np.full((len(MARK_IDS), 2), np.nan)
    seeds = {
        mark: (float(x), float(y))
        for mark, (x, y) in zip(MARK_IDS, expected, strict=True)
        if mark not in NOT_ON_SKIN and np.isfinite([x, y]).all()
    }
    return seeds | {mark: (m.x_px, m.y_px) for mark, m in photo.marks.items()}
