"""The least-squares problem of one head.

Unknowns, one vector: marks (3 each, mm), per photo a rotation vector (rad) on top of its start and a
translation (mm), per lens a log focal length, and how far outside of the bone this hand feels for it (mm). Each
residual is divided by its standard deviation.
"""

from __future__ import annotations

import math
from copy import copy
from dataclasses import dataclass, replace
from typing import Final

import numpy as np

from dapwick.core.basics.arrays import Array, BoolArray, IntArray
from dapwick.core.basics.camera import left_jacobian, rotation_from, skew
from dapwick.core.basics.marks import INDEX, MARK_IDS
from dapwick.core.solve.hand import FELT_OUTWARD, MOVES_MM, THUMB_SIGMA_MM, TIPS, thumb_sigma_mm
from dapwick.core.solve.noise import AS_ASSUMED, Noise
from dapwick.core.solve.observations import HandMeasure, PhotoMarks
from dapwick.core.solve.pose import Pose, fit_pose
from dapwick.core.solve.prior import UNEVEN_AT_MOST, ShapePrior, mirror_rows
from dapwick.core.solve.scale_card import held_level_with, reading_sigma

N: Final = 3 * len(MARK_IDS)
LEAST_SIZE: Final = 0.05


@dataclass(frozen=True)
class Tolerances:
    """robust_at: residuals (in σ) past which a mark's pull levels off. outlier_at: a mark whose leaving out
    betters the rest as much as one so many σ off is a slip (number_at: for
    a hand measure or card, of which there are few). flagged_at: standardised residual that is told.
    uneven_at: a pair's distance from mirroring (in its σ) that is told. ftol: the share of the cost below
    which a step's gain ends the search (nearly: while slips are looked for); rounds: steps tried at most."""

    robust_at: float = 2.0
    flagged_at: float = 4.0
    outlier_at: float = 3.4
    number_at: float = 4.2
    uneven_at: float = 4.2
    ftol: float = 1e-9
    nearly: float = 1e-5
    rounds: int = 60


@dataclass(frozen=True)
class _Pictured:
    """One point of the search unpacked: marks (marks, 3), turns w and shifts t (photos, 3), focal px and
    rotation (photos, 3, 3) of each photo; each placed mark turned, and in its camera's frame p (placed, 3)."""

    points: Array
    w: Array
    t: Array
    focal: Array
    rotation: Array
    turned: Array
    p: Array


