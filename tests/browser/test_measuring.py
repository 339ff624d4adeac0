"""The Marks stage's help and the dog drawn from its numbers, as they are used."""

from __future__ import annotations

import re

import pytest
from hands import on_screen, place, saved, until
from playwright.sync_api import Page, expect

from dapwick.demo.dogs import PHOTOS, hand_marks, photos_of, truth
from dapwick.service.dogs.about import one_dog

pytestmark = pytest.mark.browser


@pytest.fixture
def marking(page: Page, demo_salon) -> Page:  # type: ignore[no-untyped-def]
    page.goto(f"{demo_salon.address}/dogs/1/marks")
    page.locator("[data-measure=skull_width]").wait_for()
    return page


def closeness(page: Page) -> float:
    return float(page.locator("[data-plane]").get_attribute("data-closeness") or 0)


def test_the_photo_is_looked_at_closer_by_wheel_keys_and_buttons(marking: Page) -> None:
    eye = truth("fogbell")["photos"][0]["marks_px"]["eye_inner_left"]
    before = on_screen(marking, *eye)
    marking.mouse.move(*before)
    for _ in range(5):
        marking.mouse.wheel(0, -120)
    expect(marking.locator("[data-plane]")).not_to_have_attribute("data-closeness", "1.00")
    after = on_screen(marking, *eye)
    assert after == pytest.approx(before, abs=3)
    marking.keyboard.press("0")
    expect(marking.locator("[data-plane]")).to_have_attribute("data-closeness", "1.00")
    marking.keyboard.press("+")
    assert closeness(marking) == pytest.approx(1.5)
    middle = on_screen(marking, 600, 450)
    marking.keyboard.press("Alt+ArrowRight")
    assert on_screen(marking, 600, 450)[0] < middle[0] - 20
    marking.get_by_role("button", name="Whole photo").click()
    assert closeness(marking) == 1.0


def test_a_mark_dragged_close_up_moves_by_what_the_hand_does(marking: Page) -> None:
    script = "(id) => { const m = document.querySelector(id).transform.baseVal[0].matrix; return [m.e, m.f] }"
    before = marking.evaluate(script, "[data-mark=stop]")
    marking.mouse.move(*on_screen(marking, *before))
    for _ in range(6):
        marking.mouse.wheel(0, -120)
    start = on_screen(marking, *before)
    marking.mouse.move(*start)
    marking.mouse.down()
    marking.mouse.move(start[0] + 30, start[1], steps=3)
    marking.mouse.up()
    after = marking.evaluate(script, "[data-mark=stop]")
    per_px = (on_screen(marking, 700, 0)[0] - on_screen(marking, 600, 0)[0]) / 100
    assert after[0] - before[0] == pytest.approx(30 / per_px, abs=0.6)
    assert per_px > 2


def test_two_fingers_pinch(marking: Page) -> None:
    centre = on_screen(marking, 600, 450)
    marking.evaluate(
        """([x, y]) => {
        const plane = document.querySelector('[data-plane]')
        const say = (type, id, dx) => plane.dispatchEvent(new PointerEvent(type, {pointerId: id, pointerType: 'touch',
          clientX: x + dx, clientY: y, bubbles: true, button: 0}))
        plane.setPointerCapture = () => {}
        say('pointerdown', 11, -40); say('pointerdown', 12, 40)
        for (let i = 1; i <= 8; i++) { say('pointermove', 11, -40 - 10 * i); say('pointermove', 12, 40 + 10 * i) }
        say('pointerup', 11, -120); say('pointerup', 12, 120)
        }""",
        list(centre),
    )
    until(marking, "Number(document.querySelector('[data-plane]').dataset.closeness) > 2")
    assert len(one_marks(marking)) == len(hand_marks(photos_of(truth("fogbell"))[0]))


def one_marks(page: Page) -> list[str]:
    return [m.get_attribute("data-mark") or "" for m in page.locator("[data-mark]").all()]


def test_a_mark_is_placed_by_keys_alone(page: Page, demo_salon) -> None:  # type: ignore[no-untyped-def]
    page.goto(f"{demo_salon.address}/dogs/2/marks")
    page.locator("[data-plane=front]").wait_for()
    first = "eye_inner_right"
    page.keyboard.press("Space")
    page.locator(f"[data-mark={first}]").wait_for()
    with page.expect_response(lambda r: r.request.method == "PUT" and r.url.endswith("/marks")):
        page.keyboard.press("Shift+ArrowLeft")
        page.keyboard.press("ArrowUp")
    saved(page)
    at = one_dog(demo_salon.store, 2).photos[0].marks[first].at
    photo = photos_of(truth("bobbin"))[0]
    assert at == pytest.approx([photo["width"] / 2 - 10, photo["height"] / 2 - 1], abs=0.6)


def test_each_mark_shows_where_and_how_to_feel(page: Page, demo_salon) -> None:  # type: ignore[no-untyped-def]
    page.goto(f"{demo_salon.address}/dogs/2/marks")
    page.locator("[data-plane=front]").wait_for()
    card = page.get_by_label("Next mark")
    seen = []
    for _ in range(8):
        sketch = card.locator("[data-feel]")
        seen.append((sketch.get_attribute("data-feel"), sketch.inner_html()))
        card.get_by_role("button", name="Skip").click()
    assert len({mark for mark, _ in seen}) == 8
    assert len({drawing for _, drawing in seen}) == 8


