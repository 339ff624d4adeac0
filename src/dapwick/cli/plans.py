"""`plan` and `outlines`: one outline on a head, or all of them, best first."""

from __future__ import annotations

import json
from collections.abc import Sequence
from pathlib import Path
from typing import Annotated, Any

import typer
from rich.console import Console
from rich.table import Table

from dapwick.cli.common import (
    AsBodyOption,
    BodyOption,
    JsonFlag,
    LengthsOption,
    app,
    numbers_of,
    or_exit,
    pairs_of,
    rounded,
    with_said,
)
from dapwick.cli.heads import model_from, sources_of
from dapwick.core.basics.codes import code_words
from dapwick.core.basics.errors import BadInput
from dapwick.core.head.zones import zone_words
from dapwick.core.outlines.families import FAMILIES, family
from dapwick.core.outlines.family import Family, settle_schools
from dapwick.core.outlines.variant import read_variant
from dapwick.documents.head_file import HeadFile, read_head_file
from dapwick.exports.owner_page import owner_page, planned
from dapwick.exports.surface_file import surface_file
from dapwick.pipeline.cut_photo import before_and_after
from dapwick.pipeline.head_model import HeadModel
from dapwick.pipeline.plan import Plan, Thumb, drawn_on, fit_on, plan_on, thumb_on
from dapwick.pipeline.surfaces import PLACES, Surface, What, coat_surface, finished_surface, skin_surface


@app.command()
def plan(
    head: Annotated[Path, typer.Argument(help="A head file.")],
    outline: Annotated[str, typer.Option(help="The outline's family.")] = "round",
    param: Annotated[list[str] | None, typer.Option(help="KEY=VALUE, more than once.")] = None,
    school: Annotated[list[str] | None, typer.Option(help="KEY=VALUE, more than once.")] = None,
    length: LengthsOption = None,
    body: BodyOption = None,
    as_body: AsBodyOption = None,
    as_json: JsonFlag = False,
) -> None:
    """Plan an outline: fit, verdict, lengths by zone, contours."""

    def work() -> None:
        file = read_head_file(head)
        wanted = chosen(outline)
        params, schools = numbers_of(pairs_of(param or [])), pairs_of(school or [])
        wanted.checked(params)
        settle_schools(wanted, schools)
        wishes = with_said(file.owner_wishes(), length, body, as_body)
        fitted = fit_on(model_from(file, head.parent), wanted, schools, wishes)
        made = plan_on(fitted, params)
        if as_json:
            print(json.dumps(plan_json(made)))
        else:
            _plan_table(head, made)

    or_exit(work)


@app.command()
def surface(
    head: Annotated[Path, typer.Argument(help="A head file.")],
    what: Annotated[What, typer.Option(help="skin, coat or finished.")],
    to: Annotated[Path, typer.Option(help="A file ending in .ply, .stl or .glb.")],
    outline: Annotated[str, typer.Option(help="The finished head's family.")] = "round",
) -> None:
    """Write a surface in the head frame, mm; PLY carries each vertex's zone and how well it is known."""

    def work() -> None:
        file = read_head_file(head)
        made = _surface(model_from(file, head.parent), file, what, outline)
        told = surface_file(made.vertices_mm, made.faces, made.sigma_mm, made.zone, PLACES, to.suffix.lower())
        to.write_bytes(told)
        print(f"{to}: {len(made.vertices_mm)} vertices, {len(made.faces)} faces")

    or_exit(work)


