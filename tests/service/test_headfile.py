"""Head files: what may be left out, what is refused, and what survives."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dapwick.core.basics.errors import BadInput
from dapwick.core.basics.frame import LEVEL_TIP_DEG
from dapwick.core.basics.marks import MARK_IDS, VIEWS
from dapwick.documents.head_file import HeadFile, read_head_file

LEAST: dict[str, Any] = {"format": "dapwick-head", "version": 1}
places = st.tuples(st.floats(0, 4000), st.floats(0, 3000)).map(list)
marks = st.dictionaries(st.sampled_from(MARK_IDS), places, max_size=12)
photos = st.fixed_dictionaries(
    {
        "view": st.sampled_from(VIEWS),
        "width": st.integers(1, 8000),
        "height": st.integers(1, 8000),
        "marks": marks,
    }
)


def test_format_and_version_are_enough() -> None:
    file = HeadFile.model_validate(LEAST)
    assert file.head_input().photos == ()
    assert file.level_tip_deg == LEVEL_TIP_DEG
    assert file.dog.coat == "standing"


@given(st.lists(photos, max_size=3))
def test_any_valid_file_comes_back_the_same(given_photos: list[dict[str, Any]]) -> None:
    file = HeadFile.model_validate({**LEAST, "photos": given_photos})
    assert HeadFile.model_validate_json(file.model_dump_json(by_alias=True)) == file
    assert len(file.head_input().photos) == len(given_photos)


def test_bare_and_full_marks_mean_the_same() -> None:
    photo = {"view": "front", "width": 100, "height": 100}
    bare = HeadFile.model_validate({**LEAST, "photos": [{**photo, "marks": {"stop": [1, 2]}}]})
    full = HeadFile.model_validate({**LEAST, "photos": [{**photo, "marks": {"stop": {"at": [1, 2]}}}]})
    assert bare == full


def test_photos_without_a_file_are_told_apart() -> None:
    photo = {"view": "front", "width": 100, "height": 100, "marks": {}}
    names = [p.name for p in HeadFile.model_validate({**LEAST, "photos": [photo, photo]}).head_input().photos]
    assert names == ["photo 1", "photo 2"]


@pytest.mark.parametrize("value", ["NaN", "Infinity", "-Infinity"])
def test_numbers_that_are_none_are_refused(tmp_path: Path, value: str) -> None:
    path = tmp_path / "head.json"
    text = json.dumps(
        {**LEAST, "photos": [{"view": "front", "width": 9, "height": 9, "marks": {"stop": [1, 7]}}]}
    )
    path.write_text(text.replace("7", value))
    with pytest.raises(BadInput, match="stop"):
        read_head_file(path).head_input()


def test_a_file_in_another_encoding_is_told(tmp_path: Path) -> None:
    path = tmp_path / "head.json"
    path.write_bytes('{"format": "dapwick-head", "dog": {"name": "Böe"}}'.encode("latin-1"))
    with pytest.raises(BadInput, match="UTF-8"):
        read_head_file(path)


def test_the_first_wrong_field_is_named_with_its_place(tmp_path: Path) -> None:
    path = tmp_path / "head.json"
    path.write_text(
        json.dumps({**LEAST, "photos": [{"view": "front", "width": -1, "height": 9, "marks": {}}]})
    )
    with pytest.raises(BadInput) as caught:
        read_head_file(path)
    assert "photos.0.width" in str(caught.value)
    assert caught.value.got == "-1"
    assert caught.value.where == str(path)
