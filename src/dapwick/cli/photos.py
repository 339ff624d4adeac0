"""`look`: what the machine sees in photos."""

from __future__ import annotations

import json
import time
from pathlib import Path
from typing import Annotated, Any, cast, get_args

import numpy as np
import typer
from rich.console import Console
from rich.table import Table

from dapwick.cli.common import JsonFlag, app, or_exit
from dapwick.core.basics.errors import BadInput
from dapwick.core.basics.marks import INDEX, View
from dapwick.pipeline.look import look_at

Places = dict[str, tuple[float, float]]


@app.command()
def look(
    photos: Annotated[list[Path], typer.Argument(help="Photos of a dog's head.")],
    view: Annotated[str | None, typer.Option(help="Where they were taken from, if that is known.")] = None,
    marks: Annotated[Path | None, typer.Option(help="Known marks to look around: {id: [x, y]}.")] = None,
    as_json: JsonFlag = False,
) -> None:
    """Look at photos: view, state, first marks, the coat's edge, and what a person would be asked."""

    def work() -> None:
        told, known = view_named(view), marks_in(marks) if marks else {}
        for path in photos:
            seen = looked_at(path, told, known)
            if as_json:
                print(json.dumps(seen))
            else:
                _table(seen)

    or_exit(work)


def view_named(view: str | None) -> View | None:
    if view is not None and view not in get_args(View):
        raise BadInput("view", expected=" or ".join(get_args(View)), got=view)
    return cast("View | None", view)


def marks_in(path: Path) -> Places:
    """Known marks of a file `{id: [x, y]}`, px of the photo."""
    try:
        given = json.loads(path.read_text("utf-8"))
        return {str(mark): (float(x), float(y)) for mark, (x, y) in given.items() if _known(mark, path)}
    except (
        OSError,
        UnicodeDecodeError,
        json.JSONDecodeError,
        AttributeError,
        TypeError,
        ValueError,
    ) as error:
        raise BadInput(
            "marks", expected="a file {mark: [x, y]}", got=str(error)[:120], where=str(path)
        ) from error


def _known(mark: str, path: Path) -> bool:
    if mark not in INDEX:
        raise BadInput("mark", expected="one of the marks' ids", got=str(mark)[:60], where=str(path))
    return True


def looked_at(path: Path, view: View | None, known: Places) -> dict[str, Any]:
    """The document `dapwick look --json` prints for one photo (see docs/formats.md)."""
    try:
        data = path.read_bytes()
    except OSError as error:
        raise BadInput(
            "photo", expected="a file that can be read", got=error.strerror or "", where=str(path)
        ) from error
    began = time.monotonic()
    made = look_at(data, path.name, view, known)
    place, seen = made.place, made.review
    guessed = seen.guess.marks if seen.guess else {}
    return {
        "file": path.name,
        "head_found": seen.guess is not None,
        "view": {"id": place.view, "chance": round(place.view_chance, 3)},
        "state": {"id": place.state, "chance": round(place.state_chance, 3)},
        "asks": list(place.asks),
        "marks": {
            m: {"at": [round(a.x_px, 1), round(a.y_px, 1)], "sigma_px": round(a.sigma_px, 2)}
            for m, a in guessed.items()
        },
        "edge": None if seen.edge is None else np.round(seen.edge, 1).tolist(),
        "findings": [{"code": f.code, "message": f.message} for f in seen.findings],
        "seconds": round(time.monotonic() - began, 2),
    }


def _table(seen: dict[str, Any]) -> None:
    table = Table(title=seen["file"], show_header=False)
    table.add_row("head", "found" if seen["head_found"] else "not found")
    for what in ("view", "state"):
        asked = "  (would ask)" if what in seen["asks"] else ""
        table.add_row(what, f"{seen[what]['id'] or '–'}, {seen[what]['chance']:.0%}{asked}")
    table.add_row("marks", ", ".join(seen["marks"]) or "–")
    table.add_row("edge", f"{len(seen['edge'])} points" if seen["edge"] else "–")
    for finding in seen["findings"]:
        table.add_row(finding["code"], finding["message"])
    Console().print(table)
