"""A dog that comes again: bone is kept, cameras are solved, puppies may have grown."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from dapwick.core.basics.camera import rotation_from
from dapwick.core.basics.head_kind import CARRIAGES, MUZZLES
from dapwick.core.basics.marks import INDEX, MARK_IDS, swapped
from dapwick.core.measures.measure import RULES, measures_of
from dapwick.core.solve.bone import Bone, growth_since, prior_of, share_of_grown
from dapwick.core.solve.joint import HeadSolution, solve_head
from dapwick.core.solve.observations import HeadInput
from dapwick.core.solve.prior import prior_for
from simheads import SimHead, hand_measure, later_visit, marked_photo, random_camera, random_head


def solved(given: HeadInput) -> HeadSolution:
    head = solve_head(given)
    assert isinstance(head, HeadSolution)
    return head


def first_visit(seed: int) -> tuple[SimHead, HeadSolution]:
    sim = random_head(seed, ("front", "left", "right", "top"), hand=2)
    return sim, solved(sim.given)


def error(head: HeadSolution, points_mm: np.ndarray) -> float:
    lengths = [r for r in RULES if r.unit == "mm"]
    told = {m.id: m.value for m in measures_of(head)}
    return float(np.sqrt(np.mean([(told[r.id] - float(r.of(points_mm))) ** 2 for r in lengths])))


def test_six_marks_on_one_photo_give_a_known_head_back() -> None:
    known, unknown, first = [], [], []
    for seed in range(6):
        sim, head = first_visit(seed)
        given = replace(later_visit(seed).given, bone=None)
        known.append(error(solved(replace(given, bone=head.bone)), sim.points_mm))
        unknown.append(error(solved(given), sim.points_mm))
        first.append(error(head, sim.points_mm))
    assert np.mean(known) < 1.15 * np.mean(first)
    assert np.mean(known) < 0.4 * np.mean(unknown)


def test_the_camera_of_a_later_visit_is_found() -> None:
    later = later_visit(2)
    turn = solved(later.given).cameras[0].rotation @ later.cameras[0].rotation.T
    assert np.degrees(np.arccos((np.trace(turn) - 1) / 2)) < 3.0


def test_a_known_head_needs_no_measure_by_hand() -> None:
    codes = {f.code for f in solved(later_visit(3).given).findings}
    assert not codes & {"no_scale", "depth_unknown"}


def test_a_second_full_visit_narrows_the_bone() -> None:
    """Not each measure of each head: a first visit may have had the steadier hand."""
    narrower: list[bool] = []
    for seed in range(4, 10):
        sim, head = first_visit(seed)
        again = random_head(seed, ("front", "left", "right", "top"), hand=2)
        rng = np.random.default_rng(77 + seed)
        photos = tuple(
            marked_photo(rng, f"again-{p.name}", p.view, camera, sim.points_mm)
            for p, camera in zip(again.given.photos, again.cameras, strict=True)
        )
        second = solved(HeadInput(photos, bone=head.bone))
        assert second.bone.visits == 2
        narrower += [b.sigma < a.sigma for a, b in zip(measures_of(head), measures_of(second), strict=True)]
    assert np.mean(narrower) > 0.7


def test_ear_tips_are_free_to_be_carried_otherwise() -> None:
    _, head = first_visit(5)
    spread = np.sqrt(np.diag(prior_of(head.bone).covariance)).reshape(-1, 3)
    assert spread[INDEX["ear_tip_left"]].min() > 15
    assert spread[INDEX["eye_inner_left"]].max() < 15


def test_where_the_old_frame_lay_says_nothing_of_the_head() -> None:
    """A known head shifted and turned as a whole is as likely as one that is not."""
    _, head = first_visit(6)
    prior = prior_of(head.bone)
    turned = head.bone.points_mm @ rotation_from(np.array([0.0, 0.05, 0.08])).T + [4.0, -5.0, 3.0]
    away = prior.whitener @ (turned - prior.mean_mm).ravel()
    assert float(away @ away) < 10
    stretched = prior.mean_mm * 1.15
    assert float(((prior.whitener @ (stretched - prior.mean_mm).ravel()) ** 2).sum()) > 10


@pytest.mark.parametrize(("age_weeks", "share"), [(8, 0.61), (26, 0.90), (52, 0.99)])
def test_puppies_grow_fast_and_then_slowly(age_weeks: float, share: float) -> None:
    assert share_of_grown(age_weeks) == pytest.approx(share, abs=0.02)


def bone_at(age_weeks: float | None) -> Bone:
    return replace(first_visit(7)[1].bone, age_weeks=age_weeks)


def test_a_grown_dog_does_not_grow_and_an_unknown_age_is_taken_as_grown() -> None:
    assert growth_since(bone_at(80), 120) == 1.0
    assert growth_since(bone_at(None), 12) == 1.0
    assert growth_since(bone_at(10), None) == 1.0
    assert growth_since(bone_at(10), 8) == 1.0
    assert growth_since(bone_at(10), 20) > 1.15


def test_a_puppys_new_size_is_found_from_photos_and_one_reading() -> None:
    sim, head = first_visit(8)
    grown = 1.22
    bone = replace(head.bone, age_weeks=10.0)
    rng = np.random.default_rng(5)
    points = sim.points_mm * grown
    cameras = [random_camera(rng, view, points) for view in ("front", "left")]
    photos = tuple(
        marked_photo(rng, view, view, camera, points)  # type: ignore[arg-type]
        for view, camera in zip(("front", "left"), cameras, strict=True)
    )
    reading = hand_measure(rng, points, "eye_outer_left", "eye_outer_right")
    told = solved(HeadInput(photos, bone=bone, age_weeks=22.0))
    assert "no_scale" in {f.code for f in told.findings}
    before = float(RULES[0].of(bone.points_mm))
    assert 1.15 < measures_of(told)[0].value / before < 1.45
    again = solved(HeadInput(photos, (reading,), bone=bone, age_weeks=22.0))
    length, true = measures_of(again)[0], float(RULES[0].of(points))
    assert length.low < true < length.high
    assert length.sigma < 0.06 * length.value
    unaware = measures_of(solved(HeadInput(photos, bone=bone)))[0]
    assert unaware.high < true


@pytest.mark.parametrize("muzzle", MUZZLES)
@pytest.mark.parametrize("ears", CARRIAGES)
def test_kinds_of_heads_differ_in_muzzle_and_ears_alone(muzzle: str, ears: str) -> None:
    prior, general = prior_for(muzzle, ears), prior_for("any", "any")  # type: ignore[arg-type]
    mirror = np.array([prior.mean_mm[INDEX[swapped(m)]] * [-1, 1, 1] for m in MARK_IDS])
    assert np.allclose(prior.mean_mm, mirror)
    skull = [INDEX["occiput"], INDEX["crown"]]
    assert np.allclose(prior.mean_mm[skull], general.mean_mm[skull])
    longer = prior.mean_mm[INDEX["nose_tip"], 1] - general.mean_mm[INDEX["nose_tip"], 1]
    assert np.sign(longer) == {"any": 0, "short": -1, "medium": -1, "long": 1}[muzzle]
    assert np.linalg.eigvalsh(prior.covariance).min() > 0


def test_saying_short_muzzle_narrows_what_one_front_photo_says() -> None:
    given = random_head(12, ("front",), kind="short").given
    vague, told = ({m.id: m for m in measures_of(solved(g))} for g in (given, replace(given, muzzle="short")))
    assert told["muzzle_length"].sigma < 0.75 * vague["muzzle_length"].sigma
