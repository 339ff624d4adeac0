"""Write the golden answers of the core anew: tests/core/golden/*.json. Run it where a change of numbers is meant, and
read what changed (`git diff --stat`) before it is kept. --edges traces the edges that they start from anew too."""

from __future__ import annotations

import json
import sys
from pathlib import Path

import numpy as np

TESTS = Path(__file__).parent.parent / "tests"
sys.path.append(str(TESTS))

import core_cases  # noqa: E402
from dapwick.core.solve.joint import HeadSolution, solve_head  # noqa: E402
from dapwick.demo.dogs import photo_bytes  # noqa: E402
from dapwick.pipeline.head_model import traced_edge  # noqa: E402
from dapwick.vision.edge import NoEdge  # noqa: E402
from dapwick.vision.photo import read_photo  # noqa: E402
from demo_heads import demo_head_file  # noqa: E402


def edges(key: str) -> dict[str, list[list[float]]]:
    head = solve_head(demo_head_file(key).head_input())
    assert isinstance(head, HeadSolution)
    found = {}
    for photo in head.photos:
        line = traced_edge(head, photo, read_photo(photo_bytes(photo.name), photo.name).rgb)
        assert not isinstance(line, NoEdge)
        found[photo.name] = np.round(line, 1).tolist()
    return found


def main() -> None:
    if "--edges" in sys.argv:
        core_cases.EDGES.write_text(json.dumps({key: edges(key) for key in ("fogbell", "bobbin")}) + "\n")
    folder = TESTS / "core" / "golden"
    folder.mkdir(exist_ok=True)
    for room, made in core_cases.ROOMS.items():
        (folder / f"{room}.json").write_text(
            json.dumps(made(), indent=0, separators=(",", ":")) + "\n", "utf-8"
        )
        print(room)


if __name__ == "__main__":
    main()
