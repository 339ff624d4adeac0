"""The rules of the cut, case by case."""

from __future__ import annotations

from dataclasses import replace
from itertools import pairwise

import pytest

from cut_cases import case_of, cut_sheet, rules_in, sheet_of, steps_of, zone_length
from dapwick.core.basics.marks import INDEX
from dapwick.core.cut.alone import alone_words
from dapwick.core.cut.case import SIDES, Case
from dapwick.core.cut.drafts import drafts_of
from dapwick.core.cut.handling import MUZZLE, TRAITS
from dapwick.core.cut.minutes import Timed, learn
from dapwick.core.cut.rules import CHAPTERS, RULES
from dapwick.core.cut.runs import End, Run
from dapwick.core.head.zones import EAR_ZONES, ZONES
from dapwick.core.outlines.families import FAMILIES
from dapwick.core.plan.kit import Kit, Stylist, Tool
from sheet_faults import faults

LIPS = {"lip_line", "lip_fold"}


def test_left_handed_hates_the_muzzle_drop_coat_teddy() -> None:
    sheet = sheet_of("teddy", coat="fine_drop", hand="left", minds=("minds_muzzle",))
    rules = rules_in(sheet)
    assert {"jaw_two_cuts", "side_layered", "drop_brow"} <= set(rules)
    assert not {"jaw_half_circle", "jaw_arc", "temple"} & set(rules)
    assert [s.side for s in steps_of(sheet, "jaw_two_cuts")] == ["left", "right"]
    ids = [s.id for s in sheet.steps]
    assert ids.index("jaw_two_cuts:left") < ids.index("jaw_two_cuts_mark") < ids.index("jaw_two_cuts:right")
    assert "to the mark" in steps_of(sheet, "jaw_two_cuts")[1].how
    minded = [bool(s.minded) for s in sheet.steps]
    assert not any(a and b for a, b in pairwise(minded))
    assert all(s.zones and set(s.zones) & set(MUZZLE) for s in sheet.steps if s.minded)
    assert all("half minute" in s.hold for s in sheet.steps if s.minded)


def test_right_handed_easy_side_first_standing_coat_teddy() -> None:
    sheet = sheet_of("teddy", stylist=Stylist("Benno", "right", awkward="last"))
    assert [s.side for s in steps_of(sheet, "jaw_half_circle")] == ["left", "right"]
    assert any("easy one first" in b.words for b in steps_of(sheet, "cheek")[0].why if b.of == "hand")


def test_a_long_step_in_a_minded_place_is_halved() -> None:
    calm, minds = (sheet_of("round", minds=m) for m in ((), ("minds_muzzle", "old")))
    assert [s.title for s in steps_of(calm, "beard_front")] == ["Set the beard at the chin"]
    halves = steps_of(minds, "beard_front")
    assert [s.title.rsplit(", ", 1)[1] for s in halves] == ["first half", "the rest"]
    assert sum(s.usual_min for s in halves) == pytest.approx(1.2 * steps_of(calm, "beard_front")[0].usual_min)


def test_when_only_minded_places_are_left_a_break_comes_between() -> None:
    sheet = sheet_of("close", minds=("minds_muzzle", "minds_eyes", "minds_ears", "minds_clipper"))
    steps = sheet.steps
    for one, after in pairwise(steps):
        assert not (one.minded and after.minded)
    assert steps_of(sheet, "between")


@pytest.mark.parametrize(
    ("traits", "most_min"), [(("flat_face",), 5.0), (("old",), 8.0), (("tires", "pants"), 5.0)]
)
def test_breaks_come_as_often_as_the_dog_needs_them(traits: tuple[str, ...], most_min: float) -> None:
    sheet = sheet_of("round", minds=traits)
    since, longest = 0.0, 0.0
    for step in sheet.steps:
        since = 0.0 if step.doing == "rest" else since + step.minutes
        longest = max(longest, since)
    assert longest <= 1.5 * most_min + max(s.minutes for s in sheet.steps)
    assert not steps_of(sheet_of("round"), "pause")


