"""The small network behind the first guesses: where each mark lies, what is dog, which view and state
a photo shows.

An encoder to an eighth, a decoder back to a quarter with skips; plain 3 × 3 convolutions and rectifiers.
Its weights are trained on simulated dogs by tools/train_guess.py and ship as float16; this is the forward
pass alone, in NumPy.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from pathlib import Path
from typing import Final

import numpy as np
from numpy.typing import NDArray

SIDE_PX: Final = 128
CELLS: Final = 32
WEIGHTS: Final = Path(__file__).parent / "guess-weights.npz"
Weights = Mapping[str, NDArray[np.float32]]
Layer = NDArray[np.float32]


@cache
def weights() -> Weights:
    with np.load(WEIGHTS) as stored:
        return {key: stored[key].astype(np.float32) for key in stored.files}


@dataclass(frozen=True)
class Reading:
    """Logits: heat (32, 32, marks), dog (32, 32), view (7,), wet."""

    heat: Layer
    dog: Layer
    view: Layer
    wet: float


def forward(picture: Layer, w: Weights) -> Reading:
    """What the network reads from a picture (128, 128, 3) of values 0..1."""
    a = _conv(picture - 0.5, w, "a", stride=2)
    b = _conv(a, w, "b", stride=2)
    b = _conv(b, w, "b2")
    c = _conv(_conv(b, w, "c", stride=2), w, "c2")
    d = _conv(_conv(c, w, "d", stride=2), w, "d2")
    up = _conv(np.concatenate([_doubled(d), c], axis=2), w, "e")
    up = _conv(np.concatenate([_doubled(up), b], axis=2), w, "f")
    heat = up @ w["heat_k"] + w["heat_b"]
    pooled = d.mean(axis=(0, 1)) @ w["told_k"] + w["told_b"]
    return Reading(heat[:, :, :-1], heat[:, :, -1], pooled[:-1], float(pooled[-1]))


def _conv(x: Layer, w: Weights, name: str, stride: int = 1) -> Layer:
    """3 × 3 convolution with the borders of zeros that keep the size, then rectified.

    With stride 2 an even side is padded on the far border alone, as the training's library does.
    """
    kernel, bias = w[f"{name}_k"], w[f"{name}_b"]
    near = 1 if stride == 1 else 0
    padded = np.pad(x, ((near, 1), (near, 1), (0, 0)))
    windows = np.lib.stride_tricks.sliding_window_view(padded, (3, 3), axis=(0, 1))[::stride, ::stride]
    rows, columns = windows.shape[:2]
    flat = windows.transpose(0, 1, 3, 4, 2).reshape(rows * columns, -1)
    out = flat @ kernel.reshape(-1, kernel.shape[3]) + bias
    return np.asarray(np.maximum(out, 0.0).reshape(rows, columns, -1))


def _doubled(x: Layer) -> Layer:
    return x.repeat(2, axis=0).repeat(2, axis=1)
