"""How long a stylist waits for the check: three finished photos dropped at once, until it is told on the screen.

.venv/bin/python tools/check_speed.py       # wants web/dist built and Chromium installed; two rows of docs/speed.md
"""

from __future__ import annotations

import io
import tempfile
import time
from collections.abc import Sequence
from pathlib import Path
from typing import Final

from PIL import Image
from playwright.sync_api import FilePayload, Page, sync_playwright

from dapwick.demo.dogs import PHOTOS
from dapwick.records.store import SalonStore
from dapwick.service.salon.demo import fill_with_demo
from headless import launch
from salon_server import SalonServer
from timing import Row, spread, yardstick_row

VIEWS: Final = ("front", "left", "right")
TIMES: Final = 3
TOLD: Final = """(many) => document.querySelector('aside[data-waiting="0"] [data-check-words]') &&
  document.querySelectorAll('[data-finished] [data-line=outline]').length === many"""


def check_rows(page: Page, address: str) -> list[Row]:
    """Fogbell's outline as it stands is kept, and its finished photos dropped: all at once, and one after the other as
    a camera brings them; some times over."""
    page.goto(f"{address}/dogs/1/outline")
    page.locator("main[data-settled=true]").wait_for()
    page.get_by_role("button", name="Keep this outline").click()
    page.get_by_text("Kept", exact=True).first.wait_for()
    page.goto(f"{address}/dogs/1/check")
    at_once, last = [], []
    for turn in range(TIMES):
        at_once.append(dropped(page, VIEWS, 95 - 2 * turn))
        page.locator("[data-finished=right]").get_by_role("button", name="Remove").click()
        page.wait_for_function(TOLD, arg=2)
        last.append(dropped(page, ("right",), 94 - 2 * turn))
        for view in VIEWS:
            page.locator(f"[data-finished={view}]").get_by_role("button", name="Remove").click()
        page.wait_for_function("() => document.querySelectorAll('[data-finished] img').length === 0")
    return [
        ("three finished photos dropped at once, until the check is told on the screen", spread(at_once)),
        ("the last of three, when the others were looked at before", spread(last)),
    ]


def dropped(page: Page, views: Sequence[str], quality: int) -> float:
    """Seconds until the check of all three is told."""
    photos = {view: afresh(view, quality) for view in views}
    began = time.perf_counter()
    for view, photo in photos.items():
        page.locator(f"[data-finished={view}] input[type=file]").set_input_files(photo)
    page.wait_for_function(TOLD, arg=len(VIEWS))
    return time.perf_counter() - began


def afresh(view: str, quality: int) -> FilePayload:
    """The photo saved once more, so that nothing of it is remembered."""
    data = io.BytesIO()
    Image.open(PHOTOS / f"fogbell-2-finished-{view}.jpg").save(data, "JPEG", quality=quality)
    return {"name": f"{view}.jpg", "mimeType": "image/jpeg", "buffer": data.getvalue()}


def main() -> None:
    with tempfile.TemporaryDirectory() as folder:
        store = SalonStore(Path(folder) / "salon")
        fill_with_demo(store)
        store.close()
        server = SalonServer(Path(folder) / "salon")
        server.start()
        try:
            with sync_playwright() as driver:
                chromium = launch(driver)
                page = chromium.new_page(viewport={"width": 1280, "height": 800})
                page.set_default_timeout(60_000)
                for row in (yardstick_row("for the check"), *check_rows(page, server.address)):
                    print(*row, sep=": ")
                chromium.close()
        finally:
            server.kill()


if __name__ == "__main__":
    main()
