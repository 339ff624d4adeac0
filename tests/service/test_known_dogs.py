"""Bone kept from visit to visit, a salon's bands, and what to measure next, over the records."""

from __future__ import annotations

import numpy as np
import pytest

from dapwick.core.basics.errors import BadInput
from dapwick.core.basics.marks import MARK_IDS
from dapwick.core.solve.joint import HeadSolution, solve_head
from dapwick.demo.dogs import hand_marks, photo_bytes, photos_of, truth
from dapwick.documents.bone import BoneDocument
from dapwick.records import queries
from dapwick.records.store import SalonStore
from dapwick.service.dogs.about import one_dog, set_coat_probes, set_hand_measures, set_head_kind
from dapwick.service.photos.taking_in import add_photo, set_marks
from dapwick.service.plans.planner import Asked, Planner
from dapwick.service.salon.bands import bands_of, move_bands
from dapwick.service.visits.begin_end import start_visit
from dapwick.service.visits.head import head_drawing_of
from dapwick.service.visits.head_input import age_weeks_at, head_input_of
from dapwick.service.visits.measuring import measure_visit
from dapwick.service.visits.next_measurement import next_on_visit

FOGBELL = 1
FEW = ("eye_inner_left", "eye_inner_right", "eye_outer_left", "eye_outer_right", "nose_tip", "nose_top")


def head_of(store: SalonStore) -> HeadSolution:
    with store.session() as session:
        head = solve_head(head_input_of(queries.visit_today(session, FOGBELL)))
    assert isinstance(head, HeadSolution)
    return head


def second_visit(store: SalonStore, marks: tuple[str, ...] = FEW) -> None:
    """Fogbell comes again: one front photo of the second visit, few marks, no calliper."""
    start_visit(store, FOGBELL)
    photo = photos_of(truth("fogbell"), ("dry-front",), visit=1)[0]
    added = add_photo(store, FOGBELL, photo_bytes(photo["file"]), photo["file"], "front", "dry")
    placed = hand_marks(photo)
    set_marks(store, added.id, {m: placed[m] for m in marks})


def test_a_bone_is_kept_exactly_enough(demo_store: SalonStore) -> None:
    bone = head_of(demo_store).bone
    again = BoneDocument.of(bone).bone()
    assert np.abs(again.points_mm - bone.points_mm).max() < 1e-3
    assert np.allclose(again.covariance, bone.covariance, rtol=1e-5, atol=1e-4)
    assert np.allclose(again.covariance, again.covariance.T)
    assert (again.visits, again.version) == (1, bone.version)


def test_a_new_visit_starts_from_the_bone_and_needs_no_calliper(demo_store: SalonStore) -> None:
    before = {m.id: m for m in measure_visit(demo_store, FOGBELL).measures}
    second_visit(demo_store)
    now = measure_visit(demo_store, FOGBELL)
    assert isinstance(now.head, HeadSolution)
    assert now.head.inputs.bone is not None
    assert now.head.inputs.bone.visits == 1
    assert not {f.code for f in now.head.findings} & {"no_scale", "depth_unknown"}
    for m in now.measures:
        if m.unit == "mm" and "ear_length" not in m.id:
            assert abs(m.value - before[m.id].value) < 2.5 * before[m.id].sigma + 1.0, m.id
    true = truth("fogbell")["marks_mm"]
    length = float(np.linalg.norm(np.subtract(true["occiput"], true["nose_tip"])))
    told = next(m for m in now.measures if m.id == "head_length")
    assert told.low - 3 < length < told.high + 3


def test_a_known_dogs_ghosts_are_sure(demo_store: SalonStore) -> None:
    second_visit(demo_store)
    ghosts = {g.mark: g for found in measure_visit(demo_store, FOGBELL).ghosts.values() for g in found}
    assert ghosts["stop"].sigma_px < 40
    assert "cheek_left" in ghosts


def test_a_visit_without_a_measured_head_passes_the_older_bone_on(demo_store: SalonStore) -> None:
    start_visit(demo_store, FOGBELL)
    card = start_visit(demo_store, FOGBELL)
    assert [v.bone for v in card.visits] == [True, True, False]
    with demo_store.session() as session:
        assert head_input_of(queries.visit_today(session, FOGBELL)).bone is not None


def test_the_visit_strip_tells_of_each_visit(demo_store: SalonStore) -> None:
    second_visit(demo_store)
    first, second = one_dog(demo_store, FOGBELL).visits
    assert (first.photos, first.bone) == (2, True)
    assert (second.photos, second.bone) == (1, False)
    assert first.picture != second.picture


def test_a_dog_without_a_birthday_has_no_age(demo_store: SalonStore) -> None:
    with demo_store.session() as session:
        visit = queries.visit_today(session, FOGBELL)
        age = age_weeks_at(visit)
        assert age is not None
        assert age > 52
        visit.dog.born = "some spring"
        assert age_weeks_at(visit) is None


