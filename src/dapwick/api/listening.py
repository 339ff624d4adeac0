"""The salon's server on its ports: plain http for this machine and a tablet's first step, https for the network."""

from __future__ import annotations

import asyncio
from collections.abc import Generator
from contextlib import contextmanager
from dataclasses import dataclass

import uvicorn
from fastapi import FastAPI

from dapwick.api.connections import server_settings
from dapwick.devices.certificates import Certificates


@dataclass(frozen=True)
class Listening:
    """Where to listen; certificates: None for plain http alone."""

    host: str
    port: int
    secure_port: int = 0
    certificates: Certificates | None = None


class _Beside(uvicorn.Server):
    """A second server on the same loop: the first one hears the signals and ends both."""

    @contextmanager
    def capture_signals(self) -> Generator[None, None, None]:
        yield


def servers(app: FastAPI, at: Listening) -> tuple[uvicorn.Server, ...]:
    """The servers of one application; the first one begins and ends it."""
    plain = uvicorn.Server(uvicorn.Config(app, at.host, at.port, **server_settings()))
    if at.certificates is None:
        return (plain,)
    config = uvicorn.Config(
        app,
        at.host,
        at.secure_port,
        lifespan="off",
        ssl_certfile=at.certificates.chain,
        ssl_keyfile=at.certificates.key,
        **server_settings(),
    )
    return plain, _Beside(config)


async def together(some: tuple[uvicorn.Server, ...]) -> None:
    """Serve until the first one ends, by a signal or because it could not begin."""
    first, *others = some
    beside = [asyncio.ensure_future(other.serve()) for other in others]
    try:
        await first.serve()
    finally:
        for other in others:
            other.should_exit = True
        await asyncio.gather(*beside)


def listen(app: FastAPI, at: Listening) -> None:
    """Serve until it is ended."""
    asyncio.run(together(servers(app, at)))
