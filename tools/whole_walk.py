"""A whole visit walked through on heads of another hand, by a scripted person; written to docs/walk.md.

.venv/bin/python tools/whole_walk.py         # wants web/dist built and Chromium installed; takes some minutes

Three dogs of `otherdogs`, which share nothing with the demo's and which nothing is trained on: one walked by mouse,
one by finger, one by keys; right- and left-handed. Seven photos each under names that tell nothing, one of an empty
room among them. The person waits, looks and corrects; pauses are assumptions, drawn with a fixed seed, and said in the
report.
"""

from __future__ import annotations

import argparse
import tempfile
import time
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass, field
from pathlib import Path
from typing import Final, Literal

import cv2
import numpy as np
from playwright.sync_api import Locator, Page, sync_playwright

from dapwick.records.store import SalonStore
from headless import launch
from otherdogs.dogs import DOGS, OtherDog, shots
from otherdogs.paint import OtherShot, painted, pictured, room
from screenshots import served

OUT: Final = Path(__file__).parents[1] / "docs" / "walk.md"
LOOK_S, PRESS_S, GLANCE_S, READ_S = 1.0, 0.7, 1.4, 6.5
SPREAD: Final = 0.3
SEED: Final = 11
LONG_MS: Final = 180_000
CORRECTED_SPANS: Final = 0.12
"""A suggestion further off than this share of the eyes' distance is seen, and put right."""
HAND_PX, CALLIPER_MM = 1.5, 0.7
DRY, WET = ("front", "left", "right", "top"), ("front", "left", "right")
READINGS: Final = (
    ("Across the outer eye corners, mm", "eye_outer_left", "eye_outer_right"),
    ("Stop to nose tip, mm", "stop", "nose_tip"),
)
VIEW_WORDS: Final = {
    "front": "Front",
    "left": "The dog’s left side",
    "right": "The dog’s right side",
    "top": "From above",
}
Way = Literal["mouse", "finger", "keys"]


