"""Time the pictures of a finished head on this machine, into docs/pictures.md: the turning head's frames and how many
strands it draws, the owner's picture, and the size of what a tablet loads.

.venv/bin/python tools/picture_speed.py        # wants web/dist built and Chromium installed
"""

from __future__ import annotations

import gzip
import tempfile
import time
from pathlib import Path

from playwright.sync_api import Page, sync_playwright

from dapwick.records.store import SalonStore
from dapwick.service.plans.owner_picture import OwnerPictures
from dapwick.service.plans.planner import Asked, Planner
from dapwick.service.salon.demo import fill_with_demo
from headless import launch
from screenshots import ROOT, served

OUT = ROOT / "docs" / "pictures.md"
BEGIN, END = "<!-- speed -->", "<!-- /speed -->"
ASSETS = ROOT / "web" / "dist" / "assets"
TURNS = 12
LATER = "Turntable"


def kilobytes(*names: str) -> float:
    return (
        sum(len(gzip.compress(path.read_bytes(), 9)) for name in names for path in ASSETS.glob(name)) / 1000
    )


def owner_rows(store: SalonStore) -> list[str]:
    pictures = OwnerPictures(Planner(store))
    pictures.picture(1, Asked("round"), "front", cut=False)
    rows = []
    for view in ("front", "side"):
        begun = time.perf_counter()
        pictures.picture(1, Asked("teddy"), view, weeks_ahead=3)
        took = time.perf_counter() - begun
        rows.append(f"| owner's picture from the {view}, a setting not drawn before | {took:.1f} s |")
    begun = time.perf_counter()
    pictures.picture(1, Asked("teddy"), "front", weeks_ahead=3)
    rows.append(f"| the same again | {1000 * (time.perf_counter() - begun):.0f} ms |")
    return rows


def frames(page: Page) -> list[tuple[float, float]]:
    """Share of the strands and ms of each picture while the head turns."""
    canvas = page.locator("canvas[data-head3d]")
    canvas.focus()
    told = []
    for _ in range(TURNS):
        page.keyboard.press("ArrowRight")
        page.wait_for_timeout(60)
        told.append(
            (float(canvas.get_attribute("data-share") or 0), float(canvas.get_attribute("data-ms") or 0))
        )
    return told


def solid_rows(page: Page, address: str) -> list[str]:
    page.goto(address + "/dogs/1/outline")
    begun = time.perf_counter()
    page.locator("canvas[data-head3d][data-ms]").wait_for(timeout=120_000)
    first = time.perf_counter() - begun
    page.locator("main[data-settled=true]").wait_for()
    page.get_by_role("button", name="Enlarge: on its stand").click()
    page.wait_for_timeout(4000)
    told = frames(page)
    page.wait_for_timeout(8000)
    at_rest = page.locator("canvas[data-head3d]").get_attribute("data-share")
    shares = sorted(share for share, _ in told[4:])
    times = sorted(ms for _, ms in told[4:])
    middle = len(times) // 2
    return [
        f"| first picture of the turning head, from opening the stage of a head never worked out | {first:.1f} s |",
        f"| a frame while it turns, software WebGL, median | {times[middle]:.0f} ms with "
        f"{100 * shares[middle]:.0f} % of the strands |",
        f"| at rest, sharpened to | {100 * float(at_rest or 0):.0f} % of the strands |",
    ]


def main() -> None:
    with tempfile.TemporaryDirectory() as folder:
        store = SalonStore(Path(folder))
        fill_with_demo(store)
        with served(store) as address, sync_playwright() as play:
            browser = launch(play)
            rows = solid_rows(browser.new_page(viewport={"width": 1024, "height": 768}), address)
            browser.close()
            rows += owner_rows(store)
    before, later = kilobytes("index*.js", "index*.css"), kilobytes(f"{LATER}*.js")
    rows += [
        f"| scripts and styles before the 3D part, gzip | {before:.0f} kB |",
        f"| the 3D part, loaded on its own, gzip | {later:.0f} kB |",
    ]
    text = OUT.read_text("utf-8")
    head, tail = text.split(BEGIN)[0], text.split(END)[1]
    OUT.write_text(head + BEGIN + "\n| what | here |\n|-|-|\n" + "\n".join(rows) + "\n" + END + tail, "utf-8")
    print("\n".join(rows))


if __name__ == "__main__":
    main()
