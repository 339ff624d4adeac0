"""A client that takes its time, or many of them, keep no tablet out: a real server on this machine's own addresses."""

from __future__ import annotations

import contextlib
import socket
import threading
import time
from collections.abc import Iterator

import httpx
import pytest
import uvicorn

from dapwick.api import connections, guard
from dapwick.api.app import make_app
from dapwick.api.connections import MOST_EACH, server_settings
from dapwick.records.store import SalonStore


@pytest.fixture
def address(store: SalonStore, monkeypatch: pytest.MonkeyPatch) -> Iterator[tuple[str, int]]:
    """A server whose patience is short."""
    monkeypatch.setattr(connections, "HEADERS_S", 0.6)
    monkeypatch.setattr(guard, "BODY_S", 0.6)
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]
    server = uvicorn.Server(uvicorn.Config(make_app(store), host="127.0.0.1", port=port, **server_settings()))
    thread = threading.Thread(target=server.run, daemon=True)
    thread.start()
    while not server.started:
        time.sleep(0.02)
    yield "127.0.0.1", port
    server.should_exit = True
    thread.join(20)


def opened(address: tuple[str, int], says: bytes = b"", source: str = "127.0.0.1") -> socket.socket:
    one = socket.create_connection(address, 5, source_address=(source, 0))
    if says:
        one.sendall(says)
    return one


HANG_S = 15.0
"""A busy machine is slow; only what hangs takes this long. How soon answers come is measured by a script."""


def is_answered(address: tuple[str, int]) -> bool:
    """A tablet of the salon's own has its answer."""
    return httpx.get(f"http://{address[0]}:{address[1]}/api/salon", timeout=HANG_S).status_code == 200


def is_let_go(one: socket.socket, seconds: float) -> bool:
    """The server ended it (an answer before that counts too)."""
    one.settimeout(seconds)
    with contextlib.suppress(ConnectionError, OSError):
        while True:
            if not one.recv(4096):
                return True
    try:
        one.settimeout(0.1)
        return one.recv(1) == b""
    except TimeoutError:
        return False
    except OSError:
        return True


HALF = b"GET /api/salon HTTP/1.1\r\nHost: 127.0.0.1\r\nX-Slow: "


@pytest.mark.parametrize("says", [b"", b"G", HALF])
def test_headers_that_do_not_come_are_not_waited_for(address: tuple[str, int], says: bytes) -> None:
    with opened(address, says) as slow:
        assert is_let_go(slow, HANG_S)


def test_a_few_bytes_more_do_not_set_the_clock_back(address: tuple[str, int]) -> None:
    with opened(address, HALF) as slow:
        begun = time.monotonic()
        with contextlib.suppress(OSError):
            while time.monotonic() - begun < 2 * HANG_S:
                slow.sendall(b"x")
                time.sleep(0.1)
        assert time.monotonic() - begun < HANG_S


def test_a_body_that_does_not_come_is_told_and_let_go(address: tuple[str, int]) -> None:
    lines = (
        "POST /api/dogs HTTP/1.1",
        "Host: 127.0.0.1",
        "Content-Type: application/json",
        "Content-Length: 99",
    )
    with opened(address, "\r\n".join([*lines, "", "{"]).encode()) as slow:
        slow.settimeout(HANG_S)
        assert b"408" in slow.recv(4096)


def test_one_address_holds_so_many_and_no_more_and_others_are_answered(address: tuple[str, int]) -> None:
    held = [opened(address, HALF, "127.0.0.2") for _ in range(3 * MOST_EACH)]
    try:
        assert is_answered(address)
        time.sleep(0.2)
        assert sum(is_let_go(one, 0.05) for one in held[:MOST_EACH]) > MOST_EACH // 2
        # And one more of that very address is answered as well.
        with opened(address, b"GET /api/salon HTTP/1.1\r\nHost: 127.0.0.1\r\n\r\n", "127.0.0.2") as own:
            own.settimeout(HANG_S)
            assert b"200 OK" in own.recv(4096)
    finally:
        for one in held:
            one.close()


def test_the_api_is_described_to_nobody_outside(address: tuple[str, int]) -> None:
    assert httpx.get(f"http://{address[0]}:{address[1]}/openapi.json").status_code == 404
