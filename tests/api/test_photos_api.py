"""Photos over the API: sorting, looking in the background, edges, the camera's guide, the card."""

from __future__ import annotations

import errno
import os
import time

import pytest
from fastapi.testclient import TestClient

import zoo
from dapwick.demo.dogs import ALL_SEVEN, CAMERA, photo_bytes, photos_of, truth
from looks import looked


@pytest.fixture
def dog(client: TestClient) -> int:
    return int(client.post("/api/dogs", json={"name": "Sample", "coat": "curl"}).json()["id"])


def send(
    client: TestClient,
    dog: int,
    data: bytes,
    name: str = "IMG.jpg",
    view: str = "guess",
    state: str = "guess",
):  # type: ignore[no-untyped-def]
    return client.post(
        f"/api/dogs/{dog}/photos", files={"file": (name, data)}, data={"view": view, "state": state}
    )


def test_dropped_photos_wait_with_edges_and_first_marks_and_nothing_typed(
    client: TestClient, dog: int
) -> None:
    for p in photos_of(truth("tiller"), ALL_SEVEN):
        assert send(client, dog, photo_bytes(p["file"]), p["file"]).status_code == 201
    card = looked(client, dog)
    assert {f"{p['state']}-{p['view']}" for p in card["photos"]} == set(ALL_SEVEN)
    assert all(p["has_edge"] for p in card["photos"])
    assert {p["view"] for p in card["photos"] if p["card_markers"]} == {"front", "left"}
    measured = client.get(f"/api/dogs/{dog}/measure").json()
    assert not measured["solved"]
    assert all(not p["marks"] for p in card["photos"])
    assert set(measured["ghosts"]) == {str(p["id"]) for p in card["photos"]}
    known = photos_of(truth("tiller"))[0]
    front = next(p for p in card["photos"] if (p["view"], p["state"]) == ("front", "dry"))
    at = {g["mark"]: g["at"] for g in measured["ghosts"][str(front["id"])]}
    for mark in ("eye_outer_left", "eye_outer_right", "nose_tip"):
        apart = sum((a - b) ** 2 for a, b in zip(at[mark], known["marks_px"][mark], strict=True)) ** 0.5
        assert apart < 30


def test_a_scale_card_in_a_photo_gives_the_size_without_a_calliper(client: TestClient, dog: int) -> None:
    from dapwick.demo.dogs import calliper_mm, hand_marks

    known = truth("tiller")
    for p in photos_of(known):
        added = send(client, dog, photo_bytes(p["file"]), p["file"], p["view"], "dry").json()
        looked(client, dog)
        measured = client.put(f"/api/photos/{added['id']}/marks", json={"marks": hand_marks(p)}).json()
    assert "no_scale" not in {f["code"] for f in measured["findings"]}
    span = next(m for m in measured["measures"] if m["id"] == "eye_span_outer")
    true = calliper_mm(known, "eye_outer_left", "eye_outer_right")
    assert abs(span["value"] - true) < 0.06 * true
    assert span["low"] < true < span["high"]


def test_a_look_can_be_stopped_and_done_again(client: TestClient, dog: int) -> None:
    added = send(client, dog, photo_bytes("bobbin-dry-front.jpg")).json()
    assert added["job"]["kind"] in ("waiting", "working")
    assert client.delete(f"/api/photos/{added['id']}/look").status_code == 204
    time.sleep(0.3)
    assert client.get(f"/api/dogs/{dog}").json()["photos"][0]["job"]["kind"] == "stopped"
    assert client.post(f"/api/photos/{added['id']}/look").status_code == 202
    assert looked(client, dog)["photos"][0]["has_edge"]


def test_the_server_answers_while_it_looks(client: TestClient, dog: int) -> None:
    for p in photos_of(truth("bobbin"), ALL_SEVEN[:4]):
        send(client, dog, photo_bytes(p["file"]), p["file"])
    for _ in range(10):
        assert client.get("/api/mark-guide").status_code == 200
    # One that was looked at by then has no job left.
    jobs = [(photo["job"] or {}).get("kind") for photo in client.get(f"/api/dogs/{dog}").json()["photos"]]
    assert {"working", "waiting"} & set(jobs)
    looked(client, dog)


def test_an_edge_is_chalked_set_and_found_again(client: TestClient, dog: int) -> None:
    photo = send(client, dog, photo_bytes("fogbell-dry-front.jpg")).json()["id"]
    looked(client, dog)
    found = client.get(f"/api/photos/{photo}/edge").json()["line"]
    stroke = {"points": [[60, 60], [120, 90]], "coat": True}
    chalked = client.post(f"/api/photos/{photo}/edge/strokes", json={"strokes": [stroke]}).json()["line"]
    assert len(chalked) > 10
    kept = client.put(f"/api/photos/{photo}/edge", json={"line": [[1, 1], [900, 5], [400, 700]]}).json()[
        "line"
    ]
    assert kept == [[1, 1], [900, 5], [400, 700]]
    card = client.get(f"/api/dogs/{dog}").json()["photos"][0]
    assert card["edge_by_hand"]
    assert client.post(f"/api/photos/{photo}/edge/found").json()["line"] == found
    assert client.get(f"/api/photos/{photo}/edge").json()["line"] == kept
    trail = [[20, 20], [400, 30], [850, 20]]
    assert len(client.post(f"/api/photos/{photo}/edge/trail", json={"points": trail}).json()["line"]) > 10
    necked = {"line": kept, "neck": [[100, 600], [700, 610]]}
    assert client.put(f"/api/photos/{photo}/edge", json=necked).json() == necked
    assert client.get(f"/api/photos/{photo}/edge").json() == necked


