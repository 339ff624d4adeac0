"""The salon's record as it is used: the book, wishes, a lost server, two tablets, reloads, removal, backups, first
start, passcode."""

from __future__ import annotations

import re
from collections.abc import Iterator
from datetime import date, timedelta
from typing import Any

import pytest
from hands import barriers, choose_day, choose_time, until
from playwright.sync_api import Browser, Page, expect
from running import Salon

from dapwick.devices.network import Reach
from dapwick.service.plans.planner import Asked, Planner
from dapwick.service.salon.demo import fill_with_demo
from dapwick.service.salon.passcode import Passcode

LONG = 60_000
WISHES = "/dogs/1/wishes"


@pytest.fixture
def other(browser: Browser, demo_salon: Salon) -> Iterator[Page]:
    """A second tablet on the same salon."""
    context = browser.new_context(
        viewport={"width": 1024, "height": 768}, reduced_motion="reduce", service_workers="block"
    )
    context.set_default_timeout(20_000)
    yield context.new_page()
    context.close()


def dog_of(page: Page, salon: Salon, dog: int = 1) -> dict[str, Any]:
    found: dict[str, Any] = page.request.get(f"{salon.address}/api/dogs/{dog}").json()
    return found


def wishes_open(page: Page, salon: Salon) -> None:
    page.goto(salon.address + WISHES)
    page.get_by_role("heading", name="What is wished for Fogbell?").wait_for()
    page.get_by_role("button", name="its eyes").wait_for()


def kept(page: Page) -> None:
    page.locator("[data-keeping='kept kept']").wait_for()


def test_a_visit_is_booked_moved_begun_and_ended(page: Page, demo_salon: Salon) -> None:
    tomorrow = date.today() + timedelta(days=1)
    page.goto(demo_salon.address)
    page.get_by_role("button", name="Book", exact=True).click()
    page.get_by_label("Which dog?").fill("fog")
    page.get_by_role("option", name=re.compile("Fogbell")).click()
    choose_day(page, "Day", tomorrow)
    choose_time(page, "From", "10:15")
    page.get_by_role("button", name="75 min").click()
    page.get_by_label("To know beforehand").fill("sister comes along")
    page.get_by_role("button", name="Book", exact=True).last.click()
    expect(page.get_by_role("dialog")).to_have_count(0)
    page.get_by_role("button", name="The day after").click()
    card = page.locator("li", has_text="Fogbell")
    expect(card).to_contain_text("10:15")
    expect(card).to_contain_text("to 11:30")
    expect(card).to_contain_text("sister comes along")
    page.get_by_role("button", name="Change the booking of Fogbell").click()
    choose_day(page, "Day", date.today())
    page.get_by_role("button", name="Save", exact=True).click()
    page.get_by_role("button", name="Today", exact=True).click()
    page.get_by_role("button", name="Begin with Fogbell").click()
    page.get_by_role("heading", name="What is wished for Fogbell?").wait_for()
    assert len(dog_of(page, demo_salon)["visits"]) == 2
    page.get_by_role("link", name="Fogbell", exact=True).click()
    page.get_by_role("tab", name="Record").click()
    page.get_by_label("Note for next time").fill("Beard last.")
    page.locator("[data-note=kept]").wait_for()
    page.get_by_role("button", name="End visit").click()
    page.get_by_role("button", name="Reopen visit").wait_for()
    page.get_by_role("button", name="New visit").click()
    expect(page.locator("[data-last-note]")).to_contain_text("Beard last.")


def test_wishes_are_kept_in_the_owners_words_and_feed_the_fit(page: Page, demo_salon: Salon) -> None:
    wishes_open(page, demo_salon)
    page.get_by_label("The owner’s words").fill("Short beard, it drips. Like last summer.")
    page.get_by_role("button", name="short beard that does not drip").click()
    page.get_by_label("Weeks between visits").fill("9")
    kept(page)
    now = dog_of(page, demo_salon)
    assert now["owner_words"] == "Short beard, it drips. Like last summer."
    assert (now["wishes"]["beard"], now["wishes"]["weeks_between"]) == ("short", 9)
    page.goto(f"{demo_salon.address}/dogs/1/outline")
    page.get_by_role("tab", name="Wishes").click(timeout=LONG)
    expect(page.locator("[data-met]", has_text="beard").first).to_be_visible()
    expect(page.get_by_role("radio", name="short", exact=True).first).to_be_checked()


def test_handling_said_before_is_on_the_cut_sheet(page: Page, demo_salon: Salon) -> None:
    wishes_open(page, demo_salon)
    page.get_by_role("button", name="its ears").click()
    page.get_by_role("button", name="ill or in pain").click()
    expect(page.get_by_role("alert")).to_contain_text("refer to a vet")
    kept(page)
    Planner(demo_salon.store).save(1, Asked("teddy"))
    page.goto(f"{demo_salon.address}/dogs/1/cut")
    expect(page.get_by_role("button", name="its ears")).to_have_attribute(
        "aria-pressed", "true", timeout=LONG
    )


