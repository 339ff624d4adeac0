"""Take the pictures of docs/screenshots from the demo salon.

.venv/bin/python tools/screenshots.py          # wants web/dist built and Chromium installed
"""

from __future__ import annotations

import os
import socket
import tempfile
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import uvicorn
from playwright.sync_api import Page, sync_playwright

from dapwick.api.app import make_app
from dapwick.core.outlines.families import FAMILIES
from dapwick.demo.dogs import ALL_SEVEN, TODAYS_VISIT, calliper_mm, hand_marks, photos_of, truth
from dapwick.records.models import PracticePersonRow
from dapwick.records.store import SalonStore
from dapwick.service.dogs.about import one_dog, set_hand_measures
from dapwick.service.photos.taking_in import set_marks
from dapwick.service.plans.planner import Asked, Planner
from dapwick.service.practice.people import take_in
from dapwick.service.salon.demo import fill_with_demo
from headless import launch
from learner import Learner

ROOT = Path(__file__).parents[1]
OUT = ROOT / "docs" / "screenshots"
SETTLE_MS = 600
LOOKING_MS = 90_000
STEP_SHOWN = "temple"
MARKED = ((0.433, 0.431), (0.788, 0.432), (0.545, 0.553), (0.581, 0.653), (0.587, 0.747))
CAMERA = "/dogs/5/camera?view=front&state=dry&source=simulated"


@contextmanager
def served(store: SalonStore) -> Iterator[str]:
    """Address of a server on a free port, in a thread of its own, ended before the store is closed."""
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]
    server = uvicorn.Server(
        uvicorn.Config(make_app(store, ROOT / "web" / "dist"), port=port, log_level="error")
    )
    thread = threading.Thread(target=server.run, daemon=True)
    thread.start()
    while not server.started:
        time.sleep(0.05)
    yield f"http://127.0.0.1:{port}"
    server.should_exit = True
    thread.join()


def shoot(page: Page, address: str, name: str, path: str, wait_for: str, mode: str = "paper") -> None:
    page.goto(address)
    page.evaluate(f"localStorage.setItem('dapwick.mode', '{mode}')")
    page.goto(address + path)
    page.locator(wait_for).first.wait_for()
    page.wait_for_timeout(SETTLE_MS)
    page.screenshot(path=OUT / f"{name}.png")


def mark_bobbin_partly(store: SalonStore) -> None:
    """As in the middle of the Marks stage: the front's first marks, the whole left side."""
    known = truth("bobbin")
    front, left = photos_of(known, visit=TODAYS_VISIT)
    photos = {p.view: p.id for p in one_dog(store, 2).photos}
    set_marks(store, photos["front"], dict(list(hand_marks(front).items())[:7]))
    set_marks(store, photos["left"], hand_marks(left))
    across = ("eye_outer_left", "eye_outer_right")
    set_hand_measures(
        store, 2, [{"from": across[0], "to": across[1], "mm": calliper_mm(known, *across), "sigma_mm": 1.0}]
    )


def mark_all(store: SalonStore, key: str, dog_id: int) -> None:
    """Every photo of a dog marked by a steady hand, two calliper readings."""
    known, card = truth(key), one_dog(store, dog_id)
    for photo in photos_of(known, ALL_SEVEN):
        row = next(p for p in card.photos if (p.view, p.state) == (photo["view"], photo["state"]))
        set_marks(store, row.id, hand_marks(photo))
    spans = (("eye_outer_left", "eye_outer_right"), ("stop", "nose_tip"))
    readings = [{"from": a, "to": b, "mm": calliper_mm(known, a, b), "sigma_mm": 1.0} for a, b in spans]
    set_hand_measures(store, dog_id, readings)


def outline_pictures(page: Page, address: str) -> None:
    """The Outline stage: a dog with four views, and as the owner sees it."""
    fitted = f"[data-fitted='{len(FAMILIES)}']"
    shoot(page, address, "outline", "/dogs/3/outline", fitted)
    page.locator("[data-thumb=brows_beard]").click()
    page.locator("main[data-settled=true]").wait_for()
    page.locator("[data-head3d=brows_beard]").wait_for()
    page.wait_for_timeout(SETTLE_MS)
    page.screenshot(path=OUT / "outline.png")
    page.get_by_role("button", name="Show the owner").click()
    page.locator("[data-owner] img").nth(1).wait_for()
    page.locator("[data-owner] figure[aria-busy=true]").first.wait_for(state="detached")
    page.wait_for_timeout(SETTLE_MS)
    page.screenshot(path=OUT / "outline-owner.png")


