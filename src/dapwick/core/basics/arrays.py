"""Array types and the two small gadgets every part of the core needs."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]
IntArray = NDArray[np.intp]
BoolArray = NDArray[np.bool_]

COMPLEX_STEP = 1e-30


def frozen(a: Array) -> Array:
    """The same array (any shape), read-only: results are not edited after they are given out."""
    a = np.asarray(a)
    a.setflags(write=False)
    return a


def gradient(of: Callable[[NDArray[np.complex128]], NDArray[np.complex128]], at: Array) -> Array:
    """Derivative (outputs, inputs) of `of` at `at` by the complex step: exact to rounding.

    `of` maps (batch, inputs) to (batch, outputs) and must be analytic: sums, products, roots,
    no abs(), no comparisons (Squire and Trapp, 1998).
    """
    steps = at.astype(np.complex128) + 1j * COMPLEX_STEP * np.eye(at.size)
    return np.asarray(of(steps).imag.T / COMPLEX_STEP, dtype=np.float64)


def unit(v: Array) -> Array:
    """Rows (…, 3) scaled to length 1."""
    return np.asarray(v / np.maximum(np.linalg.norm(v, axis=-1, keepdims=True), 1e-12))
