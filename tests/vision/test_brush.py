"""Correcting an edge by brush strokes."""

from __future__ import annotations

import cv2
import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from dapwick.core.basics.errors import BadInput
from dapwick.vision.brush import brushed, checked_edge

SQUARE = np.array([[200.0, 200.0], [600.0, 200.0], [600.0, 500.0], [200.0, 500.0]])


def area(line: np.ndarray) -> float:
    return float(cv2.contourArea(line.astype(np.float32)))


def inside(line: np.ndarray, at: tuple[float, float]) -> bool:
    return cv2.pointPolygonTest(line.astype(np.float32), at, False) > 0


def test_adding_takes_in_what_the_brush_went_over() -> None:
    line = brushed(SQUARE, np.array([[590.0, 300.0], [680.0, 300.0]]), 30, True, 800, 600)
    assert inside(line, (695, 300))
    assert not inside(line, (695, 400))
    assert area(line) > area(SQUARE)


def test_taking_away_cuts_back_only_there() -> None:
    line = brushed(SQUARE, np.array([[600.0, 300.0], [600.0, 340.0]]), 40, False, 800, 600)
    assert not inside(line, (590, 320))
    assert inside(line, (540, 320))
    assert inside(line, (590, 460))


def test_a_first_stroke_begins_an_edge() -> None:
    line = brushed(None, np.array([[100.0, 100.0], [300.0, 100.0]]), 40, True, 800, 600)
    assert inside(line, (200, 130))


def test_a_stroke_off_the_dog_keeps_the_larger_piece() -> None:
    line = brushed(SQUARE, np.array([[700.0, 560.0]]), 15, True, 800, 600)
    assert inside(line, (400, 350))
    assert not inside(line, (700, 560))


def test_taking_everything_away_is_refused() -> None:
    with pytest.raises(BadInput, match="nothing of the dog"):
        brushed(SQUARE, np.array([[0.0, 350.0], [800.0, 350.0]]), 400, False, 800, 600)


@settings(deadline=None, max_examples=25)
@given(st.floats(0, 800), st.floats(0, 600), st.floats(2, 60), st.sampled_from([1, 4]))
def test_a_stroke_never_works_against_itself(x: float, y: float, radius: float, larger: int) -> None:
    """Adding never shrinks the dog and taking away never grows it, on small photos and large ones."""
    square, stroke = SQUARE * larger, np.array([[x, y]]) * larger
    slack = 0.02 * area(square)
    size = (800 * larger, 600 * larger)
    assert area(brushed(square, stroke, radius * larger, True, *size)) >= area(square) - slack
    assert area(brushed(square, stroke, radius * larger, False, *size)) <= area(square) + slack


@pytest.mark.parametrize("line", [[], [[1, 2]], [[1, 2], [3, 4]], [[0, 0], [1, float("nan")], [2, 2]]])
def test_what_is_no_edge_is_refused(line: list) -> None:  # type: ignore[type-arg]
    with pytest.raises(BadInput, match="coat edge"):
        checked_edge(line, 800, 600)


def test_an_edge_is_kept_on_the_photo() -> None:
    assert checked_edge([[-5, 0], [900, 0], [400, 700]], 800, 600).tolist() == [[0, 0], [800, 0], [400, 600]]
