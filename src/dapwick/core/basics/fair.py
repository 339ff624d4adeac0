"""Fair lines: a drawn contour as a drafter would pull it, corners kept.

A line that was read off a mask or a mesh ripples. It is resampled at even steps and replaced by the line of least
change of curvature (third differences; a discrete minimum-variation curve, Moreton and Séquin, 1992) that stays within
a tolerance of it. Corners that are meant, such as ear tips and where an ear meets the head, part the line and stay.
"""

from __future__ import annotations

import itertools
from typing import Final

import numpy as np
from scipy.linalg import solveh_banded

from dapwick.core.basics.arrays import Array, IntArray

FAIR_MM: Final = 0.7
"""As far as a drawn line may leave what was worked out: the width of a pencil."""
STEPS_A_TOLERANCE: Final = 1.5
"""The line is taken at steps of this many tolerances."""
AT_POINTS: Final = 0.7
"""Of the tolerance, so much is used at the points; the rest is lost between them, where a step cuts a corner."""
FEWEST: Final = 24
LOOKS: Final = 9.0
"""A corner is looked for over so many tolerances to either side."""
CORNER_DEG: Final = 62.0
WRAPS: Final = 0.3
"""Of a line without a corner, so much of it is taken again at either end, so that it closes fairly."""
SOFTEST, STIFFEST = 1e-1, 1e7
ROUNDS: Final = 9
HALF_BAND: Final = 3
THIRD: Final = (-1.0, 3.0, -3.0, 1.0)
"""Third difference."""


def fair(line: Array, tolerance: float) -> Array:
    """The same closed line (N, 2) without ripples, nowhere farther off than the tolerance (both in one unit); (M, 2)
    at even steps. Lines of fewer than three points come back as they are."""
    if len(line) < 3:
        return line
    places = resampled(line, STEPS_A_TOLERANCE * tolerance)
    pulled = AT_POINTS * tolerance
    corners = corners_of(places, round(LOOKS / STEPS_A_TOLERANCE))
    if len(corners) == 0:
        wrap = max(int(WRAPS * len(places)), HALF_BAND + 1)
        longer = np.concatenate([places[-wrap:], places, places[:wrap]])
        return _pulled(longer, pulled)[wrap:-wrap]
    turned = np.roll(places, -corners[0], axis=0)
    ends = [*(corners - corners[0]), len(places)]
    closed = np.concatenate([turned, turned[:1]])
    parts = [_pulled(closed[a : b + 1], pulled)[:-1] for a, b in itertools.pairwise(ends)]
    return np.concatenate(parts)


def resampled(line: Array, step: float) -> Array:
    """A closed line (N, 2) at even steps of about `step`."""
    closed = np.vstack([line, line[:1]])
    along = np.concatenate([[0.0], np.cumsum(np.linalg.norm(np.diff(closed, axis=0), axis=1))])
    at = np.linspace(0.0, along[-1], max(int(along[-1] / step), FEWEST), endpoint=False)
    return np.column_stack([np.interp(at, along, closed[:, k]) for k in (0, 1)])


def turning_deg(line: Array, reach: int) -> Array:
    """How sharply a closed line (N, 2) turns at each of its points, between the chords of `reach` steps behind and
    ahead; (N,) degrees, positive one way round."""
    behind = line - np.roll(line, reach, axis=0)
    ahead = np.roll(line, -reach, axis=0) - line
    cross = behind[:, 0] * ahead[:, 1] - behind[:, 1] * ahead[:, 0]
    return np.asarray(np.degrees(np.arctan2(cross, (behind * ahead).sum(axis=1))))


def corners_of(line: Array, reach: int) -> IntArray:
    """Indices of the corners of a closed line (N, 2) at even steps: where it turns most, and by CORNER_DEG at least."""
    sharp = np.abs(turning_deg(line, reach))
    around = np.stack([np.roll(sharp, k) for k in range(-reach, reach + 1)])
    return np.flatnonzero((sharp >= CORNER_DEG) & (sharp >= around.max(axis=0)))


def sign_changes(line: Array, reach: int = 2, flat_deg: float = 0.6) -> int:
    """How often the curvature of a closed line (N, 2) changes its sign: a round has none, a ripple has two."""
    turning = turning_deg(line, reach)
    told = np.sign(turning[np.abs(turning) > flat_deg])
    return int((told != np.roll(told, 1)).sum()) if len(told) else 0


def _pulled(places: Array, tolerance: float) -> Array:
    """An open line (N, 2) pulled as stiff as the tolerance lets it; its ends stay."""
    if len(places) <= HALF_BAND + 1:
        return places
    low, high = np.log(SOFTEST), np.log(STIFFEST)
    found = places
    for _ in range(ROUNDS):
        middle = (low + high) / 2
        tried = _stiff(places, float(np.exp(middle)))
        if float(np.linalg.norm(tried - places, axis=1).max()) <= tolerance:
            found, low = tried, middle
        else:
            high = middle
    return found


def _stiff(places: Array, weight: float) -> Array:
    """The line q that minimises Σ|q - p|² + weight · Σ|Δ³q|², its ends held (penalised smoothing; Eilers, 2003)."""
    many = len(places)
    band = np.zeros((HALF_BAND + 1, many))
    for i, one in enumerate(THIRD):
        for j, other in enumerate(THIRD[i:], start=i):
            band[HALF_BAND - (j - i), j : many - HALF_BAND + j] += weight * one * other
    held = np.ones(many)
    held[[0, -1]] = weight * 1e6
    band[HALF_BAND] += held
    return np.asarray(solveh_banded(band, held[:, None] * places))
