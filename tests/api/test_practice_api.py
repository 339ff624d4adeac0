"""Practice over HTTP: every drill asked and answered, by a person who is told how it goes."""

from __future__ import annotations

import base64
from typing import Any

import numpy as np
import pytest
from fastapi.testclient import TestClient

from dapwick.core.practice.next_drill import A_SESSION, DRILLS
from dapwick.records.models import DogRow, PracticeTaskRow, VisitRow
from dapwick.records.store import SalonStore


@pytest.fixture
def person(client: TestClient) -> int:
    made = client.post("/api/practice/people", json={"name": " Wren  Sallow "})
    assert made.json()["name"] == "Wren Sallow"
    return int(made.json()["id"])


def ask(client: TestClient, person: int, drill: str) -> dict[str, Any]:
    asked = client.post(f"/api/practice/people/{person}/tasks", json={"drill": drill})
    assert asked.status_code == 200, asked.text
    found: dict[str, Any] = asked.json()
    return found


def told(client: TestClient, task: dict[str, Any], answer: dict[str, Any]) -> dict[str, Any]:
    given = client.post(
        f"/api/practice/tasks/{task['id']}/answer", json={"answer": {"drill": task["drill"], **answer}}
    )
    assert given.status_code == 200, given.text
    found: dict[str, Any] = given.json()
    return found


def some_answer(task: dict[str, Any]) -> dict[str, Any]:
    if task["drill"] == "bone":
        marks = [mark["id"] for mark in task["marks"]]
        if task["photo"]:
            return {"px": {mark: [300.0, 200.0] for mark in marks}}
        return {"rays": {mark: {"start": [-500, 0, 0], "along": [1, 0, 0]} for mark in marks}}
    if task["drill"] == "eye":
        return {"guess": task["measure"]["least"] * 2, "within": 10}
    if task["drill"] == "long_side":
        return {"zone": "cheek", "side": "left", "mm": 3}
    families = [family["id"] for family in task["families"]]
    if task["drill"] == "suits":
        return {"order": families, "why": "hair"}
    zones = [zone["zone"] for zone in task["zones"]]
    return {
        "family": families[0],
        "lengths": {zone["zone"]: max(zone["now_mm"] / 2, 2) for zone in task["zones"]},
        "tools": dict.fromkeys(zones, "shears"),
        "order": zones,
    }


@pytest.mark.parametrize("drill", DRILLS)
def test_each_drill_is_asked_answered_and_told(client: TestClient, person: int, drill: str) -> None:
    task = ask(client, person, drill)
    assert (task["drill"], task["number"]) == (drill, 1)
    shown = told(client, task, some_answer(task))
    assert shown["told"]["drill"] == drill
    assert shown["progress"]["answers"] > 0
    assert shown["session_over"] == (A_SESSION[drill] == 1)  # type: ignore[index]
    point = shown["progress"]["points"][-1]
    assert point["low"] < point["value"] < point["high"]
    after = ask(client, person, drill)
    assert after["id"] != task["id"]


def test_a_question_waits_for_its_answer(client: TestClient, person: int) -> None:
    first = ask(client, person, "eye")
    assert ask(client, person, "eye")["id"] == first["id"]
    told(client, first, some_answer(first))
    assert ask(client, person, "eye")["id"] != first["id"]


def test_a_second_answer_gets_what_the_first_was_told(client: TestClient, person: int) -> None:
    task = ask(client, person, "eye")
    first = told(client, task, {"guess": task["measure"]["least"] * 2, "within": 10})
    second = told(client, task, {"guess": task["measure"]["most"], "within": 5})
    assert second["told"] == first["told"]
    assert second["progress"]["answers"] == 1


def test_nothing_of_the_answer_is_in_the_question(client: TestClient, person: int) -> None:
    for drill in DRILLS:
        task = ask(client, person, drill)
        assert {"seed", "kind", "true", "mm"} & set(task) == set()
    long_side = ask(client, person, "long_side")
    assert {"zone", "side"} & set(long_side) == set()


@pytest.mark.parametrize(
    ("drill", "answer", "what"),
    [
        ("bone", {"rays": {}}, "marks to set"),
        ("eye", {"guess": 1e9, "within": 10}, "guess"),
        ("eye", {"guess": 50, "within": 11}, "how sure"),
        ("long_side", {"zone": "tail", "side": "left", "mm": 3}, "which place is long"),
        ("suits", {"order": ["round"], "why": "hair"}, "an order of outlines"),
        ("plan", {"family": "round", "lengths": {}, "tools": {}, "order": []}, "a whole plan"),
    ],
)
def test_what_is_no_answer_is_said_and_the_question_stays(
    client: TestClient, person: int, drill: str, answer: dict[str, Any], what: str
) -> None:
    task = ask(client, person, drill)
    refused = client.post(
        f"/api/practice/tasks/{task['id']}/answer", json={"answer": {"drill": drill, **answer}}
    )
    assert refused.status_code == 422
    assert what in refused.json()["message"]
    assert ask(client, person, drill)["id"] == task["id"]


def test_an_answer_to_another_drill_is_refused(client: TestClient, person: int) -> None:
    task = ask(client, person, "eye")
    body = {"answer": {"drill": "long_side", "zone": "cheek", "side": "left", "mm": 3}}
    assert client.post(f"/api/practice/tasks/{task['id']}/answer", json=body).status_code == 422