@pytest.mark.parametrize(
    ("said", "present", "absent"),
    [
        ({"family": "three_rings"}, {"corner_tamed", "muzzle_round"}, {"corner_cleared"}),
        ({"family": "round", "schools": {"inner_corners": "left"}}, set(), {"corner_cleared", "corner_tamed", "bar"}),
        ({"family": "round", "schools": {"fringe": "straight"}}, {"peak_straight"}, {"peak_blended"}),
        ({"family": "round", "schools": {"crown": "lift_cut"}}, {"lift_cut"}, {"rows"}),
        ({"family": "round", "schools": {"bridge": "grown"}}, set(), {"bridge_thinned"}),
        ({"family": "round", "leave": {"ear_outside": 5.0}}, {"leather_with"}, {"leather_against", "ear_inside"}),
        ({"family": "round", "leave": {"ear_outside": 5.0}, "schools": {"leather": "against"}}, {"leather_against"},
         {"leather_with", "ear_inside"}),
        ({"family": "round", "schools": {"leather": "against"}}, {"ear_inside"}, {"leather_with", "leather_against"}),
        ({"family": "round", "carriage": ("prick", "prick")}, {"ear_hair"}, {"fold_ear"}),
        ({"family": "round", "carriage": ("drop", "drop")}, {"fold_ear"}, set()),
        ({"family": "dome"}, {"dome_blended", "lashes", "ear_feather"}, {"dome_strip", "dome_flat", "ear_hair"}),
        ({"family": "dome", "schools": {"dome_top": "flat"}}, {"dome_flat"}, {"dome_blended"}),
        ({"family": "dome", "schools": {"lashes": "kept"}}, set(), {"lashes"}),
        ({"family": "topknot"}, {"clip_throat_v", "clip_face"}, {"clip_throat_u", "under_jaw", "cheek"}),
        ({"family": "topknot", "schools": {"throat": "U"}}, {"clip_throat_u"}, {"clip_throat_v"}),
        ({"family": "topknot", "schools": {"throat": "round"}}, {"clip_throat_round"}, {"clip_throat_v"}),
        ({"family": "brick"}, {"beard_squared", "cheek_flat", "brow_line", "fan"}, {"beard_front", "peak_blended"}),
        ({"family": "brick", "schools": {"beard": "shortened"}}, {"beard_shortened"}, {"beard_squared"}),
        ({"family": "brick", "schools": {"between_brows": "fall"}}, {"fall"}, {"fan"}),
        ({"family": "natural"}, {"skull_carded", "card_face", "brow_thinned"}, {"rows", "jaw_arc", "guard_top"}),
        ({"family": "broad"}, {"ear_inside", "rows"}, {"canals", "leather_with"}),
        ({"family": "broad", "schools": {"canals": "all"}}, {"canals"}, set()),
        ({"family": "broad", "schools": {"canals": "all"}, "minds": ("ear_trouble",)}, set(), {"canals"}),
        ({"family": "crest"}, {"crest", "clip_face"}, {"rows", "back_skull_x"}),
        ({"family": "round", "minds": ("mats",)}, {"knots"}, set()),
        ({"family": "round", "minds": ("eye_trouble",)}, {"eyes_wiped"}, set()),
        ({"family": "round", "coat": "fine_drop"}, {"jaw_two_cuts", "side_layered"}, {"jaw_arc", "drop_brow"}),
        ({"family": "topknot"}, {"neck_crest"}, {"bow"}),
        ({"family": "topknot", "schools": {"bow": "yes"}}, {"bow"}, set()),
        ({"family": "topknot", "schools": {"ears": "tasselled"}}, {"ear_line"}, set()),
        ({"family": "round", "schools": {"ear_line": "none"}}, set(), {"ear_line"}),
        ({"family": "brick"}, {"jaw_straight"}, {"jaw_arc", "ear_line"}),
        ({"family": "dome"}, {"brow_dome"}, {"guard_top", "peak_blended"}),
        ({"family": "dome", "schools": {"dome_top": "strip"}}, {"guard_top"}, set()),
        ({"family": "three_rings"}, {"nose_limit", "lip_line", "behind_ear"}, {"bar"}),
        ({"family": "teddy"}, {"ear_front_cleared", "behind_ear", "beard_front"}, set()),
        ({"family": "teddy", "schools": {"beard": "natural"}}, {"nose_limit"}, {"beard_front"}),
        ({"family": "teddy", "schools": {"ear_outside": "carded"}}, {"ear_by_hand"}, {"ear_hair"}),
        ({"family": "natural", "coat": "harsh"}, {"ring_pulled", "brow_pulled", "ear_by_hand", "skull_carded"},
         {"ring", "wrap_ear", "brow_thinned", "ear_front_cleared"}),
        ({"family": "crest", "schools": {"set_line": "blended"}}, {"neck_crest"}, {"line_sharpened"}),
    ],
)  # fmt: skip
def test_which_rules_apply(said: dict, present: set[str], absent: set[str]) -> None:  # type: ignore[type-arg]
    rules = set(rules_in(cut_sheet(case_of(**said))))
    assert present <= rules
    assert not absent & rules


