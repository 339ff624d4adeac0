"""A dog's own growth from lengths left and found again, against a truth that the model did not make."""

from __future__ import annotations

import numpy as np
import pytest

from dapwick.core.after.growth import GrowthReading, expected_length, own_growth
from dapwick.core.head.growth import PUPPY_SPREAD, RATE_SPREAD, Growth, growth_mm, usual_growth
from dapwick.core.head.zones import ZONES

FOUND_ON = ("crown", "cheek", "jaw", "visor", "temple", "muzzle_side", "chin", "back_skull")
LEFT_MM = 14.0


def visits(
    rng: np.random.Generator, rate: float, many: int, weeks: float = 7.0, sigma: float = 4.0
) -> list[GrowthReading]:
    """Readings of a dog whose zones each grow a little differently, with errors that a visit shares (gamma, not the
    model's own log-normal)."""
    of_zone = {zone: rate * rng.gamma(100, 1 / 100) for zone in FOUND_ON}
    found = []
    for visit in range(many):
        together = rng.normal(0, 1.0)
        for zone in FOUND_ON:
            mm = LEFT_MM + weeks * of_zone[zone] + together + rng.normal(0, sigma)
            found.append(GrowthReading(visit, zone, weeks, LEFT_MM, mm, sigma))
    return found


def test_without_readings_it_is_the_coats_own() -> None:
    growth = own_growth("curl", []).growth
    assert growth.rate("cheek") == pytest.approx(growth_mm(1.0, "curl"))
    assert growth.spread[ZONES.index("cheek")] == pytest.approx(np.hypot(RATE_SPREAD, 0.12), abs=0.01)


def test_three_visits_tell_the_rate_within_fifteen_in_a_hundred_and_the_interval_holds() -> None:
    rng = np.random.default_rng(4)
    off, inside = [], []
    for _ in range(60):
        rate = growth_mm(1.0, "standing") * float(rng.gamma(20, 1 / 20))
        growth = own_growth("standing", visits(rng, rate, 2)).growth
        at = ZONES.index("cheek")
        off.append(abs(growth.rate("cheek") / rate - 1))
        z = (np.log(rate) - growth.log_rate[at]) / growth.spread[at]
        inside.append(abs(z) < 1.645)
    assert np.median(off) < 0.12
    assert np.mean(np.array(off) < 0.15) > 0.6
    assert 0.8 <= np.mean(inside) <= 1.0


def test_more_visits_make_it_surer() -> None:
    rng = np.random.default_rng(7)
    at = ZONES.index("cheek")
    spreads = [own_growth("wavy", visits(rng, 2.6, many)).growth.spread[at] for many in (0, 1, 3, 6)]
    assert spreads == sorted(spreads, reverse=True)
    assert spreads[-1] < spreads[0] / 2


def test_a_zone_that_nobody_found_again_learns_from_its_neighbours() -> None:
    rng = np.random.default_rng(3)
    growth = own_growth("curl", visits(rng, 3.4, 4)).growth
    usual = growth_mm(1.0, "curl")
    assert usual < growth.rate("nape") < 3.6
    assert growth.spread[ZONES.index("nape")] > growth.spread[ZONES.index("cheek")]


def test_a_fringe_that_the_owner_cut_is_told_and_not_averaged_in() -> None:
    rng = np.random.default_rng(5)
    readings = visits(rng, 2.5, 2, sigma=2.0)
    cut = [
        GrowthReading(r.visit, r.zone, r.weeks, r.left_mm, 9.0, r.sigma_mm)
        if (r.zone, r.visit) == ("visor", 1)
        else r
        for r in readings
    ]
    own = own_growth("standing", cut)
    (told,) = own.disagreeing
    assert told.reading.zone == "visor"
    assert "cut at home" in told.words
    without = own_growth("standing", [r for r in cut if (r.zone, r.visit) != ("visor", 1)])
    assert np.allclose(own.growth.log_rate, without.growth.log_rate)


def test_a_whole_head_that_grew_less_is_no_owners_scissors() -> None:
    rng = np.random.default_rng(8)
    own = own_growth("standing", visits(rng, 1.2, 2, sigma=2.0))
    assert not own.disagreeing
    assert own.growth.rate("cheek") < 1.7


def test_hair_that_was_found_at_one_length_twice_stops_there() -> None:
    readings = [GrowthReading(v, "chin", weeks, 12.0, 22.0, 1.5) for v, weeks in enumerate((8.0, 12.0, 10.0))]
    growth = own_growth("curl", readings).growth
    assert growth.stops_at_mm[ZONES.index("chin")] == pytest.approx(22.0)
    length, _ = expected_length(growth, 12.0, "chin", 20.0)
    assert length == pytest.approx(22.0)
    assert np.isinf(growth.stops_at_mm[ZONES.index("cheek")])


def test_a_puppy_is_told_less_surely() -> None:
    at = ZONES.index("crown")
    puppy, grown = (usual_growth("curl", weeks).spread[at] for weeks in (20.0, 80.0))
    assert puppy > grown
    assert puppy == pytest.approx(np.hypot(PUPPY_SPREAD, 0.12), abs=0.01)


def test_draws_of_one_dog_hang_together() -> None:
    growth: Growth = usual_growth("curl")
    rates = growth.drawn(2000, np.random.default_rng(1))
    assert np.corrcoef(rates[:, 0], rates[:, 1])[0, 1] > 0.7
    assert np.median(rates) == pytest.approx(growth_mm(1.0, "curl"), rel=0.05)


def test_readings_a_week_apart_tell_of_readings_not_of_growth() -> None:
    short = [GrowthReading(0, "cheek", 1.0, 10.0, 20.0, 1.0)]
    assert own_growth("curl", short).growth.readings == 0
