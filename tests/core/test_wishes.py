"""What the owner wishes, and a salon's own outlines."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest

from dapwick.core.basics.errors import BadInput
from dapwick.core.head.growth import growth_mm, weeks_range, weeks_to_grow
from dapwick.core.outlines.families import FAMILIES
from dapwick.core.outlines.variant import Variant, read_variant
from dapwick.core.outlines.wishes import Wishes, aim_of, fringe_limit, size_shift
from dapwick.pipeline.plan import FittedGround, Plan, fit_on, plan_on


def planned(ground: FittedGround, key: str, **wishes: Any) -> Plan:
    return plan_on(fit_on(ground.model, FAMILIES[key], wishes=Wishes(**wishes)), {})


def zone_mm(plan: Plan, zone: str) -> float:
    return float(np.mean([z.leave_mm for z in plan.zones if z.zone == zone]))


def test_open_eyes_shorten_the_fringe(fogbell: FittedGround) -> None:
    veiled, opened = planned(fogbell, "round", eyes="veiled"), planned(fogbell, "round", eyes="open")
    assert opened.outline.params["visor_mm"] < veiled.outline.params["visor_mm"]
    assert zone_mm(opened, "visor") <= zone_mm(veiled, "visor")


def test_a_long_beard_that_is_not_there_is_told_with_weeks(bobbin: FittedGround) -> None:
    plan = planned(bobbin, "brick", beard="long")
    told = {w.wish: w for w in plan.verdict.wishes}
    assert set(told) == {"beard long"}
    assert not told["beard long"].met
    assert "weeks to grow" in told["beard long"].words


def test_a_family_without_a_choice_says_so(fogbell: FittedGround) -> None:
    told = planned(fogbell, "crest", eyes="veiled").verdict.wishes
    assert "leaves no choice at the eyes" in told[0].words


def test_more_weeks_between_visits_leave_less_and_say_why(fogbell: FittedGround) -> None:
    often, seldom = planned(fogbell, "round", weeks_between=4), planned(fogbell, "round", weeks_between=12)
    assert seldom.outline.size_mm < often.outline.size_mm
    assert any("12 weeks between visits" in r for r in seldom.verdict.reasons)
    assert any(w.wish == "12 weeks between visits" for w in seldom.verdict.wishes)


def test_fuller_and_shorter_move_the_size_where_there_is_room(fogbell: FittedGround) -> None:
    sizes = [planned(fogbell, "teddy", fullness=f).outline.size_mm for f in (-0.8, 0.0, 0.8)]
    assert sizes[0] < sizes[1] < sizes[2]


def test_wishes_out_of_range_are_refused() -> None:
    for wrong in ({"eyes": "blue"}, {"fullness": 2.0}, {"weeks_between": 0}, {"beard": "plaited"}):
        with pytest.raises(BadInput):
            Wishes(**wrong)  # type: ignore[arg-type]


def test_aims_stay_in_range_and_move_the_right_way() -> None:
    for family in FAMILIES.values():
        for p in family.turned:
            plain = aim_of(p, Wishes(), "curl")
            assert plain.value == p.default or p.steer == "eyes"
            for wishes in (
                Wishes(eyes="open", beard="short", ears="short"),
                Wishes(eyes="veiled", beard="long"),
            ):
                assert p.low <= aim_of(p, wishes, "curl").value <= p.high


def test_the_fringe_limit_falls_with_the_weeks() -> None:
    assert fringe_limit(Wishes(), "curl") > fringe_limit(Wishes(weeks_between=4), "curl")
    assert size_shift(Wishes(weeks_between=10), "curl") < 0 < size_shift(Wishes(weeks_between=4), "curl")
    assert size_shift(Wishes(), "curl") == 0


def test_weeks_to_grow_round_up_and_have_a_range() -> None:
    assert weeks_to_grow(0.0, "curl") == 0
    assert weeks_to_grow(0.1, "curl") == 1
    assert weeks_to_grow(10.0, "standing") == 5
    low, high = weeks_range(10.0, "standing")
    assert low < weeks_to_grow(10.0, "standing") < high
    assert growth_mm(weeks_to_grow(10.0, "standing"), "standing") >= 10.0


def test_a_variant_goes_out_and_comes_in_unchanged() -> None:
    own = Variant("Harbour round", "round", {"visor_mm": 5.0}, {"fringe": "straight"})
    assert read_variant(own.document()) == own
    family = own.family("own-7")
    assert (family.id, family.name) == ("own-7", "Harbour round")
    assert next(p for p in family.parameters if p.id == "visor_mm").default == 5.0
    assert next(s for s in family.schools if s.id == "fringe").default == "straight"
    assert FAMILIES["round"].name == "Round"


def test_a_variants_default_is_what_the_fit_aims_for(fogbell: FittedGround) -> None:
    high = Variant("High", "round", {"centre_up_mm": 12.0}).family("own-1")
    plain = fit_on(fogbell.model, FAMILIES["round"]).fit.params["centre_up_mm"]
    assert fit_on(fogbell.model, high).fit.params["centre_up_mm"] > plain + 1.0


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"format": "other"}, "format"),
        ({"version": 3}, "version"),
        ({"name": " "}, "name"),
        ({"based_on": "spiral"}, "spiral"),
        ({"parameters": {"visor_mm": 900}}, "0 to 30"),
        ({"parameters": {"visor_mm": "long"}}, "a number"),
        ({"parameters": ["visor_mm"]}, "names and values"),
        ({"schools": {"fringe": "curly"}}, "blending, straight"),
    ],
)
def test_bad_documents_are_refused_by_field(change: dict[str, Any], words: str) -> None:
    document = Variant("Harbour", "round", {"visor_mm": 5.0}).document()
    with pytest.raises(BadInput, match=words):
        read_variant({**document, **change})
    with pytest.raises(BadInput):
        read_variant(["not", "a", "document"])