@pytest.mark.parametrize(
    ("traits", "quiet", "closest_mm"),
    [
        (("first_time",), 4, 1.5),
        ((), 0, 1.5),
        ((), 2, 0.5),
        (("skin_trouble",), 4, 3.2),
        (("white_coat",), 4, 1.5),
    ],
)
def test_no_blade_goes_closer_than_the_skin_allows(
    traits: tuple[str, ...], quiet: int, closest_mm: float
) -> None:
    sheet = sheet_of("topknot", minds=traits, quiet_visits=quiet, leave={"cheek": 0.5, "muzzle_side": 0.5})
    blades = [
        s.leave_mm[0] for s in sheet.steps if s.tool_id and s.tool_id.startswith("blade") and s.leave_mm
    ]
    assert min(blades) == pytest.approx(closest_mm)


def test_scissoring_throughout_leaves_the_guards_in_the_drawer() -> None:
    clips, scissors = (
        sheet_of("round", stylist=Stylist("A", "right", work=work))
        for work in ("clip_first", "scissor_throughout")
    )
    assert steps_of(clips, "guard_top")
    assert not steps_of(scissors, "guard_top")
    assert steps_of(scissors, "rows")


def test_the_longer_guard_goes_on_first() -> None:
    sheet = sheet_of("round", leave={"crown": 17.0, "back_skull": 8.0})
    lengths = [s.leave_mm[0] for s in steps_of(sheet, "guard_top") if s.leave_mm]
    assert lengths == sorted(lengths, reverse=True)
    assert len(lengths) == 2
    assert "crown" in steps_of(sheet, "guard_top")[0].title


def test_sides_that_hardly_differ_take_the_same_guard_and_uneven_ones_their_own() -> None:
    alike = sheet_of("round", leave={"cheek:left": 16.0, "cheek:right": 17.0, "temple": 17.0})
    assert len({s.tool for s in steps_of(alike, "guard_side")}) == 1
    apart = sheet_of("round", leave={"cheek:left": 20.0, "cheek:right": 10.0, "temple": 40.0})
    tools = {s.side: s.tool for s in steps_of(apart, "guard_side")}
    assert tools["left"] != tools["right"]


def test_uneven_sides_are_told_with_bone_or_coat_as_the_cause() -> None:
    leave = {"cheek:left": 12.0, "cheek:right": 16.0}
    bone = sheet_of("round", leave=leave, bone_words={"cheek": "left cheek bone 4 mm farther out than right"})
    (words, *_) = steps_of(bone, "cheek")[0].sides_words
    assert words.startswith("Cheek: left 4 mm shorter than right. Bone: left cheek bone 4 mm farther out")
    plain = steps_of(sheet_of("round", leave=leave), "cheek")[0].sides_words[0]
    assert "Bone" not in plain
    assert steps_of(sheet_of("round"), "cheek")[0].sides_words == ()


def test_where_nothing_comes_off_no_step_cuts_and_the_sheet_says_so() -> None:
    sheet = sheet_of("round", leave={"crown": 34.0}, now_mm=34.0)
    assert not steps_of(sheet, "rows")
    assert "crown: nothing comes off" in alone_words(sheet.alone, sheet.case)


def test_a_place_that_no_rule_speaks_of_is_still_shaped() -> None:
    case = case_of("crest", leave={"temple": 10.0})
    done = {place for d in drafts_of(case) if d.finishes for place in d.places}
    assert ("temple", "left") in done
    carded_brow = case_of("natural", leave={"ear_base_rear": 5.0})
    assert {p for d in drafts_of(carded_brow) if d.finishes for p in d.places} >= {("ear_base_rear", "left")}


def test_the_log_moves_the_minutes_and_nothing_else() -> None:
    slow = learn([Timed("cheek", 0.7, 2.1)] * 30)
    before, after = sheet_of("round"), sheet_of("round", learned=slow)
    assert [s.id for s in before.steps] == [s.id for s in after.steps]
    assert steps_of(after, "cheek")[0].minutes > 2 * steps_of(before, "cheek")[0].minutes
    assert steps_of(after, "cheek")[0].usual_min == steps_of(before, "cheek")[0].usual_min


def test_a_kit_without_clippers_still_makes_a_sheet() -> None:
    shears = Kit((Tool("s", "shears", "old shears", "straight"),))
    sheet = cut_sheet(case_of("topknot", kit=shears))
    assert all(s.tool or s.eye for s in sheet.steps)
    assert set(sheet.tools) == {"old shears"}


