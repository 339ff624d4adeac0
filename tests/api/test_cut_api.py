"""The cut through the API: what a screen asks for, in its order, and what it may not ask."""

from __future__ import annotations

import json

import pypdfium2
import pytest
from fastapi.testclient import TestClient

from dapwick.core.cut.handling import TRAITS
from dapwick.service.cutting.cut import NOTES


@pytest.fixture
def with_outline(demo_client: TestClient) -> TestClient:
    assert demo_client.put("/api/dogs/1/outline", json={"family": "teddy"}).status_code == 200
    return demo_client


def test_the_guide_names_every_trait_and_note(demo_client: TestClient) -> None:
    guide = demo_client.get("/api/cut-guide").json()
    assert {t["code"] for t in guide["traits"]} == set(TRAITS)
    assert {n["code"] for n in guide["notes"]} == set(NOTES)


def test_before_an_outline_there_is_no_sheet_but_a_reason(demo_client: TestClient) -> None:
    cut = demo_client.get("/api/dogs/1/cut").json()
    assert cut["sheet"] is None
    assert cut["reason"]
    for path in ("cut-sheet.pdf", "outline.pdf", "outline-front.svg"):
        assert demo_client.get(f"/api/dogs/1/{path}").status_code == 422
    assert demo_client.post("/api/dogs/1/cut", json={}).status_code == 422


def test_a_cut_from_start_to_end(with_outline: TestClient) -> None:
    client = with_outline
    sheet = client.get("/api/dogs/1/cut").json()["sheet"]
    assert sheet["stylist"]["name"] == "Oriel"
    started = client.post("/api/dogs/1/cut", json={}).json()
    assert started["started"]
    for step in sheet["steps"][:3]:
        entry = {"state": "done", "seconds": 12.5, "at": "2026-11-24T10:00:00+01:00"}
        assert client.put(f"/api/dogs/1/cut/steps/{step['id']}", json=entry).status_code == 204
    log = client.get("/api/dogs/1/cut").json()["log"]
    assert len(log) == 3
    assert all(e["at"].startswith("2026-11-24T09:00") for e in log.values())
    assert client.get("/api/dogs/1").json()["stages"]["cut"] == "needs_you"
    client.post("/api/dogs/1/cut/end", json={})
    assert client.get("/api/dogs/1").json()["stages"]["cut"] == "done"
    client.delete("/api/dogs/1/cut/end")
    assert client.get("/api/dogs/1").json()["stages"]["cut"] == "needs_you"


REFUSED: tuple[tuple[str, str, dict[str, object] | None, int], ...] = (
    ("PUT", "/api/dogs/1/cut/steps/none", {"state": "done"}, 404),
    ("PUT", "/api/dogs/1/cut/steps/look_over", {"state": "burnt"}, 422),
    ("PUT", "/api/dogs/1/cut/steps/look_over", {"state": "done", "seconds": -1}, 422),
    ("PUT", "/api/dogs/1/cut/steps/look_over", {"state": "done", "notes": ["gossip"]}, 422),
    ("PUT", "/api/dogs/99/cut/steps/look_over", {"state": "done"}, 404),
    ("POST", "/api/dogs/1/cut/end", {"stopped_after": "none"}, 404),
    ("PUT", "/api/dogs/1/traits", {"traits": ["grumpy"]}, 422),
    ("PUT", "/api/dogs/1/stylist", {"name": "Nobody"}, 422),
    ("GET", "/api/dogs/1/cut-sheet.pdf?paper=a5", None, 422),
    ("GET", "/api/dogs/1/outline-top.svg", None, 422),
)


def test_what_cannot_be_is_told_in_words(with_outline: TestClient) -> None:
    for method, path, body, status in REFUSED:
        answer = with_outline.request(method, path, json=body)
        assert answer.status_code == status, (path, answer.text)
        assert answer.json()["message"]
    assert with_outline.get("/api/dogs/1/cut").json()["log"] == {}


def test_paper_comes_as_pdf_and_svg(with_outline: TestClient) -> None:
    for paper in ("a4", "letter"):
        sheet = with_outline.get(f"/api/dogs/1/cut-sheet.pdf?paper={paper}")
        assert sheet.headers["content-type"] == "application/pdf"
        assert 1 <= len(pypdfium2.PdfDocument(sheet.content)) <= 3
        assert (
            len(pypdfium2.PdfDocument(with_outline.get(f"/api/dogs/1/outline.pdf?paper={paper}").content))
            == 2
        )
    assert with_outline.get("/api/dogs/1/outline-left.svg").text.startswith("<svg")


def test_a_kit_goes_out_and_in_unchanged_and_a_wrong_one_stays_out(demo_client: TestClient) -> None:
    kit = demo_client.get("/api/kit").json()
    assert [one["name"] for one in kit["stylists"]] == ["Oriel", "Benno"]
    assert demo_client.put("/api/kit", json=kit).json() == kit
    wrong = json.loads(json.dumps(kit))
    wrong["tools"][0]["leaves_mm"] = -1
    answer = demo_client.put("/api/kit", json=wrong)
    assert answer.status_code == 422
    assert "length left" in answer.json()["message"]
    assert demo_client.get("/api/kit").json() == kit
    assert demo_client.get("/api/kit/usual").json()["tools"] == kit["tools"]
