"""The routes of measuring: words, unevenness, what to do next, drawings, kinds, bands, visits."""

from __future__ import annotations

import pytest
from fastapi.testclient import TestClient

from dapwick.core.measures.bands import BANDS


def test_measures_come_with_words_and_unevenness(demo_client: TestClient) -> None:
    told = demo_client.get("/api/dogs/1/measure").json()
    assert {p["measure"] for p in told["proportions"]} == {b.measure for b in BANDS}
    assert len(told["unevenness"]) == 24
    assert all(u["real"] for u in told["uneven"])
    assert {m["unit"] for m in told["measures"]} == {"mm", "deg", "ratio"}
    assert told["known_visits"] == 0


def test_next_is_sorted_and_spoken(demo_client: TestClient) -> None:
    asked = demo_client.get("/api/dogs/1/next").json()
    assert len(asked) > 3
    assert asked == sorted(asked, key=lambda n: -n["gain_mm"] / n["seconds"])
    assert all(n["sentence"].endswith(" mm.") for n in asked)
    assert demo_client.get("/api/dogs/2/next").json() == []
    assert demo_client.get("/api/dogs/77/next").status_code == 404


def test_a_head_is_drawn_or_null(demo_client: TestClient) -> None:
    drawn = demo_client.get("/api/dogs/1/head").json()
    assert set(drawn["views"]) == {"front", "left", "top"}
    assert demo_client.get("/api/dogs/2/head").json() is None


def test_kind_of_head_is_put_and_refused(demo_client: TestClient) -> None:
    dog = demo_client.put("/api/dogs/1/kind", json={"muzzle": "short", "ears": "drop"}).json()
    assert (dog["muzzle"], dog["ears"]) == ("short", "drop")
    assert demo_client.put("/api/dogs/1/kind", json={"muzzle": "round", "ears": "drop"}).status_code == 422


def test_a_visit_is_opened(demo_client: TestClient) -> None:
    answer = demo_client.post("/api/dogs/1/visits")
    assert answer.status_code == 201
    assert [v["bone"] for v in answer.json()["visits"]] == [True, False]
    assert answer.json()["photos"] == []
    assert demo_client.get("/api/dogs/1/measure").json()["known_visits"] == 1
    assert demo_client.post("/api/dogs/77/visits").status_code == 404


@pytest.mark.parametrize(
    ("edges", "told"),
    [
        ({"muzzle_ratio": [0.9, 0.1]}, "rising"),
        ({"tail": [1]}, "unknown band"),
        ({"plane_angle": [1, 2]}, "1 rising"),
    ],
)
def test_bad_bands_are_told(demo_client: TestClient, edges: dict[str, list[float]], told: str) -> None:
    answer = demo_client.put("/api/bands", json={"edges": edges})
    assert answer.status_code == 422
    assert told in answer.json()["message"]


def test_bands_are_moved(demo_client: TestClient) -> None:
    bands = demo_client.put("/api/bands", json={"edges": {"muzzle_ratio": [0.45, 0.75]}}).json()
    band = next(b for b in bands if b["measure"] == "muzzle_ratio")
    assert (band["edges"], band["usual"]) == ([0.45, 0.75], [0.5, 0.8])
    assert demo_client.get("/api/bands").json() == bands


def test_the_guide_tells_what_to_measure_and_comb(demo_client: TestClient) -> None:
    guide = demo_client.get("/api/mark-guide").json()
    assert guide["spans"][0]["from_mark"] == "eye_outer_left"
    assert {"crown", "ear_edge"} <= set(guide["combed"])
    for zone in guide["combed"]:
        answer = demo_client.put("/api/dogs/1/coat-probes", json=[{"zone": zone, "depth_mm": 12}])
        assert answer.status_code == 200, zone
