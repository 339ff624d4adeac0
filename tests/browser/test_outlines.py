"""The Outline stage as it is used: choose, pull, ask, wish, compare, show, keep, carry out and in."""

from __future__ import annotations

import json
import re
from pathlib import Path

from hands import until
from playwright.sync_api import Locator, Page, expect

from dapwick.core.outlines.families import FAMILIES


def opened(page: Page, salon, dog: int = 1) -> None:  # type: ignore[no-untyped-def]
    page.goto(f"{salon.address}/dogs/{dog}/outline")
    page.locator("[data-line=outline]").first.wait_for()


def at_rest(page: Page) -> None:
    """Every photo is looked at and the newest setting drawn whole."""
    page.locator("main[data-settled=true]").wait_for()
    page.wait_for_timeout(200)
    page.locator("main[data-settled=true]").wait_for()


def leave_mm(page: Page, zone: str, side: str = "left") -> float:
    return float(page.locator(f"tr[data-zone={zone}][data-side={side}] [data-leave]").text_content() or "nan")


def test_every_family_comes_fitted_and_is_drawn_when_chosen(page: Page, demo_salon) -> None:  # type: ignore[no-untyped-def]
    opened(page, demo_salon)
    strip = page.locator(f"[data-fitted='{len(FAMILIES)}']")
    strip.wait_for()
    ranked = [t.get_attribute("data-verdict") for t in strip.locator("[data-thumb]").all()]
    assert ranked == sorted(ranked, key=["today", "later", "not_on_this_coat"].index)
    page.locator("[data-thumb=brick]").click()
    page.get_by_role("heading", name="Brick").wait_for()
    at_rest(page)
    expect(page.locator("[data-view=front]")).to_have_attribute("aria-label", re.compile("Brick outline"))
    expect(page.locator("[data-line=setting]").first).to_be_attached()
    words = page.locator("[data-in-words]").text_content() or ""
    assert words.startswith("Brick")
    assert "Crown: leave" in words
    expect(page.locator("[data-head3d=brick]")).to_be_visible()


