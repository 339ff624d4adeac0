"""What a stylist can say: lengths by place, the body, ears in mm, order, what is seen in the coat; and what the outline
and the sheet make of it."""

from __future__ import annotations

import re
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from cut_cases import case_of, cut_sheet, sheet_of, steps_of
from dapwick.core.basics.errors import BadInput
from dapwick.core.cut.casework import case_of as case_on
from dapwick.core.cut.handling import TRAITS, checked_traits, closest_on, minded, seen_at
from dapwick.core.cut.rules import RULES
from dapwick.core.head.stand import depth_of, length_of
from dapwick.core.outlines.families import FAMILIES
from dapwick.core.outlines.fit import Outline
from dapwick.core.outlines.wishes import SAYABLE, Wishes
from dapwick.core.plan.kit import USUAL_KIT, SkinLimits, Stylist
from dapwick.core.plan.lengths import zone_lengths
from dapwick.core.plan.verdict import verdict_of
from dapwick.pipeline.plan import FittedGround, drawn_on, fit_on


def planned(ground: FittedGround, key: str, wishes: Wishes, **schools: str) -> Outline:
    return drawn_on(fit_on(ground.model, FAMILIES[key], schools, wishes), {})


def middle(outline: Outline, zone: str) -> float:
    at = outline.ground.skin.in_zone(zone)
    return float(np.median(length_of(outline.leave_mm[at], outline.ground.coat.stand[at])))


def test_a_length_that_is_said_is_left_and_the_rest_is_fitted_round_it(fogbell: FittedGround) -> None:
    plain = planned(fogbell, "round", Wishes())
    said = planned(fogbell, "round", Wishes(lengths={"crown": 8.0}))
    assert middle(said, "crown") == pytest.approx(8.0, abs=0.3)
    assert middle(said, "cheek") < middle(plain, "cheek") - 0.5
    (zone, *_) = (z for z in zone_lengths(said) if z.zone == "crown")
    assert zone.why == "said: 8 mm"


@settings(max_examples=25, deadline=None)
@given(zone=st.sampled_from(SAYABLE), mm=st.floats(3.0, 60.0), key=st.sampled_from(sorted(FAMILIES)))
def test_nothing_said_plans_hair_that_is_not_there(
    fogbell: FittedGround, zone: str, mm: float, key: str
) -> None:
    outline = planned(fogbell, key, Wishes(lengths={zone: mm}))
    ground = outline.ground
    at = ground.skin.in_zone(zone)
    assert (outline.leave_mm <= np.maximum(ground.ceiling_mm, ground.floor_mm) + 0.51).all()
    depth = depth_of(np.full(len(at), mm), ground.coat.stand[at])
    free = ground.free_mm(outline.design)[at]
    assert (outline.leave_mm[at] <= np.maximum(np.minimum(depth, free), 3.0) + 1e-6).all()


def test_what_cannot_be_left_so_is_told_with_the_reason(fogbell: FittedGround) -> None:
    outline = planned(fogbell, "round", Wishes(lengths={"crown": 90.0, "cheek": 12.0}))
    told = {w.wish: w for w in verdict_of(outline, zone_lengths(outline)).wishes}
    assert not told["crown 90 mm"].met
    assert "grows" in told["crown 90 mm"].words
    assert told["cheek 12 mm"].met


def test_the_nape_is_as_short_as_the_body_that_runs_to_it(fogbell: FittedGround) -> None:
    short = planned(fogbell, "round", Wishes(body_mm=6.0))
    elsewhere = planned(fogbell, "round", Wishes(body_mm=6.0, body_ends="shoulder"))
    assert middle(short, "nape") == pytest.approx(6.0, abs=0.3)
    assert middle(elsewhere, "nape") > 8.0
    sheet = cut_sheet(case_on(short, zone_lengths(short), Stylist("Oriel")))
    (ring,) = steps_of(sheet, "ring")
    assert "the body is 6 mm" in ring.how
    assert "the body" not in steps_of(sheet_of("round"), "ring")[0].how


