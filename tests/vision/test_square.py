"""Square cuts of a photo: the right place, the right size, and the photo's border beyond it."""

from __future__ import annotations

import numpy as np
import pytest

from dapwick.vision.square import square_cut


def spotted(size: tuple[int, int], at: tuple[int, int], radius: float) -> np.ndarray:
    y, x = np.mgrid[: size[0], : size[1]]
    spot = np.hypot(x + 0.5 - at[0], y + 0.5 - at[1]) < radius
    return np.where(spot[..., None], 250, 20).astype(np.uint8).repeat(3, axis=2)


def middle_of(picture: np.ndarray) -> np.ndarray:
    weight = picture[:, :, 0].astype(float) - 20
    y, x = np.mgrid[: picture.shape[0], : picture.shape[1]] + 0.5
    return np.array([(x * weight).sum(), (y * weight).sum()]) / weight.sum()


@pytest.mark.parametrize("side_px", [80.0, 200.0, 600.0])
def test_a_place_of_the_photo_lands_where_the_cut_says(side_px: float) -> None:
    rgb = spotted((500, 700), (330, 260), 14)
    centre = np.array([320.0, 250.0])
    cut = square_cut(rgb, centre, side_px, 160)
    wanted = (np.array([330.0, 260.0]) - centre + side_px / 2) * 160 / side_px
    assert cut.shape == (160, 160, 3)
    assert np.abs(middle_of(cut) - wanted).max() < 1.0


def test_beyond_the_photo_its_border_goes_on() -> None:
    rgb = np.full((100, 100, 3), 60, np.uint8)
    rgb[:, -5:] = 200
    cut = square_cut(rgb, np.array([50.0, 50.0]), 200.0, 64)
    assert (cut[:, -10:] > 150).all()
    assert (cut[:, :10] < 100).all()
