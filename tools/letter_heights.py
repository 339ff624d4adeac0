"""How tall the letters of table mode are, step by step, at three sizes of screen; written to docs/letters.md.

.venv/bin/python tools/letter_heights.py     # wants web/dist built and Chromium installed; takes a minute or two
"""

from __future__ import annotations

import math
import shutil
import tempfile
from dataclasses import dataclass
from pathlib import Path
from typing import Final

from playwright.sync_api import Page, sync_playwright

from dapwick.records.store import SalonStore
from dapwick.service.plans.planner import Asked, Planner
from dapwick.service.salon.demo import fill_with_demo
from headless import launch
from screenshots import served

OUT: Final = Path(__file__).parents[1] / "docs" / "letters.md"
DOG: Final = "fogbell"
FAMILY: Final = "round"
TELLS_ARCMIN: Final = 5.0
"""The smallest letter that normal sight tells, by definition of normal sight."""
EASY: Final = 2.0
"""How much taller a letter is to be that is read without trying."""
FAR_M, NEAR_M = 2.0, 1.0


@dataclass(frozen=True)
class Screen:
    """A tablet or a laptop as it stands at a table; its diagonal is an assumption, its pixels are the browser's."""

    words: str
    wide_px: int
    tall_px: int
    diagonal_inch: float

    @property
    def mm_per_px(self) -> float:
        return self.diagonal_inch * 25.4 / math.hypot(self.wide_px, self.tall_px)


SCREENS: Final = (
    Screen("laptop", 1280, 800, 13.3),
    Screen("small tablet", 1024, 768, 9.7),
    Screen("tablet, upright", 820, 1180, 10.9),
)
PARTS: Final = {
    "length": "[data-number] > span:first-child, [data-parts] > li > span.block, [data-eye]",
    "step": "[aria-label='The step'] h2",
    "tool": "[data-tool]",
    "how": "[aria-label='The step'] [data-how]",
    "caution": "[data-caution]",
}
FAR: Final = ("length", "step", "tool")
CAP_HEIGHTS: Final = """(parts) => {
  const pen = document.createElement('canvas').getContext('2d')
  const cap = (at) => {
    const style = getComputedStyle(at)
    pen.font = `${style.fontWeight} ${style.fontSize} ${style.fontFamily}`
    return pen.measureText('H').actualBoundingBoxAscent
  }
  return Object.fromEntries(Object.entries(parts).map(([name, where]) =>
    [name, [...document.querySelectorAll(where)].map(cap)]))
}"""
"""Heights of capitals in CSS pixels, of every piece of each part."""
MOVED: Final = """(before) => document.querySelector('[data-step]').dataset.step !== before ||
  document.querySelector('main').textContent.includes('All done')"""


def heights_px(page: Page, address: str) -> dict[str, list[float]]:
    """The lowest capital of each part, one number a step that has the part."""
    page.goto(f"{address}/dogs/1/cut")
    page.get_by_role("button", name="Start cutting").click()
    found: dict[str, list[float]] = {part: [] for part in PARTS}
    seen = ""
    while True:
        step = page.locator("[data-step]")
        if (now := step.get_attribute("data-step") or "") == seen:
            return found
        seen = now
        for part, tall in page.evaluate(CAP_HEIGHTS, PARTS).items():
            found[part] += [min(tall)] if tall else []
        page.get_by_role("button", name="Skip").click()
        page.wait_for_function(MOVED, arg=seen)


def smallest_mm(distance_m: float) -> float:
    return 1000 * distance_m * math.tan(math.radians(TELLS_ARCMIN / 60))


def lines_of(screen: Screen, found: dict[str, list[float]]) -> list[str]:
    lines = []
    for part, px in found.items():
        at_m = FAR_M if part in FAR else NEAR_M
        mm = sorted(one * screen.mm_per_px for one in px)
        easy = EASY * smallest_mm(at_m)
        share = sum(one >= easy for one in mm) / len(mm)
        lines.append(
            f"| {screen.words}, {screen.wide_px}×{screen.tall_px} | {part} | {len(mm)} "
            f"| {mm[0]:.1f} | {mm[len(mm) // 2]:.1f} | {at_m:.0f} m | {easy:.1f} | {share:.0%} "
            f"| {mm[0] / smallest_mm(at_m):.1f} |"
        )
    return lines


def looked_at(screen: Screen, salon: Path) -> list[str]:
    """Lines of one size of screen, cut through in a salon of its own."""
    with tempfile.TemporaryDirectory() as folder:
        shutil.copytree(salon, Path(folder) / "salon")
        store = SalonStore(Path(folder) / "salon")
        with served(store) as address, sync_playwright() as play:
            browser = launch(play)
            page = browser.new_page(
                viewport={"width": screen.wide_px, "height": screen.tall_px}, reduced_motion="reduce"
            )
            found = heights_px(page, address)
            browser.close()
        store.close()
    return lines_of(screen, found)


def main() -> None:
    with tempfile.TemporaryDirectory() as folder:
        store = SalonStore(Path(folder) / "salon")
        fill_with_demo(store, (DOG,))
        Planner(store).save(1, Asked(FAMILY, {}, {}))
        store.close()
        lines = [line for screen in SCREENS for line in looked_at(screen, Path(folder) / "salon")]
    OUT.write_text(
        HEAD.format(tells=TELLS_ARCMIN, easy=EASY, dog=DOG.title(), family=FAMILY) + "\n".join(lines) + "\n"
    )
    print(OUT.read_text())


HEAD: Final = """# Letters of table mode

Written by `tools/letter_heights.py`: every step of {dog}'s {family} sheet, at three sizes of screen. Heights are of
capitals, in mm on the glass. A letter is told by normal sight when it fills {tells:.0f} minutes of arc, and read
without trying when it is {easy:.0f} times as tall: *easy* below. Length, step and tool are to be read from two metres,
the rest from one.

| screen | part | steps | lowest mm | median mm | read from | easy mm | steps that are easy | lowest by smallest told |
|-|-|-|-|-|-|-|-|-|
"""


if __name__ == "__main__":
    main()
