"""The page that tells newcomers where things live tells the truth."""

from __future__ import annotations

import re
from pathlib import Path

import pytest

ROOT = Path(__file__).parent.parent
PAGE = (ROOT / "docs" / "architecture.md").read_text("utf-8")
NAMED = sorted(set(re.findall(r"`([\w./<>*-]+/[\w./<>*-]*|\w+\.\w+)`", PAGE)))
PLACES = (ROOT, ROOT / "src" / "dapwick", ROOT / "web" / "src", ROOT / "web" / "src" / "features" / "outline")


@pytest.mark.parametrize("path", [p for p in NAMED if not re.search(r"[<>*]|^/outline", p)])
def test_every_place_it_names_is_there(path: str) -> None:
    assert any((place / path).exists() for place in PLACES)


def test_it_names_the_places_that_matter() -> None:
    assert len(NAMED) > 30


def test_every_room_is_in_the_plan_of_the_house() -> None:
    plan = PAGE.split("```")[1]
    rooms = [p for p in (ROOT / "src" / "dapwick").iterdir() if (p / "__init__.py").exists()]
    floors = [p for p in (ROOT / "src" / "dapwick" / "core").iterdir() if (p / "__init__.py").exists()]
    missing = [room.name for room in rooms + floors if f"{room.name}/" not in plan]
    assert missing == []
