"""`check` and `forecast`: a finished head against its plan, and what comes of it."""

from __future__ import annotations

import json
from collections.abc import Iterator
from datetime import date, timedelta
from pathlib import Path
from typing import Annotated, Any

import numpy as np
import typer
from rich.console import Console
from rich.table import Table

from dapwick.cli.common import JsonFlag, app, or_exit
from dapwick.cli.heads import model_from
from dapwick.cli.plans import chosen
from dapwick.core.after.check import Check, Place
from dapwick.core.after.coming import Coming, coming, left_as
from dapwick.core.basics.errors import BadInput
from dapwick.core.head.growth import Growth, usual_growth
from dapwick.core.head.stand import length_of
from dapwick.core.head.zones import zone_words
from dapwick.core.outlines.fit import Outline
from dapwick.core.plan.finished import grown
from dapwick.documents.head_file import HeadFile, read_head_file
from dapwick.pipeline.check import CheckedHead, TakenPhoto, checked_head, taken_from
from dapwick.pipeline.head_model import HeadModel
from dapwick.pipeline.plan import drawn_on, fit_on

OutlineOption = Annotated[str, typer.Option(help="The outline's family, or a variant's file.")]
DAYS_A_WEEK = 7
MOST_TOLD_WEEKS = 104
"""Dates later than that are told as that."""


@app.command()
def check(
    head: Annotated[Path, typer.Argument(help="A head file that holds finished photos too.")],
    outline: OutlineOption = "round",
    as_json: JsonFlag = False,
) -> None:
    """Hold a finished head against its plan: what is long, short, even."""

    def work() -> None:
        file = read_head_file(head)
        model, drawn = _drawn(file, head.parent, outline)
        made = _checked(file, model, drawn, head.parent, str(head))
        if as_json:
            print(json.dumps(check_json(made)))
        else:
            _check_table(head, made.check)

    or_exit(work)


@app.command()
def forecast(
    head: Annotated[Path, typer.Argument(help="A head file.")],
    outline: OutlineOption = "round",
    weeks: Annotated[int | None, typer.Option(help="Lengths by zone after so many.", min=0, max=52)] = None,
    day: Annotated[str | None, typer.Option(help="Day of the cut, YYYY-MM-DD; today where unsaid.")] = None,
    as_json: JsonFlag = False,
) -> None:
    """What shows first as the finished head grows out, and when to come back."""

    def work() -> None:
        file, cut = read_head_file(head), _day(day)
        model, drawn = _drawn(file, head.parent, outline)
        checked = _checked(file, model, drawn, head.parent, str(head)) if file.finished() else None
        left = left_as(drawn, np.nan_to_num(checked.found.surface_mm)) if checked else drawn
        growth = usual_growth(file.dog.coat, _age_weeks(file.dog.born, cut))
        told = coming(left, growth, file.owner_wishes(), checked is not None)
        then = told.weeks if weeks is None else weeks
        if as_json:
            print(json.dumps(forecast_json(told, left, growth, cut, then)))
        else:
            _forecast_table(head, told, cut)

    or_exit(work)


def _drawn(file: HeadFile, folder: Path, outline: str) -> tuple[HeadModel, Outline]:
    model = model_from(file, folder)
    return model, drawn_on(fit_on(model, chosen(outline), wishes=file.owner_wishes()), {})


def _checked(file: HeadFile, model: HeadModel, drawn: Outline, folder: Path, where: str) -> CheckedHead:
    taken = list(_taken(file, model, folder))
    if not taken and not file.combed_after:
        raise BadInput(
            "nothing to check",
            expected="finished photos with eyes, nose and an edge, or comb depths",
            got="none",
            where=where,
        )
    return checked_head(drawn, taken, file.combs_after())


def _taken(file: HeadFile, model: HeadModel, folder: Path) -> Iterator[TakenPhoto]:
    for entry, marks in file.finished():
        path = folder / entry.file if entry.file else None
        if entry.coat_edge:
            yield TakenPhoto(marks, np.array(entry.coat_edge, dtype=float))
        elif path and path.exists():
            traced = taken_from(model.ground.head, marks, path.read_bytes())
            if traced:
                yield traced


