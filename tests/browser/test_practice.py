"""Practice in an empty salon: a trainee begins, does a session by mouse and by keys, and reads how it goes."""

from __future__ import annotations

import pytest
from hands import barriers
from playwright.sync_api import Page, expect

from dapwick.records.models import DogRow, PracticeTaskRow

pytestmark = pytest.mark.browser
TABLET = {"width": 820, "height": 1180}


@pytest.fixture
def trainee(page: Page, demo_salon) -> Page:  # type: ignore[no-untyped-def]
    page.goto(demo_salon.address)
    page.get_by_role("link", name="Practice").click()
    page.get_by_label("Another name").fill("Wren")
    page.get_by_role("button", name="Begin").click()
    expect(page.locator("[data-next]")).to_have_attribute("data-next", "bone")
    return page


def test_the_first_start_leads_to_practice_in_an_empty_salon(page: Page, salon) -> None:  # type: ignore[no-untyped-def]
    page.goto(salon.address)
    page.get_by_label("The salon’s name").fill("The Chandlery")
    page.get_by_role("button", name="Begin").click()
    page.get_by_role("link", name="Practice").click()
    page.get_by_label("Another name").fill("Wren")
    page.get_by_role("button", name="Begin").click()
    page.locator("[data-next]").click()
    expect(page.locator("[data-posed]")).to_be_visible()
    with salon.store.reading() as session:
        assert session.query(DogRow).count() == 0


def test_bone_is_marked_by_mouse_undone_and_told(trainee: Page) -> None:
    trainee.locator("[data-next]").click()
    head = trainee.locator("[data-posed]")
    expect(head).to_be_visible()
    box = head.bounding_box()
    assert box
    tell = trainee.get_by_role("button", name="Tell me")
    expect(tell).to_be_disabled()
    for i in range(5):
        head.click(position={"x": box["width"] * (0.35 + 0.06 * i), "y": box["height"] * 0.5})
    expect(trainee.locator("[data-mine]")).to_have_count(5)
    trainee.keyboard.press("Control+z")
    expect(trainee.locator("[data-mine]")).to_have_count(4)
    expect(tell).to_be_disabled()
    trainee.keyboard.press("Control+y")
    tell.click()
    expect(trainee.locator("[data-miss]")).to_have_count(5)
    expect(trainee.locator("[data-true]")).to_have_count(5)
    expect(trainee.locator("[data-miss]").first).to_contain_text("mm off")
    assert barriers(trainee) == []


def test_a_mark_where_the_bone_was_shown_is_there(trainee: Page, demo_salon) -> None:  # type: ignore[no-untyped-def]
    """The true places that the screen draws, pressed on the same head by another person, are hits: what is drawn and
    what is judged are one geometry."""
    trainee.locator("[data-next]").click()
    head = trainee.locator("[data-posed]")
    expect(head).to_be_visible()
    box = head.bounding_box()
    assert box
    for _ in range(5):
        head.click(position={"x": box["width"] / 2, "y": box["height"] / 2})
    trainee.get_by_role("button", name="Tell me").click()
    expect(trainee.locator("[data-true]")).to_have_count(5)
    trainee.wait_for_timeout(1200)
    true = trainee.evaluate(
        """() => Object.fromEntries([...document.querySelectorAll('[data-true]')].map((g) => {
          const at = g.querySelector('circle').getBoundingClientRect()
          return [g.dataset.true, [at.x + at.width / 2, at.y + at.height / 2]]
        }))"""
    )
    with demo_salon.store.session() as session:
        row = session.query(PracticeTaskRow).one()
        row.answer = row.told = row.answered = None
    trainee.reload()
    expect(head).to_be_visible()
    trainee.wait_for_timeout(1200)
    for button in trainee.locator("[data-mark]").all():
        button.click()
        trainee.mouse.click(*true[button.get_attribute("data-mark") or ""])
    trainee.get_by_role("button", name="Tell me").click()
    for miss in trainee.locator("[data-miss]").all():
        expect(miss).to_contain_text("there")


def test_a_guess_is_made_by_keys_alone(trainee: Page) -> None:
    trainee.get_by_role("link", name="Practise: By eye").press("Enter")
    field = trainee.get_by_label("Your guess", exact=True)
    expect(field).to_be_focused()
    field.press_sequentially(str(float(field.get_attribute("min") or 1) * 2))
    field.press("Enter")
    expect(trainee.get_by_role("radio", name="5 %")).to_be_focused()
    trainee.get_by_role("radio", name="20 %").press("Enter")
    field.press("Enter")
    expect(trainee.locator("[data-told]")).to_contain_text("too")
    expect(trainee.get_by_text("You said within 20 %")).to_be_visible()
    trainee.keyboard.press("Enter")
    expect(trainee.locator("[data-turn]")).to_have_text("2 of 6")


def test_the_long_side_is_said_by_number_and_turned_by_arrows(trainee: Page) -> None:
    trainee.get_by_role("link", name="Practise: The long side").click()
    head = trainee.locator("[data-posed]")
    expect(head).to_have_attribute("data-posed", "0")
    head.press("ArrowRight")
    expect(head).not_to_have_attribute("data-posed", "0")
    trainee.keyboard.press("2")
    expect(trainee.locator("[data-place='cheek/left']")).to_have_attribute("aria-checked", "true")
    trainee.get_by_role("button", name="Tell me").click()
    expect(trainee.locator("[data-told]")).to_contain_text("mm long")
    expect(trainee.locator("[data-true='long']")).to_be_visible()


