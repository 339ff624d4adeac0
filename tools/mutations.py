"""Small faults put into the core one at a time: does a test notice? Writes docs/tests.md.

`map` learns which tests run each line of the core; `run` makes a random sample of faults, each tried by the tests that
run its line, quickest first; `report` writes what was caught. Numbers that tune (module constants) are left alone: they
are held by the accuracy scripts, not by tests. Needs `pip install coverage`.
"""

from __future__ import annotations

import argparse
import ast
import importlib
import json
import os
import random
import shutil
import sys
import time
import traceback
from collections.abc import Iterator
from dataclasses import asdict, dataclass
from itertools import accumulate
from pathlib import Path
from typing import Any

import pytest

ROOT = Path(__file__).parent.parent
CORE = ROOT / "src" / "dapwick" / "core"
WORK = ROOT / "build" / "mutations"
PAGE = ROOT / "docs" / "tests.md"
TESTS = ("tests/core", "tests/pipeline", "tests/documents", "tests/exports", "tests/demo")
SHARED = ("fogbell", "bobbin", "solved", "sim")
"""Fixtures made once for many tests."""
NO_ANSWER = 70
NOTICED = (1, 2, 4)
"""How pytest ends where a test fails, or the product does not even start."""
GOLDEN = "test_golden.py"
TRIED_BY = 24
SLOWEST_S = 90.0
REST_S = 60.0
"""What passes the first tests is put to more of those that run its line, as many as take so long."""
NEAR_ZERO = 1e-6
"""Numbers below it only keep a division from failing, and are left alone, as `strict=True` is."""
SWAPPED_OPERATORS = {
    ast.Add: ast.Sub,
    ast.Sub: ast.Add,
    ast.Mult: ast.Div,
    ast.Div: ast.Mult,
    ast.Pow: ast.Mult,
    ast.FloorDiv: ast.Div,
}
SWAPPED_COMPARISONS = {
    ast.Lt: ast.GtE,
    ast.LtE: ast.Gt,
    ast.Gt: ast.LtE,
    ast.GtE: ast.Lt,
    ast.Eq: ast.NotEq,
    ast.NotEq: ast.Eq,
    ast.In: ast.NotIn,
    ast.NotIn: ast.In,
}
SWAPPED_NAMES = {
    "min": "max",
    "max": "min",
    "minimum": "maximum",
    "maximum": "minimum",
    "any": "all",
    "all": "any",
}


@dataclass(frozen=True)
class Fault:
    """One fault: the nth place of a file where something can be changed, its line, and what it changes."""

    file: str
    nth: int
    line: int
    what: str


@dataclass(frozen=True)
class Tried:
    """A fault and how it ended: caught, survived, slow (the tests did not end), or not run by any test."""

    fault: Fault
    end: str
    seconds: float
    by: str


