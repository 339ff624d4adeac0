"""The check over the wire: what is missing is said, a finished head is held against its plan, decisions are kept."""

from __future__ import annotations

import io
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient
from PIL import Image

from dapwick.demo.dogs import photo_bytes
from dapwick.records import queries
from dapwick.records.store import SalonStore
from dapwick.service.dogs.bundles import take_in
from dapwick.service.photos.edges import not_reviewed, review

VIEWS = ("front", "left", "right")


def finished(client: TestClient, views: tuple[str, ...] = VIEWS) -> list[int]:
    """Fogbell's finished photos of the demo, dropped into their slots and looked at."""
    ids = []
    for view in views:
        name = f"fogbell-finished-{view}.jpg"
        sent = client.post(
            "/api/dogs/1/photos",
            files={"file": (name, photo_bytes(name), "image/jpeg")},
            data={"view": view, "state": "finished"},
        )
        assert sent.status_code == 201, sent.text
        ids.append(sent.json()["id"])
    return ids


def looked_at(client: TestClient) -> dict[str, Any]:
    store = client.app.state.store  # type: ignore[attr-defined]
    for photo in not_reviewed(store, 1):
        review(store, photo, lambda *_: None)
    told: dict[str, Any] = client.get("/api/dogs/1/check").json()
    return told


@pytest.fixture
def planned(demo_client: TestClient) -> TestClient:
    client = demo_client
    kept = client.put("/api/dogs/1/outline", json={"family": "round", "params": {}, "schools": {}})
    assert kept.status_code == 200
    client.post("/api/dogs/1/cut", json={"again": False})
    return client


def test_what_is_missing_is_said_before_there_is_a_check(demo_client: TestClient) -> None:
    client = demo_client
    assert "No outline" in client.get("/api/dogs/1/check").json()["reason"]
    client.put("/api/dogs/1/outline", json={"family": "round", "params": {}, "schools": {}})
    told = client.get("/api/dogs/1/check").json()
    assert "Photograph the finished head" in told["reason"]
    assert told["places"] == []
    assert client.get("/api/dogs/1/check/pictures/front").status_code == 422


def test_finished_photos_leave_the_plan_as_it_was_and_are_held_against_it(planned: TestClient) -> None:
    before = planned.get("/api/dogs/1").json()
    finished(planned)
    told = looked_at(planned)
    after = planned.get("/api/dogs/1").json()
    assert after["stale"] == before["stale"]
    # Done once something was said of every place that came out long.
    assert after["stages"]["check"] == ("needs_you" if told["touch_ups"] else "done")
    assert told["waiting"] == 0
    assert {p["view"] for p in told["photos"]} == set(VIEWS)
    assert all(p["outline"] and not p["why_not"] for p in told["photos"])
    seen = [p for p in told["places"] if p["state"] != "unseen"]
    assert len(seen) > 6
    assert all(p["low"] <= p["off_mm"] <= p["high"] for p in seen)
    assert told["words"].endswith(".")
    picture = planned.get("/api/dogs/1/check/pictures/front")
    assert picture.headers["content-type"] == "image/jpeg"
    wide, high = Image.open(io.BytesIO(picture.content)).size
    assert wide % 2 == 0
    assert min(wide, high) > 500
    page = planned.get("/api/dogs/1/check/page")
    assert page.headers["content-type"] == "image/png"


def test_what_was_taken_in_is_kept_and_what_was_never_asked_refused(planned: TestClient) -> None:
    finished(planned)
    told = looked_at(planned)
    places = [t["place"] for t in told["touch_ups"]]
    done = dict.fromkeys(places, "done")
    kept = planned.put("/api/dogs/1/touched-up", json={"done": done})
    assert kept.status_code == 200
    again = planned.get("/api/dogs/1/check").json()
    assert {t["place"]: t["done"] for t in again["touch_ups"]} == done
    refused = planned.put("/api/dogs/1/touched-up", json={"done": {"tail/left": "done"}})
    assert refused.status_code == 422
    assert "tail/left" in refused.text
    assert planned.put("/api/dogs/1/touched-up", json={"done": {"cheek/left": "shaved"}}).status_code == 422


def test_a_check_travels_with_its_dog(planned: TestClient, tmp_path: Path) -> None:
    finished(planned, ("front", "left"))
    told = looked_at(planned)
    bundle = planned.get("/api/dogs/1/bundle.zip").content
    other = SalonStore(tmp_path / "other")
    row = take_in(other, bundle, "fogbell.zip")
    with other.reading() as session:
        (visit,) = [v for v in queries.dog(session, row.id).visits if v.checked]
        assert visit.checked.words == told["words"]
        assert len(visit.checked.places) == len(told["places"])
    other.close()


def combed(client: TestClient, *places: tuple[str, float]) -> dict[str, Any]:
    """Comb depths kept, and the check made of them."""
    body = [
        {"zone": zone, "side": side, "depth_mm": depth}
        for place, depth in places
        for zone, side in [place.split("/")]
    ]
    kept = client.put("/api/dogs/1/combed-after", json=body)
    assert kept.status_code == 200, kept.text
    told: dict[str, Any] = client.get("/api/dogs/1/check").json()
    return told


