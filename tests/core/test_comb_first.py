"""Where hair is only expected a comb is asked for, once: a place that was read is not asked about again."""

from __future__ import annotations

import pytest

from core_cases import model
from dapwick.core.cut.casework import case_of
from dapwick.core.cut.sheet import cut_sheet
from dapwick.core.head.coat import CoatProbe
from dapwick.core.outlines.families import FAMILIES
from dapwick.core.plan.lengths import zone_lengths
from dapwick.pipeline.plan import drawn_on, fit_on


def asked(key: str, probes: tuple[CoatProbe, ...] = ()) -> set[tuple[str, str | None]]:
    outline = drawn_on(fit_on(model("fogbell"), FAMILIES[key]), {})
    sheet = cut_sheet(case_of(outline, zone_lengths(outline), probes=probes))
    return {(one.zone, one.side) for step in sheet.steps for one in step.comb_first}


@pytest.mark.parametrize("key", ["round", "teddy"])
def test_a_place_that_was_combed_is_not_asked_about_again(key: str) -> None:
    before = asked(key)
    assert before
    zone, side = min(before)  # type: ignore[type-var]
    assert asked(key, (CoatProbe(zone, side, 12.0),)) == before - {(zone, side)}
    assert asked(key, (CoatProbe(zone, None, 12.0),)) == {place for place in before if place[0] != zone}
