"""What is left on an ear: leather clipped from a share along it, hair elsewhere, never more than is there."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from core_cases import model
from dapwick.core.head.ears import ACROSS, ALONG, Ear
from dapwick.core.head.stand import length_of
from dapwick.core.outlines.ear_cut import (
    CLIPPED_MM,
    EAR_VERTICES,
    NONE,
    SHORT_MM,
    TIP,
    WHOLE,
    EarCut,
    closed_faces,
    ear_faces,
    ear_surface,
    ear_zones,
    flap_faces,
)

STAND = 0.7
BEFORE_TIP = slice(0, -1)
"""Rows of a leaf that have a width; at its tip there is no way across."""


@pytest.fixture(scope="module")
def ears() -> tuple[Ear, Ear]:
    return model("fogbell").ground.ears  # type: ignore[return-value]


def test_what_is_not_asked_for_stays_as_it_is(ears: tuple[Ear, Ear]) -> None:
    for zone in ear_zones(ears[0], EarCut("left alone", inside_mm=None), STAND):
        assert zone.leave_mm == pytest.approx(zone.now_mm)


@pytest.mark.parametrize("asked_mm", [2.0, 5.0, 500.0])
def test_no_zone_keeps_more_than_is_asked_or_than_there_is(ears: tuple[Ear, Ear], asked_mm: float) -> None:
    for ear in ears:
        for zone in ear_zones(ear, EarCut("even", outside_mm=asked_mm, edge_mm=asked_mm), STAND):
            most = CLIPPED_MM if zone.zone == "ear_inside" else asked_mm
            assert zone.leave_mm == pytest.approx(min(most, zone.now_mm))
            assert zone.side == ear.side


def test_lengths_and_depths_close(ears: tuple[Ear, Ear]) -> None:
    for zone in ear_zones(ears[0], EarCut("even", outside_mm=14.0), STAND):
        assert float(length_of(np.array(zone.depth_mm), np.array(STAND))) == pytest.approx(zone.leave_mm)


def test_a_clean_ear_is_clipped_all_over_but_for_its_canal(ears: tuple[Ear, Ear]) -> None:
    zones = ear_zones(ears[0], EarCut("clean", clipped=(WHOLE, NONE)), STAND)
    assert all(z.leave_mm <= CLIPPED_MM and z.clipped for z in zones if z.zone != "ear_canal")
    partly = ear_zones(ears[0], EarCut("tip kept", clipped=(WHOLE, TIP)), STAND)
    assert any(z.leave_mm > CLIPPED_MM for z in partly if z.zone == "ear_outside")


@pytest.mark.parametrize(("mm", "clipped"), [(SHORT_MM, True), (SHORT_MM + 0.1, False)])
def test_leather_is_clipped_where_it_is_left_short_and_its_edge_is_scissored(
    ears: tuple[Ear, Ear], mm: float, clipped: bool
) -> None:
    zones = {z.zone: z for z in ear_zones(ears[0], EarCut("short", outside_mm=mm, edge_mm=mm), STAND)}
    assert zones["ear_outside"].clipped == clipped
    assert not zones["ear_edge"].clipped


def test_hair_stands_off_both_faces_by_what_is_left(ears: tuple[Ear, Ear]) -> None:
    ear = ears[0]
    surface = ear_surface(ear, {"ear_outside": 8.0, "ear_inside": 3.0}, (NONE + 1, NONE + 1))
    assert surface.shape == (EAR_VERTICES, 3)
    outer, inner = surface.reshape(2, ALONG, ACROSS, 3)
    leather = ear.vertices_mm.reshape(ALONG, ACROSS, 3)
    for face, mm in ((outer, 8.0), (inner, 3.0)):
        off = np.linalg.norm(face - leather, axis=2)[BEFORE_TIP, ACROSS // 2]
        assert off == pytest.approx(np.full(len(off), mm))


def test_clipped_leather_stands_out_by_the_blade_alone(ears: tuple[Ear, Ear]) -> None:
    ear = ears[0]
    hair = {"ear_outside": 20.0, "ear_inside": 20.0, "ear_edge": 0.0}
    outer, _ = ear_surface(ear, hair, (TIP, NONE)).reshape(2, ALONG, ACROSS, 3)
    leather = ear.vertices_mm.reshape(ALONG, ACROSS, 3)
    off = np.linalg.norm(outer - leather, axis=2)[BEFORE_TIP, ACROSS // 2]
    t = np.linspace(0.0, 1.0, ALONG)[BEFORE_TIP]
    # At the very tip the clipped edge adds a little.
    assert off[t >= TIP] == pytest.approx(CLIPPED_MM, abs=0.25)
    assert off[t < TIP] == pytest.approx(20.0, abs=0.25)


def test_hair_at_the_edge_makes_an_ear_wider_and_longer(ears: tuple[Ear, Ear]) -> None:
    ear = ears[0]
    bare, fringed = (ear_surface(ear, {"ear_edge": mm}, (NONE + 1, NONE + 1)) for mm in (0.0, 15.0))

    def across(surface: np.ndarray) -> float:
        rows = surface.reshape(2, ALONG, ACROSS, 3)[0]
        return float(np.linalg.norm(rows[ALONG // 2, -1] - rows[ALONG // 2, 0]))

    assert across(fringed) - across(bare) == pytest.approx(30.0, abs=3.0)
    tips = [surface.reshape(2, ALONG, ACROSS, 3)[0, -1].mean(axis=0) for surface in (bare, fringed)]
    assert 5.0 < np.linalg.norm(tips[1] - tips[0]) < 15.0


@pytest.mark.parametrize(("dog", "outward"), [("bobbin", True), ("fogbell", False)])
def test_hanging_ears_turn_their_outside_away_from_the_head_and_standing_ones_open_to_the_side(
    dog: str, outward: bool
) -> None:
    for ear in model(dog).ground.ears:
        surface = ear_surface(ear, {"ear_outside": 10.0, "ear_inside": 0.0}, (NONE + 1, NONE + 1))
        outer, inner = surface.reshape(2, ALONG, ACROSS, 3)
        sideways = float((outer - inner)[..., 0].mean()) * (1.0 if ear.side == "right" else -1.0)
        assert (sideways > 3.0) if outward else (sideways < -3.0)


@pytest.mark.parametrize(("faces", "vertices"), [(flap_faces(), ALONG * ACROSS), (ear_faces(), EAR_VERTICES)])
def test_faces_name_vertices_that_there_are_and_are_seen_from_both_sides(
    faces: np.ndarray, vertices: int
) -> None:
    assert faces.min() == 0
    assert faces.max() == vertices - 1
    half = len(faces) // 2
    assert np.array_equal(faces[half:], faces[:half, ::-1])


def test_an_ears_faces_leave_it_open_at_its_base_alone() -> None:
    faces = closed_faces()
    edges = np.sort(np.concatenate([faces[:, [0, 1]], faces[:, [1, 2]], faces[:, [2, 0]]]), axis=1)
    pairs, count = np.unique(edges, axis=0, return_counts=True)
    assert count.max() == 2
    base = set(range(ACROSS)) | {ALONG * ACROSS + i for i in range(ACROSS)}
    assert all(set(pair.tolist()) <= base for pair in pairs[count == 1])
    assert (count == 1).any()


def test_an_ear_without_hair_gives_none(ears: tuple[Ear, Ear]) -> None:
    bare = replace(ears[0], coat=tuple(replace(c, depth_mm=0.0) for c in ears[0].coat))
    assert all(z.leave_mm == 0.0 for z in ear_zones(bare, EarCut("even", outside_mm=10.0), STAND))


def test_a_face_of_which_nothing_is_said_carries_no_hair(ears: tuple[Ear, Ear]) -> None:
    for ear in ears:
        outer, inner = ear_surface(ear, {}, (NONE + 1, NONE + 1)).reshape(2, -1, 3)
        assert outer == pytest.approx(ear.vertices_mm)
        assert inner == pytest.approx(ear.vertices_mm)
