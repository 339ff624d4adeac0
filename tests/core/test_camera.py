"""Projection and rotations against synthetic truth."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from dapwick.core.basics.camera import Camera, left_jacobian, nominal_rotation, rotation_from
from dapwick.core.basics.marks import VIEWS

angles = st.floats(-2.5, 2.5)


def camera(view: str = "front") -> Camera:
    return Camera(nominal_rotation(view), np.array([0, 0, 800.0]), 2000.0, 1200, 900)  # type: ignore[arg-type]


@pytest.mark.parametrize("view", VIEWS)
def test_nominal_rotation_is_proper(view: str) -> None:
    r = nominal_rotation(view)  # type: ignore[arg-type]
    assert np.allclose(r @ r.T, np.eye(3))
    assert np.linalg.det(r) == pytest.approx(1.0)


def test_front_photo_shows_dogs_right_on_the_left_and_up_at_the_top() -> None:
    right, up = camera().project(np.array([[50.0, 0, 0], [0, 0, 50.0]]))
    assert right[0] < 600
    assert up[1] < 450


def test_left_photo_points_the_nose_to_the_left_edge() -> None:
    nose = camera("left").project(np.array([[0, 60.0, 0]]))[0]
    assert nose[0] < 600


def test_head_origin_pictures_at_the_middle() -> None:
    assert np.allclose(camera().project(np.zeros((1, 3))), [[600, 450]])


def test_near_points_picture_larger() -> None:
    near, far = camera().project(np.array([[20.0, 60, 0], [20.0, -60, 0]]))
    assert abs(near[0] - 600) > abs(far[0] - 600)


def test_points_behind_the_camera_have_no_picture() -> None:
    assert np.isnan(camera().project(np.array([[0, 900.0, 0]]))).all()


@given(angles, angles, angles)
def test_rotation_vectors_give_proper_rotations(x: float, y: float, z: float) -> None:
    r = rotation_from(np.array([x, y, z]))
    assert np.allclose(r @ r.T, np.eye(3), atol=1e-12)


@given(angles, angles, angles)
def test_left_jacobian_matches_differences(x: float, y: float, z: float) -> None:
    w, step = np.array([x, y, z]), 1e-6
    turned = left_jacobian(w)
    for axis in range(3):
        dw = np.zeros(3)
        dw[axis] = step
        by_difference = (rotation_from(w + dw) - rotation_from(w - dw)) / (2 * step)
        by_formula = np.cross(turned[:, axis], rotation_from(w).T).T
        assert np.allclose(by_difference, by_formula, atol=1e-6)


@pytest.mark.parametrize(("yaw", "roll"), [(12.0, 0.0), (-8.0, 5.0), (0.0, -9.0)])
def test_angles_are_read_back(yaw: float, roll: float) -> None:
    turn = rotation_from(np.radians([0, -yaw, 0])) if roll == 0 else None
    r = nominal_rotation("front")
    if turn is None:
        turn = rotation_from(np.radians([0.0, 0.0, -roll])) @ rotation_from(np.radians([0, -yaw, 0.0]))
    got_yaw, got_pitch, got_roll = Camera(turn @ r, np.array([0, 0, 800.0]), 2000, 1200, 900).angles_deg(
        "front"
    )
    assert got_yaw == pytest.approx(yaw, abs=1e-6)
    assert got_roll == pytest.approx(roll, abs=0.2)
    assert got_pitch == pytest.approx(0.0, abs=1.5)
