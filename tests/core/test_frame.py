"""The head frame is what its definition says, whatever frame the marks came in."""

from __future__ import annotations

import numpy as np
import pytest

from dapwick.core.basics.arrays import gradient
from dapwick.core.basics.camera import rotation_from
from dapwick.core.basics.frame import into_head_frame, rigid_into_head_frame
from dapwick.core.basics.marks import INDEX
from simheads import random_points


@pytest.fixture(params=range(4))
def moved(request: pytest.FixtureRequest) -> np.ndarray:
    rng = np.random.default_rng(request.param)
    return random_points(rng) @ rotation_from(rng.normal(0, 1, 3)).T + rng.normal(0, 200, 3)


def test_origin_lies_between_the_inner_eye_corners(moved: np.ndarray) -> None:
    head = into_head_frame(moved)
    assert np.allclose((head[INDEX["eye_inner_left"]] + head[INDEX["eye_inner_right"]]) / 2, 0, atol=1e-9)


def test_occiput_to_nose_falls_ten_degrees(moved: np.ndarray) -> None:
    head = into_head_frame(moved)
    ahead = head[INDEX["nose_tip"]] - head[INDEX["occiput"]]
    assert np.degrees(np.arctan2(-ahead[2], ahead[1])) == pytest.approx(10.0, abs=1e-9)


def test_the_dogs_right_is_positive_x(moved: np.ndarray) -> None:
    head = into_head_frame(moved)
    assert head[INDEX["cheek_right"], 0] > 0 > head[INDEX["cheek_left"], 0]


def test_distances_survive(moved: np.ndarray) -> None:
    before = np.linalg.norm(moved[:, None] - moved[None], axis=2)
    head = into_head_frame(moved)
    assert np.allclose(np.linalg.norm(head[:, None] - head[None], axis=2), before)


def test_applying_it_twice_changes_nothing(moved: np.ndarray) -> None:
    once = into_head_frame(moved)
    assert np.allclose(into_head_frame(once), once, atol=1e-9)


def test_rigid_form_agrees(moved: np.ndarray) -> None:
    axes, origin = rigid_into_head_frame(moved)
    assert np.allclose((moved - origin) @ axes.T, into_head_frame(moved))


def test_complex_step_matches_differences(moved: np.ndarray) -> None:
    def flat(v):  # type: ignore[no-untyped-def]
        return into_head_frame(v.reshape(len(v), -1, 3)).reshape(len(v), -1)

    slope = gradient(flat, moved.ravel())
    step = 1e-5
    for column in (0, 17, 40, 71):
        shift = np.zeros(moved.size)
        shift[column] = step
        by_difference = (flat((moved.ravel() + shift)[None]) - flat((moved.ravel() - shift)[None]))[0] / (
            2 * step
        )
        assert np.allclose(slope[:, column], by_difference, atol=1e-6)
