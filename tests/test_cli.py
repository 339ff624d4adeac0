"""The `dapwick` command on head files: documents, tables, and one clear line when it cannot."""

from __future__ import annotations

import csv
import json
import shutil
import subprocess
import sys
from pathlib import Path
from typing import Any

import pytest
import trimesh
from PIL import Image

from dapwick.core.outlines.families import FAMILIES
from dapwick.demo.dogs import PHOTOS
from dapwick.documents.head_file import HeadFile, read_head_file
from dapwick.records.lock import SalonLock
from dapwick.records.store import SalonStore
from dapwick.service.dogs.about import add_dog, find_dogs
from dapwick.service.salon.demo import fill_with_demo
from dapwick.service.salon.passcode import Passcode
from demo_heads import demo_head_file

COMMAND = str(Path(sys.executable).parent / "dapwick")


def run(*args: str | Path) -> subprocess.CompletedProcess[str]:
    return subprocess.run(
        [COMMAND, *map(str, args)], capture_output=True, text=True, timeout=120, check=False
    )


@pytest.fixture
def head(tmp_path: Path) -> Path:
    path = tmp_path / "fogbell.json"
    path.write_text(demo_head_file("fogbell").model_dump_json(by_alias=True))
    for photo in PHOTOS.glob("fogbell*.jpg"):
        shutil.copy(photo, tmp_path)
    return path


def changed(head: Path, change: dict[str, Any]) -> Path:
    data = json.loads(head.read_text())
    data.update(change)
    head.write_text(json.dumps(data))
    return head


def test_measures_come_as_a_table_too(head: Path) -> None:
    done = run("measure", head, head, "--csv")
    assert done.returncode == 0, done.stderr
    rows = list(csv.DictReader(done.stdout.splitlines()))
    told = json.loads(run("measure", head, "--json").stdout)["measures"]
    assert len(rows) == 2 * len(told)
    for row, m in zip(rows, told, strict=False):
        assert (row["head"], row["id"], row["unit"]) == ("fogbell.json", m["id"], m["unit"])
        assert float(row["low"]) < float(row["value"]) < float(row["high"])
        assert float(row["value"]) == pytest.approx(m["value"], rel=1e-3, abs=1e-3)


def test_measure_prints_one_document_a_line(head: Path) -> None:
    done = run("measure", head, head, "--json")
    assert done.returncode == 0
    first, second = [json.loads(line) for line in done.stdout.splitlines()]
    assert first == second
    assert len(first["points_mm"]) == 24
    assert {m["id"] for m in first["measures"]} >= {"skull_width", "muzzle_ratio"}
    for m in first["measures"]:
        assert m["low"] < m["value"] < m["high"]
    assert {c["file"] for c in first["cameras"]} == {"fogbell-dry-front.jpg", "fogbell-dry-left.jpg"}
    assert all(600 < c["distance_mm"] < 1200 for c in first["cameras"])


def test_measure_prints_a_table(head: Path) -> None:
    done = run("measure", head)
    assert "skull width" in done.stdout
    assert "stop angle" in done.stdout
    assert "muzzle, " in done.stdout


def test_measure_tells_proportions_and_unevenness(head: Path) -> None:
    document = json.loads(run("measure", head, "--json").stdout)
    assert {p["measure"] for p in document["proportions"]} >= {"muzzle_ratio", "ear_set_ratio"}
    assert {u["verdict"] for u in document["unevenness"]} <= {"real", "within the measuring error"}
    assert len(document["unevenness"]) == 24
    assert "next" not in document


def test_measure_tells_what_to_measure_next(head: Path) -> None:
    changed(head, {"hand_measures": []})
    document = json.loads(run("measure", head, "--json", "--next").stdout)
    first = document["next"][0]
    assert first["kind"] == "hand"
    assert first["after_mm"] < first["before_mm"]
    table = run("measure", head, "--next").stdout
    assert f"→ {first['sentence']}" in table


def test_a_said_kind_of_head_is_heeded_and_an_unknown_one_refused(head: Path) -> None:
    dog = json.loads(head.read_text())["dog"]
    changed(head, {"dog": {**dog, "muzzle": "short", "ears": "prick"}})
    assert run("measure", head).returncode == 0
    done = run("measure", changed(head, {"dog": {**dog, "muzzle": "endless"}}))
    assert done.returncode == 2
    assert "dog.muzzle" in done.stderr


