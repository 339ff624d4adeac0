"""Next time and How far off over the wire."""

from __future__ import annotations

import shutil
from collections.abc import Iterator
from datetime import date
from pathlib import Path

import pytest
from fastapi.testclient import TestClient

from dapwick.api.app import make_app
from dapwick.records.store import SalonStore


@pytest.fixture
def cut_client(cut_folder: Path, tmp_path: Path) -> Iterator[TestClient]:
    """Capstan, cut and photographed."""
    shutil.copytree(cut_folder, tmp_path / "salon")
    store = SalonStore(tmp_path / "salon")
    with TestClient(make_app(store), base_url="http://127.0.0.1") as api:
        yield api


def card_of(client: TestClient) -> list[str]:
    return list(client.get("/api/dogs/1/next-time").json()["card"])


def test_from_the_last_cut_to_a_booked_visit(cut_client: TestClient) -> None:
    client = cut_client
    check = client.get("/api/dogs/1/check").json()
    assert [t["place"] for t in check["touch_ups"]] == ["cheek/left"]
    assert client.get("/api/dogs/1").json()["stages"]["check"] == "needs_you"
    said = client.put("/api/dogs/1/touched-up", json={"done": {"cheek/left": "done"}}).json()
    assert said["stages"]["check"] == "done"
    next_time = client.get("/api/dogs/1/next-time").json()
    assert next_time["words"]
    free = next_time["free"][0]
    made = client.post("/api/dogs/1/bookings", json={**free, "minutes": next_time["minutes"], "words": ""})
    assert made.status_code == 201
    booked = client.get("/api/dogs/1/next-time").json()["booked"]
    assert booked[0]["day"] == free["day"]
    day = date.fromisoformat(free["day"])
    assert f"Capstan is booked for {day.day} {day:%B} at {free['starts']}." in card_of(client)
    assert client.put("/api/salon/days", json={"days": "month_first"}).json()["days"] == "month_first"
    (line,) = [one for one in card_of(client) if "is booked for" in one]
    assert line.startswith(f"Capstan is booked for {day:%B} {day.day} at ")
    assert line.endswith((" am.", " pm."))
    assert client.put("/api/salon/days", json={"days": "year_first"}).status_code == 422
    assert client.get("/api/salon").json()["days"] == "month_first"
    ics = client.get(f"/api/bookings/{booked[0]['id']}/calendar.ics")
    assert "SUMMARY:Capstan" in ics.text
    assert free["day"].replace("-", "") in ics.text
    assert client.post("/api/dogs/1/visits/end").status_code == 200
    assert client.get("/api/dogs/1/next-time").json()["ended"] is True


def test_the_notes_parts_are_kept_with_their_version(cut_client: TestClient) -> None:
    client = cut_client
    client.get("/api/dogs/1/check")
    (part,) = client.get("/api/dogs/1/next-time").json()["parts"]
    assert part["kept"] is True
    key = part["part"]["id"]
    version = client.get("/api/dogs/1").json()["versions"]["for_next"]
    said = {"said": {key: {"kept": False, "words": ""}}}
    first = client.put("/api/dogs/1/for-next", json=said, headers={"If-Match": f'"{version}"'})
    assert first.status_code == 200
    late = {"said": {key: {"kept": True, "words": "mind the left cheek"}}}
    assert (
        client.put("/api/dogs/1/for-next", json=late, headers={"If-Match": f'"{version}"'}).status_code == 409
    )
    assert client.get("/api/dogs/1/next-time").json()["parts"][0]["kept"] is False


def test_an_outline_tells_how_long_it_lasts(demo_client: TestClient) -> None:
    asked = {"family": "round", "params": {}, "schools": {}}
    coming = demo_client.post("/api/dogs/1/outline/coming", json=asked).json()
    assert {e["id"] for e in coming} >= {"eyes", "corners"}
    lasting = demo_client.post("/api/dogs/1/outline/lasting", json=asked).json()
    assert [one["cut_for"] for one in lasting] == [4, 6, 8, 10]
    weeks = [one["weeks"] for one in lasting]
    assert weeks == sorted(weeks)
    assert weeks[0] >= 4
    assert lasting[0]["words"] == ""
    # What does not last as it is set is shorter somewhere, or says that it cannot.
    assert all(one["words"] or one["weeks"] >= one["cut_for"] for one in lasting)


def test_how_far_off_is_read_and_a_factor_set_and_taken_back(cut_client: TestClient) -> None:
    client = cut_client
    off = client.get("/api/salon/how-far-off").json()
    assert off["demo"] is True
    assert {t["kind"] for t in off["tallies"]} >= {"bone", "coat", "marks"}
    assert client.put("/api/salon/how-far-off/bone", json={"factor": 1.4}).json()["factors"] == {"bone": 1.4}
    assert client.get("/api/dogs/1/measure").json()["wider"] == 1.4
    refused = client.put("/api/salon/how-far-off/bone", json={"factor": 40})
    assert refused.status_code == 422
    assert client.put("/api/salon/how-far-off/bone", json={"factor": 1}).json()["factors"] == {}
    table = client.get("/api/salon/how-far-off.csv")
    assert table.text.splitlines()[0].startswith("day,dog,kind,what,expected")
    assert len(table.text.splitlines()) > 10


def test_no_address_writes_an_expectation(cut_client: TestClient) -> None:
    paths = cut_client.get("/api/openapi.json").json()["paths"]
    asked = [path for path in paths if "expect" in path]
    assert asked == []
    off = cut_client.put("/api/salon/how-far-off", json={"tallies": []})
    assert off.status_code in (404, 405)


def test_hours_bound_the_free_times(cut_client: TestClient) -> None:
    client = cut_client
    assert client.get("/api/salon/hours").json() == {
        "opens": "09:00",
        "closes": "18:00",
        "closed": [6],
        "tables": 1,
    }
    late = {"opens": "13:00", "closes": "17:00", "closed": [0, 6], "tables": 1}
    assert client.put("/api/salon/hours", json=late).json() == late
    free = client.get("/api/dogs/1/next-time").json()["free"]
    assert free
    assert all("13:00" <= one["starts"] < "17:00" for one in free)
    assert client.put("/api/salon/hours", json=late | {"closes": "12:00"}).status_code == 422


def test_a_stylist_hears_of_their_own_hand_or_not(cut_client: TestClient) -> None:
    client = cut_client
    hand = client.get("/api/dogs/1/hand").json()
    assert hand["stylist"] == "Oriel"
    assert hand["told"] is True
    assert client.put("/api/salon/own-hand", json={"stylist": "Oriel", "told": False}).status_code == 204
    assert client.get("/api/salon/own-hand").json() == ["Oriel"]
    assert client.get("/api/dogs/1/hand").json()["told"] is False