def test_undo_and_redo_outlive_a_reload(page: Page, demo_salon: Salon) -> None:
    wishes_open(page, demo_salon)
    page.get_by_role("button", name="eyes showing").click()
    page.get_by_role("button", name="ears short").click()
    page.keyboard.press("Control+z")
    kept(page)
    page.wait_for_timeout(500)
    page.reload()
    chip = page.get_by_role("button", name="eyes showing")
    expect(chip).to_have_attribute("aria-pressed", "true")
    page.keyboard.press("Control+y")
    expect(page.get_by_role("button", name="ears short")).to_have_attribute("aria-pressed", "true")
    page.keyboard.press("Control+z")
    page.keyboard.press("Control+z")
    expect(chip).to_have_attribute("aria-pressed", "false")
    kept(page)
    assert dog_of(page, demo_salon)["wishes"]["eyes"] == "any"


def test_marks_are_taken_back_after_a_reload(page: Page, demo_salon: Salon) -> None:
    page.goto(f"{demo_salon.address}/dogs/1/marks")
    page.locator("[data-mark=stop]").wait_for()
    before = dog_of(page, demo_salon)["photos"][0]["marks"]["stop"]["at"]
    page.locator("[data-mark=stop]").focus()
    page.keyboard.press("Shift+ArrowRight")
    until(page, "document.querySelector('[data-saving=saved]') === null")
    page.locator("[data-saving=saved]").wait_for()
    assert dog_of(page, demo_salon)["photos"][0]["marks"]["stop"]["at"] != before
    page.wait_for_timeout(500)
    page.reload()
    page.locator("[data-mark=stop]").wait_for()
    page.keyboard.press("Control+z")
    until(page, "document.querySelector('[data-saving=saved]') === null")
    page.locator("[data-saving=saved]").wait_for()
    assert dog_of(page, demo_salon)["photos"][0]["marks"]["stop"]["at"] == before


def test_a_lost_server_takes_nothing_and_a_reload_meanwhile_neither(page: Page, demo_salon: Salon) -> None:
    wishes_open(page, demo_salon)
    demo_salon.stop()
    page.get_by_role("button", name="eyes showing").click()
    page.get_by_role("button", name="its eyes").click()
    expect(page.get_by_label("Changes on their way")).to_contain_text("2 changes are kept here", timeout=LONG)
    stored = page.evaluate("JSON.parse(localStorage.getItem('dapwick.outbox')).changes.length")
    assert stored == 2
    demo_salon.start()
    kept(page)
    now = dog_of(page, demo_salon)
    assert now["wishes"]["eyes"] == "open"
    assert "minds_eyes" in now["traits"]
    expect(page.get_by_label("Changes on their way")).to_have_count(0)


def test_the_second_tablet_is_told_and_chooses(page: Page, other: Page, demo_salon: Salon) -> None:
    """Both have the same wishes before them; nothing of either is lost without a word."""
    wishes_open(page, demo_salon)
    wishes_open(other, demo_salon)
    # The second one does not hear of the first while its user thinks.
    other.route("**/api/dogs/1", lambda route: route.abort())
    page.get_by_role("button", name="eyes showing").click()
    kept(page)
    other.get_by_role("button", name="ears short").click()
    asked = other.locator("[data-asking='wishes/1']")
    expect(asked).to_contain_text("The wishes of Fogbell changed on another tablet")
    assert dog_of(page, demo_salon)["wishes"]["eyes"] == "open"
    assert barriers(other) == []
    other.unroute("**/api/dogs/1")
    asked.get_by_role("button", name="Keep mine").click()
    kept(other)
    now = dog_of(page, demo_salon)["wishes"]
    assert (now["eyes"], now["ears"]) == ("any", "short")
    # The first one hears of it by itself, and undo leads back to its own.
    expect(page.get_by_role("button", name="ears short")).to_have_attribute(
        "aria-pressed", "true", timeout=LONG
    )
    page.keyboard.press("Control+z")
    kept(page)
    assert dog_of(page, demo_salon)["wishes"]["eyes"] == "open"