def cut_pictures(page: Page, address: str, store: SalonStore) -> None:
    """The cut of a dog that minds its muzzle: the sheet at a glance, a step of it at the table; and the kit."""
    Planner(store).save(1, Asked("teddy"))
    shoot(page, address, "cut-list", "/dogs/1/cut", "role=button[name='Start cutting']")
    page.get_by_role("button", name="Start cutting").click()
    page.locator("main[data-step]").wait_for()
    while not (page.locator("main").get_attribute("data-step") or "").startswith(STEP_SHOWN):
        page.keyboard.press("Space")
    page.wait_for_timeout(SETTLE_MS)
    page.screenshot(path=OUT / "cut.png")
    shoot(page, address, "kit", "/kit", "[role=main] h1")


def after_pictures(page: Page, address: str) -> None:
    """Capstan, whose left cheek was left long: its check, what shows first, and how far off the tool was."""
    shoot(page, address, "check", "/dogs/9/check", "[data-touch-up]")
    shoot(page, address, "next-time", "/dogs/9/next", "[data-proposed]")
    shoot(page, address, "how-far-off", "/salon/how-far-off", "[data-kind]")


def record_pictures(page: Page, address: str) -> None:
    """What the owner wished, a dog over time, the salon."""
    page.goto(f"{address}/dogs/1/wishes")
    page.get_by_role("button", name="short beard that does not drip").click()
    page.get_by_role("button", name="eyes showing").click()
    page.get_by_label("Weeks between visits").fill("8")
    page.locator("[data-keeping='kept kept']").wait_for()
    page.wait_for_timeout(SETTLE_MS)
    page.screenshot(path=OUT / "wishes.png")
    page.goto(f"{address}/dogs/1")
    page.locator("[data-past-outline]").first.wait_for()
    page.get_by_role("tab", name="Over time").click()
    page.mouse.move(0, 400)
    page.wait_for_timeout(SETTLE_MS)
    page.screenshot(path=OUT / "dog-over-time.png")
    page.goto(f"{address}/salon")
    page.get_by_role("button", name="Back up now").click()
    page.get_by_text("written, read back and checked").wait_for()
    page.wait_for_timeout(SETTLE_MS)
    page.screenshot(path=OUT / "salon.png")


def practice_pictures(page: Page, address: str, store: SalonStore) -> None:
    """Three sessions of a trainee, and one of the drills told."""
    trainee = take_in(store, "Wren")
    with store.session() as session:
        # Heads are made from it: the same pictures each time.
        session.query(PracticePersonRow).update({"uid": "wren"})
    learner = Learner(store, trainee.id)
    for drill, questions in (("bone", 13), ("eye", 24), ("long_side", 36)):
        learner.practise(drill, questions)
    page.goto(f"{address}/practice/{trainee.id}")
    page.get_by_role("button", name="I am Wren").click()
    shoot(page, address, "practice", f"/practice/{trainee.id}", "[data-next]")
    page.goto(f"{address}/practice/{trainee.id}/bone")
    head = page.locator("[data-posed]")
    head.wait_for()
    box = head.bounding_box()
    assert box
    for x, y in MARKED:
        head.click(position={"x": box["width"] * x, "y": box["height"] * y})
    page.get_by_role("button", name="Tell me").click()
    page.locator("[data-now]").wait_for()
    page.wait_for_timeout(5 * SETTLE_MS)
    page.screenshot(path=OUT / "practice-drill.png")


def main() -> None:
    OUT.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory() as folder, sync_playwright() as driver:
        # The pictures show the folder: the one that `make demo` has.
        os.chdir(folder)
        store = SalonStore(Path("salon/demo"))
        fill_with_demo(store)
        with served(store) as address:
            chromium = launch(driver)
            page = chromium.new_page(viewport={"width": 1280, "height": 800}, reduced_motion="reduce")
            shoot(page, address, "today", "/", "text=Bobbin")
            page.set_default_timeout(LOOKING_MS)
            shoot(page, address, "photos", "/dogs/3/photos", "[data-slot=top] [data-usable]")
            page.get_by_role("button", name="Open: Front").click()
            page.locator("[data-line=edge]").wait_for()
            page.wait_for_timeout(SETTLE_MS)
            page.screenshot(path=OUT / "edge.png")
            shoot(page, address, "camera", CAMERA, "[data-advice=level]")
            mark_bobbin_partly(store)
            shoot(page, address, "marks", "/dogs/2/marks", "[data-measure]")
            mark_all(store, "ratline", 7)
            shoot(page, address, "dog", "/dogs/7", "[data-head-drawing]")
            mark_all(store, "tiller", 3)
            outline_pictures(page, address)
            cut_pictures(page, address, store)
            after_pictures(page, address)
            record_pictures(page, address)
            practice_pictures(page, address, store)
            chromium.close()


if __name__ == "__main__":
    main()
