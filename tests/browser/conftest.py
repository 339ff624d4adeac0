"""A real server with a real salon, and Debian's Chromium to use it with."""

from __future__ import annotations

import socket
import threading
import time
from collections.abc import Iterator
from pathlib import Path

import pytest
import uvicorn
from playwright.sync_api import Browser, Page, Playwright, sync_playwright

from dapwick.api.app import make_app
from dapwick.records.store import SalonStore
from dapwick.service.demo import fill_with_demo
from headless import launch

WEB = Path(__file__).parents[2] / "web" / "dist"
LAST_ANSWERS_S = 15
"""A server that stops finishes what it was asked: a connection cut off in the middle is never closed."""


@pytest.fixture(scope="session")
def driver() -> Iterator[Playwright]:
    with sync_playwright() as playwright:
        yield playwright


@pytest.fixture(scope="session")
def browser(driver: Playwright) -> Iterator[Browser]:
    chromium = launch(driver)
    yield chromium
    chromium.close()


def free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


class Salon:
    """One running server; `stop` and `start` play a server that goes away."""

    def __init__(self, folder: Path) -> None:
        self.folder, self.port = folder, free_port()
        self.store = SalonStore(folder)
        self.start()

    @property
    def address(self) -> str:
        return f"http://127.0.0.1:{self.port}"

    def start(self) -> None:
        config = uvicorn.Config(
            make_app(self.store, WEB),
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


@pytest.fixture
def salon(tmp_path: Path) -> Iterator[Salon]:
    running = Salon(tmp_path / "salon")
    yield running
    running.stop()
    running.store.close()


@pytest.fixture
def demo_salon(salon: Salon) -> Salon:
    fill_with_demo(salon.store, ("fogbell", "bobbin"))
    return salon


@pytest.fixture
def page(browser: Browser, salon: Salon) -> Iterator[Page]:
    """Closed before its salon is, so that no connection is left open."""
    context = browser.new_context(viewport={"width": 1280, "height": 800}, reduced_motion="reduce")
    context.set_default_timeout(20_000)
    tab = context.new_page()
    errors: list[str] = []
    tab.on("pageerror", lambda error: errors.append(str(error)))
    yield tab
    context.close()
    assert errors == []
