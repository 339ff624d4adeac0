"""What stands before every request: names, origins, sizes, headers, the passcode."""

from __future__ import annotations

import sqlite3
import zipfile
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import closing
from pathlib import Path

import pytest
from fastapi.testclient import TestClient
from sqlalchemy import select

from dapwick.api.app import make_app
from dapwick.api.guard import LARGEST_JSON, limit_of
from dapwick.core.basics.errors import BadInput, NotAuthorised
from dapwick.devices.network import host_name, is_here, reach_of
from dapwick.exports.address_code import address_svg
from dapwick.records.backup import write_backup
from dapwick.records.models import SessionRow, SettingRow
from dapwick.records.store import SalonStore
from dapwick.service.salon import passcode as doors
from dapwick.service.salon.backups import restore
from dapwick.service.salon.passcode import HERE, Passcode

CODE = "harbour-7"
TABLET = "http://192.0.2.7:8350"
ELSEWHERE = "192.0.2.9"


@pytest.fixture
def network(store: SalonStore, tmp_path: Path) -> Iterator[TestClient]:
    """A salon that tablets reach at 192.0.2.7, its passcode set."""
    Passcode(store).change(CODE)
    (tmp_path / "dist").mkdir()
    (tmp_path / "dist" / "index.html").write_text("<title>Dapwick</title>")
    app = make_app(store, tmp_path / "dist", reach_of("192.0.2.7", 8350))
    with TestClient(app, base_url=TABLET) as tablet:
        yield tablet


def test_other_names_are_not_answered_to(client: TestClient) -> None:
    """A page elsewhere that gives its own name this machine's address reads nothing."""
    assert client.get("/api/today").status_code == 200
    answer = client.get("/api/today", headers={"Host": "evil.example"})
    assert answer.status_code == 421
    assert "evil.example" in answer.json()["message"]
    assert client.get("/", headers={"Host": "127.0.0.1.evil.example:8350"}).status_code == 421


@pytest.mark.parametrize("host", ["localhost", "LOCALHOST:8350", "127.0.0.1:1", "[::1]:8350", "[::1]"])
def test_this_machines_own_names_are(client: TestClient, host: str) -> None:
    assert client.get("/api/today", headers={"Host": host}).status_code == 200


@pytest.mark.parametrize(
    ("headers", "status"),
    [
        ({}, 201),
        ({"Origin": "http://127.0.0.1"}, 201),
        ({"Sec-Fetch-Site": "same-origin"}, 201),
        ({"Origin": "http://evil.example"}, 403),
        ({"Origin": "http://127.0.0.1:9999"}, 403),
        ({"Origin": "null"}, 403),
        ({"Sec-Fetch-Site": "cross-site"}, 403),
        ({"Sec-Fetch-Site": "same-site", "Origin": "http://127.0.0.1"}, 403),
    ],
)
def test_changes_come_from_the_salons_own_pages_only(
    client: TestClient, headers: dict[str, str], status: int
) -> None:
    answer = client.post("/api/dogs", json={"name": "A", "coat": "curl"}, headers=headers)
    assert answer.status_code == status
    assert len(client.get("/api/dogs").json()) == (status == 201)


def test_every_answer_carries_the_headers_that_keep_other_pages_out(network: TestClient) -> None:
    for path in ("/", "/api/today", "/api/nowhere", "/api/entrance"):
        headers = network.get(path).headers
        policy = headers["content-security-policy"]
        assert "default-src 'none'" in policy
        assert "script-src 'self';" in policy
        assert "frame-ancestors 'none'" in policy
        assert "unsafe-eval" not in policy
        assert headers["x-content-type-options"] == "nosniff"
        assert headers["cross-origin-resource-policy"] == "same-origin"


def test_a_body_past_its_limit_is_not_read(client: TestClient) -> None:
    big = b'{"name": "' + b"x" * LARGEST_JSON + b'"}'
    answer = client.post("/api/dogs", content=big, headers={"Content-Type": "application/json"})
    assert answer.status_code == 413
    assert "4 MB" in answer.json()["message"]

    def pieces() -> Iterator[bytes]:
        """No length is said beforehand."""
        for _ in range(6):
            yield b"x" * (1 << 20)

    unsaid = client.post("/api/dogs", content=pieces(), headers={"Content-Type": "application/json"})
    assert unsaid.status_code == 413
    assert limit_of("/api/dogs/1/photos") > 60 << 20 > limit_of("/api/dogs/1/wishes")


