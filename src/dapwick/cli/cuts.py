"""`cutsheet` and `template`: an outline as ordered steps, and at true scale on paper."""

from __future__ import annotations

import json
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
    with_said,
)
from dapwick.cli.heads import model_from
from dapwick.cli.plans import chosen
from dapwick.core.basics.errors import BadInput
from dapwick.core.cut.casework import case_of
from dapwick.core.cut.handling import checked_traits
from dapwick.core.cut.sheet import CutSheet, cut_sheet
from dapwick.core.outlines.family import settle_schools
from dapwick.core.outlines.wishes import Wishes
from dapwick.core.plan.kit import Stylist
from dapwick.documents.head_file import HeadFile, read_head_file
from dapwick.exports.cut_sheet import comb_words, cut_sheet_pdf, length_words, runs_words
from dapwick.exports.template import template_pdf, template_svg
from dapwick.pipeline.cut_steps import drawn
from dapwick.pipeline.plan import Plan, fit_on, plan_on
from dapwick.service.cutting.printing import templates_of
from dapwick.service.cutting.sheet_document import drawn_document, sheet_document

HeadArgument = Annotated[Path, typer.Argument(help="A head file.")]
OutlineOption = Annotated[str, typer.Option(help="The outline's family, or a salon's outline file.")]
PairsOption = Annotated[list[str] | None, typer.Option(help="KEY=VALUE, more than once.")]
PaperOption = Annotated[str, typer.Option(help="a4 or letter.")]


@app.command()
def cutsheet(
    head: HeadArgument,
    outline: OutlineOption = "round",
    hand: Annotated[str | None, typer.Option(help="left or right; else the head file's stylist.")] = None,
    minds: Annotated[
        list[str] | None, typer.Option(help="Handling, more than once; besides the file's.")
    ] = None,
    param: PairsOption = None,
    school: PairsOption = None,
    length: LengthsOption = None,
    body: BodyOption = None,
    as_body: AsBodyOption = None,
    pdf: Annotated[Path | None, typer.Option(help="Write the one-page sheet there as well.")] = None,
    paper: PaperOption = "a4",
    as_json: JsonFlag = False,
) -> None:
    """The cut as ordered steps: length, tool, direction, cautions, minutes."""

    def work() -> None:
        file = read_head_file(head)
        wishes = with_said(file.owner_wishes(), length, body, as_body)
        plan = _planned(file, head.parent, outline, param or [], school or [], wishes)
        sheet = _sheet(file, plan, hand, tuple(minds or ()))
        document = sheet_document(sheet, file.dog.name, plan.outline.family.finish)
        if pdf:
            drawings = drawn(plan.outline, sheet.steps)
            pdf.write_bytes(cut_sheet_pdf(drawn_document(document, drawings), paper))
        if as_json:
            print(json.dumps(document))
        else:
            _table(head, document)

    or_exit(work)


@app.command()
def template(
    head: HeadArgument,
    to: Annotated[Path, typer.Option(help="A .pdf with both views, or an .svg with one.")],
    outline: OutlineOption = "round",
    view: Annotated[str, typer.Option(help="front or left, for an SVG.")] = "front",
    param: PairsOption = None,
    school: PairsOption = None,
    paper: PaperOption = "a4",
) -> None:
    """Write the outline at true scale, with a line that must measure 100 mm."""

    def work() -> None:
        file = read_head_file(head)
        templates = templates_of(
            file.dog.name,
            _planned(file, head.parent, outline, param or [], school or [], file.owner_wishes()),
        )
        if to.suffix == ".svg":
            one = next((t for t in templates if t.view == view), None)
            if one is None:
                raise BadInput(
                    "view", expected=" or ".join(t.view for t in templates), got=view, where="--view"
                )
            size = to.write_text(template_svg(one), "utf-8")
        elif to.suffix == ".pdf":
            size = to.write_bytes(template_pdf(templates, paper))
        else:
            raise BadInput("kind of file", expected=".pdf or .svg", got=to.suffix or "none", where="--to")
        print(f"{to}: {size} bytes")

    or_exit(work)


def _planned(
    file: HeadFile, folder: Path, outline: str, params: list[str], schools: list[str], wishes: Wishes
) -> Plan:
    family = chosen(outline)
    numbers, said = numbers_of(pairs_of(params)), pairs_of(schools)
    family.checked(numbers)
    settle_schools(family, said)
    return plan_on(fit_on(model_from(file, folder), family, said, wishes), numbers)


def _sheet(file: HeadFile, plan: Plan, hand: str | None, minds: tuple[str, ...]) -> CutSheet:
    stylist = Stylist("Anybody", hand or file.stylist.hand)  # type: ignore[arg-type]
    traits = checked_traits((*file.handling, *minds))
    return cut_sheet(case_of(plan.outline, plan.zones, stylist, traits=traits, probes=file.probes()))


def _table(path: Path, document: dict[str, Any]) -> None:
    console = Console()
    hand = document["stylist"]["hand"]
    title = f"{path.name}: {document['outline']}, {hand}-handed, about {document['minutes']:.0f} min"
    table = Table("", "step", "leave mm", "tool", "way", "mind", title=title)
    for step in document["steps"]:
        mind = ", ".join(c["brief"] for c in step["cautions"] if c["full"])
        end = " [may end]" if step["may_end"] else ""
        number = length_words(step) or step["eye"]
        said = [step["title"] + end, *runs_words(step), *comb_words(step)]
        table.add_row(str(step["number"]), "\n".join(said), number, step["tool"], step["direction"], mind)
    for said in (document["before_time"], document["rests_on"]):
        if said:
            console.print(said, highlight=False)
    console.print(table)
    console.print(f"Lay out: {', '.join(document['tools'])}.", highlight=False)
    for words in document["left_alone"]:
        console.print(f"• leave alone: {words}", highlight=False)
