"""The joint solve against heads whose truth is known."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from dapwick.core.basics.frame import into_head_frame
from dapwick.core.basics.marks import INDEX, MARK_IDS, guided_order
from dapwick.core.measures.measure import RULES, measures_of
from dapwick.core.solve.joint import HeadSolution, Unsolved, solve_head
from dapwick.core.solve.observations import HandMeasure, HeadInput, PhotoMarks, PlacedMark
from dapwick.core.solve.prior import general_prior
from dapwick.core.solve.problem import Problem, Tolerances
from dapwick.core.solve.scale_card import CardReading, held_level_with
from simheads import SimHead, hand_measure, random_head


def exact(sim: SimHead) -> HeadInput:
    """The same photos with every mark exactly where it pictures, and the true focal length."""
    photos = []
    for photo, camera in zip(sim.given.photos, sim.cameras, strict=True):
        at = camera.project(sim.points_mm)
        marks = {m: PlacedMark(*at[INDEX[m]], kind="seen") for m in photo.marks}
        photos.append(replace(photo, marks=marks, focal_px=camera.focal_px, focal_sigma=1e-3))
    rng = np.random.default_rng(0)
    measures = tuple(
        replace(hand_measure(rng, sim.points_mm, a, b, 1e-6), sigma_mm=0.1)
        for a, b in (("eye_outer_left", "eye_outer_right"), ("stop", "nose_tip"))
    )
    return HeadInput(tuple(photos), measures)


@pytest.mark.parametrize("views", [("front",), ("front", "left"), ("front", "left", "right", "top")])
def test_analytic_jacobian_matches_differences(views: tuple) -> None:
    sim = random_head(2, views)
    problem = Problem(sim.given.photos, sim.given.hand_measures, general_prior(), Tolerances())
    rng = np.random.default_rng(1)
    x = problem.start() + rng.normal(0, 0.3, problem.unknowns) * problem.step_sizes()
    j = problem.jacobian(x)
    for column in rng.choice(problem.unknowns, 30, replace=False):
        step = np.zeros(problem.unknowns)
        step[column] = 1e-5 * problem.step_sizes()[column]
        by_difference = (problem.residuals(x + step) - problem.residuals(x - step)) / (2 * step[column])
        assert np.allclose(j[:, column], by_difference, rtol=1e-4, atol=1e-5)


def test_the_expectations_bend_is_their_jacobians() -> None:
    sim = random_head(4, ("front", "left"), hand=2)
    for problem in (
        whole := Problem(sim.given.photos, sim.given.hand_measures, general_prior(), Tolerances()),
        whole.without_symmetry(),
    ):
        x = problem.start() + np.random.default_rng(3).normal(0, 0.5, problem.unknowns) * problem.step_sizes()
        off, j = problem.prior_residuals(x), problem.prior_jacobian(x)
        slope, bend = problem.prior_derivatives(x, off)
        assert np.allclose(slope, j.T @ off, atol=1e-9)
        assert np.allclose(bend, j.T @ j, atol=1e-9)


def carded(sim: SimHead, held_off_mm: float = 0.0) -> HeadInput:
    """The same photos with a scale card in each, held so far before the eye, and no hand measure."""
    photos = []
    for photo, camera in zip(sim.given.photos, sim.cameras, strict=True):
        eyes = sim.points_mm[[INDEX[m] for m in held_level_with(photo.view)]].mean(axis=0)
        depth = float((camera.rotation @ eyes + camera.translation_mm)[2]) - held_off_mm
        photos.append(replace(photo, card=CardReading(camera.focal_px / depth, 0.002, 6)))
    return HeadInput(tuple(photos))


def test_jacobian_of_the_scale_card_matches_differences() -> None:
    sim = random_head(3, ("front", "left", "top"))
    given = carded(sim, 9.0)
    problem = Problem(given.photos, (), general_prior(), Tolerances())
    x = problem.start() + np.random.default_rng(2).normal(0, 0.3, problem.unknowns) * problem.step_sizes()
    rows = slice(2 * len(problem.photo_of), problem.robust_rows)
    j = problem.jacobian(x)[rows]
    assert len(j) == 3
    for column in np.flatnonzero(np.abs(j).sum(axis=0)):
        step = np.zeros(problem.unknowns)
        step[column] = 1e-5 * problem.step_sizes()[column]
        by_difference = (problem.residuals(x + step) - problem.residuals(x - step))[rows] / (2 * step[column])
        assert np.allclose(j[:, column], by_difference, rtol=1e-4, atol=1e-6)


def test_a_scale_card_gives_the_size_as_a_hand_measure_does() -> None:
    errors, sigmas, blind = [], [], []
    for seed in range(12):
        sim = random_head(seed)
        off = float(np.random.default_rng(seed).normal(0, 12.0))
        for given, kept in ((carded(sim, off), True), (replace(sim.given, hand_measures=()), False)):
            head = solve_head(given)
            assert isinstance(head, HeadSolution)
            i = [r.id for r in RULES].index("eye_span_outer")
            measure = measures_of(head)[i]
            share = measure.value / float(RULES[i].of(sim.points_mm)) - 1
            if kept:
                assert "no_scale" not in {f.code for f in head.findings}
                errors.append(share)
                sigmas.append(measure.sigma / measure.value)
            else:
                blind.append(measure.sigma / measure.value)
    assert np.sqrt(np.mean(np.square(errors))) < 0.03
    assert np.mean(sigmas) < 0.03 < 0.3 * np.mean(blind)
    assert np.mean(np.abs(errors) < 1.96 * np.array(sigmas)) > 0.8


def test_a_card_printed_at_the_wrong_size_is_told() -> None:
    sim = random_head(5, ("front", "left"))
    given = carded(sim)
    photos = tuple(replace(p, card=replace(p.card, px_per_mm=p.card.px_per_mm * 1.18)) for p in given.photos)
    head = solve_head(HeadInput(photos, sim.given.hand_measures * 3))
    assert isinstance(head, HeadSolution)
    assert "card_contradicts" in {f.code for f in head.findings}


@pytest.mark.parametrize("seed", range(4))
def test_exact_marks_of_a_symmetric_head_give_it_back(seed: int) -> None:
    sim = random_head(seed, ("front", "left", "right", "top"))
    mirror = sim.points_mm.copy()
    for m in MARK_IDS:
        if m.endswith("_left"):
            right = mirror[INDEX[m.replace("_left", "_right")]]
            mirror[INDEX[m]] = right * [-1, 1, 1]
        elif not m.endswith("_right"):
            mirror[INDEX[m], 0] = 0.0
    head = solve_head(exact(replace(sim, points_mm=mirror)))
    assert isinstance(head, HeadSolution)
    error = np.linalg.norm(head.points_mm - into_head_frame(mirror), axis=1)
    # The wide prior still pulls a little, so exact marks give the head back to a millimetre, not to nothing.
    assert np.median(error) < 1.0
    for measure, rule in zip(measures_of(head), RULES, strict=True):
        assert abs(measure.value - float(rule.of(mirror))) < 2.0 * measure.sigma + 0.02


def test_errors_stay_inside_the_told_intervals() -> None:
    inside = []
    for seed in range(40):
        sim = random_head(seed)
        head = solve_head(sim.given)
        assert isinstance(head, HeadSolution)
        inside += [
            m.low <= float(rule.of(sim.points_mm)) <= m.high
            for m, rule in zip(measures_of(head), RULES, strict=True)
        ]
    assert 0.90 <= np.mean(inside) <= 0.985


def test_one_front_photo_says_that_depth_is_a_guess() -> None:
    head = solve_head(random_head(1, ("front",)).given)
    assert isinstance(head, HeadSolution)
    by_id = {m.id: m for m in measures_of(head)}
    assert by_id["head_length"].sigma > 5 * by_id["eye_span_outer"].sigma
    assert "depth_unknown" in {f.code for f in head.findings}


def test_a_second_view_narrows_every_measure() -> None:
    one = solve_head(random_head(1, ("front",)).given)
    both = solve_head(random_head(1, ("front", "left")).given)
    assert isinstance(one, HeadSolution)
    assert isinstance(both, HeadSolution)
    narrow = {m.id: m.sigma for m in measures_of(both)}
    wide = {m.id: m.sigma for m in measures_of(one)}
    assert np.median([narrow[m] / wide[m] for m in wide]) < 0.85
    for measure in ("head_length", "skull_length", "muzzle_length", "stop_depth"):
        assert narrow[measure] < 0.7 * wide[measure]


def test_without_a_hand_measure_size_is_unknown_but_ratios_are_not() -> None:
    sim = random_head(3, hand=0)
    head = solve_head(sim.given)
    assert isinstance(head, HeadSolution)
    by_id = {m.id: m for m in measures_of(head)}
    size, shape = by_id["eye_span_outer"], by_id["muzzle_ratio"]
    assert size.sigma / size.value > 0.08
    measured = solve_head(random_head(3).given)
    assert isinstance(measured, HeadSolution)
    with_hand = {m.id: m for m in measures_of(measured)}
    assert shape.sigma < 1.5 * with_hand["muzzle_ratio"].sigma
    assert size.sigma > 5 * with_hand["eye_span_outer"].sigma
    assert "no_scale" in {f.code for f in head.findings}


def test_one_mis_click_is_named_and_bends_the_head_little(sim: SimHead) -> None:
    front = sim.given.photos[0]
    slipped = front.marks["eye_inner_left"]
    marks = {
        **front.marks,
        "eye_inner_left": replace(slipped, x_px=slipped.x_px + 70, y_px=slipped.y_px - 50),
    }
    head = solve_head(replace(sim.given, photos=(replace(front, marks=marks), sim.given.photos[1])))
    assert isinstance(head, HeadSolution)
    assert "eye_inner_left" in {f.mark for f in head.findings if f.code in ("mark_off", "uneven_pair")}
    clean = solve_head(sim.given)
    assert isinstance(clean, HeadSolution)
    for bent, straight in zip(measures_of(head), measures_of(clean), strict=True):
        if bent.id == "eye_span_inner":
            continue  # seen from the front alone, this one rests on the slipped mark itself
        assert abs(bent.value - straight.value) < 4.0 * straight.sigma


def test_a_contradicting_hand_measure_is_named(sim: SimHead) -> None:
    good = sim.given.hand_measures[0]
    more = (good, HandMeasure("eye_inner_left", "eye_inner_right", good.mm * 1.4))
    head = solve_head(replace(sim.given, hand_measures=more))
    assert "hand_measure_contradicts" in {f.code for f in head.findings}


def test_real_asymmetry_comes_through() -> None:
    shifts = []
    for seed in range(6):
        sim = random_head(seed, ("front", "left", "right", "top"))
        points = sim.points_mm.copy()
        points[INDEX["cheek_left"], 0] -= 9.0
        head = solve_head(exact(replace(sim, points_mm=points)))
        assert isinstance(head, HeadSolution)
        out = head.points_mm
        shifts.append(-out[INDEX["cheek_left"], 0] - out[INDEX["cheek_right"], 0])
    assert np.mean(shifts) > 6.0


def test_a_head_of_unknown_size_is_not_drawn_towards_nothing() -> None:
    """Nothing in mm is known: heads come out neither small nor large as a rule."""
    shares = []
    for seed in range(12):
        sim = random_head(seed, hand=0)
        head = solve_head(sim.given)
        assert isinstance(head, HeadSolution)
        length = measures_of(head)[0]
        shares.append(np.log(length.value / float(RULES[0].of(sim.points_mm))))
    assert abs(np.mean(shares)) < 0.15
    assert np.std(shares) < 0.35


def test_photos_of_one_lens_share_their_focal_length() -> None:
    sim = random_head(5)
    shared = tuple(replace(p, focal_px=2500.0, lens="tablet") for p in sim.given.photos)
    head = solve_head(replace(sim.given, photos=shared))
    assert isinstance(head, HeadSolution)
    assert head.cameras[0].focal_px == pytest.approx(head.cameras[1].focal_px)


def test_result_is_frozen_and_repeatable(sim: SimHead, solved: HeadSolution) -> None:
    again = solve_head(sim.given)
    assert isinstance(again, HeadSolution)
    assert np.array_equal(again.points_mm, solved.points_mm)
    with pytest.raises(ValueError, match="read-only"):
        solved.points_mm[0, 0] = 1.0


def test_covariance_is_symmetric_and_positive(solved: HeadSolution) -> None:
    assert np.allclose(solved.covariance, solved.covariance.T, atol=1e-8)
    assert np.linalg.eigvalsh(solved.covariance).min() > -1e-8


def test_no_photo_is_a_reasoned_failure() -> None:
    assert isinstance(solve_head(HeadInput(())), Unsolved)


def test_unsure_marks_weigh_less() -> None:
    sure = PlacedMark(0, 0).spread("eye_inner_left", 1200)
    unsure = PlacedMark(0, 0, unsure=True).spread("eye_inner_left", 1200)
    assert unsure[0] == 2 * sure[0]
    assert PlacedMark(0, 0).spread("cheek_left", 1200)[1] > 0
    assert PlacedMark(0, 0, kind="seen").spread("cheek_left", 1200)[1] == 0


@pytest.mark.parametrize("view", ["front", "left", "right", "top", "back", "three_quarter_left"])
def test_guided_order_names_only_marks(view: str) -> None:
    order = guided_order(view)  # type: ignore[arg-type]
    assert set(order) <= set(INDEX)
    assert len(set(order)) == len(order)


def test_bad_observations_are_refused_by_name() -> None:
    with pytest.raises(ValueError, match="unknown mark"):
        PhotoMarks("a", "front", 100, 100, {"tail": PlacedMark(1, 2)})
    with pytest.raises(ValueError, match="out of reach"):
        HandMeasure("stop", "nose_tip", 4000)
    with pytest.raises(ValueError, match="itself"):
        HandMeasure("stop", "stop", 40)
    with pytest.raises(ValueError, match="finite"):
        PhotoMarks("a", "front", 100, 100, {"stop": PlacedMark(float("nan"), 2)})
