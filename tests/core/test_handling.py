"""What a dog minds and how it is, and how close its skin may be clipped."""

from __future__ import annotations

import pytest

from dapwick.core.basics.errors import BadInput
from dapwick.core.cut.handling import (
    TRAITS,
    checked_traits,
    closest_on,
    minded,
    pause_after_min,
    quiet_visits,
    slower,
)
from dapwick.core.plan.kit import SkinLimits

LIMITS = SkinLimits()


@pytest.mark.parametrize(
    ("traits", "quiet", "closest_mm", "words"),
    [
        ((), 0, 1.5, "not clipped here before"),
        ((), 1, 1.2, "quiet"),
        ((), 2, 0.5, "quiet"),
        ((), 9, 0.25, "quiet"),
        (("first_time",), 3, 1.5, "first time"),
        (("long_ungroomed",), 2, 1.5, "long ungroomed"),
        (("white_coat",), 3, 1.5, "pink"),
        (("thin_coat",), 1, 1.5, "pink"),
        (("skin_trouble", "white_coat"), 3, 3.2, "vet"),
    ],
)
def test_the_strictest_limit_on_the_skin_counts(
    traits: tuple[str, ...], quiet: int, closest_mm: float, words: str
) -> None:
    closest = closest_on(traits, quiet, LIMITS)
    assert closest.mm == closest_mm
    assert words in closest.why


def test_redness_sends_the_skin_back_to_the_start() -> None:
    assert quiet_visits([(True, False), (True, False)]) == 2
    assert quiet_visits([(True, False), (True, True), (True, False)]) == 1
    assert quiet_visits([(False, False), (False, False)]) == 0
    assert quiet_visits([]) == 0


def test_traits_are_kept_once_in_the_lists_order_and_unknown_ones_refused() -> None:
    assert checked_traits(["old", "minds_muzzle", "old"]) == ("minds_muzzle", "old")
    with pytest.raises(BadInput, match="grumpy"):
        checked_traits(["old", "grumpy"])


@pytest.mark.parametrize(
    ("traits", "zones", "clippers", "found"),
    [
        (("minds_muzzle",), ("chin",), False, ["minds_muzzle"]),
        (("minds_muzzle",), ("crown",), True, []),
        (("minds_clipper",), ("crown",), True, ["minds_clipper"]),
        (("minds_clipper",), ("crown",), False, []),
        (("minds_ears", "snaps"), ("ear_edge", "brow"), False, ["minds_ears", "snaps"]),
    ],
)
def test_what_is_minded_hangs_on_place_and_machine(
    traits: tuple[str, ...], zones: tuple[str, ...], clippers: bool, found: list[str]
) -> None:
    assert [t.code for t in minded(traits, zones, clippers)] == found


def test_the_dog_that_needs_it_most_sets_the_breaks() -> None:
    assert pause_after_min(()) is None
    assert pause_after_min(("old", "flat_face")) == TRAITS["flat_face"].pause_min
    assert slower(()) == 1.0
    assert slower(("old", "minds_ears")) == TRAITS["old"].slower