def test_what_is_wrong_is_told_beside_its_mark(marking: Page) -> None:
    script = "(id) => { const m = document.querySelector(id).transform.baseVal[0].matrix; return [m.e, m.f] }"
    start = on_screen(marking, *marking.evaluate(script, "[data-mark=nose_tip]"))
    marking.mouse.move(*start)
    marking.mouse.down()
    marking.mouse.move(start[0] + 120, start[1] - 90, steps=3)
    marking.mouse.up()
    bubble = marking.locator("[data-culprit=nose_tip]")
    bubble.wait_for()
    expect(bubble).to_contain_text("left out")


def test_help_leads_to_the_comb_and_the_depth_is_kept(marking: Page, demo_salon) -> None:  # type: ignore[no-untyped-def]
    marking.get_by_role("button", name="More").click()
    marking.locator("[data-help=comb] button").first.click()
    expect(marking.get_by_role("tab", name="Comb")).to_have_attribute("aria-selected", "true")
    marking.locator("[data-comb=crown]").click()
    marking.keyboard.press("3")
    marking.keyboard.type("1")
    marking.keyboard.press("Enter")
    marking.locator("[data-reading=crown][data-keeping=false]").wait_for()
    probes = one_dog(demo_salon.store, 1).coat_probes
    assert [(p.zone, p.depth_mm) for p in probes] == [("crown", 31.0)]


def test_intervals_shrink_as_marks_come(page: Page, demo_salon) -> None:  # type: ignore[no-untyped-def]
    page.goto(f"{demo_salon.address}/dogs/2/marks")
    page.locator("[data-plane=front]").wait_for()
    photo = photos_of(truth("bobbin"))[0]
    marks = hand_marks(photo)
    order = ["eye_inner_right", "eye_inner_left", "eye_outer_right", "eye_outer_left", "nose_tip", "nose_top"]
    for mark in order[:5]:
        place(page, tuple(marks[mark]["at"]))
    span = page.locator("[data-measure=skull_width] td").nth(1)
    span.wait_for()
    wide = int((span.text_content() or "±0")[1:])
    page.get_by_role("tab", name="By hand").click()
    page.get_by_label("Across the outer eye corners, mm").fill("75")
    page.keyboard.press("Enter")
    page.locator("[data-reading]").wait_for()
    page.get_by_role("tab", name="Measures").click()
    until(
        page,
        f"Number(document.querySelector('[data-measure=skull_width] td:nth-of-type(2)').textContent.slice(1)) < {wide}",
    )


def test_a_dog_is_drawn_and_its_bands_are_moved(page: Page, demo_salon) -> None:  # type: ignore[no-untyped-def]
    page.goto(demo_salon.address)
    page.get_by_role("link", name="Fogbell: Outline").click()
    page.get_by_role("link", name="Fogbell", exact=True).click()
    drawing = page.locator("[data-head-drawing]")
    drawing.wait_for()
    expect(drawing.locator("[data-view]")).to_have_count(3)
    page.get_by_role("button", name="Where do these words change?").click()
    page.get_by_label("muzzle: from short to medium at").fill("0.02")
    page.get_by_label("muzzle: from medium to long at").fill("0.03")
    page.get_by_role("button", name="Save").click()
    expect(page.get_by_text("long muzzle", exact=True).first).to_be_visible()
    page.get_by_role("button", name="Where do these words change?").click()
    page.get_by_label("muzzle: from short to medium at").fill("9")
    page.get_by_role("button", name="Save").click()
    expect(page.get_by_role("alert")).to_contain_text("rising")


def test_an_unmeasured_dog_says_what_to_do(page: Page, demo_salon) -> None:  # type: ignore[no-untyped-def]
    page.goto(f"{demo_salon.address}/dogs/2")
    page.get_by_text("Not measured yet").wait_for()
    page.get_by_role("link", name="Mark the photos").click()
    page.locator("[data-plane=front]").wait_for()


def test_a_known_dog_comes_again(page: Page, demo_salon) -> None:  # type: ignore[no-untyped-def]
    """A new visit: photos, the expected places taken over, no calliper; the same head comes out."""
    page.goto(f"{demo_salon.address}/dogs/1")
    page.get_by_role("button", name="New visit").click()
    page.get_by_role("button", name="End it, begin a new one").click()
    page.get_by_role("link", name="go on to photos").click()
    known = photos_of(truth("fogbell"), ("dry-front", "dry-left"), visit=1)
    for photo, slot in zip(known, ("Front", "The dog’s left side"), strict=True):
        page.get_by_label(f"File for {slot}").set_input_files(PHOTOS / photo["file"])
        page.get_by_alt_text(re.compile(photo["file"])).wait_for()
    page.get_by_role("link", name="Go on to marks").click()
    page.locator("[data-known]").wait_for()
    for view in ("front", "left"):
        page.get_by_role("button", name=re.compile(f"^{view}")).click()
        take = page.get_by_role("button", name=re.compile(r"Accept all \d+ suggestions"))
        take.click(timeout=60_000)
        page.locator("[data-mark=nose_tip]").wait_for()
    saved(page)
    page.get_by_role("link", name="Fogbell", exact=True).click()
    expect(page.locator("[data-visit]")).to_have_count(2)
    page.locator("[data-head-drawing]").wait_for()
    row = page.locator("[data-measure=skull_width] td").first
    assert abs(float(row.text_content() or 0) - 88.8) < 12
