"""The salon over HTTP: first start, the demo, the day, versions, long work, history."""

from __future__ import annotations

import time
from datetime import date, timedelta
from typing import Any

import pytest
from fastapi.testclient import TestClient
from icalendar import Calendar

from dapwick.service.salon.demo import DEMO_NAME

TOMORROW = (date.today() + timedelta(days=1)).isoformat()
WISHES = {"fullness": 0.0, "eyes": "open", "beard": "any", "ears": "any", "weeks_between": None}


def over(client: TestClient, job: dict[str, Any]) -> dict[str, Any]:
    last = time.monotonic() + 60
    while job["kind"] == "working" and time.monotonic() < last:
        time.sleep(0.05)
        job = client.get(f"/api/jobs/{job['id']}").json()
    return job


def test_a_salon_is_begun_empty_under_its_name(client: TestClient) -> None:
    assert client.get("/api/salon").json()["started"] is False
    assert client.post("/api/salon/start", json={"kind": "empty", "name": " "}).status_code == 422
    begun = client.post("/api/salon/start", json={"kind": "empty", "name": "The Quay"}).json()
    assert (begun["name"], begun["started"], begun["demo"]) == ("The Quay", True, False)


def test_the_demo_is_opened_reset_and_taken_away_and_own_dogs_stay(client: TestClient) -> None:
    begun = client.post("/api/salon/start", json={"kind": "demo"}).json()
    assert (begun["name"], begun["demo"]) == (DEMO_NAME, True)
    day = client.get("/api/today").json()
    assert [d["name"] for d in day["dogs"]][:3] == ["Capstan", "Fogbell", "Tiller"]
    fogbell = day["dogs"][1]
    assert fogbell["expected"]["heads"] == 2
    assert fogbell["note"] == "Minds the muzzle. Left cheek grew faster: look."
    own = client.post("/api/dogs", json={"name": "Mine", "coat": "curl"}).json()["id"]
    client.put(f"/api/dogs/{fogbell['dog_id']}/next-note", json={"note": "changed"})
    client.post("/api/salon/demo", json={"do": "reset"})
    dogs = {d["name"]: d["id"] for d in client.get("/api/dogs").json()}
    assert len(dogs) == 10
    assert dogs["Mine"] == own
    assert client.get(f"/api/dogs/{dogs['Fogbell']}").json()["next_note"] == ""
    gone = client.post("/api/salon/demo", json={"do": "remove"}).json()
    assert (gone["demo"], gone["started"]) == (False, True)
    assert [d["name"] for d in client.get("/api/dogs").json()] == ["Mine"]
    assert client.get("/api/removed").json() == []


def test_a_dogs_history_has_measures_coat_and_outlines_of_each_visit(client: TestClient) -> None:
    client.post("/api/salon/start", json={"kind": "demo"})
    visits = client.get("/api/dogs/1/history").json()["visits"]
    assert [v["family"] for v in visits] == ["round", "teddy", None]
    assert all({m["id"] for m in v["measures"]} >= {"skull_width", "muzzle_length"} for v in visits)
    assert all(set(v["lines"]) == {"front", "left", "top"} and v["coat"] and v["minutes"] for v in visits[:2])
    widths = [next(m for m in v["measures"] if m["id"] == "skull_width") for v in visits]
    assert widths[2]["high"] - widths[2]["low"] < widths[0]["high"] - widths[0]["low"]
    first = date.fromisoformat(visits[0]["day"])
    assert timedelta(weeks=13) < date.today() - first < timedelta(weeks=15)


def test_the_second_tablet_gets_409_with_what_is_there(demo_client: TestClient) -> None:
    base = demo_client.get("/api/dogs/1").json()["versions"]["wishes"]
    mine = {"If-Match": f'"{base}"'}
    kept = demo_client.put("/api/dogs/1/wishes", json=WISHES | {"words": "eyes"}, headers=mine)
    assert kept.headers["etag"] == f'"{kept.json()["versions"]["wishes"]}"'
    late = demo_client.put("/api/dogs/1/wishes", json=WISHES | {"beard": "short"}, headers=mine)
    assert late.status_code == 409
    told = late.json()
    assert f'"{told["version"]}"' == kept.headers["etag"]
    assert told["now"][2] == "eyes"
    again = {"If-Match": f'"{told["version"]}"'}
    assert demo_client.put("/api/dogs/1/wishes", json=WISHES, headers=again).status_code == 200


def test_a_change_sent_twice_is_one(demo_client: TestClient) -> None:
    photo = demo_client.get("/api/dogs/1").json()["photos"][0]
    body = {"marks": {"stop": {"at": [600, 400]}}}
    headers = {"If-Match": f'"{photo["versions"]["marks"]}"'}
    first = demo_client.put(f"/api/photos/{photo['id']}/marks", json=body, headers=headers)
    second = demo_client.put(f"/api/photos/{photo['id']}/marks", json=body, headers=headers)
    assert (first.status_code, second.status_code) == (200, 200)
    assert first.headers["etag"] == second.headers["etag"]
    now = demo_client.get("/api/dogs/1").json()["photos"][0]["versions"]["marks"]
    assert first.headers["etag"] == f'"{now}"'


