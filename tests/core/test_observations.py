"""What a reading is worth: marks by their kind and photo, callipers by what is said of them, cards by how they lie."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np
import pytest

from dapwick.core.basics.errors import BadInput
from dapwick.core.basics.marks import FELT_MM, INDEX, RULE_OF, SEEN_PX_AT_1200
from dapwick.core.solve.joint import HeadSolution, Unsolved, solve_head
from dapwick.core.solve.observations import HandMeasure, HeadInput, PhotoMarks, PlacedMark
from dapwick.core.solve.prior import general_prior
from dapwick.core.solve.problem import Problem, Tolerances
from simheads import SimHead, random_head

FELT = next(mark for mark, rule in RULE_OF.items() if rule.kind == "felt")
SEEN = next(mark for mark, rule in RULE_OF.items() if rule.kind == "seen")


def solved(given: HeadInput) -> HeadSolution:
    head = solve_head(given)
    assert isinstance(head, HeadSolution)
    return head


def test_a_seen_mark_is_as_sure_as_its_photo_is_large() -> None:
    assert PlacedMark(1, 2).spread(SEEN, 1200) == (SEEN_PX_AT_1200, 0.0)
    assert PlacedMark(1, 2).spread(SEEN, 2400) == (2 * SEEN_PX_AT_1200, 0.0)


def test_a_felt_mark_strays_in_millimetres_besides() -> None:
    assert PlacedMark(1, 2).spread(FELT, 1200) == (SEEN_PX_AT_1200, FELT_MM)
    assert PlacedMark(1, 2, kind="seen").spread(FELT, 1200) == (SEEN_PX_AT_1200, 0.0)
    assert PlacedMark(1, 2, kind="felt").spread(SEEN, 1200) == (SEEN_PX_AT_1200, FELT_MM)


def test_an_unsure_mark_strays_twice_as_far() -> None:
    assert PlacedMark(1, 2, unsure=True).spread(FELT, 1200) == (2 * SEEN_PX_AT_1200, 2 * FELT_MM)


def test_a_guessed_mark_is_as_sure_as_the_guess() -> None:
    assert PlacedMark(1, 2, kind="felt", unsure=True, sigma_px=7.5).spread(FELT, 1200) == (7.5, 0.0)


def problem_of(*measures: HandMeasure) -> Problem:
    sim = random_head(2, ("front", "left"))
    return Problem(sim.given.photos, measures, general_prior(), Tolerances())


@pytest.mark.parametrize("sigma_mm", [0.5, 1.0, 4.0])
def test_a_hand_measure_counts_by_its_own_doubt(sigma_mm: float) -> None:
    reading = HandMeasure("stop", "nose_tip", 80.0, sigma_mm)
    problem = problem_of(reading)
    x = problem.start()
    points = problem.unpack(x)[0]
    span = float(np.linalg.norm(points[INDEX["stop"]] - points[INDEX["nose_tip"]]))
    row = problem.residuals(x)[2 * len(problem.photo_of)]
    assert row == pytest.approx((span - 80.0) / sigma_mm)


def test_of_two_readings_the_surer_one_is_believed() -> None:
    sim = random_head(2, ("front", "left"), hand=0)
    for sure, long_mm in ((0, 84.0), (1, 80.0)):
        readings = tuple(
            HandMeasure("stop", "nose_tip", mm, 0.5 if i == sure else 3.0)
            for i, mm in enumerate((84.0, 80.0))
        )
        head = solved(replace(sim.given, hand_measures=readings))
        apart = head.points_mm[INDEX["stop"]] - head.points_mm[INDEX["nose_tip"]]
        assert float(np.linalg.norm(apart)) == pytest.approx(long_mm, abs=0.6)


def photo(marks: dict[str, PlacedMark]) -> PhotoMarks:
    return PhotoMarks("front.jpg", "front", 1000, 800, marks)


@pytest.mark.parametrize("at", [(math.nan, 3.0), (3.0, math.inf)])
def test_a_mark_without_a_place_is_refused_by_name(at: tuple[float, float]) -> None:
    with pytest.raises(BadInput, match="mark without a place"):
        photo({"stop": PlacedMark(*at)})


def test_an_unknown_mark_is_refused_by_name() -> None:
    with pytest.raises(BadInput, match="got tail"):
        photo({"tail": PlacedMark(1, 2)})


@pytest.mark.parametrize(
    ("reading", "told"),
    [
        (("stop", "stop", 80.0, 1.0), "two marks"),
        (("stop", "tail", 80.0, 1.0), "unknown mark"),
        (("stop", "nose_tip", 0.8, 1.0), "Check the unit"),
        (("stop", "nose_tip", 4000.0, 1.0), "out of reach"),
        (("stop", "nose_tip", 80.0, 0.0), "σ"),
        (("stop", "nose_tip", math.nan, 1.0), ""),
    ],
)
def test_a_reading_that_cannot_be_is_refused(reading: tuple, told: str) -> None:  # type: ignore[type-arg]
    with pytest.raises(BadInput) as refused:
        HandMeasure(*reading)
    assert told in str(refused.value)


def with_mark(sim: SimHead, mark: str, x: float, y: float) -> HeadInput:
    first = sim.given.photos[0]
    moved = replace(first, marks={**first.marks, mark: replace(first.marks[mark], x_px=x, y_px=y)})
    return replace(sim.given, photos=(moved, *sim.given.photos[1:]))


@pytest.mark.parametrize("share", [-0.5, 1.5])
@pytest.mark.parametrize("axis", [0, 1])
def test_a_mark_may_lie_half_a_photo_outside_and_no_farther(share: float, axis: int) -> None:
    sim = random_head(4, ("front", "left"))
    first = sim.given.photos[0]
    mark = "nose_tip"
    size = (first.width_px, first.height_px)
    middle = [size[0] / 2, size[1] / 2]
    for beyond, told in ((-1.0, False), (1.0, True)):
        at = list(middle)
        at[axis] = share * size[axis] + (beyond if share > 0 else -beyond)
        head = solve_head(with_mark(sim, mark, *at))
        assert isinstance(head, (HeadSolution, Unsolved))
        outside = [f for f in head.findings if f.code == "mark_outside_photo" and f.mark == mark]
        assert bool(outside) == told


@pytest.mark.parametrize("seed", [1, 8])
def test_a_foretold_mark_narrows_as_foretold(seed: int) -> None:
    """What one more mark on a photo would tell is what it tells, placed just where it was expected."""
    from dapwick.core.head.skin_and_coat import skin_and_coat
    from dapwick.core.plan.next_best import ground_of, next_best

    sim = random_head(seed, ("front", "left"), hand=2)
    left = sim.given.photos[1]
    fewer = replace(left, marks={m: at for m, at in left.marks.items() if m != "occiput"})
    head = solved(replace(sim.given, photos=(sim.given.photos[0], fewer)))
    coat = skin_and_coat(head, "standing", [])[1]
    ground = ground_of(head, coat, frozenset({("front", "dry"), ("left", "dry")}))
    told = next(n for n in next_best(ground, at_most=99) if n.what == f"{left.name}:occiput")
    camera = head.cameras[1]
    expected = camera.project(head.points_mm[[INDEX["occiput"]]])[0]
    placed = replace(
        fewer, marks={**fewer.marks, "occiput": PlacedMark(float(expected[0]), float(expected[1]))}
    )
    after = solved(replace(sim.given, photos=(sim.given.photos[0], placed)))
    then = ground_of(after, skin_and_coat(after, "standing", [])[1], ground.taken)
    zone = ground.zone == ground.zone[np.isin(ground.at, ground.warped.in_zone(told.zone))][0]
    sigma = then.warped.sigma_mm[then.at[zone]]
    half = float(np.mean(1.959964 * np.hypot(sigma, coat.known.sigma(then.at[zone])[1])))
    assert told.after_mm == pytest.approx(half, rel=0.05)
