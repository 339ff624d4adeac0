"""How fair the drawn outlines are: curvature's changes of sign and distance moved, before and after, into
docs/pictures.md.

.venv/bin/python tools/fairness.py
"""

from __future__ import annotations

from pathlib import Path

import numpy as np
from scipy.spatial import cKDTree

from coat_truth import grounded
from dapwick.core.basics.arrays import Array
from dapwick.core.basics.fair import FAIR_MM, STEPS_A_TOLERANCE, fair, resampled, sign_changes
from dapwick.core.outlines.effects import ears_cut
from dapwick.core.outlines.families import FAMILIES
from dapwick.core.plan.finished import surface
from dapwick.demo.dogs import ALL_SEVEN
from dapwick.pipeline.aligned_views import SHEET_VIEWS, flat
from dapwick.pipeline.head_model import head_faces
from dapwick.pipeline.plan import drawn_on, fit_on
from dapwick.vision.silhouette import silhouette

DOGS = ("fogbell", "bobbin", "tiller", "marlin-spike", "kelpie-jo", "squall", "ratline", "halyard")
OUT = Path(__file__).parents[1] / "docs" / "pictures.md"
BEGIN, END = "<!-- fairness -->", "<!-- /fairness -->"


def moved_mm(line: Array, drawn: Array) -> float:
    """The farthest that any place of a line lies from the drawn one."""
    return float(cKDTree(resampled(drawn, 0.1)).query(resampled(line, 0.1))[0].max())


def main() -> None:
    found: dict[str, list[tuple[int, int, float]]] = {view: [] for view in SHEET_VIEWS}
    for dog in DOGS:
        model = grounded(dog, ALL_SEVEN[:4]).model
        for family in FAMILIES.values():
            outline = drawn_on(fit_on(model, family), {})
            places = np.concatenate([surface(outline, outline.leave_mm), *ears_cut(outline)])
            for view in SHEET_VIEWS:
                line = silhouette(flat(places, view), head_faces(model.ground))
                drawn = fair(line, FAIR_MM)
                before = resampled(line, STEPS_A_TOLERANCE * FAIR_MM)
                found[view].append((sign_changes(before), sign_changes(drawn), moved_mm(line, drawn)))
    rows = [
        "| view | changes of sign before, median | after | moved at most, median | worst |",
        "|-|-|-|-|-|",
    ]
    for view, cases in found.items():
        before, after, moved = (np.array(column) for column in zip(*cases, strict=True))
        middles = " | ".join(f"{np.median(one):.0f}" for one in (before, after))
        rows.append(f"| {view} | {middles} | {np.median(moved):.2f} mm | {moved.max():.2f} mm |")
    text = OUT.read_text("utf-8")
    head, tail = text.split(BEGIN)[0], text.split(END)[1]
    OUT.write_text(head + BEGIN + "\n" + "\n".join(rows) + "\n" + END + tail, "utf-8")
    print("\n".join(rows))


if __name__ == "__main__":
    main()
