"""What shows first as a head grows out."""

from __future__ import annotations

import numpy as np
import pytest

from dapwick.core.head.growth import STOPS_AT_MM, growth_mm
from dapwick.core.head.stand import length_of
from dapwick.core.outlines.description import broken_on
from dapwick.core.outlines.families import FAMILIES
from dapwick.core.outlines.fit import Outline
from dapwick.core.outlines.wishes import EYE_FALL_MM
from dapwick.core.plan.coming import coming
from dapwick.core.plan.finished import grown
from dapwick.pipeline.plan import FittedGround, drawn_on, fit_on


def drawn(ground: FittedGround, key: str, **params: float) -> Outline:
    return drawn_on(fit_on(ground.model, FAMILIES[key]), params)


def fringe_mm(outline: Outline, weeks: float) -> float:
    ground = outline.ground
    at = np.concatenate([ground.skin.in_zone(zone) for zone in ("visor", "brow")])
    return float(np.percentile(length_of(grown(outline, weeks)[0], ground.coat.stand)[at], 90))


@pytest.mark.parametrize("key", ["round", "close", "brick"])
def test_the_fringe_reaches_the_eyes_in_the_week_that_is_told(fogbell: FittedGround, key: str) -> None:
    outline = drawn(fogbell, key)
    (eyes,) = (e for e in coming(outline) if e.id == "eyes")
    assert fringe_mm(outline, eyes.weeks) == pytest.approx(EYE_FALL_MM, abs=0.5)
    assert eyes.low < eyes.weeks < eyes.high


def test_the_shape_holds_until_the_week_in_which_it_is_told_lost(fogbell: FittedGround) -> None:
    told = [
        (outline, event)
        for outline in (drawn(fogbell, key) for key in FAMILIES)
        for event in coming(outline)
        if event.id == "shape"
    ]
    assert told
    for outline, event in told:
        week = round(event.weeks)
        assert broken_on(outline, grown(outline, week)[0])
        assert not broken_on(outline, grown(outline, week - 1)[0])


def test_shorter_hair_shows_later(fogbell: FittedGround) -> None:
    weeks = [
        next(e.weeks for e in coming(drawn(fogbell, "round", visor_mm=visor)) if e.id == "eyes")
        for visor in (4.0, 12.0)
    ]
    assert weeks[0] > weeks[1]


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
