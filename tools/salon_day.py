"""A full day of ten dogs by two stylists at once, through the real screens; written to docs/day.md.

.venv/bin/python tools/salon_day.py          # wants web/dist built and Chromium installed; takes some minutes

One works by finger on a small tablet, the other by keys on an upright one. In the middle of the day the server's
machine loses its power twice (kill -9) and comes back; each tablet sleeps once in the middle of a cut. Afterwards the
record is read: what a stylist did at the table has to be there, once, and under the right dog and name.
"""

from __future__ import annotations

import tempfile
import threading
import time
from dataclasses import dataclass, field
from pathlib import Path
from typing import Final

from playwright.sync_api import Browser, Page, sync_playwright
from playwright.sync_api import Error as PlaywrightError

from dapwick.records import queries
from dapwick.records.store import SalonStore
from dapwick.service.dogs.about import one_dog, set_about
from dapwick.service.dogs.bundles import bundle_of, take_in
from dapwick.service.salon.demo import fill_with_demo
from dapwick.service.visits.bookings import booked_ahead
from headless import launch
from salon_server import SalonServer
from screenshots import mark_all

OUT: Final = Path(__file__).parents[1] / "docs" / "day.md"
LONG_MS, PRESSED_MS = 240_000, 4_000
OFF_AFTER_S, OFF_FOR_S = (70.0, 240.0), 12.0
ASLEEP_S: Final = 25.0
SLEEPS_AT: Final = 20
"""The step at which a tablet falls asleep, in its stylist's second cut."""
MARKED_HERE: Final = {3: "tiller", 4: "marlin-spike", 6: "squall", 7: "ratline", 8: "halyard"}
VISITORS: Final = {"fogbell": "Haar", "tiller": "Thwart", "ratline": "Shroud", "squall": "Gust"}
"""Dogs of another salon, and what they are called there."""


@dataclass
class Stylist:
    """Who works, on what, and what was waited for: seconds by what."""

    name: str
    way: str
    size: dict[str, int]
    dogs: list[tuple[int, str]]
    waited: dict[str, list[float]] = field(default_factory=dict)
    troubles: list[str] = field(default_factory=list)
    again: int = 0

    def wait(self, what: str, page: Page, shown: str) -> None:
        begun = time.perf_counter()
        page.locator(shown).first.wait_for(timeout=LONG_MS)
        self.waited.setdefault(what, []).append(time.perf_counter() - begun)


def press(who: Stylist, page: Page, role: str, name: str) -> None:
    at = page.get_by_role(role, name=name).first  # type: ignore[arg-type]
    at.wait_for(timeout=LONG_MS)
    if who.way == "finger":
        at.tap()
    else:
        at.focus()
        page.keyboard.press("Space" if role == "radio" else "Enter")


def go(who: Stylist, page: Page, name: str, to: str) -> None:
    """By a link, as a person does: once more where a press fell into a screen that was just being drawn."""
    while True:
        press(who, page, "link", name)
        try:
            page.wait_for_url(f"**{to}", timeout=PRESSED_MS)
            return
        except PlaywrightError:
            who.again += 1


def on_with(who: Stylist, page: Page, sleeps: bool) -> None:
    """Every step of the cut, one press each."""
    seen = 0
    while True:
        now = page.locator("main[data-step]").get_attribute("data-step")
        seen += 1
        if sleeps and seen == SLEEPS_AT:
            asleep(page)
        if page.get_by_role("button", name="All done: end the cut").count():
            press(who, page, "button", "All done: end the cut")
            return
        if who.way == "finger":
            page.locator("nav[aria-label=Steps] button").last.tap()
        else:
            page.keyboard.press("PageDown")
        page.wait_for_function(
            "was => document.querySelector('main').dataset.step !== was || "
            "document.querySelector('main').textContent.includes('All done')",
            arg=now,
        )


def asleep(page: Page) -> None:
    """The browser stops the page as it does when a tablet's screen goes dark, and wakes it again."""
    browser = page.context.new_cdp_session(page)
    browser.send("Page.setWebLifecycleState", {"state": "frozen"})
    time.sleep(ASLEEP_S)
    browser.send("Page.setWebLifecycleState", {"state": "active"})