@pytest.mark.parametrize("key", sorted(FAMILIES))
def test_throat_and_ear_edges_are_as_short_as_the_body_where_that_is_said(
    fogbell: FittedGround, key: str
) -> None:
    outline = planned(fogbell, key, Wishes(body_mm=6.0, as_body=("throat", "ear_edges")))
    assert middle(outline, "throat") == pytest.approx(6.0, abs=0.3)
    edge = outline.design.ears.edge_mm
    assert edge is not None
    assert edge <= 6.0
    sheet = cut_sheet(case_on(outline, zone_lengths(outline), Stylist("Oriel")))
    (throat,) = [one for one in sheet.steps if one.rule.startswith("clip_throat")]
    assert throat.tool_id == steps_of(sheet, "ring")[0].tool_id


def test_a_short_body_does_not_draw_the_cheeks_in(fogbell: FittedGround) -> None:
    plain = planned(fogbell, "round", Wishes())
    joined = planned(fogbell, "round", Wishes(body_mm=6.0, as_body=("throat",)))
    for zone in ("cheek", "crown", "back_skull"):
        assert middle(joined, zone) > 0.8 * middle(plain, zone)


def test_nothing_is_as_short_as_a_body_of_which_nothing_was_said(fogbell: FittedGround) -> None:
    plain = planned(fogbell, "round", Wishes())
    unsaid = planned(fogbell, "round", Wishes(as_body=("throat", "ear_edges")))
    assert np.array_equal(plain.leave_mm, unsaid.leave_mm)
    assert plain.design.ears == unsaid.design.ears


@pytest.mark.parametrize(
    ("wrong", "told"),
    [
        ({"lengths": {"tail": 9.0}}, "a length for a place"),
        ({"lengths": {"body": 9.0}}, "a length for a place"),
        ({"lengths": {"crown": 900.0}}, "length said: crown"),
        ({"body_mm": 0.0}, "length said: body"),
        ({"body_ends": "hip"}, "where the body's clip ends"),
        ({"as_body": ("tail",)}, "what is as short as the body"),
    ],
)
def test_what_cannot_be_said_is_refused(wrong: dict, told: str) -> None:  # type: ignore[type-arg]
    with pytest.raises(BadInput, match=told):
        Wishes(**wrong)


@pytest.mark.parametrize("line", ["tip", "third", "fold"])
def test_the_ear_line_is_told_in_mm_on_this_leather(fogbell: FittedGround, line: str) -> None:
    outline = planned(fogbell, "round", Wishes(), ear_line=line)
    face = outline.ground.face
    leather = (face.leather_mm("left") + face.leather_mm("right")) / 2
    above = float(re.search(r"(\d+) mm", outline.design.ears.words)[1])  # type: ignore[index]
    assert above / leather == pytest.approx({"tip": 0.2, "third": 0.34, "fold": 0.55}[line], abs=0.05)


@pytest.mark.parametrize("key", ["round", "dome", "three_rings"])
def test_ears_that_are_left_get_no_line_and_no_blade(fogbell: FittedGround, key: str) -> None:
    outline = planned(fogbell, key, Wishes(), ear_line="none")
    sheet = cut_sheet(case_on(outline, zone_lengths(outline), Stylist("Oriel")))
    assert not steps_of(sheet, "ear_line")
    clipped = [s for s in sheet.steps if "ear_outside" in s.zones and s.rule.startswith("leather")]
    assert not [s for s in clipped if any(cut.zone == "ear_outside" for cut in s.cuts)]


def test_against_the_growth_no_blade_leaves_less_than_the_skin_allows() -> None:
    for way in ("with", "against"):
        sheet = sheet_of("topknot", schools={"face_growth": way, "throat_growth": way})
        for step in sheet.steps:
            if step.rule in ("clip_face", "clip_jaw", "clip_muzzle", "clip_throat_v"):
                assert step.leave_mm is not None
                assert step.leave_mm[0] >= SkinLimits().first_mm - 1e-6
                assert ("against the growth" in step.direction) == (way == "against")
                assert ("against" in step.tool) == (way == "against")


