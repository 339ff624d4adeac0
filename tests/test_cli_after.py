"""`dapwick check` and `dapwick forecast` on a head file that holds finished photos."""

from __future__ import annotations

import json
from datetime import date, timedelta
from pathlib import Path
from typing import Any

import pytest
from typer.testing import CliRunner

from dapwick.cli import app
from dapwick.demo.dogs import history
from dapwick.pipeline.check import SEEN

RUN = CliRunner()


@pytest.fixture(scope="module")
def head(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """Capstan's visit of the demo as an open head file, its edges in it."""
    kept = (history("capstan") or [])[-1]
    path = tmp_path_factory.mktemp("cli") / "capstan.json"
    path.write_text(json.dumps(head_file(kept)), "utf-8")
    return path


def head_file(visit: dict[str, Any]) -> dict[str, Any]:
    return {
        "format": "dapwick-head",
        "version": 1,
        "dog": {"name": "Capstan", "coat": "standing", "born": "2021-05-20"},
        "photos": [entry(photo) for photo in visit["photos"]],
        "hand_measures": visit["hand_measures"],
        "coat_probes": visit["coat_probes"],
    }


def entry(photo: dict[str, Any]) -> dict[str, Any]:
    guessed = photo["looked"]["guess"]["marks"] if photo["state"] == "finished" else {}
    seen = {mark: {"at": at[:2]} for mark, at in guessed.items() if mark in SEEN}
    return {
        "file": photo["file_name"],
        "view": photo["view"],
        "state": photo["state"],
        "width": photo["width_px"],
        "height": photo["height_px"],
        "focal_px": photo["focal_px"],
        "marks": photo["marks"] or seen,
        **(
            {"skin_edge" if photo["state"] == "wet" else "coat_edge": photo["coat_edge"]}
            if photo["coat_edge"]
            else {}
        ),
    }


def test_the_cheek_left_long_is_told(head: Path) -> None:
    ran = RUN.invoke(app, ["check", str(head), "--outline", "round", "--json"])
    assert ran.exit_code == 0, ran.output
    told = json.loads(ran.stdout)
    assert ("cheek", "left") in {(t["zone"], t["side"]) for t in told["touch_ups"]}
    cheek = next(d for d in told["deviations"] if (d["zone"], d["side"]) == ("cheek", "left"))
    assert cheek["low"] <= cheek["mm"] <= cheek["high"]
    assert 0 < cheek["seen_share"] <= 1
    assert any(e["zone"] == "cheek" and e["state"] == "uneven" for e in told["even"])
    table = RUN.invoke(app, ["check", str(head)])
    assert "left cheek" in table.stdout


def test_a_comb_in_the_file_tells_more_than_its_photos(head: Path, tmp_path: Path) -> None:
    first = json.loads(RUN.invoke(app, ["check", str(head), "--json"]).stdout)["comb"][0]
    file = json.loads(head.read_text("utf-8"))
    for long_mm, long in ((10.0, True), (0.0, False)):
        place = {"zone": first["zone"], "side": first["side"], "depth_mm": first["leave_mm"] + long_mm}
        path = tmp_path / "combed.json"
        path.write_text(json.dumps(file | {"combed_after": [place]}), "utf-8")
        told = json.loads(RUN.invoke(app, ["check", str(path), "--json"]).stdout)
        asked = {(t["zone"], t["side"]) for t in told["touch_ups"]}
        assert ((first["zone"], first["side"]) in asked) is long


def test_the_forecast_has_dates_a_week_and_lengths(head: Path) -> None:
    ran = RUN.invoke(app, ["forecast", str(head), "--weeks", "6", "--day", "2026-03-02", "--json"])
    assert ran.exit_code == 0, ran.output
    told = json.loads(ran.stdout)
    assert told["events"]
    for event in told["events"]:
        assert event["low_day"] <= event["day"] <= event["high_day"]
    assert told["day"] == (date(2026, 3, 2) + timedelta(weeks=told["weeks"])).isoformat()
    assert told["lengths"]["weeks"] == 6
    now = json.loads(RUN.invoke(app, ["forecast", str(head), "--weeks", "0", "--json"]).stdout)["lengths"]
    assert all(mm >= now["zones_mm"][zone] for zone, mm in told["lengths"]["zones_mm"].items())
    assert "minded" in RUN.invoke(app, ["forecast", str(head)]).stdout


def test_finished_photos_do_not_measure_the_head(head: Path, tmp_path: Path) -> None:
    without = json.loads(head.read_text("utf-8"))
    without["photos"] = [p for p in without["photos"] if p["state"] != "finished"]
    bare = tmp_path / "bare.json"
    bare.write_text(json.dumps(without), "utf-8")
    both = [json.loads(RUN.invoke(app, ["measure", str(path), "--json"]).stdout) for path in (head, bare)]
    assert both[0]["points_mm"] == both[1]["points_mm"]


def test_bad_input_ends_with_one_line(head: Path, tmp_path: Path) -> None:
    without = json.loads(head.read_text("utf-8"))
    without["photos"] = [p for p in without["photos"] if p["state"] != "finished"]
    bare = tmp_path / "bare.json"
    bare.write_text(json.dumps(without), "utf-8")
    for arguments, said in (
        (["check", str(bare)], "nothing to check"),
        (["forecast", str(head), "--day", "tomorrow"], "YYYY-MM-DD"),
        (["check", str(head), "--outline", "cube"], "cube"),
    ):
        ran = RUN.invoke(app, arguments)
        assert ran.exit_code == 2
        assert said in ran.stderr
        assert len(ran.stderr.strip().splitlines()) == 1
