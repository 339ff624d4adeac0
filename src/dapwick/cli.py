"""The `dapwick` command: the salon's server, and the core without the browser."""

from __future__ import annotations

import json
import sys
import time
from collections.abc import Callable, Sequence
from pathlib import Path
from typing import Annotated, Any

import numpy as np
import typer
from rich.console import Console
from rich.table import Table

from dapwick.core.arrays import Array
from dapwick.core.bands import proportions
from dapwick.core.errors import BadInput, DapwickError
from dapwick.core.marks import MARK_IDS
from dapwick.core.measures import measures_of
from dapwick.core.next_best import Next, words_of
from dapwick.core.outlines.families import FAMILIES, family
from dapwick.core.outlines.family import Family, settle_schools
from dapwick.core.outlines.variant import read_variant
from dapwick.core.solve import HeadSolution, Unsolved, solve_head
from dapwick.core.unevenness import Unevenness, telling, unevenness_of
from dapwick.demo.dogs import DEMO_DOGS, truth
from dapwick.devices.calliper import SimulatedCalliper, serve_lines, wedge_line
from dapwick.exports.scale_card import scale_card_pdf
from dapwick.service.asking import ask_of
from dapwick.service.headfile import HeadFile, photo_name, read_head_file
from dapwick.service.planning import Plan, fit_on, plan_on, thumb_on
from dapwick.service.study import Study, coat_edge_of, needs_coat, study_of
from dapwick.vision.edge import NoEdge
from dapwick.vision.photo import read_photo

app = typer.Typer(
    add_completion=False,
    no_args_is_help=True,
    pretty_exceptions_enable=False,
    help="Measures a dog's head from photos and plans its outline before scissoring.",
)
BAD_INPUT = 2
DIGITS = {"mm": (1, " mm"), "deg": (0, "°"), "ratio": (2, "")}
WEB = Path(__file__).parents[2] / "web" / "dist"
JsonFlag = Annotated[bool, typer.Option("--json", help="JSON instead of a table.")]


def _or_exit(work: Callable[[], None]) -> None:
    """Bad input ends with one line on standard error and exit code 2."""
    try:
        work()
    except DapwickError as error:
        print(f"dapwick: {error}", file=sys.stderr)
        raise typer.Exit(BAD_INPUT) from error


@app.command()
def measure(
    heads: Annotated[list[Path], typer.Argument(help="Head files.")],
    as_json: JsonFlag = False,
    ask_next: Annotated[bool, typer.Option("--next", help="What to measure next, best first.")] = False,
) -> None:
    """Measure heads: marks in mm, measures with their uncertainty, cameras, findings."""

    def work() -> None:
        for path in heads:
            file = read_head_file(path)
            head = solve_head(file.head_input())
            asked = _asked(file, path.parent, head) if ask_next else ()
            if as_json:
                print(json.dumps(measured_json(head) | ({"next": next_json(asked)} if ask_next else {})))
            else:
                _measure_table(path, head)
                for sentence in words_of(asked):
                    print(f"→ {sentence}")

    _or_exit(work)


def _asked(file: HeadFile, folder: Path, head: HeadSolution | Unsolved) -> tuple[Next, ...]:
    if isinstance(head, Unsolved):
        return ()
    (dry, _), (wet, _) = (_edges(file, folder, head, state) for state in ("dry", "wet"))
    there = {photo_name(p, i): (p.view, p.state) for i, p in enumerate(file.photos)}
    return ask_of(head, file.dog.coat, dry, wet, file.probes(), there)


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
        m: {"at": _rounded(at), "sigma": _rounded(sigma)}
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


def _rounded(values: Array, places: int = 2) -> list[Any]:
    rounded: list[Any] = np.round(values, places).tolist()
    return rounded


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


@app.command()
def plan(
    head: Annotated[Path, typer.Argument(help="A head file.")],
    outline: Annotated[str, typer.Option(help="The outline's family.")] = "round",
    param: Annotated[list[str] | None, typer.Option(help="KEY=VALUE, more than once.")] = None,
    school: Annotated[list[str] | None, typer.Option(help="KEY=VALUE, more than once.")] = None,
    as_json: JsonFlag = False,
) -> None:
    """Plan an outline: fit, verdict, lengths by zone, contours."""

    def work() -> None:
        file = read_head_file(head)
        chosen = _chosen(outline)
        params, schools = _numbers(_pairs(param or [])), _pairs(school or [])
        chosen.checked(params)
        settle_schools(chosen, schools)
        fitted = fit_on(studied(file, head.parent), chosen, schools, file.owner_wishes())
        made = plan_on(fitted, params)
        if as_json:
            print(json.dumps(plan_json(made)))
        else:
            _plan_table(head, made)

    _or_exit(work)


