"""Marks, guesses and orders judged, and what they tell of a person."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from dapwick.core.basics.errors import BadInput
from dapwick.core.basics.marks import RULE_OF, guided_order
from dapwick.core.outlines.families import FAMILIES
from dapwick.core.outlines.family import settle_schools
from dapwick.core.outlines.fit import draw_outline, fit_family
from dapwick.core.plan.lengths import zone_lengths
from dapwick.core.plan.verdict import verdict_of
from dapwick.core.practice import bone, eye, suits
from dapwick.core.practice.bone import Miss, Ray, miss_of
from dapwick.core.practice.eye import Guess
from dapwick.core.practice.heads import made_head, some_kind
from dapwick.core.practice.leaning import Answer, Usual, leans
from dapwick.core.practice.suits import Offer
from dapwick.core.practice.trend import Session, odds_of, share_told, spread_told, trend

PLACES = st.floats(-150, 150)
AWAY = np.array([-800.0, 0.0, 0.0])


def from_the_left(mark: str, ahead: float, up: float, true: np.ndarray) -> Miss:
    """A mark set so far off as it is seen from the dog's left."""
    to = true + [0.0, ahead, up]
    return miss_of(mark, Ray(to + AWAY, np.array([1.0, 0.0, 0.0])), true)


@given(st.tuples(PLACES, PLACES, PLACES), PLACES, PLACES)
def test_a_miss_is_told_across_the_finger_alone(
    at: tuple[float, float, float], ahead: float, up: float
) -> None:
    miss = from_the_left("occiput", ahead, up, np.array(at))
    assert miss.off_mm == pytest.approx(np.hypot(ahead, up), abs=1e-6)
    assert miss.ways == pytest.approx({"ahead": ahead, "up": up}, abs=1e-6)


def test_a_miss_says_which_way() -> None:
    at = np.zeros(3)
    assert from_the_left("occiput", 0, -6, at).words == "6 mm off, too low"
    assert from_the_left("occiput", 4, 1, at).words == "4 mm off, too far forward"
    assert from_the_left("occiput", 0.2, 0.2, at).words == "there"
    down = np.array([0.0, 0.0, -1.0])
    wide = miss_of("cheek_left", Ray(np.array([-5.0, 0, 500]), down), at)
    assert wide.words == "5 mm off, too wide"
    assert miss_of("cheek_right", Ray(np.array([-5.0, 0, 500]), down), at).words.endswith(
        "close to the middle"
    )


def test_a_bias_is_told_once_it_is_sure_and_not_before() -> None:
    rng = np.random.default_rng(1)
    low = [from_the_left("occiput", rng.normal(0, 3), rng.normal(-6, 3), np.zeros(3)) for _ in range(6)]
    told = {lean.thing: lean for lean in bone.leans_of(low) if lean.told}
    assert set(told) == {"occiput/up"}
    assert bone.lean_words(told["occiput/up"]).startswith("You set the occiput")
    assert "too low" in bone.lean_words(told["occiput/up"])
    assert not [lean for lean in bone.leans_of(low[:1]) if lean.told]


def test_marks_least_known_are_asked_first() -> None:
    rng = np.random.default_rng(2)
    known = [from_the_left(mark, 0, 0, np.zeros(3)) for mark in ("stop", "occiput") for _ in range(20)]
    asked = bone.marks_to_ask("left", known, rng)
    assert len(asked) == bone.MARKS_A_HEAD
    assert not {"stop", "occiput"} & set(asked)
    assert all(mark in guided_order("left") for mark in asked)
    assert len({RULE_OF[mark].name for mark in asked}) == len(asked)


@given(st.lists(st.tuples(st.sampled_from("abc"), st.floats(-20, 20)), max_size=12))
def test_leans_lie_between_nothing_and_what_was_seen(given: list[tuple[str, float]]) -> None:
    usual = Usual(1.0, 2.0, 3.0, 1.0)
    for lean in leans([Answer(*one) for one in given], usual):
        seen = [off for thing, off in given if thing == lean.thing]
        every = [*[off for _, off in given], 0.0]
        assert lean.low < lean.off < lean.high
        assert min(every) - 1e-9 <= lean.off <= max(every) + 1e-9
        assert lean.answers == len(seen)


def test_leans_hold_as_often_as_they_say() -> None:
    """A hundred people whose leans are known: nine in ten lie in their interval."""
    usual, rng = Usual(0.8, 2.5, 4.0, 1.0), np.random.default_rng(3)
    inside = []
    for _ in range(100):
        true = rng.normal(0, usual.mean) + rng.normal(0, usual.thing, 5)
        scatter = usual.scatter * rng.uniform(0.7, 1.3)
        given = [Answer(str(i), float(rng.normal(true[i], scatter))) for i in range(5) for _ in range(4)]
        inside += [lean.low <= true[int(lean.thing)] <= lean.high for lean in leans(given, usual)]
    assert 0.85 <= np.mean(inside) <= 0.95


