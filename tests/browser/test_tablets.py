"""Tablets and phones of the salon's network: coming to trust it, a phone as the camera, what stays when it is away."""

from __future__ import annotations

import base64
import hashlib
import re
import shutil
from collections.abc import Iterator
from pathlib import Path

import pytest
from cryptography import x509
from cryptography.hazmat.primitives.serialization import Encoding, PublicFormat
from hands import barriers, until
from playwright.sync_api import Page, Playwright, expect
from running import NETWORK_NAME, NetworkSalon

from dapwick.demo.dogs import photo_bytes, photos_of, truth
from dapwick.service.dogs.about import add_dog, one_dog
from dapwick.service.salon.passcode import Passcode
from dapwick.service.visits.begin_end import end_visit
from headless import launch

CODE = "harbour-7"
LONG = 60_000
TABLET = {"width": 1024, "height": 768}
PHONE = {"width": 390, "height": 844}
RESOLVED = f"--host-resolver-rules=MAP {NETWORK_NAME} 127.0.0.1"


@pytest.fixture
def network(with_teddy: Path, tmp_path: Path) -> Iterator[NetworkSalon]:
    shutil.copytree(with_teddy, tmp_path / "salon")
    running = NetworkSalon(tmp_path / "salon")
    Passcode(running.store).change(CODE)
    yield running
    running.stop()
    running.store.close()


def device(driver: Playwright, size: dict[str, int], salon: NetworkSalon | None = None) -> Iterator[Page]:
    """salon: the one whose certificate this device took in."""
    flags = [RESOLVED, *([f"--ignore-certificate-errors-spki-list={_key(salon)}"] if salon else [])]
    chromium = launch(driver, *flags)
    page = chromium.new_context(viewport=size, reduced_motion="reduce").new_page()  # type: ignore[arg-type]
    yield page
    chromium.close()


@pytest.fixture
def stranger(driver: Playwright) -> Iterator[Page]:
    yield from device(driver, TABLET)


@pytest.fixture
def trusting(driver: Playwright, network: NetworkSalon) -> Iterator[Page]:
    yield from device(driver, TABLET, network)


@pytest.fixture
def phone(driver: Playwright) -> Iterator[Page]:
    yield from device(driver, PHONE)


def _key(salon: NetworkSalon) -> str:
    """The authority's public key as the browser's flag for a trusted one wants it."""
    public = x509.load_der_x509_certificate(salon.papers.authority_der).public_key()
    der = public.public_bytes(Encoding.DER, PublicFormat.SubjectPublicKeyInfo)
    return base64.b64encode(hashlib.sha256(der).digest()).decode()


def come_in(tablet: Page, salon: NetworkSalon, path: str = "/") -> None:
    tablet.goto(salon.secure + path)
    tablet.get_by_label("Passcode").fill(CODE)
    tablet.keyboard.press("Enter")
    expect(tablet.get_by_label("Passcode")).to_have_count(0)


def test_a_tablet_that_does_not_trust_the_salon_is_shown_how(stranger: Page, network: NetworkSalon) -> None:
    stranger.goto(f"{network.plain}/dogs/1/photos")
    expect(stranger.get_by_role("heading", name="Let this tablet trust the salon")).to_be_visible()
    expect(stranger.get_by_role("listitem")).to_have_count(3)
    expect(stranger.locator("[data-fingerprint]")).to_have_text(network.papers.fingerprint)
    with stranger.expect_download() as taken:
        stranger.get_by_role("link", name="Take it").click()
    assert Path(taken.value.path()).read_bytes() == network.papers.authority_der
    goes_to = stranger.get_by_role("link", name=re.compile("^Open ")).get_attribute("href")
    assert goes_to == f"{network.secure}/dogs/1/photos"
    assert barriers(stranger) == []
    assert stranger.evaluate("document.documentElement.scrollWidth <= innerWidth")
    # Nothing of the salon came over the open line, and it does not go where it would be warned.
    assert stranger.url == f"{network.plain}/dogs/1/photos"


