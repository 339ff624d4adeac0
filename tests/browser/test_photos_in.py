"""Photos by camera and by the handful: sorted, judged, their edges corrected; calliper and cut-off uploads."""

from __future__ import annotations

import base64
import re
import socket
import subprocess
import sys
from pathlib import Path

import pytest
from playwright.sync_api import Page, Playwright, Route, expect

import zoo
from dapwick.demo.dogs import ALL_SEVEN, CAMERA, PHOTOS
from dapwick.service.dogs.about import add_dog, one_dog
from dapwick.service.photos.taking_in import add_photo
from headless import launch

pytestmark = pytest.mark.browser
LOOKED = 90_000


def dropped(page: Page, files: dict[str, bytes]) -> None:
    data = page.evaluate_handle(
        """(files) => { const t = new DataTransfer();
        for (const [name, b64] of files) { const raw = Uint8Array.from(atob(b64), c => c.charCodeAt(0));
        t.items.add(new File([raw], name, { type: 'image/jpeg' })) } return t }""",
        [[name, base64.b64encode(raw).decode()] for name, raw in files.items()],
    )
    page.locator("main").dispatch_event("drop", {"dataTransfer": data})


def test_a_handful_is_sorted_judged_and_waits_with_edges(page: Page, salon) -> None:  # type: ignore[no-untyped-def]
    dog = add_dog(salon.store, "Bobbin", "curl").id
    page.goto(f"{salon.address}/dogs/{dog}/photos")
    page.locator("[data-slot=front]").wait_for()
    files = {
        f"IMG_{n}.jpg": (PHOTOS / f"bobbin-{slot}.jpg").read_bytes() for n, slot in enumerate(ALL_SEVEN[:4])
    }
    dropped(page, {**files, "notes.jpg": b"not a photo at all"})
    expect(page.locator("[data-coming]")).to_have_text("4 of 5 in")
    expect(page.get_by_role("alert")).to_contain_text("notes.jpg")
    for view in ("front", "left", "right", "top"):
        page.locator(f"[data-slot={view}] img").wait_for()
    expect(page.get_by_text("Edge found")).to_have_count(4, timeout=LOOKED)
    page.get_by_role("link", name="Go on to marks").click()
    page.locator("[data-ghost=nose_tip]").first.wait_for()
    expect(page.locator("[data-mark]")).to_have_count(0)


def test_a_photo_that_does_not_say_where_it_belongs_is_asked_about(page: Page, salon) -> None:  # type: ignore[no-untyped-def]
    dog = add_dog(salon.store, "Squall", "fine_drop").id
    page.goto(f"{salon.address}/dogs/{dog}/photos")
    dropped(page, {"IMG_0009.jpg": zoo.jpeg()})
    tray = page.get_by_role("region", name="Where does this belong?")
    expect(tray.locator("[data-asked]")).to_have_count(1, timeout=LOOKED)
    expect(page.locator("[data-slot] img")).to_have_count(0)
    tray.get_by_role("button", name=re.compile("^Front|^The dog")).first.click()
    expect(page.locator("[data-slot] img")).to_have_count(1)
    expect(tray).to_have_count(0)
    page.get_by_role("button", name="Undo").click()
    expect(page.locator("[data-slot] img")).to_have_count(0)
    expect(tray.locator("[data-asked]")).to_have_count(1)


def test_who_goes_straight_to_marks_gets_the_guesses_as_they_come(page: Page, salon) -> None:  # type: ignore[no-untyped-def]
    dog = add_dog(salon.store, "Ratline", "wavy").id
    for view in ("front", "left"):
        file = f"ratline-dry-{view}.jpg"
        add_photo(salon.store, dog, (PHOTOS / file).read_bytes(), file, view, "dry")
    page.goto(f"{salon.address}/dogs/{dog}/marks")
    page.locator("[data-ghost=nose_tip]").wait_for(timeout=LOOKED)
    page.get_by_role("button", name=re.compile("^Accept all")).click()
    page.locator("[data-mark]").first.wait_for()


def test_a_poor_photo_is_told_with_the_reason(page: Page, salon) -> None:  # type: ignore[no-untyped-def]
    dog = add_dog(salon.store, "Kelpie-Jo", "standing").id
    page.goto(f"{salon.address}/dogs/{dog}/photos")
    page.get_by_label("File for Front").set_input_files(CAMERA / "dry-front-4.jpg")
    expect(page.locator("[data-slot=front] [data-finding=blurred]")).to_contain_text(
        "Hold the camera still", timeout=LOOKED
    )


