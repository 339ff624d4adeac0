"""From marks, edges and combs to one head: which edges count, what is told of those that fail, what is refused."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from core_cases import COMBED
from dapwick.core.basics.errors import BadInput
from dapwick.core.solve.joint import HeadSolution
from dapwick.core.solve.observations import HeadInput
from dapwick.core.solve.scale_card import CardReading
from dapwick.demo.dogs import photo_bytes
from dapwick.pipeline.coat_edge import edge_seeds, without_card
from dapwick.pipeline.head_model import (
    edges_of,
    edges_on,
    head_model,
    measured_head,
    needs_coat,
    photo_source,
    solved_head,
)
from dapwick.pipeline.next_measurement import next_measurement
from dapwick.vision.card import SeenCard
from demo_heads import demo_head_file

FOGBELL = demo_head_file("fogbell").head_input()
LINE = [(10.0, 10.0), (200.0, 10.0), (200.0, 200.0), (10.0, 200.0)]


@pytest.fixture(scope="module")
def head() -> HeadSolution:
    return measured_head(FOGBELL)


def test_the_same_marks_are_solved_once_and_other_marks_anew(head: HeadSolution) -> None:
    assert measured_head(replace(FOGBELL)) is head
    moved = replace(FOGBELL, photos=FOGBELL.photos[:1] + FOGBELL.photos[1:], muzzle="short")
    assert solved_head(moved) is not head


def test_a_head_without_marks_is_refused_with_the_way_back() -> None:
    with pytest.raises(BadInput) as refused:
        measured_head(HeadInput(()))
    assert "Go back to Marks." in str(refused.value)


def test_an_edge_that_is_there_is_taken_as_it_is(head: HeadSolution) -> None:
    name = head.photos[0].name
    source = photo_source(name, "dry", LINE, lambda: pytest.fail("the photo was read for nothing"))
    edges, notes, traced = edges_of(head, [source])
    assert np.array_equal(edges[name], np.array(LINE))
    assert (notes, traced) == ([], {})


def test_an_edge_that_is_missing_is_traced_once_and_told_as_traced(head: HeadSolution) -> None:
    name = head.photos[0].name
    edges, notes, traced = edges_of(head, [photo_source(name, "dry", None, lambda: photo_bytes(name))])
    assert notes == []
    assert edges[name] is traced[name]
    assert len(traced[name]) > 50


def test_a_photo_that_was_not_solved_or_cannot_be_read_gives_none(head: HeadSolution) -> None:
    unknown = photo_source("somebody else's", "dry", LINE, None)
    closed = photo_source(head.photos[0].name, "dry", None, None)
    assert edges_of(head, [unknown, closed]) == ({}, [], {})


def test_a_photo_without_ground_is_told_with_its_reason(head: HeadSolution) -> None:
    photo = head.photos[0]
    size = photo.height_px, photo.width_px
    source = replace(
        photo_source(photo.name, "dry", None, None),
        read=lambda: np.full((*size, 3), 127, dtype=np.uint8),
        chance=lambda: np.ones(size),
    )
    edges, notes, traced = edges_of(head, [source])
    assert (edges, traced) == ({}, {})
    assert len(notes) == 1
    assert notes[0].startswith(f"{photo.name}: ")


def test_edges_stand_with_the_cameras_that_saw_them(head: HeadSolution) -> None:
    name = head.photos[1].name
    (edge,) = edges_on(head, {name: np.array(LINE), "gone": np.array(LINE)})
    assert edge.camera is head.camera_of(name)
    assert edge.view == head.photos[1].view


def test_nothing_known_of_a_coat_is_refused_and_a_comb_is_enough() -> None:
    with pytest.raises(BadInput, match="nothing is known of the coat"):
        needs_coat({}, ())
    needs_coat({}, COMBED)
    combed = head_model(FOGBELL, "standing", (), COMBED)
    crown = combed.ground.skin.in_zone("crown", "left")
    assert np.median(combed.ground.coat.depth_mm[crown]) == pytest.approx(18.0, abs=3.0)
    with pytest.raises(BadInput):
        head_model(FOGBELL, "standing", (), ())


def test_places_on_the_dog_are_marks_and_where_others_are_expected(head: HeadSolution) -> None:
    photo = head.photos[0]
    seeds = edge_seeds(head, photo)
    for mark, placed in photo.marks.items():
        assert seeds[mark] == (placed.x_px, placed.y_px)
    bare = edge_seeds(head, replace(photo, marks={}))
    assert len(bare) > 10
    assert not [mark for mark in bare if mark.startswith("ear_tip")]
    nose = photo.marks["nose_tip"]
    assert bare["nose_tip"] == pytest.approx((nose.x_px, nose.y_px), abs=0.03 * photo.width_px)
    assert edge_seeds(head, replace(photo, name="never solved")).keys() == photo.marks.keys()


def test_a_scale_card_is_no_dog() -> None:
    chance = np.full((80, 100), 0.9)
    corners = np.array([(10.0, 10.0), (40.0, 10.0), (40.0, 30.0), (10.0, 30.0)])
    left = without_card(chance, SeenCard(CardReading(2.0, 0.01, 6), corners))
    assert left[20, 20] == 0.0
    assert left[60, 60] == 0.9
    assert (chance == 0.9).all()
    assert without_card(chance, None) is chance


def test_what_helps_most_comes_first_and_is_not_there_already(head: HeadSolution) -> None:
    sources = [photo_source(p.name, "dry", LINE, None) for p in head.photos]
    there = {p.name: (p.view, "dry") for p in head.photos}
    asked = next_measurement(head, "standing", sources, (), there)
    worth = [one.gain_mm / one.seconds for one in asked]
    assert worth == sorted(worth, reverse=True)
    assert {one.kind for one in asked} >= {"comb"}
    photos = [one.words for one in asked if one.kind == "photo"]
    assert not [words for words in photos for view, _ in there.values() if f"{view} photo" in words]
    assert all(one.after_mm <= one.before_mm for one in asked)