def test_one_that_does_is_led_to_the_same_screen_over_https(trusting: Page, network: NetworkSalon) -> None:
    trusting.goto(f"{network.plain}/dogs/1/wishes")
    trusting.get_by_label("Passcode").wait_for()
    assert trusting.url == f"{network.secure}/dogs/1/wishes"
    trusting.get_by_label("Passcode").fill(CODE)
    trusting.keyboard.press("Enter")
    trusting.get_by_role("heading", name="What is wished for Fogbell?").wait_for()
    assert trusting.evaluate("isSecureContext && 'mediaDevices' in navigator")
    trusting.goto(f"{network.secure}/salon")
    expect(trusting.locator("[data-fingerprint]")).to_have_text(network.papers.fingerprint)


def photo_file(folder: Path, view: str) -> Path:
    known = next(p for p in photos_of(truth("tiller")) if (p["view"], p["state"]) == (view, "dry"))
    path = folder / "image.jpg"
    path.write_bytes(photo_bytes(known["file"]))
    return path


def test_a_phone_takes_the_photos_and_they_arrive_by_themselves(
    trusting: Page, phone: Page, network: NetworkSalon, tmp_path: Path
) -> None:
    dog = add_dog(network.store, "Tiller", "curl").id
    come_in(trusting, network, f"/dogs/{dog}/photos")
    trusting.get_by_role("button", name="Phone", exact=True).click()
    trusting.locator("[data-phone-next=front]").wait_for()
    assert barriers(trusting) == []
    address = trusting.get_by_role("img", name=re.compile("^QR code of ")).get_attribute("alt") or ""
    phone.goto(address.removeprefix("QR code of "))
    phone.locator("[data-wanted=front]").wait_for()
    assert barriers(phone) == []
    for view, following in (("front", "left"), ("left", "right")):
        phone.locator("input[type=file]").set_input_files(photo_file(tmp_path, view))
        phone.locator(f"[data-wanted={following}]").wait_for()
        trusting.locator(f"[data-phone-next={following}]").wait_for()
        trusting.locator(f"[data-arrived={view}]").wait_for()
    expect(phone.locator("[data-doing=fine], [data-doing=again]")).to_have_count(2, timeout=LONG)
    trusting.get_by_role("button", name="Back to the photos").click()
    for slot in ("front", "left"):
        expect(trusting.locator(f"[data-slot={slot}] img")).to_be_visible()
    # A second dog's photos never come through this code: its visit ends, and the phone is told.
    end_visit(network.store, dog)
    expect(phone.get_by_role("heading", name="Scan again")).to_be_visible()


def test_a_photo_that_does_not_arrive_stays_on_the_phone(
    phone: Page, network: NetworkSalon, tmp_path: Path
) -> None:
    dog = add_dog(network.store, "Tiller", "curl").id
    entered = phone.request.post(f"{network.address}/api/entrance", data={"code": CODE})
    assert entered.ok
    given = phone.request.post(f"{network.address}/api/dogs/{dog}/phone", data={"state": "dry"})
    phone.goto(f"{network.plain}/phone/{given.json()['token']}")
    phone.locator("[data-wanted=front]").wait_for()
    phone.route("**/photos", lambda route: route.abort())
    phone.locator("input[type=file]").set_input_files(photo_file(tmp_path, "front"))
    again = phone.get_by_role("button", name="Send it again")
    again.wait_for()
    assert one_dog(network.store, dog).photos == ()
    phone.unroute("**/photos")
    again.click()
    phone.locator("[data-wanted=left]").wait_for()
    assert [p.view for p in one_dog(network.store, dog).photos] == ["front"]