def test_plan_traces_the_missing_edges_and_prints_lengths(head: Path) -> None:
    done = run(
        "plan", head, "--outline", "round", "--param", "fullness=0.5", "--school", "fringe=straight", "--json"
    )
    assert done.returncode == 0, done.stderr
    plan = json.loads(done.stdout)
    assert plan["params"]["fullness"] == 0.5
    assert plan["schools"]["fringe"] == "straight"
    assert len({z["zone"] for z in plan["zones"]}) == len(plan["zones"]) / 2 > 15
    assert set(plan["zones"][0]) >= {
        "zone",
        "side",
        "leave_mm",
        "low",
        "high",
        "remove_mm",
        "shortage_mm",
        "depth_mm",
        "tool",
    }
    assert set(plan["contours"]["photos_px"]) == {"fogbell-dry-front.jpg", "fogbell-dry-left.jpg"}
    assert plan["fit"]["smallest_mm"] < plan["fit"]["size_mm"] < plan["fit"]["largest_mm"]


BAD_FILES: list[tuple[dict[str, Any], str]] = [
    ({"format": "other"}, "format"),
    ({"version": 2}, "version"),
    ({"photos": [{"view": "sideways", "width": 10, "height": 10, "marks": {}}]}, "photos.0.view"),
    ({"photos": [{"view": "front", "width": 10, "height": 10, "marks": {"tail": [1, 2]}}]}, "tail"),
    ({"photos": [{"view": "front", "width": 10, "height": 10, "marks": {"stop": [1]}}]}, "stop"),
    ({"hand_measures": [{"from": "stop", "to": "nose_tip", "mm": "wide"}]}, "mm"),
    ({"hand_measures": [{"from": "stop", "to": "tail", "mm": 50}]}, "tail"),
    ({"photos": "none"}, "photos"),
]


@pytest.mark.parametrize(("change", "words"), BAD_FILES)
def test_bad_files_end_with_one_line_and_exit_2(head: Path, change: dict[str, Any], words: str) -> None:
    done = run("measure", changed(head, change), "--json")
    assert done.returncode == 2
    assert done.stdout == ""
    assert len(done.stderr.strip().splitlines()) == 1
    assert words in done.stderr
    assert "expected" in done.stderr
    assert "got" in done.stderr


def test_no_file_and_no_json_are_told(tmp_path: Path) -> None:
    broken = tmp_path / "broken.json"
    broken.write_text("{")
    for path in (tmp_path / "nowhere.json", broken):
        done = run("measure", path)
        assert done.returncode == 2
        assert path.name in done.stderr


def test_outlines_are_listed_best_first(head: Path) -> None:
    done = run("outlines", head, "--json")
    assert done.returncode == 0, done.stderr
    listed = json.loads(done.stdout)
    assert {one["family"] for one in listed} == set(FAMILIES)
    stages = [("today", "later", "not_on_this_coat").index(one["verdict"]) for one in listed]
    assert stages == sorted(stages)
    assert all(one["reasons"] and one["params"] for one in listed)
    assert all((one["weeks"] > 0) == (one["verdict"] == "later") for one in listed)


def test_wishes_in_the_file_steer_the_plan(head: Path) -> None:
    def plan(**wishes: Any) -> Any:
        done = run("plan", changed(head, {"wishes": wishes}), "--outline", "teddy", "--json")
        assert done.returncode == 0, done.stderr
        return json.loads(done.stdout)

    short, long = plan(beard="short"), plan(beard="long")
    assert short["params"]["muzzle_mm"] < long["params"]["muzzle_mm"] - 2
    assert [w["wish"] for w in short["wishes"]] == ["beard short"]
    refused = run("plan", changed(head, {"wishes": {"beard": "blue"}}))
    assert refused.returncode == 2
    assert "any, short, long" in refused.stderr


def test_lengths_and_the_body_are_said_on_the_command_line_or_in_the_file(head: Path) -> None:
    said = run(
        "plan",
        head,
        "--outline",
        "teddy",
        "--length",
        "crown=8",
        "--body",
        "6",
        "--as-body",
        "throat",
        "--json",
    )
    assert said.returncode == 0, said.stderr
    plan = json.loads(said.stdout)
    assert {z["leave_mm"] < 8.6 for z in plan["zones"] if z["zone"] == "crown"} == {True}
    assert {"crown 8 mm", "nape 6 mm", "throat 6 mm"} <= {w["wish"] for w in plan["wishes"]}
    assert plan["called"]
    filed = run(
        "plan", changed(head, {"wishes": {"lengths": {"crown": 8.0}}}), "--outline", "teddy", "--json"
    )
    crown = [z["leave_mm"] for z in json.loads(filed.stdout)["zones"] if z["zone"] == "crown"]
    assert crown == [z["leave_mm"] for z in plan["zones"] if z["zone"] == "crown"]
    refused = run("cutsheet", head, "--length", "tail=8")
    assert refused.returncode == 2
    assert "crown" in refused.stderr


