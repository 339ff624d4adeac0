"""How long measuring takes on the screen, with pauses as a person makes them; written to docs/timed-run.md.

.venv/bin/python tools/timed_run.py          # wants web/dist built and Chromium installed; takes some minutes

The pauses are assumptions, drawn with a fixed seed, and said in the report; what the machine adds is measured.
"""

from __future__ import annotations

import re
import tempfile
import time
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass, field
from pathlib import Path

import numpy as np
from playwright.sync_api import Page, sync_playwright

from dapwick.core.basics.marks import MARK_IDS, RULE_OF, guided_order
from dapwick.demo.dogs import ALL_SEVEN, PHOTOS, calliper_mm, hand_marks, photos_of, truth
from dapwick.records.store import SalonStore
from dapwick.service.salon.demo import fill_with_demo
from dapwick.service.visits.measuring import measure_visit
from headless import launch
from screenshots import served

OUT = Path(__file__).parents[1] / "docs" / "timed-run.md"
LOOK_S, FEEL_S, PRESS_S, GLANCE_S, READ_S = 1.0, 2.6, 0.7, 1.4, 6.5
SPREAD = 0.3
SEED = 11
VIEWS = ("front", "left", "right", "top")


@dataclass
class Person:
    """Somebody at the table: pauses of log-normal length, all of them added up."""

    rng: np.random.Generator = field(default_factory=lambda: np.random.default_rng(SEED))
    paused_s: float = 0.0

    def pause(self, about_s: float) -> None:
        seconds = float(about_s * self.rng.lognormal(0.0, SPREAD))
        self.paused_s += seconds
        time.sleep(seconds)


@dataclass(frozen=True)
class Stretch:
    what: str
    total_s: float
    paused_s: float


@contextmanager
def timed(what: str, person: Person, into: list[Stretch]) -> Iterator[None]:
    began, paused = time.perf_counter(), person.paused_s
    yield
    into.append(Stretch(what, time.perf_counter() - began, person.paused_s - paused))


def on_screen(page: Page, x_px: float, y_px: float) -> tuple[float, float]:
    script = """([x, y]) => { const plane = document.querySelector('[data-plane]')
        const p = new DOMPoint(x, y).matrixTransform(plane.getScreenCTM()); return [p.x, p.y] }"""
    x, y = page.evaluate(script, [x_px, y_px])
    return float(x), float(y)


def press_mark(page: Page, person: Person, mark: str, at: tuple[float, float]) -> None:
    person.pause(FEEL_S if RULE_OF[mark].kind == "felt" else LOOK_S)
    person.pause(PRESS_S)
    page.mouse.move(*on_screen(page, *at))
    page.mouse.down()
    page.mouse.up()
    page.locator(f"[data-mark={mark}]").wait_for()


def mark_photo(page: Page, person: Person, photo: dict, wanted: list[str]) -> int:  # type: ignore[type-arg]
    """Press the wanted marks in the order the screen asks for them; put off the others."""
    person.pause(GLANCE_S)
    page.get_by_role("button", name=re.compile(f"^{photo['view']} ·")).click()
    page.locator(f"[data-plane={photo['view']}]").wait_for()
    marks = hand_marks(photo)
    for mark in guided_order(photo["view"]):
        if mark in wanted:
            press_mark(page, person, mark, tuple(marks[mark]["at"]))
        else:
            page.get_by_role("button", name="Skip").click()
    return len(wanted)


def first_head(page: Page, person: Person, key: str) -> int:
    """Every one of the 24 marks at least once over four photos, the surest in two; two calliper readings."""
    left_over, placed = set(MARK_IDS), 0
    again = {"nose_tip", "eye_inner_left", "eye_inner_right", "eye_outer_left", "eye_outer_right", "stop"}
    for photo in photos_of(truth(key), [f"dry-{view}" for view in VIEWS]):
        order = guided_order(photo["view"])
        wanted = [m for m in order if m in left_over or m in again]
        left_over -= set(wanted)
        placed += mark_photo(page, person, photo, wanted)
    assert not left_over
    page.get_by_role("tab", name="By hand").click()
    for words, a, b in (
        ("Across the outer eye corners, mm", "eye_outer_left", "eye_outer_right"),
        ("Stop to nose tip, mm", "stop", "nose_tip"),
    ):
        person.pause(READ_S)
        page.get_by_label(words).fill(str(calliper_mm(truth(key), a, b)))
        page.keyboard.press("Enter")
        page.locator(f"[data-reading='{a}-{b}']").wait_for()
    page.locator("[data-saving=saved]").wait_for()
    return placed