def test_the_sheet_in_use_outlives_a_reload_while_the_salon_is_away(
    trusting: Page, network: NetworkSalon
) -> None:
    come_in(trusting, network)
    until(trusting, "navigator.serviceWorker.controller !== null")
    trusting.goto(f"{network.secure}/dogs/1/cut")
    trusting.get_by_role("button", name="Start cutting").click(timeout=LONG)
    trusting.locator("main[data-step]").wait_for()
    trusting.keyboard.press("Space")
    expect(trusting.locator("[data-waiting='0']")).to_be_attached(timeout=LONG)
    step = trusting.locator("main[data-step]").get_attribute("data-step")
    # Heard once more with the step done, so that the kept one is of now.
    trusting.reload()
    trusting.locator(f"main[data-step='{step}']").wait_for(timeout=LONG)
    network.stop()
    trusting.reload()
    trusting.locator(f"main[data-step='{step}']").wait_for(timeout=LONG)
    expect(trusting.locator("[data-kept-at]")).to_contain_text("does not answer")
    trusting.keyboard.press("Space")
    expect(trusting.get_by_label("Changes on their way")).to_contain_text(
        "1 change is kept here", timeout=LONG
    )
    network.start()
    expect(trusting.locator("[data-kept-at]")).to_have_count(0, timeout=LONG)
    expect(trusting.locator("[data-waiting='0']")).to_be_attached(timeout=LONG)
    trusting.reload()
    trusting.locator("main[data-step]").wait_for(timeout=LONG)
    done = trusting.evaluate(
        "fetch('/api/dogs/1/cut').then((a) => a.json()).then((c) => Object.keys(c.log).length)"
    )
    assert done == 2


def test_a_locked_tablet_keeps_nothing(trusting: Page, network: NetworkSalon) -> None:
    come_in(trusting, network)
    until(trusting, "navigator.serviceWorker.controller !== null")
    trusting.reload()
    until(trusting, "(async () => (await caches.keys()).includes('salon-answers'))()")
    Passcode(network.store).change("another-9")
    trusting.reload()
    trusting.get_by_label("Passcode").wait_for()
    until(trusting, "(async () => !(await caches.keys()).includes('salon-answers'))()")


def test_one_locked_by_hand_opens_nothing_while_the_salon_is_away(
    trusting: Page, network: NetworkSalon
) -> None:
    come_in(trusting, network)
    until(trusting, "navigator.serviceWorker.controller !== null")
    trusting.goto(f"{network.secure}/dogs/1/wishes")
    trusting.get_by_role("button", name="its eyes").wait_for()
    trusting.goto(f"{network.secure}/salon")
    trusting.get_by_role("button", name="Lock this tablet").click()
    trusting.get_by_label("Passcode").wait_for()
    network.stop()
    trusting.goto(f"{network.secure}/dogs/1/wishes")
    trusting.wait_for_timeout(2000)
    expect(trusting.get_by_role("heading", name="What is wished for Fogbell?")).to_have_count(0)
    network.start()


def test_it_can_be_put_on_the_home_screen(trusting: Page, network: NetworkSalon) -> None:
    come_in(trusting, network)
    href = trusting.locator("link[rel=manifest]").get_attribute("href")
    told = trusting.evaluate(f"fetch('{href}').then((a) => a.json())")
    assert (told["name"], told["display"], told["start_url"]) == ("Dapwick", "standalone", "/")
    for icon in told["icons"]:
        side = trusting.evaluate(
            f"fetch('{icon['src']}').then((a) => a.blob()).then(createImageBitmap).then((i) => i.width)"
        )
        assert icon["sizes"] == f"{side}x{side}"


def test_without_a_live_camera_the_tablets_own_app_takes_the_photo(
    page: Page, demo_salon, tmp_path: Path
) -> None:  # type: ignore[no-untyped-def]
    dog = add_dog(demo_salon.store, "Tiller", "curl").id
    page.goto(f"{demo_salon.address}/dogs/{dog}/camera")
    own = page.get_by_label("Take with the tablet’s camera app: Front")
    own.set_input_files(photo_file(tmp_path, "front"))
    page.get_by_label("Take with the tablet’s camera app: The dog’s left side").wait_for(state="attached")
    assert [p.view for p in one_dog(demo_salon.store, dog).photos] == ["front"]