def test_a_salons_own_outline_is_planned_from_its_file(head: Path, tmp_path: Path) -> None:
    own = tmp_path / "harbour.json"
    document = {"format": "dapwick-outline", "version": 1, "name": "Harbour round", "based_on": "round"}
    own.write_text(
        json.dumps({**document, "parameters": {"visor_mm": 0.0}, "schools": {"fringe": "straight"}})
    )
    done = run("plan", head, "--outline", own, "--json")
    assert done.returncode == 0, done.stderr
    assert json.loads(done.stdout)["schools"]["fringe"] == "straight"
    own.write_text(json.dumps({**document, "parameters": {"sparkle": 1}}))
    assert "sparkle" in run("plan", head, "--outline", own).stderr


@pytest.mark.parametrize(("what", "ending"), [("skin", "ply"), ("coat", "stl"), ("finished", "glb")])
def test_a_surface_is_written_as_other_programs_read_it(head: Path, what: str, ending: str) -> None:
    to = head.with_name(f"surface.{ending}")
    done = run("surface", head, "--what", what, "--to", to)
    assert done.returncode == 0, done.stderr
    mesh = trimesh.load(to, force="mesh", process=False)
    assert len(mesh.faces) > 2000
    assert 100 < mesh.extents[1] < 400
    refused = run("surface", head, "--what", what, "--to", head.with_name("surface.doc"))
    assert refused.returncode == 2
    assert "expected .ply, .stl, .glb" in refused.stderr


def test_the_owners_picture_is_written_and_another_ending_refused(head: Path) -> None:
    to = head.with_name("owner.png")
    done = run("picture", head, "--outline", "teddy", "--weeks", "4", "--to", to)
    assert done.returncode == 0, done.stderr
    with Image.open(to) as page:
        assert page.width == 2000
    assert "view" in done.stdout
    refused = run("picture", head, "--to", head.with_name("owner.doc"))
    assert refused.returncode == 2
    assert "expected .png" in refused.stderr


def test_plan_refuses_unknown_outlines_and_bare_options(head: Path) -> None:
    assert "round" in run("plan", head, "--outline", "spiral").stderr
    assert "KEY=VALUE" in run("plan", head, "--param", "fullness").stderr
    assert run("plan", head, "--param", "fullness=much").returncode == 2


def test_plan_without_any_coat_is_refused(head: Path) -> None:
    for photo in head.parent.glob("*.jpg"):
        photo.unlink()
    done = run("plan", head)
    assert done.returncode == 2
    assert "coat" in done.stderr


def test_measuring_nothing_prints_findings_not_numbers(head: Path) -> None:
    done = run("measure", changed(head, {"photos": []}), "--json")
    assert done.returncode == 0
    assert json.loads(done.stdout)["measures"] == []


def test_unknown_fields_survive_a_round_trip(head: Path) -> None:
    file = read_head_file(changed(head, {"salon": {"shelf": 3}}))
    back = HeadFile.model_validate_json(file.model_dump_json(by_alias=True))
    assert back.model_dump()["salon"] == {"shelf": 3}
    assert back == file


@pytest.fixture(scope="module")
def salon(tmp_path_factory: pytest.TempPathFactory) -> Path:
    folder = tmp_path_factory.mktemp("cli") / "salon"
    store = SalonStore(folder)
    fill_with_demo(store, ("fogbell",))
    store.close()
    return folder


def test_a_dog_goes_out_of_one_salon_and_into_another(salon: Path, tmp_path: Path) -> None:
    bundle = tmp_path / "fogbell.zip"
    assert run("export", "fogbell", "--to", bundle, "--salon", salon).returncode == 0
    taken = run("import", bundle, "--salon", tmp_path / "other")
    assert "Fogbell is here: 1 visits" in taken.stdout
    again = run("export", "1", "--to", tmp_path / "again.zip", "--salon", tmp_path / "other")
    assert again.returncode == 0
    assert (tmp_path / "again.zip").read_bytes() == bundle.read_bytes()
    twice = run("import", bundle, "--salon", tmp_path / "other")
    assert (twice.returncode, "here already" in twice.stderr) == (2, True)


def test_a_salon_is_backed_up_and_put_back(salon: Path, tmp_path: Path) -> None:
    made = run("backup", "--to", tmp_path / "all.zip", "--salon", salon)
    assert "2 photos" in made.stdout
    back = run("restore", tmp_path / "all.zip", "--salon", tmp_path / "new")
    assert back.returncode == 0
    assert run("export", "Fogbell", "--to", tmp_path / "f.zip", "--salon", tmp_path / "new").returncode == 0


@pytest.mark.parametrize(
    ("args", "words"),
    [
        (("export", "nobody", "--to", "x.zip"), "0 of that name"),
        (("export", "99", "--to", "x.zip"), "There is no dog 99"),
        (("import", "nowhere.zip"), "cannot open it"),
        (("restore", "nowhere.zip"), "cannot open it"),
    ],
)
def test_what_cannot_be_moved_is_one_line(salon: Path, args: tuple[str, ...], words: str) -> None:
    done = run(*args, "--salon", salon)
    assert done.returncode == 2
    assert words in done.stderr
    assert len(done.stderr.splitlines()) == 1