def test_every_rule_names_what_there_is() -> None:
    zones = {*ZONES, *EAR_ZONES, *LIPS}
    for rule in RULES.values():
        assert set(rule.after) <= RULES.keys(), rule.id
        assert set(rule.zones) <= zones, rule.id
        assert rule.because.endswith("."), rule.id
        assert rule.how.endswith("."), rule.id
        if rule.path:
            for mark in rule.path.marks:
                assert mark in INDEX or f"{mark}_left" in INDEX, (rule.id, mark)
            sided = [mark for mark in rule.path.marks if mark not in INDEX]
            assert rule.each or not sided, rule.id
    assert len(RULES) == sum(len(chapter.rules) for chapter in CHAPTERS)


SEEN = (
    "mats",
    "eye_trouble",
    "sun",
    *(f"{code}@{trait.places[0]}" for code, trait in TRAITS.items() if trait.places),
)
SAID_ASKED = (
    {},
    {"crown": "lift_cut", "fringe": "straight", "leather": "against", "bridge": "grown", "jaw": "arc"},
    {
        "dome_top": "strip",
        "throat": "U",
        "beard": "shortened",
        "between_brows": "fall",
        "canals": "all",
        "jaw": "two_cuts",
    },
    {"dome_top": "flat", "throat": "round", "beard": "thinned", "canals": "only the worst", "bow": "yes"},
    {"bridge": "thinned", "ear_outside": "stripped", "ears": "tasselled", "lashes": "off"},
)


def test_a_guard_tells_how_the_plan_runs_under_it() -> None:
    run = Run(End(6.0, "at the ear", (0, 0, 0)), End(13.0, "at the chin", (0, 0, 0)))
    case = case_of("round", leave={"cheek": 10.0, "temple": 10.0})
    pieces = {("cheek", side): (replace(case.pieces_at(("cheek", side))[0], run=run),) for side in SIDES}
    sheet = cut_sheet(replace(case, pieces=pieces))
    assert faults(sheet) == []
    guard = next(s for s in steps_of(sheet, "guard_side") if "cheek" in s.zones)
    assert guard.leave_mm == (16.0, 16.0)
    assert [(part.words, part.run) for part in guard.parts] == [("cheek", "6 at the ear, 13 at the chin")]


def partly_clipped(case: Case) -> Case:
    """The same case with the lower half of each ear's edge clipped, the upper scissored."""
    pieces = {}
    for side in SIDES:
        upper = replace(case.pieces_at(("ear_edge", side))[0], part="upper")
        lower = replace(upper, part="lower", by="clipper", leave_mm=1.5, high=1.5, longest_mm=1.5)
        pieces["ear_edge", side] = (upper, lower)
    return replace(case, pieces=pieces)


def test_a_place_clipped_in_part_is_clipped_and_scissored() -> None:
    sheet = cut_sheet(partly_clipped(case_of("teddy")))
    assert faults(sheet) == []
    (clip, *_) = steps_of(sheet, "clip_rest")
    assert (clip.title, clip.leave_mm) == ("Clip what is left, right side: lower ear edge", (1.5, 1.5))
    assert {c.part for s in steps_of(sheet, "ear_hair") for c in s.cuts if c.zone == "ear_edge"} == {"upper"}


def jaw_clipped(case: Case) -> Case:
    """The jaw taken with the chin's blade, the cheek scissored."""
    jaw = {("jaw", side): zone_length("jaw", side, 12.0, 80.0, "clipper") for side in SIDES}
    return replace(case, zones={**case.zones, **jaw})


@pytest.mark.parametrize("coat", ["standing", "fine_drop", "harsh"])
def test_every_rule_comes_onto_some_sheet(coat: str) -> None:
    met = set()
    for key, family in FAMILIES.items():
        for asked in SAID_ASKED:
            own = {s.id: asked[s.id] for s in family.schools if asked.get(s.id) in s.choices}
            for leave in ({}, {"crown": 60.0, "ear_outside": 4.0}):
                case = case_of(key, coat=coat, schools=own, minds=SEEN, leave=leave, now_mm=80.0)
                met |= {draft.rule.id for draft in drafts_of(case)}
    met |= {draft.rule.id for draft in drafts_of(partly_clipped(case_of("teddy", coat=coat)))}
    met |= {draft.rule.id for draft in drafts_of(jaw_clipped(case_of("broad", coat=coat, now_mm=80.0)))}
    pulled = {"ring_pulled", "brow_pulled"}
    by_coat = {
        "standing": {"side_layered", "drop_brow", *pulled},
        "fine_drop": {"temple", *pulled},
        "harsh": set(),
    }
    elsewhere = by_coat[coat] | (
        {"side_layered", "drop_brow", "brow_thinned", "shape_rest"} if coat == "harsh" else set()
    )
    assert RULES.keys() - met == elsewhere
