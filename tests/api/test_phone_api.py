"""A phone that takes the photos of one visit: its pass lets in photos of that visit, and nothing else."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

import pytest
from fastapi.testclient import TestClient

import zoo
from dapwick.api.app import make_app
from dapwick.core.basics.errors import CodeOver
from dapwick.demo.dogs import ALL_SEVEN, photo_bytes, photos_of, truth
from dapwick.devices.network import reach_of
from dapwick.records.store import SalonStore
from dapwick.service.dogs import about as dogs
from dapwick.service.photos.phone import LASTS_S, MOST_PASSES, PhonePasses, wanted_now
from dapwick.service.salon.passcode import Passcode
from dapwick.service.visits import begin_end
from looks import looked

CODE = "harbour-7"
PHOTOS = {f"{p['state']}-{p['view']}": photo_bytes(p["file"]) for p in photos_of(truth("tiller"), ALL_SEVEN)}


@pytest.fixture
def app(store: SalonStore):  # type: ignore[no-untyped-def]
    Passcode(store).change(CODE)
    return make_app(store, None, reach_of("192.0.2.7", 8350))


@pytest.fixture
def tablet(app) -> Iterator[TestClient]:  # type: ignore[no-untyped-def]
    with TestClient(app, base_url="http://192.0.2.7:8350") as one:
        one.post("/api/entrance", json={"code": CODE})
        yield one


@pytest.fixture
def phone(app, tablet: TestClient) -> TestClient:  # type: ignore[no-untyped-def]
    """Never given the passcode."""
    return TestClient(app, base_url="http://192.0.2.7:8350")


@pytest.fixture
def dog(tablet: TestClient) -> int:
    return int(tablet.post("/api/dogs", json={"name": "Sample", "coat": "curl"}).json()["id"])


def code(tablet: TestClient, dog: int, state: str = "dry") -> str:
    given = tablet.post(f"/api/dogs/{dog}/phone", json={"state": state})
    assert given.status_code == 201
    told = given.json()
    assert told["address"] == f"http://192.0.2.7:8350/phone/{told['token']}"
    return str(told["token"])


def bring(phone: TestClient, token: str, view: str, data: bytes):  # type: ignore[no-untyped-def]
    return phone.post(f"/api/phone/{token}/photos", files={"file": ("image.jpg", data)}, data={"view": view})


def test_its_photos_arrive_in_the_slots_and_the_next_view_is_asked_for(
    tablet: TestClient, phone: TestClient, dog: int
) -> None:
    token = code(tablet, dog)
    begun = phone.get(f"/api/phone/{token}").json()
    assert (begun["dog"], begun["state"], begun["view"]) == ("Sample", "dry", "front")
    for view, following in (("front", "left"), ("left", "right"), ("right", "top"), ("top", None)):
        shown = bring(phone, token, view, PHOTOS[f"dry-{view}"])
        assert shown.status_code == 201
        assert shown.json()["view"] == following
    card = looked(tablet, dog)
    assert {(p["view"], p["state"]) for p in card["photos"]} == {
        (v, "dry") for v in ("front", "left", "right", "top")
    }
    after = {v["view"]: v["photo"] for v in phone.get(f"/api/phone/{token}").json()["views"]}
    assert all(after[v]["looked"] for v in ("front", "left", "right", "top"))
    turned = phone.put(f"/api/phone/{token}", json={"state": "wet"}).json()
    assert (turned["state"], turned["view"]) == ("wet", "front")
    assert [v["view"] for v in turned["views"]] == ["front", "left", "top"]


def test_the_phone_gets_at_nothing_else(tablet: TestClient, phone: TestClient, dog: int) -> None:
    token = code(tablet, dog)
    for path in ("/api/today", f"/api/dogs/{dog}", "/api/salon", "/api/backups"):
        assert phone.get(path).status_code == 401
    assert phone.post(f"/api/dogs/{dog}/phone", json={"state": "dry"}).status_code == 401
    assert phone.get(f"/api/phone/{token}/../../dogs").status_code in (401, 404)
    drawn = phone.get(f"/api/phone/{token}/code.svg")
    assert drawn.text.startswith("<svg")


@pytest.mark.parametrize("token", ["", "x", "a" * 4000, "%2e%2e", "..%2F..%2Fapi%2Ftoday", "ключ"])
def test_a_made_up_code_opens_nothing(phone: TestClient, token: str) -> None:
    for path in (f"/api/phone/{token}", f"/api/phone/{token}/code.svg"):
        assert phone.get(path).status_code in (401, 404)
    assert bring(phone, token, "front", PHOTOS["dry-front"]).status_code in (401, 404, 405)


def test_a_new_code_ends_the_one_before(tablet: TestClient, phone: TestClient, dog: int) -> None:
    first, second = code(tablet, dog), code(tablet, dog)
    refused = bring(phone, first, "front", PHOTOS["dry-front"])
    assert refused.status_code == 404
    assert "scan the new one" in refused.json()["message"]
    assert phone.get(f"/api/phone/{second}").status_code == 200
    assert tablet.delete(f"/api/dogs/{dog}/phone").status_code == 204
    assert phone.get(f"/api/phone/{second}").status_code == 404


def test_it_is_for_this_visit_alone(
    store: SalonStore, tablet: TestClient, phone: TestClient, dog: int
) -> None:
    token = code(tablet, dog)
    begin_end.end_visit(store, dog)
    assert bring(phone, token, "front", PHOTOS["dry-front"]).status_code == 404
    tablet.post(f"/api/dogs/{dog}/visits")
    assert bring(phone, token, "front", PHOTOS["dry-front"]).status_code == 404
    assert dogs.one_dog(store, dog).photos == ()


def test_a_removed_dog_takes_no_photos(tablet: TestClient, phone: TestClient, dog: int) -> None:
    token = code(tablet, dog)
    tablet.delete(f"/api/dogs/{dog}")
    assert bring(phone, token, "front", PHOTOS["dry-front"]).status_code == 404


@pytest.mark.parametrize("bad", sorted(zoo.NOT_PHOTOS))
def test_what_is_no_photo_is_told_to_the_phone(
    tablet: TestClient, phone: TestClient, dog: int, bad: str
) -> None:
    token = code(tablet, dog)
    data, words = zoo.NOT_PHOTOS[bad]
    refused = bring(phone, token, "front", data)
    assert refused.status_code == 422
    assert words in refused.json()["message"]
    assert phone.get(f"/api/phone/{token}").json()["view"] == "front"


def test_it_is_good_for_a_while_after_the_last_photo(store: SalonStore, tmp_path: Path) -> None:
    now = 0.0
    passes = PhonePasses(lambda: now)
    dog = dogs.add_dog(store, "Sample", "curl").id
    token = passes.give(store, dog, "dry").token
    now = LASTS_S - 1
    assert wanted_now(store, passes.turn(token, "dry")).view == "front"
    now += LASTS_S - 1
    assert passes.of(token).dog_id == dog
    now += 2
    with pytest.raises(CodeOver):
        passes.of(token)
    with pytest.raises(CodeOver):
        passes.turn(token, "wet")


def test_a_code_that_ran_out_is_good_again_when_the_tablet_shows_one_for_the_same_visit(
    store: SalonStore,
) -> None:
    now = 0.0
    passes = PhonePasses(lambda: now)
    dog, other = (dogs.add_dog(store, name, "curl").id for name in ("Sample", "Other"))
    token = passes.give(store, dog, "dry").token
    now = LASTS_S + 1
    assert passes.give(store, other, "dry").token != token
    with pytest.raises(CodeOver):
        passes.of(token)
    assert passes.give(store, dog, "wet").token == token
    assert passes.of(token).state == "wet"
    assert passes.give(store, dog, "wet").token != token
    with pytest.raises(CodeOver):
        passes.of(token)
    now += LASTS_S + 1
    begin_end.start_visit(store, dog)
    assert passes.give(store, dog, "dry").token != token


def test_however_many_are_given_only_the_last_are_remembered(store: SalonStore) -> None:
    passes = PhonePasses(lambda: 0.0)
    tokens = [
        passes.give(store, dogs.add_dog(store, f"Sample {at}", "curl").id, "dry").token
        for at in range(MOST_PASSES + 1)
    ]
    with pytest.raises(CodeOver):
        passes.of(tokens[0])
    assert [passes.of(token).token for token in tokens[1:]] == tokens[1:]
