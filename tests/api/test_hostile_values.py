"""No hostile value in any place of any route makes a fault of the server: a part of what tools/hostile.py calls, a
different place for each value."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import islice

import pytest
from fastapi.testclient import TestClient

import zoo
from dapwick.api.app import make_app
from dapwick.records.store import SalonStore
from dapwick.service.salon.demo import fill_with_demo
from hostile import VALUES, Call, calls, faults, hostile_client

EVERY = 11
"""One call in so many; a prime to the number of values, so that each value and each place comes."""
HANG_S = 30.0
"""What hangs, on however busy a machine. Whether an answer is quick is measured by tools/hostile.py."""


@pytest.fixture(scope="module")
def salon(tmp_path_factory: pytest.TempPathFactory) -> Iterator[SalonStore]:
    store = SalonStore(tmp_path_factory.mktemp("hostile") / "salon")
    fill_with_demo(store, ("fogbell", "bobbin"))
    yield store
    store.close()


@pytest.fixture(scope="module")
def api(salon: SalonStore) -> Iterator[TestClient]:
    with hostile_client(salon) as client:
        yield client


def test_no_value_anywhere_is_answered_by_a_fault(api: TestClient, salon: SalonStore) -> None:
    assert len(VALUES) >= 60
    made = list(calls(make_app(None).openapi()))
    some = list(islice(made, 0, None, EVERY))
    assert len({call.where for call in some}) > 60
    bad = [fault for call in some for fault in faults(api, call, str(salon.folder), HANG_S)]
    assert [f"{one.call.method} {one.call.path[:80]} {one.call.where}: {one.why}" for one in bad] == []


KNOWN = (
    Call("GET", "/api/dogs/-9223372036854775809", "an id below every other"),
    Call("PUT", "/api/salon/name", "a line break in the name", body='{"name": "Net\\nLoft"}'),
    Call("POST", "/api/dogs", "half a letter", body='{"name": "\\ud800", "coat": "curl"}'),
    Call("POST", "/api/dogs/1/bookings", "the end of time", body='{"day": "9999-12-31", "starts": "23:59"}'),
    Call("PUT", "/api/dogs/1/hand-measures", "without end",
         body="[" + ",".join(['{"from_mark":"stop","to_mark":"chin","mm":50}'] * 20_000) + "]"),
    Call("PUT", "/api/dogs/1/coat-probes", "without end",
         body="[" + ",".join(['{"zone":"crown","depth_mm":20}'] * 20_000) + "]"),
    Call("POST", "/api/photos/1/edge/strokes", "a stroke without end",
         body='{"strokes": [{"points": [' + ",".join(["[1e308,1]"] * 3_000) + '], "coat": true}]}'),
    Call("POST", "/api/photos/1/edge/trail", "a trail to infinity", body='{"points": [[1, 1], [1e999, 1]]}'),
    Call("PUT", "/api/photos/1/edge", "a neck of one point", body='{"line": [[1,1],[9,1],[5,9]], "neck": [[1, 1]]}'),
    Call("POST", "/api/photos/moves", "a hundred and one moves",
         body='{"moves": [' + ",".join(['{"photo_id": 1, "to": {"view": "left", "state": "dry"}}'] * 101) + "]}"),
    Call("PUT", "/api/photos/1/marks", "an infinite place", body='{"marks": {"stop": {"at": [1e999, 1]}}}'),
)  # fmt: skip


@pytest.mark.parametrize("call", KNOWN, ids=lambda call: call.where)
def test_what_once_broke_it_is_told(api: TestClient, salon: SalonStore, call: Call) -> None:
    assert list(faults(api, call, str(salon.folder), HANG_S)) == []
    assert api.request(call.method, call.path, content=call.body, headers={"Content-Type": "application/json"}
                       ).status_code in (404, 422)  # fmt: skip


def test_forty_strokes_over_the_whole_photo_are_quick(api: TestClient) -> None:
    """2,000 points each, all over: bounded by the picture, not by the strokes."""
    stroke = {"points": [[i % 1200, (i * 7) % 900] for i in range(2_000)], "coat": True}
    photo = api.get("/api/dogs/1").json()["photos"][0]["id"]
    answer = api.post(f"/api/photos/{photo}/edge/strokes", json={"strokes": [stroke] * 40})
    assert answer.status_code == 200
    assert answer.elapsed.total_seconds() < HANG_S


def test_a_trail_all_over_the_photo_is_quick(api: TestClient) -> None:
    """4,000 points from edge to edge: bounded by the steps along it, not by its length."""
    trail = [[1200 * (i % 2), (i * 7) % 900] for i in range(4_000)]
    photo = api.get("/api/dogs/1").json()["photos"][0]["id"]
    answer = api.post(f"/api/photos/{photo}/edge/trail", json={"points": trail})
    assert answer.status_code == 200
    assert answer.elapsed.total_seconds() < HANG_S


def test_the_calendar_holds_whatever_the_salon_is_called(api: TestClient) -> None:
    api.put("/api/salon/name", json={"name": "Net Loft; BEGIN:VEVENT"})
    assert api.get("/api/calendar.ics").status_code == 200


@pytest.mark.parametrize("name", ["😀 photo.jpg", "a/b\\c.jpg", "x" * 400, "\u202egpj.jpg"])
def test_a_strange_file_name_is_kept_as_text(api: TestClient, name: str) -> None:
    dog = api.post("/api/dogs", json={"name": "Anchor", "coat": "curl"}).json()["id"]
    file = {"file": (name, zoo.jpeg(), "image/jpeg")}
    answer = api.post(f"/api/dogs/{dog}/photos", data={"view": "front"}, files=file)
    assert answer.status_code == 201
    assert len(answer.json()["file_name"]) <= 200
