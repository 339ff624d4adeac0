"""What the solved head says against single marks, hand measures and cards; and what is still missing."""

from __future__ import annotations

import numpy as np

from dapwick.core.arrays import Array, BoolArray
from dapwick.core.camera import rotation_from
from dapwick.core.findings import Finding
from dapwick.core.marks import MARK_IDS, PAIRS, words_for
from dapwick.core.problem import Problem


def set_aside(problem: Problem, readings: Array, heeded: BoolArray) -> BoolArray:
    """Which rows of the readings are a slip of the hand. Of those that count, the worst mark of each photo
    past `flagged_at`; of those set aside before, the ones still past it. Where hand measures and scale cards
    disagree, the marks that were measured between bend first and are not blamed for it."""
    off, limit = _mark_distances(problem, readings), problem.tol.flagged_at
    counted = heeded[: 2 * len(off)].reshape(-1, 2)[:, 0]
    slipped = ~counted & (off > limit)
    blamed = counted.copy()
    if (np.abs(readings[2 * len(off) :]) > limit).any():
        blamed &= ~np.isin(problem.mark_of, [*problem.hand_from, *problem.hand_to])
    slipped[_worst_per_photo(problem, np.where(blamed, off, 0.0), limit)] = True
    aside = np.zeros(problem.robust_rows, dtype=bool)
    aside[: 2 * len(off)] = np.repeat(slipped, 2)
    return aside


def _mark_distances(problem: Problem, readings: Array) -> Array:
    """How far each placed mark lies from where the head pictures it, in its σ."""
    return np.asarray(np.linalg.norm(readings[: 2 * len(problem.photo_of)].reshape(-1, 2), axis=1))


def contradictions(problem: Problem, x: Array, readings: Array, heeded: BoolArray) -> list[Finding]:
    """Marks and hand measures that the rest contradicts, and points behind their camera."""
    n, limit = len(problem.photo_of), problem.tol.flagged_at
    off = _mark_distances(problem, readings)
    slipped = np.flatnonzero(~heeded[: 2 * n].reshape(-1, 2)[:, 0]).tolist()
    found = [_mark_off(problem, i, off[i]) for i in slipped]
    hands = readings[2 * n : 2 * n + len(problem.measures)]
    for m, r in zip(problem.measures, hands, strict=True):
        if abs(r) > limit:
            found.append(
                Finding(
                    "hand_measure_contradicts",
                    f"{words_for(m.from_mark)} to {words_for(m.to_mark)}: {m.mm:g} mm typed, the photos say "
                    f"{m.mm + r * m.sigma_mm:.0f} mm. Measure again, or check these two marks.",
                    mark=m.from_mark,
                )
            )
    found += _cards_off(problem, readings)
    points, w, t, _ = problem.unpack(x)
    found += _uneven_pairs(problem, points)
    depth = np.einsum(
        "oj,oj->o", (rotation_from(w) @ problem.rotations)[problem.photo_of][:, 2], points[problem.mark_of]
    )
    behind: BoolArray = depth + t[problem.photo_of, 2] <= 1.0
    return found + [
        Finding(
            "behind_camera",
            f"{problem.photos[i].name}: marks fall behind the camera. Check the photo's view and marks.",
            problem.photos[i].name,
        )
        for i in sorted(set(problem.photo_of[behind].tolist()))
    ]


def _cards_off(problem: Problem, readings: Array) -> list[Finding]:
    first = 2 * len(problem.photo_of) + len(problem.measures)
    off = readings[first:]
    return [
        Finding(
            "card_contradicts",
            f"{problem.photos[i].name}: the scale card and the rest disagree on the size by "
            f"{abs(np.expm1(r * sigma)):.0%}. Was the card level with the eye, and printed at 100 %?",
            problem.photos[i].name,
        )
        for i, r, sigma in zip(problem.carded, off, problem.card_sigma, strict=True)
        if abs(r) > problem.tol.flagged_at
    ]


def _uneven_pairs(problem: Problem, points: Array) -> list[Finding]:
    """Pairs that stand farther from mirroring each other than heads do: a slip, or a real unevenness. A bone
    that is known already has been looked at for that."""
    if not problem.prior.mirrors:
        return []
    left, right = (np.array(side) for side in zip(*PAIRS, strict=True))
    apart = np.linalg.norm(points[left] - points[right] * [-1, 1, 1], axis=1) / problem.tol.symmetry_mm
    placed = {MARK_IDS[i] for i in problem.mark_of}
    found = []
    for mark, by in zip([MARK_IDS[i] for i in left], apart, strict=True):
        if by > problem.tol.uneven_at and mark in placed:
            words = words_for(mark).removesuffix(", left")
            message = (
                f"The {words}s stand {by * problem.tol.symmetry_mm:.0f} mm away from mirroring each other. "
                "Look at both marks again; if they are right, the head is uneven there."
            )
            found.append(Finding("uneven_pair", message, mark=mark))
    return found


def _worst_per_photo(problem: Problem, off: Array, limit: float) -> list[int]:
    """One culprit a photo: a single slip bends its neighbours, which are not to blame."""
    worst = []
    for i in range(len(problem.photos)):
        rows = np.flatnonzero(problem.photo_of == i)
        top = int(rows[np.argmax(off[rows])])
        if off[top] > limit:
            worst.append(top)
    return worst


def _mark_off(problem: Problem, row: int, off: float) -> Finding:
    photo, mark = problem.photos[problem.photo_of[row]], MARK_IDS[problem.mark_of[row]]
    return Finding(
        "mark_off",
        f"{photo.name}: {words_for(mark)} is {off:.0f} times farther off than such a mark "
        "usually is, so it is left out. Look at it again.",
        photo.name,
        mark,
    )


def missing(problem: Problem) -> list[Finding]:
    """What would have to be measured or photographed for sizes and depth to be more than a guess."""
    found = []
    if not (problem.measures or len(problem.carded) or problem.prior.knows_size):
        found.append(
            Finding(
                "no_scale",
                "No measure taken by hand yet, so sizes are a guess. Measure one distance, best across the "
                "outer eye corners, or hold the scale card beside the eye in a photo.",
            )
        )
    if len({p.view for p in problem.photos}) == 1 and problem.prior.mirrors:
        found.append(
            Finding("depth_unknown", "Only one view is marked, so depth is a guess. Mark a second view.")
        )
    return found
