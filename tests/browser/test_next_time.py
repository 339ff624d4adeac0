"""From the last cut to the next visit: the check, the owner's picture, the note, a booked time, home."""

from __future__ import annotations

import pytest
from hands import barriers, choose_time
from playwright.sync_api import Page, Route, expect

from dapwick.records import queries
from dapwick.service.visits.bookings import booked_ahead

pytestmark = pytest.mark.browser


def test_a_long_cheek_is_found_and_the_next_visit_booked_with_a_reason(page: Page, cut_salon) -> None:  # type: ignore[no-untyped-def]
    page.goto(cut_salon.address)
    page.get_by_role("link", name="Capstan: Check").click()
    touch = page.locator("[data-touch-up='cheek/left']")
    expect(touch).to_contain_text("left cheek")
    expect(touch).to_contain_text("never round the jaw")
    touch.get_by_role("button", name="Taken in").click()
    page.get_by_role("button", name="Show the owner").click()
    expect(page.locator("[data-before-after] img")).to_be_visible()
    page.get_by_role("button", name="Close").click()
    page.get_by_role("link", name="Next time").last.click()
    expect(page.locator("[data-proposed]")).to_contain_text("Come back about")
    expect(page.locator("[data-why-then]")).to_contain_text("before it shows")
    assert barriers(page) == []
    free = page.locator("[data-free]").first
    wanted = (free.get_attribute("data-free") or "").split()
    free.click()
    expect(page.locator("[data-booked]")).to_have_attribute("data-booked", wanted[0])
    page.get_by_role("button", name="Card for the owner").click()
    card = page.locator("[data-owner-card]")
    expect(card).to_contain_text(wanted[1])
    expect(card).to_contain_text("hair")
    page.get_by_role("button", name="Close").click()
    page.get_by_role("button", name="Goes home").click()
    expect(page.get_by_role("link", name="On with Today")).to_be_visible()
    page.get_by_role("link", name="On with Today").click()
    expect(page.get_by_text("gone home")).to_be_visible()


def test_a_booking_and_a_way_home_whose_answers_were_lost_are_asked_again(page: Page, cut_salon) -> None:  # type: ignore[no-untyped-def]
    def done_and_lost(route: Route) -> None:
        route.fetch()
        route.abort()

    page.goto(cut_salon.address + "/dogs/1/next")
    free = page.locator("[data-free]").first
    free.wait_for()
    page.route("**/api/dogs/1/bookings", done_and_lost, times=1)
    page.route("**/api/dogs/1/visits/end", done_and_lost, times=1)
    free.click()
    expect(page.get_by_text("does not answer").first).to_be_visible()
    expect(page.locator("[data-booked]")).to_be_visible()
    page.get_by_role("button", name="Goes home").click()
    expect(page.get_by_text("does not answer").first).to_be_visible()
    expect(page.get_by_role("link", name="On with Today")).to_be_visible()
    expect(page.get_by_text("does not answer")).to_have_count(0)
    assert len(booked_ahead(cut_salon.store, 1)) == 1


def test_the_note_is_changed_dropped_undone_and_returns_at_its_step(page: Page, cut_salon) -> None:  # type: ignore[no-untyped-def]
    page.goto(cut_salon.address + "/dogs/1/check")
    page.locator("[data-touch-up='cheek/left']").get_by_role("button", name="Skip").click()
    page.goto(cut_salon.address + "/dogs/1/next")
    part = page.locator("[data-part='long:cheek/left']")
    expect(part).to_have_attribute("data-kept", "true")
    part.get_by_role("button").click()
    expect(part).to_have_attribute("data-kept", "false")
    page.get_by_role("button", name="Undo").click()
    expect(part).to_have_attribute("data-kept", "true")
    part.get_by_role("textbox").fill("Left cheek before anything else")
    page.get_by_label("Note for next time").fill("Was good as gold")
    page.get_by_role("button", name="Goes home").click()
    expect(page.get_by_role("link", name="On with Today")).to_be_visible()
    page.wait_for_timeout(900)
    page.goto(cut_salon.address + "/dogs/1")
    with page.expect_response(lambda told: told.request.method == "POST" and told.url.endswith("/visits")):
        page.get_by_role("button", name="New visit").click()
    expect(page.locator("[data-last-note]")).to_contain_text("Was good as gold")
    with cut_salon.store.reading() as session:
        (told,) = queries.visit_today(session, 1).from_last
    assert (told.place, told.zone, told.words) == ("cut", "cheek", "Left cheek before anything else")


def test_how_far_off_is_read_and_widened(page: Page, cut_salon) -> None:  # type: ignore[no-untyped-def]
    page.goto(cut_salon.address + "/salon")
    page.get_by_role("link", name="See how far off it is").click()
    bone = page.locator("[data-kind=bone]")
    expect(bone).to_contain_text("were promised")
    expect(page.get_by_text("These are the demo dogs")).to_be_visible()
    expect(page.locator("[data-reading]").first).to_be_visible()
    assert barriers(page) == []
    with page.expect_download() as saved:
        page.get_by_role("link", name="As a table").click()
    assert saved.value.suggested_filename.endswith(".csv")


def test_the_hours_are_set_and_the_outline_says_how_long_it_lasts(page: Page, cut_salon) -> None:  # type: ignore[no-untyped-def]
    page.goto(cut_salon.address + "/salon")
    choose_time(page, "From", "14:00")
    page.get_by_role("button", name="Save the hours").click()
    expect(page.get_by_role("button", name="Save the hours")).to_be_disabled()
    page.goto(cut_salon.address + "/dogs/1/next")
    expect(page.locator("[data-free]").first).to_contain_text("14:00")
    page.goto(cut_salon.address + "/dogs/1/outline")
    page.get_by_role("tab", name="Wishes").click()
    options = page.locator("[data-cut-for]")
    expect(options).to_have_count(4)
    words = [one.inner_text() for one in options.all()]
    assert [one.split()[0] for one in words] == ["4", "6", "8", "10"]
    assert "as it is set" in words[0]
    expect(page.get_by_role("region", name="Cut for some weeks")).to_contain_text("First")


def test_a_head_that_is_nearly_there_gets_a_short_sheet(page: Page, cut_salon) -> None:  # type: ignore[no-untyped-def]
    page.goto(cut_salon.address + "/dogs/1/check")
    page.get_by_role("button", name="Go over it once more").click()
    expect(page).to_have_url(cut_salon.address + "/dogs/1/cut")
    with cut_salon.store.reading() as session:
        visit = queries.visit_today(session, 1)
        whole, short = visit.cuts[0].sheet["steps"], visit.cuts[-1].sheet["steps"]
        assert visit.outlines[-1].schools["extent"] == "refine"
        assert visit.outlines[-1].zones == visit.outlines[0].zones
    assert 0 < len(short) < len(whole) / 2
    assert all(step["leave_mm"] is None for step in short)
