"""Where on a head its colours lie."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from .dog import Dog, HeadForm
from .form import SIDES, Points, ear_field, ear_form, eye_centre

Weights = NDArray[np.float64]


def ear_share(head: HeadForm, p: Points) -> Points:
    """1 on the ear leather, 0 a centimetre away from it; the base counts as skull."""
    share = np.zeros(len(p))
    for _, side in SIDES:
        ear = ear_form(head, side)
        away = np.linalg.norm(p - ear.root, axis=1)
        near = np.clip(1.0 - ear_field(head, p, side) / 6.0, 0.0, 1.0)
        share = np.maximum(share, near * np.clip((away - 8.0) / 12.0, 0.0, 1.0))
    return share


def tones_at(dog: Dog, roots: Points, rng: np.random.Generator) -> NDArray[np.int64]:
    """Index of each hair's tone. Every pattern but `mixed` puts the tones where its kind of dog has them."""
    share = np.array([t.share for t in dog.coat.tones])
    weight = np.tile(share / share.sum(), (len(roots), 1))
    laid = PATTERNS.get(dog.coat.pattern)
    if laid is not None:
        weight = laid(dog, roots, weight)
    edge = np.cumsum(weight, axis=1)
    return np.asarray(
        (rng.random(len(roots))[:, None] * edge[:, -1:] > edge).sum(axis=1).clip(0, len(share) - 1)
    )


def _between(dog: Dog, first: Points, left_over: float = 0.0) -> Weights:
    """Weights with the first tone by `first` (N,), 0..1, and the others by their shares elsewhere."""
    share = np.array([t.share for t in dog.coat.tones])
    rest = np.array([left_over, *share[1:]]) / (left_over + share[1:].sum())
    return np.asarray(first[:, None] * np.eye(len(share))[0] + (1 - first)[:, None] * rest)


def _parti(dog: Dog, roots: Points, weight: Weights) -> Weights:
    head, (x, y, z) = dog.head, roots.T
    eyes = np.minimum(*(np.linalg.norm(roots - eye_centre(head, s), axis=1) for _, s in SIDES))
    blaze = np.abs(x + 3 * np.sin(y / 19)) - 9 - 5 * np.sin(z / 23 + 1)
    patch = np.clip(np.minimum(blaze / 5, (6 - y) / 10) + 0.25 * np.sin(eyes / 9), 0, 1)
    patch = np.maximum(patch * np.clip((z + 70) / 20, 0, 1), np.clip(ear_share(head, roots) * 2, 0, 1))
    return _between(dog, 1 - patch)


def _saddle(dog: Dog, roots: Points, weight: Weights) -> Weights:
    _, y, z = roots.T
    on_skull = 1 - ear_share(dog.head, roots)
    dark = np.clip((-30 - y) / 30, 0, 1) * np.clip((z + 12) / 14, 0, 1) * on_skull * 0.8
    return _between(dog, dark, 0.06)


def _frosted(dog: Dog, roots: Points, weight: Weights) -> Weights:
    _, y, z = roots.T
    pale = np.clip((y + 6) / 30, 0, 0.9) + 0.6 * np.exp(-0.5 * np.square((y + 10) / 8)) * (z > 0)
    pale = pale.clip(0, 1)[:, None]
    return np.asarray((1 - pale) * weight + pale * np.eye(weight.shape[1])[-1])


def _mask(dog: Dog, roots: Points, weight: Weights) -> Weights:
    """A dark muzzle, and dark round the eyes."""
    _, y, z = roots.T
    eyes = np.minimum(*(np.linalg.norm(roots - eye_centre(dog.head, s), axis=1) for _, s in SIDES))
    return _between(dog, np.maximum(np.clip((y - 2) / 10, 0, 1) * (z < 6), np.clip((20 - eyes) / 8, 0, 1)))


def _spots(dog: Dog, roots: Points, weight: Weights) -> Weights:
    """Patches of any size and place."""
    return _between(dog, np.clip(4 * _clouds(dog, roots, np.random.default_rng(dog.seed + 8)), 0, 1))


def _brindle(dog: Dog, roots: Points, weight: Weights) -> Weights:
    rng = np.random.default_rng(dog.seed + 8)
    wave = roots @ rng.normal(0, 0.35, 3) + 3 * _clouds(dog, roots, rng)
    return _between(dog, np.clip(1.5 * np.sin(wave), 0, 1))


def _points(dog: Dog, roots: Points, weight: Weights) -> Weights:
    """Dark, with light brows, cheeks, muzzle sides and throat."""
    head, (x, y, z) = dog.head, roots.T
    brows = np.minimum(*(np.linalg.norm(roots - eye_centre(head, s) - [0, 0, 16], axis=1) for _, s in SIDES))
    sides = np.clip((y + 2) / 10, 0, 1) * np.clip((np.abs(x) - 7) / 5, 0, 1)
    below = np.clip((-head.muzzle_drop - 12 - z) / 8, 0, 1)
    return _between(dog, 1 - np.maximum.reduce([sides, below, np.clip((9 - brows) / 3, 0, 1)]))


def _clouds(dog: Dog, p: Points, rng: np.random.Generator) -> Points:
    """A smooth random field about 0, some centimetres from crest to crest."""
    waves = rng.normal(0, rng.uniform(0.02, 0.07), (5, 3))
    return np.asarray(np.sin(p @ waves.T + rng.uniform(0, 2 * np.pi, 5)).sum(axis=1) / 5)


PATTERNS = {
    "parti": _parti, "saddle": _saddle, "frosted": _frosted, "mask": _mask, "spots": _spots, "brindle": _brindle,
    "points": _points,
}  # fmt: skip
