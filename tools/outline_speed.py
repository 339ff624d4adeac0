"""Timings of the outlines: rows for docs/speed.md (`tools/speed.py` puts them in)."""

from __future__ import annotations

import statistics
import time
from collections.abc import Iterator
from dataclasses import replace

import numpy as np
from playwright.sync_api import Page

from coat_truth import grounded
from dapwick.core.outlines.families import FAMILIES
from dapwick.core.outlines.ground import wanted_on
from dapwick.core.outlines.posterior_samples import posterior_samples
from dapwick.demo.dogs import ALL_SEVEN
from dapwick.pipeline.head_model import HeadModel
from dapwick.pipeline.overlays import moving_lines
from dapwick.pipeline.plan import FittedGround, drawn_on, fit_on, moving_plan_on, plan_on, thumb_on
from timing import Row, spread, timed

PULLS = 40


def turning() -> Iterator[dict[str, float]]:
    """Sizes that go up and down, never twice the same."""
    i = 0
    while True:
        i += 1
        yield {"fullness": float(0.9 * np.sin(i))}


def outline_rows() -> list[Row]:
    model = grounded("tiller", ALL_SEVEN[:4]).model
    fits = {key: fit_on(model, family) for key, family in FAMILIES.items()}
    every = timed(lambda: [thumb_on(fit_on(model, family)) for family in FAMILIES.values()], 3)
    each = [t for family in FAMILIES.values() for t in timed(lambda f=family: fit_on(model, f), 2)]
    moves = [t for fit in fits.values() for t in _moves(fit)]
    whole = [t for fit in fits.values() for t in timed(lambda f=fit: plan_on(f, {}), 2)]
    return [
        ("one family fitted, over all eleven", spread(each)),
        ("all eleven fitted, with verdict and aligned views", f"median {statistics.median(every):.2f} s"),
        ("parameter to contours, four photos, over all eleven (a slider on its way)", spread(moves)),
        ("the whole of a plan at rest: draws, verdict, effects, aligned views", spread(whole)),
        (
            "of it, 64 draws of head and coat",
            spread(timed(lambda: posterior_samples(drawn_on(fits["round"], {})), 4)),
        ),
        *growth_rows(model, fits["round"]),
    ]


def _moves(fit: FittedGround) -> list[float]:
    settings = turning()
    return timed(lambda: moving_plan_on(fit, next(settings)), PULLS)


def growth_rows(model: HeadModel, fit: FittedGround) -> list[Row]:
    """How the parts of a move grow with photos and with the mesh."""
    outline = drawn_on(fit, {})
    skin, coat = model.ground.skin, model.ground.coat
    free = model.ground.free_mm(outline.design)
    rows = []
    for times in (0.25, 1, 4):
        n = int(len(free) * times)
        at = np.resize(np.arange(len(free)), n)
        seconds = timed(
            lambda at=at: wanted_on(
                outline.design,
                skin.vertices_mm[at],
                skin.outward[at],
                coat.depth_mm[at],
                coat.stand[at],
                free[at],
            ),
            12,
        )
        rows.append((f"shape traced on {n:,} vertices", spread(seconds)))
    finished = skin.vertices_mm + outline.leave_mm[:, None] * skin.outward
    plan = moving_plan_on(fit, {})
    for count in (1, 2, 4):
        few = replace(model, seen=model.seen[:count])
        seconds = timed(lambda few=few: moving_lines(few, outline, finished, plan.ears_mm, plan.short_mm), 12)
        rows.append((f"contours over {count} photo{'s' if count > 1 else ''}", spread(seconds)))
    return rows


def stage_rows(page: Page, address: str) -> list[Row]:
    """The stage in Chromium, which draws everything by software on the same cores."""
    began = time.perf_counter()
    page.goto(f"{address}/dogs/1/outline")
    page.locator("[data-line=outline]").first.wait_for()
    first = time.perf_counter() - began
    page.locator(f"[data-fitted='{len(FAMILIES)}']").wait_for()
    every = time.perf_counter() - began
    page.locator("main[data-settled=true]").wait_for()
    page.locator("[data-head3d]").wait_for()
    handle = page.locator("[data-view=front] [data-handle=fullness]").bounding_box()
    assert handle
    x, y = handle["x"] + handle["width"] / 2, handle["y"] + handle["height"] / 2
    page.evaluate(WATCH)
    page.mouse.move(x, y)
    page.mouse.down()
    for i in range(60):
        page.mouse.move(x + 8 * np.sin(i / 6), y)
        page.wait_for_timeout(16)
    page.mouse.up()
    frames = page.evaluate("window.__frames()")
    page.locator("main[data-settled=true]").wait_for()
    head = page.locator("[data-head3d]").bounding_box()
    assert head
    x, y = head["x"] + head["width"] / 2, head["y"] + head["height"] / 2
    page.evaluate(WATCH)
    page.mouse.move(x, y)
    page.mouse.down()
    for i in range(40):
        page.mouse.move(x + 60 * np.sin(i / 8), y)
        page.wait_for_timeout(16)
    page.mouse.up()
    turns = page.evaluate("window.__frames()")
    size = f"{head['width']:.0f} × {head['height']:.0f}"
    return [
        ("Outline stage opened to the first outline drawn, two photos", f"{first:.1f} s"),
        ("to all eleven families shown", f"{every:.1f} s"),
        ("frames while a handle is dragged on the sheet", spread([f / 1000 for f in frames])),
        (f"frames while the 3D head turns, {size} px, WebGL by software", spread([f / 1000 for f in turns])),
    ]


WATCH = """() => {
  const times = [];
  let last = performance.now(), going = true;
  const tick = (now) => { times.push(now - last); last = now; if (going) requestAnimationFrame(tick); };
  requestAnimationFrame(tick);
  window.__frames = () => { going = false; return times.slice(1); };
}"""
