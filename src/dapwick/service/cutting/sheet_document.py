"""A cut sheet as an open document: what paper, table mode, command line and records share."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any, Final

import numpy as np

from dapwick.core.basics.arrays import Array
from dapwick.core.cut.alone import alone_words
from dapwick.core.cut.sheet import CutSheet, Step
from dapwick.pipeline.cut_steps import Drawn

FORMAT: Final = "dapwick-cutsheet"
PLACES: Final = 2


def sheet_document(sheet: CutSheet, dog: str, finish: str) -> dict[str, Any]:
    """The sheet without its drawings; numbers to a hundredth."""
    stylist = sheet.case.stylist
    return {
        "format": FORMAT,
        "version": sheet.version,
        "dog": dog,
        "family": sheet.case.family,
        "outline": sheet.case.family_name,
        "finish": finish,
        "schools": dict(sheet.case.schools),
        "stylist": {"name": stylist.name, "hand": stylist.hand, "first_side": stylist.first_side},
        "traits": list(sheet.case.traits),
        "minutes": round(sheet.minutes, PLACES),
        "tools": list(sheet.tools),
        "before_time": sheet.before_time,
        "rests_on": sheet.rests_on,
        "left_alone": list(alone_words(sheet.alone, sheet.case)),
        "alone": [_rounded(asdict(one)) for one in sheet.alone],
        "steps": [step_document(step) for step in sheet.steps],
    }


def step_document(step: Step) -> dict[str, Any]:
    found: dict[str, Any] = _rounded(asdict(step))
    for cut in found["cuts"]:
        for end in (cut["run"] or {}).values():
            end.pop("at_mm")
    found.pop("path")
    found.pop("toward")
    return found


def drawn_document(document: dict[str, Any], drawings: Drawn) -> dict[str, Any]:
    """The same with each step's view and line, and the small heads."""
    steps = [
        step
        | {
            "view": drawings.views[step["id"]],
            "line": _line(drawings.lines[step["id"]]),
            "lengths": [
                {"at": [round(x, 1), round(y, 1)], "mm": round(mm, PLACES)}
                for x, y, mm in drawings.lengths[step["id"]]
            ],
        }
        for step in document["steps"]
    ]
    heads = {
        view: {
            "skin": _line(head.skin),
            "coat": _line(head.coat),
            "outline": _line(head.outline),
            "marks": {mark: [round(x, 1), round(y, 1)] for mark, (x, y) in head.marks.items()},
        }
        for view, head in drawings.heads.items()
    }
    return document | {
        "steps": steps,
        "heads": heads,
        "patches": {key: _line(line) for key, line in drawings.patches.items()},
    }


def _line(points: Array) -> list[list[float]]:
    found: list[list[float]] = np.round(points, 1).tolist()
    return found


def _rounded(value: Any) -> Any:
    if isinstance(value, float):
        return round(value, PLACES)
    if isinstance(value, dict):
        return {k: _rounded(v) for k, v in value.items()}
    if isinstance(value, (list, tuple)):
        return [_rounded(v) for v in value]
    return value
