"""A real server with a real salon, and Debian's Chromium to use it with."""

from __future__ import annotations

import shutil
from collections.abc import Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Browser, Page, Playwright, expect, sync_playwright
from running import Salon

from dapwick.records.store import SalonStore
from dapwick.service.plans.planner import Asked, Planner
from headless import launch

PATIENCE_MS = 20_000
"""Two browsers at once on two cores are slow: what is awaited may take this long."""
expect.set_options(timeout=PATIENCE_MS)


@pytest.fixture(scope="session")
def driver() -> Iterator[Playwright]:
    with sync_playwright() as playwright:
        yield playwright


@pytest.fixture(scope="session")
def browser(driver: Playwright) -> Iterator[Browser]:
    chromium = launch(driver)
    yield chromium
    chromium.close()


@pytest.fixture(scope="session")
def with_teddy(demo_folder: Path, tmp_path_factory: pytest.TempPathFactory) -> Path:
    """The same salon with a teddy kept for Fogbell: worked out once, copied for each test that cuts."""
    folder = tmp_path_factory.mktemp("teddy") / "salon"
    shutil.copytree(demo_folder, folder)
    store = SalonStore(folder)
    Planner(store).save(1, Asked("teddy"))
    store.close()
    return folder


@pytest.fixture
def salon(tmp_path: Path, request: pytest.FixtureRequest) -> Iterator[Salon]:
    """A running salon: empty, or with what the test asks for."""
    for name, made in (
        ("with_teddy", "with_teddy"),
        ("cut_salon", "cut_folder"),
        ("demo_salon", "demo_folder"),
    ):
        if name in request.fixturenames:
            shutil.copytree(request.getfixturevalue(made), tmp_path / "salon")
            break
    running = Salon(tmp_path / "salon")
    yield running
    running.stop()
    running.store.close()


@pytest.fixture
def demo_salon(salon: Salon) -> Salon:
    """With Fogbell and Bobbin in it."""
    return salon


@pytest.fixture
def cut_salon(salon: Salon) -> Salon:
    """With Capstan, cut and photographed."""
    return salon


@pytest.fixture
def page(browser: Browser, salon: Salon) -> Iterator[Page]:
    """Closed before its salon is, so that no connection is left open."""
    # What a test holds back on its way must not pass through what the tablet keeps.
    context = browser.new_context(
        viewport={"width": 1280, "height": 800}, reduced_motion="reduce", service_workers="block"
    )
    context.set_default_timeout(PATIENCE_MS)
    tab = context.new_page()
    errors: list[str] = []
    tab.on("pageerror", lambda error: errors.append(str(error)))
    yield tab
    context.close()
    assert errors == []
