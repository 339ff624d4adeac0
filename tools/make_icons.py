"""Draw the icons that a tablet's home screen shows from the product's own mark: `tools/make_icons.py`."""

from __future__ import annotations

from pathlib import Path
from typing import Final

from playwright.sync_api import Page, sync_playwright

from headless import launch

PUBLIC: Final = Path(__file__).parents[1] / "web" / "public"
YELLOW: Final = "#f2c230"
# Of a maskable icon a tablet may cut away all but the middle four fifths.
ICONS: Final = {"mark-192.png": (192, 1.0), "mark-512.png": (512, 1.0), "mark-maskable-512.png": (512, 0.72)}


def draw(page: Page, side_px: int, share: float) -> bytes:
    """The mark on its own yellow, `share` of the side wide."""
    page.set_viewport_size({"width": side_px, "height": side_px})
    inner = round(side_px * share)
    mark = (PUBLIC / "mark.svg").read_text().replace("<svg ", f'<svg width="{inner}" height="{inner}" ')
    ground = YELLOW if share < 1 else "transparent"
    page.set_content(
        f'<body style="margin:0;height:100vh;display:grid;place-items:center;background:{ground}">{mark}'
    )
    return page.screenshot(omit_background=True)


def main() -> None:
    with sync_playwright() as driver:
        page = launch(driver).new_page()
        for name, (side_px, share) in ICONS.items():
            (PUBLIC / "icons" / name).write_bytes(draw(page, side_px, share))
            print(name)


if __name__ == "__main__":
    main()
