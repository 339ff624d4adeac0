"""Every stored document is written out as it was given, means what it says, and refuses what cannot be."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from dapwick.core.basics.content_hash import hash_of
from dapwick.core.basics.errors import BadInput
from dapwick.core.basics.marks import MARK_IDS
from dapwick.core.outlines.wishes import Wishes
from dapwick.core.plan.kit import USUAL_KIT, Stylist
from dapwick.core.solve.bone import Bone
from dapwick.documents.bone import BoneDocument
from dapwick.documents.document import Document, plain
from dapwick.documents.kit import MOST_STYLISTS, KitDocument
from dapwick.documents.marks import MarkDocument, marks_from
from dapwick.documents.readings import CombDocument, ReadingDocument, combs_from, readings_from
from dapwick.documents.wishes import WishesDocument

number = st.integers(-500, 500) | st.floats(-500, 500)
extra = st.dictionaries(
    st.text("abcxyz", min_size=4, max_size=8), st.integers() | st.text("abcxyz ", max_size=5), max_size=2
)
mark = st.fixed_dictionaries(
    {"at": st.tuples(number, number).map(list)},
    optional={"kind": st.sampled_from(["seen", "felt", "edge"]), "unsure": st.booleans()},
)
reading = st.fixed_dictionaries(
    {"from": st.sampled_from(MARK_IDS), "to": st.sampled_from(MARK_IDS), "mm": number},
    optional={"sigma_mm": number},
)
comb = st.fixed_dictionaries(
    {"zone": st.sampled_from(["crown", "jaw"]), "depth_mm": number},
    optional={"side": st.sampled_from(["left", "right", None]), "length_mm": st.none() | number},
)
wishes = st.fixed_dictionaries(
    {},
    optional={
        "fullness": number,
        "eyes": st.sampled_from(["any", "open", "veiled"]),
        "weeks_between": st.none() | st.integers(2, 20),
    },
)
EVERY = [(MarkDocument, mark), (ReadingDocument, reading), (CombDocument, comb), (WishesDocument, wishes)]


@pytest.mark.parametrize(("kind", "content"), EVERY, ids=lambda one: getattr(one, "__name__", ""))
def test_what_is_read_and_written_again_is_the_same(kind: type[Document], content: Any) -> None:
    @given(content, extra)
    def holds(said: dict[str, Any], more: dict[str, Any]) -> None:
        whole = {**more, **said}
        written = kind.model_validate(whole).to_json()
        assert written == whole
        assert hash_of(written) == hash_of(whole), "a version would change for nothing"

    holds()


def test_whole_numbers_stay_whole() -> None:
    written = ReadingDocument.model_validate({"from": "stop", "to": "occiput", "mm": 90}).to_json()
    assert repr(written) == "{'from': 'stop', 'to': 'occiput', 'mm': 90}"


@pytest.mark.parametrize(
    ("kind", "wrong"),
    [
        (MarkDocument, {"at": [1]}),
        (MarkDocument, {"at": [1, "two"]}),
        (MarkDocument, {"at": [1, 2], "kind": "guessed by a cat"}),
        (ReadingDocument, {"from": "stop", "mm": 4}),
        (ReadingDocument, {"from": "stop", "to": "occiput", "mm": "wide"}),
        (CombDocument, {"zone": "crown", "side": "middle", "depth_mm": 4}),
        (CombDocument, {"zone": "crown"}),
        (WishesDocument, {"fullness": "very"}),
        (WishesDocument, {"weeks_between": 2.5}),
        (KitDocument, {"tools": [{"id": "a", "kind": "saw", "name": "Saw", "use": "clip"}]}),
    ],
)
def test_what_is_no_such_document_is_refused(kind: type[Document], wrong: dict[str, Any]) -> None:
    with pytest.raises(ValidationError):
        kind.model_validate(wrong)


def test_marks_may_be_said_as_bare_pairs() -> None:
    marks = marks_from({"stop": [3, 4], "crown": {"at": [5, 6], "unsure": True}})
    placed = {name: one.placed() for name, one in marks.items()}
    assert (placed["stop"].x_px, placed["stop"].y_px, placed["stop"].unsure) == (3, 4, False)
    assert placed["crown"].unsure
    with pytest.raises(ValidationError):
        marks_from({"stop": 3})


def test_readings_and_combs_mean_what_they_say() -> None:
    (one,) = readings_from([{"from": "stop", "to": "occiput", "mm": 92.5}])
    assert one.measure().mm == 92.5
    assert one.measure().sigma_mm == 1.0
    (probe,) = combs_from([{"zone": "crown", "side": "left", "depth_mm": 18, "length_mm": 24}])
    assert (probe.probe().depth_mm, probe.probe().length_mm, probe.probe().side) == (18, 24, "left")


def test_wishes_come_back_and_impossible_ones_are_refused() -> None:
    wished = Wishes(0.5, "open", "short", "any", 6)
    assert WishesDocument.of(wished).wishes() == wished
    assert WishesDocument().wishes() == Wishes()
    with pytest.raises(BadInput, match="fullness"):
        WishesDocument(fullness=3).wishes()


def test_a_kit_with_its_people_comes_back() -> None:
    people = (Stylist("Oriel", "left"), Stylist("Tamsin", "right", "left", "last", "scissor_throughout"))
    kept = KitDocument.of(USUAL_KIT, people)
    again = KitDocument.model_validate(kept.to_json())
    assert again.kit() == USUAL_KIT
    assert again.people() == people
    assert again == kept


@pytest.mark.parametrize(
    "people", [("Oriel", "Oriel"), tuple(f"Stylist {i}" for i in range(MOST_STYLISTS + 1))]
)
def test_two_of_one_name_or_too_many_are_refused(people: tuple[str, ...]) -> None:
    with pytest.raises(BadInput, match="each name once"):
        KitDocument.of(USUAL_KIT, tuple(Stylist(name, "right") for name in people)).people()


@given(st.integers(0, 9999), st.none() | st.floats(4, 900))
def test_a_bone_comes_back_to_what_its_doubt_allows(seed: int, age_weeks: float | None) -> None:
    rng = np.random.default_rng(seed)
    points = rng.normal(0, 60, (len(MARK_IDS), 3))
    root = rng.normal(0, 1, (points.size, points.size)) / 8
    bone = Bone(points, root @ root.T, 3, age_weeks, "bone-1")
    back = BoneDocument.model_validate(BoneDocument.of(bone).to_json()).bone()
    assert np.abs(back.points_mm - points).max() <= 0.0005 + 1e-9
    assert np.allclose(back.covariance, bone.covariance, rtol=1e-6, atol=1e-6)
    assert np.array_equal(back.covariance, back.covariance.T)
    assert (back.visits, back.age_weeks, back.version) == (3, age_weeks, "bone-1")


@pytest.mark.parametrize(
    "spoilt",
    [
        {"marks_mm": {"stop": [1, 2, 3]}},
        {"covariance": "AAAA"},
        {"covariance": "not base64!"},
    ],
)
def test_a_bone_that_no_head_can_have_is_told(spoilt: dict[str, Any]) -> None:
    points = np.zeros((len(MARK_IDS), 3))
    whole = BoneDocument.of(Bone(points, np.eye(points.size), 1, None, "bone-1")).to_json()
    with pytest.raises((KeyError, ValueError)):
        BoneDocument.model_validate(whole | spoilt).bone()


def test_plain_is_plain_all_through() -> None:
    one = ReadingDocument.model_validate({"from": "stop", "to": "occiput", "mm": 90})
    said = {"from": "stop", "to": "occiput", "mm": 90}
    assert plain({"a": [one, (one, 3)], "b": {"c": one}, "d": "x"}) == {
        "a": [said, [said, 3]],
        "b": {"c": said},
        "d": "x",
    }


def test_documents_do_not_change() -> None:
    one = MarkDocument(at=(1, 2))
    with pytest.raises(ValidationError, match="frozen"):
        one.unsure = True