def test_a_guess_is_judged_by_its_share() -> None:
    assert Guess("skull_width", 90, 10, 100).words == "10% too little"
    assert Guess("skull_width", 109, 10, 100).held
    assert not Guess("skull_width", 111, 10, 100).held
    with pytest.raises(BadInput, match="how sure"):
        Guess("skull_width", 90, 7, 100)
    with pytest.raises(BadInput, match="guess"):
        Guess("skull_width", float("nan"), 10, 100)


def test_most_measures_can_be_guessed_on_any_made_head() -> None:
    for seed in range(12):
        made = made_head(seed, some_kind(seed))
        can = [measure for measure in eye.ASKED if eye.can_be_guessed(made, measure)]
        assert len(can) >= len(eye.ASKED) - 3, seed
        assert eye.measure_to_ask([], made, np.random.default_rng(seed)) in can


def test_a_person_who_says_within_5_and_is_not_is_told() -> None:
    bad = [Guess("skull_width", 120, 5, 100)] * 8
    (told,) = eye.calibration(bad)
    assert (told.held, told.guesses) == (0, 8)
    assert "surer than you may be" in told.words
    assert "surer" not in eye.calibration(bad[:2])[0].words


def test_the_measure_least_known_is_asked() -> None:
    rng, made = np.random.default_rng(4), made_head(2, some_kind(2))
    known = [Guess(m, v, 10, v) for m in eye.ASKED[1:] for v in [sum(eye.RANGE[m]) / 2] for _ in range(9)]
    assert eye.measure_to_ask(known, made, rng) == eye.ASKED[0]


def offers(seed: int = 3) -> list[Offer]:
    made = made_head(seed, some_kind(seed, coat_share=1.4))
    found = []
    for key in ("round", "teddy", "brick"):
        family = FAMILIES[key]
        schools = settle_schools(family, {}, made.ground.coat_type)
        outline = draw_outline(made.ground, family, fit_family(made.ground, family, schools), {}, schools)
        found.append(Offer(key, family.name, verdict_of(outline, zone_lengths(outline))))
    return found


def with_rank(offer: Offer, rank: float) -> Offer:
    return replace(offer, verdict=replace(offer.verdict, rank=rank))


def test_an_order_is_judged_pair_by_pair_and_even_ones_count_both_ways() -> None:
    a, b, c = (with_rank(one, rank) for one, rank in zip(offers(), (1.0, 1.2, 5.0), strict=True))
    why = c.reasons[0]
    right = suits.ranked([a, b, c], ("round", "teddy", "brick"), why)
    assert (right.right, right.pairs, right.why_right) == (3, 3, True)
    assert right.even == (("round", "teddy"),)
    assert suits.ranked([a, b, c], ("teddy", "round", "brick"), why).right == 3
    assert suits.ranked([a, b, c], ("brick", "round", "teddy"), why).right == 1


def test_what_speaks_against_an_outline_is_the_weightiest_cost() -> None:
    offer = offers()[0]
    costs = {"head": 0.1, "coat": 0.0, "wish": 2.0, "grows": 0.0, "hair": 1.8}
    today = replace(offer, verdict=replace(offer.verdict, when="today", against=costs))
    assert set(today.reasons) == {"wish", "hair"}
    later = replace(today, verdict=replace(today.verdict, when="later"))
    assert later.reasons == ("grows",)


def test_the_costs_of_a_verdict_are_its_departure() -> None:
    for offer in offers():
        assert sum(offer.verdict.against.values()) == pytest.approx(offer.verdict.departure)


def test_what_is_no_order_is_refused() -> None:
    with pytest.raises(BadInput, match="an order of outlines"):
        suits.ranked(offers(), ("round", "round", "brick"), "hair")
    with pytest.raises(BadInput, match="an order of outlines"):
        suits.ranked(offers(), ("round", "teddy", "brick"), "because")


def test_a_trend_follows_what_changes_and_holds() -> None:
    """A hundred people who get better: the score at each session lies in its interval nine times in ten."""
    rng = np.random.default_rng(5)
    inside = []
    for _ in range(100):
        true = rng.normal(0, 1) + np.cumsum(rng.normal(-0.05, 0.1, 8))
        seen = [Session(float(rng.normal(value, 0.2)), 0.2) for value in true]
        inside += [p.low <= value <= p.high for p, value in zip(trend(seen), true, strict=True)]
    assert 0.85 <= np.mean(inside) <= 0.97


def test_a_trend_narrows_with_sessions() -> None:
    one = trend([Session(1.0, 0.3)])[-1]
    many = trend([Session(1.0, 0.3)] * 6)[-1]
    assert many.high - many.low < one.high - one.low
    assert trend([]) == ()


@given(st.integers(0, 30), st.integers(0, 30))
def test_a_share_stays_a_share(right: int, more: int) -> None:
    (point,) = odds_of(trend([share_told(right, right + more)]))
    assert 0 < point.low < point.value < point.high < 1


def test_spread_is_the_root_mean_square() -> None:
    told = spread_told(np.array([3.0, 4.0, 5.0]))
    assert np.exp(told.score) == pytest.approx(np.sqrt(50 / 3))
    assert spread_told(np.full(40, 2.0)).sigma < told.sigma
