"""What a stylist's hands do on the screen."""

from __future__ import annotations

from playwright.sync_api import Page


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


def leave_mm(page: Page, zone: str, side: str) -> float:
    cell = page.locator(f"tr[data-zone={zone}][data-side={side}] [data-leave]")
    return float(cell.text_content() or "nan")


def saved(page: Page) -> None:
    page.locator("[data-saving=saved]").wait_for()
