"""The API as the screens use it: from an empty salon to a kept outline, and every refusal in words."""

from __future__ import annotations

import json
from pathlib import Path

import pytest
from fastapi.testclient import TestClient

import zoo
from dapwick.api.app import make_app
from dapwick.core.measures.measure import RULES
from dapwick.demo.dogs import calliper_mm, hand_marks, photo_bytes, photos_of, truth
from dapwick.records.store import SalonStore
from looks import looked

ROOT = Path(__file__).parents[2]


def new_dog(client: TestClient, name: str = "Squall", coat: str = "curl") -> int:
    answer = client.post("/api/dogs", json={"name": name, "coat": coat})
    assert answer.status_code == 201
    return int(answer.json()["id"])


def upload(
    client: TestClient, dog: int, data: bytes, view: str = "front", name: str = "a.jpg", state: str = "dry"
):  # type: ignore[no-untyped-def]
    return client.post(
        f"/api/dogs/{dog}/photos", files={"file": (name, data)}, data={"view": view, "state": state}
    )


def test_empty_salon_is_empty(client: TestClient) -> None:
    assert client.get("/api/today").json()["dogs"] == []


def test_from_two_photos_to_a_kept_outline(client: TestClient) -> None:
    known = truth("bobbin")
    dog = new_dog(client, "Bobbin", "curl")
    for photo in photos_of(known):
        added = upload(client, dog, photo_bytes(photo["file"]), photo["view"], photo["file"])
        assert added.status_code == 201
        marks = hand_marks(photo, seed=3)
        measured = client.put(f"/api/photos/{added.json()['id']}/marks", json={"marks": marks}).json()
    assert measured["solved"]
    hand = [
        {
            "from_mark": "eye_outer_left",
            "to_mark": "eye_outer_right",
            "mm": calliper_mm(known, "eye_outer_left", "eye_outer_right"),
        }
    ]
    measured = client.put(f"/api/dogs/{dog}/hand-measures", json=hand).json()
    assert len(measured["measures"]) == len(RULES)
    assert not measured["findings"]

    drawn = client.post(f"/api/dogs/{dog}/outline/preview", json={"family": "round"}).json()
    assert {(z["zone"], z["side"]) for z in drawn["zones"]} >= {("crown", "left"), ("ear_edge", "right")}
    assert len(drawn["photos"]) == 2
    assert all(len(p["outline"]) > 20 and len(p["coat"]) > 20 for p in drawn["photos"])
    assert set(drawn["sheet"]) == {"front", "left", "top"}

    kept = client.put(
        f"/api/dogs/{dog}/outline", json={"family": "round", "params": {"fullness": 0.5}}
    ).json()
    assert kept["params"]["fullness"] == 0.5
    card = client.get(f"/api/dogs/{dog}").json()
    assert card["stages"] == dict.fromkeys(("photos", "marks", "outline"), "done") | dict.fromkeys(
        ("wishes", "cut", "check", "next"), "needs_you"
    )
    assert card["saved_outline"]["params"] == kept["params"]
    assert "joint" in card["saved_outline"]["version"]


def test_fuller_leaves_more_through_the_api(demo_client: TestClient) -> None:
    def cheek(fullness: float) -> float:
        drawn = demo_client.post(
            "/api/dogs/1/outline/preview", json={"params": {"fullness": fullness}}
        ).json()
        return float(next(z for z in drawn["zones"] if z["zone"] == "cheek")["leave_mm"])

    # Its owner comes often: fuller is as full as the coat carries already.
    assert cheek(-1) < cheek(0) <= cheek(1)


def test_a_comb_depth_moves_the_plan_on_it(demo_client: TestClient) -> None:
    before = demo_client.post("/api/dogs/1/outline/preview", json={}).json()
    probe = [{"zone": "jaw", "side": None, "depth_mm": 6.0, "length_mm": None}]
    assert demo_client.put("/api/dogs/1/coat-probes", json=probe).status_code == 200
    after = demo_client.post("/api/dogs/1/outline/preview", json={}).json()

    def jaw(drawn: dict) -> float:  # type: ignore[type-arg]
        return float(next(z for z in drawn["zones"] if z["zone"] == "jaw")["now_mm"])

    assert jaw(after) < jaw(before) - 8


@pytest.mark.parametrize("kind", zoo.NOT_PHOTOS)
def test_bad_files_are_refused_and_nothing_is_lost(demo_client: TestClient, kind: str) -> None:
    data, words = zoo.NOT_PHOTOS[kind]
    before = looked(demo_client, 1)
    answer = upload(demo_client, 1, data, name=f"{kind}.jpg")
    assert answer.status_code == 422
    assert words in answer.json()["message"]
    assert answer.json()["remedy"]
    assert demo_client.get("/api/dogs/1").json() == before


def test_the_original_is_kept_byte_for_byte(demo_store: SalonStore) -> None:
    files = {p.read_bytes() for p in (demo_store.folder / "photos").iterdir() if "screen" not in p.name}
    assert photo_bytes("fogbell-dry-front.jpg") in files


