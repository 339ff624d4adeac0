"""The joint solve: marks in 3D, every photo's camera and the scale, together, with covariance.

`problem.py` holds the residuals, `contradictions.py` what they say of single marks, measures and cards.
The gauge is held by symmetry and prior, which the free cameras leave unbiased; the head frame is applied
afterwards and its derivative carried into the covariance.
"""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from typing import Final

import numpy as np
from scipy.linalg import cho_factor, cho_solve

from dapwick.core.basics.arrays import Array, BoolArray, frozen, gradient
from dapwick.core.basics.camera import Camera, rotation_from
from dapwick.core.basics.findings import Finding
from dapwick.core.basics.frame import into_head_frame, rigid_into_head_frame
from dapwick.core.basics.marks import MARK_IDS
from dapwick.core.basics.threads import one_thread
from dapwick.core.solve.bone import Bone
from dapwick.core.solve.contradictions import contradictions, felt_one_sided, missing
from dapwick.core.solve.minimise import Minimum, minimise
from dapwick.core.solve.noise import Noise, noise_of
from dapwick.core.solve.observations import HeadInput, PhotoMarks
from dapwick.core.solve.outliers import without_outliers
from dapwick.core.solve.pose import photo_findings
from dapwick.core.solve.problem import N, Problem, Tolerances

VERSION: Final = "joint-5"
NOISE_ROUNDS: Final = 2


@dataclass(frozen=True)
class Places:
    """points_mm (marks, 3) and covariance (3·marks, 3·marks) mm², head frame."""

    points_mm: Array
    covariance: Array


@dataclass(frozen=True)
class Workings:
    """What the solve ended with, to ask what one more reading would tell: the problem, its unknowns x, their
    covariance (unknowns, unknowns), and to_head (3·marks, 3·marks), the marks' way into the head frame."""

    problem: Problem
    x: Array
    covariance: Array
    to_head: Array


@dataclass(frozen=True)
class HeadSolution:
    """A measured head. points_mm (marks, 3) and covariance (3·marks, 3·marks) mm², head frame; without_symmetry the
    same without leaning on the two sides being alike.

    cameras run parallel to photos (only those used). placed: marks seen in at least one used photo.
    noise: how steady the hand is, of what is assumed. rms: of the readings that count, in their σ; evaluations: steps
    the solver tried.
    """

    points_mm: Array
    covariance: Array
    without_symmetry: Places
    cameras: tuple[Camera, ...]
    photos: tuple[PhotoMarks, ...]
    placed: frozenset[str]
    findings: tuple[Finding, ...]
    noise: Noise
    rms: float
    evaluations: int
    inputs: HeadInput
    tolerances: Tolerances
    workings: Workings = field(repr=False, compare=False)
    version: str = VERSION

    @property
    def sigma_mm(self) -> Array:
        """Standard deviation of each mark's coordinates (marks, 3), head frame."""
        return np.sqrt(np.diag(self.covariance)).reshape(-1, 3)

    @property
    def bone(self) -> Bone:
        """What a later visit starts from."""
        before = self.inputs.bone.visits if self.inputs.bone else 0
        return Bone(
            self.without_symmetry.points_mm,
            self.without_symmetry.covariance,
            before + 1,
            self.inputs.age_weeks,
            self.version,
        )

    def camera_of(self, photo: str) -> Camera | None:
        return next((c for c, p in zip(self.cameras, self.photos, strict=True) if p.name == photo), None)


@dataclass(frozen=True)
class Unsolved:
    """No photo could be used; the findings say why, photo by photo."""

    findings: tuple[Finding, ...]
    inputs: HeadInput
    version: str = VERSION


def solve_head(given: HeadInput, tolerances: Tolerances | None = None) -> HeadSolution | Unsolved:
    """Measure a head from any number of photos. Never raises for a hopeless photo: it is left out
    and told; when none is left, `Unsolved` carries the reasons."""
    tolerances = tolerances or Tolerances()
    prior = given.prior
    with one_thread():
        findings = [f for photo in given.photos for f in photo_findings(prior.mean_mm, photo)]
    left_out = {f.photo for f in findings if f.leaves_photo_out}
    usable = tuple(p for p in given.photos if p.name not in left_out)
    if not usable:
        return Unsolved(tuple(findings), given)
    with one_thread():
        assumed = Problem(usable, given.hand_measures, prior, tolerances)
        noise, start = _hand(assumed.without_symmetry().sooner())
        problem = assumed.by_hand(noise)
        # Slips are told from the evidence alone: leaning on sides being alike takes unevenness for one.
        freed = problem.without_symmetry()
        seen, inliers = without_outliers(freed.sooner(), start)
        leaning = minimise(problem, seen.x, inliers)
        there = freed.unpack(seen.x)[0]
        tip = given.level_tip_deg
        without_symmetry = _places(there, _covariance(freed, seen.x, inliers), _into_head(there, tip), tip)
        return _solution(
            problem,
            given,
            replace(leaning, steps=seen.steps + leaning.steps),
            inliers,
            without_symmetry,
            findings,
        )


def _hand(problem: Problem) -> tuple[Noise, Array]:
    """How steady the hand is, and the unknowns found on the way."""
    every = np.ones(problem.robust_rows, dtype=bool)
    x = problem.start()
    for _ in range(NOISE_ROUNDS):
        x = minimise(problem, x, every).x
        problem = problem.by_hand(noise_of(problem, x))
    return problem.noise, x


def _covariance(problem: Problem, x: Array, inliers: BoolArray) -> Array:
    information = problem.information(x, inliers)
    return np.asarray(cho_solve(cho_factor(information), np.eye(problem.unknowns)))


def _into_head(points: Array, tip: float) -> Array:
    """Derivative (3·marks, 3·marks) of the marks in the head frame by the marks."""
    return gradient(
        lambda v: into_head_frame(v.reshape(len(v), -1, 3), tip).reshape(len(v), -1), points.ravel()
    )


def _places(points: Array, covariance: Array, to_head: Array, tip: float) -> Places:
    return Places(frozen(into_head_frame(points, tip)), frozen(to_head @ covariance[:N, :N] @ to_head.T))


def _solution(
    problem: Problem,
    given: HeadInput,
    found: Minimum,
    inliers: BoolArray,
    without_symmetry: Places,
    findings: list[Finding],
) -> HeadSolution:
    x, tip = found.x, given.level_tip_deg
    points, w, t, focal = problem.unpack(x)
    axes, origin = rigid_into_head_frame(points, tip)
    covariance, to_head = _covariance(problem, x, inliers), _into_head(points, tip)
    marks = _places(points, covariance, to_head, tip)
    rotation = rotation_from(w) @ problem.rotations
    cameras = tuple(
        Camera(frozen(r @ axes.T), frozen(r @ origin + shift), float(f), p.width_px, p.height_px)
        for r, shift, f, p in zip(rotation, t, focal, problem.photos, strict=True)
    )
    readings = problem.readings(x)
    findings = findings + contradictions(problem, x, readings, inliers)
    findings = (
        findings
        + felt_one_sided(problem, without_symmetry.points_mm, without_symmetry.covariance)
        + missing(problem)
    )
    return HeadSolution(
        marks.points_mm,
        marks.covariance,
        without_symmetry,
        cameras,
        problem.photos,
        frozenset(MARK_IDS[i] for i in problem.mark_of),
        tuple(findings),
        problem.noise,
        float(np.sqrt((readings[inliers] ** 2).mean())),
        found.steps,
        given,
        problem.tol,
        Workings(problem, x, covariance, to_head),
    )
