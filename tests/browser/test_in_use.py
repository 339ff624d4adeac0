"""What was in the way when whole visits were walked through, each with the test that would have noticed."""

from __future__ import annotations

import re

import pytest
from hands import barriers, until
from playwright.sync_api import Page, expect
from running import Salon

from dapwick.core.outlines.families import FAMILIES

LONG = 60_000
SIZES = [(1280, 800), (1024, 768), (820, 1180)]
SCREENS = (
    "",
    "dogs/1",
    "dogs/1/wishes",
    "dogs/1/photos",
    "dogs/1/marks",
    "dogs/1/outline",
    "dogs/1/cut",
    "kit",
    "salon",
    "practice",
)
UNMARKED = """() => [...document.querySelectorAll('body *')].filter((at) => {
  const style = getComputedStyle(at);
  const scrolls = (how) => how === 'auto' || how === 'scroll';
  const down = scrolls(style.overflowY) && at.scrollHeight - at.clientHeight > 8;
  const across = scrolls(style.overflowX) && at.scrollWidth - at.clientWidth > 8;
  return (down || across) && at.clientHeight > 0 && at.tagName !== 'TEXTAREA' && !at.parentElement.dataset.beyond;
}).map((at) => `${at.tagName} ${at.className}`)"""
"""What scrolls, and does not say at its edge that there is more."""


@pytest.mark.parametrize("size", SIZES, ids=lambda s: f"{s[0]}x{s[1]}")
def test_where_there_is_more_the_edge_says_so(page: Page, demo_salon: Salon, with_teddy, size) -> None:  # type: ignore[no-untyped-def]
    page.set_viewport_size({"width": size[0], "height": size[1]})
    for screen in SCREENS:
        page.goto(f"{demo_salon.address}/{screen}")
        page.locator("main, [role=main]").first.wait_for()
        if screen.endswith("outline"):
            page.locator("main[data-settled=true]").wait_for(timeout=LONG)
        page.wait_for_timeout(400)
        assert page.evaluate(UNMARKED) == [], screen
        assert page.evaluate("document.documentElement.scrollWidth <= innerWidth"), screen
        assert page.evaluate("document.documentElement.scrollHeight <= innerHeight"), screen


def test_a_press_on_the_edge_goes_there(page: Page, demo_salon: Salon) -> None:
    page.set_viewport_size({"width": 1024, "height": 768})
    page.goto(f"{demo_salon.address}/dogs/1/wishes")
    weeks = page.get_by_label("Weeks between visits")
    weeks.wait_for()
    page.locator("[data-more=bottom] > span").first.click()
    expect(weeks).to_be_in_viewport(ratio=1)


def test_every_slider_of_a_family_is_in_reach_upright(page: Page, demo_salon: Salon) -> None:
    page.set_viewport_size({"width": 820, "height": 1180})
    page.goto(f"{demo_salon.address}/dogs/1/outline")
    page.locator("main[data-settled=true]").wait_for(timeout=LONG)
    sliders = page.locator("[id^=slider-]")
    assert sliders.count() >= 5
    for slider in sliders.all():
        slider.scroll_into_view_if_needed()
        expect(slider).to_be_in_viewport(ratio=0.9)


def test_marks_lead_from_photo_to_photo_and_say_what_rests_on_guesses(page: Page, demo_salon: Salon) -> None:
    page.goto(f"{demo_salon.address}/dogs/2/marks")
    page.locator("[data-plane=front]").wait_for()
    accept_all = page.get_by_role("button", name=re.compile("Accept all \\d+ suggestions"))
    accept_all.click(timeout=LONG)
    card = page.get_by_label("Next mark")
    # What the marks now tell gives suggestions for the rest; one press, or Enter, takes each and goes on by itself.
    while card.get_by_role("heading").count():
        before = card.get_by_role("heading").text_content()
        take = card.get_by_role("button", name=re.compile("Accept suggestion|Skip")).first
        take.click()
        until(page, f"document.querySelector('[aria-label=\"Next mark\"] h2')?.textContent !== {before!r}")
    assert int(card.locator("[data-guessed]").get_attribute("data-guessed") or 0) > 4
    expect(card).to_contain_text("rest on guesses")
    page.locator("body").press("Enter")
    page.locator("[data-plane=left]").wait_for()
    expect(card.get_by_role("heading")).to_be_visible()