def test_heic_and_turned_photos_are_taken(client: TestClient) -> None:
    dog = new_dog(client)
    assert upload(client, dog, zoo.heic(), name="a.heic").json()["width_px"] == 640
    turned = upload(client, dog, zoo.jpeg(800, 600, 6), view="left").json()
    assert (turned["width_px"], turned["height_px"]) == (600, 800)
    screen = client.get(f"/api/pictures/{turned['picture']}")
    assert screen.headers["content-type"] == "image/jpeg"


def test_a_new_photo_replaces_and_a_removed_one_comes_back(demo_client: TestClient) -> None:
    old = next(p for p in demo_client.get("/api/dogs/1").json()["photos"] if p["view"] == "front")
    new = upload(demo_client, 1, zoo.jpeg()).json()
    ids = [p["id"] for p in demo_client.get("/api/dogs/1").json()["photos"]]
    assert new["id"] in ids
    assert old["id"] not in ids
    assert demo_client.post(f"/api/photos/{old['id']}/restore").json()["marks"] == old["marks"]
    assert demo_client.delete(f"/api/photos/{old['id']}").status_code == 204
    assert demo_client.get(f"/api/pictures/{old['picture']}").status_code == 404


def test_swapped_sides_are_told_for_the_photo(demo_client: TestClient) -> None:
    photo = next(p for p in demo_client.get("/api/dogs/1").json()["photos"] if p["view"] == "front")
    swap = {"_left": "_right", "_right": "_left"}
    marks = {}
    for mark, at in photo["marks"].items():
        end = next((e for e in swap if mark.endswith(e)), "")
        marks[mark.removesuffix(end) + swap.get(end, "")] = at
    measured = demo_client.put(f"/api/photos/{photo['id']}/marks", json={"marks": marks}).json()
    assert ("sides_swapped", photo["id"]) in {(f["code"], f["photo_id"]) for f in measured["findings"]}
    assert measured["solved"]


BAD_CALLS = [
    ("post", "/api/dogs", {"name": "  ", "coat": "curl"}, 422, "name"),
    ("post", "/api/dogs", {"name": "Squall", "coat": "velvet"}, 422, "velvet"),
    ("post", "/api/dogs", {"coat": "curl"}, 422, "name"),
    ("get", "/api/dogs/99", None, 404, "no dog 99"),
    ("put", "/api/photos/99/marks", {"marks": {}}, 404, "no photo 99"),
    ("put", "/api/photos/1/marks", {"marks": {"tail": {"at": [1, 2]}}}, 422, "tail"),
    ("put", "/api/photos/1/marks", {"marks": {"stop": {"at": [1]}}}, 422, "stop"),
    (
        "put",
        "/api/dogs/1/hand-measures",
        [{"from_mark": "stop", "to_mark": "nose_tip", "mm": 4000}],
        422,
        "4000",
    ),
    ("put", "/api/dogs/1/coat-probes", [{"zone": "tail", "depth_mm": 3}], 422, "tail"),
    ("post", "/api/dogs/1/outline/preview", {"family": "spiral"}, 422, "spiral"),
    ("post", "/api/dogs/1/outline/preview", {"params": {"fullness": 9}}, 422, "-1 to 1"),
    ("put", "/api/dogs/1/outline", {"schools": {"music": "loud"}}, 422, "music"),
    ("post", "/api/dogs/2/outline/preview", {}, 422, "Go back to Marks"),
]


@pytest.mark.parametrize(("method", "path", "body", "status", "words"), BAD_CALLS)
def test_refusals_say_what_and_change_nothing(
    demo_client: TestClient,
    method: str,
    path: str,
    body: object,
    status: int,
    words: str,
) -> None:
    before = demo_client.get("/api/today").json()
    answer = demo_client.request(method, path, json=body)
    assert answer.status_code == status
    assert words in answer.json()["message"]
    assert demo_client.get("/api/today").json() == before


def test_screens_are_served_and_nothing_beside_them(store: SalonStore, tmp_path: Path) -> None:
    (tmp_path / "secret.txt").write_text("no")
    web = tmp_path / "dist"
    (web / "assets").mkdir(parents=True)
    (web / "index.html").write_text("<title>Dapwick</title>")
    (web / "assets" / "a.js").write_text("1")
    with TestClient(make_app(store, web), base_url="http://127.0.0.1") as client:
        assert "Dapwick" in client.get("/dogs/1/marks").text
        assert "immutable" in client.get("/assets/a.js").headers["cache-control"]
        assert "Dapwick" in client.get("/..%2fsecret.txt").text
        assert client.get("/api/nowhere").status_code == 404


def test_openapi_file_beside_the_screens_is_fresh() -> None:
    written = json.loads((ROOT / "web/src/api/openapi.json").read_text())
    assert make_app(None).openapi() == written, "run `make types`"