def visit(who: Stylist, page: Page, address: str, dog: tuple[int, str], sleeps: bool) -> None:
    """From Today to Today: outline, cut, check, next time, home."""
    number, name = dog
    opened(page, address)
    go(who, page, name, f"/dogs/{number}")
    page.get_by_role("tab", name="Over time").wait_for()
    go(who, page, "Outline", f"/dogs/{number}/outline")
    who.wait("outline at rest, photos looked at", page, "main[data-settled=true]")
    press(who, page, "button", "Keep this outline")
    go(who, page, "Cut", f"/dogs/{number}/cut")
    who.wait("cut sheet", page, "role=button[name='Start cutting']")
    press(who, page, "radio", who.name)
    for_this_hand(who, page, f"{address}/api/dogs/{number}/cut")
    press(who, page, "button", "Start cutting")
    page.locator("main[data-step]").wait_for()
    on_with(who, page, sleeps)
    go(who, page, "On to the check", f"/dogs/{number}/check")
    go(who, page, "Next time", f"/dogs/{number}/next")
    who.wait("next time", page, "[data-free]")
    page.get_by_label("Note for next time").fill(f"{who.name} cut {name}")
    page.locator("[data-free]").first.click()
    page.locator("[data-booked]").wait_for(timeout=LONG_MS)
    press(who, page, "button", "Goes home")
    page.get_by_role("link", name="On with Today").wait_for(timeout=LONG_MS)
    page.locator("[data-outbox]").wait_for(state="detached", timeout=LONG_MS)


def for_this_hand(who: Stylist, page: Page, url: str) -> None:
    begun = time.perf_counter()
    while stylist_on(page, url) != who.name:
        page.wait_for_timeout(200)
    who.waited.setdefault("sheet for this hand", []).append(time.perf_counter() - begun)


def stylist_on(page: Page, url: str) -> str | None:
    """Who a cut is written for; None while the server is away."""
    try:
        told: str | None = page.request.get(url, timeout=LONG_MS).json().get("stylist")
    except PlaywrightError:
        return None
    return told


def opened(page: Page, address: str) -> None:
    """As a person does whose screen stays white: once more."""
    while True:
        try:
            page.goto(address)
            page.get_by_role("heading", name="Today").wait_for()
            return
        except PlaywrightError:
            time.sleep(2.0)


def work(who: Stylist, address: str) -> None:
    with sync_playwright() as driver:
        browser: Browser = launch(driver)
        context = browser.new_context(viewport=who.size, has_touch=who.way == "finger")  # type: ignore[arg-type]
        context.set_default_timeout(LONG_MS)
        page = context.new_page()
        page.on("pageerror", lambda error: who.troubles.append(str(error)))
        for at, dog in enumerate(who.dogs):
            try:
                visit(who, page, address, dog, sleeps=at == 1)
            except PlaywrightError as error:
                who.troubles.append(f"{dog[1]}: {error}")
                print(f"{who.name}, {dog[1]}, at {page.url}: {error}", flush=True)
        browser.close()


def filled(folder: Path) -> list[tuple[int, str]]:
    """The demo's marked dogs, and three that come from another salon by their bundles."""
    store, other = SalonStore(folder / "salon"), SalonStore(folder / "other")
    fill_with_demo(store)
    for number, key in MARKED_HERE.items():
        mark_all(store, key, number)
    fill_with_demo(other, tuple(VISITORS))
    dogs = [(number, one_dog(store, number).name) for number in (1, *MARKED_HERE)]
    for number, (key, name) in enumerate(VISITORS.items(), start=1):
        if key in MARKED_HERE.values():
            mark_all(other, key, number)
        card = one_dog(other, number)
        set_about(other, number, {"name": name, "coat": card.coat, "breed": card.breed, "born": card.born})
        dogs.append((take_in(store, bundle_of(other, number), f"{key}.zip").id, name))
    other.close()
    store.close()
    return dogs


