"""A photo's camera before the solve: found from marks alone, and told where the photo cannot be what it is said."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from dapwick.core.basics.camera import nominal_rotation, rotation_from
from dapwick.core.basics.marks import INDEX, MARK_IDS, View
from dapwick.core.solve.observations import PhotoMarks, PlacedMark
from dapwick.core.solve.pose import MIN_MARKS, Pose, fit_pose, fit_poses, photo_findings
from dapwick.core.solve.prior import general_prior

HEAD = general_prior().mean_mm
VIEWS: tuple[View, ...] = ("front", "left", "right", "top")


def pictured(view: View, turn: tuple[float, float, float] = (0, 0, 0), far_mm: float = 4000.0) -> PhotoMarks:
    """Every mark of the mean head as a distant camera of this view sees it, turned a little."""
    rotation = rotation_from(np.array([turn]))[0] @ nominal_rotation(view)
    focal = 1200.0 * far_mm / 700.0
    at = HEAD @ rotation.T + [0.0, 0.0, far_mm]
    px = focal * at[:, :2] / at[:, 2:] + [600.0, 450.0]
    marks = {m: PlacedMark(float(x), float(y)) for m, (x, y) in zip(MARK_IDS, px, strict=True)}
    return PhotoMarks(f"{view}.jpg", view, 1200, 900, marks, focal_px=focal)


def apart_deg(one: np.ndarray, other: np.ndarray) -> float:
    return float(np.degrees(np.arccos(np.clip((np.trace(one @ other.T) - 1) / 2, -1, 1))))


@pytest.mark.parametrize("view", VIEWS)
@pytest.mark.parametrize("turn", [(0.0, 0.0, 0.0), (0.2, -0.15, 0.1), (-0.1, 0.3, -0.2)])
def test_a_distant_cameras_turn_and_distance_are_found(view: View, turn: tuple[float, float, float]) -> None:
    photo = pictured(view, turn)
    pose = fit_pose(HEAD, photo, view)
    true = rotation_from(np.array([turn]))[0] @ nominal_rotation(view)
    assert apart_deg(pose.rotation, true) < 2.0
    assert pose.translation_mm[2] == pytest.approx(4000.0, rel=0.03)
    assert pose.misfit_share < 0.03
    assert np.allclose(pose.rotation @ pose.rotation.T, np.eye(3), atol=1e-9)
    assert np.linalg.det(pose.rotation) == pytest.approx(1.0)


def test_each_start_gives_its_own_pose_and_the_true_one_fits_best() -> None:
    photo = pictured("left")
    poses: list[Pose] = fit_poses(HEAD, photo, VIEWS)
    assert len(poses) == len(VIEWS)
    alone = fit_pose(HEAD, photo, "left")
    assert poses[1].rotation == pytest.approx(alone.rotation, abs=0.02)
    assert min(poses, key=lambda pose: pose.misfit_share).misfit_share == pytest.approx(
        poses[1].misfit_share, abs=1e-3
    )


def test_a_photo_off_the_middle_is_seen_off_the_middle() -> None:
    photo = pictured("front")
    moved = replace(photo, marks={m: replace(at, x_px=at.x_px + 200.0) for m, at in photo.marks.items()})
    straight, aside = (fit_pose(HEAD, p, "front") for p in (photo, moved))
    px_per_mm = photo.focal_guess_px / 4000.0
    assert aside.translation_mm[0] - straight.translation_mm[0] == pytest.approx(200.0 / px_per_mm, rel=0.03)


def codes(photo: PhotoMarks) -> list[str]:
    return [f.code for f in photo_findings(HEAD, photo)]


@pytest.mark.parametrize("view", VIEWS)
def test_a_photo_of_its_own_view_is_not_accused(view: View) -> None:
    assert codes(pictured(view)) == []


def test_too_few_marks_are_told_with_how_many() -> None:
    photo = pictured("front")
    few = dict(list(photo.marks.items())[: MIN_MARKS - 1])
    (told,) = photo_findings(HEAD, replace(photo, marks=few))
    assert told.code == "too_few_marks"
    assert told.leaves_photo_out
    assert f"{MIN_MARKS - 1} marks placed, at least {MIN_MARKS}" in told.message
    heaped = {m: PlacedMark(5.0, 5.0) for m in photo.marks}
    assert codes(replace(photo, marks=heaped)) == ["too_few_marks"]


def mirrored(photo: PhotoMarks) -> PhotoMarks:
    return replace(photo, marks={m: replace(at, x_px=1200.0 - at.x_px) for m, at in photo.marks.items()})


@pytest.mark.parametrize("view", ["front", "top"])
def test_a_mirrored_photo_is_told(view: View) -> None:
    assert codes(mirrored(pictured(view))) == ["sides_swapped"]


@pytest.mark.parametrize(("view", "other"), [("left", "right"), ("right", "left")])
def test_a_side_photo_whose_nose_points_the_wrong_way_is_told(view: View, other: str) -> None:
    own = {m: at for m, at in mirrored(pictured(view)).marks.items() if not m.endswith(f"_{other}")}
    (told,) = photo_findings(HEAD, replace(pictured(view), marks=own))
    assert told.code == "wrong_view"
    assert f"the dog's {other} side" in told.message


@pytest.mark.parametrize(("view", "other"), [("left", "right"), ("right", "left")])
def test_a_side_photo_with_the_other_sides_marks_is_told(view: View, other: str) -> None:
    photo = pictured(view)
    theirs = {m: at for m, at in photo.marks.items() if not m.endswith(f"_{view}")}
    assert codes(replace(photo, marks=theirs)) == ["sides_swapped"]


def test_one_pair_that_changed_places_is_named() -> None:
    photo = pictured("front")
    marks = dict(photo.marks)
    marks["cheek_left"], marks["cheek_right"] = marks["cheek_right"], marks["cheek_left"]
    (told,) = photo_findings(HEAD, replace(photo, marks=marks))
    assert (told.code, told.mark) == ("pair_swapped", "cheek_left")
    assert not told.leaves_photo_out


def test_a_photo_of_another_view_is_told_by_name() -> None:
    middle = {m: at for m, at in pictured("top").marks.items() if not m.endswith(("_left", "_right"))}
    (told,) = photo_findings(HEAD, replace(pictured("front"), marks=middle))
    assert told.code == "wrong_view"
    assert "far better" in told.message
    assert INDEX["crown"] >= 0