class Problem:
    """The residual vector of one head and its analytic Jacobian."""

    def __init__(
        self,
        photos: tuple[PhotoMarks, ...],
        measures: tuple[HandMeasure, ...],
        prior: ShapePrior,
        tol: Tolerances,
    ) -> None:
        self.photos, self.measures, self.prior, self.tol = photos, measures, prior, tol
        self.size_start = _size_from(measures, photos, prior.mean_mm)
        self.poses = tuple(self._pose(p) for p in photos)
        self.lenses = tuple(dict.fromkeys(p.lens_key for p in photos))
        self.lens_of: IntArray = np.array([self.lenses.index(p.lens_key) for p in photos])
        of_lens = [next(p for p in photos if p.lens_key == key) for key in self.lenses]
        self.lens_log = np.log([p.focal_guess_px for p in of_lens])
        self.lens_sigma = np.array([p.focal_spread for p in of_lens])
        self.rotations = np.stack([pose.rotation for pose in self.poses])
        self.centre_px = np.array([[p.width_px / 2, p.height_px / 2] for p in photos])
        self._observe()
        first = N + 6 * len(photos)
        self.of_lenses = slice(first, first + len(self.lenses))
        self.thumb = first + len(self.lenses)
        self.unknowns = self.thumb + 1
        # The prior holds the part of symmetry that is never let go; the mirror rows make up the rest.
        mirror = mirror_rows() * math.sqrt(1.0 - UNEVEN_AT_MOST**-2)
        self.shape_rows = np.concatenate([mirror, prior.whitener])
        self.shape_expected = np.concatenate([np.zeros(len(mirror)), prior.whitener @ prior.mean_mm.ravel()])
        self.shape_information = self.shape_rows.T @ self.shape_rows
        self.size_along = prior.mean_mm.ravel() / float((prior.mean_mm**2).sum())

    def _pose(self, photo: PhotoMarks) -> Pose:
        return fit_pose(self.prior.mean_mm * self.size_start, photo, photo.view)

    def _observe(self) -> None:
        rows = [
            (i, INDEX[m], at.x_px, at.y_px, *at.spread(m, p.longer_side_px))
            for i, p in enumerate(self.photos)
            for m, at in p.marks.items()
        ]
        table = np.array(rows, dtype=float)
        self.photo_of, self.mark_of = table[:, 0].astype(int), table[:, 1].astype(int)
        self.seen_px = table[:, 2:4]
        depth = np.array([max(pose.translation_mm[2], 50.0) for pose in self.poses])
        focal = np.array([p.focal_guess_px for p in self.photos])
        self.px_sigma, self.mm_sigma_px = table[:, 4], table[:, 5] * (focal / depth)[self.photo_of]
        told = np.array([at.sigma_px is not None for p in self.photos for at in p.marks.values()])
        felt = self.mm_sigma_px > 0
        moves = np.where(told, 0.0, MOVES_MM[self.mark_of]) * (focal / depth)[self.photo_of]
        self.by_kind = np.where(told, "told", np.where(felt, "felt", "seen"))
        self.by_kind = np.where(
            moves > 0, np.where(np.isin(self.mark_of, TIPS), "tips", "mouth"), self.by_kind
        )
        self.mm_sigma_px = np.hypot(self.mm_sigma_px, moves)
        self.outward = np.where((felt & ~told)[:, None], FELT_OUTWARD[self.mark_of], 0.0)
        self.noise, self.sigma_px = AS_ASSUMED, np.hypot(self.px_sigma, self.mm_sigma_px)
        self.hand_from = np.array([INDEX[m.from_mark] for m in self.measures], dtype=int)
        self.hand_to = np.array([INDEX[m.to_mark] for m in self.measures], dtype=int)
        self.hand_mm = np.array([m.mm for m in self.measures])
        self.hand_sigma = np.array([m.sigma_mm for m in self.measures])
        self.carded = np.array([i for i, p in enumerate(self.photos) if p.card], dtype=int)
        cards = [(self.photos[i].card, depth[i]) for i in self.carded]
        self.card_log = np.array([math.log(card.px_per_mm) for card, _ in cards if card])
        self.card_sigma = np.array([reading_sigma(float(away), card.sigma) for card, away in cards if card])
        self.card_eyes = np.zeros((len(self.carded), len(MARK_IDS)))
        for row, i in enumerate(self.carded):
            eyes = held_level_with(self.photos[i].view)
            self.card_eyes[row, [INDEX[m] for m in eyes]] = 1.0 / len(eyes)

    def without_symmetry(self) -> Problem:
        """The same problem without leaning on the two sides being alike."""
        freed = copy(self)
        mirror = len(mirror_rows())
        freed.shape_rows, freed.shape_expected = self.shape_rows[mirror:], self.shape_expected[mirror:]
        freed.shape_information = freed.shape_rows.T @ freed.shape_rows
        return freed

    def by_hand(self, noise: Noise) -> Problem:
        """The same problem, marked by a hand so much steadier or shakier than assumed."""
        marked = copy(self)
        of = {"told": 1.0, "seen": 1.0} | {kind: getattr(noise, kind) for kind in ("felt", "tips", "mouth")}
        by_mm = np.array([of[kind] for kind in self.by_kind])
        seen = np.where(self.by_kind == "told", 1.0, noise.seen) * self.px_sigma
        marked.noise, marked.sigma_px = noise, np.hypot(seen, by_mm * self.mm_sigma_px)
        return marked

    def sooner(self, rounds: int | None = None) -> Problem:
        """The same problem, whose search ends when it is nearly there, or after so many steps."""
        short = copy(self)
        short.tol = replace(self.tol, ftol=self.tol.nearly, rounds=rounds or self.tol.rounds)
        return short

    def start(self) -> Array:
        """Where the search begins (unknowns,): the mean head at the size that readings tell, cameras as found by
        pose."""
        turns = [np.concatenate([np.zeros(3), pose.translation_mm]) for pose in self.poses]
        return np.concatenate([(self.prior.mean_mm * self.size_start).ravel(), *turns, self.lens_log, [0.0]])

    def step_sizes(self) -> Array:
        """A usual step of each unknown (unknowns,), in its own unit."""
        per_photo = np.tile([0.1, 0.1, 0.1, 10.0, 10.0, 40.0], len(self.photos))
        return np.concatenate([np.full(N, 5.0), per_photo, np.full(len(self.lenses), 0.05), [1.0]])

    def unpack(self, x: Array) -> tuple[Array, Array, Array, Array]:
        """(marks (n, 3), rotation vectors (photos, 3), translations (photos, 3), focal px per photo)."""
        cameras = x[N : N + 6 * len(self.photos)].reshape(-1, 6)
        return (
            x[:N].reshape(-1, 3),
            cameras[:, :3],
            cameras[:, 3:],
            np.exp(x[self.of_lenses])[self.lens_of],
        )

    def residuals(self, x: Array) -> Array:
        """Reprojection (2 a mark), hand measures, scale cards, then what is expected beforehand."""
        return np.concatenate([self.readings(x), self.prior_residuals(x)])

    def prior_residuals(self, x: Array) -> Array:
        """What is expected beforehand: focal lengths, the hand's thickness, size, mirror symmetry and shape.

        Shape is judged at the mean head's size. Judged in mm, every departure from the mean would shrink
        with the head, and a head of unknown size would be drawn towards nothing.
        """
        size = self._size(x)
        shape = self.shape_rows @ x[:N] / size - self.shape_expected
        lens = (x[self.of_lenses] - self.lens_log) / self.lens_sigma
        thumb = x[self.thumb] / thumb_sigma_mm(float(x[self.thumb]))
        return np.concatenate([lens, [thumb, math.log(size) / self.prior.size_sigma], shape])

    def prior_jacobian(self, x: Array) -> Array:
        """d prior_residuals / d x, dense (rows, unknowns)."""
        size, lenses = self._size(x), len(self.lenses)
        rows = np.zeros((lenses + 2 + len(self.shape_rows), self.unknowns))
        rows[:lenses, self.of_lenses] = np.diag(1.0 / self.lens_sigma)
        rows[lenses, self.thumb] = 1.0 / thumb_sigma_mm(float(x[self.thumb]))
        rows[lenses + 1, :N] = self.size_along / (size * self.prior.size_sigma)
        turned = self.shape_rows @ x[:N]
        rows[lenses + 2 :, :N] = self.shape_rows / size - np.outer(turned / size**2, self.size_along)
        return rows

    def prior_derivatives(self, x: Array, off: Array) -> tuple[Array, Array]:
        """Slope (unknowns,) and hessian (unknowns, unknowns) of half the sum of squares of the prior_residuals `off`
        at x: J^T off and J^T J, worked out without J, whose rows are many and change by a scale alone."""
        size, lenses, u = self._size(x), len(self.lenses), self.size_along
        shape = off[lenses + 2 :]
        turned = (shape + self.shape_expected) * size
        gradient, hessian = np.zeros(self.unknowns), np.zeros((self.unknowns, self.unknowns))
        by_size = 1.0 / (size * self.prior.size_sigma)
        along = by_size * float(off[lenses + 1]) - float(turned @ shape) / size**2
        gradient[:N] = self.shape_rows.T @ shape / size + along * u
        own = float(turned @ turned) / size**4 + by_size**2
        cross = np.outer(0.5 * own * u - self.shape_information @ x[:N] / size**3, u)
        hessian[:N, :N] = self.shape_information / size**2 + cross + cross.T
        at = np.arange(self.of_lenses.start, self.of_lenses.stop)
        gradient[at], hessian[at, at] = off[:lenses] / self.lens_sigma, self.lens_sigma**-2.0
        thumb = thumb_sigma_mm(float(x[self.thumb]))
        gradient[self.thumb], hessian[self.thumb, self.thumb] = off[lenses] / thumb, thumb**-2.0
        return gradient, hessian

    def _size(self, x: Array) -> float:
        """The head's size, as a share of the mean head's."""
        return max(float(self.size_along @ x[:N]), LEAST_SIZE)

    def readings(self, x: Array) -> Array:
        """The rows that a hand or an eye read: 2 a mark, then hand measures, then scale cards. (readings,), each
        divided by its σ."""
        return self._readings(self._pictured(x))

    def readings_jacobian(self, x: Array) -> Array:
        """d readings / d x, dense (rows, unknowns)."""
        return self._readings_jacobian(self._pictured(x))

    def readings_both(self, x: Array) -> tuple[Array, Array]:
        """Readings and their derivative at once. (readings,) and (readings, unknowns)."""
        pictured = self._pictured(x)
        return self._readings(pictured), self._readings_jacobian(pictured)

    def jacobian(self, x: Array) -> Array:
        """d residuals / d x, dense (rows, unknowns)."""
        return np.concatenate([self.readings_jacobian(x), self.prior_jacobian(x)])

    def _pictured(self, x: Array) -> _Pictured:
        points, w, t, focal = self.unpack(x)
        rotation = rotation_from(w) @ self.rotations
        touched = points[self.mark_of] + x[self.thumb] * self.outward
        turned = (rotation[self.photo_of] @ touched[:, :, None])[:, :, 0]
        return _Pictured(points, w, t, focal, rotation, turned, turned + t[self.photo_of])

    def _readings(self, at: _Pictured) -> Array:
        z = np.maximum(at.p[:, 2:], 1.0)
        px = at.focal[self.photo_of, None] * at.p[:, :2] / z + self.centre_px[self.photo_of]
        reprojection = (px - self.seen_px) / self.sigma_px[:, None]
        spans = np.linalg.norm(at.points[self.hand_from] - at.points[self.hand_to], axis=1)
        return np.concatenate(
            [reprojection.ravel(), (spans - self.hand_mm) / self.hand_sigma, self._card_residuals(at)]
        )

    def _card_residuals(self, at: _Pictured) -> Array:
        """log of px per mm at the depth of the eye the card was held level with, against the card's own."""
        if not len(self.carded):
            return np.zeros(0)
        scale = np.log(at.focal[self.carded] / self._eye_depth(at))
        return np.asarray((scale - self.card_log) / self.card_sigma)

    def _eye_depth(self, at: _Pictured) -> Array:
        eye = self.card_eyes @ at.points
        ahead = np.einsum("cj,cj->c", at.rotation[self.carded, 2], eye) + at.t[self.carded, 2]
        return np.asarray(np.maximum(ahead, 1.0))

    def _readings_jacobian(self, at: _Pictured) -> Array:
        """Chain: pixel by camera point by (mark, turn, shift)."""
        z = np.maximum(at.p[:, 2], 1.0)
        f = at.focal[self.photo_of] / self.sigma_px
        by_point = np.zeros((len(z), 2, 3))
        by_point[:, 0, 0] = by_point[:, 1, 1] = f / z
        by_point[:, :, 2] = -f[:, None] * at.p[:, :2] / z[:, None] ** 2
        by_turn = by_point @ -skew(at.turned) @ left_jacobian(at.w)[self.photo_of]
        seen = 2 * len(z)
        found = np.zeros((seen + len(self.measures) + len(self.carded), self.unknowns))
        by_mark = by_point @ at.rotation[self.photo_of]
        by_thumb = by_mark @ self.outward[:, :, None]
        by_lens = ((f / z)[:, None] * at.p[:, :2])[:, :, None]
        along = np.concatenate([by_mark, by_turn, by_point, by_lens, by_thumb], axis=2).reshape(seen, -1)
        found[np.arange(seen)[:, None], self._columns()] = along
        found[seen : seen + len(self.measures)] = self._hand_rows(at.points)
        found[seen + len(self.measures) :] = self._card_rows(at)
        return found

    def _columns(self) -> IntArray:
        """Which unknowns each row of a placed mark depends on (2 a mark, 11): its mark, its photo's turn and shift,
        lens, thumb."""
        lens = self.of_lenses.start + self.lens_of[self.photo_of]
        each = [
            3 * self.mark_of[:, None] + np.arange(3),
            N + 6 * self.photo_of[:, None] + np.arange(6),
            lens[:, None],
            np.full((len(lens), 1), self.thumb),
        ]
        return np.repeat(np.concatenate(each, axis=1), 2, axis=0)

    def _card_rows(self, at: _Pictured) -> Array:
        rows = np.zeros((len(self.carded), self.unknowns))
        if not len(rows):
            return rows
        rotation = at.rotation[self.carded]
        by_depth = -1.0 / (self._eye_depth(at) * self.card_sigma)
        turned = np.einsum("cij,cj->ci", rotation, self.card_eyes @ at.points)
        by_turn = (-skew(turned) @ left_jacobian(at.w)[self.carded])[:, 2]
        each = np.arange(len(rows))
        columns = N + 6 * self.carded[:, None] + np.arange(3)
        by_mark = by_depth[:, None, None] * self.card_eyes[:, :, None] * rotation[:, None, 2]
        rows[:, :N] = by_mark.reshape(-1, N)
        rows[each[:, None], columns] = by_depth[:, None] * by_turn
        rows[each, columns[:, 2] + 3] = by_depth
        rows[each, self.of_lenses.start + self.lens_of[self.carded]] += 1.0 / self.card_sigma
        return rows

    def mark_rows(self, x: Array, photo: int, mark: int, sigma_px: float) -> Array:
        """(2, unknowns): what one more mark on a photo would add, were it placed where it is expected."""
        one = copy(self)
        one.photo_of, one.mark_of = np.array([photo]), np.array([mark])
        one.sigma_px, one.outward = np.array([sigma_px]), np.zeros((1, 3))
        return one.readings_jacobian(x)[:2]

    def hand_row(self, x: Array, measure: HandMeasure) -> Array:
        """(1, unknowns): what one more hand measure would add."""
        one = copy(self)
        one.measures, one.hand_sigma = (measure,), np.array([measure.sigma_mm])
        one.hand_from, one.hand_to = (np.array([INDEX[m]]) for m in (measure.from_mark, measure.to_mark))
        return one._hand_rows(self.unpack(x)[0])

    def _hand_rows(self, points: Array) -> Array:
        rows = np.zeros((len(self.measures), self.unknowns))
        apart = points[self.hand_from] - points[self.hand_to]
        along = (
            apart / np.maximum(np.linalg.norm(apart, axis=1, keepdims=True), 1e-9) / self.hand_sigma[:, None]
        )
        which = np.arange(len(self.measures))[:, None]
        rows[which, 3 * self.hand_from[:, None] + np.arange(3)] = along
        rows[which, 3 * self.hand_to[:, None] + np.arange(3)] = -along
        return rows

    @property
    def robust_rows(self) -> int:
        """How many rows, from the top, can hold a slip of the hand."""
        return 2 * len(self.photo_of) + len(self.measures) + len(self.carded)

    def loss(self, z: Array) -> tuple[Array, Array]:
        """Soft L1 of squared readings z: (rho, rho'). Far off, a reading pulls no harder than one that is `robust_at`
        σ off. (readings,) each."""
        c2 = self.tol.robust_at**2
        root = np.sqrt(1 + z / c2)
        return 2 * c2 * (root - 1), 1 / root

    def information(self, x: Array, inliers: BoolArray) -> Array:
        """Inverse covariance (unknowns, unknowns) at a solution, each reading by its robust weight: those far
        off tell less, those set aside nothing."""
        return self.informed(x, inliers, *self.readings_both(x))

    def informed(self, x: Array, inliers: BoolArray, r: Array, j: Array) -> Array:
        """The same from readings and their derivative that are at hand."""
        weight = self.loss(r**2)[1] * inliers
        expected = self.prior_derivatives(x, self.prior_residuals(x))[1]
        # Found on the bone a hand may lie outside of it all the same: how far, nothing has told.
        expected[self.thumb, self.thumb] = THUMB_SIGMA_MM**-2.0
        return np.asarray((weight[:, None] * j).T @ j + expected)


def _size_from(measures: tuple[HandMeasure, ...], photos: tuple[PhotoMarks, ...], mean_mm: Array) -> float:
    """How much larger than the mean head the hand measures, else the scale cards, make this one."""
    ratios = [
        m.mm / float(np.linalg.norm(mean_mm[INDEX[m.from_mark]] - mean_mm[INDEX[m.to_mark]]))
        for m in measures
    ] or [
        p.focal_guess_px / fit_pose(mean_mm, p, p.view).translation_mm[2] / p.card.px_per_mm
        for p in photos
        if p.card
    ]
    return float(np.clip(np.median(ratios), 0.4, 2.5)) if ratios else 1.0