def test_nothing_is_told_before_the_passcode(network: TestClient) -> None:
    for path in (
        "/api/today",
        "/api/dogs",
        "/api/salon",
        "/api/photos/1/edge",
        "/api/openapi.json",
        "/api/backups",
    ):
        answer = network.get(path)
        assert answer.status_code == 401
        assert "passcode" in answer.json()["message"]
    assert network.post("/api/dogs", json={"name": "A", "coat": "curl"}).status_code == 401
    assert network.get("/").status_code == 200
    assert network.get("/api/entrance").json() == {"passcode": True, "entered": False, "runs": False}


def test_the_passcode_opens_for_this_tablet_alone_and_locks_again(network: TestClient) -> None:
    answer = network.post("/api/entrance", json={"code": CODE})
    assert answer.json() == {"passcode": True, "entered": True, "runs": False}
    cookie = answer.headers["set-cookie"].lower()
    assert "httponly" in cookie
    assert "samesite=strict" in cookie
    assert network.get("/api/today").status_code == 200
    with TestClient(network.app, base_url=TABLET) as other:
        assert other.get("/api/today").status_code == 401
        assert other.get("/api/today", headers={"Cookie": "dapwick_session=made-up"}).status_code == 401
    network.delete("/api/entrance")
    assert network.get("/api/today").status_code == 401


def test_a_new_passcode_puts_every_tablet_out(network: TestClient) -> None:
    network.post("/api/entrance", json={"code": CODE})
    assert network.put("/api/passcode", json={"code": "another-9"}).status_code == 403
    assert network.post("/api/entrance/again", json={"code": "wrong-1"}).status_code == 401
    assert network.put("/api/passcode", json={"code": "another-9"}).status_code == 403
    assert network.post("/api/entrance/again", json={"code": CODE}).status_code == 204
    assert network.put("/api/passcode", json={"code": "short"}).status_code == 422
    assert network.get("/api/today").status_code == 200
    assert network.put("/api/passcode", json={"code": "another-9"}).status_code == 204
    assert network.get("/api/today").status_code == 401
    assert network.post("/api/entrance", json={"code": CODE}).status_code == 401
    assert network.post("/api/entrance", json={"code": "another-9"}).status_code == 200


def test_neither_passcode_nor_token_lies_in_the_records(network: TestClient, store: SalonStore) -> None:
    token = network.post("/api/entrance", json={"code": CODE}).cookies["dapwick_session"]
    with store.reading() as session:
        kept = [
            str(vars(r)) for r in [*session.scalars(select(SettingRow)), *session.scalars(select(SessionRow))]
        ]
    assert any("hash" in row for row in kept)
    assert not any(CODE in row or token in row for row in kept)


def test_wrong_tries_are_slowed_and_a_right_one_then_waits_too(
    store: SalonStore, monkeypatch: pytest.MonkeyPatch
) -> None:
    clock = [1000.0]
    monkeypatch.setattr(doors.time, "monotonic", lambda: clock[0])
    door = Passcode(store)
    door.change(CODE)
    for _ in range(5):
        with pytest.raises(NotAuthorised, match="not the salon's"):
            door.enter("wrong-1", ELSEWHERE)
    with pytest.raises(NotAuthorised, match="Try again in 5 s"):
        door.enter(CODE, ELSEWHERE)
    clock[0] += 5.1
    with pytest.raises(NotAuthorised, match="not the salon's"):
        door.enter("wrong-2", ELSEWHERE)
    with pytest.raises(NotAuthorised, match="Try again in 10 s"):
        door.enter(CODE, ELSEWHERE)
    clock[0] += 10.1
    assert door.knows(door.enter(CODE, ELSEWHERE))


def test_nobody_holds_the_door_shut_for_another_address_nor_for_this_machine(store: SalonStore) -> None:
    door = Passcode(store)
    door.change(CODE)
    with ThreadPoolExecutor(8) as hands:
        tried = list(hands.map(lambda _: wrong(door, ELSEWHERE), range(24)))
    assert sum("not the salon's" in words for words in tried) < 6
    assert "Too many" in wrong(door, ELSEWHERE)
    assert door.knows(door.enter(CODE, "192.0.2.10"))
    for _ in range(9):
        assert "not the salon's" in wrong(door, HERE)
    assert door.knows(door.enter(CODE, HERE))


def wrong(door: Passcode, address: str) -> str:
    with pytest.raises(NotAuthorised) as told:
        door.enter("wrong-3", address)
    return str(told.value)


RUN_THE_SALON = (
    ("PUT", "/api/passcode", {"code": "another-9"}),
    ("PUT", "/api/backups/setting", {"daily": False, "folder": ""}),
    ("POST", "/api/backups/restore", {"name": "all.zip"}),
    ("POST", "/api/backups/undo", None),
    ("GET", "/api/backups/all.zip/file", None),
    ("POST", "/api/salon/demo", {"do": "remove"}),
    ("POST", "/api/removed/1/purge", {"name": "Fogbell"}),
)


