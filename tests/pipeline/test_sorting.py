"""A photo's place: told where it is sure, asked where it is not."""

from __future__ import annotations

import numpy as np
import pytest

from dapwick.core.basics.marks import VIEWS, View
from dapwick.pipeline.sorting import SLOTS, SURE, sorted_photo
from dapwick.vision.guess import Guess, NoGuess


def guess(view: View, chance: float, wet: float) -> Guess:
    rest = (1 - chance) / (len(VIEWS) - 1)
    chances = {v: chance if v == view else rest for v in VIEWS}
    return Guess(view, chances, wet, {}, np.zeros((4, 4)))


@pytest.mark.parametrize(
    ("chance", "wet", "asks"),
    [
        (0.95, 0.02, ()),
        (0.95, 0.98, ()),
        (0.6, 0.02, ("view",)),
        (0.95, 0.5, ("state",)),
        (0.79, 0.79, ("view", "state")),
        (SURE, 1 - SURE, ()),
    ],
)
def test_what_is_not_sure_is_asked(chance: float, wet: float, asks: tuple[str, ...]) -> None:
    place = sorted_photo(guess("left", chance, wet))
    assert place.asks == asks
    assert place.view == "left"
    assert place.state == ("wet" if wet > 0.5 else "dry")
    assert place.state_chance == pytest.approx(max(wet, 1 - wet))


def test_a_view_that_is_known_is_not_asked() -> None:
    place = sorted_photo(guess("top", 0.3, 0.05), "top")
    assert place.asks == ()
    assert (place.view, place.view_chance) == ("top", 1.0)


def test_without_a_head_all_is_asked() -> None:
    place = sorted_photo(NoGuess("nothing"))
    assert place.asks == ("view", "state")
    assert (place.view, place.state) == (None, None)


@pytest.mark.parametrize(
    ("view", "chance", "name", "sure", "first"),
    [
        ("left", 0.95, "IMG_1.jpg", True, "left"),
        ("left", 0.6, "IMG_1.jpg", False, "left"),
        ("left", 0.6, "fogbell left.jpg", True, "left"),
        ("left", 0.95, "fogbell right.jpg", True, "left"),
        ("left", 0.5, "fogbell right.jpg", False, "left"),
        ("back", 0.97, "IMG_1.jpg", False, "front"),
        ("three_quarter_left", 0.9, "IMG_1.jpg", False, "front"),
        ("front", 0.5, "from above.jpg", False, "front"),
    ],
)
def test_names_help_and_pictures_decide(view: View, chance: float, name: str, sure: bool, first: str) -> None:
    place = sorted_photo(guess(view, chance, 0.1), file_name=name)
    assert place.slot == (view if sure else None)
    assert place.maybe[0] == first
    assert set(place.maybe) <= set(SLOTS)


def test_without_a_head_no_slot_is_sure_whatever_the_name_says() -> None:
    place = sorted_photo(NoGuess("nothing"), file_name="front.jpg")
    assert place.slot is None
    assert place.maybe[0] == "front"
    assert set(place.maybe) <= set(SLOTS)
