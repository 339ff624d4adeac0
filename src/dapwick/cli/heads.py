"""`measure`: a head from its marks; and a head file studied for what comes after."""

from __future__ import annotations

import json
from collections.abc import Sequence
from pathlib import Path
from typing import Annotated, Any

import typer
from rich.console import Console
from rich.table import Table

from dapwick.cli.common import JsonFlag, app, or_exit, rounded
from dapwick.core.basics.marks import MARK_IDS
from dapwick.core.measures.bands import proportions
from dapwick.core.measures.measure import Measure, measures_of
from dapwick.core.measures.unevenness import Unevenness, telling, unevenness_of
from dapwick.core.plan.next_best import Next, words_of
from dapwick.core.solve.joint import HeadSolution, Unsolved
from dapwick.documents.head_file import HeadFile, PhotoEntry, photo_name, read_head_file
from dapwick.exports.measures_csv import measures_csv
from dapwick.pipeline.head_model import HeadModel, PhotoSource, head_model, photo_source, solved_head
from dapwick.pipeline.next_measurement import next_measurement

DIGITS = {"mm": (1, " mm"), "deg": (0, "°"), "ratio": (2, "")}


@app.command()
def measure(
    heads: Annotated[list[Path], typer.Argument(help="Head files.")],
    as_json: JsonFlag = False,
    ask_next: Annotated[bool, typer.Option("--next", help="What to measure next, best first.")] = False,
    as_csv: Annotated[bool, typer.Option("--csv", help="The measures as a table for spreadsheets.")] = False,
) -> None:
    """Measure heads: marks in mm, measures with their uncertainty, cameras, findings."""

    def work() -> None:
        if as_csv:
            found = ((path.name, solved_head(read_head_file(path).head_input())) for path in heads)
            print(measures_csv((name, _measures(head)) for name, head in found), end="")
            return
        for path in heads:
            file = read_head_file(path)
            head = solved_head(file.head_input())
            asked = _asked(file, path.parent, head) if ask_next else ()
            if as_json:
                print(json.dumps(measured_json(head) | ({"next": next_json(asked)} if ask_next else {})))
            else:
                _measure_table(path, head)
                for sentence in words_of(asked):
                    print(f"→ {sentence}")

    or_exit(work)


def _measures(head: HeadSolution | Unsolved) -> Sequence[Measure]:
    return measures_of(head) if isinstance(head, HeadSolution) else ()


def _asked(file: HeadFile, folder: Path, head: HeadSolution | Unsolved) -> tuple[Next, ...]:
    if isinstance(head, Unsolved):
        return ()
    there = {photo_name(p, i): (p.view, p.state) for i, p in enumerate(file.photos)}
    return next_measurement(head, file.dog.coat, sources_of(file, folder), file.probes(), there)


def next_json(asked: Sequence[Next]) -> list[dict[str, Any]]:
    return [
        {k: round(v, 2) if isinstance(v, float) else v for k, v in vars(n).items()} | {"sentence": words}
        for n, words in zip(asked, words_of(asked), strict=True)
    ]


def measured_json(head: HeadSolution | Unsolved) -> dict[str, Any]:
    """The document `dapwick measure --json` prints (see docs/formats.md)."""
    findings = [
        {"code": f.code, "message": f.message, "photo": f.photo, "mark": f.mark} for f in head.findings
    ]
    if isinstance(head, Unsolved):
        nothing: dict[str, Any] = {"points_mm": {}, "measures": [], "cameras": [], "findings": findings}
        return nothing | {"proportions": [], "unevenness": []}
    points = {
        m: {"at": rounded(at), "sigma": rounded(sigma)}
        for m, at, sigma in zip(MARK_IDS, head.points_mm, head.sigma_mm, strict=True)
    }
    found = measures_of(head)
    measures = [
        {
            "id": m.id,
            "value": round(m.value, 3),
            "unit": m.unit,
            "sigma": round(m.sigma, 3),
            "low": round(m.low, 3),
            "high": round(m.high, 3),
        }
        for m in found
    ]
    return {
        "points_mm": points,
        "measures": measures,
        "cameras": _cameras(head),
        "findings": findings,
        "proportions": [vars(p) for p in proportions(found)],
        "unevenness": [_unevenness_json(u) for u in unevenness_of(head)],
    }


def _unevenness_json(one: Unevenness) -> dict[str, Any]:
    rounded = {k: round(v, 2) if isinstance(v, float) else v for k, v in vars(one).items()}
    return rounded | {"verdict": one.verdict}


def _cameras(head: HeadSolution) -> list[dict[str, Any]]:
    found = []
    for camera, photo in zip(head.cameras, head.photos, strict=True):
        yaw, pitch, roll = camera.angles_deg(photo.view)
        found.append(
            {
                "file": photo.name,
                "distance_mm": round(camera.distance_mm, 1),
                "yaw_deg": round(yaw, 2),
                "pitch_deg": round(pitch, 2),
                "roll_deg": round(roll, 2),
                "focal_px": round(camera.focal_px, 1),
            }
        )
    return found


def _measure_table(path: Path, head: HeadSolution | Unsolved) -> None:
    console = Console()
    if isinstance(head, HeadSolution):
        table = Table("measure", "value", "± (95 %)", title=path.name)
        measures = measures_of(head)
        for m in measures:
            digits, unit = DIGITS[m.unit]
            table.add_row(m.words, f"{m.value:.{digits}f}{unit}", f"{(m.high - m.low) / 2:.{digits}f}")
        console.print(table)
        console.print(", ".join(p.words for p in proportions(measures)) + ".", highlight=False)
        for one in telling(unevenness_of(head)):
            console.print(f"• uneven: {one.words} (±{1.96 * one.sigma:.0f})", highlight=False)
    for finding in head.findings:
        console.print(f"• {finding.message}", highlight=False)


def model_from(file: HeadFile, folder: Path) -> HeadModel:
    """The head of a head file, with the edges that it lacks traced from the photos beside it."""
    return head_model(file.head_input(), file.dog.coat, sources_of(file, folder), file.probes())


def sources_of(file: HeadFile, folder: Path) -> list[PhotoSource]:
    """The edges in the file, and the photos beside it."""
    return [_source(photo, photo_name(photo, i), folder) for i, photo in enumerate(file.photos)]


def _source(photo: PhotoEntry, name: str, folder: Path) -> PhotoSource:
    edge = photo.skin_edge if photo.state == "wet" else photo.coat_edge
    path = folder / photo.file if photo.file else None
    data = path.read_bytes if path and path.is_file() else None
    return photo_source(name, photo.state, edge, data, neck=photo.neck)
