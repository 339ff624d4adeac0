"""Debian's Chromium as tests and benchmarks start it: headless, quiet, nothing fetched from outside."""

from __future__ import annotations

import shutil

from playwright.sync_api import Browser, Playwright

FLAGS = [
    "--no-sandbox",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--no-first-run",
]


def launch(driver: Playwright, *more: str) -> Browser:
    path = shutil.which("chromium")
    assert path, "Chromium is missing: `make browser` installs it"
    return driver.chromium.launch(executable_path=path, args=[*FLAGS, *more])
