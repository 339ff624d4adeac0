"""The Cut stage as it is used at the table: pedal, finger and keys, a lost server, an early end, the kit."""

from __future__ import annotations

import re
from pathlib import Path
from typing import Any

import pytest
from hands import barriers
from playwright.sync_api import Page, Route, expect

from dapwick.exports.cut_sheet import length_words
from letter_heights import CAP_HEIGHTS, FAR, FAR_M, PARTS, SCREENS, Screen, smallest_mm

LONG = 60_000
TOLD_WITH_EASE = 1.25
"""How much taller a letter is than the smallest that normal sight tells."""


@pytest.fixture
def cut(page: Page, demo_salon, with_teddy: Path) -> Page:  # type: ignore[no-untyped-def]
    """Fogbell with a teddy kept, its sheet open."""
    page.goto(f"{demo_salon.address}/dogs/1/cut")
    page.get_by_role("button", name="Start cutting").wait_for(timeout=LONG)
    return page


def sheet(page: Page) -> dict[str, Any]:
    found: dict[str, Any] = page.request.get(page.url.replace("/dogs/", "/api/dogs/")).json()
    return found


def at(page: Page) -> str:
    return page.locator("main[data-step]").get_attribute("data-step") or ""


def sent(page: Page) -> None:
    expect(page.locator("[data-waiting='0']")).to_be_attached(timeout=LONG)


def start(page: Page) -> list[str]:
    page.get_by_role("button", name="Start cutting").click()
    page.locator("main[data-step]").wait_for()
    return [step["id"] for step in sheet(page)["sheet"]["steps"]]


def test_the_cut_by_pedal_and_keys(cut: Page) -> None:
    ids = start(cut)
    assert at(cut) == ids[0]
    for key in ("PageDown", "Space", "ArrowRight"):
        cut.keyboard.press(key)
    assert at(cut) == ids[3]
    cut.keyboard.press("PageUp")
    assert at(cut) == ids[2]
    cut.keyboard.press("PageDown")
    cut.keyboard.press("s")
    assert at(cut) == ids[4]
    cut.keyboard.press("n")
    cut.get_by_role("button", name="had enough").click()
    cut.keyboard.press("Escape")
    expect(cut.get_by_role("dialog")).to_have_count(0)
    cut.keyboard.press("Space")
    cut.keyboard.press("Space")
    cut.keyboard.press("Control+z")
    assert at(cut) == ids[5]
    sent(cut)
    log = sheet(cut)["log"]
    assert {k: v["state"] for k, v in log.items()} == dict.fromkeys(ids[:5], "done") | {ids[3]: "skipped"}
    assert log[ids[4]]["notes"] == ["tired"]
    assert all(0 <= log[i]["seconds"] < 60 for i in ids[:3])


def test_a_pedal_that_is_stood_on_ticks_one_step(cut: Page) -> None:
    ids = start(cut)
    for _ in range(6):
        # Pressed again without being let go: the browser tells them as repeats.
        cut.keyboard.down("PageDown")
    cut.keyboard.up("PageDown")
    assert at(cut) == ids[1]


def test_every_step_shows_what_the_sheet_says(cut: Page) -> None:
    """All of them, from first to last: title, the number as paper has it, tool, drawing, cautions."""
    start(cut)
    for step in sheet(cut)["sheet"]["steps"]:
        assert at(cut) == step["id"]
        expect(cut.get_by_role("heading", name=step["title"], exact=True)).to_be_visible()
        if step["parts"]:
            for part in step["parts"]:
                expect(cut.locator("[data-parts]")).to_contain_text(part["words"])
                expect(cut.locator("[data-parts]")).to_contain_text(part["run"])
            if any(part["run"] for part in step["parts"]):
                expect(cut.locator("[data-number]")).to_have_text(f"{length_words(step)} mm")
                assert cut.locator("[data-length]").count() == len(step["lengths"])
        elif step["leave_mm"]:
            expect(cut.locator("[data-number]")).to_have_text(f"{length_words(step)} mm")
        else:
            expect(cut.locator("[data-eye]")).to_have_text(step["eye"])
        if step["tool"]:
            expect(cut.locator("[data-tool]")).to_have_text(step["tool"])
        expect(cut.locator(f"svg[data-view={step['view']}]")).to_be_visible()
        assert cut.locator("[data-caution]").count() == len(step["cautions"])
        if step["line"]:
            expect(cut.locator("[data-way]")).to_be_attached()
        cut.keyboard.press("PageDown")
    expect(cut.get_by_role("button", name="All done: end the cut")).to_be_visible()
    cut.get_by_role("button", name="All done: end the cut").click()
    expect(cut.get_by_text("Cut to the end.")).to_be_visible()
    expect(cut.get_by_role("link", name="Cut done")).to_be_visible()