@dataclass
class Person:
    """Somebody at the table. presses: every press, tap, drag and key; what is typed into one field counts once."""

    page: Page
    way: Way
    rng: np.random.Generator = field(default_factory=lambda: np.random.default_rng(SEED))
    paused_s: float = 0.0
    presses: int = 0
    corrected: int = 0

    def pause(self, about_s: float) -> None:
        seconds = float(about_s * self.rng.lognormal(0.0, SPREAD))
        self.paused_s += seconds
        time.sleep(seconds)

    def press(self, what: Locator, thinks_s: float = PRESS_S) -> None:
        what.wait_for()
        self.pause(thinks_s)
        self.presses += 1
        if self.way == "finger":
            what.tap()
        elif self.way == "keys":
            what.focus()
            self.page.keyboard.press("Enter" if what.get_attribute("role") != "radio" else "Space")
        else:
            what.click()

    def type(self, into: Locator, words: str, enter: bool = False) -> None:
        self.presses += 1
        into.fill(words)
        if enter:
            self.page.keyboard.press("Enter")

    def correct(self, mark: str, at: tuple[float, float]) -> None:
        """Put a placed mark where it is seen or felt, photo px."""
        self.pause(LOOK_S)
        self.corrected += 1
        if self.way == "keys":
            self._nudge(mark, at)
            return
        self.presses += 1
        box = self.page.locator(f"[data-mark={mark}]").bounding_box()
        assert box
        start = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
        drag(self.page, start, on_screen(self.page, *at), by_finger=self.way == "finger")

    def _nudge(self, mark: str, at: tuple[float, float]) -> None:
        """By arrows: ten pixels with shift, one without."""
        dot = self.page.locator(f"[data-mark={mark}]")
        dot.focus()
        self.presses += 1
        now = dot.evaluate("g => { const m = g.transform.baseVal.consolidate().matrix; return [m.e, m.f] }")
        for by, (back, forth) in zip(
            (at[0] - now[0], at[1] - now[1]),
            (("ArrowLeft", "ArrowRight"), ("ArrowUp", "ArrowDown")),
            strict=True,
        ):
            key, left = (forth if by > 0 else back), round(abs(by))
            for step, name in ((10, f"Shift+{key}"), (1, key)):
                for _ in range(left // step):
                    self.page.keyboard.press(name)
                    self.presses += 1
                left %= step


@dataclass(frozen=True)
class Stretch:
    what: str
    total_s: float
    paused_s: float
    presses: int


@contextmanager
def timed(what: str, person: Person, into: list[Stretch]) -> Iterator[None]:
    began, paused, presses = time.perf_counter(), person.paused_s, person.presses
    yield
    into.append(
        Stretch(
            what,
            time.perf_counter() - began,
            person.paused_s - paused,
            person.presses - presses,
        )
    )


def on_screen(page: Page, x_px: float, y_px: float) -> tuple[float, float]:
    script = """([x, y]) => { const plane = document.querySelector('[data-plane]')
        const p = new DOMPoint(x, y).matrixTransform(plane.getScreenCTM()); return [p.x, p.y] }"""
    x, y = page.evaluate(script, [x_px, y_px])
    return float(x), float(y)


def drag(page: Page, start: tuple[float, float], end: tuple[float, float], by_finger: bool) -> None:
    if not by_finger:
        page.mouse.move(*start)
        page.mouse.down()
        page.mouse.move(*end, steps=6)
        page.mouse.up()
        return
    finger = page.context.new_cdp_session(page)
    for kind, at in (("touchStart", start), ("touchMove", end), ("touchEnd", None)):
        points = [{"x": at[0], "y": at[1]}] if at else []
        finger.send("Input.dispatchTouchEvent", {"type": kind, "touchPoints": points})
    finger.detach()


def photo(dog: OtherDog, shot: OtherShot, folder: Path, number: int) -> Path:
    """A photo under a camera's own name."""
    rgb, _ = painted(dog.head, dog.coat, shot, 100 * dog.seed + number)
    return _written(rgb, folder, number)


def empty_room(folder: Path, number: int) -> Path:
    rgb = room(OtherShot("front"), np.random.default_rng(number))
    return _written(np.asarray(rgb), folder, number)


def _written(rgb: np.ndarray, folder: Path, number: int) -> Path:
    path = folder / f"IMG_{4000 + number}.jpg"
    bytes_ = np.clip(rgb if rgb.dtype == np.uint8 else rgb * 255, 0, 255).astype(np.uint8)
    cv2.imwrite(str(path), cv2.cvtColor(bytes_, cv2.COLOR_RGB2BGR), [cv2.IMWRITE_JPEG_QUALITY, 92])
    return path


@dataclass
class Taken:
    """A dog's photos: the view of each file, and where its marks are true, px."""

    dog: OtherDog
    shots: dict[str, OtherShot]

    def true_px(self, view: str) -> dict[str, tuple[float, float]]:
        marks = self.dog.head.marks()
        at, _ = pictured(np.array(list(marks.values())), self.shots[view])
        return {m: (float(x), float(y)) for m, (x, y) in zip(marks, at, strict=True)}

    def span_px(self, view: str) -> float:
        at = self.true_px("front")
        return float(np.hypot(*np.subtract(at["eye_inner_left"], at["eye_inner_right"])))

    def apart_mm(self, a: str, b: str) -> float:
        marks = self.dog.head.marks()
        return float(np.linalg.norm(np.subtract(marks[a], marks[b])))


def take_photos(person: Person, taken: Taken, folder: Path, visit: int) -> None:
    """Drop what the camera has, room and all; say where what is asked about belongs; wet ones after the bath."""
    page, views = person.page, {}
    known = visit > 0
    for state, wanted in (("dry", DRY[:2] if known else DRY), ("wet", () if known else WET)):
        if not wanted:
            continue
        if state == "wet":
            person.press(page.get_by_role("radio", name="Wet"))
        files = []
        for k, view in enumerate(wanted):
            shot = next(s for s in shots(taken.dog) if s.view == view and s.wet == (state == "wet"))
            number = 100 * visit + 10 * taken.dog.seed + k + (5 if state == "wet" else 0)
            files.append(photo(taken.dog, shot, folder, number))
            views[files[-1].name] = view
            if state == "dry":
                taken.shots[view] = shot
        if state == "dry" and not known:
            files.append(empty_room(folder, 90 + taken.dog.seed))
        person.presses += 1
        page.get_by_label("Add several photos").set_input_files(files)
        page.get_by_text(f"{len(files)} of {len(files)} in").wait_for(timeout=LONG_MS)
        _say_where(person, views)


def _say_where(person: Person, views: dict[str, str]) -> None:
    """What is asked about; a picture of no dog is left out."""
    page = person.page
    tray = page.get_by_label("Where does this belong?")
    while tray.count() and tray.locator("[data-asked]").count():
        asked = tray.locator("[data-asked]").first
        which = asked.get_attribute("data-asked")
        name = asked.locator("img").get_attribute("alt") or ""
        words = VIEW_WORDS.get(views.get(name, ""), "No dog: leave out")
        choice = asked.get_by_role("button", name=words, exact=True)
        if choice.count():
            person.press(choice, GLANCE_S)
        else:
            person.press(asked.get_by_role("button", name="No dog: leave out"), GLANCE_S)
        page.locator(f"[data-asked='{which}']").wait_for(state="detached")


def mark(person: Person, taken: Taken) -> None:
    """On the front and the left: all that is suggested, then what is off put right; the rest accepted or skipped."""
    page = person.page
    for view in ("front", "left"):
        page.locator(f"[data-plane={view}]").wait_for()
        person.pause(2 * GLANCE_S)
        every = page.get_by_role("button", name="Accept all").first
        if _comes(every):
            person.press(every)
        card = page.get_by_label("Next mark")
        while card.get_by_role("heading").count():
            person.press(card.get_by_role("button", name="Skip"))
        true, far = taken.true_px(view), CORRECTED_SPANS * taken.span_px(view)
        dots = page.evaluate(
            """() => Object.fromEntries([...document.querySelectorAll('[data-mark]')].map((g) => {
            const m = g.transform.baseVal.consolidate().matrix; return [g.dataset.mark, [m.e, m.f]] }))"""
        )
        for name, at in dots.items():
            if name in true and float(np.hypot(*np.subtract(at, true[name]))) > far:
                hand = person.rng.normal(0, HAND_PX, 2)
                person.correct(name, (true[name][0] + hand[0], true[name][1] + hand[1]))
        onward = page.locator("[data-onward]")
        if view == "front" and onward.count():
            person.press(onward)
        elif view == "front":
            person.press(page.get_by_role("button", name="left ·").first)


def _comes(what: Locator) -> bool:
    """Whether it can be pressed before long: suggestions come as photos are looked at."""
    last = time.monotonic() + 20
    while time.monotonic() < last:
        if what.count() and what.is_enabled():
            return True
        time.sleep(0.1)
    return False


def read_by_hand(person: Person, taken: Taken) -> None:
    person.press(person.page.get_by_role("tab", name="By hand"))
    for words, a, b in READINGS:
        person.pause(READ_S)
        mm = taken.apart_mm(a, b) + float(person.rng.normal(0, CALLIPER_MM))
        person.type(person.page.get_by_label(words), f"{mm:.0f}", enter=True)
        person.page.locator(f"[data-reading='{a}-{b}']").wait_for()


def plan(person: Person) -> str:
    """The best outline that this coat carries, kept; its name."""
    page = person.page
    page.locator("[data-saving=saved]").wait_for()
    person.press(page.get_by_role("link", name="Go on to the outline"))
    page.locator("[data-line=outline]").first.wait_for(timeout=LONG_MS)
    page.locator("[data-thumb][data-verdict]").first.wait_for(timeout=LONG_MS)
    person.pause(3 * GLANCE_S)
    best = page.locator("[data-thumb]").first
    if best.get_attribute("aria-checked") != "true":
        person.press(best)
    page.locator("main[data-settled=true]").wait_for(timeout=LONG_MS)
    person.press(page.get_by_role("button", name="Keep this outline"), GLANCE_S)
    page.get_by_role("button", name="Kept").wait_for(timeout=LONG_MS)
    return str(page.locator("aside h2").first.text_content())


def cut_and_go_home(person: Person) -> int:
    """Every step, the check, the note, the end of the visit; how many steps."""
    page = person.page
    person.press(page.get_by_role("link", name="Cut").first)
    person.press(page.get_by_role("button", name="Start cutting"))
    page.locator("main[data-step]").wait_for(timeout=LONG_MS)
    steps = 0
    # A finger rests above the one large button.
    box = page.locator("nav[aria-label=Steps] button").last.bounding_box()
    assert box
    while page.locator("main[data-step]").count():
        if person.way == "finger":
            page.touchscreen.tap(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
        else:
            page.keyboard.press("Space")
        steps += 1
        person.presses += 1
        page.wait_for_timeout(30)
    person.press(page.get_by_role("link", name="On to the check"))
    page.locator("main").first.wait_for()
    person.press(page.get_by_role("link", name="Next time").first)
    person.press(page.get_by_role("button", name="Goes home: end the visit"))
    person.press(page.get_by_role("link", name="On with Today"))
    page.get_by_role("heading", name="Today").wait_for()
    return steps


def new_dog(person: Person, name: str, ears: str) -> None:
    page = person.page
    person.press(page.get_by_role("button", name="New dog").first)
    person.type(page.get_by_label("Name", exact=True), name)
    person.press(page.get_by_role("radio", name=ears, exact=True))
    person.press(page.get_by_role("button", name="Go on", exact=True))
    person.press(page.get_by_role("button", name="low upkeep"), LOOK_S)
    person.press(page.get_by_role("link", name="Go on to photos"))


def visit(person: Person, taken: Taken, folder: Path, number: int, stretches: list[Stretch]) -> str:
    """One visit from its photos to its end; the outline's name."""
    page = person.page
    what = "First head" if number == 0 else "Known dog"
    with timed(f"{what}: photos to plan", person, stretches):
        take_photos(person, taken, folder, number)
        person.press(page.get_by_role("link", name="Go on to marks"))
        mark(person, taken)
        if number == 0:
            read_by_hand(person, taken)
        outline = plan(person)
    with timed(f"{what}: the cut, check, next time, home", person, stretches):
        cut_and_go_home(person)
    return outline


def walked(address: str, dog: OtherDog, way: Way, hand: str, folder: Path, driver) -> list[str]:  # type: ignore[no-untyped-def]
    """Both visits of one dog; rows of the report."""
    chromium = launch(driver)
    size = {"width": 1280, "height": 800} if way != "finger" else {"width": 1024, "height": 768}
    page = chromium.new_context(viewport=size, has_touch=way == "finger").new_page()
    page.set_default_timeout(60_000)
    errors: list[str] = []
    page.on("pageerror", lambda error: errors.append(str(error)))
    person, stretches = Person(page, way), []  # type: ignore[var-annotated]
    taken = Taken(dog, {})
    page.goto(address)
    ears = {"prick": "prick", "drop": "drop", "side": "not sure"}[dog.head.ear]
    new_dog(person, dog.name.title(), ears)
    outlines = [visit(person, taken, folder, 0, stretches)]
    page.get_by_label("Find a dog").fill(dog.name)
    page.get_by_role("option", name=dog.name.title()).first.click()
    person.press(page.get_by_role("button", name="New visit"))
    person.press(page.get_by_role("link", name="go on to photos"))
    outlines.append(visit(person, taken, folder, 1, stretches))
    chromium.close()
    assert not errors, errors
    rows = [
        f"| {dog.name}, {dog.head.ear} ears, by {way}, {hand}-handed | {s.what} | {s.total_s:.0f} s "
        f"| {s.paused_s:.0f} s | {s.total_s - s.paused_s:.0f} s | {s.presses} |"
        for s in stretches
    ]
    return [
        *rows,
        f"| {dog.name} | outlines kept; marks put right | {', '.join(outlines)} | | | {person.corrected} |",
    ]


WALKS: Final[tuple[tuple[str, Way, str], ...]] = (
    ("buoy", "mouse", "right"),
    ("dinghy", "finger", "left"),
    ("fender", "keys", "right"),
)


def main() -> None:
    asked = argparse.ArgumentParser()
    asked.add_argument("--only", default="", help="one dog's name; nothing is written")
    only = asked.parse_args().only
    rows: list[str] = []
    with tempfile.TemporaryDirectory() as folder, sync_playwright() as driver:
        for name, way, hand in WALKS:
            if only and name != only:
                continue
            store = SalonStore(Path(folder) / name)
            with served(store) as address:
                start(address, hand, driver)
                dog = next(d for d in DOGS if d.name == name)
                rows += walked(address, dog, way, hand, Path(folder), driver)
            store.close()
    text = "\n".join([*HEAD, *rows, ""])
    print(text)
    if not only:
        OUT.write_text(text)


def start(address: str, hand: str, driver) -> None:  # type: ignore[no-untyped-def]
    """The three questions of a new salon."""
    chromium = launch(driver)
    page = chromium.new_page()
    page.goto(address)
    page.get_by_label("The salon’s name").fill("The Quay")
    page.get_by_label("Who cuts?").fill("Wren")
    page.get_by_role("radio", name=f"{hand} hand").click()
    page.get_by_role("button", name="Begin").click()
    page.get_by_text("No dogs yet").wait_for()
    chromium.close()


HEAD: Final = [
    "# A whole visit, walked through",
    "",
    "Written by `tools/whole_walk.py`: Debian's Chromium driven through the real screens on dogs of another hand "
    "(`tools/otherdogs`), from an empty salon. Seven photos under a camera's own names and one of an empty room; a "
    "known dog's second visit has two. The person takes all suggestions of a photo at once and puts right those more "
    f"than {CORRECTED_SPANS:g} eye spans off, by drag, finger or arrows. Pauses (seconds, log-normal, spread "
    f"{SPREAD:g}, fixed seed) are assumptions: {LOOK_S:g} to find a mark, {PRESS_S:g} to press, {GLANCE_S:g} for a "
    f"glance, {READ_S:g} to take and type a calliper reading; nobody has been timed with it yet. Presses: every press, "
    "tap, drag and key; what is typed into one field counts once. Cutting itself takes no time here.",
    "",
    "| who | what | took | of it a person's pauses | machine and driver | presses |",
    "|-|-|-|-|-|-|",
]

if __name__ == "__main__":
    main()
