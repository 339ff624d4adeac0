"""What the core makes of fixed inputs, room by room, as plain numbers: for golden answers that a change must explain.

Nothing of it is looked at in a picture: edges are given, so that no other machine's image library moves a number.
"""

from __future__ import annotations

import json
from collections.abc import Callable, Sequence
from functools import cache
from pathlib import Path
from typing import Any, Final

import numpy as np

from cut_cases import case_of
from dapwick.core.cut.sheet import cut_sheet
from dapwick.core.head.coat import CoatProbe
from dapwick.core.head.growth import MM_A_MONTH, growth_mm, weeks_to_grow
from dapwick.core.measures.bands import proportions
from dapwick.core.measures.measure import measures_of
from dapwick.core.measures.unevenness import unevenness_of
from dapwick.core.outlines.effects import effects_of
from dapwick.core.outlines.families import FAMILIES
from dapwick.core.outlines.posterior_samples import posterior_samples
from dapwick.core.outlines.wishes import Wishes
from dapwick.core.plan.finished import grown
from dapwick.core.plan.lengths import planned_groups, zone_lengths
from dapwick.core.plan.verdict import verdict_of
from dapwick.core.solve.joint import HeadSolution, solve_head
from dapwick.pipeline.head_model import HeadModel, PhotoSource, model_of
from dapwick.pipeline.next_measurement import next_measurement
from dapwick.pipeline.plan import drawn_on, fit_on
from demo_heads import demo_head_file
from simheads import random_head

EDGES: Final = Path(__file__).parent / "core" / "golden_edges.json"
COMBED: Final = (CoatProbe("cheek", None, 21.0, 26.0), CoatProbe("crown", "left", 18.0, None))
EVERY: Final = 61
"""Of the skin's vertices one in so many is written down."""


def numbers(values: Any, places: int = 3) -> Any:
    return np.round(np.asarray(values, dtype=float), places).tolist()


@cache
def model(key: str) -> HeadModel:
    file = demo_head_file(key)
    head = solve_head(file.head_input())
    assert isinstance(head, HeadSolution)
    edges = {name: np.array(line) for name, line in json.loads(EDGES.read_text())[key].items()}
    return model_of(head, file.dog.coat, edges, COMBED if key == "fogbell" else ())


def solves() -> dict[str, Any]:
    found = {}
    for seed, views in ((4, ("front", "left")), (7, ("front", "left", "right", "top")), (11, ("front",))):
        head = solve_head(random_head(seed, views).given)
        assert isinstance(head, HeadSolution)
        found[f"{seed} {' '.join(views)}"] = {
            "points": numbers(head.points_mm, 2),
            "sigma": numbers(head.sigma_mm, 2),
            "seen": numbers(head.without_symmetry.points_mm, 2),
            "cameras": [
                numbers([*camera.angles_deg(photo.view), camera.distance_mm], 1)
                for camera, photo in zip(head.cameras, head.photos, strict=True)
            ],
            "measures": {m.id: numbers([m.value, m.sigma], 2) for m in measures_of(head)},
            "uneven": [[u.words, *numbers([u.mm, u.sigma], 1)] for u in unevenness_of(head)],
            "proportions": [p.words for p in proportions(measures_of(head))],
            "findings": sorted(f.code for f in head.findings),
        }  # fmt: skip
    return found


def heads() -> dict[str, Any]:
    found = {}
    for key in ("fogbell", "bobbin"):
        ground = model(key).ground
        found[key] = {
            "skin": numbers(ground.skin.vertices_mm[::EVERY], 2),
            "skin sigma": numbers(ground.skin.sigma_mm[::EVERY], 2),
            "coat": numbers(ground.coat.depth_mm[::EVERY], 2),
            "coat sigma": numbers(ground.coat.sigma_mm[::EVERY], 2),
            "stand": numbers(ground.coat.stand[::EVERY], 3),
            "ears": [[ear.carriage, numbers(ear.vertices_mm.reshape(-1, 3)[::3], 1)] for ear in ground.ears],
            "ceiling": numbers(ground.ceiling_mm[::EVERY], 2),
        }
    return found


def zones_of(outline: Any) -> dict[str, list[float]]:
    return {
        f"{z.zone} {z.side}": numbers([z.leave_mm, z.remove_mm, z.shortage_mm, z.wanted_mm, z.longest_mm], 1)
        for z in zone_lengths(outline)
    }