@pytest.mark.parametrize(("method", "path", "body"), RUN_THE_SALON)
def test_the_salon_is_run_from_its_own_machine_or_with_the_passcode_once_more(
    network: TestClient, store: SalonStore, method: str, path: str, body: object
) -> None:
    network.post("/api/entrance", json={"code": CODE})
    refused = network.request(method, path, json=body)
    assert (refused.status_code, refused.json()["what"]) == (403, "administration")
    with TestClient(network.app, base_url=TABLET, client=("127.0.0.1", 50_000)) as own:
        own.post("/api/entrance", json={"code": CODE})
        assert own.request(method, path, json=body).status_code in (200, 202, 204, 404, 422)
    if path != "/api/passcode":
        network.post("/api/entrance/again", json={"code": CODE})
        assert network.request(method, path, json=body).status_code in (200, 202, 204, 404, 422)


def test_a_backup_carries_neither_passcode_nor_tablets_and_a_restore_leaves_this_machines(
    store: SalonStore, tmp_path: Path
) -> None:
    door = Passcode(store)
    door.change(CODE)
    revoked = door.enter(CODE)
    write_backup(store, tmp_path / "all.zip", lambda words, share: None)
    with zipfile.ZipFile(tmp_path / "all.zip") as archive:
        archive.extract("salon.db", tmp_path)
    with closing(sqlite3.connect(tmp_path / "salon.db")) as copy:
        assert copy.execute("SELECT count(*) FROM session").fetchone() == (0,)
        assert copy.execute("SELECT count(*) FROM setting WHERE key = 'passcode'").fetchone() == (0,)
    door.change("another-9")
    mine = door.enter("another-9")
    restore(store, tmp_path / "all.zip", lambda words, share: None)
    assert door.knows(mine)
    assert not door.knows(revoked)
    assert door.knows(door.enter("another-9"))


def test_a_token_too_old_counts_no_more(store: SalonStore, monkeypatch: pytest.MonkeyPatch) -> None:
    door = Passcode(store)
    door.change(CODE)
    token = door.enter(CODE)
    assert door.knows(token)
    monkeypatch.setattr(doors, "SESSION_DAYS", -1)
    assert not door.knows(token)


def test_a_first_start_on_the_network_makes_a_passcode_and_tells_it_once(store: SalonStore) -> None:
    door = Passcode(store)
    made = door.ensure()
    assert made is not None
    assert door.knows(door.enter(made))
    assert door.ensure() is None


@pytest.mark.parametrize("code", ["", "12345", "x" * 65])
def test_a_passcode_too_short_or_long_is_refused(store: SalonStore, code: str) -> None:
    with pytest.raises(BadInput, match="6 to 64"):
        Passcode(store).change(code)


def test_bound_to_this_machine_no_passcode_counts() -> None:
    assert not reach_of("127.0.0.1", 1).network
    assert not reach_of("localhost", 1).network
    assert is_here("::1")
    wide = reach_of("0.0.0.0", 8350, ("loft.lan",))
    assert wide.network
    assert wide.address == "http://loft.lan:8350"
    assert wide.knows("LOFT.lan:8350")
    assert not wide.knows("elsewhere.lan")
    assert host_name("[fe80::1]:80") == "fe80::1"


def test_the_square_code_is_read_back_as_the_address() -> None:
    import re

    import cv2
    import numpy as np

    svg = address_svg("http://192.0.2.7:8350").decode()
    side = int(re.search(r'viewBox="0 0 (\d+)', svg).group(1))  # type: ignore[union-attr]
    picture = drawn(svg, side)
    told, _, _ = cv2.QRCodeDetector().detectAndDecode(np.kron(picture, np.ones((4, 4), np.uint8)))
    assert told == "http://192.0.2.7:8350"


def drawn(svg: str, side: int):  # type: ignore[no-untyped-def]
    """The code's dark strokes, which run along rows: M x y h length, relative from there."""
    import re

    import numpy as np

    picture = np.full((side, side), 255, np.uint8)
    scale = 8
    path = re.search(r'stroke="#17352f"[^>]*d="([^"]+)"|d="([^"]+)"[^>]*stroke="#17352f"', svg)
    assert path
    x = y = 0.0
    for command, numbers in re.findall(r"([Mmh])([^Mmh]*)", path.group(1) or path.group(2)):
        values = [float(v) for v in re.findall(r"-?[\d.]+", numbers)]
        if command == "M":
            x, y = values
        elif command == "m":
            x, y = x + values[0], y + values[1]
        else:
            row = int(y) * scale
            picture[row : row + scale, int(x) * scale : int(x + values[0]) * scale] = 0
            x += values[0]
    return picture
