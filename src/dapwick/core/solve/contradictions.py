"""What the solved head says against single marks, hand measures and cards; and what is still missing."""

from __future__ import annotations

from typing import Final

import numpy as np

from dapwick.core.basics.arrays import Array, BoolArray
from dapwick.core.basics.camera import rotation_from
from dapwick.core.basics.findings import Finding
from dapwick.core.basics.marks import MARK_IDS, PAIRS, words_for
from dapwick.core.solve.hand import FELT_OUTWARD
from dapwick.core.solve.prior import SYMMETRY_MM, mirror_rows
from dapwick.core.solve.problem import Problem


def _mark_distances(problem: Problem, readings: Array) -> Array:
    """How far each placed mark lies from where the head pictures it, in its σ."""
    return np.asarray(np.linalg.norm(readings[: 2 * len(problem.photo_of)].reshape(-1, 2), axis=1))


def contradictions(problem: Problem, x: Array, readings: Array, inliers: BoolArray) -> list[Finding]:
    """Marks and hand measures that the rest contradicts, and points behind their camera."""
    n, limit = len(problem.photo_of), problem.tol.flagged_at
    off = _mark_distances(problem, readings)
    slipped = np.flatnonzero(~inliers[: 2 * n].reshape(-1, 2)[:, 0]).tolist()
    found = [_mark_off(problem, i, off[i]) for i in slipped]
    hands = readings[2 * n : 2 * n + len(problem.measures)]
    for i, (m, r) in enumerate(zip(problem.measures, hands, strict=True)):
        if abs(r) > limit or not inliers[2 * n + i]:
            found.append(
                Finding(
                    "hand_measure_contradicts",
                    f"{words_for(m.from_mark)} to {words_for(m.to_mark)}: {m.mm:g} mm typed, the photos say "
                    f"{m.mm + r * m.sigma_mm:.0f} mm. Measure again, or check these two marks.",
                    mark=m.from_mark,
                )
            )
    found += _cards_off(problem, readings, inliers)
    found += felt_outside(problem, x, inliers)
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


def felt_outside(problem: Problem, x: Array, inliers: BoolArray) -> list[Finding]:
    """Where callipers and photos show that what was felt for was marked outside of the bone."""
    found = []
    out = float(x[problem.thumb])
    sigma = float(np.sqrt(np.linalg.inv(problem.information(x, inliers))[problem.thumb, problem.thumb]))
    if out > FELT_TELLING_MM and out > FELT_TELLING * sigma:
        message = (
            f"What was felt for is marked about {out:.0f} mm outside of the bone, by what was measured by hand. That "
            "is reckoned with; press to the bone where you can."
        )
        found.append(Finding("felt_outside", message))
    return found


def felt_one_sided(problem: Problem, points: Array, covariance: Array) -> list[Finding]:
    """Where all that was felt for lies farther out on one side. points (marks, 3) mm, head frame, and their covariance,
    found without leaning on the two sides being alike."""
    if problem.prior.known:
        return []
    placed = set(problem.mark_of[np.abs(problem.outward).any(axis=1)].tolist())
    pairs = [pair for pair in PAIRS if placed.issuperset(pair)]
    if len(pairs) < FEWEST_PAIRS:
        return []
    along = np.zeros_like(points)
    for left, right in pairs:
        along[left], along[right] = FELT_OUTWARD[left] / len(pairs), -FELT_OUTWARD[right] / len(pairs)
    most = float((along * points).sum())
    spread = float(np.sqrt(along.ravel() @ covariance @ along.ravel()))
    if abs(most) < FELT_TELLING_MM or abs(most) < ONE_SIDED_AT * spread:
        return []
    side = "left" if most > 0 else "right"
    message = (
        f"All that was felt for lies about {abs(most):.0f} mm farther out on the {side} than on the other side. "
        "Feel both sides again: one was pressed less, or the head is uneven."
    )
    return [Finding("felt_one_sided", message)]


FELT_TELLING_MM: Final = 2.5
FELT_TELLING: Final = 2.5
ONE_SIDED_AT: Final = 2.0
FEWEST_PAIRS: Final = 4
"""From so many σ on what was felt outside, or on one side, is told."""


def _cards_off(problem: Problem, readings: Array, inliers: BoolArray) -> list[Finding]:
    first = 2 * len(problem.photo_of) + len(problem.measures)
    off = readings[first:]
    return [
        Finding(
            "card_contradicts",
            f"{problem.photos[i].name}: the scale card and the rest disagree on the size by "
            f"{abs(np.expm1(r * sigma)):.0%}. Was the card level with the eye, and printed at 100 %?",
            problem.photos[i].name,
        )
        for i, r, sigma, counts in zip(problem.carded, off, problem.card_sigma, inliers[first:], strict=True)
        if abs(r) > problem.tol.flagged_at or not counts
    ]


def _uneven_pairs(problem: Problem, points: Array) -> list[Finding]:
    """Pairs that stand farther from mirroring each other than heads do: a slip, or a real unevenness. A bone
    that is known already has been looked at for that."""
    if problem.prior.known:
        return []
    off = (mirror_rows() @ points.ravel())[: 3 * len(PAIRS)].reshape(-1, 3)
    apart = np.linalg.norm(off, axis=1)
    placed = {MARK_IDS[i] for i in problem.mark_of}
    found = []
    for (left, _), by in zip(PAIRS, apart, strict=True):
        mark = MARK_IDS[left]
        if by > problem.tol.uneven_at and mark in placed:
            words = words_for(mark).removesuffix(", left")
            message = (
                f"The {words}s stand {by * SYMMETRY_MM:.0f} mm away from mirroring each other. "
                "Look at both marks again; if they are right, the head is uneven there."
            )
            found.append(Finding("uneven_pair", message, mark=mark))
    return found


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
    if not (problem.measures or len(problem.carded) or problem.prior.sized):
        grown = "The puppy has grown since it was measured. " if problem.prior.known else ""
        found.append(
            Finding(
                "no_scale",
                f"{grown}No measure taken by hand yet, so sizes are a guess. Measure one distance, best across the "
                "outer eye corners, or hold the scale card beside the eye in a photo.",
            )
        )
    if len({p.view for p in problem.photos}) == 1 and not problem.prior.known:
        found.append(
            Finding("depth_unknown", "Only one view is marked, so depth is a guess. Mark a second view.")
        )
    return found