def outlines() -> dict[str, Any]:
    found: dict[str, Any] = {}
    for family in FAMILIES.values():
        for key in ("fogbell", "bobbin"):
            fitted = fit_on(model(key), family)
            outline = drawn_on(fitted, {})
            zones = zone_lengths(outline)
            verdict = verdict_of(outline, zones)
            found[f"{family.id} {key}"] = {
                "params": {k: round(v, 2) for k, v in outline.params.items()},
                "sizes": numbers([outline.size_mm, outline.sizes.smallest, outline.sizes.largest], 1),
                "zones": zones_of(outline),
                "effects": {e.id: numbers([e.now, e.after], 2) for e in effects_of(outline)},
                "verdict": [verdict.when, verdict.weeks, *verdict.weeks_range, round(verdict.departure, 2)],
                "reasons": list(verdict.reasons),
            }
    return found


def turned() -> dict[str, Any]:
    """Each parameter at both ends, each school's other choices."""
    found: dict[str, Any] = {}
    for family in FAMILIES.values():
        fitted = fit_on(model("bobbin"), family)
        for parameter in family.parameters:
            for value in (parameter.low, parameter.high):
                outline = drawn_on(fitted, {parameter.id: value})
                found[f"{family.id} {parameter.id} {value:g}"] = numbers(outline.leave_mm[::EVERY], 1)
        for school in family.schools:
            for choice in school.choices:
                outline = drawn_on(fit_on(model("bobbin"), family, {school.id: choice}), {})
                found[f"{family.id} {school.id} {choice}"] = numbers(outline.leave_mm[::EVERY], 1)
    return found


def wished() -> dict[str, Any]:
    asked = (
        Wishes(fullness=0.8),
        Wishes(fullness=-0.7, weeks_between=4),
        Wishes(eyes="open", beard="short", ears="short", weeks_between=8),
        Wishes(eyes="veiled", beard="long", ears="keep", weeks_between=12),
    )
    found: dict[str, Any] = {}
    for i, wishes in enumerate(asked):
        for family in ("round", "teddy", "brows_beard", "broad"):
            outline = drawn_on(fit_on(model("fogbell"), FAMILIES[family], wishes=wishes), {})
            verdict = verdict_of(outline, zone_lengths(outline))
            found[f"{family} {i}"] = [[w.wish, w.met, w.words] for w in verdict.wishes]
            found[f"{family} {i}"].append(numbers(outline.leave_mm[::EVERY], 1))
    return found


def planned() -> dict[str, Any]:
    outline = drawn_on(fit_on(model("fogbell"), FAMILIES["teddy"]), {})
    samples = posterior_samples(outline)
    depth, ears = grown(outline, 5.0)
    file = demo_head_file("fogbell")
    sources = [
        PhotoSource(name, "dry", np.array(line))
        for name, line in json.loads(EDGES.read_text())["fogbell"].items()
    ]
    there = {one.name: ("front", "dry") if "front" in one.name else ("left", "dry") for one in sources}
    asked = next_measurement(model("fogbell").ground.head, file.dog.coat, sources, COMBED, there)
    return {
        "intervals": {
            f"{z.zone} {z.side}": numbers([z.low, z.high, z.now_low, z.now_high, z.chance_short], 1)
            for z in zone_lengths(outline, samples)
        },
        "runs out": round(samples.chance_out(planned_groups(outline)), 2),
        "in five weeks": numbers(depth[::EVERY], 1),
        "ears in five weeks": [numbers(ear[::7], 1) for ear in ears],
        "next": [[n.kind, n.what, round(n.gain_mm, 1)] for n in asked],
        "growth": {c: [round(growth_mm(6, c), 2), weeks_to_grow(9.0, c)] for c in MM_A_MONTH},
    }  # fmt: skip


SHEETS: Final[Sequence[dict[str, Any]]] = (
    {"hand": "right"},
    {"hand": "left", "minds": ("minds_muzzle", "tires", "white_coat")},
    {"coat": "fine_drop", "minds": ("sways", "first_time"), "now_mm": 60.0},
)


def sheets() -> dict[str, Any]:
    found: dict[str, Any] = {}
    for family in FAMILIES:
        for i, said in enumerate(SHEETS):
            sheet = cut_sheet(case_of(family, **said))
            found[f"{family} {i}"] = {
                "minutes": round(sheet.minutes, 1),
                "tools": list(sheet.tools),
                "alone": [f"{a.zone} {a.side} {a.reason}" for a in sheet.alone],
                "steps": [
                    [s.id, s.tool_id, round(s.minutes, 1), s.may_end, *(c.id + "!" * c.full for c in s.cautions)]
                    for s in sheet.steps
                ],
            }  # fmt: skip
    return found


ROOMS: Final[dict[str, Callable[[], dict[str, Any]]]] = {
    "solves": solves, "heads": heads, "outlines": outlines, "turned": turned, "wished": wished, "planned": planned,
    "sheets": sheets,
}  # fmt: skip