def test_a_kind_of_head_is_kept_and_moves_what_is_expected(demo_store: SalonStore) -> None:
    set_head_kind(demo_store, FOGBELL, "short", "prick")
    assert (one_dog(demo_store, FOGBELL).muzzle, one_dog(demo_store, FOGBELL).ears) == ("short", "prick")
    with pytest.raises(BadInput, match="unknown muzzle"):
        set_head_kind(demo_store, FOGBELL, "endless", "prick")


def test_bands_are_the_salons_own_and_go_back_to_usual(demo_store: SalonStore) -> None:
    words = {p.measure: p.words for p in measure_visit(demo_store, FOGBELL).proportions}
    move_bands(demo_store, {"muzzle_ratio": [0.05, 0.1]})
    moved = {p.measure: p.words for p in measure_visit(demo_store, FOGBELL).proportions}
    assert moved["muzzle_ratio"] == "long muzzle" != words["muzzle_ratio"]
    assert moved["skull_index"] == words["skull_index"]
    move_bands(demo_store, {})
    assert {b.measure: b.edges for b in bands_of(demo_store)}["muzzle_ratio"] == (0.5, 0.8)


def test_what_helps_most_changes_as_it_is_done(demo_store: SalonStore) -> None:
    with demo_store.session() as session:
        readings = list(queries.visit_today(session, FOGBELL).hand_measures)
    set_hand_measures(demo_store, FOGBELL, [])
    assert next_on_visit(demo_store, FOGBELL)[0].kind == "hand"
    set_hand_measures(demo_store, FOGBELL, readings)
    asked = next_on_visit(demo_store, FOGBELL)
    assert asked[0].kind != "hand"
    combs = [n for n in asked if n.kind == "comb"]
    set_coat_probes(
        demo_store, FOGBELL, [{"zone": combs[0].what, "side": None, "depth_mm": 30, "length_mm": None}]
    )
    after = {n.what: n.gain_mm for n in next_on_visit(demo_store, FOGBELL) if n.kind == "comb"}
    assert after.get(combs[0].what, 0.0) < 0.6 * combs[0].gain_mm


def test_an_unmeasured_dog_is_asked_nothing_and_not_drawn(demo_store: SalonStore) -> None:
    assert next_on_visit(demo_store, 2) == ()
    assert head_drawing_of(demo_store, 2) is None


def test_a_head_is_drawn_from_its_numbers(demo_store: SalonStore) -> None:
    drawn = head_drawing_of(demo_store, FOGBELL)
    assert drawn is not None
    assert set(drawn.views) == {"front", "left", "top"}
    head = head_of(demo_store)
    left = drawn.views["left"]
    assert set(left.marks) == set(MARK_IDS)
    apart = np.subtract(left.marks["nose_tip"], left.marks["occiput"])
    true = head.points_mm[MARK_IDS.index("nose_tip")] - head.points_mm[MARK_IDS.index("occiput")]
    assert np.linalg.norm(apart) == pytest.approx(float(np.linalg.norm(true[1:])), rel=1e-6)
    for view in drawn.views.values():
        assert len(view.skin) > 30
        assert len(view.ears["left"]) > 10
    assert drawn.carriage == {"left": "prick", "right": "prick"}
    front = drawn.views["front"].marks
    assert front["eye_outer_right"][0] < front["eye_outer_left"][0]


def test_wet_photos_set_the_planned_skin_right(store: SalonStore) -> None:
    """Tiller with wet photos marked: the planner's skin is surer than from dry ones alone."""
    from dapwick.service.salon.demo import fill_with_demo

    fill_with_demo(store, ("tiller",))
    known = truth("tiller")
    card = one_dog(store, 1)
    for photo in photos_of(known, ("dry-front", "dry-left", "wet-front", "wet-left")):
        row = next(p for p in card.photos if (p.view, p.state) == (photo["view"], photo["state"]))
        set_marks(store, row.id, hand_marks(photo))
    apart = np.subtract(known["marks_mm"]["eye_outer_left"], known["marks_mm"]["eye_outer_right"])
    reading = {
        "from": "eye_outer_left",
        "to": "eye_outer_right",
        "mm": float(np.linalg.norm(apart)),
        "sigma_mm": 1.0,
    }
    set_hand_measures(store, 1, [reading])
    wet = Planner(store).plan(1, Asked("round")).ground.ground.skin.sigma_mm
    for p in card.photos:
        if p.state == "wet":
            set_marks(store, p.id, {})
    dry = Planner(store).plan(1, Asked("round")).ground.ground.skin.sigma_mm
    assert np.median(wet) < 0.9 * np.median(dry)