def state_of(told: dict[str, Any], place: str) -> str:
    return next(str(p["state"]) for p in told["places"] if f"{p['zone']}/{p['side']}" == place)


def test_a_comb_tells_what_the_photos_leave_open(planned: TestClient) -> None:
    finished(planned)
    first = next(one for one in looked_at(planned)["comb"] if one["state"] == "unseen")
    place, planned_mm = f"{first['zone']}/{first['side']}", first["leave_mm"]
    assert state_of(combed(planned, (place, planned_mm + 9)), place) == "long"
    told = combed(planned, (place, planned_mm))
    assert state_of(told, place) != "long"
    assert place not in {f"{c['zone']}/{c['side']}" for c in told["comb"]}
    assert [(c["zone"], c["depth_mm"]) for c in told["combed"]] == [(first["zone"], planned_mm)]
    assert combed(planned)["combed"] == []


def test_what_is_combed_beside_a_place_is_kept_beside_it(planned: TestClient) -> None:
    finished(planned, ("front",))
    first = next(one for one in looked_at(planned)["comb"] if one["state"] == "unseen")
    assert first["spot"] == "middle"
    at = {"zone": first["zone"], "side": first["side"]}
    one = {**at, "depth_mm": first["leave_mm"] + 2.0}
    assert planned.put("/api/dogs/1/combed-after", json=[one]).status_code == 200
    told = planned.get("/api/dogs/1/check").json()
    again = next(c for c in told["comb"] if (c["zone"], c["side"]) == (first["zone"], first["side"]))
    assert again["spot"] != "middle"
    two = {**at, "depth_mm": first["leave_mm"], "spot": again["spot"]}
    assert planned.put("/api/dogs/1/combed-after", json=[one, two]).status_code == 200
    kept = planned.get("/api/dogs/1/check").json()["combed"]
    assert [(c["spot"], c["depth_mm"]) for c in kept] == [
        ("middle", one["depth_mm"]), (again["spot"], two["depth_mm"]),
    ]  # fmt: skip
    with planned.app.state.store.reading() as session:  # type: ignore[attr-defined]
        told_before = [r for r in queries.dog(session, 1).visits[-1].expectations if r.kind == "left"]
        assert len({r.what for r in told_before}) == len(told_before)
        assert any(again["spot"] in r.what for r in told_before)
    assert planned.put("/api/dogs/1/combed-after", json=[{**two, "spot": "inside"}]).status_code == 422


def test_what_was_combed_before_a_place_was_taken_in_counts_no_more_until_that_is_taken_back(
    planned: TestClient,
) -> None:
    finished(planned)
    first = looked_at(planned)["comb"][0]
    place, deep = f"{first['zone']}/{first['side']}", first["leave_mm"]
    combed(planned, (place, deep + 9))
    assert planned.put("/api/dogs/1/touched-up", json={"done": {place: "done"}}).status_code == 200
    assert planned.get("/api/dogs/1/check").json()["combed"] == []
    assert [c["depth_mm"] for c in combed(planned, (place, deep))["combed"]] == [deep]
    with planned.app.state.store.reading() as session:  # type: ignore[attr-defined]
        rows = [r for r in queries.dog(session, 1).visits[-1].expectations if r.kind == "left"]
        assert len(rows) == 1
        # What was expected of the place before is answered by what was read before, and by nothing since.
        assert all((r.found, r.taken_back) == (deep + 9, False) for r in rows)
    planned.put("/api/dogs/1/touched-up", json={"done": {}})
    assert [c["depth_mm"] for c in planned.get("/api/dogs/1/check").json()["combed"]] == [deep + 9]


def test_what_the_check_told_of_a_place_is_kept_before_a_comb_goes_in(planned: TestClient) -> None:
    finished(planned)
    seen = next(p for p in looked_at(planned)["places"] if p["zone"] == "crown" and p["state"] != "unseen")
    place = f"crown/{seen['side']}"
    combed(planned, (place, 20.0))
    with planned.app.state.store.reading() as session:  # type: ignore[attr-defined]
        (kept,) = [row for row in queries.dog(session, 1).visits[-1].expectations if row.kind == "left"]
        assert kept.found == 20.0
        assert kept.sigma > 1.5
        assert abs(kept.expected - 20.0) > 0.01
    combed(planned)
    with planned.app.state.store.reading() as session:  # type: ignore[attr-defined]
        assert [
            row.taken_back for row in queries.dog(session, 1).visits[-1].expectations if row.kind == "left"
        ] == [True]


def test_combs_of_a_finished_head_travel_with_their_dog(planned: TestClient, tmp_path: Path) -> None:
    finished(planned, ("front",))
    looked_at(planned)
    combed(planned, ("cheek/left", 17.5))
    other = SalonStore(tmp_path / "other")
    row = take_in(other, planned.get("/api/dogs/1/bundle.zip").content, "fogbell.zip")
    with other.reading() as session:
        found = [c for v in queries.dog(session, row.id).visits for c in v.combed_after]
        assert [(c.zone, c.side, c.depth_mm) for c in found] == [("cheek", "left", 17.5)]
    refused = planned.put("/api/dogs/1/combed-after", json=[{"zone": "tail", "side": "left", "depth_mm": 3}])
    assert refused.status_code == 422
    assert "tail" in refused.text
