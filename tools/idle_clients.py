"""A thousand connections that say nothing, half a request, or a body that never ends: are the salon's own tablets
answered?

.venv/bin/python tools/idle_clients.py [CONNECTIONS]          # writes docs/idle-clients.md
"""

from __future__ import annotations

import contextlib
import socket
import sys
import tempfile
import threading
import time
from pathlib import Path
from typing import Final

import httpx
import numpy as np

from dapwick.records.store import SalonStore
from dapwick.service.salon.demo import fill_with_demo
from salon_server import SalonServer

OUT: Final = Path(__file__).parents[1] / "docs" / "idle-clients.md"
CONNECTIONS: Final = 1000
SECONDS: Final = 40.0
ADDRESSES: Final = 5
SAYS: Final = (
    b"",
    b"G",
    b"GET /api/today HTTP/1.1\r\nHost: 127.0.0.1\r\nX-Slow: ",
    b"POST /api/dogs HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Type: application/json\r\nContent-Length: 90000\r\n\r\n{",
)


def hold(port: int, count: int, source: str, over: threading.Event) -> None:
    """Keeps so many connections open from one address; each that is ended is opened again."""
    held: list[socket.socket] = []
    while not over.is_set():
        while len(held) < count:
            with contextlib.suppress(OSError):
                one = socket.create_connection(("127.0.0.1", port), 2, source_address=(source, 0))
                one.sendall(SAYS[len(held) % len(SAYS)])
                one.setblocking(False)
                held.append(one)
                continue
            break
        for one in list(held):
            try:
                if one.recv(4096) == b"":
                    raise ConnectionError
            except BlockingIOError:
                continue
            except OSError:
                one.close()
                held.remove(one)
        over.wait(0.05)
    for one in held:
        one.close()


def main() -> None:
    count = int(sys.argv[1]) if len(sys.argv) > 1 else CONNECTIONS
    over, waits, wrong = threading.Event(), [], 0
    with tempfile.TemporaryDirectory() as folder:
        store = SalonStore(Path(folder) / "salon")
        fill_with_demo(store, ("fogbell", "bobbin"))
        store.close()
        server = SalonServer(Path(folder) / "salon")
        server.start()
        assert server.process
        hands = [
            threading.Thread(target=hold, args=(server.port, count // ADDRESSES, f"127.0.1.{i + 1}", over))
            for i in range(ADDRESSES)
        ]
        for hand in hands:
            hand.start()
        time.sleep(3.0)
        most, last = 0, time.monotonic() + SECONDS
        while time.monotonic() < last:
            begun = time.monotonic()
            try:
                wrong += httpx.get(f"{server.address}/api/today", timeout=10.0).status_code != 200
            except httpx.HTTPError:
                wrong += 1
            waits.append(time.monotonic() - begun)
            most = max(most, len(list(Path(f"/proc/{server.process.pid}/fd").iterdir())))
            time.sleep(0.1)
        over.set()
        for hand in hands:
            hand.join()
        server.kill()
    p50, p95 = np.quantile(waits, (0.5, 0.95)) * 1000
    OUT.write_text(
        "\n".join(
            [
                "# A thousand clients that say nothing",
                "",
                f"Written by `tools/idle_clients.py`: {count} connections from {ADDRESSES} addresses that say nothing,",
                "one letter, half a request's headers, or begin a body that never ends; each that the server ends is",
                f"opened again. Meanwhile, for {SECONDS:.0f} s, a tablet asks for the day, each time anew.",
                "",
                f"Asked: {len(waits)}. Not answered: **{wrong}**. Waited: median {p50:.0f} ms, p95 {p95:.0f} ms,",
                f"longest {max(waits) * 1000:.0f} ms. Files the server had open at most: {most}.",
                "",
            ]
        ),
        "utf-8",
    )
    print(OUT.read_text("utf-8"))


if __name__ == "__main__":
    main()
