"""The simulated camera's film, and the guide that judges it, against how the head was really held."""

from __future__ import annotations

import io

import numpy as np
import pytest
from PIL import Image

from dapwick.core.basics.errors import BadInput, NotFound
from dapwick.demo.dogs import CAMERA
from dapwick.devices.camera import Frame, SimulatedCamera
from dapwick.service.photos.guide import guide_frame
from dapwick.vision.photo import read_photo

camera = SimulatedCamera(CAMERA)
STILL = [f for f in camera.frames if f.blur_px == 0]


def judged(frame: Frame):  # type: ignore[no-untyped-def]
    return guide_frame((CAMERA / frame.file).read_bytes(), frame.view)


def test_the_film_goes_round_and_keeps_its_exif() -> None:
    film = camera.film("front", "dry")
    assert len(film) >= 6
    first, again = camera.frame("front", "dry", 0), camera.frame("front", "dry", len(film))
    assert first == again != camera.frame("front", "dry", 1)
    assert read_photo(first, "frame").focal_px is not None


def test_another_state_stands_in_and_a_view_without_film_is_told() -> None:
    assert camera.film("right", "wet") == camera.film("right", "dry")
    with pytest.raises(NotFound, match="back"):
        camera.film("back", "dry")


@pytest.mark.parametrize(("view", "state"), [("front", "dry"), ("left", "dry"), ("right", "dry"), ("top", "dry"),
                                             ("front", "wet"), ("left", "wet"), ("top", "wet")])  # fmt: skip
def test_each_slot_has_a_frame_to_take_and_one_to_wait_out(view: str, state: str) -> None:
    told = [guide_frame((CAMERA / f.file).read_bytes(), view) for f in camera.film(view, state)]
    assert any(g.good for g in told)
    assert any(not g.good for g in told)


def test_blurred_frames_are_told_and_sharp_ones_are_not() -> None:
    advice = {
        f.file: {a.code: a.fine for a in judged(f).advice} for f in camera.frames if f.blur_px in (0, 5.0)
    }
    sharp = {file: told["sharp"] for file, told in advice.items()}
    wrong = [f.file for f in camera.frames if f.file in sharp and sharp[f.file] != (f.blur_px == 0)]
    assert len(wrong) <= 0.1 * len(sharp), wrong


def test_tilt_is_read_to_a_few_degrees() -> None:
    front = [f for f in STILL if f.view == "front"]
    off = [abs(judged(f).level_deg) - abs(f.roll_deg) for f in front]
    assert np.median(np.abs(off)) < 5.0


def test_coming_nearer_is_seen() -> None:
    near = [f for f in STILL if f.view == "front" and f.distance_mm < 600]
    far = [f for f in STILL if f.view == "front" and f.distance_mm > 700]
    assert min(judged(f).fill for f in near) > 1.2 * np.median([judged(f).fill for f in far])


def test_an_empty_room_has_no_dog_in_it() -> None:
    wall = np.full((480, 640, 3), 120, np.uint8)
    out = io.BytesIO()
    Image.fromarray(wall).save(out, "JPEG")
    told = guide_frame(out.getvalue(), "front")
    assert not told.found
    assert not told.good


def test_an_unknown_view_is_refused() -> None:
    with pytest.raises(BadInput, match="unknown view"):
        guide_frame(camera.frame("front", "dry", 0), "sideways")