def test_a_salon_that_is_not_there_is_not_made(tmp_path: Path) -> None:
    done = run("backup", "--to", tmp_path / "x.zip", "--salon", tmp_path / "none")
    assert (done.returncode, "no salon there" in done.stderr) == (2, True)
    assert not (tmp_path / "none").exists()


def test_a_second_server_says_who_has_the_salon_and_ends(tmp_path: Path) -> None:
    salon = tmp_path / "salon"
    with SalonLock(salon, "the server at http://127.0.0.1:8350"):
        for command in (["serve"], ["restore", str(tmp_path / "all.zip")]):
            told = run(*command, "--salon", salon)
            assert told.returncode == 2
            assert "is open in the server at http://127.0.0.1:8350" in told.stderr
    assert not (salon / "salon.db").exists()


def test_a_damaged_salon_is_told_in_a_sentence_and_restored(tmp_path: Path) -> None:
    good, torn = tmp_path / "good", tmp_path / "torn"
    store = SalonStore(good)
    add_dog(store, "Squall", "curl")
    store.close()
    assert run("backup", "--to", tmp_path / "all.zip", "--salon", good).returncode == 0
    torn.mkdir()
    (torn / "salon.db").write_bytes(b"torn" * 900)
    told = run("serve", "--salon", torn)
    assert told.returncode == 2
    assert "dapwick restore" in told.stderr
    assert "Traceback" not in told.stderr
    refused = run("restore", good / "salon.db", "--salon", torn)
    assert refused.returncode == 2
    assert (torn / "salon.db").read_bytes() == b"torn" * 900
    done = run("restore", tmp_path / "all.zip", "--salon", torn)
    assert done.returncode == 0
    again = SalonStore(torn)
    assert [dog.name for dog in find_dogs(again)] == ["Squall"]
    again.close()


def test_a_new_passcode_is_made_at_the_machine(tmp_path: Path) -> None:
    store = SalonStore(tmp_path / "salon")
    door = Passcode(store)
    assert "no passcode yet" in run("passcode", "--salon", store.folder).stdout
    made = run("passcode", "--new", "--salon", store.folder).stdout
    code = next(word for word in made.replace(".", " ").split() if word.isdecimal())
    # The server that runs meanwhile knows it at once.
    assert door.knows(door.enter(code))
    assert "only its hash is kept" in run("passcode", "--salon", store.folder).stdout
    store.close()


def test_look_tells_what_is_seen_in_a_photo(tmp_path: Path) -> None:
    shutil.copy(PHOTOS / "tiller-dry-front.jpg", tmp_path / "IMG_0042.jpg")
    marks = tmp_path / "marks.json"
    marks.write_text('{"nose_tip": [600, 500], "stop": [600, 380], "chin": [600, 640], "crown": [600, 200]}')
    done = run("look", tmp_path / "IMG_0042.jpg", "--json")
    seen = json.loads(done.stdout)
    assert done.returncode == 0
    assert (seen["file"], seen["head_found"], seen["view"]["id"]) == ("IMG_0042.jpg", True, "front")
    assert set(seen["asks"]) <= {"view", "state"}
    assert seen["seconds"] > 0
    assert len(seen["edge"]) > 50
    assert all(m["sigma_px"] > 0 and len(m["at"]) == 2 for m in seen["marks"].values())
    told = run("look", tmp_path / "IMG_0042.jpg", "--view", "front", "--marks", marks)
    assert "IMG_0042.jpg" in told.stdout
    assert "front, 100%" in told.stdout


@pytest.mark.parametrize(
    ("options", "words"),
    [
        (("--view", "below"), "view"),
        (("--marks", "none.json"), "marks"),
        (("--marks", "odd.json"), "mark"),
        (("--marks", "list.json"), "marks"),
    ],
)
def test_look_refuses_in_one_line(tmp_path: Path, options: tuple[str, str], words: str) -> None:
    (tmp_path / "odd.json").write_text('{"elbow": [1, 2]}')
    (tmp_path / "list.json").write_text("[1, 2]")
    option, value = options
    given = tmp_path / value if value.endswith(".json") else value
    done = run("look", PHOTOS / "tiller-dry-front.jpg", option, given)
    assert done.returncode == 2
    assert len(done.stderr.strip().splitlines()) == 1
    assert words in done.stderr


def test_look_refuses_what_is_no_photo(tmp_path: Path) -> None:
    (tmp_path / "a.jpg").write_bytes(b"no photo")
    for path in (tmp_path / "a.jpg", tmp_path / "gone.jpg"):
        done = run("look", path, "--json")
        assert done.returncode == 2
        assert path.name in done.stderr
