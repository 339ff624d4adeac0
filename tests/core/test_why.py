"""The chain behind a number: what was measured, what the outline asks, what the coat has, which wish and whose hand."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import pytest

from cut_cases import case_of, cut_sheet
from dapwick.core.cut.sheet import Step
from dapwick.core.plan.telling import UNEVEN_MM


def links(step: Step, of: str) -> list[str]:
    return [link.words for link in step.why if link.of == of]


def jaw(**said: Any) -> Step:
    """The first step that brings the jaw to length."""
    return next(s for s in cut_sheet(case_of("round", **said)).steps if any(c.zone == "jaw" for c in s.cuts))


def test_a_number_is_led_back_to_its_measure_and_to_the_wish_that_moved_it() -> None:
    step = jaw(
        measured={"jaw": "Jaw depth 41 mm (±2).", "crown": "not this"},
        steered={"jaw": "Owner: beard short.", "*": "Owner: shorter all round.", "crown": "not this"},
    )
    assert links(step, "measure") == ["Jaw depth 41 mm (±2)."]
    assert links(step, "wish") == ["Owner: beard short.", "Owner: shorter all round."]
    assert [link.of for link in step.why][:3] == ["measure", "rule", "room"]


def test_what_the_outline_asks_and_what_is_there_are_told_in_mm() -> None:
    step = jaw(leave={"jaw": 18.0})
    assert any(words.startswith("The outline asks 18 mm at the ") for words in links(step, "rule"))
    assert links(step, "room") == ["Coat there now 34 mm (31–37): there is room for it."]


@pytest.mark.parametrize(
    ("hand", "hard", "kind"), [("right", "right", "awkward"), ("left", "left", "awkward")]
)
def test_which_side_comes_first_is_told_by_the_hand(hand: str, hard: str, kind: str) -> None:
    told = [words for step in cut_sheet(case_of("round", hand=hand)).steps for words in links(step, "hand")]
    assert told
    assert all(words.startswith(f"{hand.capitalize()}-handed: the ") for words in told)
    assert any(f"the {hard} side is awkward" in words for words in told) or hand == "right"


def test_what_the_dog_minds_is_told_where_it_minds_it() -> None:
    sheet = cut_sheet(case_of("round", minds=("minds_muzzle",)))
    at_muzzle = [s for s in sheet.steps if "muzzle_side" in s.zones]
    assert at_muzzle
    assert all("It minds its muzzle." in links(step, "dog") for step in at_muzzle)
    elsewhere = [s for s in sheet.steps if s.zones and set(s.zones) <= {"crown", "nape"}]
    assert elsewhere
    assert not any(links(step, "dog") for step in elsewhere)


@pytest.mark.parametrize(("apart_mm", "told"), [(UNEVEN_MM, True), (UNEVEN_MM - 0.2, False)])
def test_sides_apart_are_told_from_three_millimetres_on(apart_mm: float, told: bool) -> None:
    step = jaw(leave={"jaw:left": 15.0 + apart_mm, "jaw:right": 15.0})
    found = [words for words in links(step, "sides") if words.startswith("Jaw: ")]
    assert bool(found) == told
    assert all(words.startswith("Jaw: left 3 mm longer than right. ") for words in found)


def test_the_cause_is_bone_before_coat_before_the_measuring() -> None:
    uneven = {"jaw:left": 12.0, "jaw:right": 20.0}
    bone = jaw(leave=uneven, bone_words={"jaw": "left jaw corner 5 mm farther out"})
    (words,) = links(bone, "sides")
    assert words == (
        "Jaw: left 8 mm shorter than right. Bone: left jaw corner 5 mm farther out; "
        "an even outline needs uneven lengths."
    )
    (words,) = links(jaw(leave=uneven), "sides")
    assert words.endswith("Within what the measuring can tell; trust your eye from the front.")
    case = case_of("round", leave=uneven)
    zones = dict(case.zones)
    zones["jaw", "right"] = replace(zones["jaw", "right"], now_mm=28.0, remove_mm=8.0)
    coat = next(
        s
        for s in cut_sheet(replace(case, zones=zones)).steps
        if any(c.zone == "jaw" for c in s.cuts) and links(s, "sides")
    )
    assert links(coat, "sides")[0].endswith("Coat: 34 mm there on the left, 28 mm on the right.")


def test_a_closer_blade_than_the_skin_bears_is_told_by_the_skin() -> None:
    clipping = [
        s
        for s in cut_sheet(case_of("topknot", minds=("skin_trouble",))).steps
        if any(c.zone == "cheek" for c in s.cuts)
    ]
    assert clipping
    assert any("the skin has been sore" in words for s in clipping for words in links(s, "skin"))
