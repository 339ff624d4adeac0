"""A real server with a real salon, on a free port of this machine."""

from __future__ import annotations

import asyncio
import socket
import threading
import time
from pathlib import Path

import uvicorn

from dapwick.api.app import make_app
from dapwick.api.listening import Listening, servers, together
from dapwick.devices.certificates import certificates_in
from dapwick.devices.network import ONLY_HERE, Reach, reach_of
from dapwick.records.store import SalonStore

WEB = Path(__file__).parents[2] / "web" / "dist"
LAST_ANSWERS_S = 15
"""A server that stops finishes what it was asked: a connection cut off in the middle is never closed."""


def free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


class Salon:
    """One running server; `stop` and `start` play a server that goes away."""

    def __init__(self, folder: Path, reach: Reach = ONLY_HERE) -> None:
        self.folder, self.port, self.reach = folder, free_port(), reach
        self.store = SalonStore(folder)
        self.start()

    @property
    def address(self) -> str:
        return f"http://127.0.0.1:{self.port}"

    def start(self) -> None:
        config = uvicorn.Config(
            make_app(self.store, WEB, self.reach),
            host="127.0.0.1",
            port=self.port,
            log_level="error",
            timeout_graceful_shutdown=LAST_ANSWERS_S,
        )
        self.server = uvicorn.Server(config)
        self.thread = threading.Thread(target=self.server.run, daemon=True)
        self.thread.start()
        while not self.server.started:
            time.sleep(0.02)

    def stop(self) -> None:
        self.server.should_exit = True
        self.thread.join(timeout=2 * LAST_ANSWERS_S)


NETWORK_NAME = "table.local"
"""What tablets call the salon's machine; the browser is told that it is this one."""


class NetworkSalon(Salon):
    """Open to the network: plain http for the first step, https with the salon's own certificate."""

    def __init__(self, folder: Path) -> None:
        self.secure_port = free_port()
        super().__init__(folder)

    def start(self) -> None:
        self.reach = reach_of("0.0.0.0", self.port, (NETWORK_NAME,), self.secure_port)
        self.papers = certificates_in(self.folder, self.reach.hosts)
        app = make_app(self.store, WEB, self.reach, certificates=self.papers)
        both = servers(app, Listening("127.0.0.1", self.port, self.secure_port, self.papers))
        self.server = both[0]
        self.thread = threading.Thread(target=lambda: asyncio.run(together(both)), daemon=True)
        self.thread.start()
        while not all(one.started for one in both):
            time.sleep(0.02)

    @property
    def plain(self) -> str:
        return f"http://{NETWORK_NAME}:{self.port}"

    @property
    def secure(self) -> str:
        return f"https://{NETWORK_NAME}:{self.secure_port}"