def day_of(folder: Path) -> tuple[list[Stylist], float]:
    """Both stylists at work on a server that loses its power; how long the day took, s."""
    dogs = filled(folder)
    stylists = [
        Stylist("Oriel", "finger", {"width": 1024, "height": 768}, dogs[0::2]),
        Stylist("Benno", "keys", {"width": 820, "height": 1180}, dogs[1::2]),
    ]
    server = SalonServer(folder / "salon")
    server.start()
    begun = time.perf_counter()
    threads = [threading.Thread(target=work, args=(who, server.address)) for who in stylists]
    for thread in threads:
        thread.start()
    for off_s in OFF_AFTER_S:
        time.sleep(max(off_s - (time.perf_counter() - begun), 0.0))
        server.kill()
        time.sleep(OFF_FOR_S)
        server.start()
    for thread in threads:
        thread.join()
    took = time.perf_counter() - begun
    server.kill()
    return stylists, took


def faults_of(store: SalonStore, who: Stylist, dog: tuple[int, str]) -> list[str]:
    """What of a visit is not on record as it was done at the table."""
    number, name = dog
    with store.reading() as session:
        visit = queries.visit_today(session, number)
        cuts, note = list(visit.cuts), visit.next_note
        steps = [step["id"] for step in cuts[-1].sheet["steps"]] if cuts else []
        done = [one.step for one in cuts[-1].steps] if cuts else []
        said = {
            "the visit has ended": visit.ended is not None,
            "one outline is kept": len(visit.outlines) == 1,
            "one cut, ended": len(cuts) == 1 and cuts[0].ended is not None,
            "cut by who cut it": bool(cuts) and cuts[-1].stylist == who.name,
            "every step done, once": bool(steps) and sorted(steps) == sorted(done),
            "the note is kept": note == f"{who.name} cut {name}",
        }
    said["one time is booked"] = len(booked_ahead(store, number)) == 1
    return [f"{name}: not so: {words}" for words, so in said.items() if not so]


def report(stylists: list[Stylist], took_s: float, faults: list[str]) -> str:
    rows = [
        f"| {who.name}, by {who.way}, {who.size['width']}×{who.size['height']} | {what} | {len(times)} "
        f"| {sorted(times)[len(times) // 2]:.1f} | {max(times):.1f} |"
        for who in stylists
        for what, times in who.waited.items()
    ]
    again = sum(who.again for who in stylists)
    troubles = [f"{who.name}: {one.splitlines()[0]}" for who in stylists for one in who.troubles]
    told = [*troubles, *faults] or ["nothing"]
    dogs = sum(len(who.dogs) for who in stylists)
    return "\n".join(
        [
            *HEAD,
            f"{dogs} dogs in {took_s / 60:.1f} minutes of pressing without a pause; {again} links pressed a second "
            "time because nothing had come of the first.",
            "",
            "| who | waited for | times | median s | longest s |",
            "|-|-|-|-|-|",
            *rows,
            "",
            "Lost, doubled, under a wrong name, or an error on a page: " + "; ".join(told) + ".",
            "",
        ]
    )


HEAD: Final = [
    "# A day of ten dogs",
    "",
    "Written by `tools/salon_day.py`: two stylists on two tablets, five dogs each, from Today to *goes home* through "
    f"the real screens. The server is killed {len(OFF_AFTER_S)} times and back after "
    f"{OFF_FOR_S:.0f} s; each tablet sleeps {ASLEEP_S:.0f} s in the middle of its second cut. Two browsers and the "
    "server share two cores, so what is waited for is longer than in a salon; a wait that a killed server fell into "
    "counts too. Afterwards the record is read: visits ended, one outline, one cut by who cut, every step once, note, "
    "one booking.",
    "",
]


def main() -> None:
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        stylists, took_s = day_of(folder)
        store = SalonStore(folder / "salon")
        faults = [fault for who in stylists for dog in who.dogs for fault in faults_of(store, who, dog)]
        store.close()
    text = report(stylists, took_s, faults)
    print(text)
    OUT.write_text(text)


if __name__ == "__main__":
    main()
