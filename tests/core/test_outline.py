"""The round family in the room of two simulated dogs: properties of shape, fit and lengths."""

from __future__ import annotations

from itertools import pairwise

import numpy as np
import pytest

from dapwick.core.errors import BadInput
from dapwick.core.head.zones import ZONES
from dapwick.core.outlines.families import FAMILIES, family
from dapwick.core.outlines.families.round import ROUND, lines_of_sight
from dapwick.core.outlines.family import settle_schools
from dapwick.core.outlines.fit import draw_outline, fit_family
from dapwick.core.plan.growth import weeks_to_grow
from dapwick.core.plan.lengths import TELLING_SHORTAGE_MM, verdict_of, zone_lengths
from dapwick.core.plan.tools import guard_for
from dapwick.core.shapes import exit_distance
from dapwick.service.planning import FittedGround

DOGS = ["fogbell", "bobbin"]


@pytest.fixture(params=DOGS)
def fitted(request: pytest.FixtureRequest) -> FittedGround:
    ground: FittedGround = request.getfixturevalue(request.param)
    return ground


def outline(fitted: FittedGround, **params: float):  # type: ignore[no-untyped-def]
    return draw_outline(fitted.ground, ROUND, fitted.fit, params)


def test_nothing_is_planned_that_is_not_there(fitted: FittedGround) -> None:
    for fullness in (-1.0, 0.0, 1.0):
        drawn = outline(fitted, fullness=fullness, visor_mm=30.0)
        assert (drawn.leave_mm <= np.maximum(fitted.ground.ceiling_mm, fitted.ground.floor_mm) + 1e-9).all()
        assert np.allclose(drawn.short_mm, np.maximum(drawn.wanted_mm - drawn.leave_mm, 0))


def test_fuller_is_never_shorter(fitted: FittedGround) -> None:
    at = fitted.ground.members(ROUND)
    wanted = [outline(fitted, fullness=f).wanted_mm[at] for f in np.linspace(-1, 1, 7)]
    for less, more in pairwise(wanted):
        assert (more >= less - 0.3).mean() > 0.99


def test_slider_ends_are_in_order_and_true(fitted: FittedGround) -> None:
    sizes = fitted.fit.sizes
    assert sizes.smallest < sizes.fitted < sizes.largest
    assert sizes.at(-1) == sizes.smallest
    assert sizes.at(0) == sizes.fitted
    assert sizes.at(1) == sizes.largest


def test_front_of_the_skull_ball_is_a_circle(fitted: FittedGround) -> None:
    """From the head's middle, the way out to the sides and up is the radius."""
    drawn = outline(fitted)
    head = fitted.ground.head
    field = ROUND.shape(head, drawn.size_mm, drawn.params)
    middle = np.array([[0.0, -45.0, 0.0]])
    low = float(exit_distance(field, middle, np.array([[0.0, 0, -1]]))[0])
    high = float(exit_distance(field, middle, np.array([[0.0, 0, 1]]))[0])
    side = float(exit_distance(field, middle + [0, 0, (high - low) / 2], np.array([[1.0, 0, 0]]))[0])
    assert high + low == pytest.approx(2 * side, rel=0.05)


def test_lines_of_sight_stay_clear(fitted: FittedGround) -> None:
    drawn = outline(fitted, fullness=1.0, visor_mm=30.0)
    field = ROUND.shape(fitted.ground.head, drawn.size_mm, drawn.params)
    rng = np.random.default_rng(0)
    cloud = rng.uniform([-80, 5, -40], [80, 90, 60], (20_000, 3))
    for rod in lines_of_sight(fitted.ground.head):
        inside = cloud[rod(cloud) < -1.0]
        assert len(inside) > 50
        assert (field(inside) > -0.5).all()


