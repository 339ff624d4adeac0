"""Steps between neighbouring zones: past 6 mm a line shows, blended over twice its step."""

from __future__ import annotations

import pytest

from cut_cases import case_of, cut_sheet, steps_of
from dapwick.core.cut.blends import LINE_SHOWS_MM, Blend, blend_words, blends_of

EVEN = {"crown": 15.0, "back_skull": 15.0, "nape": 15.0, "visor": 15.0, "brow": 15.0, "temple": 15.0,
        "muzzle_side": 15.0, "chin": 15.0, "cheek": 15.0, "jaw": 15.0, "throat": 15.0}  # fmt: skip


def test_an_even_head_needs_no_blend() -> None:
    case = case_of("round", leave=EVEN)
    assert blends_of(case) == ()
    assert not [s for s in cut_sheet(case).steps if s.rule.startswith("blend")]


@pytest.mark.parametrize(("jaw_mm", "shows"), [(15.0 + LINE_SHOWS_MM, False), (15.1 + LINE_SHOWS_MM, True)])
def test_a_line_shows_past_six_millimetres(jaw_mm: float, shows: bool) -> None:
    found = blends_of(case_of("round", leave=EVEN | {"jaw:left": jaw_mm}))
    assert bool(found) == shows
    assert all(b.side == "left" for b in found)


def test_the_longer_is_told_first_and_the_width_is_twice_the_step() -> None:
    (first, *_) = blends_of(case_of("round", leave=EVEN | {"cheek:right": 25.0}))
    assert (first.long, first.from_mm, first.to_mm, first.width_mm) == ("cheek", 25.0, 15.0, 20.0)
    assert first.words.startswith("cheek 25 to ")


def test_the_eyes_own_step_is_not_blended() -> None:
    case = case_of("round", leave=EVEN | {"visor": 15.0, "stop": 0.5})
    assert not [b for b in blends_of(case) if "stop" in (b.long, b.short)]


def test_where_nothing_is_cut_nothing_is_blended() -> None:
    case = case_of("round", leave=EVEN | {"jaw": 30.0}, now_mm=15.0)
    assert blends_of(case) == ()


def test_an_outline_that_wants_its_line_seen_sharpens_it() -> None:
    lined, blended = (cut_sheet(case_of(family)) for family in ("topknot", "teddy"))
    assert steps_of(lined, "line_sharpened")
    assert not steps_of(blended, "line_sharpened")
    assert "from the ear to the eye" in steps_of(lined, "line_sharpened")[0].how


def test_sides_that_step_alike_are_told_once_and_others_each() -> None:
    def pair(right_mm: float, left_mm: float) -> list[str]:
        sides = (("right", right_mm), ("left", left_mm))
        return blend_words([Blend("cheek", "jaw", side, 12.0 + mm, 12.0, False) for side, mm in sides])  # type: ignore[arg-type]

    assert pair(9.0, 9.4) == ["cheek 21 to jaw 12 mm, over 18 mm"]
    assert pair(9.0, 15.0) == [
        "right cheek 21 to jaw 12 mm, over 18 mm",
        "left cheek 27 to jaw 12 mm, over 30 mm",
    ]