def test_a_true_ray_is_a_hit(client: TestClient, person: int) -> None:
    """The place that the answer tells of a mark, pointed at again on the same head, is there."""
    task = ask(client, person, "bone")
    shown = told(client, task, some_answer(task))
    for miss in shown["told"]["misses"]:
        true = np.array(shown["marks_mm"][miss["mark"]])
        passed = np.array([-500.0, 0, 0]) - true
        assert miss["off_mm"] == pytest.approx(float(np.hypot(passed[1], passed[2])), abs=0.1)


@pytest.mark.parametrize("start", ["[1e999, 0, 0]", "[NaN, 0, 0]", '["here", 0, 0]', "[0, 0]"])
def test_a_finger_that_points_nowhere_is_refused(client: TestClient, person: int, start: str) -> None:
    task = ask(client, person, "bone")
    rays = ", ".join(f'"{m["id"]}": {{"start": {start}, "along": [1, 0, 0]}}' for m in task["marks"])
    body = f'{{"answer": {{"drill": "bone", "rays": {{{rays}}}}}}}'
    address = f"/api/practice/tasks/{task['id']}/answer"
    refused = client.post(address, content=body, headers={"content-type": "application/json"})
    assert refused.status_code == 422
    assert ask(client, person, "bone")["id"] == task["id"]


def test_the_long_side_is_drawn_longer(client: TestClient, person: int, store: SalonStore) -> None:
    task = ask(client, person, "long_side")
    cut = np.frombuffer(base64.b64decode(task["scene"]["cut"]["leave"]), "<i2") * 0.05
    place = np.frombuffer(base64.b64decode(task["place_of"]), "u1")
    with store.reading() as session:
        asked = session.get(PracticeTaskRow, task["id"])
        assert asked is not None
        zone, side, mm = asked.asked.zone, asked.asked.side, asked.asked.mm  # type: ignore[union-attr]
    by_words = {(one["zone"], one["side"]): i + 1 for i, one in enumerate(task["places"])}
    other = "right" if side == "left" else "left"
    here, there = (float(cut[place == by_words[zone, one]].mean()) for one in (side, other))
    assert here - there == pytest.approx(mm, abs=1.2)


def test_a_photographed_dog_is_marked_and_shown_wet(client: TestClient, person: int) -> None:
    seen = []
    for _ in range(3):
        task = ask(client, person, "bone")
        if task["photo"]:
            seen.append(task["photo"])
            assert client.get(task["photo"]["url"]).headers["content-type"] == "image/jpeg"
        told(client, task, some_answer(task))
    assert len(seen) == 1
    assert client.get("/api/practice/photos/nobody/front").status_code == 404


def test_practice_touches_no_dog(client: TestClient, person: int, store: SalonStore) -> None:
    for drill in DRILLS:
        task = ask(client, person, drill)
        told(client, task, some_answer(task))
    with store.reading() as session:
        assert session.query(DogRow).count() == 0
        assert session.query(VisitRow).count() == 0
        assert session.query(PracticeTaskRow).count() == len(DRILLS)


def test_a_trainer_sees_only_who_says_so(client: TestClient, person: int) -> None:
    task = ask(client, person, "eye")
    told(client, task, some_answer(task))
    assert client.get("/api/practice/trainer").json() == []
    client.put(f"/api/practice/people/{person}", json={"shown": True})
    (seen,) = client.get("/api/practice/trainer").json()
    assert seen["name"] == "Wren Sallow"
    client.put(f"/api/practice/people/{person}", json={"shown": False})
    assert client.get("/api/practice/trainer").json() == []


def test_who_leaves_the_list_comes_back_with_what_they_did(client: TestClient, person: int) -> None:
    task = ask(client, person, "eye")
    told(client, task, some_answer(task))
    client.put(f"/api/practice/people/{person}", json={"removed": True})
    assert client.get("/api/practice/people").json()["people"] == []
    back = client.post("/api/practice/people", json={"name": "wren sallow"}).json()
    assert back["id"] == person
    drills = {
        d["drill"]: d for d in client.get(f"/api/practice/people/{person}").json()["progress"]["drills"]
    }
    assert drills["eye"]["answers"] == 1


def test_nobody_practises_without_a_name(client: TestClient) -> None:
    assert client.post("/api/practice/people", json={"name": "   "}).status_code == 422
    assert client.get("/api/practice/people/99").status_code == 404


def test_results_are_a_table(client: TestClient, person: int) -> None:
    for drill in DRILLS:
        task = ask(client, person, drill)
        told(client, task, some_answer(task))
    lines = client.get(f"/api/practice/people/{person}/results.csv").text.splitlines()
    assert lines[0] == "when,drill,session,what,answer,truth,off,unit,right"
    assert {line.split(",")[1] for line in lines[1:]} == set(DRILLS)


def test_the_next_drill_is_one_that_was_not_tried(client: TestClient, person: int) -> None:
    assert client.get(f"/api/practice/people/{person}").json()["progress"]["next"] == "bone"
    task = ask(client, person, "bone")
    told(client, task, some_answer(task))
    assert client.get(f"/api/practice/people/{person}").json()["progress"]["next"] == "eye"