def test_theirs_can_be_taken_instead(page: Page, other: Page, demo_salon: Salon) -> None:
    wishes_open(page, demo_salon)
    wishes_open(other, demo_salon)
    other.route("**/api/dogs/1", lambda route: route.abort())
    page.get_by_role("button", name="eyes showing").click()
    kept(page)
    other.get_by_role("button", name="ears short").click()
    asked = other.locator("[data-asking='wishes/1']")
    asked.wait_for()
    other.unroute("**/api/dogs/1")
    asked.get_by_role("button", name="Take theirs").click()
    expect(other.get_by_role("button", name="eyes showing")).to_have_attribute(
        "aria-pressed", "true", timeout=LONG
    )
    expect(asked).to_have_count(0)
    assert dog_of(page, demo_salon)["wishes"]["ears"] == "any"


def test_marks_of_two_tablets_meet_without_a_loss(page: Page, other: Page, demo_salon: Salon) -> None:
    for tablet in (page, other):
        tablet.goto(f"{demo_salon.address}/dogs/1/marks")
        tablet.locator("[data-mark=stop]").wait_for()
    other.route("**/api/dogs/1", lambda route: route.abort())
    page.locator("[data-mark=stop]").focus()
    page.keyboard.press("Shift+ArrowRight")
    until(page, "document.querySelector('[data-saving=saved]') === null")
    page.locator("[data-saving=saved]").wait_for()
    first = dog_of(page, demo_salon)["photos"][0]["marks"]["stop"]["at"]
    other.locator("[data-mark=stop]").focus()
    other.keyboard.press("Shift+ArrowLeft")
    expect(other.locator("[data-saving=refused]")).to_contain_text("another tablet")
    assert dog_of(page, demo_salon)["photos"][0]["marks"]["stop"]["at"] == first


def test_a_changed_mark_makes_the_outline_stale_and_it_is_kept_anew(page: Page, demo_salon: Salon) -> None:
    Planner(demo_salon.store).save(1, Asked("teddy"))
    page.goto(f"{demo_salon.address}/dogs/1/marks")
    page.locator("[data-mark=stop]").focus()
    page.keyboard.press("Shift+ArrowUp")
    page.get_by_label("stale: the marks changed since").wait_for(timeout=LONG)
    page.goto(f"{demo_salon.address}/dogs/1/outline")
    page.get_by_role("button", name="Keep it as it is now").click(timeout=LONG)
    expect(page.get_by_label(re.compile("^stale"))).to_have_count(0, timeout=LONG)
    assert dog_of(page, demo_salon)["stages"]["outline"] == "done"


def test_a_dog_is_removed_brought_back_purged_and_taken_in_from_its_bundle(
    page: Page, demo_salon: Salon
) -> None:
    page.goto(f"{demo_salon.address}/dogs/1")
    page.get_by_role("tab", name="Record").click()
    with page.expect_download() as coming:
        page.get_by_role("link", name="Export as a bundle").click()
    bundle = coming.value.path()
    page.get_by_role("button", name="Remove", exact=True).click()
    page.get_by_role("button", name="Restore").click()
    page.locator("li", has_text="Fogbell").wait_for()
    page.goto(f"{demo_salon.address}/dogs/1")
    page.get_by_role("tab", name="Record").click()
    page.get_by_role("button", name="Remove", exact=True).click()
    expect(page.locator("li", has_text="Fogbell")).to_have_count(0)
    page.goto(f"{demo_salon.address}/salon")
    row = page.locator("[data-removed='1']")
    expect(row).to_contain_text("1 visit, 2 photos")
    row.get_by_role("button", name="Delete for good…").click()
    purge = page.get_by_role("button", name="Delete for good", exact=True)
    expect(purge).to_be_disabled()
    page.get_by_label("Type its name").fill("Fogbell")
    purge.click()
    expect(row).to_have_count(0)
    page.get_by_label("A dog’s bundle").set_input_files(bundle)
    page.get_by_role("heading", name="Fogbell").first.wait_for()
    page.locator("[data-head-drawing]").wait_for()


def test_a_backup_is_made_and_put_back_after_a_question(page: Page, demo_salon: Salon) -> None:
    page.goto(f"{demo_salon.address}/salon")
    page.get_by_role("button", name="Back up now").click()
    page.get_by_text("written, read back and checked").wait_for()
    assert page.request.post(f"{demo_salon.address}/api/dogs", data={"name": "Newcomer", "coat": "curl"}).ok
    page.locator("[data-backup]").first.get_by_role("button", name="Restore").click()
    page.get_by_role("button", name="Cancel").click()
    names = [d["name"] for d in page.request.get(f"{demo_salon.address}/api/dogs").json()]
    assert "Newcomer" in names
    page.locator("[data-backup]").first.get_by_role("button", name="Restore").click()
    page.get_by_role("dialog").get_by_role("button", name="Restore").click()
    page.get_by_text("Restored.").wait_for()
    names = [d["name"] for d in page.request.get(f"{demo_salon.address}/api/dogs").json()]
    assert names == ["Bobbin", "Fogbell"]
    page.get_by_role("button", name="Undo last restore").click()
    expect(page.get_by_role("button", name="Undo last restore")).to_be_enabled()
    names = [d["name"] for d in page.request.get(f"{demo_salon.address}/api/dogs").json()]
    assert "Newcomer" in names


