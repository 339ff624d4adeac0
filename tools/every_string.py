"""Every sentence that Dapwick says on a screen or in a message, one a line with the file it stands in: to be read aloud
by someone who has never seen the product. Python's from here; the screens' by `node web/tools/every-string.mjs`."""

from __future__ import annotations

import ast
import re
from collections.abc import Iterator
from pathlib import Path

SOURCES = Path(__file__).parent.parent / "src" / "dapwick"
SPOKEN = re.compile(r"[A-Za-z]{2,}.* ")


def texts(tree: ast.AST) -> Iterator[str]:
    """Strings of more than one word that are neither docstrings nor patterns; what is filled in stands as …"""
    silent = {id(node.value) for node in ast.walk(tree) if isinstance(node, ast.Expr)}
    parts = {id(part) for node in ast.walk(tree) if isinstance(node, ast.JoinedStr) for part in node.values}
    for node in ast.walk(tree):
        if id(node) in silent or id(node) in parts:
            continue
        if isinstance(node, ast.Constant) and isinstance(node.value, str):
            yield node.value
        elif isinstance(node, ast.JoinedStr):
            yield "".join(str(p.value) if isinstance(p, ast.Constant) else "…" for p in node.values)


def main() -> None:
    seen: set[str] = set()
    for file in sorted(SOURCES.rglob("*.py")):
        if "migrations" in file.parts:
            continue
        for text in texts(ast.parse(file.read_text("utf-8"))):
            line = " ".join(text.split())
            if SPOKEN.match(line) and line not in seen:
                seen.add(line)
                print(f"{file.relative_to(SOURCES)}: {line}")


if __name__ == "__main__":
    main()