def test_pulling_a_handle_moves_every_view_and_undo_brings_it_back(page: Page, demo_salon) -> None:  # type: ignore[no-untyped-def]
    opened(page, demo_salon)
    at_rest(page)
    lines = page.locator("[data-line=outline]")
    before = [line.get_attribute("d") for line in lines.all()]
    cheek = leave_mm(page, "cheek")
    box = page.locator("[data-view=front] [data-handle=fullness]").bounding_box()
    assert box
    middle = (box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    page.mouse.move(*middle)
    page.mouse.down()
    page.mouse.move(middle[0] - 14, middle[1], steps=5)
    page.mouse.up()
    at_rest(page)
    after = [line.get_attribute("d") for line in lines.all()]
    assert all(a != b for a, b in zip(before, after, strict=True))
    assert leave_mm(page, "cheek") < cheek
    page.keyboard.press("Control+z")
    until(
        page,
        f"Number(document.querySelector('tr[data-zone=cheek][data-side=left] [data-leave]').textContent) === {cheek}",
    )


def test_the_stage_is_walked_by_keys_alone(page: Page, demo_salon) -> None:  # type: ignore[no-untyped-def]
    opened(page, demo_salon)
    at_rest(page)
    page.keyboard.press("2")
    expect(page.locator("[data-cell]")).to_have_count(1)
    page.keyboard.press("Escape")
    expect(page.locator("[data-cell]")).to_have_count(4)
    handle = page.locator("[data-view=front] [data-handle=centre_up_mm]")
    handle.focus()
    value = float(handle.get_attribute("aria-valuenow") or "nan")
    page.keyboard.press("ArrowUp")
    until(
        page,
        f"Number(document.querySelector('[data-handle=centre_up_mm]').getAttribute('aria-valuenow')) > {value}",
    )
    head = page.locator("[data-head3d]")
    head.wait_for()
    turned = head.get_attribute("aria-label")
    head.focus()
    page.keyboard.press("ArrowRight")
    expect(head).not_to_have_attribute("aria-label", turned or "")


def test_the_turning_head_goes_from_now_to_weeks_on_and_is_saved(page: Page, demo_salon) -> None:  # type: ignore[no-untyped-def]
    opened(page, demo_salon)
    at_rest(page)
    page.get_by_role("button", name="Enlarge: on its stand").click()
    head = page.locator("canvas[data-head3d]")
    head.wait_for()
    until(page, "Number(document.querySelector('canvas[data-head3d]').dataset.share) > 0.2")
    drawn = "document.querySelector('canvas[data-head3d]').toDataURL().length"
    assert page.evaluate(drawn) > 20_000
    slider = page.get_by_label("From the coat as it is now")
    slider.fill("0")
    expect(page.locator("output", has_text="as it is")).to_be_visible()
    slider.fill("2")
    expect(page.locator("output", has_text="10 weeks on")).to_be_visible()
    page.get_by_role("button", name="what comes off").click()
    expect(page.get_by_text("comes off", exact=True).first).to_be_visible()
    save = page.get_by_role("group", name="Save")
    for words, ending in (
        ("Picture", "round.png"),
        ("Eight sides", "eight.png"),
        ("GLB", ".glb"),
        ("STL", ".stl"),
    ):
        with page.expect_download(timeout=90_000) as saved:
            save.get_by_role("button", name=words).click(timeout=60_000)
        assert saved.value.suggested_filename.endswith(ending)
        assert Path(saved.value.path()).stat().st_size > 20_000


def test_a_wish_changes_the_plan_and_tells_why(page: Page, demo_salon) -> None:  # type: ignore[no-untyped-def]
    opened(page, demo_salon)
    at_rest(page)
    before = page.locator("[data-view=front] [data-line=outline]").get_attribute("d")
    page.get_by_role("tab", name="Wishes").click()
    page.get_by_role("radiogroup", name="Weeks between").get_by_text("12").click()
    page.get_by_role("list", name="Wishes met").get_by_text("12 weeks between visits").wait_for()
    at_rest(page)
    assert page.locator("[data-view=front] [data-line=outline]").get_attribute("d") != before
    page.get_by_role("tab", name="Why").click()
    expect(page.get_by_role("list", name="Why")).to_contain_text("12 weeks between visits")
    page.reload()
    page.get_by_role("tab", name="Wishes").click()
    chosen = page.get_by_role("radiogroup", name="Weeks between").get_by_role("radio", name="12")
    expect(chosen).to_have_attribute("aria-checked", "true")


def test_a_length_is_said_taken_back_and_the_body_joined(page: Page, demo_salon) -> None:  # type: ignore[no-untyped-def]
    opened(page, demo_salon)
    at_rest(page)
    crown = leave_mm(page, "crown")
    page.get_by_role("tab", name="Wishes").click()
    said = page.get_by_role("region", name="Lengths said")
    said.get_by_label("Place").select_option("crown")
    said.get_by_label("Length, mm").fill("9")
    page.keyboard.press("Enter")
    said.get_by_text("crown 9").wait_for()
    at_rest(page)
    assert leave_mm(page, "crown") == 9.0
    page.get_by_role("list", name="Wishes met").get_by_text("crown 9 mm").wait_for()
    said.get_by_label("Place").select_option("cheek")
    guard = said.get_by_label("By one of your guards").locator("option").nth(1)
    said.get_by_label("By one of your guards").select_option(index=1)
    mm = said.get_by_label("Length, mm").input_value()
    assert float(mm) >= 3.0
    assert mm in guard.inner_text()
    said.get_by_label("Length, mm").fill("")
    said.get_by_label("Body clipped to").fill("6")
    page.keyboard.press("Tab")
    said.get_by_role("radiogroup", name="Up to").wait_for()
    at_rest(page)
    assert leave_mm(page, "nape") == 6.0
    said.get_by_role("button", name="Throat").click()
    at_rest(page)
    assert leave_mm(page, "throat") == 6.0
    expect(said.get_by_role("button", name="Throat")).to_have_attribute("aria-pressed", "true")
    said.get_by_role("button", name="Take back crown").click()
    said.get_by_text("crown 9").wait_for(state="detached")
    # The body stays joined, so the rest is fitted a little otherwise than at first.
    shown = "Number(document.querySelector('tr[data-zone=crown][data-side=left] [data-leave]').textContent)"
    until(page, f"{shown} > {(crown + 9.0) / 2}")


def test_questions_stand_under_their_headings_and_an_answer_is_drawn(page: Page, demo_salon) -> None:  # type: ignore[no-untyped-def]
    opened(page, demo_salon)
    at_rest(page)
    page.get_by_role("tab", name="How").click()
    for heading in ("Shape", "Ears", "Order of work"):
        expect(page.get_by_role("region", name=heading)).to_be_visible()
    before = page.locator("[data-view=front] [data-line=outline]").get_attribute("d")
    ears = page.get_by_role("region", name="Ears").get_by_role("button")
    expect(ears).to_contain_text("tip, with, rounded")
    ears.press("Enter")
    line = page.get_by_role("radiogroup", name="Ears: the clip line?")
    line.get_by_role("radio", name="fold").click()
    expect(line.get_by_role("radio", name="fold")).to_have_attribute("aria-checked", "true")
    at_rest(page)
    assert page.locator("[data-view=front] [data-line=outline]").get_attribute("d") != before


def test_two_outlines_are_compared_and_the_other_taken(page: Page, demo_salon) -> None:  # type: ignore[no-untyped-def]
    opened(page, demo_salon)
    page.get_by_role("button", name="Compare two outlines").click()
    page.get_by_label(re.compile("against")).select_option("dome")
    page.get_by_role("button", name="Choose Dome").click()
    page.get_by_role("heading", name="Dome").wait_for()


def shown(image: Locator) -> str:
    """What a picture shows, as a few bytes of it."""
    told: str = image.evaluate(
        """async (image) => {
            await image.decode()
            const canvas = document.createElement('canvas')
            canvas.width = canvas.height = 64
            canvas.getContext('2d').drawImage(image, 0, 0, 64, 64)
            return canvas.toDataURL()
        }"""
    )
    return told


def test_the_owner_sees_one_picture_and_the_weeks_ahead(page: Page, demo_salon) -> None:  # type: ignore[no-untyped-def]
    opened(page, demo_salon)
    at_rest(page)
    page.get_by_role("button", name="Show the owner").click()
    owner = page.locator("[data-owner]")
    for words in ("now", "after the cut"):
        owner.get_by_alt_text(f"Fogbell {words}").wait_for()
    fresh = shown(owner.get_by_alt_text("Fogbell after the cut"))
    assert fresh != shown(owner.get_by_alt_text("Fogbell now"))
    page.get_by_label("Weeks ahead").fill("6")
    later = owner.get_by_alt_text("Fogbell 6 weeks after")
    later.wait_for()
    expect(owner.locator("figure[aria-busy=true]")).to_have_count(0)
    assert shown(later) != fresh
    expect(owner.locator("[data-coming]")).to_contain_text("inner corners")
    owner.get_by_role("button", name="from the side").click()
    expect(owner.locator("img")).to_have_count(2)
    with page.expect_download() as saved:
        owner.get_by_role("button", name="Save as a picture").click()
    assert saved.value.suggested_filename == "fogbell-round.png"
    page.keyboard.press("Escape")
    expect(page.locator("[data-owner]")).to_have_count(0)


def test_an_own_outline_is_saved_carried_out_removed_and_taken_in(
    page: Page, demo_salon, tmp_path: Path
) -> None:  # type: ignore[no-untyped-def]
    opened(page, demo_salon)
    at_rest(page)
    page.locator("#slider-visor_mm").fill("20")
    page.get_by_label("Name of your own outline").fill("Harbour round")
    page.get_by_role("button", name="Save", exact=True).click()
    page.get_by_role("heading", name="Harbour round").wait_for()
    with page.expect_download() as carried:
        page.get_by_role("button", name="Export").click()
    file = tmp_path / carried.value.suggested_filename
    carried.value.save_as(file)
    assert json.loads(file.read_text())["name"] == "Harbour round"
    page.get_by_role("button", name="Remove").click()
    page.get_by_role("heading", name="Round", exact=True).wait_for()
    expect(page.locator("[data-thumb^=own-]")).to_have_count(0)
    page.get_by_label("An outline’s file").set_input_files(file)
    page.locator("[data-thumb^=own-]").wait_for()
    broken = tmp_path / "broken.json"
    broken.write_text("{")
    page.get_by_label("An outline’s file").set_input_files(broken)
    page.get_by_text("is not an outline’s file").wait_for()