@app.command()
def outlines(
    head: Annotated[Path, typer.Argument(help="A head file.")],
    as_json: JsonFlag = False,
) -> None:
    """Fit every outline on a head and its coat, best first."""

    def work() -> None:
        file = read_head_file(head)
        study = studied(file, head.parent)
        fits = [fit_on(study, one, wishes=file.owner_wishes()) for one in FAMILIES.values()]
        made = sorted((thumb_on(fit) for fit in fits), key=lambda plan: plan.verdict.rank)
        if as_json:
            print(json.dumps([_ranked_json(plan) for plan in made]))
        else:
            _ranked_table(head, made)

    _or_exit(work)


def _ranked_json(plan: Plan) -> dict[str, Any]:
    return {
        "family": plan.outline.family.id,
        "verdict": plan.verdict.when,
        "weeks": plan.verdict.weeks,
        "reasons": list(plan.verdict.reasons),
        "params": {k: round(v, 3) for k, v in plan.outline.params.items()},
        "wishes": [vars(w) for w in plan.verdict.wishes],
    }


def _ranked_table(path: Path, made: Sequence[Plan]) -> None:
    table = Table("outline", "when", "why", title=path.name)
    for plan in made:
        table.add_row(plan.outline.family.name, _when(plan), "\n".join(plan.verdict.reasons))
    Console().print(table)


def _when(plan: Plan) -> str:
    verdict = plan.verdict
    return f"in {verdict.weeks} weeks" if verdict.when == "later" else verdict.when.replace("_", " ")


def _chosen(key: str) -> Family:
    """A family by its id, or a salon's own variant from its file."""
    if not key.endswith(".json"):
        return family(key)
    try:
        document = json.loads(Path(key).read_text("utf-8"))
    except (OSError, ValueError) as error:
        raise BadInput(
            "cannot read it", expected="an outline's file", got=str(error)[:80], where=key
        ) from error
    return read_variant(document).family(Path(key).stem)


def studied(file: HeadFile, folder: Path) -> Study:
    """Solve, trace the edges that the file lacks, find skin and coat."""
    head = solve_head(file.head_input())
    if isinstance(head, Unsolved):
        told = " ".join(f.message for f in head.findings) or "no photos"
        raise BadInput(
            "the head cannot be measured",
            expected="a photo with at least four marks",
            got=told,
            where="photos",
        )
    edges, notes = _edges(file, folder, head, "dry")
    wet, _ = _edges(file, folder, head, "wet")
    needs_coat(edges, file.probes())
    return study_of(head, file.dog.coat, edges, file.probes(), notes, wet)


def _edges(
    file: HeadFile, folder: Path, head: HeadSolution, state: str
) -> tuple[dict[str, Array], list[str]]:
    """Edges of the solved photos of a state: those in the file, else traced from the photo beside it."""
    edges: dict[str, Array] = {}
    notes = []
    for i, photo in enumerate(file.photos):
        name = photo_name(photo, i)
        solved = next((p for p in head.photos if p.name == name), None)
        given = photo.skin_edge if state == "wet" else photo.coat_edge
        if photo.state != state or solved is None:
            continue
        if given:
            edges[name] = np.array(given)
        elif photo.file and (folder / photo.file).is_file():
            traced = coat_edge_of(
                head, solved, read_photo((folder / photo.file).read_bytes(), photo.file).rgb
            )
            if isinstance(traced, NoEdge):
                notes.append(f"{name}: {traced.reason}")
            else:
                edges[name] = traced
    return edges, notes


def _pairs(options: Sequence[str]) -> dict[str, str]:
    for option in options:
        if "=" not in option:
            raise BadInput("option", expected="KEY=VALUE", got=option)
    return dict(option.split("=", 1) for option in options)  # type: ignore[misc]


def _numbers(pairs: dict[str, str]) -> dict[str, float]:
    try:
        return {key: float(value) for key, value in pairs.items()}
    except ValueError as error:
        raise BadInput("parameter", expected="a number", got=str(error)) from error


