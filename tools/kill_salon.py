"""Kill a salon's server (kill -9) at random moments while two tablets work, and look for what was acknowledged.

.venv/bin/python tools/kill_salon.py [TIMES]          # writes docs/kills.md
"""

from __future__ import annotations

import hashlib
import random
import sqlite3
import sys
import tempfile
import threading
import time
from contextlib import closing
from dataclasses import dataclass, field
from pathlib import Path

import httpx

from dapwick.demo.dogs import PHOTOS
from salon_server import SalonServer, faults, is_kept

OUT = Path(__file__).parents[1] / "docs" / "kills.md"
TIMES = 100
SEED = 4
EARLIEST_S, LATEST_S = 0.02, 1.4


@dataclass
class Ledger:
    """What the server acknowledged: notes and bookings by dog, photos and marks by id. tried: the newest note that
    was sent, whether or not an answer came."""

    notes: dict[int, int] = field(default_factory=dict)
    tried: dict[int, int] = field(default_factory=dict)
    bookings: set[int] = field(default_factory=set)
    photos: dict[int, str] = field(default_factory=dict)
    marks: dict[int, int] = field(default_factory=dict)
    count: int = 0


def photo(n: int) -> bytes:
    """A picture nobody has sent before."""
    return (PHOTOS / "bobbin-dry-front.jpg").read_bytes() + n.to_bytes(8, "big")


def edits(address: str, dog: int, ledger: Ledger, over: threading.Event) -> None:
    with httpx.Client(base_url=address, timeout=10.0) as tablet:
        while not over.is_set():
            ledger.tried[dog] = n = ledger.tried.get(dog, 0) + 1
            try:
                told = tablet.put(f"/api/dogs/{dog}/next-note", json={"note": str(n)})
                if told.is_success:
                    ledger.notes[dog] = n
                    ledger.count += 1
                made = tablet.post(f"/api/dogs/{dog}/bookings", json={"day": "2030-01-01", "words": str(n)})
                if made.is_success:
                    ledger.bookings.add(made.json()["id"])
                    ledger.count += 1
            except httpx.HTTPError:
                return


def uploads(address: str, dog: int, ledger: Ledger, over: threading.Event, first: int) -> None:
    with httpx.Client(base_url=address, timeout=10.0) as tablet:
        n = first
        while not over.is_set():
            n += 1
            data = photo(n)
            try:
                sent = tablet.post(
                    f"/api/dogs/{dog}/photos",
                    files={"file": ("f.jpg", data)},
                    data={"view": "front", "state": "dry"},
                )
                if not sent.is_success:
                    continue
                photo_id = sent.json()["id"]
                ledger.photos[photo_id] = hashlib.sha256(data).hexdigest()
                tablet.delete(f"/api/photos/{photo_id}/look")
                marked = tablet.put(
                    f"/api/photos/{photo_id}/marks", json={"marks": {"stop": {"at": [n % 900, 400]}}}
                )
                if marked.is_success:
                    ledger.marks[photo_id] = n % 900
                ledger.count += 2
            except httpx.HTTPError:
                return


def lost(folder: Path, ledger: Ledger) -> list[str]:
    """What was acknowledged and is not there."""
    with closing(sqlite3.connect(folder / "salon.db")) as connection:
        notes = dict(connection.execute("SELECT dog_id, next_note FROM visit").fetchall())
        bookings = {row[0] for row in connection.execute("SELECT id FROM booking")}
        photos = dict(connection.execute("SELECT id, content_hash FROM photo").fetchall())
        marks = dict(
            connection.execute("SELECT id, json_extract(marks, '$.stop.at[0]') FROM photo").fetchall()
        )
    found = [f"note {n} of dog {d}" for d, n in ledger.notes.items() if int(notes[d] or 0) < n]
    found += [f"note of dog {d} from nowhere" for d, n in ledger.tried.items() if int(notes[d] or 0) > n]
    found += [f"booking {b}" for b in ledger.bookings - bookings]
    found += [f"photo {p}" for p, h in ledger.photos.items() if photos.get(p) != h or not is_kept(folder, h)]
    found += [f"marks of photo {p}" for p, x in ledger.marks.items() if marks.get(p) != x]
    return found


def one_life(server: SalonServer, ledger: Ledger, rng: random.Random, dogs: list[int], n: int) -> None:
    over = threading.Event()
    hands = [
        threading.Thread(target=edits, args=(server.address, dogs[0], ledger, over)),
        threading.Thread(target=uploads, args=(server.address, dogs[1], ledger, over, n * 100_000)),
    ]
    for hand in hands:
        hand.start()
    time.sleep(rng.uniform(EARLIEST_S, LATEST_S))
    server.kill()
    over.set()
    for hand in hands:
        hand.join()


def main() -> None:
    times = int(sys.argv[1]) if len(sys.argv) > 1 else TIMES
    rng, ledger, wrong = random.Random(SEED), Ledger(), []
    with tempfile.TemporaryDirectory() as folder:
        server = SalonServer(Path(folder) / "salon")
        server.start()
        with httpx.Client(base_url=server.address) as tablet:
            dogs = [
                tablet.post("/api/dogs", json={"name": name, "coat": "curl"}).json()["id"]
                for name in ("A", "B")
            ]
        for n in range(times):
            one_life(server, ledger, rng, dogs, n)
            wrong += [
                f"after kill {n + 1}: {w}" for w in lost(server.folder, ledger) + faults(server.folder, False)
            ]
            server.start()
            wrong += [
                f"after start {n + 1}: {w}" for w in lost(server.folder, ledger) + faults(server.folder, True)
            ]
        server.kill()
    OUT.write_text(
        "\n".join(
            [
                "# Killed at random moments",
                "",
                "Written by `tools/kill_salon.py`: one tablet writes notes and bookings, another sends photos and",
                f"marks; after {EARLIEST_S} to {LATEST_S} s the server is killed (kill -9), the folder looked at, the",
                "server started, the folder looked at again. Looked for: everything that was acknowledged, photos",
                "byte for byte; the database's own integrity check and foreign keys; after the start no file that no",
                "record names.",
                "",
                f"Kills: {times}. Acknowledged: {ledger.count} changes, {len(ledger.photos)} photos among them. "
                f"Lost or wrong: {len(wrong)}.",
                *[f"- {w}" for w in wrong[:40]],
                "",
                "A kill of the process is not a loss of power: what the disk itself promised and did not keep is not",
                "in here.",
                "",
            ]
        ),
        "utf-8",
    )
    print(OUT.read_text("utf-8"))


if __name__ == "__main__":
    main()
