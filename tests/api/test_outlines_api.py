"""Outlines through the API: thumbnails, drawings, wishes, the turning head, the salon's own outlines."""

from __future__ import annotations

import base64
import io
from typing import Any

import numpy as np
import pytest
import trimesh
from fastapi.testclient import TestClient
from PIL import Image

from dapwick.core.outlines.families import FAMILIES


def preview(client: TestClient, **asked: Any) -> dict[str, Any]:
    answer = client.post("/api/dogs/1/outline/preview", json=asked)
    assert answer.status_code == 200, answer.text
    drawn: dict[str, Any] = answer.json()
    return drawn


def unpacked(text: str, kind: str) -> np.ndarray:
    return np.frombuffer(base64.b64decode(text), dtype=kind)


def test_every_outline_is_offered_and_fitted_for_the_dog(demo_client: TestClient) -> None:
    offered = demo_client.get("/api/outlines").json()
    assert [one["key"] for one in offered] == list(FAMILIES)
    for one in offered:
        thumb = demo_client.get(f"/api/dogs/1/outlines/{one['key']}").json()
        assert thumb["family"] == one["key"]
        assert thumb["reasons"]
        assert set(thumb["views"]) == {"front", "left", "top"}
        assert all(len(lines["outline"]) > 20 for lines in thumb["views"].values())


def test_a_moving_drawing_leaves_out_what_stands_still(demo_client: TestClient) -> None:
    whole = preview(demo_client)
    asked = {"family": "round", "params": {"fullness": 0.3}, "schools": {}}
    moving = demo_client.post("/api/dogs/1/outline/moving", json=asked).json()
    assert whole["sheet"]
    assert whole["effects"]
    assert whole["text"].startswith("Round")
    assert 0 <= whole["runs_out"] <= 1
    assert moving.keys() < whole.keys()
    assert not moving.keys() & {"sheet", "runs_out", "effects", "wishes", "text"}
    assert all(p["outline"] and "skin" not in p for p in moving["photos"])
    assert moving["zones"] != whole["zones"]


def test_handles_move_the_outline_the_way_they_say(demo_client: TestClient) -> None:
    """Turning a parameter moves its handle about as far as it told, once the outline lies inside the coat."""
    before = preview(demo_client)
    handle = next(h for p in before["photos"] for h in p["handles"] if h["parameter"] == "centre_up_mm")
    value = next(p["value"] for p in before["parameters"] if p["id"] == "centre_up_mm")
    after = preview(demo_client, params={"centre_up_mm": value - 16.0})
    moved = next(h for p in after["photos"] for h in p["handles"] if h["parameter"] == "centre_up_mm")
    told = np.array(handle["px_a_unit"])
    seen = (np.array(moved["at"]) - handle["at"]) / -16.0
    assert float(seen @ told) / float(told @ told) == pytest.approx(1.0, abs=0.6)


def test_weeks_ahead_the_head_is_larger(demo_client: TestClient) -> None:
    def area(drawn: dict[str, Any]) -> float:
        x, y = np.array(drawn["sheet"]["front"]["outline"]).T
        return abs(float((x * np.roll(y, -1) - np.roll(x, -1) * y).sum())) / 2

    areas = [area(preview(demo_client, weeks_ahead=weeks)) for weeks in (0, 4, 8)]
    assert areas[0] < areas[1] < areas[2]
    assert demo_client.post("/api/dogs/1/outline/preview", json={"weeks_ahead": -1}).status_code == 422


def test_the_turning_head_fits_its_drawing(demo_client: TestClient) -> None:
    mesh = demo_client.get("/api/dogs/1/mesh").json()
    skin = unpacked(mesh["skin"], "<i2").reshape(-1, 3) * mesh["step_mm"]
    faces = unpacked(mesh["faces"], "<u2").reshape(-1, 3)
    ears = unpacked(mesh["ears"], "<i2").reshape(-1, 3)
    assert faces.max() == len(skin) + len(ears) - 1
    assert 60 < np.ptp(skin[:, 0]) < 160
    drawn = preview(demo_client)
    leave = unpacked(drawn["depths"]["leave"], "<i2") * mesh["step_mm"]
    coat = unpacked(mesh["coat"], "<i2") * mesh["step_mm"]
    assert len(leave) == len(coat) == len(skin)
    assert (leave <= coat + 3.1).all()


