"""The core's answers to fixed inputs are what they were; tools/write_golden.py writes them anew where that is meant."""

from __future__ import annotations

import json
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest

from core_cases import ROOMS

GOLDEN = Path(__file__).parent / "golden"
NEAR = 0.06
"""As the last digit that is written down, on another machine's arithmetic too."""


def differences(was: Any, now: Any, path: str = "") -> Iterator[str]:
    """Places where two answers differ by more than rounding."""
    if isinstance(was, (bool, str)) or was is None:
        if was != now:
            yield f"{path}: {was!r} → {now!r}"
    elif isinstance(was, (int, float)):
        if not isinstance(now, (int, float)) or abs(now - was) > NEAR + 1e-3 * abs(was):
            yield f"{path}: {was} → {now}"
    elif isinstance(was, dict):
        if list(was) != list(now):
            yield f"{path}: {sorted(set(was) ^ set(now))[:4]} or their order"
        for key in was.keys() & now.keys():
            yield from differences(was[key], now[key], f"{path} {key}")
    elif len(was) != len(now):
        yield f"{path}: {len(was)} → {len(now)} entries"
    else:
        for i, (one, other) in enumerate(zip(was, now, strict=True)):
            yield from differences(one, other, f"{path}[{i}]")


@pytest.mark.parametrize("room", ROOMS)
def test_the_answers_are_what_they_were(room: str) -> None:
    was = json.loads((GOLDEN / f"{room}.json").read_text("utf-8"))
    now = json.loads(json.dumps(ROOMS[room]()))
    found = list(differences(was, now, room))
    assert not found, f"{len(found)} differ, first {found[:6]}"


def test_a_difference_is_found_wherever_it_is() -> None:
    was = {"a": [1.0, {"b": "x", "c": True}], "d": None}
    assert list(differences(was, was)) == []
    for now in (
        {"a": [1.1, {"b": "x", "c": True}], "d": None},
        {"a": [1.0, {"b": "y", "c": True}], "d": None},
        {"a": [1.0, {"b": "x", "c": False}], "d": None},
        {"a": [1.0], "d": None},
        {"a": [1.0, {"b": "x"}], "d": None},
        {"a": [1.0, {"b": "x", "c": True}], "d": 0},
    ):
        assert len(list(differences(was, now))) == 1
