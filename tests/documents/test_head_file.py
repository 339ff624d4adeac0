"""The open head file: what it says becomes what the core is given, and what is wrong with it is told by field."""

from __future__ import annotations

import json
from copy import deepcopy
from pathlib import Path
from typing import Any

import pytest

from dapwick.core.basics.errors import BadInput
from dapwick.documents.head_file import HeadFile, photo_name, read_head_file

WHOLE: dict[str, Any] = {
    "format": "dapwick-head",
    "version": 1,
    "dog": {"name": "Fogbell", "coat": "curl", "muzzle": "short", "ears": "drop"},
    "photos": [
        {
            "file": "front.jpg",
            "view": "front",
            "width": 900,
            "height": 1200,
            "focal_px": 1100.0,
            "marks": {"nose_tip": [450, 700], "stop": {"at": [450, 520], "unsure": True}},
            "card": {"px_per_mm": 1.8},
        },
        {"view": "left", "state": "wet", "width": 800, "height": 600, "marks": {}},
    ],
    "hand_measures": [{"from": "stop", "to": "occiput", "mm": 92}],
    "coat_probes": [{"zone": "crown", "depth_mm": 20}],
    "wishes": {"eyes": "open", "weeks_between": 6},
    "handling": ["minds_muzzle"],
    "level_tip_deg": 12.0,
}


def without(path: str) -> dict[str, Any]:
    found: dict[str, Any] = deepcopy(WHOLE)
    *way, last = path.split(".")
    part: Any = found
    for step in way:
        part = part[int(step) if step.isdigit() else step]
    del part[last]
    return found


def changed(path: str, value: Any) -> dict[str, Any]:
    found: dict[str, Any] = deepcopy(WHOLE)
    *way, last = path.split(".")
    part: Any = found
    for step in way:
        part = part[int(step) if step.isdigit() else step]
    part[last] = value
    return found


def written(tmp_path: Path, content: Any) -> Path:
    file = tmp_path / "head.json"
    file.write_text(content if isinstance(content, str) else json.dumps(content))
    return file


def test_what_a_file_says_is_what_the_core_is_given() -> None:
    given = HeadFile.model_validate(WHOLE).head_input()
    front, left = given.photos
    assert (front.name, front.view, front.width_px, front.height_px) == ("front.jpg", "front", 900, 1200)
    assert (front.focal_px, front.marks["stop"].unsure) == (1100.0, True)
    assert (front.marks["nose_tip"].x_px, front.marks["nose_tip"].y_px) == (450, 700)
    assert front.card is not None
    assert (front.card.px_per_mm, front.card.sigma) == (1.8, 0.005)
    assert (left.name, left.card) == ("photo 2", None)
    assert (given.muzzle, given.ears, given.level_tip_deg) == ("short", "drop", 12.0)
    assert [(m.mm, m.sigma_mm) for m in given.hand_measures] == [(92, 1.0)]


def test_combs_and_wishes_come_along() -> None:
    file = HeadFile.model_validate(WHOLE)
    assert [p.depth_mm for p in file.probes()] == [20]
    assert (file.owner_wishes().eyes, file.owner_wishes().weeks_between) == ("open", 6)


def test_the_least_file_is_enough() -> None:
    file = HeadFile.model_validate({"format": "dapwick-head", "version": 1})
    assert file.head_input().photos == ()
    assert file.probes() == ()
    assert (file.dog.coat, file.stylist.hand) == ("standing", "right")


def test_a_photo_without_a_file_is_named_by_its_place() -> None:
    photos = HeadFile.model_validate(WHOLE).photos
    assert [photo_name(photo, i) for i, photo in enumerate(photos)] == ["front.jpg", "photo 2"]


@pytest.mark.parametrize(
    ("content", "told"),
    [
        (changed("format", "another-head"), "field format"),
        (changed("version", 2), "field version"),
        (without("photos.0.view"), "field photos.0.view"),
        (changed("photos.0.view", "sideways"), "field photos.0.view"),
        (changed("photos.0.width", 0), "field photos.0.width"),
        (changed("photos.0.focal_px", -5), "field photos.0.focal_px"),
        (changed("photos.0.marks.stop", [1, 2, 3]), "field photos.0.marks.stop"),
        (changed("photos.0.card.px_per_mm", 0), "field photos.0.card.px_per_mm"),
        (changed("hand_measures.0.mm", "wide"), "field hand_measures.0.mm"),
        (changed("coat_probes.0.side", "middle"), "field coat_probes.0.side"),
        (changed("dog.ears", "purple"), "field dog.ears"),
        ("[]", "field file"),
        ("{", "not JSON"),
    ],
)
def test_what_is_wrong_is_told_by_field_with_what_was_expected_and_got(
    tmp_path: Path, content: Any, told: str
) -> None:
    file = written(tmp_path, content)
    with pytest.raises(BadInput) as refused:
        read_head_file(file)
    words = str(refused.value)
    assert told in words
    assert str(file) in words


def test_a_file_that_is_not_there_or_not_text_is_told(tmp_path: Path) -> None:
    with pytest.raises(BadInput, match="cannot open it"):
        read_head_file(tmp_path / "nowhere.json")
    odd = tmp_path / "odd.json"
    odd.write_bytes(b"\xff\xfe\x00{")
    with pytest.raises(BadInput, match="not JSON"):
        read_head_file(odd)


def test_numbers_that_are_none_are_refused_where_they_would_count(tmp_path: Path) -> None:
    file = written(tmp_path, json.dumps(changed("photos.0.marks.stop", [float("nan"), 3])))
    with pytest.raises(BadInput):
        read_head_file(file).head_input()