def test_an_edge_is_corrected_by_chalk_undone_and_kept(page: Page, demo_salon) -> None:  # type: ignore[no-untyped-def]
    page.goto(f"{demo_salon.address}/dogs/1/photos")
    expect(page.locator("[data-slot=front]").get_by_text("Edge found")).to_be_visible(timeout=LOOKED)
    page.get_by_role("button", name="Open: Front").click()
    line = page.locator("[data-line=edge] path").first
    line.wait_for()
    before = line.get_attribute("d")
    page.get_by_role("radio", name=re.compile("This is coat")).click()
    plane = page.locator("[data-edge]").bounding_box()
    assert plane
    x, y = plane["x"] + plane["width"] * 0.2, plane["y"] + plane["height"] * 0.5
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x + 220, y, steps=6)
    page.mouse.up()
    expect(line).not_to_have_attribute("d", before or "")
    added = line.get_attribute("d")
    page.keyboard.press("Control+z")
    expect(line).to_have_attribute("d", before or "")
    page.keyboard.press("Control+y")
    expect(line).to_have_attribute("d", added or "")
    page.get_by_role("button", name="Back to the photos").click()
    expect(page.locator("[data-slot=front]").get_by_text("Edge drawn by hand")).to_be_visible(timeout=LOOKED)
    page.get_by_role("button", name="Open: Front").click()
    expect(line).to_have_attribute("d", added or "")
    # Found again by the machine, it lies beside what was drawn; taken, handwork is one undo away.
    offer = page.get_by_role("region", name="The edge found again")
    for taken in (False, True):
        page.get_by_role("button", name="Find the edge again").click()
        page.locator("[data-line=offered]").wait_for(timeout=LOOKED)
        expect(line).to_have_attribute("d", added or "")
        offer.get_by_role("button", name="Take the dashes" if taken else "Keep mine").click()
        expect(page.locator("[data-line=offered]")).to_have_count(0)
    expect(line).not_to_have_attribute("d", added or "")
    page.keyboard.press("Control+z")
    expect(line).to_have_attribute("d", added or "")
    expect(page.locator("[data-slot=front]").get_by_text("Edge drawn by hand")).to_be_attached()


def test_an_edge_is_traced_anew_and_cut_off_at_the_neck(page: Page, demo_salon) -> None:  # type: ignore[no-untyped-def]
    page.goto(f"{demo_salon.address}/dogs/1/photos")
    expect(page.locator("[data-slot=front]").get_by_text("Edge found")).to_be_visible(timeout=LOOKED)
    page.get_by_role("button", name="Open: Front").click()
    line = page.locator("[data-line=edge] path").first
    line.wait_for()
    plane = page.locator("[data-edge]").bounding_box()
    assert plane

    def drag(*shares: tuple[float, float]) -> None:
        places = [(plane["x"] + plane["width"] * x, plane["y"] + plane["height"] * y) for x, y in shares]
        page.mouse.move(*places[0])
        page.mouse.down()
        for place in places[1:]:
            page.mouse.move(*place, steps=6)
        page.mouse.up()

    before = line.get_attribute("d")
    page.keyboard.press("t")
    drag((0.45, 0.10), (0.55, 0.10))
    expect(line).not_to_have_attribute("d", before or "")
    traced = line.get_attribute("d")
    page.keyboard.press("o")
    drag((0.2, 0.8), (0.8, 0.82))
    expect(page.locator("[data-neck]")).to_have_count(1)
    page.get_by_role("button", name="Back to the photos").click()
    page.get_by_role("button", name="Open: Front").click()
    expect(page.locator("[data-neck]")).to_have_count(1)
    expect(line).to_have_attribute("d", traced or "")
    page.keyboard.press("Control+z")
    expect(page.locator("[data-neck]")).to_have_count(0)
    page.keyboard.press("Control+z")
    expect(line).to_have_attribute("d", before or "")