def check_json(made: CheckedHead) -> dict[str, Any]:
    """The document `dapwick check --json` prints (see docs/formats.md)."""
    skin = made.found.outline.ground.skin
    seen = {
        (z.zone, z.side): round(len(z.places) / max(len(skin.in_zone(z.zone, z.side)), 1), 2)
        for z in made.found.zones
    }
    return {
        "deviations": [
            {
                "zone": p.zone,
                "side": p.side,
                "state": p.state,
                "mm": _round(p.off_mm),
                "low": _round(p.low),
                "high": _round(p.high),
                "depth_mm": _round(p.depth_mm),
                "seen_share": seen.get((p.zone, p.side), 0.0),
            }
            for p in made.check.places
        ],
        "touch_ups": [_plain(t) for t in made.check.touch_ups],
        "short": [_plain(s) for s in made.check.short],
        "comb": [_plain(c) for c in made.check.comb],
        "even": [_plain(e) for e in made.check.even],
        "left_out": list(made.found.left_out),
        "words": made.check.words,
        "version": made.check.version,
    }


def forecast_json(told: Coming, outline: Outline, growth: Growth, cut: date, weeks: float) -> dict[str, Any]:
    """The document `dapwick forecast --json` prints (see docs/formats.md)."""
    stand = outline.ground.coat.stand
    length = length_of(grown(outline, weeks, growth)[0], stand)
    zones = {
        zone: _round(float(np.median(length[at])))
        for zone in outline.family.planned
        if len(at := outline.ground.skin.in_zone(zone))
    }
    return {
        "events": [
            {
                "id": e.id,
                "words": e.words,
                "minded": e.minded,
                "weeks": _round(e.weeks),
                "low": _round(e.low),
                "high": _round(e.high),
                "day": _after(cut, e.weeks),
                "low_day": _after(cut, e.low),
                "high_day": _after(cut, e.high),
            }
            for e in told.events
        ],
        "weeks": told.weeks,
        "day": _after(cut, told.weeks),
        "words": told.words,
        "lengths": {"weeks": weeks, "zones_mm": zones},
        "version": told.version,
    }


def _check_table(path: Path, told: Check) -> None:
    table = Table("zone", "side", "state", "off mm", "90 %", title=path.name)
    for p in told.places:
        if p.state != "unseen":
            table.add_row(zone_words(p.zone), p.side, p.state, f"{p.off_mm:+.0f}", _span(p))
    console = Console()
    console.print(table)
    console.print(told.words, highlight=False)
    for words in (
        [t.words for t in told.touch_ups] + [s.words for s in told.short] + [c.words for c in told.comb]
    ):
        console.print(f"• {words}", highlight=False)


def _span(place: Place) -> str:
    return f"{place.low:+.0f} to {place.high:+.0f}"


def _forecast_table(path: Path, told: Coming, cut: date) -> None:
    table = Table("what shows", "about", "from", "to", "minded", title=path.name)
    for e in told.events:
        days = (_after(cut, weeks) for weeks in (e.weeks, e.low, e.high))
        table.add_row(e.words, *days, "yes" if e.minded else "")
    console = Console()
    console.print(table)
    console.print(f"{told.words} That is {_after(cut, told.weeks)}.", highlight=False)


def _after(cut: date, weeks: float) -> str:
    return (cut + timedelta(days=round(DAYS_A_WEEK * min(weeks, MOST_TOLD_WEEKS)))).isoformat()


def _day(day: str | None) -> date:
    try:
        return date.fromisoformat(day) if day else date.today()
    except ValueError as error:
        raise BadInput(
            "day of the cut", expected="YYYY-MM-DD", got=(day or "")[:20], where="--day"
        ) from error


def _age_weeks(born: str | None, cut: date) -> float | None:
    try:
        return (cut - date.fromisoformat(born)).days / DAYS_A_WEEK if born else None
    except ValueError:
        return None


def _plain(one: object) -> dict[str, Any]:
    return {k: _round(v) if isinstance(v, float) else v for k, v in vars(one).items()}


def _round(value: float) -> float:
    return round(value, 2)