def test_by_finger_with_why_and_what_was_really_used(cut: Page) -> None:
    ids = start(cut)
    while "guard_top" not in at(cut):
        cut.get_by_role("button", name=re.compile("^(Done, next|Next)")).click()
    cut.get_by_role("button", name="Why?").click()
    expect(cut.get_by_label("Why")).to_contain_text(re.compile(r"Measured\w.* \d+ mm \(±\d"))
    expect(cut.get_by_label("Why")).to_contain_text("leaves no less than the longest place")
    cut.get_by_role("button", name="Note").click()
    cut.get_by_label("Really used").click()
    cut.get_by_role("option", name="curved shears").click()
    cut.get_by_label("Length left, mm").fill("12,5")
    cut.get_by_role("button", name="Back to the step").click()
    expect(cut.get_by_text("Really used: curved shears")).to_be_visible()
    here = at(cut)
    cut.get_by_role("button", name="Done, next").click()
    sent(cut)
    entry = sheet(cut)["log"][here]
    assert (entry["tool"], entry["length_mm"]) == ("curved shears", 12.5)
    cut.get_by_role("button", name="List").click()
    cut.locator(f"[data-row='{ids[1]}']").click()
    assert at(cut) == ids[1]


def test_the_comb_is_read_at_the_table_and_the_rest_made_anew(cut: Page) -> None:
    ids = start(cut)
    asking = next(step for step in sheet(cut)["sheet"]["steps"] if step["comb_first"])
    while at(cut) != asking["id"]:
        cut.keyboard.press("PageDown")
    done = ids.index(asking["id"])
    ask = asking["comb_first"][0]
    asked = cut.locator("[data-comb-first]")
    expect(asked).to_contain_text(ask["words"])
    asked.get_by_label(f"Comb depth, {ask['words']}, mm").fill("41 mm")
    asked.get_by_role("button", name="Save").first.click()
    cut.get_by_role("button", name="Rebuild the rest").click(timeout=LONG)
    expect(cut.locator("[data-stale]")).to_have_count(0, timeout=LONG)
    sent(cut)
    anew = sheet(cut)
    probes = [(c["zone"], c["side"]) for s in anew["sheet"]["steps"] for c in s["comb_first"]]
    assert (ask["zone"], ask["side"]) not in probes
    assert set(ids[:done]) & {s["id"] for s in anew["sheet"]["steps"]} == set(anew["log"])
    assert len(anew["log"]) > done / 2


def test_a_plan_before_its_time_says_so_on_list_and_table(cut: Page) -> None:
    """The server's answer is given a line for the top: list, first step and table mode show it."""
    early = "Full in 2–3 weeks; today without all of the left visor."

    def answered(route: Route) -> None:
        body = route.fetch().json()
        body["sheet"]["before_time"] = early
        route.fulfill(json=body)

    cut.route("**/api/dogs/1/cut", answered)
    cut.reload()
    expect(cut.locator("[data-before-time]")).to_have_text(early, timeout=LONG)
    start(cut)
    expect(cut.locator("[data-before-time]")).to_have_text(["Full in 2–3 weeks", early])
    cut.keyboard.press("PageDown")
    expect(cut.locator("[data-before-time]")).to_have_text(["Full in 2–3 weeks"])


def test_a_step_that_the_server_refuses_holds_up_none_behind_it(cut: Page) -> None:
    ids = start(cut)

    def refuse(route: Route) -> None:
        route.fulfill(status=422, json={"message": "Such a step is not on the sheet."})

    cut.route(f"**/api/dogs/1/cut/steps/{ids[0]}", refuse)
    for _ in range(3):
        cut.keyboard.press("PageDown")
    expect(cut.get_by_role("alert")).to_contain_text("Such a step is not on the sheet.")
    sent(cut)
    assert set(sheet(cut)["log"]) == set(ids[1:3])
    cut.get_by_role("button", name="Discard").click()
    expect(cut.get_by_role("alert")).to_have_count(0)


DAMAGED = ("nonsense", '{"changes": [null], "next": 1, "queue": 5}')


