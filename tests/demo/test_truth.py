"""The demo dogs' truth agrees with itself and with the photos beside it."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from scipy.spatial import cKDTree

from dapwick.core.basics.camera import Camera
from dapwick.core.basics.frame import into_head_frame
from dapwick.core.basics.marks import MARK_IDS
from dapwick.core.solve.joint import solve_head
from dapwick.core.solve.observations import HeadInput, PhotoMarks, PlacedMark
from dapwick.core.solve.pose import photo_findings
from dapwick.core.solve.prior import general_prior
from dapwick.demo.dogs import ALL_SEVEN, DEMO_DOGS, calliper_mm, hand_marks, photo_bytes, photos_of, truth
from dapwick.documents.head_file import PhotoEntry, photo_marks
from dapwick.vision.photo import read_photo

KEYS = [dog.key for dog in DEMO_DOGS]


@pytest.mark.parametrize("key", KEYS)
def test_marks_are_in_the_head_frame(key: str) -> None:
    marks = np.array([truth(key)["marks_mm"][m] for m in MARK_IDS])
    assert np.abs(into_head_frame(marks) - marks).max() < 0.05


@pytest.mark.parametrize("key", KEYS)
def test_pictured_marks_are_the_cameras(key: str) -> None:
    known = truth(key)
    marks = np.array([known["marks_mm"][m] for m in MARK_IDS])
    for p in known["photos"]:
        camera = Camera(
            np.array(p["rotation"]), np.array(p["translation_mm"]), p["focal_px"], p["width"], p["height"]
        )
        pictured = np.array([p["marks_px"][m] for m in MARK_IDS])
        assert np.abs(camera.project(marks) - pictured).max() < 0.3


@pytest.mark.parametrize("key", KEYS)
def test_photos_carry_what_a_phone_writes(key: str) -> None:
    for p in truth(key)["photos"]:
        photo = read_photo(photo_bytes(p["file"]), p["file"])
        assert (photo.width_px, photo.height_px) == (p["width"], p["height"])
        assert photo.focal_px == pytest.approx(p["focal_px"], rel=0.02)
        assert photo.taken is not None
        assert len(photo_bytes(p["file"])) < 400_000


@pytest.mark.parametrize("key", KEYS)
def test_photos_are_what_they_are_labelled(key: str) -> None:
    for p in truth(key)["photos"]:
        marks = {m: PlacedMark(*v["at"]) for m, v in hand_marks(p).items()}
        photo = PhotoMarks(p["file"], p["view"], p["width"], p["height"], marks, p["focal_px"])
        assert photo_findings(general_prior().mean_mm, photo) == []


@pytest.mark.parametrize("key", KEYS)
def test_bone_marks_lie_on_the_true_skin(key: str) -> None:
    known = truth(key)
    skin = cKDTree(known["skin"]["at_mm"])
    bones = [known["marks_mm"][m] for m in ("cheek_left", "cheek_right", "crown", "chin", "jaw_angle_left")]
    away, _ = skin.query(bones)
    assert away.max() < 12.0
    assert known["skin"]["off_field_mm"] < 0.5


def test_a_hand_errs_as_a_hand_does_and_repeatably() -> None:
    photo = photos_of(truth("bobbin"))[0]
    once, again, other = hand_marks(photo, 1), hand_marks(photo, 1), hand_marks(photo, 2)
    assert once == again
    assert once != other
    off = [np.hypot(*(np.array(m["at"]) - photo["marks_px"][k])) for k, m in once.items()]
    assert 0.5 < np.median(off) < 15


def test_calliper_reads_to_half_a_millimetre() -> None:
    reading = calliper_mm(truth("fogbell"), "eye_outer_left", "eye_outer_right")
    assert (reading * 2) % 1 == 0
    assert 60 < reading < 80


def test_coat_is_as_deep_as_its_hair_is_long_at_most() -> None:
    for key in KEYS:
        skin = truth(key)["skin"]
        depth, length = np.array(skin["coat_depth_mm"]), np.array(skin["hair_length_mm"])
        assert (depth >= 0).all()
        # Neighbours lean over, so single places may stand deeper than their own hair.
        assert (depth <= length + 12).mean() > 0.8


@pytest.mark.parametrize("key", KEYS)
def test_good_marks_are_never_called_slips(key: str) -> None:
    """However far the marking has come, a steady hand's marks on any demo dog are believed."""
    known = truth(key)
    front, left, *rest = (
        photo_marks(PhotoEntry.model_validate({**p, "marks": hand_marks(p)}), p["file"])
        for p in photos_of(known, ALL_SEVEN[:4])
    )
    begun = replace(front, marks=dict(list(front.marks.items())[:7]))
    for photos in ((begun,), (begun, left), (front, left), (front, left, *rest)):
        head = solve_head(HeadInput(photos))
        assert not {f.code for f in head.findings} & {"mark_off", "uneven_pair"}, [p.name for p in photos]
