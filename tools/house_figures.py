"""Figures of the house: how long files, bodies and folders are, and which modules a photo passes on its way to a
contour. Prints a table for docs/architecture.md."""

from __future__ import annotations

import ast
import statistics
import sys
import tempfile
import threading
from collections import Counter
from collections.abc import Iterator
from pathlib import Path
from types import FrameType
from typing import Any

from dapwick.cli.heads import model_from
from dapwick.core.outlines.families import FAMILIES
from dapwick.demo.dogs import PHOTOS
from dapwick.pipeline.plan import fit_on, plan_on
from dapwick.records import queries
from dapwick.records.store import SalonStore
from dapwick.service.photos.edges import review
from dapwick.service.plans.planner import Asked, Planner
from dapwick.service.salon.demo import fill_with_demo
from demo_heads import demo_head_file

SOURCES = Path(__file__).parent.parent / "src" / "dapwick"


def bodies(file: Path) -> Iterator[int]:
    """Lines of each function's body, docstring left out."""
    for node in ast.walk(ast.parse(file.read_text("utf-8"))):
        if isinstance(node, (ast.FunctionDef, ast.AsyncFunctionDef)):
            first = node.body[0]
            told = isinstance(first, ast.Expr) and isinstance(first.value, ast.Constant)
            inner = node.body[1:] if told else node.body
            if inner:
                yield (inner[-1].end_lineno or 0) - inner[0].lineno + 1


def static_figures() -> dict[str, str]:
    files = [f for f in SOURCES.rglob("*.py") if "migrations" not in f.parts and f.name != "__init__.py"]
    lengths = {f.relative_to(SOURCES): len(f.read_text("utf-8").splitlines()) for f in files}
    body = [n for f in files for n in bodies(f)]
    folders = Counter(str(f.parent) for f in lengths)
    longest, (folder, most) = max(lengths, key=lambda f: lengths[f]), folders.most_common(1)[0]
    service = [f for f in lengths if f.parts[0] == "service"]
    return {
        "modules in service": f"{len(service)} ({sum(lengths[f] for f in service):,} lines)",
        "file, lines: median, longest": f"{statistics.median(lengths.values()):g}, {lengths[longest]} ({longest})",
        "body, lines: median, longest": f"{statistics.median(body):g}, {max(body)}",
        "modules a folder: median, most": f"{statistics.median(folders.values()):g}, {most} ({folder})",
    }


class Passed:
    """Modules of Dapwick whose functions are entered while it watches."""

    def __init__(self) -> None:
        self.modules: set[str] = set()

    def __call__(self, frame: FrameType, event: str, arg: Any) -> None:
        name = frame.f_globals.get("__name__", "")
        if event == "call" and name.startswith("dapwick.") and frame.f_code.co_name != "<module>":
            self.modules.add(name.removeprefix("dapwick."))

    def __enter__(self) -> Passed:
        sys.setprofile(self)
        threading.setprofile(self)
        return self

    def __exit__(self, *error: object) -> None:
        sys.setprofile(None)
        threading.setprofile(None)


def passed_by_a_photo() -> set[str]:
    """From the bytes of Fogbell's two photos and its marks to a contour over them."""
    with tempfile.TemporaryDirectory() as folder:
        store = SalonStore(Path(folder) / "salon")
        planner = Planner(store)
        with Passed() as passed:
            fill_with_demo(store, ("fogbell",))
            with store.reading() as session:
                dog = queries.demo_dogs(session)[0]
                photos = [photo.id for photo in dog.visits[-1].photos]
            for photo in photos:
                review(store, photo, lambda words, share: None)
            assert planner.plan(dog.id, Asked("round")).plan.photos
        store.close()
    return passed.modules


def passed_by_a_head_file() -> set[str]:
    """The same for Fogbell's head file: no record, no screen."""
    with Passed() as passed:
        model = model_from(demo_head_file("fogbell"), PHOTOS)
        assert plan_on(fit_on(model, FAMILIES["round"]), {}).photos
    return passed.modules


def _told(modules: set[str]) -> str:
    core = {m for m in modules if m.startswith("core.")}
    return f"{len(modules)} ({len(core)} of the core, {len(modules - core)} beside)"


def main() -> None:
    ways = {"a photo in the salon": passed_by_a_photo(), "a head file": passed_by_a_head_file()}
    figures = static_figures() | {
        f"modules that {who} passes to its contour": _told(m) for who, m in ways.items()
    }
    for what, value in figures.items():
        print(f"| {what} | {value} |")
    if "--modules" in sys.argv:
        for who, modules in ways.items():
            print(who, *sorted(modules), sep="\n  ")


if __name__ == "__main__":
    main()