def test_the_line_begins_at_its_other_end_on_the_awkward_side() -> None:
    for hand, awkward in (("right", "right"), ("left", "left")):
        by_side = {s.side: s for s in steps_of(sheet_of("round", hand=hand), "cheek")}
        other = "left" if awkward == "right" else "right"
        assert by_side[awkward].direction == RULES["cheek"].back
        assert by_side[other].direction == RULES["cheek"].direction
        assert by_side[awkward].path.marks == by_side[other].path.marks[::-1]


def first(sheet, *rules: str) -> int:  # type: ignore[no-untyped-def]
    return min(s.number for s in sheet.steps if s.rule in rules)


def test_the_order_is_as_it_was_said() -> None:
    usual, sides = (sheet_of("round", schools={"order": way}) for way in ("eyes_first", "sides_first"))
    assert first(usual, "bar") < first(usual, "temple")
    assert first(sides, "bar") > first(sides, "temple")
    ears = sheet_of("teddy", schools={"ears_when": "first"})
    assert first(ears, "ear_hair") < first(ears, "jaw_half_circle")
    last = sheet_of("round", minds=("minds_muzzle",), schools={"minded": "last"})
    minded_at = [
        s.number for s in last.steps if s.minded and s.doing == "work" and s.chapter != "Before the scissors"
    ]
    shaped_at = [s.number for s in last.steps if s.rule in ("rows", "cheek", "temple", "jaw_arc")]
    assert min(minded_at) > max(shaped_at)


def test_refining_sets_no_length_and_leaves_the_rest_alone() -> None:
    sheet = sheet_of("round", schools={"extent": "refine"})
    assert not [s for s in sheet.steps if s.cuts]
    assert {"corner_cleared", "lip_fold", "lip_line", "ear_front_cleared", "comb_checks"} <= {
        s.rule for s in sheet.steps
    }
    assert {one.reason for one in sheet.alone} <= {
        "left as it is: refined only",
        "short by itself; left as it is",
    }


@pytest.mark.parametrize("code", [code for code, trait in TRAITS.items() if trait.about == "seen"])
def test_what_is_seen_in_the_coat_comes_onto_the_sheet_at_its_place(code: str) -> None:
    place = TRAITS[code].places[0]
    sheet = sheet_of("teddy", minds=(f"{code}@{place}",))
    (rule,) = (one for one in RULES.values() if one.sees == code)
    steps = steps_of(sheet, rule.id)
    assert steps
    assert all(place in step.zones for step in steps)
    assert place.replace("_", " ") in steps[0].how
    assert not steps_of(sheet_of("teddy"), rule.id)


def test_a_place_is_said_with_what_is_seen_and_checked() -> None:
    said = checked_traits(["stain@chin", "old", "stain@muzzle_side"])
    assert said == ("old", "stain@muzzle_side", "stain@chin")
    assert seen_at(said, "stain") == ("muzzle_side", "chin")
    assert not minded(said, ("chin",), clippers=False)
    for wrong in ("stain", "stain@crown", "tail@chin"):
        with pytest.raises(BadInput):
            checked_traits([wrong])


def test_nothing_goes_close_on_a_dog_that_lives_in_sun_or_brush() -> None:
    limits = SkinLimits()
    assert closest_on(("mud",), 9, limits).mm == limits.sore_mm
    assert closest_on(("sun",), 9, limits).mm == limits.sore_mm
    assert closest_on((), 9, limits).mm < limits.sore_mm


def test_a_puppy_keeps_what_grows_into_the_adult_shape() -> None:
    sheet = sheet_of("teddy", minds=("puppy",), now_mm=20.0)
    cut = {(c.zone, c.side) for s in sheet.steps for c in s.cuts}
    assert not {zone for zone, _ in cut} & {"crown", "chin", "ear_edge"}
    assert any("adult shape" in one.reason for one in sheet.alone)
    long = cut_sheet(case_of("teddy", minds=("puppy",), now_mm=90.0))
    assert any(c.zone == "crown" for s in long.steps for c in s.cuts)


