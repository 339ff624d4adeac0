"""The Check stage: finished photos come in, what stands out is taken in, the owner sees before and after."""

from __future__ import annotations

import re
from pathlib import Path

import pytest
from hands import barriers, until
from playwright.sync_api import Page, expect

from dapwick.demo.dogs import photo_bytes
from dapwick.records import queries
from dapwick.service.plans.planner import Asked, Planner

pytestmark = pytest.mark.browser
VIEWS = ("front", "left", "right")


@pytest.fixture
def finished(tmp_path: Path) -> dict[str, Path]:
    """Fogbell's finished photos as files."""
    files = {view: tmp_path / f"fogbell-finished-{view}.jpg" for view in VIEWS}
    for path in files.values():
        path.write_bytes(photo_bytes(path.name))
    return files


def test_a_finished_head_is_checked_taken_in_and_shown(page: Page, demo_salon, finished) -> None:  # type: ignore[no-untyped-def]
    Planner(demo_salon.store).save(1, Asked("round"))
    page.goto(demo_salon.address + "/dogs/1/check")
    expect(page.locator("[data-check-words]")).to_contain_text("Photograph the finished head")
    for view, path in finished.items():
        page.locator(f"[data-finished={view}] input[type=file]").set_input_files(path)
        expect(page.locator(f"[data-finished={view}] svg[role=img]")).to_be_visible()
    page.locator("[data-waiting='0'] [data-place]").first.wait_for(state="attached", timeout=60_000)
    for view in VIEWS:
        expect(page.locator(f"[data-finished={view}] [data-line=outline]")).to_be_attached()
    touch_ups = page.locator("[data-touch-up]")
    expect(touch_ups.first).to_be_visible()
    place = touch_ups.first.get_attribute("data-touch-up")
    assert page.locator("[data-long]").count() > 0
    touch_ups.first.get_by_role("button", name="Taken in").click()
    expect(touch_ups.first).to_contain_text("taken in")
    page.get_by_role("button", name="Undo").click()
    expect(touch_ups.first).not_to_contain_text("taken in")
    page.get_by_role("button", name="Redo").click()
    expect(touch_ups.first).to_contain_text("taken in")
    page.wait_for_timeout(800)
    page.reload()
    again = page.locator(f"[data-touch-up='{place}']")
    expect(again).to_contain_text("taken in")
    assert barriers(page) == []
    page.get_by_role("button", name="Show the owner").click()
    picture = page.locator("[data-before-after] img")
    until(page, "document.querySelector('[data-before-after] img')?.naturalWidth > 800")
    expect(picture).to_have_attribute("alt", "Fogbell, front: left before, right after the cut")
    with page.expect_download() as saved:
        page.get_by_role("link", name="Save as a picture").click()
    assert saved.value.suggested_filename == "Fogbell-before-after.png"
    page.get_by_role("button", name="Close").click()
    page.get_by_role("link", name="Next time").last.click()
    expect(page).to_have_url(demo_salon.address + "/dogs/1/next")


def test_a_comb_tells_what_the_photos_leave_open(page: Page, demo_salon, finished) -> None:  # type: ignore[no-untyped-def]
    Planner(demo_salon.store).save(1, Asked("round"))
    page.goto(demo_salon.address + "/dogs/1/check")
    page.locator("[data-finished=front] input[type=file]").set_input_files(finished["front"])
    first = page.locator("[data-to-comb]").first
    first.wait_for(timeout=60_000)
    place = first.get_attribute("data-to-comb")
    field = first.get_by_role("textbox")
    field.fill("28")
    field.press("Enter")
    expect(page.locator(f"[data-touch-up='{place}']")).to_be_visible(timeout=30_000)
    expect(page.locator(f"[data-to-comb='{place}']")).to_have_count(0)
    combed = page.get_by_role("list", name="Combed")
    expect(combed).to_contain_text("28 mm by comb")
    assert barriers(page) == []
    combed.get_by_role("button", name="Remove").click()
    expect(combed).to_have_count(0)
    expect(page.locator(f"[data-to-comb='{place}']")).to_be_visible(timeout=30_000)