@pytest.mark.parametrize("text", DAMAGED)
def test_a_damaged_stored_value_never_leaves_the_screen_white(cut: Page, demo_salon, text: str) -> None:  # type: ignore[no-untyped-def]
    """Everything that is kept in the browser, made unreadable: the screens open, and work is sent."""
    start(cut)
    cut.keyboard.press("PageDown")
    sent(cut)
    cut.evaluate(
        """(text) => [localStorage, sessionStorage].forEach((shelf) =>
            Object.keys(shelf).forEach((key) => shelf.setItem(key, text)))""",
        text,
    )
    cut.reload()
    cut.locator("main[data-step]").wait_for(timeout=LONG)
    cut.keyboard.press("PageDown")
    sent(cut)
    assert len(sheet(cut)["log"]) == 2
    for path in ("/", "/kit", "/dogs/1/marks"):
        cut.goto(demo_salon.address + path)
        expect(cut.locator("main, [role=main]").first).to_be_visible(timeout=LONG)
        expect(cut.locator("[data-caught]")).to_have_count(0)


def test_an_edit_of_the_kit_in_the_moment_of_leaving_is_kept(page: Page, demo_salon) -> None:  # type: ignore[no-untyped-def]
    page.goto(f"{demo_salon.address}/kit")
    field = page.get_by_label("White or thin coat")
    field.fill("2.5")
    page.get_by_role("link", name="Today").first.click()
    page.get_by_text("Bobbin").first.wait_for()
    kit = page.request.get(f"{demo_salon.address}/api/kit").json()
    assert kit["skin"]["white_mm"] == 2.5


def test_a_lost_server_a_reload_and_a_sleep_lose_nothing(cut: Page, demo_salon) -> None:  # type: ignore[no-untyped-def]
    ids = start(cut)
    cut.keyboard.press("Space")
    sent(cut)
    demo_salon.stop()
    for _ in range(3):
        cut.keyboard.press("Space")
    assert at(cut) == ids[4]
    expect(cut.get_by_text("3 changes are kept here")).to_be_visible()
    expect(cut.locator("[data-waiting='3']")).to_be_attached()
    demo_salon.start()
    sent(cut)
    assert set(sheet(cut)["log"]) == set(ids[:4])
    cut.keyboard.press("Space")
    cut.keyboard.press("n")
    cut.get_by_role("button", name="a nick").click()
    cut.keyboard.press("Escape")
    sent(cut)
    cut.reload()
    cut.locator("main[data-step]").wait_for(timeout=LONG)
    assert at(cut) == ids[5]
    cut.keyboard.press("n")
    expect(cut.get_by_role("button", name="a nick")).to_have_attribute("aria-pressed", "true")


def test_stopping_early_is_offered_where_it_is_safe(cut: Page) -> None:
    steps = (start(cut), sheet(cut)["sheet"]["steps"])[1]
    cut.keyboard.press("h")
    expect(cut.get_by_role("dialog")).to_contain_text("Not a good place")
    cut.get_by_role("button", name="Go on").click()
    safe = next(step for step in steps if step["may_end"])
    for _ in range(safe["number"]):
        cut.keyboard.press("PageDown")
    cut.keyboard.press("h")
    expect(cut.get_by_role("dialog")).to_contain_text("both sides are alike")
    expect(cut.get_by_role("dialog")).to_contain_text(safe["ends_with"])
    sent(cut)
    cut.get_by_role("button", name="Stop here").click()
    expect(cut.get_by_text("Stopped early.")).to_be_visible()
    assert sheet(cut)["stopped_after"] == safe["id"]
    cut.get_by_role("button", name="Continue cutting").click()
    cut.locator("main[data-step]").wait_for()
    assert sheet(cut)["ended"] is None


def test_what_is_seen_in_the_coat_is_said_with_its_place(cut: Page) -> None:
    cut.get_by_role("button", name="stain", exact=True).click()
    cut.get_by_role("group", name="stain: where").get_by_role("button", name="chin").click()
    cut.get_by_text("Thin the stain out").first.wait_for()
    cut.keyboard.press("Escape")
    expect(cut.get_by_role("button", name="stain: chin")).to_have_attribute("aria-pressed", "true")


def test_what_the_dog_minds_and_who_cuts_change_the_sheet(cut: Page) -> None:
    before = sheet(cut)["sheet"]
    cut.get_by_role("radio", name="Benno, right-handed").click()
    cut.get_by_role("button", name="old", exact=True).click()
    expect(cut.locator("[data-row='pause:1']")).to_be_visible(timeout=LONG)
    after = sheet(cut)["sheet"]
    assert after["stylist"]["first_side"] != before["stylist"]["first_side"]
    assert after["minutes"] > before["minutes"]
    start(cut)
    cut.keyboard.press("l")
    cut.get_by_role("button", name="old", exact=True).click()
    expect(cut.get_by_text("has changed since it was begun")).to_be_visible(timeout=LONG)
    cut.get_by_role("button", name="Rebuild the sheet").click()
    expect(cut.locator("[data-row='pause:1']")).to_have_count(0, timeout=LONG)


