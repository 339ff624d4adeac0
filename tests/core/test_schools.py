"""Where stylists differ: every choice changes the outline or the sheet, and the usual one is what nobody asked for."""

from __future__ import annotations

from dataclasses import replace
from itertools import combinations
from typing import Any

import numpy as np
import pytest

from core_cases import model
from cut_cases import case_of, cut_sheet, zone_length
from dapwick.core.basics.errors import BadInput
from dapwick.core.cut.case import Case
from dapwick.core.cut.pieces import ear_pieces
from dapwick.core.cut.sheet import CutSheet
from dapwick.core.outlines.ear_cut import SHORT_MM, EarCut
from dapwick.core.outlines.families import FAMILIES
from dapwick.core.outlines.family import Design, settle_schools

EVERY = [(key, school.id) for key, family in sorted(FAMILIES.items()) for school in family.schools]
ALIKE = {("broad", "canals"): ("only the worst", "all")}
"""Choices that the owner names apart and the stylist works alike: what comes away between the fingers is all that is
taken from any canal."""
MINDS = ("minds_muzzle", "minds_ears")
COATS = ("standing", "curl", "wavy", "fine_drop", "harsh")


def design_of(key: str, schools: dict[str, str]) -> Design:
    family, face = FAMILIES[key], model("fogbell").ground.face
    params = {p.id: p.default for p in family.turned}
    return family.design(face, family.default_size(face), params, schools)


def drawn(design: Design) -> list[Any]:
    """What a design does, as plain numbers."""
    skin = model("fogbell").ground.skin
    covers = [(c.words, c.length_mm, c.tool, c.where(skin.vertices_mm).tolist()) for c in design.covers]
    surface = np.round(design.surface(skin.vertices_mm), 6).tolist()
    lines = [(line.words, line.side, line.places.tolist()) for line in design.lines]
    return [covers, surface, lines, design.ears, design.corners_left]


def said(sheet: CutSheet) -> list[Any]:
    return [(s.rule, s.how, s.direction, s.check) for s in sheet.steps]


def with_ears(case: Case, cut: EarCut) -> Case:
    """The case with its ears cut as the outline cuts them, in the pieces that this makes."""
    outside = {
        place: zone_length(
            *place,
            z.now_mm if cut.outside_mm is None else cut.outside_mm,
            z.now_mm,
            "clipper" if short(cut) else "scissors",
        )
        for place, z in case.zones.items()
        if place[0] == "ear_outside"
    }
    pieces = {place: ear_pieces(z, cut) for place, z in outside.items()}
    return replace(case, zones={**case.zones, **outside}, pieces=pieces)


def short(cut: EarCut) -> bool:
    return cut.outside_mm is not None and cut.outside_mm <= SHORT_MM and not cut.by_hand


def of(key: str, school: str) -> tuple[str, ...]:
    return next(s for s in FAMILIES[key].schools if s.id == school).choices


@pytest.mark.parametrize(("key", "school"), EVERY)
def test_every_choice_is_seen_on_the_head_or_on_the_sheet(key: str, school: str) -> None:
    usual = settle_schools(FAMILIES[key], {}, "standing")
    found = {}
    for choice in of(key, school):
        asked = next(s for s in FAMILIES[key].schools if s.id == school)
        chosen = {**usual, **dict([asked.only_with] if asked.only_with else []), school: choice}
        design = design_of(key, chosen)
        case = with_ears(case_of(key, schools=chosen, minds=MINDS if school == "minded" else ()), design.ears)
        found[choice] = [drawn(design), said(cut_sheet(case))]
    for one, other in combinations(found, 2):
        assert (found[one] == found[other]) == (ALIKE.get((key, school)) == (one, other)), (one, other)


@pytest.mark.parametrize(("key", "school"), [pair for pair in EVERY if pair[1] == "inner_corners"])
def test_corners_are_left_where_they_are_left_and_cleared_where_they_are_cleared(
    key: str, school: str
) -> None:
    usual = settle_schools(FAMILIES[key], {}, "standing")
    left = {choice: design_of(key, {**usual, school: choice}).corners_left for choice in of(key, school)}
    assert left["left"]
    assert not left["cleared"]


@pytest.mark.parametrize("key", sorted(FAMILIES))
@pytest.mark.parametrize("coat", COATS)
def test_nobodys_choice_is_the_usual_one(key: str, coat: str) -> None:
    family = FAMILIES[key]
    settled = settle_schools(family, {}, coat)
    assert set(settled) == {s.id for s in family.schools}
    for school in family.schools:
        assert settled[school.id] in school.choices


def test_a_choice_is_kept_and_an_unknown_one_refused() -> None:
    family = FAMILIES["teddy"]
    assert settle_schools(family, {"jaw": "two_cuts"}, "standing")["jaw"] == "two_cuts"
    with pytest.raises(BadInput, match="expected arc, two_cuts, got three_cuts"):
        settle_schools(family, {"jaw": "three_cuts"}, "standing")
    with pytest.raises(BadInput, match="unknown school"):
        settle_schools(family, {"tail": "long"}, "standing")


@pytest.mark.parametrize("key", ["round", "teddy"])
def test_two_cuts_take_the_point_off_the_jaw(key: str) -> None:
    """Below the chin the two cuts leave less than the arc, and nowhere more."""
    usual = settle_schools(FAMILIES[key], {}, "standing")
    skin = model("fogbell").ground.skin
    arc, cuts = (design_of(key, {**usual, "jaw": choice}) for choice in ("arc", "two_cuts"))
    inside = [design.surface(skin.vertices_mm) for design in (arc, cuts)]
    assert (inside[1] >= inside[0] - 1e-6).all()
    assert (inside[1] > inside[0] + 0.5).any()
