"""The salon's server, simulated devices, what is printed once."""

from __future__ import annotations

import json
import sys
import time
from pathlib import Path
from typing import Annotated

import typer

from dapwick.cli.common import app, or_exit
from dapwick.core.errors import BadInput
from dapwick.demo.dogs import DEMO_DOGS, truth
from dapwick.devices.calliper import SimulatedCalliper, serve_lines, wedge_line
from dapwick.exports.scale_card import scale_card_pdf

WEB = Path(__file__).parents[3] / "web" / "dist"


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

    or_exit(work)


@app.command()
def scale_card(
    to: Annotated[Path, typer.Option(help="Where the PDF goes.")] = Path("scale-card.pdf"),
    paper: Annotated[str, typer.Option(help="a4 or letter.")] = "a4",
) -> None:
    """Write the printable scale card; print it at 100 %."""
    or_exit(lambda: print(f"{to}: {to.write_bytes(scale_card_pdf(paper))} bytes"))


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
