"""The network behind the first guesses: where each mark lies, what is dog, which view and state a photo shows.

A backbone that has seen real dogs with a feature pyramid over it, trained by tools/train_guess.py; it ships as ONNX
with its weights in half precision.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache
from pathlib import Path
from typing import Final

import numpy as np
from numpy.typing import NDArray

from dapwick.vision.onnx_network import Layer, OnnxNetwork
from dapwick.vision.photo import Pixels

SIDE_PX: Final = 192
CELLS: Final = 48
MODEL: Final = Path(__file__).parent / "guess.onnx"


@dataclass(frozen=True)
class Reading:
    """Logits: heat (marks, 48, 48), dog (48, 48), view (7,), wet, head (whether there is one at all)."""

    heat: Layer
    dog: Layer
    view: NDArray[np.float64]
    wet: float
    head: float


def read(picture: Pixels) -> Reading:
    """What the network reads from a picture (192, 192, 3) of bytes."""
    maps, told = _network().forward(picture.astype(np.float32) / np.float32(255))
    logits = told[0].astype(float)
    return Reading(maps[0, :-1], maps[0, -1], logits[:-2], float(logits[-2]), float(logits[-1]))


@cache
def _network() -> OnnxNetwork:
    return OnnxNetwork(MODEL, ("maps", "told"))
