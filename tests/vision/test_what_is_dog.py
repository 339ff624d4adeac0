"""Each pixel's chance of dog: what stands out, the first guesses, and how they are weighed against each other."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from dapwick.demo.dogs import photo_bytes, photos_of, truth
from dapwick.vision.photo import read_photo
from dapwick.vision.salient import close_look, whole_look
from dapwick.vision.what_is_dog import SURELY, chance_of_dog, covered, joined, softened

CHANCES = st.floats(1 - SURELY, SURELY)


def flat(value: float) -> np.ndarray:
    return np.full((4, 5), value, np.float32)


@given(st.lists(st.tuples(CHANCES, st.floats(0.01, 3.0)), min_size=1, max_size=4))
def test_a_joined_chance_lies_between_the_looks(looks: list[tuple[float, float]]) -> None:
    made = joined([(flat(chance), weight) for chance, weight in looks])
    low, high = min(c for c, _ in looks), max(c for c, _ in looks)
    assert (made > low - 1e-4).all()
    assert (made < high + 1e-4).all()


def test_two_looks_of_one_weight_meet_half_way_in_log_odds() -> None:
    assert joined([(flat(0.9), 1.0), (flat(0.1), 1.0)]) == pytest.approx(0.5)
    odds = np.sqrt(0.9 / 0.1 * 0.6 / 0.4)
    assert joined([(flat(0.9), 1.0), (flat(0.6), 1.0)]) == pytest.approx(odds / (1 + odds))


def test_a_look_has_no_say_where_it_does_not_reach() -> None:
    half = flat(0.95)
    half[:, :2] = np.nan
    made = joined([(half, 5.0), (flat(0.2), 1.0)])
    assert made[:, :2] == pytest.approx(0.2)
    assert (made[:, 2:] > 0.7).all()


def test_covered_counts_the_places_a_look_takes_for_dog() -> None:
    look = np.zeros((10, 10), np.float32)
    look[:, :5] = 1.0
    look[0] = np.nan
    places = np.array([[1.0, 5.0], [2.0, 5.0], [8.0, 5.0], [3.0, 0.0]])
    assert covered(look, places) == pytest.approx(2 / 3)
    assert covered(np.full((10, 10), np.nan, np.float32), places) == 0.0


def test_softening_leaves_the_reach_and_the_flats_alone() -> None:
    look = np.zeros((200, 300), np.float32)
    look[:, :150] = 1.0
    look[:5] = np.nan
    soft = softened(look)
    assert np.isnan(soft[:5]).all()
    assert soft[100, 100] == pytest.approx(1.0)
    assert soft[100, 200] == pytest.approx(0.0)
    assert 0.3 < soft[100, 150] < 0.7


def test_what_stands_out_elsewhere_is_not_taken_for_the_dog() -> None:
    """A bright ball beside the places: the look that sees the ball only is dropped, and nothing is left."""
    y, x = np.mgrid[:300, :400]
    rgb = np.full((300, 400, 3), 70, np.uint8)
    rgb[np.hypot(x - 300, y - 150) < 60] = (240, 200, 40)
    assert covered(whole_look(rgb), np.array([[300.0, 150.0]])) == 1.0
    corner = np.array([[20.0, 20.0], [60.0, 20.0], [20.0, 60.0], [60.0, 60.0]])
    assert chance_of_dog(rgb, corner, None, close=False) is None
    guessed = np.full((300, 400), 0.3)
    assert chance_of_dog(rgb, corner, guessed, close=False) == pytest.approx(0.3, abs=1e-4)


def test_guesses_that_see_something_else_do_not_count() -> None:
    y, x = np.mgrid[:300, :400]
    rgb = np.full((300, 400, 3), 70, np.uint8)
    rgb[np.hypot(x - 300, y - 150) < 60] = (240, 200, 40)
    on_ball = np.array([[280.0, 150.0], [320.0, 150.0], [300.0, 130.0], [300.0, 170.0]])
    wrong = np.where(x < 150, 0.9, 0.1)
    chance = chance_of_dog(rgb, on_ball, wrong, close=False)
    assert chance is not None
    assert chance[150, 300] > 0.9
    assert chance[150, 60] < 0.2


@pytest.mark.parametrize(("key", "slot"), [("marlin-spike", "dry-front"), ("tiller", "dry-right")])
def test_a_dog_stands_out_from_far_and_from_near(key: str, slot: str) -> None:
    photo = photos_of(truth(key), [slot])[0]
    rgb = read_photo(photo_bytes(photo["file"]), photo["file"]).rgb
    seen = [m for m, at in photo["marks_px"].items() if at and not m.startswith("ear_tip")]
    places = np.array([photo["marks_px"][m] for m in seen])
    for look in (whole_look(rgb), close_look(rgb, places)):
        assert look.shape == rgb.shape[:2]
        assert covered(look, places) > 0.9
        assert np.nanmin(look) >= 0.0
        assert np.nanmax(look) <= 1.0
    assert whole_look(rgb)[30, 30] < 0.2


def test_a_dog_that_fills_its_photo_still_stands_out() -> None:
    """Without room round it a network for what stands out sees nothing; the border goes on for it."""
    photo = photos_of(truth("kelpie-jo"), ["dry-front"])[0]
    rgb = read_photo(photo_bytes(photo["file"]), photo["file"]).rgb
    edge = np.array(photo["edge_px"])
    (left, top), (right, bottom) = edge.min(axis=0).astype(int), edge.max(axis=0).astype(int)
    tight = np.ascontiguousarray(rgb[max(top, 0) : bottom, max(left, 0) : right])
    stop = np.array([photo["marks_px"]["stop"]]) - [max(left, 0), max(top, 0)]
    assert covered(whole_look(tight), stop) == 1.0