def test_a_comb_that_leaves_a_place_open_is_asked_for_once_more_beside_it(
    page: Page, demo_salon, finished
) -> None:  # type: ignore[no-untyped-def]
    Planner(demo_salon.store).save(1, Asked("round"))
    page.goto(demo_salon.address + "/dogs/1/check")
    page.locator("[data-finished=front] input[type=file]").set_input_files(finished["front"])
    unseen = page.locator("[data-to-comb]").filter(has_text="no photo shows it").first
    unseen.wait_for(timeout=60_000)
    place = unseen.get_attribute("data-to-comb")
    said = re.search(r"(\d+) mm planned", unseen.inner_text())
    assert said
    unseen.get_by_role("textbox").fill(str(int(said[1]) + 2))
    unseen.get_by_role("textbox").press("Enter")
    again = page.locator(f"[data-to-comb='{place}']")
    expect(again).to_contain_text("so far: once more, a finger's width", timeout=30_000)
    # The cursor stays in the field, so that the next depth is typed at once.
    expect(again.get_by_role("textbox")).to_be_focused()
    page.keyboard.type(said[1])
    page.keyboard.press("Enter")
    expect(page.get_by_role("list", name="Combed").get_by_role("listitem")).to_have_count(2)
    first, beside = page.get_by_role("list", name="Combed").get_by_role("listitem").all_inner_texts()
    assert f"{said[1]} mm by comb" in beside
    assert "further" in beside or "up" in beside or "down" in beside
    assert f"{int(said[1]) + 2} mm by comb" in first


def test_a_wrong_photo_says_why_and_takes_nothing_away(page: Page, demo_salon, finished, tmp_path) -> None:  # type: ignore[no-untyped-def]
    Planner(demo_salon.store).save(1, Asked("round"))
    page.goto(demo_salon.address + "/dogs/1/check")
    torn = tmp_path / "torn.jpg"
    torn.write_bytes(b"not a picture")
    page.locator("[data-finished=front] input[type=file]").set_input_files(torn)
    expect(page.locator("[data-finished=front]")).to_contain_text("torn.jpg")
    expect(page.locator("[data-finished=front] [role=alert]")).to_be_visible()
    page.locator("[data-finished=front] input[type=file]").set_input_files(finished["front"])
    expect(page.locator("[data-finished=front] svg[role=img]")).to_be_visible()
    page.get_by_role("button", name="Remove: Front").click()
    expect(page.locator("[data-finished=front] svg[role=img]")).to_have_count(0)


def test_nothing_of_a_photo_is_drawn_over_the_one_in_its_place(page: Page, demo_salon, finished) -> None:  # type: ignore[no-untyped-def]
    Planner(demo_salon.store).save(1, Asked("round"))
    page.goto(demo_salon.address + "/dogs/1/check")
    slot = page.locator("[data-finished=front]")
    slot.locator("input[type=file]").set_input_files(finished["front"])
    expect(slot.locator("[data-line=outline]")).to_be_attached(timeout=60_000)
    words = page.locator("[data-check-words]")
    until(page, "document.querySelector('aside[data-waiting=\"0\"]')")
    page.route("**/api/dogs/1/check", lambda route: route.abort())
    slot.locator("input[type=file]").set_input_files(finished["left"])
    until(page, "document.querySelectorAll('[data-finished=front] [data-line=outline]').length === 0")
    expect(words).to_have_text("Looking at the photos…")
    page.unroute("**/api/dogs/1/check")
    until(page, "document.querySelector('aside[data-waiting=\"0\"]')")
    expect(words).not_to_have_text("Looking at the photos…")


def test_a_photo_half_from_a_side_may_be_added_and_left_out(page: Page, demo_salon, finished) -> None:  # type: ignore[no-untyped-def]
    Planner(demo_salon.store).save(1, Asked("round"))
    page.goto(demo_salon.address + "/dogs/1/check")
    half = page.locator("[data-finished=three_quarter_left]")
    expect(half).to_contain_text("Half from the left")
    expect(half.get_by_role("link", name="Camera")).to_have_attribute(
        "href", "/dogs/1/camera?view=three_quarter_left&state=finished"
    )
    half.locator("input[type=file]").set_input_files(finished["left"])
    expect(half.locator("svg[role=img]")).to_be_visible()
    with demo_salon.store.reading() as session:
        kept = [(p.view, p.state) for p in queries.photos_of(queries.visit_today(session, 1))]
    assert ("three_quarter_left", "finished") in kept
    half.get_by_role("button", name="Remove").click()
    expect(half.locator("svg[role=img]")).to_have_count(0)
