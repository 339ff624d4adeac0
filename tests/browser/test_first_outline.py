"""The main path by mouse: an empty salon, two photos, marks, one hand measure, lengths."""

from __future__ import annotations

import re

import pytest
from hands import leave_mm, place, saved, until
from playwright.sync_api import Page, expect

from dapwick.core.basics.marks import guided_order
from dapwick.core.measures.measure import RULES
from dapwick.demo.dogs import PHOTOS, calliper_mm, hand_marks, photos_of, truth

pytestmark = pytest.mark.browser


def mark_photo(page: Page, photo: dict) -> None:  # type: ignore[type-arg]
    """Every guided mark of the photo, as the screen asks for them."""
    marks = hand_marks(photo, seed=1)
    page.locator(f"[data-plane={photo['view']}]").wait_for()
    for mark in guided_order(photo["view"]):
        place(page, tuple(marks[mark]["at"]))
        page.locator(f"[data-mark={mark}]").wait_for()


def test_from_an_empty_salon_to_a_round_outline(page: Page, salon) -> None:  # type: ignore[no-untyped-def]
    known = truth("bobbin")
    page.goto(salon.address)
    page.get_by_label("The salon’s name").fill("The Quay")
    page.get_by_role("button", name="Begin").click()
    page.get_by_text("No dogs yet").wait_for()
    page.get_by_role("button", name="New dog").first.click()
    page.get_by_label("Name").fill("Bobbin")
    page.get_by_role("radio", name="Curly").click()
    page.get_by_role("button", name="Go on").click()
    page.get_by_role("link", name="Nothing special: go on to photos").click()

    for photo, slot in zip(photos_of(known), ("Front", "The dog’s left side"), strict=True):
        page.get_by_label(f"File for {slot}").set_input_files(PHOTOS / photo["file"])
        page.get_by_alt_text(re.compile(photo["file"])).wait_for()
    page.get_by_role("link", name="Go on to marks").click()

    front, left = photos_of(known)
    mark_photo(page, front)
    page.get_by_role("button", name=re.compile("^left")).click()
    mark_photo(page, left)
    page.get_by_role("tab", name="By hand").click()
    page.get_by_label("Across the outer eye corners, mm").fill(
        str(calliper_mm(known, "eye_outer_left", "eye_outer_right"))
    )
    page.keyboard.press("Enter")
    page.locator("[data-reading='eye_outer_left-eye_outer_right']").wait_for()
    saved(page)
    expect(page.locator("[data-finding=no_scale]")).to_have_count(0)
    page.get_by_role("tab", name="Measures").click()
    expect(page.locator("[data-measure]")).to_have_count(len(RULES))
    width = page.locator("[data-measure=skull_width] td").first.text_content()
    assert abs(float(width or 0) - calliper_mm(known, "cheek_left", "cheek_right")) < 15

    page.get_by_role("link", name="Go on to the outline").click()
    page.locator("[data-line=outline]").first.wait_for()
    expect(page.locator("[data-line=outline]")).to_have_count(2)
    expect(page.locator("tr[data-zone=crown]")).to_have_count(2)
    expect(page.locator("[data-drawn=top]")).to_have_count(1)
    page.locator("main[data-settled=true]").wait_for()
    fitted = leave_mm(page, "cheek", "left")
    assert 2 < fitted < 40

    slider = page.locator("#slider-fullness")
    slider.focus()
    page.keyboard.press("Home")
    until(
        page,
        f"Number(document.querySelector('tr[data-zone=cheek][data-side=left] [data-leave]').textContent) < {fitted}",
    )
    page.get_by_role("button", name="Undo").click()
    until(
        page,
        f"Number(document.querySelector('tr[data-zone=cheek][data-side=left] [data-leave]').textContent) === {fitted}",
    )
    page.get_by_role("button", name="Keep this outline").click()
    page.get_by_role("button", name="Kept").wait_for()
    page.goto(salon.address)
    page.get_by_text("✓ outline").wait_for()


def test_the_centre_handle_moves_both_photos(page: Page, demo_salon) -> None:  # type: ignore[no-untyped-def]
    page.goto(f"{demo_salon.address}/dogs/1/outline")
    lines = page.locator("[data-line=outline]")
    lines.first.wait_for()
    before = [line.get_attribute("d") for line in lines.all()]
    page.locator("main[data-settled=true]").wait_for()
    crown = leave_mm(page, "crown", "left")
    handle = page.locator("[data-view=front] [data-handle=centre_up_mm]")
    box = handle.bounding_box()
    assert box
    middle = (box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    page.mouse.move(*middle)
    page.mouse.down()
    page.mouse.move(middle[0], middle[1] + 40, steps=6)
    page.mouse.up()
    until(
        page,
        f"Number(document.querySelector('tr[data-zone=crown][data-side=left] [data-leave]').textContent) < {crown - 2}",
    )
    after = [line.get_attribute("d") for line in lines.all()]
    assert all(a != b for a, b in zip(before, after, strict=True))