def test_wishes_are_kept_steer_the_fit_and_are_told(demo_client: TestClient) -> None:
    before = preview(demo_client)
    wishes = {"eyes": "veiled", "weeks_between": 10, "fullness": -0.5}
    card = demo_client.put("/api/dogs/1/wishes", json=wishes).json()
    assert card["wishes"]["eyes"] == "veiled"
    after = preview(demo_client)
    assert {w["wish"] for w in after["wishes"]} == {"eyes veiled", "shorter", "10 weeks between visits"}
    assert not before["wishes"]
    assert after["sizes"]["now"] < before["sizes"]["now"]
    assert demo_client.put("/api/dogs/1/wishes", json={"weeks_between": 99}).status_code == 422


def test_a_school_changes_what_is_drawn(demo_client: TestClient) -> None:
    arc, cuts = preview(demo_client), preview(demo_client, schools={"jaw": "two_cuts"})
    chosen = {s["id"]: s["chosen"] for s in cuts["schools"]}
    assert chosen["jaw"] == "two_cuts"
    assert arc["sheet"]["left"]["outline"] != cuts["sheet"]["left"]["outline"]


def test_a_setting_becomes_the_salons_own_outline_and_travels(demo_client: TestClient) -> None:
    setting = {
        "name": "Harbour round",
        "family": "round",
        "params": {"visor_mm": 3.0},
        "schools": {"fringe": "straight"},
    }
    own = demo_client.post("/api/outlines/own", json=setting).json()
    assert own["key"] == "own-1"
    assert demo_client.get("/api/outlines").json()[-1]["name"] == "Harbour round"
    drawn = preview(demo_client, family="own-1")
    assert drawn["name"] == "Harbour round"
    assert next(s["chosen"] for s in drawn["schools"] if s["id"] == "fringe") == "straight"
    twice = demo_client.post("/api/outlines/own", json=setting)
    assert twice.status_code == 422
    assert "another name" in twice.json()["message"]

    document = demo_client.get("/api/outlines/own/1/file").json()
    assert document["format"] == "dapwick-outline"
    assert demo_client.delete("/api/outlines/own/1").status_code == 204
    assert all(one["own"] is None for one in demo_client.get("/api/outlines").json())
    back = demo_client.post("/api/outlines/own/file", json={"document": document}).json()
    assert back["name"] == "Harbour round"
    assert preview(demo_client, family="own-1")["name"] == "Harbour round"


@pytest.mark.parametrize(
    ("method", "path", "body", "status", "words"),
    [
        ("get", "/api/dogs/1/outlines/spiral", None, 422, "spiral"),
        ("get", "/api/dogs/1/outlines/own-9", None, 404, "outline 9"),
        ("get", "/api/dogs/99/mesh", None, 404, "dog 99"),
        ("get", "/api/dogs/2/mesh", None, 422, "Go back to Marks"),
        ("get", "/api/outlines/own/9/file", None, 404, "outline 9"),
        ("delete", "/api/outlines/own/9", None, 404, "outline 9"),
        ("post", "/api/outlines/own", {"name": " ", "family": "round"}, 422, "name"),
        ("post", "/api/outlines/own", {"name": "x", "family": "own-9"}, 404, "outline 9"),
        ("post", "/api/outlines/own/file", {"document": {"format": "other"}}, 422, "dapwick-outline"),
    ],
)
def test_refusals_are_in_words(
    demo_client: TestClient, method: str, path: str, body: Any, status: int, words: str
) -> None:
    answer = demo_client.request(method, path, json=body)
    assert answer.status_code == status
    assert words in answer.json()["message"]


