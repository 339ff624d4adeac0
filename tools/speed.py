"""Measure how fast the product answers on this machine and write docs/speed.md.

.venv/bin/python tools/speed.py        # wants web/dist built and Chromium installed
"""

from __future__ import annotations

import argparse
import gzip
import io
import os
import socket
import statistics
import subprocess
import sys
import tempfile
import time
import urllib.request
from collections.abc import Callable
from functools import partial
from pathlib import Path

import numpy as np
from PIL import Image
from playwright.sync_api import Page, sync_playwright

from check_speed import check_rows
from dapwick.core.basics.marks import View
from dapwick.core.head.skin import skin_of
from dapwick.core.head.skin_and_coat import skin_and_coat
from dapwick.core.outlines.families.round import ROUND
from dapwick.core.plan.next_best import Next, ground_of, next_best
from dapwick.core.solve.joint import HeadSolution, solve_head
from dapwick.core.solve.observations import HandMeasure, HeadInput
from dapwick.demo.dogs import CAMERA, calliper_mm, hand_marks, photo_bytes, photos_of, truth
from dapwick.documents.head_file import PhotoEntry, photo_marks
from dapwick.pipeline.camera_guide import guidance
from dapwick.pipeline.head_model import model_of
from dapwick.pipeline.plan import FittedGround, fit_on
from dapwick.pipeline.review import review_photo
from dapwick.records.store import SalonStore
from dapwick.service.dogs.about import add_dog
from dapwick.service.photos.taking_in import add_photo
from dapwick.vision import guess as guessing
from dapwick.vision import salient as standing_out
from dapwick.vision.chalk import Stroke, followed
from dapwick.vision.edge import NoEdge, trace_edge
from dapwick.vision.guess import Guess, dog_chance, guess_marks
from dapwick.vision.photo import Pixels, read_photo
from dapwick.vision.salient import whole_look
from dapwick.vision.trail import trailed
from headless import launch
from outline_speed import outline_rows, stage_rows
from simheads import random_head, with_slip, without_some
from timing import Row, spread, timed, yardstick_row

ROOT = Path(__file__).parents[1]
DIST = ROOT / "web" / "dist"
SLIDES = 60


def demo_ground() -> FittedGround:
    known = truth("fogbell")
    sim_marks = {p["file"]: hand_marks(p) for p in photos_of(known)}

    photos = tuple(
        photo_marks(PhotoEntry.model_validate({**p, "marks": sim_marks[p["file"]]}), p["file"])
        for p in photos_of(known)
    )
    across = ("eye_outer_left", "eye_outer_right")
    head = solve_head(HeadInput(photos, (HandMeasure(*across, calliper_mm(known, *across)),)))
    assert isinstance(head, HeadSolution)
    edges = {}
    for photo in photos_of(known):
        rgb = read_photo(photo_bytes(photo["file"]), "a").rgb
        line = trace_edge(rgb, {m: tuple(v["at"]) for m, v in sim_marks[photo["file"]].items()})  # type: ignore[misc]
        assert isinstance(line, np.ndarray)
        edges[photo["file"]] = line
    return fit_on(model_of(head, known["coat"], edges, ()), ROUND)


FOUR: tuple[View, ...] = ("front", "left", "right", "top")
SEVEN: tuple[View, ...] = (*FOUR, "back", "three_quarter_left", "three_quarter_right")


HEADS = range(40)


def solves(given: list[HeadInput]) -> list[float]:
    return [timed(lambda g=g: solve_head(g), 1)[0] for g in given]


def asked(fitted: FittedGround) -> tuple[Next, ...]:
    """The next best measurement of the demo head, skin and coat known."""
    head, coat = fitted.ground.head, fitted.ground.coat
    taken = frozenset((photo.view, "dry") for photo in head.photos)
    return next_best(ground_of(head, coat, taken))


def core_rows() -> list[Row]:
    heads = {
        "two photos": [random_head(s).given for s in HEADS],
        "four photos": [random_head(s, FOUR, 2).given for s in HEADS],
        "four photos with half their marks": [
            without_some(random_head(s, FOUR, 2), s, 0.5).given for s in HEADS
        ],
        "four photos and a mis-click": [with_slip(random_head(s, FOUR, 2), s).given for s in HEADS],
        "seven photos": [random_head(s, SEVEN, 2).given for s in HEADS],
    }
    ground = demo_ground()
    head = ground.ground.head
    photo = photos_of(truth("fogbell"))[0]
    data = photo_bytes(photo["file"])
    rgb = read_photo(data, "a").rgb
    return [
        yardstick_row("for solves and photos"),
        *((f"one solve, {words}", spread(solves(given))) for words, given in heads.items()),
        ("what would help most now", spread(timed(lambda: asked(ground), 6))),
        *photo_rows(data, rgb),
        ("skin of a head", spread(timed(lambda: skin_of(head), 20))),
        (
            "skin and coat of a head, set right",
            spread(timed(lambda: skin_and_coat(head, "standing", ground.model.edges), 10)),
        ),
    ]