def moving(photo: int, view: str) -> dict[str, object]:
    return {"moves": [{"photo_id": photo, "to": {"view": view, "state": "dry"}}]}


def test_photos_change_places_and_back(client: TestClient, dog: int) -> None:
    first = send(client, dog, zoo.jpeg(seed=1), view="front", state="dry").json()["id"]
    send(client, dog, zoo.jpeg(seed=2), view="left", state="dry")
    moved = client.post("/api/photos/moves", json=moving(first, "left")).json()
    assert {(m["was"]["view"], m["now"]["view"]) for m in moved} == {("front", "left"), ("left", "front")}
    back = [{"photo_id": m["photo_id"], "to": m["was"]} for m in moved]
    client.post("/api/photos/moves", json={"moves": back})
    card = client.get(f"/api/dogs/{dog}").json()
    assert {p["id"]: p["view"] for p in card["photos"]}[first] == "front"
    assert [len(card["photos"]), len(card["spares"])] == [2, 0]


def test_a_full_disk_answers_507_and_the_next_photo_is_taken(
    client: TestClient, dog: int, monkeypatch: pytest.MonkeyPatch
) -> None:
    def full(_: int) -> None:
        raise OSError(errno.ENOSPC, os.strerror(errno.ENOSPC))

    monkeypatch.setattr(os, "fsync", full)
    answer = send(client, dog, zoo.jpeg())
    assert answer.status_code == 507
    assert "Nothing was lost" in answer.json()["message"]
    monkeypatch.undo()
    assert send(client, dog, zoo.jpeg()).status_code == 201


def test_a_file_past_the_limit_is_told_with_the_limit(client: TestClient, dog: int) -> None:
    answer = send(client, dog, b"\xff\xd8" + bytes(61 * 2**20))
    assert answer.status_code == 422
    assert "60 MB" in answer.json()["message"]


def test_the_guide_speaks_of_a_frame(client: TestClient) -> None:
    frame = client.get("/api/camera/simulated", params={"view": "front", "state": "dry", "tick": 5})
    assert frame.headers["content-type"] == "image/jpeg"
    told = client.post(
        "/api/camera/guide", files={"file": ("f.jpg", frame.content)}, data={"view": "front"}
    ).json()
    assert told["found"]
    assert {a["code"] for a in told["advice"]} == {"level", "turn", "nod", "distance", "sharp"}
    assert all(0 <= x <= 1 and 0 <= y <= 1 for x, y in told["at"])


@pytest.mark.parametrize(
    ("method", "path", "body", "status"),
    [
        ("get", "/api/photos/9/edge", None, 404),
        ("put", "/api/photos/9/edge", {"line": [[1, 1], [2, 2], [3, 1]]}, 404),
        ("post", "/api/photos/9/look", None, 404),
        ("delete", "/api/photos/9/look", None, 404),
        ("post", "/api/photos/moves", moving(9, "front"), 404),
        ("post", "/api/photos/moves", moving(1, "below"), 422),
        ("post", "/api/photos/moves", {"moves": []}, 422),
        ("post", "/api/photos/1/edge/trail", {"points": [[5, 5]]}, 422),
        ("post", "/api/photos/9/edge/trail", {"points": [[5, 5], [300, 5]]}, 404),
        ("post", "/api/photos/9/edge/found", None, 404),
        ("put", "/api/photos/1/edge", {"line": [[1, 1], [9, 2], [3, 9]], "neck": [[1, 1]]}, 422),
        ("put", "/api/photos/1/edge", {"line": [[1, 1]]}, 422),
        ("post", "/api/photos/1/edge/strokes", {"strokes": []}, 422),
        ("post", "/api/photos/1/edge/strokes", {"strokes": [{"points": [], "coat": True}]}, 422),
        ("post", "/api/photos/9/edge/strokes", {"strokes": [{"points": [[1, 2]], "coat": True}]}, 404),
        ("get", "/api/camera/simulated?view=back&state=dry&tick=0", None, 404),
        ("get", "/api/camera/simulated?view=front&state=dry&tick=x", None, 422),
        ("get", "/api/scale-card.pdf?paper=a7", None, 422),
    ],
)
def test_refusals_are_sentences(
    client: TestClient, dog: int, method: str, path: str, body: object, status: int
) -> None:
    assert send(client, dog, zoo.jpeg(), view="front", state="dry").json()["id"] == 1
    answer = client.request(method, path, json=body)
    assert answer.status_code == status
    assert len(answer.json()["message"]) > 15


@pytest.mark.parametrize("paper", ["a4", "letter"])
def test_the_scale_card_is_a_pdf(client: TestClient, paper: str) -> None:
    answer = client.get("/api/scale-card.pdf", params={"paper": paper})
    assert answer.headers["content-type"] == "application/pdf"
    assert answer.content.startswith(b"%PDF")


def test_what_is_wrong_with_a_photo_is_told_with_it(client: TestClient, dog: int) -> None:
    added = send(client, dog, (CAMERA / "dry-front-4.jpg").read_bytes(), "a.jpg", "front", "dry").json()
    (card,) = looked(client, dog)["photos"]
    assert card["id"] == added["id"]
    assert "blurred" in {finding["code"] for finding in card["findings"]}
    assert all(set(finding) == {"code", "message", "view"} for finding in card["findings"])
