"""What a sheet leaves alone is told with its reason, place by place, and nothing planned is passed over in silence."""

from __future__ import annotations

from dataclasses import replace

import pytest

from cut_cases import case_of, cut_sheet
from dapwick.core.cut.alone import (
    AS_IT_IS,
    MOST_NAMED,
    NOTHING_OFF,
    Alone,
    alone_words,
    before_time,
    rests_on,
    weeks_words,
)
from dapwick.core.cut.case import Case
from dapwick.core.head.growth import growth_mm, weeks_range
from dapwick.core.plan.readiness import OUTLINED

LACKING_MM = 8.0


def lacking(case: Case, places: dict[tuple[str, str], float]) -> Case:
    """The case with hair missing at some places."""
    zones = dict(case.zones)
    for place, missing_mm in places.items():
        zones[place] = replace(  # type: ignore[index]
            zones[place],  # type: ignore[index]
            shortage_mm=missing_mm,
            now_mm=zones[place].leave_mm - missing_mm,  # type: ignore[index]
            remove_mm=0.0,
        )
    return replace(case, zones=zones)


@pytest.mark.parametrize(
    ("weeks", "words"),
    [((1, 1), "1 week"), ((3, 3), "3 weeks"), ((2, 5), "2–5 weeks")],
)
def test_weeks_in_words(weeks: tuple[int, int], words: str) -> None:
    assert weeks_words(weeks) == words


def test_a_zone_of_one_reason_is_one_line() -> None:
    case = case_of("round")
    both = [Alone("jaw", "left", "", NOTHING_OFF), Alone("jaw", "right", "", NOTHING_OFF)]
    assert alone_words(both, case) == (f"jaw: {NOTHING_OFF}",)
    assert alone_words(both[:1], case) == (f"left jaw: {NOTHING_OFF}",)
    apart = [both[0], replace(both[1], reason=AS_IT_IS)]
    assert alone_words(apart, case) == (f"left jaw: {NOTHING_OFF}", f"right jaw: {AS_IT_IS}")


def test_a_part_of_a_zone_is_named_with_its_side() -> None:
    assert alone_words([Alone("jaw", "left", "rest of the", NOTHING_OFF)], case_of("round")) == (
        f"left rest of the jaw: {NOTHING_OFF}",
    )


def test_all_there_needs_no_warning() -> None:
    assert before_time(case_of("round")) == ""


def test_a_plan_before_its_time_says_how_long_and_where_first() -> None:
    case = lacking(case_of("round"), {("jaw", "left"): 3.0, ("crown", "left"): 6.0, ("crown", "right"): 6.0})
    weeks = weeks_words(weeks_range(6.0, case.coat))
    assert before_time(case) == f"Full in {weeks}; today without all of the crown, left jaw."


def test_many_places_are_counted_rather_than_listed() -> None:
    zones = ("crown", "jaw", "chin", "cheek", "temple", "nape")
    case = lacking(
        case_of("round"),
        {(zone, side): 5.0 + i for i, zone in enumerate(zones) for side in ("left", "right")},
    )
    words = before_time(case)
    assert words.endswith(f"nape, temple, cheek, chin and {len(zones) - MOST_NAMED} more.")


@pytest.mark.parametrize(("weeks", "never"), [(26.0, False), (26.5, True)])
def test_what_takes_longer_than_half_a_year_is_not_on_this_coat(weeks: float, never: bool) -> None:
    case = lacking(case_of("round"), {("jaw", "left"): growth_mm(weeks, "standing") - 1e-6})
    assert before_time(case).startswith("Not on this coat; ") == never


def unread(case: Case, *zones: str) -> Case:
    """The case where nothing has read the coat of some zones, which may be far longer or shorter."""
    vague = {"seen": False, "now_low": 2.0, "now_high": 60.0}
    return replace(
        case, zones={p: replace(z, **vague) if p[0] in zones else z for p, z in case.zones.items()}
    )


def test_a_sheet_says_where_nothing_has_read_the_coat() -> None:
    case = case_of("round")
    assert rests_on(case) == ""
    assert rests_on(unread(case, "crown")) == (
        "No photo or comb shows the coat at the crown: comb there before you cut."
    )
    guessed = rests_on(unread(case, *OUTLINED))
    assert guessed == "This sheet rests on guesses: nothing has read this coat. Comb before you cut."
    assert cut_sheet(unread(case, *OUTLINED)).rests_on == guessed


def test_missing_hair_is_left_alone_with_millimetres_and_weeks() -> None:
    case = lacking(case_of("round"), {("jaw", side): LACKING_MM for side in ("left", "right")})
    sheet = cut_sheet(case)
    (left, right) = (one for one in sheet.alone if one.zone == "jaw")
    weeks = weeks_range(LACKING_MM, case.coat)
    for one in (left, right):
        assert (one.missing_mm, one.weeks, one.grows) == (LACKING_MM, weeks, True)
        assert one.reason == f"8 mm still to grow, {weeks_words(weeks)}; strays only"
    assert f"jaw: {left.reason}" in alone_words(sheet.alone, case)


def test_hair_that_lacks_by_nothing_does_not_grow_first() -> None:
    assert not Alone("jaw", "left", "", NOTHING_OFF).grows