def known_dog(page: Page, person: Person, address: str) -> None:
    """A new visit of a measured dog: two photos, the expected places taken over after a look, the outline."""
    page.goto(f"{address}/dogs/1")
    person.pause(GLANCE_S)
    page.get_by_role("button", name="New visit").click()
    for photo, slot in zip(
        photos_of(truth("fogbell"), ("dry-front", "dry-left"), visit=1),
        ("Front", "The dog’s left side"),
        strict=True,
    ):
        person.pause(3.0)
        page.get_by_label(f"File for {slot}").set_input_files(PHOTOS / photo["file"])
        page.get_by_alt_text(re.compile(photo["file"])).wait_for()
    person.pause(GLANCE_S)
    page.get_by_role("link", name="Go on to marks").click()
    for view in ("front", "left"):
        page.get_by_role("button", name=re.compile(f"^{view} ·")).click()
        take = page.get_by_role("button", name=re.compile(r"Take all \d+ expected"))
        take.wait_for(timeout=60_000)
        person.pause(3 * GLANCE_S)
        take.click()
        page.locator("[data-mark=nose_tip]").wait_for()
    page.locator("[data-saving=saved]").wait_for()
    person.pause(GLANCE_S)
    page.get_by_role("link", name="Go on to the outline").click()
    page.locator("[data-line=outline]").first.wait_for(timeout=60_000)


def report(stretches: list[Stretch], placed: int, off: str) -> str:
    lines = [
        "# How long measuring takes",
        "",
        "Written by `tools/timed_run.py`: Debian's Chromium driven through the real screens with pauses as a person "
        f"makes them (seconds, log-normal, spread {SPREAD:g}, fixed seed): {LOOK_S:g} to find a mark that is seen, "
        f"{FEEL_S:g} to feel for one under coat, {PRESS_S:g} to press, {GLANCE_S:g} for a glance at a new photo, "
        f"{READ_S:g} to take and type a calliper reading. These are assumptions: nobody has been timed with it yet.",
        "",
        "| what | took | of it a person's pauses | the machine and the driver |",
        "|-|-|-|-|",
        *(
            f"| {s.what} | {s.total_s:.0f} s | {s.paused_s:.0f} s | {s.total_s - s.paused_s:.1f} s |"
            for s in stretches
        ),
        "",
        f"The first head: {placed} presses, each of the 24 marks at least once. {off}",
        "",
    ]
    return "\n".join(lines)


def main() -> None:
    person, stretches = Person(), []  # type: ignore[var-annotated]
    with tempfile.TemporaryDirectory() as folder, sync_playwright() as driver:
        store = SalonStore(Path(folder))
        fill_with_demo(store, ("fogbell", "tiller"))
        assert set(ALL_SEVEN) > {"dry-front"}
        with served(store) as address:
            chromium = launch(driver)
            page = chromium.new_page(viewport={"width": 1280, "height": 800})
            page.set_default_timeout(60_000)
            page.goto(f"{address}/dogs/2/photos")
            page.locator("[data-slot=top] [data-usable]").wait_for(timeout=180_000)
            page.goto(f"{address}/dogs/2/marks")
            page.locator("[data-plane=front]").wait_for()
            with timed("A first head: four photos, two readings", person, stretches):
                placed = first_head(page, person, "tiller")
            with timed("A known dog's new visit, from opening it to the outline", person, stretches):
                known_dog(page, person, address)
            chromium.close()
        skull = next(m for m in measure_visit(store, 2).measures if m.id == "skull_width")
        true = calliper_mm(truth("tiller"), "cheek_left", "cheek_right")
        off = f"Its skull width came out {skull.value:.0f} ±{(skull.high - skull.low) / 2:.0f} mm, true {true:.0f}."
        text = report(stretches, placed, off)
    OUT.write_text(text)
    print(text)


if __name__ == "__main__":
    main()