@app.command()
def picture(
    head: Annotated[Path, typer.Argument(help="A head file.")],
    to: Annotated[Path, typer.Option(help="A file ending in .png.")],
    outline: Annotated[str, typer.Option(help="The outline's family.")] = "round",
    weeks: Annotated[int, typer.Option(help="Weeks after the cut.", min=0, max=52)] = 0,
) -> None:
    """Write the owner's picture: each dry photo from the front and the side, before and after the cut."""

    def work() -> None:
        file = read_head_file(head)
        if to.suffix.lower() != ".png":
            raise BadInput("picture file", expected=".png", got=to.suffix or "no ending", where="--to")
        model = model_from(file, head.parent)
        made = plan_on(fit_on(model, chosen(outline), wishes=file.owner_wishes()), {}, weeks)
        photos = {one.name: one.read for one in sources_of(file, head.parent) if one.read}
        pairs = before_and_after(model, made.outline, weeks, photos)
        if not pairs:
            raise BadInput(
                "photos", expected="a dry one from the front or the side beside the head file", got="none"
            )
        to.write_bytes(owner_page(file.dog.name, made.verdict.called, pairs, planned(weeks)))
        print(f"{to}: {len(pairs)} {'view' if len(pairs) == 1 else 'views'}")

    or_exit(work)


def _surface(model: HeadModel, file: HeadFile, what: What, outline: str) -> Surface:
    if what == "finished":
        fitted = fit_on(model, chosen(outline), wishes=file.owner_wishes())
        return finished_surface(drawn_on(fitted, {}))
    return coat_surface(model.ground) if what == "coat" else skin_surface(model.ground)


@app.command()
def outlines(
    head: Annotated[Path, typer.Argument(help="A head file.")],
    as_json: JsonFlag = False,
) -> None:
    """Fit every outline on a head and its coat, best first."""

    def work() -> None:
        file = read_head_file(head)
        model = model_from(file, head.parent)
        fits = [fit_on(model, one, wishes=file.owner_wishes()) for one in FAMILIES.values()]
        made = sorted((thumb_on(fit) for fit in fits), key=lambda plan: plan.verdict.rank)
        if as_json:
            print(json.dumps([_ranked_json(plan) for plan in made]))
        else:
            _ranked_table(head, made)

    or_exit(work)


def _ranked_json(plan: Thumb) -> dict[str, Any]:
    return {
        "family": plan.outline.family.id,
        "verdict": plan.verdict.when,
        "called": plan.verdict.called,
        "broken": list(plan.verdict.broken),
        "weeks": plan.verdict.weeks,
        "reasons": list(plan.verdict.reasons),
        "comb_first": list(plan.verdict.comb_first),
        "params": {k: round(v, 3) for k, v in plan.outline.params.items()},
        "wishes": [vars(w) for w in plan.verdict.wishes],
    }


def _ranked_table(path: Path, made: Sequence[Thumb]) -> None:
    table = Table("outline", "when", "why", title=path.name)
    for plan in made:
        table.add_row(plan.outline.family.name, _when(plan), "\n".join(plan.verdict.reasons))
    Console().print(table)


def _when(plan: Plan | Thumb) -> str:
    verdict = plan.verdict
    if verdict.when == "today" and verdict.comb_first:
        return "comb first"
    return f"in {verdict.weeks} weeks" if verdict.when == "later" else code_words(verdict.when)


def chosen(key: str) -> Family:
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


def plan_json(made: Plan) -> dict[str, Any]:
    """The document `dapwick plan --json` prints (see docs/formats.md)."""
    o = made.outline
    zones = [{k: round(v, 2) if isinstance(v, float) else v for k, v in vars(z).items()} for z in made.zones]
    contours = {
        p.photo: {
            "skin": rounded(p.skin, 1),
            "coat": rounded(p.coat, 1),
            "outline": rounded(p.outline, 1),
            "shortage": rounded(p.shortage, 1),
        }
        for p in made.photos
    }
    sheet = {
        view: {name: rounded(line, 1) for name, line in lines.items()} for view, lines in made.sheet.items()
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
        "called": made.verdict.called,
        "broken": list(made.verdict.broken),
        "weeks": made.verdict.weeks,
        "reasons": list(made.verdict.reasons),
        "comb_first": list(made.verdict.comb_first),
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
        title=f"{path.name}: {made.verdict.called}",
    )
    for z in made.zones:
        table.add_row(
            zone_words(z.zone),
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
