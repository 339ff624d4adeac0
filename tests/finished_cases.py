"""Heads that are planned and about to be cut: what finished photos and combs are held against."""

from __future__ import annotations

from functools import cache

import numpy as np

from dapwick.core.outlines.families import FAMILIES
from dapwick.core.outlines.fit import Outline
from dapwick.core.solve.joint import HeadSolution, solve_head
from dapwick.demo.dogs import ALL_SEVEN, truth
from dapwick.pipeline.head_model import model_of
from dapwick.pipeline.plan import drawn_on, fit_on
from demo_heads import demo_head_file


@cache
def planned(key: str) -> Outline:
    """A round on a dog of whom seven photos were taken, wet ones among them."""
    file, known = demo_head_file(key, ALL_SEVEN), {p["file"]: p for p in truth(key)["photos"]}
    head = solve_head(file.head_input())
    assert isinstance(head, HeadSolution)
    lines = {p.name: np.array(known[p.name]["edge_px"], dtype=float) for p in head.photos}
    dry, wet = ({n: line for n, line in lines.items() if state in n} for state in ("dry", "wet"))
    return drawn_on(fit_on(model_of(head, file.dog.coat, dry, (), wet=wet), FAMILIES["round"]), {})
