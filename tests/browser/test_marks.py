"""The Marks stage: dragging, keys, loupe, undo, and a server that goes away."""

from __future__ import annotations

import pytest
from hands import on_screen, place, saved
from playwright.sync_api import Page, expect

from dapwick.demo.dogs import hand_marks, photos_of, truth

pytestmark = pytest.mark.browser


@pytest.fixture
def marking(page: Page, demo_salon) -> Page:  # type: ignore[no-untyped-def]
    page.goto(f"{demo_salon.address}/dogs/1/marks")
    page.locator("[data-measure=skull_width]").wait_for()
    return page


def at(page: Page, mark: str) -> tuple[float, float]:
    script = "(id) => { const m = document.querySelector(id).transform.baseVal[0].matrix; return [m.e, m.f] }"
    x, y = page.evaluate(script, f"[data-mark={mark}]")
    return x, y


def test_a_mark_is_dragged_under_the_loupe_and_undone(marking: Page) -> None:
    before = at(marking, "cheek_left")
    start = on_screen(marking, *before)
    marking.mouse.move(*start)
    marking.mouse.down()
    marking.mouse.move(start[0] + 30, start[1] - 10, steps=4)
    expect(marking.locator("[data-loupe]")).to_be_visible()
    marking.mouse.up()
    expect(marking.locator("[data-loupe]")).to_have_count(0)
    assert at(marking, "cheek_left")[0] > before[0] + 20
    marking.keyboard.press("Control+z")
    assert at(marking, "cheek_left") == before
    marking.keyboard.press("Control+y")
    assert at(marking, "cheek_left")[0] > before[0] + 20
    saved(marking)


def test_keys_nudge_doubt_and_remove_a_mark(marking: Page) -> None:
    marking.locator("[data-mark=stop]").focus()
    x, y = at(marking, "stop")
    marking.keyboard.press("ArrowRight")
    marking.keyboard.press("Shift+ArrowUp")
    assert at(marking, "stop") == pytest.approx((x + 1, y - 10))
    marking.keyboard.press("u")
    expect(marking.get_by_role("button", name="stop, not sure")).to_have_count(1)
    marking.keyboard.press("Delete")
    expect(marking.locator("[data-mark=stop]")).to_have_count(0)
    expect(marking.get_by_role("heading", name="stop")).to_be_visible()
    saved(marking)


def test_expected_places_appear_and_are_taken_with_enter(page: Page, demo_salon) -> None:  # type: ignore[no-untyped-def]
    page.goto(f"{demo_salon.address}/dogs/2/marks")
    photo = photos_of(truth("bobbin"))[0]
    marks = hand_marks(photo)
    page.locator("[data-plane=front]").wait_for()
    for mark in ("eye_inner_right", "eye_inner_left", "eye_outer_right", "eye_outer_left", "nose_tip"):
        place(page, tuple(marks[mark]["at"]))
    page.locator("[data-ghost=nose_top]").wait_for()
    page.keyboard.press("Enter")
    page.locator("[data-mark=nose_top]").wait_for()
    expect(page.locator("[data-ghost=nose_top]")).to_have_count(0)


def test_a_slip_names_its_mark_and_a_press_leads_there(marking: Page) -> None:
    start = on_screen(marking, *at(marking, "nose_tip"))
    marking.mouse.move(*start)
    marking.mouse.down()
    marking.mouse.move(start[0] + 120, start[1] - 90, steps=3)
    marking.mouse.up()
    finding = marking.locator("[data-finding=mark_off]").first
    finding.wait_for()
    finding.click()
    expect(marking.get_by_label("Next mark").get_by_text("Chosen")).to_be_visible()


def test_a_lost_server_is_told_and_nothing_is_lost(marking: Page, demo_salon) -> None:  # type: ignore[no-untyped-def]
    demo_salon.stop()
    marking.locator("[data-mark=chin]").focus()
    marking.keyboard.press("Shift+ArrowDown")
    moved = at(marking, "chin")
    expect(marking.locator("[data-saving=waiting]")).to_contain_text("does not answer")
    demo_salon.start()
    saved(marking)
    marking.reload()
    marking.locator("[data-mark=chin]").wait_for()
    assert at(marking, "chin") == pytest.approx(moved)


def test_a_wrong_number_is_refused_beside_the_field(marking: Page) -> None:
    marking.get_by_role("tab", name="By hand").click()
    field = marking.get_by_label("Stop to nose tip, mm")
    field.fill("4600")
    field.press("Enter")
    expect(marking.get_by_role("alert")).to_contain_text("3 to 400 mm")
    expect(field).to_have_value("4600")