def test_a_dog_is_found_by_a_few_letters_by_keyboard(page: Page, demo_salon: Salon) -> None:
    page.goto(demo_salon.address)
    page.get_by_label("Find a dog").click()
    page.keyboard.type("bob")
    page.get_by_role("option", name=re.compile("Bobbin")).wait_for()
    expect(page.get_by_role("option")).to_have_count(1)
    page.keyboard.press("ArrowDown")
    page.keyboard.press("Enter")
    page.get_by_role("heading", name="Bobbin").first.wait_for()


def test_the_first_start_offers_the_demo(page: Page, salon: Salon) -> None:
    page.goto(salon.address)
    page.get_by_role("button", name="Open the demo salon").wait_for()
    assert barriers(page) == []
    page.get_by_role("button", name="Open the demo salon").click()
    page.locator("li", has_text="Fogbell").wait_for(timeout=LONG)
    expect(page.get_by_text("at the Net Loft")).to_be_visible()
    page.goto(f"{salon.address}/dogs/1")
    expect(page.locator("[data-view=front] [data-past-outline]")).to_have_count(2, timeout=LONG)
    page.get_by_role("tab", name="Over time").click()
    page.get_by_role("cell", name="±").first.wait_for()
    assert barriers(page) == []


def test_the_passcode_is_asked_once_and_what_waited_is_sent(page: Page, tmp_path) -> None:  # type: ignore[no-untyped-def]
    """As on the network."""
    running = Salon(tmp_path / "network", Reach(frozenset({"127.0.0.1"}), True, None))
    fill_with_demo(running.store, ("fogbell",))
    door = Passcode(running.store)
    door.change("harbour-7")
    page.goto(running.address + WISHES)
    page.get_by_label("Passcode").wait_for()
    assert barriers(page) == []
    page.get_by_label("Passcode").fill("harbour-8")
    page.keyboard.press("Enter")
    page.get_by_text("That is not the salon's passcode.").wait_for()
    page.get_by_label("Passcode").fill("harbour-7")
    page.keyboard.press("Enter")
    page.get_by_role("heading", name="What is wished for Fogbell?").wait_for()
    door.change("another-9")
    page.get_by_role("button", name="eyes showing").click()
    page.get_by_label("Passcode").fill("another-9", timeout=LONG)
    page.keyboard.press("Enter")
    kept(page)
    assert page.evaluate("fetch('/api/dogs/1').then((a) => a.json()).then((d) => d.wishes.eyes)") == "open"
    running.stop()
    running.store.close()


def test_days_and_times_are_said_as_the_salon_says_them(page: Page, demo_salon: Salon) -> None:
    page.goto(demo_salon.address + "/salon")
    page.get_by_role("radio", name="November 28, 2:30 pm").click()
    opens = page.get_by_role("button", name=re.compile("^From: "))
    expect(opens).to_have_text(re.compile(r"\d am$"))
    page.get_by_role("link", name="Today", exact=True).first.click()
    ahead = date.today() + timedelta(days=3)
    choose_day(page, "Day", ahead)
    expect(page.get_by_role("heading", name=f"{ahead:%A}, {ahead:%B} {ahead.day}")).to_be_visible()
    page.get_by_role("button", name=re.compile("^Day: ")).click()
    expect(page.locator("thead th").first).to_have_text("Su")
    assert barriers(page) == []
    page.keyboard.press("Escape")
    page.get_by_role("button", name="Book", exact=True).click()
    page.get_by_label("Which dog?").fill("fog")
    page.get_by_role("option", name=re.compile("Fogbell")).click()
    choose_time(page, "From", "1:15 pm")
    assert barriers(page) == []
    page.get_by_role("button", name="Book", exact=True).last.click()
    card = page.locator("li", has_text="Fogbell")
    expect(card).to_contain_text("1:15 pm")
    expect(card).to_contain_text("to 2:45 pm")
    page.get_by_role("link", name="Fogbell", exact=True).click()
    page.get_by_role("tab", name="Record").click()
    page.get_by_role("button", name="Name and coat").click()
    page.get_by_role("button", name=re.compile("^Born: ")).click()
    year = date.today().year - 4
    page.get_by_label("Choose the Year").select_option(str(year))
    page.locator("td[data-day] button").filter(has_text="14").click()
    page.get_by_role("button", name="Save", exact=True).click()
    expect(page.get_by_role("dialog")).to_have_count(0)
    assert re.fullmatch(rf"{year}-\d\d-14", dog_of(page, demo_salon)["born"])
