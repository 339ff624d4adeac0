"""A field over a picture that is known in some places and runs smoothly between them."""

from __future__ import annotations

import numpy as np
from scipy.sparse import csc_array
from scipy.sparse.linalg import splu

from dapwick.core.basics.arrays import Array, BoolArray

NEIGHBOURS = ((0, 1), (0, -1), (1, 0), (-1, 0))


def spread(known: BoolArray, values: Array, leaning: Array, toward: Array) -> Array:
    """The field (H, W, K) of least bending (Laplace) through `values` (H, W, K) where `known` (H, W); elsewhere drawn
    toward `toward` (H, W, K) with a weight `leaning` (H, W), 0 for not at all. Something has to be known."""
    free = ~known
    rows, columns = np.nonzero(free)
    many = len(rows)
    number = np.full(known.shape, -1)
    number[free] = np.arange(many)
    weight = leaning[free].astype(float)
    right = weight[:, None] * toward[free]
    ties = []
    for down, across in NEIGHBOURS:
        r, c = rows + down, columns + across
        inside = (r >= 0) & (r < known.shape[0]) & (c >= 0) & (c < known.shape[1])
        me, r, c = np.flatnonzero(inside), r[inside], c[inside]
        weight[me] += 1.0
        tied = free[r, c]
        ties.append((me[tied], number[r[tied], c[tied]]))
        right[me[~tied]] += values[r[~tied], c[~tied]]
    return _solved(values, free, weight, ties, right)


def _solved(
    values: Array, free: BoolArray, weight: Array, ties: list[tuple[Array, Array]], right: Array
) -> Array:
    many = len(weight)
    found = values.astype(float).copy()
    if not many:
        return found
    me = np.concatenate([one for one, _ in ties] + [np.arange(many)])
    other = np.concatenate([two for _, two in ties] + [np.arange(many)])
    entries = np.concatenate([np.full(len(me) - many, -1.0), weight])
    found[free] = splu(csc_array((entries, (me, other)), shape=(many, many))).solve(right)
    return found
