"""Answers that come late: what was asked for before a press never stands as if it came after it."""

from __future__ import annotations

import contextlib
import re

import pytest
from playwright.sync_api import APIResponse, Page, Route, expect
from playwright.sync_api import Error as PlaywrightError

pytestmark = pytest.mark.browser


def test_a_sheet_asked_for_before_the_outline_arrived_is_asked_anew(page: Page, demo_salon) -> None:  # type: ignore[no-untyped-def]
    """Kept, and on to Cut in the same moment: the answer "no outline" comes back after the outline is kept."""
    late: list[tuple[Route, APIResponse]] = []
    page.goto(f"{demo_salon.address}/dogs/1/outline")
    expect(page.locator("main[data-settled=true]")).to_be_visible(timeout=60_000)
    page.route("**/api/dogs/1/cut", lambda route: late.append((route, route.fetch())), times=1)
    page.route("**/api/dogs/1/outline", lambda route: route.abort(), times=1)
    with page.expect_response(
        lambda r: r.url.endswith("/outline") and r.request.method == "PUT", timeout=60_000
    ):
        page.get_by_role("button", name="Keep this outline").click()
        page.get_by_role("link", name=re.compile("^Cut")).click()
        expect(page.get_by_text("Writing the cut sheet")).to_be_visible()
    page.wait_for_timeout(300)
    (route, answer), *_ = late
    assert answer.json()["sheet"] is None
    route.fulfill(response=answer)
    expect(page.get_by_role("button", name="Start cutting")).to_be_visible(timeout=60_000)


def test_a_sheet_still_on_its_way_does_not_close_the_table(page: Page, demo_salon, with_teddy) -> None:  # type: ignore[no-untyped-def]
    """Who cuts was chosen, and the cut begun in the same moment: the sheet asked for before comes after."""
    late: list[tuple[Route, APIResponse]] = []
    page.goto(f"{demo_salon.address}/dogs/1/cut")
    start = page.get_by_role("button", name="Start cutting")
    start.wait_for(timeout=60_000)

    def hold(route: Route) -> None:
        if route.request.method == "GET" and not late:
            late.append((route, route.fetch()))
        else:
            route.continue_()

    page.route("**/api/dogs/1/cut", hold)
    page.get_by_role("radio", name="Benno").click()
    for _ in range(100):
        if not late:
            page.wait_for_timeout(100)
    start.click()
    expect(page.locator("main[data-step]")).to_be_visible(timeout=60_000)
    (route, answer), *_ = late
    assert answer.json()["started"] is None
    with contextlib.suppress(PlaywrightError):
        route.fulfill(response=answer)
    page.wait_for_timeout(500)
    expect(page.locator("main[data-step]")).to_be_visible()
