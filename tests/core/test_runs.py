"""A length that runs over a place: told from end to end, each end by what it lies nearest to."""

from __future__ import annotations

import numpy as np
import pytest

from dapwick.core.basics.marks import INDEX
from dapwick.core.cut.runs import END_SHARE, TELLING_MM, run_over

POINTS = np.full((len(INDEX), 3), 500.0)
POINTS[INDEX["ear_front_left"]] = (-50.0, -20.0, 40.0)
POINTS[INDEX["chin"]] = (0.0, 80.0, -40.0)
LINE = np.column_stack([np.zeros(100), np.linspace(-20.0, 80.0, 100), np.linspace(40.0, -40.0, 100)])


def test_one_number_does_where_lengths_hardly_differ() -> None:
    assert run_over(POINTS, LINE, np.linspace(10.0, 10.0 + TELLING_MM, 100)) is None


def test_ends_are_the_middles_of_the_shortest_and_longest_share() -> None:
    lengths = np.linspace(10.0, 30.0, 100)
    run = run_over(POINTS, LINE, lengths)
    count = round(END_SHARE * 100)
    assert run is not None
    assert run.short.mm == pytest.approx(np.median(lengths[:count]))
    assert run.long.mm == pytest.approx(np.median(lengths[-count:]))
    assert run.short.at_mm == pytest.approx(tuple(LINE[:count].mean(axis=0)))
    assert run.long.at_mm == pytest.approx(tuple(LINE[-count:].mean(axis=0)))


def test_each_end_is_named_by_the_nearest_mark() -> None:
    run = run_over(POINTS, LINE, np.linspace(10.0, 30.0, 100))
    assert run is not None
    assert run.words == "11 at the ear, 29 at the chin"
    turned = run_over(POINTS, LINE, np.linspace(30.0, 10.0, 100))
    assert turned is not None
    assert turned.words == "11 at the chin, 29 at the ear"


def test_marks_of_either_side_have_one_name() -> None:
    other = POINTS.copy()
    other[INDEX["ear_front_left"]] = 500.0
    other[INDEX["ear_back_right"]] = (50.0, -20.0, 40.0)
    run = run_over(other, LINE, np.linspace(10.0, 30.0, 100))
    assert run is not None
    assert run.short.words == "at the ear"


@pytest.mark.parametrize(
    ("axis", "short", "long"),
    [(1, "behind", "in front"), (2, "below", "above"), (0, "inside", "outside")],
)
def test_where_both_ends_lie_at_one_mark_the_way_is_told(axis: int, short: str, long: str) -> None:
    places = np.zeros((40, 3))
    places[:, axis] = np.linspace(1.0, 21.0, 40)
    marks = np.full((len(INDEX), 3), 500.0)
    marks[INDEX["stop"]] = 0.0
    lengths = np.linspace(5.0, 20.0, 40)
    there, back = run_over(marks, places, lengths), run_over(marks, places, lengths[::-1])
    assert there is not None
    assert back is not None
    assert (there.short.words, there.long.words) == (short, long)
    assert (back.short.words, back.long.words) == (long, short)


def test_outside_is_outside_on_both_sides() -> None:
    marks = np.full((len(INDEX), 3), 500.0)
    marks[INDEX["stop"]] = 0.0
    for side in (-1.0, 1.0):
        places = np.zeros((40, 3))
        places[:, 0] = side * np.linspace(1.0, 21.0, 40)
        run = run_over(marks, places, np.linspace(5.0, 20.0, 40))
        assert run is not None
        assert run.long.words == "outside"


def test_few_places_have_ends_too() -> None:
    run = run_over(POINTS, LINE[[0, -1]], np.array([4.0, 12.0]))
    assert run is not None
    assert (run.short.mm, run.long.mm) == (4.0, 12.0)