def test_tab_goes_to_the_marks_first(page: Page, demo_salon: Salon) -> None:
    page.goto(f"{demo_salon.address}/dogs/1/marks")
    page.locator("[data-mark]").first.wait_for()
    seen = []
    for _ in range(4):
        page.keyboard.press("Tab")
        seen.append(page.evaluate("document.activeElement.closest('[data-mark]')?.dataset.mark ?? ''"))
    assert all(seen)
    assert len(set(seen)) == 4


def test_what_would_help_puts_the_cursor_where_it_is_typed(page: Page, demo_salon: Salon) -> None:
    page.goto(f"{demo_salon.address}/dogs/1/marks")
    page.locator("[data-help=comb] button").first.click(timeout=LONG)
    expect(page.locator("[data-reading-field]")).to_be_focused()
    page.keyboard.type("14")
    page.keyboard.press("Enter")
    expect(page.locator("[data-reading]").first).to_contain_text("14")


def test_tiles_hold_still_while_outlines_are_fitted_anew(page: Page, demo_salon: Salon) -> None:
    page.goto(f"{demo_salon.address}/dogs/1/outline")
    page.locator(f"[data-fitted='{len(FAMILIES)}']").wait_for(timeout=LONG)
    page.locator("main[data-settled=true]").wait_for(timeout=LONG)
    page.wait_for_timeout(300)
    order = "[...document.querySelectorAll('[data-thumb]')].map((t) => t.dataset.thumb).join()"
    before = page.evaluate(order)
    page.locator("[data-thumb=brick]").click()
    page.get_by_role("tab", name="Wishes").click()
    page.get_by_role("radio", name="short", exact=True).first.click()
    for _ in range(10):
        now = page.evaluate(order)
        if now != before:
            break
        page.wait_for_timeout(50)
    # It changes at most once, when all are fitted again, and the chosen one is in sight.
    page.locator("main[data-settled=true]").wait_for(timeout=LONG)
    assert now in (before, page.evaluate(order))
    expect(page.locator("[data-thumb=brick]")).to_be_in_viewport()


def test_a_new_salon_is_asked_three_things_and_tries_a_demo_dog(page: Page, salon: Salon) -> None:
    page.goto(salon.address)
    page.get_by_label("The salon’s name").fill("The Quay")
    page.get_by_label("Who cuts?").fill("Wren")
    page.get_by_role("radio", name="left hand").click()
    page.get_by_role("radio", name="inches").click()
    page.get_by_role("button", name="Begin").click()
    page.get_by_text("No dogs yet").wait_for()
    card = page.get_by_role("link", name="Print the scale card")
    assert page.request.get(salon.address + (card.get_attribute("href") or "")).body().startswith(b"%PDF")
    page.get_by_role("button", name="Try it on a demo dog").click()
    page.locator("main[data-settled=true]").wait_for(timeout=LONG)
    kit = page.request.get(f"{salon.address}/api/kit").json()
    assert [(s["name"], s["hand"]) for s in kit["stylists"]] == [("Wren", "left")]
    assert page.evaluate("localStorage.getItem('dapwick.unit')") == "in"
    assert barriers(page) == []


def test_a_new_visit_while_one_is_open_asks(page: Page, demo_salon: Salon) -> None:
    page.goto(f"{demo_salon.address}/dogs/1")
    page.get_by_role("button", name="New visit").click()
    page.get_by_role("heading", name="A visit is open").wait_for()
    page.get_by_role("link", name="Go on with the open one").click()
    page.locator("[data-slot=front]").wait_for()
    visits = page.request.get(f"{demo_salon.address}/api/dogs/1").json()["visits"]
    page.goto(f"{demo_salon.address}/dogs/1")
    page.get_by_role("button", name="New visit").click()
    page.get_by_role("button", name="End it, begin a new one").click()
    page.get_by_role("heading", name="What is wished for Fogbell?").wait_for()
    now = page.request.get(f"{demo_salon.address}/api/dogs/1").json()["visits"]
    assert len(now) == len(visits) + 1
    assert now[-2]["ended"]


