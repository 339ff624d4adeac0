"""Wrong photos told in their slot, table mode, the right sizes, and no barrier on any screen."""

from __future__ import annotations

import pytest
from hands import barriers
from playwright.sync_api import Page, expect

import zoo

pytestmark = pytest.mark.browser

SCREENS = {
    "/": "[data-expected]",
    "/dogs/1": "[data-head-drawing]",
    "/dogs/1/wishes": "textarea",
    "/dogs/1/photos": "[data-slot=front] img",
    "/dogs/1/camera?view=front&state=dry&source=simulated": "[data-advice=level]",
    "/dogs/1/marks": "[data-measure]",
    "/dogs/1/outline": "[data-line=outline]",
}


BESIDE = {"/salon": "[data-keeping], h2", "/kit": "[data-keeping=kept]"}
"""Screens that may scroll."""


@pytest.mark.parametrize("kind", ["text", "truncated", "bomb"])
def test_a_wrong_file_is_told_in_its_slot_and_the_old_photo_stays(page: Page, demo_salon, kind: str) -> None:  # type: ignore[no-untyped-def]
    data, words = zoo.NOT_PHOTOS[kind]
    page.goto(f"{demo_salon.address}/dogs/1/photos")
    slot = page.locator("[data-slot=front]")
    slot.locator("img").wait_for()
    page.get_by_label("File for Front").set_input_files(
        {"name": f"{kind}.jpg", "mimeType": "image/jpeg", "buffer": data}
    )
    expect(slot.get_by_role("alert")).to_contain_text(words)
    expect(slot.locator("img")).to_have_attribute("alt", "Front: fogbell-dry-front.jpg")


def test_a_dropped_photo_fills_its_slot_and_a_removed_one_comes_back(page: Page, demo_salon) -> None:  # type: ignore[no-untyped-def]
    page.goto(f"{demo_salon.address}/dogs/1/photos")
    top = page.locator("[data-slot=top]")
    data = page.evaluate_handle(
        """(bytes) => { const t = new DataTransfer();
        t.items.add(new File([new Uint8Array(bytes)], 'above.jpg', { type: 'image/jpeg' })); return t }""",
        list(zoo.jpeg()),
    )
    top.dispatch_event("drop", {"dataTransfer": data})
    top.get_by_alt_text("From above: above.jpg").wait_for()
    page.get_by_role("button", name="Remove: From above").click()
    expect(top.locator("img")).to_have_count(0)
    page.get_by_role("button", name="Undo").click()
    top.get_by_alt_text("From above: above.jpg").wait_for()


@pytest.mark.parametrize("mode", ["paper", "table"])
@pytest.mark.parametrize("path", SCREENS | BESIDE)
def test_no_screen_has_a_barrier(page: Page, demo_salon, path: str, mode: str) -> None:  # type: ignore[no-untyped-def]
    page.add_init_script(f"localStorage.setItem('dapwick.mode', '{mode}')")
    page.goto(demo_salon.address + path)
    page.locator((SCREENS | BESIDE)[path]).first.wait_for()
    assert barriers(page) == []


ONE_TASK = [path for path in SCREENS if path not in ("/", "/dogs/1", "/dogs/1/wishes")]


@pytest.mark.parametrize("size", [(1280, 800), (1024, 768), (820, 1180)])
@pytest.mark.parametrize("path", ONE_TASK)
def test_the_main_task_fits_without_scrolling(
    page: Page, demo_salon, path: str, size: tuple[int, int]
) -> None:  # type: ignore[no-untyped-def]
    page.set_viewport_size({"width": size[0], "height": size[1]})
    page.goto(demo_salon.address + path)
    page.locator(SCREENS[path]).first.wait_for()
    over = page.evaluate("""() => { const m = document.querySelector('main');
        return [document.documentElement.scrollWidth - innerWidth, m.scrollHeight - m.clientHeight] }""")
    assert over[0] <= 0
    assert over[1] <= 2


def test_units_and_keys_are_one_press_away(page: Page, demo_salon) -> None:  # type: ignore[no-untyped-def]
    page.goto(f"{demo_salon.address}/dogs/1/marks")
    cell = page.locator("[data-measure=outer_eye_span] td, [data-measure=eye_span_outer] td").first
    cell.wait_for()
    assert (cell.text_content() or "").isdigit()
    page.get_by_role("button", name="Lengths in mm; change").click()
    expect(cell).to_contain_text("″")
    page.keyboard.press("?")
    expect(page.get_by_role("heading", name="Keys")).to_be_visible()


def test_an_unmeasured_dog_is_sent_back_to_marks(page: Page, demo_salon) -> None:  # type: ignore[no-untyped-def]
    page.goto(f"{demo_salon.address}/dogs/2/outline")
    expect(page.get_by_role("alert")).to_contain_text("not measured yet")
    page.get_by_role("link", name="Go to Marks").click()
    page.locator("[data-plane=front]").wait_for()