def test_a_photo_in_the_wrong_slot_moves_by_one_press_and_back(page: Page, salon) -> None:  # type: ignore[no-untyped-def]
    """Two that were dropped on each other's slots change places; one undo takes both back."""
    dog = add_dog(salon.store, "Tiller", "harsh").id
    for view, file in (("front", "tiller-dry-left.jpg"), ("left", "tiller-dry-front.jpg")):
        add_photo(salon.store, dog, (PHOTOS / file).read_bytes(), file, view, "dry")
    page.goto(f"{salon.address}/dogs/{dog}/photos")
    press = page.locator("[data-slot=front] [data-move-to=left]")
    press.wait_for(timeout=LOOKED)

    def lie() -> dict[str, str]:
        return {p.view: p.file_name for p in one_dog(salon.store, dog).photos}

    press.click()
    expect(page.locator("[data-slot=front] img")).to_have_attribute("alt", "Front: tiller-dry-front.jpg")
    assert lie() == {"front": "tiller-dry-front.jpg", "left": "tiller-dry-left.jpg"}
    page.get_by_role("button", name="Undo").click()
    expect(page.locator("[data-slot=front] img")).to_have_attribute("alt", "Front: tiller-dry-left.jpg")
    assert lie() == {"front": "tiller-dry-left.jpg", "left": "tiller-dry-front.jpg"}


def test_a_whole_burst_turns_wet_by_one_press(page: Page, salon) -> None:  # type: ignore[no-untyped-def]
    dog = add_dog(salon.store, "Tiller", "harsh").id
    for view in ("front", "left"):
        file = f"tiller-wet-{view}.jpg"
        add_photo(salon.store, dog, (PHOTOS / file).read_bytes(), "IMG.jpg", view, "dry")
    page.goto(f"{salon.address}/dogs/{dog}/photos")
    page.get_by_role("button", name="Open: Front").click()
    page.get_by_role("group", name="All taken together").get_by_role("button", name="Wet").click()
    page.get_by_role("button", name="Back to the photos").click()
    page.get_by_role("radio", name=re.compile("^Wet")).click()
    expect(page.locator("[data-slot] img")).to_have_count(2)
    page.get_by_role("button", name="Undo").click()
    expect(page.locator("[data-slot] img")).to_have_count(0)
    assert {p.state for p in one_dog(salon.store, dog).photos} == {"dry"}


def test_the_camera_takes_a_set_of_a_fidgeting_dog_by_itself(page: Page, salon) -> None:  # type: ignore[no-untyped-def]
    dog = add_dog(salon.store, "Kelpie-Jo", "standing").id
    page.goto(f"{salon.address}/dogs/{dog}/camera?view=front&state=wet&source=simulated")
    page.locator("[data-advice=level]").wait_for()
    page.locator("[data-phase=done]").wait_for(timeout=120_000)
    assert {p.view for p in one_dog(salon.store, dog).photos} == {"front", "left", "top"}
    assert all(p.state == "wet" for p in one_dog(salon.store, dog).photos)
    page.get_by_role("link", name="Done", exact=True).click()
    page.get_by_role("radio", name=re.compile("^Wet")).click()
    page.locator("[data-slot=top] img").wait_for()


def test_a_photo_is_taken_by_the_space_bar(page: Page, salon) -> None:  # type: ignore[no-untyped-def]
    dog = add_dog(salon.store, "Kelpie-Jo", "standing").id
    page.goto(f"{salon.address}/dogs/{dog}/camera?view=left&state=dry&source=simulated")
    page.get_by_role("switch").click()
    page.locator("[data-advice=level]").wait_for()
    page.locator("body").click(position={"x": 5, "y": 300})
    page.keyboard.press("Space")
    page.get_by_role("radio", name="The dog’s left side, taken").wait_for()


def test_the_browsers_camera_takes_a_photo(driver: Playwright, salon, tmp_path: Path) -> None:  # type: ignore[no-untyped-def]
    """The real path, with Chromium's fake device showing one frame of the film."""
    film = tmp_path / "dog.mjpeg"
    film.write_bytes((CAMERA / "dry-front-5.jpg").read_bytes())
    dog = add_dog(salon.store, "Kelpie-Jo", "standing").id
    chromium = launch(
        driver,
        "--use-fake-device-for-media-stream",
        "--use-fake-ui-for-media-stream",
        f"--use-file-for-fake-video-capture={film}",
    )
    tab = chromium.new_context(viewport={"width": 1280, "height": 800}, permissions=["camera"]).new_page()
    tab.goto(f"{salon.address}/dogs/{dog}/camera?view=front&state=dry")
    tab.get_by_role("switch").click()
    tab.locator("[data-advice=sharp]").wait_for(timeout=30_000)
    tab.get_by_role("button", name=re.compile("^Take photo")).click()
    tab.get_by_role("radio", name="Front, taken").wait_for(timeout=30_000)
    chromium.close()
    photo = one_dog(salon.store, dog).photos[0]
    assert min(photo.width_px, photo.height_px) >= 480


