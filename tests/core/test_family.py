"""Families as such: ideals cost what they say, parameters are checked, a face tells what rules read from it."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from core_cases import model
from dapwick.core.basics.errors import BadInput
from dapwick.core.basics.marks import INDEX
from dapwick.core.outlines.families import FAMILIES
from dapwick.core.outlines.family import FULLNESS, Ideal
from dapwick.core.outlines.fit import Sizes
from dapwick.core.plan.kit import USUAL_KIT
from dapwick.core.plan.lengths import zone_lengths
from dapwick.core.plan.tools import guard_over
from dapwick.pipeline.plan import drawn_on, fit_on

FACE = model("fogbell").ground.face


@pytest.mark.parametrize(
    ("one_sided", "value", "costs"),
    [
        (0, 1.0, 0.0),
        (0, 1.5, 2.0),
        (0, 0.5, 2.0),
        (1, 1.5, 0.0),
        (1, 0.5, 2.0),
        (-1, 1.5, 2.0),
        (-1, 0.5, 0.0),
        (-2, 1.5, 4.0),
    ],
)
def test_an_ideal_costs_by_its_tolerance_and_on_its_own_side(
    one_sided: int, value: float, costs: float
) -> None:
    assert Ideal("dome_ratio", 1.0, 0.25, "", one_sided).departure(value) == pytest.approx(costs)


def test_sizes_run_between_their_true_ends() -> None:
    sizes = Sizes(40.0, 50.0, 70.0)
    assert [sizes.at(f) for f in (-1.0, -0.5, 0.0, 0.5, 1.0)] == [40.0, 45.0, 50.0, 60.0, 70.0]


@pytest.mark.parametrize("key", sorted(FAMILIES))
def test_every_parameter_may_stand_at_either_end_and_no_farther(key: str) -> None:
    family = FAMILIES[key]
    for parameter in family.parameters:
        for end, beyond in ((parameter.low, -0.01), (parameter.high, 0.01)):
            assert family.checked({parameter.id: end}) == {parameter.id: end}
            with pytest.raises(BadInput, match="expected"):
                family.checked({parameter.id: end + beyond})
        with pytest.raises(BadInput):
            family.checked({parameter.id: "wide"})


@pytest.mark.parametrize("key", sorted(FAMILIES))
def test_a_variant_keeps_the_shape_it_stands_on(key: str) -> None:
    family = FAMILIES[key]
    assert family.shape_id == key
    assert replace(family, id="own-1", based_on=key).shape_id == key
    assert FULLNESS not in {p.id for p in family.turned}
    assert len(family.turned) == len(family.parameters) - 1


def test_a_face_reads_its_marks_by_name() -> None:
    left, right = FACE.at("cheek_left"), FACE.at("cheek_right")
    assert FACE.middle("cheek") == pytest.approx((left + right) / 2)
    assert FACE.half("cheek") == pytest.approx(np.linalg.norm(left - right) / 2)
    assert FACE.half_width == FACE.half("cheek")
    assert FACE.ahead("nose_tip") == FACE.at("nose_tip")[1]
    assert FACE.up("crown") == FACE.at("crown")[2]
    assert FACE.crown_height == pytest.approx(FACE.up("crown") - FACE.eye_level)
    assert FACE.muzzle_length == pytest.approx(np.linalg.norm(FACE.at("stop") - FACE.at("nose_tip")))


def test_a_bridge_falls_toward_the_nose_as_much_as_it_does() -> None:
    points = FACE.points_mm.copy()
    points[INDEX["stop"]] = (0.0, 0.0, 10.0)
    points[INDEX["nose_top"]] = (0.0, 40.0, -10.0)
    assert replace(FACE, points_mm=points).bridge_slope == pytest.approx(0.5)
    points[INDEX["nose_top"]] = (0.0, 1.0, -10.0)
    assert replace(FACE, points_mm=points).bridge_slope == pytest.approx(4.0), (
        "a flat face has a bridge all the same"
    )


def test_one_hanging_ear_hangs() -> None:
    points = FACE.points_mm.copy()
    assert not FACE.ears_hang
    base = (points[INDEX["ear_front_left"]] + points[INDEX["ear_back_left"]]) / 2
    points[INDEX["ear_tip_left"]] = base + [-10.0, 0.0, -70.0]
    one = replace(FACE, points_mm=points)
    assert one.carriage == ("drop", "prick")
    assert one.ears_hang


@pytest.mark.parametrize("key", ["round", "teddy", "brick"])
def test_the_guard_named_for_a_zone_leaves_its_longest_place_at_its_upper_end(key: str) -> None:
    outline = drawn_on(fit_on(model("fogbell"), FAMILIES[key]), {})
    from dapwick.core.head.stand import length_of

    wanted = length_of(outline.wanted_mm, outline.ground.coat.stand)
    for z in zone_lengths(outline):
        if z.clipped or z.zone.startswith("ear_"):
            continue
        at = outline.ground.skin.in_zone(z.zone, z.side)
        upper = float(wanted[at].max()) + z.high - z.leave_mm
        assert z.tool == guard_over(upper, USUAL_KIT).words
