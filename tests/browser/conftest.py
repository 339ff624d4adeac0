"""A real server with a real salon, and Debian's Chromium to use it with."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Browser, Page, Playwright, sync_playwright
from running import Salon

from dapwick.service.demo import fill_with_demo
from headless import launch


@pytest.fixture(scope="session")
def driver() -> Iterator[Playwright]:
    with sync_playwright() as playwright:
        yield playwright


@pytest.fixture(scope="session")
def browser(driver: Playwright) -> Iterator[Browser]:
    chromium = launch(driver)
    yield chromium
    chromium.close()


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
