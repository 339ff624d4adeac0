"""How long a client may take, and how many connections one address may hold: a tablet that falls asleep in the middle
of a request, or somebody who means harm, keeps nobody else out."""

from __future__ import annotations

import asyncio
from collections import defaultdict
from typing import Any, Final

from uvicorn.protocols.http.h11_impl import H11Protocol

HEADERS_S: Final = 10.0
"""From a connection, or the first byte of a request, to the end of its headers."""
MOST_EACH: Final = 48
MOST_TOGETHER: Final = 400
"""Well under the thousand files that a process may have open."""
IDLE_S: Final = 20
GRACE_S: Final = 10
LARGEST_HEADERS: Final = 32 * 1024


class PatientProtocol(H11Protocol):
    """HTTP/1.1 with a deadline for headers. Where an address, or all together, hold too many connections, the one that
    has waited longest without a request is let go."""

    def connection_made(self, transport: asyncio.Transport) -> None:  # type: ignore[override]
        super().connection_made(transport)
        self._deadline: asyncio.TimerHandle | None = None
        self.since = self.loop.time()
        HELD.take(self)
        self._watch()

    def connection_lost(self, exc: Exception | None) -> None:
        HELD.let_go(self)
        self._disarm()
        super().connection_lost(exc)

    def data_received(self, data: bytes) -> None:
        super().data_received(data)
        self._watch()

    @property
    def address(self) -> str:
        return self.client[0] if self.client else ""

    @property
    def waits(self) -> bool:
        """No request of it is being answered."""
        return self.cycle is None or self.cycle.response_complete

    def abort(self) -> None:
        self._disarm()
        self.transport.abort()

    def _watch(self) -> None:
        """The clock runs while a request is expected, and is not set back by a few bytes more."""
        if not self.waits:
            self._disarm()
            self.since = self.loop.time()
        elif self._deadline is None:
            self._deadline = self.loop.call_later(HEADERS_S, self._late)

    def _late(self) -> None:
        self._deadline = None
        if self.waits and not self.transport.is_closing():
            self.transport.abort()

    def _disarm(self) -> None:
        if self._deadline is not None:
            self._deadline.cancel()
            self._deadline = None

    def on_response_complete(self) -> None:
        super().on_response_complete()
        self.since = self.loop.time()


class _Held:
    """Open connections by address; of one event loop."""

    def __init__(self) -> None:
        self._by_address: dict[str, set[PatientProtocol]] = defaultdict(set)

    def take(self, one: PatientProtocol) -> None:
        mine = self._by_address[one.address]
        mine.add(one)
        if len(mine) > MOST_EACH:
            self._free(mine, one)
        elif sum(map(len, self._by_address.values())) > MOST_TOGETHER:
            self._free(max(self._by_address.values(), key=len), one)

    def let_go(self, one: PatientProtocol) -> None:
        mine = self._by_address.get(one.address)
        if mine is not None:
            mine.discard(one)
            if not mine:
                del self._by_address[one.address]

    def _free(self, some: set[PatientProtocol], newest: PatientProtocol) -> None:
        """Of some connections the one that has waited longest goes; where all are at work, the newest."""
        waiting = [other for other in some if other.waits and other is not newest]
        gone = min(waiting, key=lambda other: other.since, default=newest)
        self.let_go(gone)
        gone.abort()


HELD: Final = _Held()


def server_settings() -> dict[str, Any]:
    """How the server is run, wherever it is started."""
    return {
        "log_level": "warning",
        "server_header": False,
        "http": PatientProtocol,
        "ws": "none",
        "timeout_keep_alive": IDLE_S,
        "timeout_graceful_shutdown": GRACE_S,
        "h11_max_incomplete_event_size": LARGEST_HEADERS,
    }
