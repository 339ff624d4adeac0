"""A real server with a real salon, on a free port of this machine."""

from __future__ import annotations

import socket
import threading
import time
from pathlib import Path

import uvicorn

from dapwick.api.app import make_app
from dapwick.devices.network import ONLY_HERE, Reach
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
