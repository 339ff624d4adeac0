"""The joint solve: marks in 3D, every photo's camera and the scale, together, with covariance.

`problem.py` holds the residuals, `contradictions.py` what they say of single marks, measures and cards.
The gauge is held by symmetry and prior, which the free cameras leave unbiased; the head frame is applied
afterwards and its derivative carried into the covariance.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Final

import numpy as np
from scipy.linalg import cho_factor, cho_solve

from dapwick.core.arrays import Array, BoolArray, frozen, gradient
from dapwick.core.bone import Bone
from dapwick.core.camera import Camera, rotation_from
from dapwick.core.contradictions import contradictions, missing, set_aside
from dapwick.core.findings import Finding
from dapwick.core.frame import into_head_frame, rigid_into_head_frame
from dapwick.core.marks import MARK_IDS
from dapwick.core.minimise import Minimum, minimise
from dapwick.core.observations import HeadInput, PhotoMarks
from dapwick.core.pose import photo_findings
from dapwick.core.problem import N, Problem, Tolerances
from dapwick.core.threads import one_thread

VERSION: Final = "joint-3"
SLIP_ROUNDS: Final = 4


@dataclass(frozen=True)
class HeadSolution:
    """A measured head. points_mm (marks, 3) and covariance (3·marks, 3·marks) mm², head frame.

    cameras run parallel to photos (only those used). placed: marks seen in at least one used photo.
    rms: of the readings that count, in their σ; evaluations: steps the solver tried.
    """

    points_mm: Array
    covariance: Array
    cameras: tuple[Camera, ...]
    photos: tuple[PhotoMarks, ...]
    placed: frozenset[str]
    findings: tuple[Finding, ...]
    rms: float
    evaluations: int
    inputs: HeadInput
    tolerances: Tolerances
    version: str = VERSION

    @property
    def sigma_mm(self) -> Array:
        """Standard deviation of each mark's coordinates (marks, 3), head frame."""
        return np.sqrt(np.diag(self.covariance)).reshape(-1, 3)

    @property
    def bone(self) -> Bone:
        """What a later visit starts from."""
        before = self.inputs.bone.visits if self.inputs.bone else 0
        return Bone(self.points_mm, self.covariance, before + 1, self.inputs.age_weeks, self.version)

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
        problem = Problem(usable, given.hand_measures, prior, tolerances)
        found, heeded = _without_slips(problem)
        return _solution(problem, given, found, heeded, findings)


def _without_slips(problem: Problem) -> tuple[Minimum, BoolArray]:
    """The least cost with the marks that the rest contradicts set aside, the worst of a photo at a time, so
    that a slip's neighbours are not blamed for it; one that fits after all is taken back."""
    heeded = np.ones(problem.robust_rows, dtype=bool)
    found = minimise(problem, problem.start(), heeded)
    steps = found.steps
    for _ in range(SLIP_ROUNDS):
        slips = set_aside(problem, problem.readings(found.x), heeded)
        if (slips == ~heeded).all():
            break
        heeded = ~slips
        found = minimise(problem, found.x, heeded)
        steps += found.steps
    return replace(found, steps=steps), heeded


def _solution(
    problem: Problem, given: HeadInput, found: Minimum, heeded: BoolArray, findings: list[Finding]
) -> HeadSolution:
    x = found.x
    points, w, t, focal = problem.unpack(x)
    axes, origin = rigid_into_head_frame(points, given.level_tip_deg)
    tip = given.level_tip_deg
    to_head = gradient(lambda v: into_head_frame(v.reshape(len(v), -1, 3), tip).reshape(len(v), -1), x[:N])
    factor = cho_factor(problem.information(x, heeded))
    covariance = to_head @ cho_solve(factor, np.eye(problem.unknowns))[:N, :N] @ to_head.T
    rotation = rotation_from(w) @ problem.rotations
    cameras = tuple(
        Camera(frozen(r @ axes.T), frozen(r @ origin + shift), float(f), p.width_px, p.height_px)
        for r, shift, f, p in zip(rotation, t, focal, problem.photos, strict=True)
    )
    readings = problem.readings(x)
    findings = findings + contradictions(problem, x, readings, heeded) + missing(problem)
    return HeadSolution(
        frozen((points - origin) @ axes.T),
        frozen(covariance),
        cameras,
        problem.photos,
        frozenset(MARK_IDS[i] for i in problem.mark_of),
        tuple(findings),
        float(np.sqrt((readings[heeded] ** 2).mean())),
        found.steps,
        given,
        problem.tol,
    )
