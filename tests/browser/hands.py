"""What a stylist's hands do on the screen."""

from __future__ import annotations

import re
import time
from datetime import date
from pathlib import Path
from typing import Any

from playwright.sync_api import Page

AXE = Path(__file__).parents[2] / "web" / "node_modules" / "axe-core" / "axe.min.js"


def on_screen(page: Page, x_px: float, y_px: float) -> tuple[float, float]:
    """Where a photo's pixel lies in the window."""
    found = page.evaluate(
        """([x, y]) => { const plane = document.querySelector('[data-plane]');
        const p = new DOMPoint(x, y).matrixTransform(plane.getScreenCTM()); return [p.x, p.y] }""",
        [x_px, y_px],
    )
    return float(found[0]), float(found[1])


def place(page: Page, at: tuple[float, float]) -> None:
    """Press where the next mark goes."""
    page.mouse.move(*on_screen(page, *at))
    page.mouse.down()
    page.mouse.up()


def choose_day(page: Page, label: str, day: date) -> None:
    """Leaf through the calendar to a day that lies ahead and press it."""
    page.get_by_role("button", name=re.compile(f"^{label}: ")).last.click()
    cell = page.locator(f"td[data-day='{day.isoformat()}'] button")
    page.get_by_role("grid").wait_for()
    while not cell.count():
        page.get_by_role("button", name="Go to the Next Month").click()
    cell.click()


def choose_time(page: Page, label: str, words: str) -> None:
    page.get_by_role("button", name=re.compile(f"^{label}: ")).click()
    page.get_by_role("option", name=words, exact=True).click()


def leave_mm(page: Page, zone: str, side: str) -> float:
    cell = page.locator(f"tr[data-zone={zone}][data-side={side}] [data-leave]")
    return float(cell.text_content() or "nan")


def saved(page: Page) -> None:
    page.locator("[data-saving=saved]").wait_for()


def until(page: Page, condition: str, seconds: float = 20.0) -> None:
    """Wait until something holds on the page. The screens' content policy forbids the driver's own way, which
    compiles its condition there."""
    last = time.monotonic() + seconds
    while not page.evaluate(condition):
        assert time.monotonic() < last, f"never came: {condition}"
        page.wait_for_timeout(60)


def barriers(page: Page) -> list[Any]:
    """What axe finds on the screen as it is, each with the first places."""
    page.evaluate(AXE.read_text())
    found = page.evaluate("axe.run(document, { runOnly: ['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa'] })")
    return [(v["id"], [n["html"][:160] for n in v["nodes"][:2]]) for v in found["violations"]]
