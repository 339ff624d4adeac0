"""The network's answers to a picture made by rule are what they were: weights, layers and their order hold."""

from __future__ import annotations

import numpy as np
import pytest

from dapwick.core.basics.marks import INDEX, VIEWS
from dapwick.vision.network import CELLS, SIDE_PX, Reading, read


def picture() -> np.ndarray:
    """Two dark eyes and a nose on a light disc before a slope of grey."""
    y, x = np.mgrid[0:SIDE_PX, 0:SIDE_PX] / SIDE_PX
    made = np.stack([0.35 + 0.3 * y, 0.4 + 0.2 * x, 0.45 + 0.1 * x * y], axis=2)
    made[np.hypot(x - 0.5, (y - 0.55) * 0.9) < 0.3] = (0.8, 0.7, 0.55)
    for cx, cy, r in ((0.4, 0.45, 0.03), (0.6, 0.45, 0.03), (0.5, 0.62, 0.05)):
        made[np.hypot(x - cx, y - cy) < r] = 0.08
    return np.asarray(np.round(255 * made), np.uint8)


@pytest.fixture(scope="module")
def reading() -> Reading:
    return read(picture())


def test_shapes_and_ranges(reading: Reading) -> None:
    assert reading.heat.shape == (len(INDEX), CELLS, CELLS)
    assert reading.dog.shape == (CELLS, CELLS)
    assert np.isfinite(reading.heat).all()


HOTTEST = {
    "nose_tip": ((28, 23), 9.50),
    "eye_inner_right": ((21, 21), 13.72),
    "eye_outer_left": ((21, 31), 11.10),
    "eye_outer_right": ((22, 17), 10.85),
    "stop": ((21, 23), 12.87),
}


@pytest.mark.parametrize("mark", HOTTEST)
def test_the_hottest_cell_of_a_mark(reading: Reading, mark: str) -> None:
    cell, value = HOTTEST[mark]
    heat = reading.heat[INDEX[mark]]
    assert np.unravel_index(int(heat.argmax()), heat.shape) == cell
    assert float(heat.max()) == pytest.approx(value, abs=0.02)


def test_views_state_and_dog(reading: Reading) -> None:
    told = dict(zip(VIEWS, reading.view.tolist(), strict=True))
    assert max(told, key=lambda view: told[view]) == "front"
    assert told["front"] == pytest.approx(4.526, abs=0.02)
    assert float(reading.wet) == pytest.approx(-0.964, abs=0.02)
    assert float(reading.dog.mean()) == pytest.approx(-5.109, abs=0.02)
    assert float(reading.heat.mean()) == pytest.approx(-2.150, abs=0.02)