def test_without_an_outline_the_way_there_is_shown(page: Page, demo_salon) -> None:  # type: ignore[no-untyped-def]
    page.goto(f"{demo_salon.address}/dogs/2/cut")
    expect(page.get_by_text("No outline is kept yet")).to_be_visible()
    page.get_by_role("link", name="Go to the outline").click()
    expect(page).to_have_url(re.compile("/dogs/2/outline"))


def test_the_kit_is_edited_undone_and_kept(page: Page, demo_salon) -> None:  # type: ignore[no-untyped-def]
    page.goto(demo_salon.address)
    page.get_by_role("link", name="Kit").click()
    row = page.locator("[data-tool='blade-10']")
    row.get_by_label("10 leaves, mm").fill("1,6")
    expect(page.locator("[data-keeping=kept]")).to_be_visible()
    page.get_by_role("button", name="Remove 40", exact=True).click()
    expect(page.locator("[data-tool='blade-40']")).to_have_count(0)
    page.get_by_role("button", name="Undo").click()
    expect(page.locator("[data-tool='blade-40']")).to_be_visible()
    page.get_by_label("New stylist’s name").fill("Sample")
    page.keyboard.press("Enter")
    page.locator("[data-stylist=Sample]").get_by_role("radio", name="last", exact=True).click()
    page.wait_for_timeout(800)
    expect(page.locator("[data-keeping=kept]")).to_be_visible()
    page.reload()
    expect(page.locator("[data-tool='blade-10']").get_by_label("10 leaves, mm")).to_have_value("1.6")
    expect(
        page.locator("[data-stylist=Sample]").get_by_role("radio", name="last", exact=True)
    ).to_have_attribute("aria-checked", "true")


def test_a_wrong_length_in_the_kit_is_told_and_not_kept(page: Page, demo_salon) -> None:  # type: ignore[no-untyped-def]
    page.goto(f"{demo_salon.address}/kit")
    field = page.locator("[data-tool='blade-10']").get_by_label("10 leaves, mm")
    field.fill("900")
    expect(page.locator("[data-keeping=refused]")).to_contain_text("0.05 to 60 mm")
    field.fill("1,5")
    expect(page.locator("[data-keeping=kept]")).to_be_visible()


@pytest.mark.parametrize("mode", ["paper", "table"])
def test_list_table_and_notes_have_no_barrier(cut: Page, mode: str) -> None:
    cut.evaluate(f"localStorage.setItem('dapwick.mode', '{mode}')")
    cut.reload()
    cut.get_by_role("button", name="Start cutting").wait_for(timeout=LONG)
    assert barriers(cut) == []
    start(cut)
    for _ in range(9):
        cut.keyboard.press("PageDown")
    cut.keyboard.press("w")
    assert barriers(cut) == []
    cut.keyboard.press("n")
    cut.get_by_role("button", name="had enough").wait_for()
    assert barriers(cut) == []


def test_the_kit_has_no_barrier(page: Page, demo_salon) -> None:  # type: ignore[no-untyped-def]
    page.goto(f"{demo_salon.address}/kit")
    page.get_by_role("heading", name="Blades").wait_for()
    assert barriers(page) == []


@pytest.mark.parametrize("screen", SCREENS, ids=lambda s: s.words)
def test_every_step_is_whole_and_read_from_two_metres(cut: Page, screen: Screen) -> None:
    cut.set_viewport_size({"width": screen.wide_px, "height": screen.tall_px})
    start(cut)
    for step in sheet(cut)["sheet"]["steps"]:
        cut.locator(f"[data-step='{step['id']}']").wait_for()
        over = cut.evaluate("""() => [...document.querySelectorAll('main, main [class*=overflow-]')].map(
            (one) => one.scrollHeight - one.clientHeight)""")
        assert max(over) <= 2, (step["id"], over)
        tall_px = cut.evaluate(CAP_HEIGHTS, {part: PARTS[part] for part in FAR})
        assert tall_px["step"], step["id"]
        lowest_mm = min(px for found in tall_px.values() for px in found) * screen.mm_per_px
        assert lowest_mm >= TOLD_WITH_EASE * smallest_mm(FAR_M), (step["id"], tall_px)
        cut.keyboard.press("PageDown")