def plan_json(made: Plan) -> dict[str, Any]:
    """The document `dapwick plan --json` prints (see docs/formats.md)."""
    o = made.outline
    zones = [{k: round(v, 2) if isinstance(v, float) else v for k, v in vars(z).items()} for z in made.zones]
    contours = {
        p.photo: {
            "skin": _rounded(p.skin, 1),
            "coat": _rounded(p.coat, 1),
            "outline": _rounded(p.outline, 1),
            "shortage": _rounded(p.shortage, 1),
        }
        for p in made.photos
    }
    sheet = {
        view: {name: _rounded(line, 1) for name, line in lines.items()} for view, lines in made.sheet.items()
    }
    return {
        "family": o.family.id,
        "params": {k: round(v, 3) for k, v in o.params.items()},
        "schools": dict(o.schools),
        "fit": {
            "size_mm": round(o.size_mm, 2),
            "smallest_mm": round(o.sizes.smallest, 2),
            "fitted_mm": round(o.sizes.fitted, 2),
            "largest_mm": round(o.sizes.largest, 2),
        },
        "verdict": made.verdict.when,
        "weeks": made.verdict.weeks,
        "reasons": list(made.verdict.reasons),
        "effects": {e.id: {"now": round(e.now, 3), "after": round(e.after, 3)} for e in made.verdict.effects},
        "wishes": [vars(w) for w in made.verdict.wishes],
        "runs_out": made.runs_out,
        "zones": zones,
        "contours": {"photos_px": contours, "views_mm": sheet},
        "version": o.version,
    }


def _plan_table(path: Path, made: Plan) -> None:
    console = Console()
    table = Table(
        "zone",
        "side",
        "leave mm",
        "90 %",
        "off mm",
        "missing mm",
        "tool",
        title=f"{path.name}: {made.outline.family.name}",
    )
    for z in made.zones:
        table.add_row(
            z.zone.replace("_", " "),
            z.side,
            f"{z.leave_mm:.0f}",
            f"{z.low:.0f}–{z.high:.0f}",
            f"{z.remove_mm:.0f}",
            f"{z.shortage_mm:.0f}" if z.shortage_mm else "",
            z.tool,
        )
    console.print(table)
    console.print(_when(made))
    for reason in made.verdict.reasons:
        console.print(f"• {reason}", highlight=False)


devices = typer.Typer(no_args_is_help=True, help="Simulated stand-ins for outside devices.")
app.add_typer(devices, name="devices")


@devices.command()
def calliper(
    dog: Annotated[str, typer.Option(help="The demo dog it is put to.")] = "bobbin",
    seed: Annotated[int, typer.Option(help="Which hand: the same seed reads the same.")] = 0,
    listen: Annotated[int | None, typer.Option(help="Send readings over this TCP port instead.")] = None,
    every_s: Annotated[float, typer.Option(help="Seconds between readings.")] = 0.0,
) -> None:
    """A simulated digital calliper: types each reading's digits and Enter, as a keyboard wedge does.

    What is being measured goes to standard error, the digits alone to standard output.
    """

    def work() -> None:
        keys = [d.key for d in DEMO_DOGS]
        if dog not in keys:
            raise BadInput("unknown demo dog", expected=", ".join(keys), got=dog, where="--dog")
        simulated = SimulatedCalliper(truth(dog)["marks_mm"], seed)
        if listen is not None:
            with serve_lines(simulated, "127.0.0.1", listen) as server:
                print(f"calliper on 127.0.0.1:{server.server_address[1]}", file=sys.stderr, flush=True)
                server.serve_forever()
        for words, mm in simulated.readings():
            time.sleep(every_s)
            print(f"{words}:", file=sys.stderr, flush=True)
            print(wedge_line(mm), end="", flush=True)

    _or_exit(work)


@app.command()
def scale_card(
    to: Annotated[Path, typer.Option(help="Where the PDF goes.")] = Path("scale-card.pdf"),
    paper: Annotated[str, typer.Option(help="a4 or letter.")] = "a4",
) -> None:
    """Write the printable scale card; print it at 100 %."""
    _or_exit(lambda: print(f"{to}: {to.write_bytes(scale_card_pdf(paper))} bytes"))


@app.command()
def serve(
    salon: Annotated[Path, typer.Option(help="The salon's folder: records and photos.")] = Path("salon/own"),
    demo: Annotated[bool, typer.Option(help="Fill an empty salon with the demo dogs.")] = False,
    host: str = "127.0.0.1",
    port: int = 8350,
) -> None:
    """Start the salon's server and print its address."""
    import uvicorn

    from dapwick.api.app import make_app
    from dapwick.records.store import SalonStore
    from dapwick.service.demo import fill_with_demo

    if not (WEB / "index.html").is_file():
        print(
            "dapwick: the screens are not built (expected web/dist). Run `make build` first.", file=sys.stderr
        )
        raise typer.Exit(1)
    store = SalonStore(salon)
    if demo:
        fill_with_demo(store)
    print(f"Dapwick is open at http://{host}:{port}", flush=True)
    uvicorn.run(make_app(store, WEB), host=host, port=port, log_level="warning")


@app.command()
def openapi() -> None:
    """Print the API's OpenAPI document, from which the screens' types are made."""
    from dapwick.api.app import make_app

    print(json.dumps(make_app(None).openapi(), indent=1))


if __name__ == "__main__":
    app()
