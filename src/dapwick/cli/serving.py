"""The salon's server, simulated devices, what is printed once."""

from __future__ import annotations

import gc
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
from dapwick.devices.network import reach_of
from dapwick.exports.scale_card import scale_card_pdf
from dapwick.records.backup import restore_backup, write_backup
from dapwick.records.store import SalonStore
from dapwick.service.bundles import bundle_of, take_in
from dapwick.service.dogs import find_dogs
from dapwick.service.door import Door

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
    host: Annotated[str, typer.Option(help="0.0.0.0 lets tablets on the local network in.")] = "127.0.0.1",
    port: int = 8350,
    name: Annotated[
        list[str] | None, typer.Option(help="A name by which tablets know this machine, more than once.")
    ] = None,
) -> None:
    """Start the salon's server and print its address; on the local network the passcode counts."""
    import uvicorn

    from dapwick.api.app import make_app
    from dapwick.service.demo import fill_with_demo

    if not (WEB / "index.html").is_file():
        print(
            "dapwick: the screens are not built (expected web/dist). Run `make build` first.", file=sys.stderr
        )
        raise typer.Exit(1)
    store = SalonStore(salon)
    if demo:
        fill_with_demo(store)
    reach = reach_of(host, port, name or ())
    if reach.network:
        made = Door(store).ensure()
        if made:
            print(
                f"The passcode for tablets is {made}. It is shown this once; change it under Salon.",
                flush=True,
            )
    # What is loaded by now stays loaded: walked through again and again by the collector, it makes answers wait.
    gc.collect()
    gc.freeze()
    print(f"Dapwick is open at {reach.address or f'http://{host}:{port}'}", flush=True)
    uvicorn.run(
        make_app(store, WEB, reach, daily=True),
        host=host,
        port=port,
        log_level="warning",
        server_header=False,
    )


SalonFolder = Annotated[Path, typer.Option(help="The salon's folder: records and photos.")]


@app.command()
def export(
    dog: Annotated[str, typer.Argument(help="The dog's number, or its name.")],
    to: Annotated[Path, typer.Option(help="Where the bundle goes.")],
    salon: SalonFolder = Path("salon/own"),
) -> None:
    """Write one dog with all its visits and photos as a bundle."""

    def work() -> None:
        store = _opened(salon)
        data = bundle_of(store, _dog_id(store, dog))
        print(f"{to}: {to.write_bytes(data)} bytes")

    or_exit(work)


@app.command("import")
def import_(
    bundle: Annotated[Path, typer.Argument(help="A dog bundle.")],
    salon: SalonFolder = Path("salon/own"),
) -> None:
    """Take a dog in from its bundle."""

    def work() -> None:
        try:
            data = bundle.read_bytes()
        except OSError as error:
            raise BadInput(
                "cannot open it", expected="a dog bundle", got=error.strerror or "nothing", where=str(bundle)
            ) from error
        card = take_in(SalonStore(salon), data, bundle.name)
        print(f"{card.name} is here: {len(card.visits)} visits, number {card.id}")

    or_exit(work)


@app.command()
def backup(
    to: Annotated[Path, typer.Option(help="Where the zip goes.")],
    salon: SalonFolder = Path("salon/own"),
) -> None:
    """Write the whole salon as one zip, read back and checked."""

    def work() -> None:
        manifest = write_backup(_opened(salon), to, lambda words, share: None)
        print(f"{to}: {len(manifest.digests)} photos, {to.stat().st_size} bytes, checked")

    or_exit(work)


@app.command()
def restore(
    zip_file: Annotated[Path, typer.Argument(help="A salon's backup.")],
    salon: SalonFolder = Path("salon/own"),
) -> None:
    """Put a backup back; the records of before are kept beside the salon's."""

    def work() -> None:
        before = restore_backup(SalonStore(salon), zip_file, lambda words, share: None)
        print(f"{salon} is as it was in {zip_file.name}; the records of before are in {before.name}")

    or_exit(work)


def _opened(salon: Path) -> SalonStore:
    """A salon that is there; asking for one that is not makes none."""
    if not (salon / "salon.db").is_file():
        raise BadInput("no salon there", expected="a salon's folder", got=str(salon), where="--salon")
    return SalonStore(salon)


def _dog_id(store: SalonStore, asked: str) -> int:
    if asked.isdecimal():
        return int(asked)
    named = [one for one in find_dogs(store, asked) if one.name.casefold() == asked.casefold()]
    if len(named) != 1:
        raise BadInput(
            "which dog", expected="a number, or a name that one dog has", got=f"{asked}, {len(named)} of that name",
            where="DOG",
        )  # fmt: skip
    return named[0].id


@app.command()
def openapi() -> None:
    """Print the API's OpenAPI document, from which the screens' types are made."""
    from dapwick.api.app import make_app

    print(json.dumps(make_app(None).openapi(), indent=1))