def test_raising_the_centre_leaves_more_on_top_and_less_below(fitted: FittedGround) -> None:
    low, high = outline(fitted, centre_up_mm=-10.0), outline(fitted, centre_up_mm=5.0)
    crown, jaw = fitted.ground.skin.in_zone("crown"), fitted.ground.skin.in_zone("jaw")
    assert np.median(high.wanted_mm[crown]) > np.median(low.wanted_mm[crown]) + 8
    assert np.median(high.wanted_mm[jaw]) < np.median(low.wanted_mm[jaw]) - 1.5


def test_fit_is_deterministic(fitted: FittedGround) -> None:
    assert fit_family(fitted.ground, ROUND) == fitted.fit


def test_zone_lengths_close_with_depth(fitted: FittedGround) -> None:
    stand = float(fitted.ground.coat.stand[0])
    zones = zone_lengths(outline(fitted))
    assert [z.zone for z in zones[::2]] == list(ROUND.planned)
    assert {z.side for z in zones} == {"left", "right"}
    for z in zones:
        assert z.leave_mm * stand == pytest.approx(z.depth_mm, rel=1e-6)
        assert z.low <= z.leave_mm <= z.high
        assert z.leave_mm <= z.now_mm + 1e-6
        assert 0 <= z.chance_short <= 0.5
        assert z.remove_mm == pytest.approx(max(z.now_mm - z.leave_mm, 0), abs=4.0)


def test_asking_for_too_much_is_told_in_mm_and_weeks(fitted: FittedGround) -> None:
    drawn = outline(fitted, visor_mm=30.0)
    zones = zone_lengths(drawn)
    visor = [z for z in zones if z.zone == "visor"]
    assert all(z.shortage_mm >= TELLING_SHORTAGE_MM for z in visor)
    verdict = verdict_of(drawn, zones, fitted.coat_type)
    assert verdict.when != "today"
    assert verdict.weeks >= 1
    assert any("more hair" in reason for reason in verdict.reasons)


def test_as_fitted_the_demo_dogs_lack_little(fitted: FittedGround) -> None:
    drawn = outline(fitted)
    zones = zone_lengths(drawn)
    assert verdict_of(drawn, zones, fitted.coat_type).weeks <= 2
    assert np.mean([z.chance_short for z in zones]) < 0.05


def test_unplanned_skin_is_left_out_of_lengths(fitted: FittedGround) -> None:
    members = fitted.ground.members(ROUND)
    assert not np.isin(
        fitted.ground.skin.template.zone[members], [ZONES.index("throat"), ZONES.index("bare")]
    ).any()


def test_unknown_or_wild_parameters_are_refused() -> None:
    with pytest.raises(BadInput, match="unknown parameter"):
        ROUND.checked({"sparkle": 1.0})
    with pytest.raises(BadInput, match="-1 to 1"):
        ROUND.checked({"fullness": 3.0})
    with pytest.raises(BadInput, match="Fullness"):
        ROUND.checked({"fullness": float("nan")})
    with pytest.raises(BadInput, match="unknown outline"):
        family("spiral")
    with pytest.raises(BadInput, match="unknown school"):
        settle_schools(ROUND, {"music": "loud"})
    assert settle_schools(ROUND, {"fringe": "straight"}) == {"inner_corners": "cleared", "fringe": "straight"}


def test_every_family_is_complete() -> None:
    for key, one in FAMILIES.items():
        assert one.id == key
        assert set(one.planned) <= set(ZONES)
        for p in one.parameters:
            assert p.low <= p.default <= p.high
            assert p.tolerance > 0
        for school in one.schools:
            assert school.default in school.choices


@pytest.mark.parametrize(
    ("shortest", "tool"), [(2.9, "scissors"), (3.0, "3 mm"), (12.9, "10 mm"), (40.0, "32 mm")]
)
def test_guard_is_the_longest_that_is_not_too_long(shortest: float, tool: str) -> None:
    assert guard_for(shortest).startswith(tool)


def test_weeks_to_grow_round_up() -> None:
    assert weeks_to_grow(0.0, "curl") == 0
    assert weeks_to_grow(0.1, "curl") == 1
    assert weeks_to_grow(10.0, "standing") == 5
