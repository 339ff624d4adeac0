"""Why an outline suits a head or does not: each reason is told from its own size on, the weightiest first."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import pytest

from core_cases import model
from dapwick.core.head.growth import growth_mm, weeks_range
from dapwick.core.outlines.description import Broken
from dapwick.core.outlines.families import FAMILIES
from dapwick.core.outlines.family import Condition
from dapwick.core.outlines.fit import Outline, Sizes
from dapwick.core.outlines.wishes import Wishes
from dapwick.core.plan.lengths import ZoneLength, zone_lengths
from dapwick.core.plan.readiness import VAGUE_MM, readiness_of
from dapwick.core.plan.verdict import (
    MOST_REASONS,
    UNMET_COST,
    WEEK_COST,
    verdict_of,
    wish_outcomes,
)
from dapwick.pipeline.plan import drawn_on, fit_on


@pytest.fixture(scope="module")
def outline() -> Outline:
    return drawn_on(fit_on(model("fogbell"), FAMILIES["round"]), {})


@pytest.fixture(scope="module")
def calm(outline: Outline) -> tuple[ZoneLength, ...]:
    """Lengths of which there is nothing to say: even, sure, all there."""
    return tuple(
        replace(
            z, leave_mm=12.0, wanted_mm=12.0, low=11.0, high=13.0, now_mm=30.0, shortage_mm=0.0, seen=True
        )
        for z in zone_lengths(outline)
    )


def with_zone(
    zones: Sequence[ZoneLength], zone: str, side: str | None, **more: float
) -> tuple[ZoneLength, ...]:
    return tuple(
        replace(z, **more) if z.zone == zone and side in (None, z.side) else z  # type: ignore[arg-type]
        for z in zones
    )


def reasons(outline: Outline, zones: Sequence[ZoneLength]) -> tuple[str, ...]:
    """All reasons, not the first few alone."""
    with pytest.MonkeyPatch.context() as patch:
        patch.setattr("dapwick.core.plan.verdict.MOST_REASONS", 99)
        return verdict_of(outline, zones).reasons


def test_all_there_can_be_cut_today(outline: Outline, calm: tuple[ZoneLength, ...]) -> None:
    verdict = verdict_of(outline, calm)
    assert (verdict.when, verdict.weeks, verdict.weeks_range) == ("today", 0, (0, 0))
    assert verdict.rank == verdict.departure
    assert not [r for r in reasons(outline, calm) if "to grow" in r or "leave" in r or "least sure" in r]


def test_missing_hair_is_told_in_mm_and_weeks(outline: Outline, calm: tuple[ZoneLength, ...]) -> None:
    zones = with_zone(with_zone(calm, "jaw", "left", shortage_mm=9.0), "crown", "left", shortage_mm=6.0)
    low, high = weeks_range(9.0, outline.ground.coat_type)
    told = verdict_of(outline, zones).reasons
    assert f"9 mm still to grow at the left jaw, most of 2 places that lack: {low}–{high} weeks." in told[:2]
    assert verdict_of(outline, zones).when == "today"


def holds_in(weeks: int | None, patch: pytest.MonkeyPatch) -> None:
    """As if the outline held its description after so many weeks."""
    unmet = Broken(Condition("crown", "{value} of {want}", least=2.0), 1.0)
    patch.setattr("dapwick.core.plan.readiness.broken_on", lambda *_: () if weeks == 0 else (unmet,))
    patch.setattr("dapwick.core.plan.readiness.weeks_until_it_holds", lambda *_: weeks)


@pytest.mark.parametrize(("weeks", "when"), [(1, "later"), (26, "later"), (None, "not_on_this_coat")])
def test_when_it_holds_says_when_it_can_be_cut(
    outline: Outline,
    calm: tuple[ZoneLength, ...],
    weeks: int | None,
    when: str,
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    holds_in(weeks, monkeypatch)
    grown = growth_mm(weeks or 0, outline.ground.coat_type)
    for told in (verdict_of(outline, calm), readiness_of(outline, calm)):
        assert (told.when, told.weeks) == (when, weeks or 0)
        assert told.weeks_range == weeks_range(grown, outline.ground.coat_type)


def test_weeks_cost_and_stages_outrank_any_departure(
    outline: Outline, calm: tuple[ZoneLength, ...], monkeypatch: pytest.MonkeyPatch
) -> None:
    told = []
    for weeks in (0, 4, None):
        holds_in(weeks, monkeypatch)
        told.append(verdict_of(outline, calm))
    today, soon, never = told
    assert soon.departure - today.departure == pytest.approx(4 * WEEK_COST)
    assert today.rank < soon.rank < never.rank
    assert never.rank - soon.rank > 900


@pytest.mark.parametrize(("apart_mm", "told"), [(2.9, False), (3.0, True)])
def test_an_uneven_pair_is_told_with_its_cause(
    outline: Outline, calm: tuple[ZoneLength, ...], apart_mm: float, told: bool
) -> None:
    bone = with_zone(calm, "jaw", "left", leave_mm=12.0 + apart_mm, wanted_mm=12.0 + apart_mm)
    said = [r for r in reasons(outline, bone) if "bone differs" in r]
    assert bool(said) == told
    assert all(r.startswith("For an even outline leave 3 mm more on the left jaw") for r in said)
    coat = with_zone(calm, "jaw", "left", leave_mm=12.0 - apart_mm)
    said = [r for r in reasons(outline, coat) if "less coat" in r]
    assert bool(said) == told
    assert all(r == "Jaw 3 mm shorter on the left: less coat is surely there." for r in said)


def test_clipped_places_are_never_called_uneven(outline: Outline, calm: tuple[ZoneLength, ...]) -> None:
    zones = with_zone(with_zone(calm, "jaw", "left", leave_mm=30.0), "jaw", None, clipped=True)
    assert not [r for r in reasons(outline, zones) if "jaw" in r.lower()]


@pytest.mark.parametrize(("half_mm", "told"), [(VAGUE_MM - 0.1, False), (VAGUE_MM, True)])
def test_the_least_sure_place_is_told_with_what_would_help(
    outline: Outline, calm: tuple[ZoneLength, ...], half_mm: float, told: bool
) -> None:
    zones = with_zone(calm, "temple", "right", low=12.0 - half_mm, high=12.0 + half_mm)
    said = [r for r in reasons(outline, zones) if r.startswith("Least sure")]
    assert bool(said) == told
    assert all(r == "Least sure: temple, ±8 mm; a comb pushed to the skin there would tell." for r in said)


def test_reasons_are_few_and_whole_sentences(outline: Outline) -> None:
    for reason in verdict_of(outline, zone_lengths(outline)).reasons:
        assert not reason[0].islower()
        assert reason.endswith(".")
    assert len(verdict_of(outline, zone_lengths(outline)).reasons) <= MOST_REASONS


def test_the_room_is_told_all_round(outline: Outline, calm: tuple[ZoneLength, ...]) -> None:
    sizes = Sizes(40.0, 50.0, 61.0)
    told = reasons(replace(outline, fit=replace(outline.fit, sizes=sizes), size_mm=52.4), calm)
    assert f"Room all round: {outline.family.size_words} 40–61 mm, yours 52." in told


def wished(**said: object) -> tuple[Outline, Wishes]:
    wishes = Wishes(**said)  # type: ignore[arg-type]
    return drawn_on(fit_on(model("fogbell"), FAMILIES["teddy"], wishes=wishes), {}), wishes


def test_a_wish_that_is_not_met_costs_and_is_told() -> None:
    outline, _ = wished(fullness=1.0)
    zones = tuple(replace(z, shortage_mm=0.0) for z in zone_lengths(outline))
    fits = replace(outline, size_mm=outline.sizes.largest)
    beyond = replace(outline, size_mm=outline.sizes.largest + 0.6)
    met, unmet = (wish_outcomes(one, zones)[0] for one in (fits, beyond))
    assert (met.wish, met.met) == ("fuller", True)
    assert not unmet.met
    assert unmet.words.startswith(f"the coat carries {outline.sizes.largest:.0f} mm, ")
    costs = [verdict_of(one, zones).departure for one in (fits, beyond)]
    assert costs[1] - costs[0] == pytest.approx(UNMET_COST)


def test_fuller_on_a_coat_that_lacks_hair_is_not_met() -> None:
    outline, _ = wished(fullness=0.5)
    zones = tuple(replace(z, shortage_mm=8.0 if z.zone == "jaw" else 0.0) for z in zone_lengths(outline))
    inside = replace(outline, size_mm=outline.sizes.largest)
    (told,) = wish_outcomes(inside, zones)
    assert not told.met
    assert told.words.startswith("8 mm are missing: about ")
    shorter, _ = wished(fullness=-0.5)
    (told,) = wish_outcomes(shorter, zones)
    assert (told.wish, told.met) == ("shorter", True)


def test_wishes_are_told_each_once_in_one_order() -> None:
    outline, _ = wished(fullness=-0.2, eyes="open", beard="short", ears="short", weeks_between=6)
    names = [told.wish for told in wish_outcomes(outline, zone_lengths(outline))]
    assert names == ["eyes open", "beard short", "ears short", "shorter", "6 weeks between visits"]
    plain, _ = wished()
    assert wish_outcomes(plain, zone_lengths(plain)) == ()


def test_what_rests_on_a_coat_that_nothing_read_asks_for_a_comb(
    outline: Outline, calm: tuple[ZoneLength, ...]
) -> None:
    """Widest first; what is read, clipped, surely known, or there in any case is not asked for."""
    zones = calm
    for name, half in (("cheek", 12.0), ("crown", 9.0), ("temple", 3.0)):
        for side in ("left", "right"):
            zones = with_zone(
                zones,
                name,
                side,
                seen=False,
                clipped=False,
                leave_mm=28.0,
                now_mm=30.0,
                now_low=30 - half,
                now_high=30 + half,
            )
    zones = with_zone(
        zones, "chin", None, seen=False, clipped=False, leave_mm=20.0, now_low=20.0, now_high=60.0
    )
    zones = with_zone(
        zones, "visor", "left", seen=True, clipped=False, now_mm=30.0, now_low=5.0, now_high=55.0
    )
    told = verdict_of(outline, zones)
    assert told.comb_first == ("cheek", "crown")
    assert told.reasons[0] == "Coat at cheek and crown not seen: comb there first."
    assert readiness_of(outline, zones).comb_first == ("cheek", "crown")
    assert verdict_of(outline, calm).comb_first == ()