class Changer(ast.NodeTransformer):
    """Walks the bodies of functions and changes the nth place that can be changed; counts them all where nth is -1."""

    def __init__(self, nth: int = -1) -> None:
        self.nth, self.places, self._depth = nth, list[tuple[int, str]](), 0

    def _due(self, node: ast.expr | ast.stmt, what: str) -> bool:
        if not self._depth:
            return False
        self.places.append((node.lineno, what))
        return len(self.places) - 1 == self.nth

    def visit_FunctionDef(self, node: ast.FunctionDef) -> ast.AST:
        self._depth += 1
        node.body = [self.visit(statement) for statement in node.body]
        self._depth -= 1
        return node

    def visit_AnnAssign(self, node: ast.AnnAssign) -> ast.AST:
        if node.value:
            node.value = self.visit(node.value)
        return node

    def visit_BinOp(self, node: ast.BinOp) -> ast.AST:
        self.generic_visit(node)
        other = SWAPPED_OPERATORS.get(type(node.op))
        text = any(isinstance(side, ast.JoinedStr) or _is_text(side) for side in (node.left, node.right))
        if other and not text and self._due(node, f"{type(node.op).__name__} → {other.__name__}"):
            node.op = other()
        return node

    def visit_Compare(self, node: ast.Compare) -> ast.AST:
        self.generic_visit(node)
        other = SWAPPED_COMPARISONS.get(type(node.ops[0]))
        if other and self._due(node, f"{type(node.ops[0]).__name__} → {other.__name__}"):
            node.ops[0] = other()
        return node

    def visit_BoolOp(self, node: ast.BoolOp) -> ast.AST:
        self.generic_visit(node)
        if self._due(node, "and ↔ or"):
            node.op = ast.And() if isinstance(node.op, ast.Or) else ast.Or()
        return node

    def visit_UnaryOp(self, node: ast.UnaryOp) -> ast.AST:
        self.generic_visit(node)
        return node.operand if self._due(node, f"{type(node.op).__name__} dropped") else node

    def visit_Constant(self, node: ast.Constant) -> ast.AST:
        value = node.value
        if isinstance(value, bool):
            return ast.Constant(not value) if self._due(node, f"{value} → {not value}") else node
        if isinstance(value, float) and (value == 0 or abs(value) > NEAR_ZERO):
            other = value * 1.5 if value else 1.0
            return ast.Constant(other) if self._due(node, f"{value:g} → {other:g}") else node
        return node

    def visit_keyword(self, node: ast.keyword) -> ast.AST:
        return node if node.arg == "strict" else self.generic_visit(node)

    def visit_Call(self, node: ast.Call) -> ast.AST:
        self.generic_visit(node)
        if isinstance(node.func, ast.Name) and node.func.id in SWAPPED_NAMES:
            if self._due(node, f"{node.func.id} → {SWAPPED_NAMES[node.func.id]}"):
                node.func.id = SWAPPED_NAMES[node.func.id]
            return node
        attribute = node.func if isinstance(node.func, ast.Attribute) else None
        other = SWAPPED_NAMES.get(attribute.attr) if attribute else None
        if attribute and other and self._due(node, f"{attribute.attr} → {other}"):
            attribute.attr = other
        return node


def _is_text(node: ast.expr) -> bool:
    return isinstance(node, ast.Constant) and isinstance(node.value, str)


def faults() -> Iterator[Fault]:
    for file in sorted(CORE.rglob("*.py")):
        changer = Changer()
        changer.visit(ast.parse(file.read_text("utf-8")))
        for nth, (line, what) in enumerate(changer.places):
            yield Fault(str(file.relative_to(ROOT)), nth, line, what)


def name_of(node: str) -> str:
    """A test's name, for all its cases together; golden answers room by room."""
    return node if GOLDEN in node else node.split("[")[0]


def forget() -> None:
    """Empty the core's caches: what is worked out once for all tests would count as run by the first of them only."""
    for name, module in list(sys.modules.items()):
        if name.startswith("dapwick.core"):
            for value in vars(module).values():
                if hasattr(value, "cache_clear"):
                    value.cache_clear()


class ByTest:
    """Tells coverage which test is at work, fixtures apart, and keeps which fixtures each test uses."""

    def __init__(self, covered: Any) -> None:
        self.covered, self.uses, self.took = covered, dict[str, list[str]](), dict[str, float]()

    def _at(self, item: Any, phase: str) -> None:
        self.covered.switch_context(f"{name_of(item.nodeid)}|{phase}")

    def pytest_runtest_setup(self, item: Any) -> None:
        self.uses[name_of(item.nodeid)] = [name for name in item.fixturenames if name in SHARED]
        self._at(item, "setup")

    def pytest_runtest_call(self, item: Any) -> None:
        forget()
        self._at(item, "call")

    def pytest_runtest_logreport(self, report: Any) -> None:
        name = name_of(report.nodeid)
        self.took[name] = self.took.get(name, 0.0) + report.duration


def learn() -> None:
    """Run the tests once with coverage by test, and keep which tests run each line and how long each takes."""
    import coverage

    WORK.mkdir(parents=True, exist_ok=True)
    covered = coverage.Coverage(data_file=None, source=[str(CORE)])
    covered.start()
    watch = ByTest(covered)
    pytest.main([*TESTS, "-q", "-p", "no:cacheprovider"], plugins=[watch])
    covered.stop()
    found, lines = covered.get_data(), dict[str, dict[str, list[str]]]()
    of_fixture = {f: sorted(t for t, used in watch.uses.items() if f in used) for f in SHARED}
    for file in found.measured_files():
        by_line = lines[str(Path(file).relative_to(ROOT))] = {}
        for line, contexts in found.contexts_by_lineno(file).items():
            tests = {context.split("|")[0] for context in contexts if context.endswith("|call")}
            # What a shared fixture runs, every test that uses it may notice.
            for context in (c for c in contexts if c.endswith("|setup")):
                for fixture in watch.uses.get(context.split("|")[0], []):
                    tests |= set(of_fixture[fixture])
            by_line[str(line)] = sorted(tests)
    (WORK / "lines.json").write_text(json.dumps({"lines": lines, "took": watch.took}))


