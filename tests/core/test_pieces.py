"""A zone parted where one length will not do: pieces hold what the outline asks at their own places, and no more."""

from __future__ import annotations

from dataclasses import replace
from itertools import pairwise

import numpy as np
import pytest

from core_cases import model
from dapwick.core.basics.arrays import Array
from dapwick.core.cut.pieces import (
    CLEARED,
    MIXED_SHARE,
    OFF_MM,
    SPREAD_MM,
    UNSURE_MM,
    Piece,
    pieces_on,
    whole,
)
from dapwick.core.head.stand import length_of
from dapwick.core.outlines.families import FAMILIES
from dapwick.core.outlines.fit import Outline
from dapwick.core.outlines.ground import CLEARED_MM, FLOOR_MM, SPANNED
from dapwick.core.plan.lengths import SCISSORED, ZoneLength, zone_lengths
from dapwick.pipeline.plan import drawn_on, fit_on

KEYS = ("round", "brick", "topknot", "brows_beard")


@pytest.fixture(scope="module", params=[(dog, key) for dog in ("fogbell", "bobbin") for key in KEYS], ids=str)
def outline(request: pytest.FixtureRequest) -> Outline:
    dog, key = request.param
    return drawn_on(fit_on(model(dog), FAMILIES[key]), {})


def parted(outline: Outline) -> dict[tuple[str, str], tuple[Piece, ...]]:
    return pieces_on(outline, zone_lengths(outline))  # type: ignore[return-value]


def asked_mm(outline: Outline) -> Array:
    """Hair length (V,) that the outline asks, whatever is there."""
    ground = outline.ground
    floor = np.where(outline.covered, 0.0, FLOOR_MM)
    free = np.maximum(ground.free_mm(outline.design), CLEARED_MM)
    return length_of(np.minimum(np.maximum(outline.wanted_mm, floor), free), ground.coat.stand)


def test_every_planned_zone_and_side_is_there_in_pieces_of_its_own(outline: Outline) -> None:
    found = parted(outline)
    assert set(found) == {(z.zone, z.side) for z in zone_lengths(outline)}
    for (zone, side), pieces in found.items():
        assert pieces
        assert all(piece.place == (zone, side) for piece in pieces)
        assert len({piece.part for piece in pieces}) == len(pieces)


def test_a_whole_zone_holds_what_is_asked_over_all_of_it(outline: Outline) -> None:
    asked, ground = asked_mm(outline), outline.ground
    seen = 0
    for (zone, side), pieces in parted(outline).items():
        (first, *more) = pieces
        if more or zone.startswith("ear") or first.by == CLEARED:
            continue
        at = ground.skin.in_zone(zone, side)  # type: ignore[arg-type]
        # Places kept clear, and a few beyond a setting line, belong to their neighbours.
        assert first.shortest_mm >= asked[at].min() - 0.2
        assert first.longest_mm <= asked[at].max() + 0.2
        assert first.shortest_mm <= first.leave_mm <= first.longest_mm
        if not outline.covered[at].any():
            kept = at if zone in SPANNED else at[ground.free_mm(outline.design)[at] >= FLOOR_MM]
            assert first.leave_mm == pytest.approx(np.median(asked[kept]), abs=1.0)
            seen += 1
    assert seen


def test_bands_are_parts_whose_lengths_spread_less(outline: Outline) -> None:
    for pieces in parted(outline).values():
        for piece in pieces:
            if not piece.bands:
                continue
            assert piece.by == SCISSORED
            assert len(piece.bands) in (2, 3)
            assert min(b.shortest_mm for b in piece.bands) == pytest.approx(piece.shortest_mm)
            assert max(b.longest_mm for b in piece.bands) == pytest.approx(piece.longest_mm)
            widest = max(b.longest_mm - b.shortest_mm for b in piece.bands)
            assert widest <= piece.longest_mm - piece.shortest_mm
            assert piece.longest_mm - piece.shortest_mm > SPREAD_MM


def test_intervals_hold_what_they_are_of(outline: Outline) -> None:
    for pieces in parted(outline).values():
        for piece in (p for one in pieces for p in (one, *one.bands)):
            assert 0.0 <= piece.low <= piece.leave_mm <= piece.high
            assert piece.now_low <= piece.now_mm <= piece.now_high
            assert piece.upper_mm >= piece.longest_mm
            assert piece.remove_mm == max(piece.now_mm - piece.leave_mm, 0.0)


def thinned(outline: Outline, share: float, zone: str = "crown") -> Outline:
    """The outline on a coat that lacks 10 mm of depth at the frontmost share of a zone, and has plenty elsewhere."""
    ground = outline.ground
    depth = np.maximum(outline.wanted_mm + 12.0, 20.0)
    at = ground.skin.in_zone(zone, "left")
    ahead = np.argsort(ground.skin.vertices_mm[at, 1])
    lacking = at[ahead[: round(share * len(at))]]
    depth[lacking] = np.maximum(outline.wanted_mm[lacking] - 10.0, 0.5)
    coat = replace(ground.coat, depth_mm=depth, sigma_mm=np.full_like(depth, 0.5))
    return replace(outline, ground=replace(ground, coat=coat))


@pytest.mark.parametrize(
    ("share", "apart"),
    [(0.0, False), (MIXED_SHARE - 0.08, False), (MIXED_SHARE + 0.1, True), (0.5, True), (1.0, False)],
)
def test_missing_hair_is_told_apart_from_hair_that_comes_off(share: float, apart: bool) -> None:
    outline = drawn_on(fit_on(model("fogbell"), FAMILIES["round"]), {})
    mixed = thinned(outline, share)
    found = [p for p in parted(mixed)["crown", "left"] if p.by == SCISSORED]
    lacking = [p for p in found if p.missing_mm >= OFF_MM]
    plenty = [p for p in found if p.remove_mm >= OFF_MM]
    assert (bool(lacking) and bool(plenty)) == apart


def test_hair_that_is_expected_and_not_sure_is_called_unsure(outline: Outline) -> None:
    for pieces in parted(outline).values():
        for piece in pieces:
            expected = piece.by == SCISSORED and piece.leave_mm > piece.sure_mm + UNSURE_MM
            assert piece.unsure == expected
            if piece.by != SCISSORED:
                assert piece.missing_mm == 0.0


def a_zone(**more: float) -> ZoneLength:
    z = zone_lengths(drawn_on(fit_on(model("fogbell"), FAMILIES["round"]), {}))[0]
    return replace(z, **more)  # type: ignore[arg-type]


def test_a_zone_as_one_piece_is_what_was_planned_for_it() -> None:
    z = a_zone(wanted_mm=20.0, leave_mm=14.0, low=12.0, high=17.0, shortest_mm=16.0, longest_mm=18.0)
    piece = whole(z)
    assert (piece.leave_mm, piece.low, piece.high) == (20.0, 12.0, 17.0)
    assert (piece.shortest_mm, piece.longest_mm) == (16.0, 20.0)
    assert (piece.now_mm, piece.sure_mm, piece.part) == (z.now_mm, z.now_low, "")


def test_names_tell_parts_from_each_other_in_one_way(outline: Outline) -> None:
    for pieces in parted(outline).values():
        for one, other in pairwise(pieces):
            assert one.words != other.words
