"""Impossible input: each is a named finding with its culprit, and the rest still works."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

import pytest

import zoo
from dapwick.core.solve.joint import HeadSolution, Unsolved, solve_head
from dapwick.core.solve.observations import PhotoMarks
from simheads import SimHead, random_head

SPOILT: dict[str, tuple[int, Callable[[PhotoMarks], PhotoMarks], str]] = {
    "front with sides swapped": (0, zoo.swapped_sides, "sides_swapped"),
    "front mirrored": (0, zoo.mirrored, "sides_swapped"),
    "left with the other side's marks": (1, zoo.swapped_sides, "sides_swapped"),
    "left mirrored": (1, zoo.mirrored, "wrong_view"),
    "left labelled right": (1, lambda p: replace(zoo.swapped_sides(p), view="right"), "wrong_view"),
    "left labelled front": (1, lambda p: replace(p, view="front"), "wrong_view"),
    "three marks": (0, lambda p: zoo.only(p, 3), "too_few_marks"),
    "all marks in one place": (0, zoo.coincident, "too_few_marks"),
}


@pytest.mark.parametrize("case", SPOILT)
def test_a_spoilt_photo_is_told_and_left_out(sim: SimHead, case: str) -> None:
    index, spoil, code = SPOILT[case]
    head = solve_head(zoo.with_photo(sim, index, spoil(sim.given.photos[index])))
    culprit = sim.given.photos[index].name
    assert (code, culprit) in {(f.code, f.photo) for f in head.findings}
    assert isinstance(head, HeadSolution), "the other photo is still good"
    assert culprit not in {p.name for p in head.photos}


@pytest.mark.parametrize("seed", range(30))
def test_good_photos_are_never_accused(seed: int) -> None:
    head = solve_head(random_head(seed, ("front", "left", "right", "top")).given)
    assert isinstance(head, HeadSolution)
    assert len(head.photos) == 4
    assert not {f.code for f in head.findings} & {
        "sides_swapped",
        "wrong_view",
        "pair_swapped",
        "behind_camera",
    }


def test_one_swapped_pair_is_named(sim: SimHead) -> None:
    head = solve_head(zoo.with_photo(sim, 0, zoo.pair_swapped(sim.given.photos[0], "cheek")))
    assert ("pair_swapped", "cheek_left") in {(f.code, f.mark) for f in head.findings}


def test_collinear_marks_do_not_crash(sim: SimHead) -> None:
    head = solve_head(zoo.with_photo(sim, 0, zoo.collinear(sim.given.photos[0])))
    assert head.findings


def test_nothing_usable_is_a_value_with_reasons(sim: SimHead) -> None:
    hopeless = tuple(zoo.only(p, 2) for p in sim.given.photos)
    head = solve_head(replace(sim.given, photos=hopeless))
    assert isinstance(head, Unsolved)
    assert len(head.findings) == 2


def test_a_mark_far_outside_the_photo_is_named(sim: SimHead) -> None:
    front = sim.given.photos[0]
    away = {**front.marks, "chin": replace(front.marks["chin"], y_px=4000.0)}
    head = solve_head(zoo.with_photo(sim, 0, replace(front, marks=away)))
    assert ("mark_outside_photo", "chin") in {(f.code, f.mark) for f in head.findings}


def test_every_message_says_what_to_do(sim: SimHead) -> None:
    for index, spoil, _ in SPOILT.values():
        for f in solve_head(zoo.with_photo(sim, index, spoil(sim.given.photos[index]))).findings:
            assert f.message.endswith(".")
            assert f.message.count(".") >= 2, f.message
