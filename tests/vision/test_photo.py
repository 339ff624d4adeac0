"""Photo files in: good ones read right, the zoo refused in words."""

from __future__ import annotations

import io
import math

import numpy as np
import pytest
from PIL import Image

import zoo
from dapwick.core.basics.errors import BadInput
from dapwick.vision.photo import read_photo, screen_jpeg


@pytest.mark.parametrize("kind", zoo.NOT_PHOTOS)
def test_what_is_no_photo_is_refused_in_words(kind: str) -> None:
    data, words = zoo.NOT_PHOTOS[kind]
    with pytest.raises(BadInput, match=words) as caught:
        read_photo(data, f"{kind}.jpg")
    assert caught.value.where == f"{kind}.jpg"
    assert caught.value.remedy


@pytest.mark.parametrize(("orientation", "dark_side"), [(1, "left"), (3, "right"), (6, "top"), (8, "bottom")])
def test_exif_orientation_is_applied(orientation: int, dark_side: str) -> None:
    photo = read_photo(zoo.jpeg(800, 600, orientation), "held aside.jpg")
    grey = photo.rgb.mean(axis=2)
    halves = {"left": grey[:, :200], "right": grey[:, -200:], "top": grey[:200], "bottom": grey[-200:]}
    assert min(halves, key=lambda side: halves[side].mean()) == dark_side
    assert (photo.width_px, photo.height_px) == ((800, 600) if orientation < 5 else (600, 800))


def test_focal_length_comes_from_its_full_frame_equivalent() -> None:
    assert read_photo(zoo.jpeg(800, 600), "a.jpg").focal_px == pytest.approx(54 / math.hypot(36, 24) * 1000)


def test_focal_length_survives_turning() -> None:
    assert read_photo(zoo.jpeg(800, 600, 6), "a.jpg").focal_px == pytest.approx(
        54 / math.hypot(36, 24) * 1000
    )


def test_heic_is_read() -> None:
    photo = read_photo(zoo.heic(), "phone.heic")
    assert (photo.width_px, photo.height_px, photo.format) == (640, 480, "HEIF")
    assert photo.focal_px is None


@pytest.mark.parametrize("kind", ["PNG", "WEBP"])
def test_png_and_webp_are_read(kind: str) -> None:
    out = io.BytesIO()
    Image.new("RGBA", (500, 400), (10, 200, 30, 128)).save(out, kind)
    photo = read_photo(out.getvalue(), "a")
    assert photo.rgb.shape == (400, 500, 3)


def test_screen_copy_is_small_and_carries_no_exif() -> None:
    photo = read_photo(zoo.jpeg(3200, 1000), "wide.jpg")
    copy = Image.open(io.BytesIO(screen_jpeg(photo)))
    assert copy.size == (1600, 500)
    assert not copy.getexif()


def test_pixels_are_whole_after_decoding() -> None:
    assert read_photo(zoo.jpeg(), "a.jpg").rgb.dtype == np.uint8
