"""What every command shares: the application, bad input told in one line, options as pairs, numbers rounded."""

from __future__ import annotations

import sys
from collections.abc import Callable, Sequence
from dataclasses import replace
from typing import Annotated, Any, Final

import numpy as np
import typer

from dapwick.core.basics.arrays import Array
from dapwick.core.basics.errors import BadInput, DapwickError
from dapwick.core.outlines.wishes import Wishes

app = typer.Typer(
    add_completion=False,
    no_args_is_help=True,
    pretty_exceptions_enable=False,
    help="Measures a dog's head from photos and plans its outline before scissoring.",
)
BAD_INPUT: Final = 2
JsonFlag = Annotated[bool, typer.Option("--json", help="JSON instead of a table.")]


def or_exit(work: Callable[[], None]) -> None:
    """Bad input ends with one line on standard error and exit code 2."""
    try:
        work()
    except DapwickError as error:
        print(f"dapwick: {error}", file=sys.stderr)
        raise typer.Exit(BAD_INPUT) from error


def pairs_of(options: Sequence[str]) -> dict[str, str]:
    """KEY=VALUE options as a mapping."""
    for option in options:
        if "=" not in option:
            raise BadInput("option", expected="KEY=VALUE", got=option)
    return dict(option.split("=", 1) for option in options)


def numbers_of(pairs: dict[str, str]) -> dict[str, float]:
    try:
        return {key: float(value) for key, value in pairs.items()}
    except ValueError as error:
        raise BadInput("parameter", expected="a number", got=str(error)) from error


LengthsOption = Annotated[
    list[str] | None,
    typer.Option("--length", help="ZONE=MM said for a place, more than once; over the file's."),
]
BodyOption = Annotated[float | None, typer.Option("--body", help="The body's clip, mm; over the file's.")]
AsBodyOption = Annotated[
    list[str] | None,
    typer.Option("--as-body", help="throat or ear_edges, as short as the body; over the file's."),
]


def with_said(
    wishes: Wishes, lengths: Sequence[str] | None, body_mm: float | None, as_body: Sequence[str] | None
) -> Wishes:
    """Wishes with what was said on the command line laid over them."""
    said = {**wishes.lengths, **numbers_of(pairs_of(lengths or []))}
    return replace(
        wishes,
        lengths=said,
        body_mm=wishes.body_mm if body_mm is None else body_mm,
        as_body=wishes.as_body if as_body is None else tuple(as_body),  # type: ignore[arg-type]
    )


def rounded(values: Array, places: int = 2) -> list[Any]:
    found: list[Any] = np.round(values, places).tolist()
    return found
