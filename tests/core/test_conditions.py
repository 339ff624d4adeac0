"""When a rule applies: each condition holds where its words say, and nowhere else."""

from __future__ import annotations

import pytest

from cut_cases import case_of
from dapwick.core.cut.conditions import (
    clipped,
    coat,
    comes_off,
    ears,
    family,
    left_longer,
    longer_now,
    school,
    scissored,
    thinned,
    trait,
)
from dapwick.core.cut.rule import ALWAYS, Whenever

ROUND = case_of("round", coat="curl", minds=("minds_muzzle",), leave={"crown": 20.0})
FACE_CLIPPED = case_of("topknot")
CARDED = case_of("natural")


@pytest.mark.parametrize(
    ("condition", "case", "holds"),
    [
        (family("round", "dome"), ROUND, True),
        (family("dome"), ROUND, False),
        (coat("curl"), ROUND, True),
        (coat("harsh", "wavy"), ROUND, False),
        (trait("minds_muzzle"), ROUND, True),
        (trait("minds_eyes"), ROUND, False),
        (ears("drop"), ROUND, True),
        (ears("prick"), ROUND, False),
        (clipped("cheek"), FACE_CLIPPED, True),
        (clipped("cheek"), ROUND, False),
        (clipped("cheek"), CARDED, False),
        (thinned("cheek"), CARDED, True),
        (thinned("cheek"), FACE_CLIPPED, False),
        (scissored("cheek"), ROUND, True),
        (scissored("cheek"), FACE_CLIPPED, False),
        (scissored("cheek"), CARDED, False),
        (scissored("no_such_zone"), ROUND, False),
        (comes_off("crown"), ROUND, True),
        (comes_off("crown"), case_of("round", leave={"crown": 34.0}), False),
        (longer_now("crown", 33.0), ROUND, True),
        (longer_now("crown", 34.0), ROUND, False),
        (left_longer("crown", 19.0), ROUND, True),
        (left_longer("crown", 20.0), ROUND, False),
    ],
)
def test_a_condition_holds_where_it_says(condition: Whenever, case: object, holds: bool) -> None:
    assert condition.holds(case) is holds  # type: ignore[arg-type]


def test_a_school_is_met_by_its_own_choice_alone() -> None:
    for choice in ("cleared", "tamed"):
        case = case_of("round", schools={"inner_corners": choice})
        assert school("inner_corners", choice).holds(case)
        assert not school("inner_corners", *({"cleared", "tamed"} - {choice})).holds(case)


@pytest.mark.parametrize("one", [True, False])
@pytest.mark.parametrize("other", [True, False])
def test_conditions_are_joined_as_their_words_are(one: bool, other: bool) -> None:
    a, b = Whenever("a", lambda _: one), Whenever("b", lambda _: other)
    assert (a & b).holds(ROUND) == (one and other)
    assert (a | b).holds(ROUND) == (one or other)
    assert (~a).holds(ROUND) == (not one)
    assert ((a & b).words, (a | b).words, (~a).words) == ("a, and b", "a, or b", "not (a)")


def test_always_adds_nothing_to_what_it_is_joined_with() -> None:
    assert ALWAYS.holds(ROUND)
    assert ALWAYS.holds(FACE_CLIPPED)
    assert (ALWAYS & coat("curl")).words == coat("curl").words


def test_words_name_zones_and_choices_as_a_stylist_does() -> None:
    assert family("brows_beard", "three_rings").words == "brows beard or three rings outline"
    assert clipped("back_skull").words == "back skull clipped"
    assert longer_now("crown", 12.5).words == "more than 12.5 mm on the crown"
    assert left_longer("jaw", 12.0).words == "more than 12 mm left on the jaw"