def test_a_place_is_said_by_pressing_it(trainee: Page) -> None:
    trainee.get_by_role("link", name="Practise: The long side").click()
    head = trainee.locator("[data-posed]")
    expect(head).to_be_visible()
    trainee.wait_for_timeout(800)
    box = head.bounding_box()
    assert box
    for x in (0.36, 0.4, 0.62, 0.66):
        head.click(position={"x": box["width"] * x, "y": box["height"] * 0.62})
    expect(trainee.locator("[data-place][aria-checked='true']")).to_have_count(1)
    side = trainee.locator("[data-place][aria-checked='true']").get_attribute("data-place") or ""
    assert side.endswith("left"), "pressed at the right of the screen, which is his left"


def test_outlines_are_ordered_and_a_plan_is_cut_and_its_causes_named(trainee: Page) -> None:
    trainee.get_by_role("link", name="Practise: What suits him").click()
    expect(trainee.locator("[data-family]")).to_have_count(3)
    for family in trainee.locator("[data-family]").all():
        family.click()
    trainee.locator("[data-why='head']").click()
    trainee.get_by_role("button", name="Tell me").click()
    expect(trainee.locator("[data-told]")).to_contain_text("reason")
    trainee.get_by_role("link", name="‹ Practice").click()
    trainee.get_by_role("link", name="Practise: The whole plan").click()
    trainee.locator("[data-zone]").first.wait_for()
    trainee.locator("[data-family]").first.click()
    for zone in trainee.locator("[data-zone]").all():
        zone.get_by_role("button").first.click()
        zone.locator("[data-tool='shears']").click()
    trainee.get_by_role("button", name="Tell me").click()
    expect(trainee.locator("[data-cause='length']").first).to_contain_text("You chose")
    expect(trainee.get_by_text("That was a session.")).to_be_visible()
    trainee.get_by_role("link", name="How it goes").click()
    expect(trainee.locator("[data-drill='plan'] [data-figure]")).to_be_visible()
    expect(trainee.locator("[data-drill='suits'] [data-figure]")).to_be_visible()
    assert barriers(trainee) == []


def test_who_presses_another_name_is_asked_first(trainee: Page) -> None:
    mine = trainee.url
    trainee.get_by_role("button", name="+ Oriel").click()
    # Wren's own page has what is asked here too: first Oriel's is to be there.
    expect(trainee).not_to_have_url(mine)
    expect(trainee.locator("[data-next]")).to_be_visible()
    trainee.get_by_role("link", name="Wren").click()
    expect(trainee.locator("[data-asks-who='Wren']")).to_be_visible()
    expect(trainee.locator("[data-drill]")).to_have_count(0)
    trainee.get_by_role("button", name="Not me").click()
    expect(trainee.get_by_text("Say who you are to begin.")).to_be_visible()
    trainee.get_by_role("link", name="Wren").click()
    trainee.get_by_role("button", name="I am Wren").click()
    expect(trainee.locator("[data-drill]")).to_have_count(5)


def test_a_trainer_sees_who_says_so(trainee: Page) -> None:
    trainee.get_by_label("A trainer may see how it goes").click()
    expect(trainee.get_by_label("A trainer may see how it goes")).to_be_checked()
    trainee.get_by_role("button", name="+ Oriel").click()
    trainee.get_by_role("button", name="Who lets a trainer see it: 1").click()
    expect(trainee.locator("[data-shown='Wren']")).to_contain_text("Find the bone")


def test_a_question_stays_over_a_reload_and_a_lost_server_says_so(trainee: Page) -> None:
    trainee.get_by_role("link", name="Practise: By eye").click()
    question = trainee.locator("[data-question]")
    expect(question).to_be_visible()
    asked = question.get_attribute("data-question") or ""
    field = trainee.get_by_label("Your guess", exact=True)
    guess = str(float(field.get_attribute("min") or 1) * 2)
    field.fill(guess)
    trainee.get_by_role("radio", name="10 %").click()
    trainee.wait_for_timeout(500)
    trainee.reload()
    expect(question).to_have_attribute("data-question", asked)
    assert float(field.input_value()) == float(guess)
    expect(trainee.get_by_role("radio", name="10 %")).to_have_attribute("aria-checked", "true")
    trainee.route("**/answer", lambda route: route.abort())
    trainee.get_by_role("button", name="Tell me").click()
    expect(trainee.get_by_role("alert")).to_contain_text("does not answer")
    trainee.unroute("**/answer")
    trainee.get_by_role("button", name="Tell me").click()
    expect(trainee.locator("[data-told]")).to_be_visible()


def test_a_tablet_held_upright_shows_head_and_question(trainee: Page) -> None:
    trainee.set_viewport_size(TABLET)  # type: ignore[arg-type]
    for name in ("Find the bone", "By eye", "The long side"):
        trainee.get_by_role("link", name=f"Practise: {name}").click()
        head = trainee.locator("[data-posed]")
        expect(head).to_be_visible()
        box, tell = head.bounding_box(), trainee.get_by_role("button", name="Tell me").bounding_box()
        assert box
        assert tell
        assert box["height"] > 380
        assert tell["y"] + tell["height"] <= TABLET["height"]
        trainee.get_by_role("link", name="‹ Practice").click()