def tests_of(fault: Fault, known: dict[str, Any]) -> list[str]:
    """The tests that run a fault's line: the quickest ones, those that run little else, and golden answers."""
    took, size = known["took"], known["size"]
    tests = known["lines"].get(fault.file, {}).get(str(fault.line), [])
    quick = sorted(tests, key=lambda test: took.get(test, 1.0))[: TRIED_BY // 2]
    narrow = sorted(set(tests) - set(quick), key=lambda test: size.get(test, 0))[: TRIED_BY // 2]
    golden = [test for test in tests if GOLDEN in test]
    return sorted({*quick, *narrow, *golden}, key=lambda test: took.get(test, 1.0))


def rest_of(fault: Fault, known: dict[str, Any]) -> list[str]:
    """Of the other tests that run a fault's line the quickest, as many as end within REST_S."""
    took, first = known["took"], set(tests_of(fault, known))
    tests = known["lines"].get(fault.file, {}).get(str(fault.line), [])
    others = sorted(set(tests) - first, key=lambda test: took.get(test, 1.0))
    ends = list(accumulate(took.get(test, 1.0) for test in others))
    return [test for test, end in zip(others, ends, strict=True) if end <= REST_S]


def tried(fault: Fault, known: dict[str, Any], sources: Path) -> Tried:
    tests = tests_of(fault, known)
    if not tests:
        return Tried(fault, "not run", 0.0, "")
    original = (ROOT / fault.file).read_text("utf-8")
    tree = Changer(fault.nth).visit(ast.parse(original))
    place = sources / Path(fault.file).relative_to("src")
    place.write_text(ast.unparse(ast.fix_missing_locations(tree)), "utf-8")
    began = time.monotonic()
    try:
        end, by = forked(tests, sources, patience_for(tests, known))
        if end == "survived" and (rest := rest_of(fault, known)):
            end, by = forked(rest, sources, patience_for(rest, known))
    finally:
        place.write_text(original, "utf-8")
    return Tried(fault, end, time.monotonic() - began, by)


def patience_for(tests: list[str], known: dict[str, Any]) -> float:
    return 20.0 + 4.0 * min(sum(known["took"].get(test, 1.0) for test in tests), SLOWEST_S)


def forked(tests: list[str], sources: Path, patience_s: float) -> tuple[str, str]:
    """Run tests in a child that has all but the product loaded already."""
    told = WORK / f"told-{os.getpid()}.txt"
    child = os.fork()
    if not child:
        with told.open("w") as out:
            os.dup2(out.fileno(), 1)
            os.dup2(out.fileno(), 2)
            sys.path.insert(0, str(sources))
            code = NO_ANSWER
            try:
                code = int(pytest.main([*tests, "-x", "-q", "-p", "no:cacheprovider"]))
            except BaseException:
                traceback.print_exc()
            finally:
                sys.stdout.flush()
                sys.stderr.flush()
                os._exit(code)
    over = time.monotonic() + patience_s
    while time.monotonic() < over:
        ended, status = os.waitpid(child, os.WNOHANG)
        if ended:
            break
        time.sleep(0.05)
    else:
        os.kill(child, 9)
        os.waitpid(child, 0)
        return "slow", ""
    words = told.read_text("utf-8", "replace")
    by = next((line[:110] for line in words.splitlines() if line.startswith(("FAILED", "ERROR"))), "")
    code = os.waitstatus_to_exitcode(status)
    if code == 0:
        return "survived", ""
    return ("caught", by) if code in NOTICED else ("broken", words[-300:])


def run(count: int, seed: int, minutes: float) -> None:
    known = json.loads((WORK / "lines.json").read_text())
    size: dict[str, int] = {}
    for lines in known["lines"].values():
        for tests in lines.values():
            for test in tests:
                size[test] = size.get(test, 0) + 1
    known["size"] = size
    sources = WORK / f"src-{seed}"
    shutil.rmtree(sources, ignore_errors=True)
    shutil.copytree(ROOT / "src", sources, ignore=shutil.ignore_patterns("*.egg-info", "__pycache__"))
    sys.dont_write_bytecode = True
    for name in ("cv2", "pydantic", "scipy.optimize", "scipy.spatial", "PIL.Image"):
        importlib.import_module(name)
    # Without a fault the same tests must pass, or every fault would count as noticed.
    control = random.Random(seed).sample(sorted(size), 30)
    assert forked(control, sources, 600.0) == ("survived", ""), (
        WORK / f"told-{os.getpid()}.txt"
    ).read_text()[-2000:]
    chosen = random.Random(seed).sample(list(faults()), count)
    over = time.monotonic() + 60 * minutes
    with (WORK / f"tried-{seed}.jsonl").open("w") as out:
        for fault in chosen:
            if time.monotonic() > over:
                break
            out.write(json.dumps(asdict(tried(fault, known, sources))) + "\n")
            out.flush()


def report(seeds: list[int]) -> None:
    rows = [
        json.loads(line) for seed in seeds for line in (WORK / f"tried-{seed}.jsonl").read_text().splitlines()
    ]
    ends = {end: [r for r in rows if r["end"] == end] for end in ("caught", "slow", "survived", "not run")}
    noticed = len(ends["caught"]) + len(ends["slow"])
    every = len(list(faults()))
    folders = sorted({r["fault"]["file"].split("/")[3] for r in rows})
    page = [
        "# What the tests notice",
        "",
        f"A random sample of {len(rows)} of {every:,} small faults (a sign, a comparison, a number half as large",
        "again, least for most, and for or) in the functions of `src/dapwick/core`, one at a time, each tried by the",
        f"quickest and narrowest {TRIED_BY} tests that run its line, then by a minute of others. Made by",
        "`tools/mutations.py`; numbers that tune (module constants) are left alone, because the accuracy scripts hold",
        "them, and so are `strict=True` and guards below 1e-6, which change nothing that can be seen.",
        "",
        f"**Noticed: {noticed} of {len(rows)} ({noticed / len(rows):.0%})**, {len(ends['slow'])} of them because the",
        f"tests did not end; {len(ends['survived'])} survived, {len(ends['not run'])} lie on lines that no test of the",
        "core runs.",
        "",
        "| room | faults | noticed |",
        "|-|-|-|",
        *(_row(folder, rows) for folder in folders),
        "",
        "## Not noticed",
        "",
        "| where | what |",
        "|-|-|",
    ]
    missed = sorted(
        ends["survived"] + ends["not run"], key=lambda r: (r["fault"]["file"], r["fault"]["line"])
    )
    for row in missed:
        fault, unrun = row["fault"], ", not run" if row["end"] == "not run" else ""
        where = fault["file"].removeprefix("src/dapwick/")
        page.append(f"| `{where}` line {fault['line']} | {fault['what']}{unrun} |")
    PAGE.write_text("\n".join(page) + "\n", "utf-8")
    print("\n".join(page[:20]))


def _row(folder: str, rows: list[dict[str, Any]]) -> str:
    mine = [r for r in rows if r["fault"]["file"].split("/")[3] == folder]
    good = [r for r in mine if r["end"] in ("caught", "slow")]
    return f"| `core/{folder}` | {len(mine)} | {len(good) / len(mine):.0%} |"


def main() -> None:
    asked = argparse.ArgumentParser(description=__doc__)
    asked.add_argument("what", choices=["map", "run", "report"])
    asked.add_argument("--count", type=int, default=300)
    asked.add_argument("--seed", type=int, action="append")
    asked.add_argument("--minutes", type=float, default=60.0)
    given = asked.parse_args()
    seeds = given.seed or [1]
    if given.what == "map":
        learn()
    elif given.what == "run":
        run(given.count, seeds[0], given.minutes)
    else:
        report(seeds)


if __name__ == "__main__":
    main()
