"""What hands, dogs and heads do that nobody drew for us: thumbs, ears that move, open mouths, textbook proportions, and
dogs of other makers under their hair."""

from __future__ import annotations

import numpy as np
import pytest

from dapwick.core.basics.marks import INDEX
from dapwick.core.head.skin_and_coat import skin_and_coat
from dapwick.core.head.template import template
from dapwick.core.head.zones import ZONES
from dapwick.core.measures.measure import RULES, measures_of
from dapwick.core.plan.next_best import ground_of, next_best
from dapwick.core.solve.hand import THUMB_SIGMA_MM
from dapwick.core.solve.joint import HeadSolution, solve_head
from dapwick.core.solve.observations import HeadInput
from foreign_truth import UPPER, WAYS, measured, off_of
from marking_errors import (
    AT,
    ERRORS,
    FOUR,
    ears_moved,
    mouth_open,
    outcome,
    table,
    thumb,
    with_cheek_calliper,
)
from proportions import FAMILIES
from simheads import HAND, hand_measure, marked_photo, random_camera, random_head
from skulls.dressed import dressed
from skulls.kinds import KINDS

HEADS = 5
WIDTH, DEEP, EAR = (AT[m] for m in ("skull_width", "muzzle_depth", "ear_length_left"))


def solved(given) -> HeadSolution:  # type: ignore[no-untyped-def]
    head = solve_head(given)
    assert isinstance(head, HeadSolution)
    return head


@pytest.mark.parametrize("family", FAMILIES)
def test_intervals_hold_on_heads_in_textbook_proportions(family: str) -> None:
    """Toy to giant, flat to long: what is told holds, and no good mark is called off."""
    for views in (FOUR, FOUR[:2]):
        found = outcome(ERRORS["nothing"], family, HEADS, views)
        assert found.held.mean() > 0.9
        assert found.told.sum() <= 1


def test_a_calliper_across_the_cheek_bones_tells_how_thick_the_thumb_is() -> None:
    said = 0
    for seed in range(HEADS):
        rng = np.random.default_rng(seed)
        felt = thumb(7.0)(table("medium", seed), rng)
        blind, told = solved(felt.given), solved(with_cheek_calliper(felt, rng).given)
        thickness = told.workings.x[told.workings.problem.thumb]
        assert 3.5 < thickness < 10.0
        said += any(f.code == "felt_outside" for f in told.findings)
        assert not any(f.code == "felt_outside" for f in blind.findings)
        assert measures_of(told)[WIDTH].sigma < 0.4 * measures_of(blind)[WIDTH].sigma
    assert said >= HEADS - 2


def test_a_bare_hand_is_not_said_to_feel_outside() -> None:
    heads = [
        solved(with_cheek_calliper(table("medium", s), np.random.default_rng(s)).given) for s in range(8)
    ]
    assert sum(any(f.code.startswith("felt_") for f in head.findings) for head in heads) <= 1


def test_a_head_narrower_than_the_mean_one_is_not_a_hand_that_feels_inside_of_bone() -> None:
    """What was felt for lies nearer the middle line than on the mean head: the skull is so, and told so."""
    narrow = [
        INDEX[f"{mark}_{side}"]
        for mark in ("cheek", "mouth_corner", "jaw_angle")
        for side in ("left", "right")
    ]
    out, wider = [], []
    for seed in range(HEADS):
        points = random_head(seed).points_mm.copy()
        points[narrow, 0] *= 0.75
        rng = np.random.default_rng(seed)
        photos = tuple(marked_photo(rng, v, v, random_camera(rng, v, points), points) for v in FOUR)
        head = solved(HeadInput(photos, tuple(hand_measure(rng, points, a, b) for a, b in HAND[:2])))
        out.append(head.workings.x[head.workings.problem.thumb])
        wider.append(np.ptp(head.points_mm[narrow, 0]) / np.ptp(points[narrow, 0]))
    assert min(out) > -1.5
    assert np.median(wider) < 1.06


def test_without_a_calliper_the_thumb_stays_in_the_intervals() -> None:
    found = outcome(thumb(4.0), "medium", 8)
    assert found.held[:, WIDTH].mean() > 0.6
    head = solved(table("medium", 1).given)
    thumb_at = head.workings.problem.thumb
    assert np.sqrt(head.workings.covariance[thumb_at, thumb_at]) > 0.6 * THUMB_SIGMA_MM


def test_a_calliper_across_the_cheek_bones_is_asked_for() -> None:
    head = solved(table("medium", 2).given)
    coat = skin_and_coat(head, "standing", [])[1]
    asked = next_best(ground_of(head, coat, frozenset()), at_most=99)
    assert "cheek_left-cheek_right" in [n.what for n in asked if n.kind == "hand"][:2]


def test_ears_that_move_widen_their_own_length_and_are_not_accused() -> None:
    still, moved = (outcome(error, "medium", 8) for error in (ERRORS["nothing"], ears_moved))
    assert np.median(moved.sigma[:, EAR]) > 1.5 * np.median(still.sigma[:, EAR])
    assert moved.held[:, EAR].mean() > 0.6
    assert moved.told.sum() <= 1
    assert np.median(moved.sigma[:, WIDTH]) < 1.3 * np.median(still.sigma[:, WIDTH])


def test_an_open_mouth_is_not_a_slip_and_its_depth_is_told_less_surely() -> None:
    still, panting = (outcome(error, "medium", 8) for error in (ERRORS["nothing"], mouth_open(1)))
    assert panting.told.sum() <= 1
    assert np.median(panting.sigma[:, DEEP]) > 1.1 * np.median(still.sigma[:, DEEP])
    assert panting.held[:, DEEP].mean() > 0.6
    assert RULES[DEEP].id == "muzzle_depth"


@pytest.mark.parametrize("kind", KINDS)
def test_skin_and_coat_of_another_makers_dogs_are_as_told(kind: str) -> None:
    """Two dogs of a kind, four dry photos and four combs: crown within 5 mm, and the intervals hold."""
    zone = template().zone
    offs = [off_of(*both) for i, dog in enumerate(dressed(kind, 2)) if (both := measured(dog, WAYS[1], i))]
    assert len(offs) == 2
    crown = zone == ZONES.index("crown")
    upper = np.isin(zone, [ZONES.index(z) for z in UPPER])
    assert np.median(np.abs(np.concatenate([one.skin[crown] for one in offs]))) < 5.0
    for at, what in ((upper, "skin"), (offs[0].planned, "skin"), (offs[0].planned, "coat")):
        off = np.concatenate([getattr(one, what)[at] for one in offs])
        sigma = np.concatenate([getattr(one, f"{what}_sigma")[at] for one in offs])
        assert (np.abs(off) < 1.96 * sigma).mean() > 0.75