def test_a_camera_that_may_not_be_used_says_what_to_do(page: Page, salon) -> None:  # type: ignore[no-untyped-def]
    dog = add_dog(salon.store, "Sample", "curl").id
    page.goto(f"{salon.address}/dogs/{dog}/camera")
    expect(page.get_by_role("alert")).to_contain_text(re.compile("choose files instead", re.IGNORECASE))
    page.get_by_role("button", name="Try the simulated camera").click()
    page.locator("[data-advice=level]").wait_for()


def test_the_callipers_keys_fill_one_field_after_the_other(page: Page, demo_salon) -> None:  # type: ignore[no-untyped-def]
    """The simulated calliper's process types into the page, as a keyboard wedge would."""
    typed = subprocess.run(
        [sys.executable, "-m", "dapwick.cli", "devices", "calliper", "--dog", "bobbin"],
        capture_output=True,
        text=True,
        timeout=60,
        check=True,
    ).stdout.splitlines()
    page.goto(f"{demo_salon.address}/dogs/2/marks")
    page.locator("[data-plane=front]").wait_for()
    # Nobody has pressed a field: the first digit opens it.
    for reading in typed[:3]:
        page.keyboard.type(reading)
        page.keyboard.press("Enter")
    expect(page.locator("[data-reading]")).to_have_count(3)
    expect(page.locator("[data-keeping=false]")).to_have_count(3, timeout=LOOKED)
    kept = [float(m.mm) for m in one_dog(demo_salon.store, 2).hand_measures]
    assert sorted(kept) == sorted(float(t) for t in typed[:3])


def test_readings_typed_before_the_dog_is_fetched_anew_are_all_kept(page: Page, demo_salon) -> None:  # type: ignore[no-untyped-def]
    """Each is kept before the next is typed, while what the page knows of the dog comes late."""
    dog, field = 2, "Measured by hand, mm"
    was = len(one_dog(demo_salon.store, dog).hand_measures)
    page.goto(f"{demo_salon.address}/dogs/{dog}/marks")
    page.locator("[data-plane=front]").wait_for()
    page.get_by_role("tab", name="By hand").click()
    late: list[Route] = []
    page.route(re.compile(f"/api/dogs/{dog}$"), lambda route: late.append(route))
    for n, reading in enumerate(("61", "62", "63"), start=was + 1):
        page.get_by_label(field).locator("[data-reading-field]").fill(reading)
        page.keyboard.press("Enter")
        expect(page.locator("[data-keeping=false]")).to_have_count(n)
    expect(page.locator("[data-asking]")).to_have_count(0)
    assert late
    assert len(one_dog(demo_salon.store, dog).hand_measures) == was + 3


def test_an_upload_cut_off_in_the_middle_leaves_nothing(salon) -> None:  # type: ignore[no-untyped-def]
    dog = add_dog(salon.store, "Sample", "curl").id
    body = (
        b'--cut\r\nContent-Disposition: form-data; name="view"\r\n\r\nfront\r\n'
        b'--cut\r\nContent-Disposition: form-data; name="file"; filename="a.jpg"\r\n\r\n' + zoo.jpeg()
    )
    head = (
        f"POST /api/dogs/{dog}/photos HTTP/1.1\r\nHost: 127.0.0.1\r\n"
        f"Content-Type: multipart/form-data; boundary=cut\r\nContent-Length: {len(body) + 5000}\r\n\r\n"
    )
    with socket.create_connection(("127.0.0.1", salon.port), timeout=5) as line:
        line.sendall(head.encode() + body[: len(body) // 2])
    with socket.create_connection(("127.0.0.1", salon.port), timeout=5) as line:
        line.sendall(b"GET /api/today HTTP/1.1\r\nHost: 127.0.0.1\r\nConnection: close\r\n\r\n")
        assert b"200 OK" in line.makefile("rb").read()
    assert one_dog(salon.store, dog).photos == ()
    assert list((salon.folder / "photos").iterdir()) == []
