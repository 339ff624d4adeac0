"""The salon's server, simulated devices, what is printed once."""

from __future__ import annotations

import gc
import json
import resource
import sys
import time
from pathlib import Path
from typing import Annotated

import typer

from dapwick.cli.common import app, or_exit
from dapwick.core.basics.errors import BadInput, DapwickError
from dapwick.demo.dogs import DEMO_DOGS, truth
from dapwick.devices.calliper import SimulatedCalliper, serve_lines, wedge_line
from dapwick.devices.certificates import certificates_in
from dapwick.devices.network import reach_of
from dapwick.exports.scale_card import scale_card_pdf
from dapwick.service.dogs.about import find_dogs
from dapwick.service.dogs.bundles import take_in, write_bundle_of
from dapwick.service.salon.opening import Salon, backed_up, opened, opened_or_new, restored, served
from dapwick.service.salon.passcode import Passcode

MOST_FILES = 8192
SCREENS = Path(__file__).parents[1] / "screens"
"""The built screens of an installed product; in the repository they are in web/dist."""
WEB = SCREENS if SCREENS.is_dir() else Path(__file__).parents[3] / "web" / "dist"


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
    secure_port: Annotated[
        int, typer.Option(help="Where tablets on the network come in over https; 0 for plain http alone.")
    ] = 8443,
) -> None:
    """Start the salon's server and print its address; on the local network the passcode counts, and tablets come in
    over https."""
    from dapwick.api.app import make_app
    from dapwick.api.listening import Listening, listen
    from dapwick.service.salon.demo import fill_with_demo

    if not (WEB / "index.html").is_file():
        print(
            "dapwick: the screens are not built (expected web/dist). Run `make build` first.", file=sys.stderr
        )
        raise typer.Exit(1)

    def work() -> None:
        reach = reach_of(host, port, name or (), secure_port)
        address = reach.first or f"http://{host}:{port}"
        papers = certificates_in(salon, reach.hosts) if reach.plain else None
        with served(salon, f"the server at {address}") as store:
            if demo:
                fill_with_demo(store)
            made = Passcode(store).ensure() if reach.network else None
            if made:
                print(f"The passcode for tablets is {made}. It is shown this once.", flush=True)
            _as_many_files_as_may_be()
            # What is loaded by now stays loaded: walked through by the collector, it makes answers wait.
            gc.collect()
            gc.freeze()
            if papers and papers.renewed:
                print("The salon has a new certificate: every tablet has to trust it once more.", flush=True)
            print(f"Dapwick is open at {address}", flush=True)
            listen(make_app(store, WEB, reach, True, papers), Listening(host, port, secure_port, papers))

    or_exit(work)


def _as_many_files_as_may_be() -> None:
    """Room for connections: the usual thousand is few where somebody opens them to do harm."""
    _, most = resource.getrlimit(resource.RLIMIT_NOFILE)
    wanted = MOST_FILES if most == resource.RLIM_INFINITY else min(MOST_FILES, most)
    resource.setrlimit(resource.RLIMIT_NOFILE, (wanted, most))


SalonFolder = Annotated[Path, typer.Option(help="The salon's folder: records and photos.")]


@app.command()
def export(
    dog: Annotated[str, typer.Argument(help="The dog's number, or its name.")],
    to: Annotated[Path, typer.Option(help="Where the bundle goes.")],
    salon: SalonFolder = Path("salon/own"),
) -> None:
    """Write one dog with all its visits and photos as a bundle."""

    def work() -> None:
        store = opened(salon)
        dog_id = _dog_id(store, dog)
        with to.open("w+b") as out:
            write_bundle_of(store, dog_id, out)
        print(f"{to}: {to.stat().st_size} bytes")

    or_exit(work)


@app.command("import")
def import_(
    bundle: Annotated[Path, typer.Argument(help="A dog bundle.")],
    salon: SalonFolder = Path("salon/own"),
) -> None:
    """Take a dog in from its bundle."""

    def work() -> None:
        store = opened_or_new(salon)
        try:
            with bundle.open("rb") as data:
                card = take_in(store, data, bundle.name)
        except OSError as error:
            if isinstance(error, DapwickError):
                raise
            raise BadInput(
                "cannot open it", expected="a dog bundle", got=error.strerror or "nothing", where=str(bundle)
            ) from error
        print(f"{card.name} is here: {len(card.visits)} visits, number {card.id}")

    or_exit(work)


@app.command()
def backup(
    to: Annotated[Path, typer.Option(help="Where the zip goes.")],
    salon: SalonFolder = Path("salon/own"),
) -> None:
    """Write the whole salon as one zip, read back and checked."""

    def work() -> None:
        manifest = backed_up(salon, to)
        missing = f", {len(manifest.missing)} photos missing" if manifest.missing else ""
        print(f"{to}: {len(manifest.digests)} photos{missing}, {to.stat().st_size} bytes, checked")

    or_exit(work)


@app.command()
def restore(
    zip_file: Annotated[Path, typer.Argument(help="A salon's backup.")],
    salon: SalonFolder = Path("salon/own"),
) -> None:
    """Put a backup back, into a salon that does not open too; what was there before is kept beside it."""

    def work() -> None:
        done = restored(salon, zip_file)
        before = f"; what was there before is in {done.before.name}" if done.before else ""
        missing = f"; {len(done.missing)} photos were not in it" if done.missing else ""
        print(f"{salon} is as it was in {zip_file.name}{before}{missing}")

    or_exit(work)


@app.command()
def passcode(
    new: Annotated[bool, typer.Option("--new", help="Make a new one; every tablet has to give it.")] = False,
    salon: SalonFolder = Path("salon/own"),
) -> None:
    """Say whether there is a passcode for tablets, or make a new one; at this machine only, a server may be running."""

    def work() -> None:
        door = Passcode(opened(salon))
        if new:
            print(f"The passcode for tablets is now {door.renew()}. It is shown this once.")
        else:
            there = "There is a passcode" if door.has_passcode() else "There is no passcode yet"
            print(f"{there}; only its hash is kept. `dapwick passcode --new` makes a new one.")

    or_exit(work)


def _dog_id(store: Salon, asked: str) -> int:
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