def test_after_the_last_step_the_tape_goes_on(page: Page, cut_salon: Salon) -> None:
    page.goto(f"{cut_salon.address}/dogs/1/cut")
    page.get_by_role("link", name="On to the check").click(timeout=LONG)
    page.locator("[data-check-words]").wait_for(timeout=LONG)


def test_inches_convert_the_names_of_guards_too(page: Page, demo_salon: Salon, with_teddy) -> None:  # type: ignore[no-untyped-def]
    page.goto(f"{demo_salon.address}/dogs/1/cut")
    page.get_by_role("button", name="Start cutting").wait_for(timeout=LONG)
    listed = page.get_by_label("The whole sheet")
    assert re.search(r"\d mm guard", listed.text_content() or "")
    page.get_by_role("button", name=re.compile("millimetres|mm")).first.click()
    expect(listed).not_to_contain_text(re.compile(r"\d mm guard"))
    expect(listed).to_contain_text(re.compile(r"″ guard"))


PHONE = {"width": 390, "height": 844}
IN_EACH_OTHER = """() => {
  const parts = [...document.querySelectorAll('[role=dialog] :is(h1, h2, button, a, img, figcaption, p, output)')]
    .map((at) => [at, at.getBoundingClientRect()]).filter(([, box]) => box.width && box.height)
  const over = (a, b) => Math.min(a.right, b.right) - Math.max(a.left, b.left) > 2 &&
    Math.min(a.bottom, b.bottom) - Math.max(a.top, b.top) > 2
  const found = parts.filter(([, box]) => box.left < -1 || box.right > innerWidth + 1).map(([at]) => at.outerHTML)
  for (const [i, [one, box]] of parts.entries())
    for (const [other, its] of parts.slice(i + 1))
      if (!one.contains(other) && over(box, its)) found.push(`${one.textContent} / ${other.textContent}`)
  return found
}"""
"""Parts of an open picture or card that lie over one another, or beyond the screen's side."""


def test_the_owners_pictures_and_the_card_are_whole_on_a_phone(page: Page, cut_salon) -> None:  # type: ignore[no-untyped-def]
    page.set_viewport_size(PHONE)
    page.goto(cut_salon.address + "/dogs/1/outline")
    expect(page.get_by_role("link", name=re.compile("^Outline"))).to_be_in_viewport(ratio=1)
    page.get_by_role("button", name="Show the owner").click(timeout=LONG)
    page.locator("[data-owner] img").nth(1).wait_for(timeout=LONG)
    assert page.evaluate(IN_EACH_OTHER) == []
    assert barriers(page) == []
    page.goto(cut_salon.address + "/dogs/1/check")
    page.get_by_role("button", name="Show the owner: before and after").click(timeout=LONG)
    page.locator("[data-before-after] img").wait_for()
    assert page.evaluate(IN_EACH_OTHER) == []
    assert barriers(page) == []
    page.goto(cut_salon.address + "/dogs/1/next")
    page.get_by_role("button", name="Card for the owner").click(timeout=LONG)
    assert page.evaluate(IN_EACH_OTHER) == []
    assert barriers(page) == []


READ_FROM_A_METRE_PX = 22


def test_the_zone_under_the_pointer_is_read_from_a_metre(page: Page, demo_salon: Salon) -> None:
    page.goto(f"{demo_salon.address}/dogs/1/outline")
    page.locator("main[data-settled=true]").wait_for(timeout=LONG)
    page.locator("[data-tooth=cheek-left]").hover(force=True)
    told = page.locator("[data-pointed-zone=cheek]")
    expect(told).to_contain_text(re.compile(r"cheek.*left.*\d+ mm.*right.*\d+ mm"))
    sizes = told.evaluate(
        "at => [...at.querySelectorAll('b')].map((one) => parseFloat(getComputedStyle(one).fontSize))"
    )
    assert len(sizes) == 3
    assert min(sizes) >= READ_FROM_A_METRE_PX
    page.mouse.move(5, 5)
    expect(told).to_have_count(0)
    page.get_by_role("button", name="Lengths in mm; change").click()
    page.locator("[data-tooth=cheek-left]").hover(force=True)
    expect(told).to_contain_text("″")
    expect(told).not_to_contain_text("mm")
