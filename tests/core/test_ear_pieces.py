"""An ear's outside in its pieces: clipped over part of its length, that part is one of its own."""

from __future__ import annotations

from dataclasses import replace

import pytest

from core_cases import model
from dapwick.core.cut.pieces import pieces_on
from dapwick.core.measures.unevenness import Unevenness, telling
from dapwick.core.outlines.ear_cut import CLIPPED_MM, NONE, THIRD, TIP, WHOLE, EarCut
from dapwick.core.outlines.families import FAMILIES
from dapwick.core.outlines.fit import Outline
from dapwick.core.plan.lengths import CLIPPED, zone_lengths
from dapwick.pipeline.plan import drawn_on, fit_on


def cut_so(clipped: tuple[float, float]) -> Outline:
    outline = drawn_on(fit_on(model("bobbin"), FAMILIES["round"]), {})
    ears = EarCut("so", clipped=clipped, outside_mm=18.0, edge_mm=18.0)
    return replace(outline, design=replace(outline.design, ears=ears))


@pytest.mark.parametrize(
    ("clipped", "parts"),
    [
        ((NONE, NONE), [""]),
        ((WHOLE, NONE), [""]),
        ((TIP, NONE), ["tip of the", "rest of the"]),
        ((WHOLE, THIRD), ["upper", "rest of the"]),
        ((THIRD, TIP), ["middle", "rest of the"]),
        ((TIP, TIP), [""]),
    ],
)
def test_leather_clipped_in_part_is_two_pieces(clipped: tuple[float, float], parts: list[str]) -> None:
    outline = cut_so(clipped)
    found = pieces_on(outline, zone_lengths(outline))
    for side in ("left", "right"):
        outside = found["ear_outside", side]
        assert [piece.part for piece in outside] == parts
        assert len(found["ear_edge", side]) == 1
        if len(parts) == 2:
            shaved, rest = outside
            assert (shaved.by, shaved.leave_mm, shaved.longest_mm) == (CLIPPED, CLIPPED_MM, CLIPPED_MM)
            assert rest.leave_mm > CLIPPED_MM
            assert rest.sure_mm == rest.now_low


def uneven(pair: str, way: str, mm: float, sigma: float, real: bool = True) -> Unevenness:
    return Unevenness(pair, way, f"{pair} {way}", mm, sigma, mm - 2 * sigma, mm + 2 * sigma, real)


def test_of_each_pair_the_surest_difference_is_told_and_the_surest_pair_first() -> None:
    found = telling(
        (
            uneven("cheek", "out", 6.0, 2.0),
            uneven("cheek", "up", 4.0, 0.5),
            uneven("ear_tip", "up", 9.0, 3.0),
            uneven("eye_outer", "out", -5.0, 0.5),
            uneven("chin", "up", 9.0, 0.1, real=False),
        )
    )
    assert [(one.pair, one.way) for one in found] == [
        ("eye_outer", "out"),
        ("cheek", "up"),
        ("ear_tip", "up"),
    ]