def picture(client: TestClient, **asked: Any) -> np.ndarray:
    answer = client.post("/api/dogs/1/outline/picture", json=asked)
    assert answer.status_code == 200, answer.text
    assert answer.headers["content-type"] == "image/jpeg"
    return np.asarray(Image.open(io.BytesIO(answer.content)))


@pytest.mark.parametrize("view", ["front", "side"])
def test_the_owners_picture_is_the_same_photo_with_its_coat_taken_in(
    demo_client: TestClient, view: str
) -> None:
    now = picture(demo_client, view=view, cut=False)
    cut = picture(demo_client, view=view, params={"fullness": -0.6})
    later = picture(demo_client, view=view, params={"fullness": -0.6}, weeks_ahead=8)
    assert now.shape == cut.shape == later.shape
    changed = [float(np.abs(one.astype(int) - now).mean()) for one in (cut, later)]
    assert changed[0] > 2.0 * 1.2
    assert changed[1] < changed[0]
    corner = (slice(0, 12), slice(0, 12))
    assert float(np.abs(cut[corner].astype(int) - now[corner]).mean()) < 3.0
    assert np.array_equal(cut, picture(demo_client, view=view, params={"fullness": -0.6}))


def test_before_and_after_come_on_one_page(demo_client: TestClient) -> None:
    answer = demo_client.post("/api/dogs/1/outline/page", json={"family": "teddy"})
    assert answer.headers["content-type"] == "image/png"
    page = Image.open(io.BytesIO(answer.content))
    assert page.width == 2000
    assert page.height > 1500


def test_without_a_photo_of_that_side_the_picture_says_what_to_do(demo_client: TestClient) -> None:
    for photo in demo_client.get("/api/dogs/1").json()["photos"]:
        if photo["view"] in ("left", "right") and photo["state"] == "dry":
            assert demo_client.delete(f"/api/photos/{photo['id']}").is_success
    answer = demo_client.post("/api/dogs/1/outline/picture", json={"view": "side"})
    assert answer.status_code == 422
    assert "Add one in Photos" in answer.json()["message"]


def test_what_shows_first_is_told_with_its_weeks(demo_client: TestClient) -> None:
    events = demo_client.post("/api/dogs/1/outline/coming", json={"family": "round"}).json()
    assert [e["weeks"] for e in events] == sorted(e["weeks"] for e in events)
    assert all(e["low"] < e["weeks"] < e["high"] for e in events)
    assert {"eyes", "corners"} <= {e["id"] for e in events}


@pytest.mark.parametrize("ending", ["glb", "stl"])
def test_the_finished_head_comes_as_a_file_for_other_programs(demo_client: TestClient, ending: str) -> None:
    asked = {"family": "teddy", "ending": ending}
    answer = demo_client.post("/api/dogs/1/outline/surface", json=asked)
    assert answer.status_code == 200
    mesh = trimesh.load(io.BytesIO(answer.content), file_type=ending, force="mesh", process=False)
    assert len(mesh.faces) > 2000
    assert demo_client.post("/api/dogs/1/outline/surface", json={"ending": "doc"}).status_code == 422


def test_the_turning_head_has_the_dogs_own_colours(demo_client: TestClient) -> None:
    mesh = demo_client.get("/api/dogs/1/mesh").json()
    colours = unpacked(mesh["colours"], "u1").reshape(-1, 3)
    assert len(colours) == len(unpacked(mesh["skin"], "<i2")) // 3 + len(unpacked(mesh["ears"], "<i2")) // 3
    # Fogbell is a light grey: bright, and hardly coloured.
    assert 120 < colours.mean() < 220
    assert float(np.ptp(colours.mean(axis=0))) < 30
    assert max(mesh["leather"]) < colours.mean()
    assert mesh["coat_type"] == "standing"
