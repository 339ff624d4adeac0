"""What shows first as a head grows out."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from dapwick.core.after.coming import FRINGE, MOST_CHANCE, Coming, Event, coming, left_as
from dapwick.core.after.lasting import cut_to_last
from dapwick.core.head.growth import STOPS_AT_MM, growth_mm, usual_growth
from dapwick.core.head.stand import length_of
from dapwick.core.outlines.description import broken_on
from dapwick.core.outlines.families import FAMILIES
from dapwick.core.outlines.fit import Outline
from dapwick.core.outlines.wishes import EYE_FALL_MM, Wishes
from dapwick.core.plan.finished import grown
from dapwick.pipeline.plan import FittedGround, drawn_on, fit_on


def drawn(ground: FittedGround, key: str, **params: float) -> Outline:
    return drawn_on(fit_on(ground.model, FAMILIES[key]), params)


def fringe_mm(outline: Outline, weeks: float) -> float:
    ground = outline.ground
    at = ground.skin.in_zone("visor")
    ahead = ground.skin.vertices_mm[at, 1]
    at = at[ahead >= np.median(ahead)]
    return float(np.percentile(length_of(grown(outline, weeks)[0], ground.coat.stand)[at], FRINGE))


def event(told: Coming, key: str) -> Event:
    return next(e for e in told.events if e.id == key)


@pytest.mark.parametrize("key", ["round", "brick"])
def test_the_fringe_reaches_the_eyes_in_the_week_that_is_told(fogbell: FittedGround, key: str) -> None:
    outline = drawn(fogbell, key)
    eyes = event(coming(outline), "eyes")
    assert fringe_mm(outline, eyes.weeks) == pytest.approx(EYE_FALL_MM, abs=1.0)
    assert eyes.low < eyes.weeks < eyes.high


def test_the_shape_holds_until_about_the_week_in_which_it_is_told_lost(fogbell: FittedGround) -> None:
    told = [
        (outline, event)
        for outline in (drawn(fogbell, key) for key in FAMILIES)
        for event in coming(outline).events
        if event.id == "shape"
    ]
    assert told
    for outline, lost in told:
        assert broken_on(outline, grown(outline, lost.weeks + 0.6)[0])
        assert not broken_on(outline, grown(outline, max(lost.weeks - 0.6, 0.0))[0])


def test_shorter_hair_shows_later(fogbell: FittedGround) -> None:
    weeks = [event(coming(drawn(fogbell, "round", visor_mm=visor)), "eyes").weeks for visor in (4.0, 12.0)]
    assert weeks[0] > weeks[1]


def test_a_dog_that_grows_faster_comes_back_sooner_and_one_known_better_is_told_surer(
    fogbell: FittedGround,
) -> None:
    outline = drawn(fogbell, "round")
    usual = usual_growth("standing")
    fast = replace(usual, log_rate=usual.log_rate + 0.4)
    sure = replace(usual, covariance=usual.covariance / 9)
    told = {name: coming(outline, g) for name, g in {"usual": usual, "fast": fast, "sure": sure}.items()}
    assert told["fast"].weeks < told["usual"].weeks
    spans = {name: event(c, "eyes").high - event(c, "eyes").low for name, c in told.items()}
    assert spans["sure"] < spans["usual"]


def test_the_next_visit_comes_before_what_is_minded_is_likely(fogbell: FittedGround) -> None:
    for key in ("round", "teddy", "brick", "dome"):
        told = coming(drawn(fogbell, key))
        assert told.weeks == 2 or told.chance[told.weeks] < MOST_CHANCE
        assert list(told.chance) == sorted(told.chance)


def test_who_wants_the_eyes_veiled_does_not_mind_the_fringe(fogbell: FittedGround) -> None:
    outline = drawn(fogbell, "round")
    minded, not_minded = coming(outline), coming(outline, wishes=Wishes(eyes="veiled"))
    assert event(minded, "eyes").minded
    assert not event(not_minded, "eyes").minded
    assert not_minded.weeks > minded.weeks


def test_hair_left_long_shows_sooner(fogbell: FittedGround) -> None:
    outline = drawn(fogbell, "round")
    long = left_as(outline, np.full(len(outline.leave_mm), 5.0))
    assert event(coming(long), "eyes").weeks < event(coming(outline), "eyes").weeks


def test_what_is_checked_is_told_surer(fogbell: FittedGround) -> None:
    outline = drawn(fogbell, "round")
    spans = [
        event(coming(outline, checked=checked), "eyes").high
        - event(coming(outline, checked=checked), "eyes").low
        for checked in (False, True)
    ]
    assert spans[1] < spans[0]


def test_cut_for_more_weeks_is_shorter_and_lasts(fogbell: FittedGround) -> None:
    fit = fit_on(fogbell.model, FAMILIES["round"])
    growth = usual_growth("standing")
    last = coming(drawn_on(fit, {}), growth).weeks
    lasting = [cut_to_last(lambda p: drawn_on(fit, p), {}, w, growth, Wishes()) for w in (last, last + 1)]
    assert lasting[0].words == ""
    assert "visor" in lasting[1].words
    assert lasting[1].weeks >= lasting[0].weeks
    assert lasting[1].params["visor_mm"] < drawn_on(fit, {}).params["visor_mm"]


def test_hair_of_the_bridge_stops_by_itself(fogbell: FittedGround) -> None:
    outline = drawn(fogbell, "close")
    ground = outline.ground
    for zone, stops in STOPS_AT_MM.items():
        at = ground.skin.in_zone(zone)
        left = length_of(outline.leave_mm, ground.coat.stand)[at]
        later = length_of(grown(outline, 20)[0], ground.coat.stand)[at]
        assert later.max() <= max(stops, left.max()) + 0.1
    crown = ground.skin.in_zone("crown")
    gained = length_of(grown(outline, 20)[0], ground.coat.stand) - length_of(
        outline.leave_mm, ground.coat.stand
    )
    assert np.allclose(gained[crown], growth_mm(20, ground.coat_type), atol=0.2)