def photo_rows(data: bytes, rgb: Pixels) -> list[Row]:
    """Taking photos in and looking at them; the large one is a demo photo brought to 12 megapixels."""
    out = io.BytesIO()
    Image.open(io.BytesIO(data)).resize((4000, 3000)).save(out, "JPEG", quality=92)
    large = out.getvalue()

    def bare() -> None:
        image = Image.open(io.BytesIO(large)).convert("RGB")
        image.resize((1600, 1200), Image.Resampling.BOX).save(io.BytesIO(), "JPEG", quality=88)

    bare_s = timed(bare, 5)
    with tempfile.TemporaryDirectory() as folder:
        store = SalonStore(Path(folder))
        dog = add_dog(store, "Sample", "curl").id
        tails = iter(range(100))

        def taken(view: str) -> None:
            # Bytes after the picture's end make each a file of its own.
            add_photo(store, dog, large + bytes([next(tails)]), "a.jpg", view, "dry")

        import_s, sorted_s = timed(lambda: taken("front"), 5), timed(lambda: taken("guess"), 5)
        store.close()
    ratio = statistics.median(import_s) / statistics.median(bare_s)
    guess = guess_marks(rgb, "front")
    assert isinstance(guess, Guess)
    marks = {m: (a.x_px, a.y_px) for m, a in guess.marks.items()}
    chance = dog_chance(guess, rgb.shape[1], rgb.shape[0])
    line = trace_edge(rgb, marks, chance)
    assert not isinstance(line, NoEdge)
    stroke = [Stroke(np.array([marks["ear_front_left"], marks["ear_tip_left"]]), coat=True)]
    return [
        ("a 12-megapixel JPEG: bare Pillow decode, resize and save", spread(bare_s)),
        (f"the same photo taken in, {ratio:.2f} times that", spread(import_s)),
        ("the same photo taken in and its slot guessed", spread(sorted_s)),
        ("first guesses of the marks", spread(timed(afresh(lambda: guess_marks(rgb, "front")), 10))),
        ("what stands out in a photo", spread(timed(afresh(lambda: whole_look(rgb)), 6))),
        ("trace the coat's edge, 1,200 × 900", spread(timed(lambda: trace_edge(rgb, marks, chance), 6))),
        (
            "look at a photo: quality, card, guesses, edge",
            spread(timed(afresh(lambda: review_photo(rgb, "a", "front", (1200, 900))), 6)),
        ),
        (
            "the same once marks are placed: what stands out looked at from near too",
            spread(timed(afresh(lambda: review_photo(rgb, "a", "front", (1200, 900), seeds=marks)), 6)),
        ),
        ("the edge after a chalk stroke", spread(timed(lambda: followed(rgb, line, stroke, 1200, 900), 10))),
        (
            "the edge after a trail",
            spread(timed(lambda: trailed(rgb, line, line[: len(line) // 4], 1200, 900), 10)),
        ),
        guide_row(),
        ("memory at its peak, 20 photos of 12 megapixels taken in and looked at", f"{peak_mb(large):.0f} MB"),
    ]


def guide_row() -> Row:
    """What the live guide says of the film's frames, one after the other, as the camera sends them."""
    frames = [read_photo(film.read_bytes(), film.name).rgb for film in sorted(CAMERA.glob("dry-front-*.jpg"))]
    each = [timed(afresh(partial(guidance, frame, "front")), 3) for frame in frames]
    took = [seconds for of_frame in each for seconds in of_frame]
    said = f"the camera's guide, one frame: {1 / statistics.median(took):.0f} a second"
    return (said, spread(took))


def afresh(work: Callable[[], object]) -> Callable[[], object]:
    """The work as on a photo that no network has read yet."""

    def run() -> object:
        guessing._read.cache_clear()
        standing_out._read.cache_clear()
        return work()

    return run


def peak_mb(photo: bytes) -> float:
    """Largest resident size of a process of its own that takes 20 photos in and looks at each."""
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "large.jpg"
        path.write_bytes(photo)
        done = subprocess.run(
            [sys.executable, "-c", TWENTY, str(path), folder], capture_output=True, text=True, check=True
        )
    return float(done.stdout)


TWENTY = """
import sys
from pathlib import Path
from dapwick.records.store import SalonStore
from dapwick.service.photos import edges
from dapwick.service.dogs.about import add_dog
from dapwick.service.photos.taking_in import add_photo
store = SalonStore(Path(sys.argv[2]) / "salon")
dog = add_dog(store, "Sample", "curl").id
data = Path(sys.argv[1]).read_bytes()
for n in range(20):
    card = add_photo(store, dog, data + bytes([n]), "a.jpg", "front", "dry")
    edges.review(store, card.id, lambda *_: None)
# Its own high-water mark: ru_maxrss would carry over that of the process which started it.
told = Path("/proc/self/status").read_text()
print(int(told.split("VmHWM:")[1].split()[0]) / 1024)
"""


def server_rows() -> list[Row]:
    with tempfile.TemporaryDirectory() as folder:
        with socket.socket() as probe:
            probe.bind(("127.0.0.1", 0))
            port = probe.getsockname()[1]
        first = _start(Path(folder), port)
        first[0].terminate()
        first[0].wait()
        second = _start(Path(folder), port)
        try:
            slides, stage = browser_slides(f"http://127.0.0.1:{port}")
        finally:
            second[0].terminate()
            second[0].wait()
    return [
        ("start with an empty folder, demo dogs put in", f"{first[1]:.1f} s"),
        ("second start", f"{second[1]:.1f} s"),
        *stage,
        ("slider moved to outline redrawn in Chromium, two photos", spread(slides)),
    ]


def _start(folder: Path, port: int) -> tuple[subprocess.Popen[bytes], float]:
    """The server's process and seconds until it answers."""
    began = time.perf_counter()
    command = [
        str(Path(sys.executable).parent / "dapwick"),
        "serve",
        "--demo",
        "--salon",
        str(folder),
        "--port",
        str(port),
    ]
    process = subprocess.Popen(command, stdout=subprocess.DEVNULL)
    while True:
        try:
            urllib.request.urlopen(f"http://127.0.0.1:{port}/api/today", timeout=1).read()
            return process, time.perf_counter() - began
        except OSError:
            time.sleep(0.02)


def browser_slides(address: str) -> tuple[list[float], list[Row]]:
    """Seconds from a slider's input event to the frame that shows the new outline, one move at a time; and the
    stage's own rows."""
    with sync_playwright() as driver:
        chromium = launch(driver)
        page: Page = chromium.new_page(viewport={"width": 1280, "height": 800})
        page.set_default_timeout(60_000)
        stage = stage_rows(page, address)
        seconds = page.evaluate(
            """async (count) => {
              const slider = document.querySelector('#slider-fullness');
              const main = document.querySelector('main');
              const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set;
              const frame = () => new Promise((done) => requestAnimationFrame(() => done()));
              const took = [];
              for (let i = 0; i < count; i++) {
                const before = Number(main.dataset.shown);
                const began = performance.now();
                set.call(slider, String(Math.sin(i + 1) * 0.9));
                slider.dispatchEvent(new Event('input', { bubbles: true }));
                while (Number(main.dataset.shown) <= before && performance.now() - began < 5000) await frame();
                took.push((performance.now() - began) / 1000);
              }
              return took;
            }""",
            SLIDES,
        )
        stage += check_rows(page, address)
        chromium.close()
    return [float(s) for s in seconds], stage


def weight_rows() -> list[Row]:
    assets = [p for p in DIST.rglob("*") if p.is_file() and p.suffix in (".js", ".css", ".html")]
    packed = sum(len(gzip.compress(p.read_bytes())) for p in assets)
    font = max((p.stat().st_size for p in DIST.rglob("*latin-wght*.woff2") if "ext" not in p.name), default=0)
    return [
        ("scripts, styles and page, gzipped", f"{packed / 1024:.0f} kB"),
        ("the font's Latin part", f"{font / 1024:.0f} kB"),
    ]


OUTLINES = "for outlines and screens"


def _rows_written(path: Path) -> tuple[list[Row], list[Row]]:
    """The rows for solves and photos as they were written last, and those for outlines and screens."""
    told = [line for line in path.read_text().splitlines() if line.startswith("| ")]
    rows = [(what, figure) for what, figure in (line.strip("| ").split(" | ", 1) for line in told[1:])]
    from_outlines = [i for i, (what, _) in enumerate(rows) if what.startswith(f"yardstick {OUTLINES}")]
    if not from_outlines:
        raise SystemExit(f"{path} has no rows to keep: run it whole")
    return rows[: from_outlines[0]], rows[from_outlines[0] :]


def _rows(args: argparse.Namespace) -> list[Row]:
    if args.only_solves:
        return [*core_rows(), *_rows_written(args.out)[1]]
    core = _rows_written(args.out)[0] if args.only_outlines else core_rows()
    return [*core, yardstick_row(OUTLINES), *outline_rows(), *server_rows(), *weight_rows()]


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--out", type=Path, default=ROOT / "docs" / "speed.md")
    parser.add_argument("--only-outlines", action="store_true", help="keep the rows for solves and photos")
    parser.add_argument("--only-solves", action="store_true", help="keep the rows for outlines and screens")
    args = parser.parse_args()
    rows = _rows(args)
    lines = [
        "# Speed",
        "",
        f"Written by `tools/speed.py` on a machine with {os.cpu_count()} cores and no GPU, nothing else running. "
        "The slider's time is from its input event to the animation frame in which the new outline stands, "
        "server included; Chromium draws by software on the same cores.",
        "",
        "| what | figure |",
        "|-|-|",
        *(f"| {what} | {figure} |" for what, figure in rows),
        "",
    ]
    args.out.write_text("\n".join(lines))
    print("\n".join(lines))


if __name__ == "__main__":
    main()