def test_a_slow_coat_keeps_it_too_and_says_why() -> None:
    kept = sheet_of("teddy", minds=("slow_coat",), now_mm=20.0)
    left = {one.zone for one in kept.alone if "months" in one.reason}
    assert left
    assert not left & {c.zone for s in kept.steps for c in s.cuts}
    assert left <= {c.zone for s in sheet_of("teddy", now_mm=20.0).steps for c in s.cuts}


def test_the_crest_of_the_neck_runs_down_to_what_the_body_was_clipped_to() -> None:
    (joined,) = (
        s for s in cut_sheet(case_of("teddy", wishes=Wishes(body_mm=9.0))).steps if s.rule == "neck_crest"
    )
    assert "9 mm of the body" in joined.how
    (free,) = (s for s in sheet_of("teddy").steps if s.rule == "neck_crest")
    assert "of the body" not in free.how


def test_a_pulled_head_takes_hours_and_a_small_set_in_one_minutes() -> None:
    pulled = sheet_of("natural", coat="harsh")
    assert 90 < pulled.minutes < 240
    assert not [s for s in pulled.steps if s.rule in ("ring", "wrap_ear")]
    assert 15 < sheet_of("teddy").minutes < 45


def test_a_natural_beard_loses_nothing(fogbell: FittedGround) -> None:
    outline = planned(fogbell, "teddy", Wishes(), beard="natural")
    rows = [z for z in zone_lengths(outline) if z.zone == "chin"]
    assert all(z.remove_mm < 1.0 for z in rows)
    assert all(
        z.remove_mm > 5.0 for z in zone_lengths(planned(fogbell, "teddy", Wishes())) if z.zone == "chin"
    )


def test_the_throats_end_is_told_in_mm() -> None:
    case = replace(case_of("topknot"), muzzle_mm=64.0, kit=USUAL_KIT)
    (step,) = steps_of(cut_sheet(case), "clip_throat_v")
    assert "64 mm" in step.how
    bone = replace(case, schools={**case.schools, "throat_end": "breast_bone"})
    assert "breast bone" in steps_of(cut_sheet(bone), "clip_throat_v")[0].how


LEFT: dict[str, dict[str, str]] = {
    "topknot": {},
    "round": {"ear_line": "none"},
    "dome": {"ear_line": "none"},
    "crest": {"ear_line": "none"},
    "three_rings": {"ear_line": "none"},
    "brick": {"ear_outside": "left"},
    "brows_beard": {"ear_outside": "left"},
}


@pytest.mark.parametrize("key", sorted(LEFT))
@pytest.mark.parametrize("way", ["with", "against"])
def test_ears_that_are_left_are_cleared_inside_and_no_blade_is_told_to_go_over_them(
    fogbell: FittedGround, key: str, way: str
) -> None:
    asks = {s.id for s in FAMILIES[key].schools}
    said = LEFT[key] | ({"leather": way} if "leather" in asks else {})
    outline = planned(fogbell, key, Wishes(), **said)
    sheet = cut_sheet(case_on(outline, zone_lengths(outline), Stylist("Oriel")))
    assert not [step.title for step in sheet.steps if "leather" in step.title]
    assert {step.zones for step in steps_of(sheet, "ear_inside")} == {("ear_inside",)}
    clipped = [step for step in sheet.steps if "ear_outside" in step.zones and "blade" in step.tool]
    assert not clipped


@pytest.mark.parametrize("key", sorted(FAMILIES))
def test_a_cheek_that_keeps_its_hair_is_never_under_a_line_to_clip_to(
    fogbell: FittedGround, key: str
) -> None:
    outline = planned(fogbell, key, Wishes())
    case = case_on(outline, zone_lengths(outline), Stylist("Oriel"))
    sheet = cut_sheet(case)
    told = [step for step in sheet.steps if "everything under it" in step.how]
    assert bool(told) == case.blade_on("cheek")
    assert any("cheek" in step.zones for step in told) == bool(told)