@pytest.mark.parametrize(
    ("path", "body", "part"),
    [
        ("hand-measures", [], "hand_measures"),
        ("coat-probes", [{"zone": "crown", "depth_mm": 30}], "coat_probes"),
        ("about", {"name": "Fog", "coat": "curl"}, "about"),
        ("next-note", {"note": "look"}, "next_note"),
        ("kind", {"muzzle": "short", "ears": "prick"}, "kind"),
        ("traits", {"traits": ["old"]}, "traits"),
        ("stylist", {"name": "Benno"}, "stylist"),
    ],
)
def test_every_part_tells_the_version_it_made(
    demo_client: TestClient, path: str, body: object, part: str
) -> None:
    answer = demo_client.put(f"/api/dogs/1/{path}", json=body)
    assert answer.status_code == 200
    version = demo_client.get("/api/dogs/1").json()["versions"][part]
    assert answer.headers["etag"] == f'"{version}"'


def test_the_book_goes_out_as_a_calendar(demo_client: TestClient) -> None:
    demo_client.post(
        "/api/dogs/1/bookings",
        json={"day": TOMORROW, "starts": "10:15", "minutes": 75, "words": "muzzle, last"},
    )
    answer = demo_client.get("/api/calendar.ics")
    assert answer.headers["content-type"].startswith("text/calendar")
    events = Calendar.from_ical(answer.content).walk("VEVENT")
    [made] = [e for e in events if e.decoded("dtstart").isoformat().startswith(TOMORROW)]
    assert str(made["summary"]) == "Fogbell"
    assert made.decoded("dtend") - made.decoded("dtstart") == timedelta(minutes=75)
    assert str(made["description"]) == "muzzle, last"
    assert len({str(e["uid"]) for e in events}) == len(events) == 3


def test_a_backup_is_made_listed_saved_and_put_back_with_progress(demo_client: TestClient) -> None:
    job = over(demo_client, demo_client.post("/api/backups").json())
    assert job["kind"] == "done"
    name = job["result"]["name"]
    [listed] = demo_client.get("/api/backups").json()["backups"]
    assert (listed["name"], listed["photos"], listed["whole"]) == (name, 4, True)
    saved = demo_client.get(f"/api/backups/{name}/file").content
    demo_client.post("/api/dogs", json={"name": "Newcomer", "coat": "curl"})
    over(demo_client, demo_client.post("/api/backups/restore", json={"name": name}).json())
    assert len(demo_client.get("/api/dogs").json()) == 2
    assert demo_client.post("/api/backups/undo").status_code == 200
    assert len(demo_client.get("/api/dogs").json()) == 3
    given = {"file": ("mine.zip", saved, "application/zip")}
    assert over(demo_client, demo_client.post("/api/backups/file", files=given).json())["kind"] == "done"
    assert len(demo_client.get("/api/dogs").json()) == 2


def test_a_file_that_is_no_backup_is_told_and_changes_nothing(demo_client: TestClient) -> None:
    given = {"file": ("holiday.zip", b"not a zip", "application/zip")}
    job = over(demo_client, demo_client.post("/api/backups/file", files=given).json())
    assert job["kind"] == "failed"
    assert "a salon's backup" in job["words"]
    assert demo_client.get("/api/backups").json()["undo"] is None
    assert len(demo_client.get("/api/dogs").json()) == 2


def test_a_bundle_goes_from_one_salon_to_itself_after_a_purge(demo_client: TestClient) -> None:
    bundle = demo_client.get("/api/dogs/1/bundle.zip").content
    taken = {"file": ("fogbell.zip", bundle, "application/zip")}
    assert demo_client.post("/api/bundles", files=taken).status_code == 422
    assert demo_client.delete("/api/dogs/1").status_code == 204
    assert demo_client.get("/api/dogs/1").status_code == 404
    assert demo_client.post("/api/removed/1/purge", json={"name": "Bobbin"}).status_code == 422
    assert demo_client.post("/api/removed/1/purge", json={"name": "Fogbell"}).json()["photos"] == 2
    again = demo_client.post("/api/bundles", files=taken)
    assert again.status_code == 201
    picture = again.json()["photos"][0]["picture"]
    assert demo_client.get(f"/api/pictures/{picture}").status_code == 200
    demo_client.delete(f"/api/dogs/{again.json()['id']}")
    # Of a removed dog nothing is shown, and an address never comes to mean another picture.
    assert demo_client.get(f"/api/pictures/{picture}").status_code == 404
    assert demo_client.get("/api/pictures/..%2F..%2Fsalon.db").status_code in (404, 422)


def test_a_demo_dog_is_put_beside_ones_own_once(client: TestClient) -> None:
    client.post(
        "/api/salon/start", json={"kind": "empty", "name": "The Quay", "stylist": " Wren ", "hand": "left"}
    )
    assert [(s["name"], s["hand"]) for s in client.get("/api/kit").json()["stylists"]] == [("Wren", "left")]
    own = client.post("/api/dogs", json={"name": "Sample", "coat": "curl"}).json()["id"]
    tried = client.post("/api/salon/try")
    assert tried.status_code == 201
    assert client.post("/api/salon/try").json() == tried.json()
    found = client.get("/api/dogs", params={"find": ""}).json()
    assert {one["name"] for one in found} == {"Sample", "Fogbell"}
    # Who cuts stays, and so does the dog that was there.
    assert [s["name"] for s in client.get("/api/kit").json()["stylists"]] == ["Wren"]
    client.post("/api/salon/demo", json={"do": "remove"})
    assert client.get(f"/api/dogs/{own}").status_code == 200
