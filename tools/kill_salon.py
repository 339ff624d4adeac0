"""Kill a salon's server (kill -9) at random moments while two tablets work, and look for what was acknowledged.

.venv/bin/python tools/kill_salon.py [TIMES]          # writes docs/kills.md
"""

from __future__ import annotations

import hashlib
import os
import random
import sqlite3
import subprocess
import sys
import tempfile
import threading
import time
from contextlib import closing, suppress
from copy import deepcopy
from dataclasses import dataclass, field
from pathlib import Path
from typing import Final

import httpx

from dapwick.demo.dogs import PHOTOS
from dapwick.records.backup import check_backup
from salon_server import SalonServer, faults, is_kept

OUT = Path(__file__).parents[1] / "docs" / "kills.md"
TIMES = 200
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


def work_life(life: Life) -> list[str]:
    """Two tablets write; the server is killed; what was acknowledged is looked for."""
    over = threading.Event()
    hands = [
        threading.Thread(target=edits, args=(life.server.address, life.dogs[0], life.ledger, over)),
        threading.Thread(
            target=uploads, args=(life.server.address, life.dogs[1], life.ledger, over, life.n * 10**5)
        ),
    ]
    for hand in hands:
        hand.start()
    second = second_start(life) if life.kind == "second start" else []
    time.sleep(life.rng.uniform(EARLIEST_S, LATEST_S))
    life.server.kill()
    over.set()
    for hand in hands:
        hand.join()
    return second


def second_start(life: Life) -> list[str]:
    """Another start on the same folder, in the middle of uploads: it says who has it, ends, and touches nothing."""
    command = [
        sys.executable,
        "-m",
        "dapwick.cli",
        "serve",
        "--salon",
        str(life.server.folder),
        "--port",
        "1",
    ]
    ended = subprocess.run(command, capture_output=True, text=True, timeout=60, check=False)
    if ended.returncode != 2 or "is open in the server at" not in ended.stderr or "Traceback" in ended.stderr:
        return [f"second start: exit {ended.returncode}, {ended.stderr[-120:]!r}"]
    return []


def backup_life(life: Life) -> list[str]:
    """A backup is begun and the server killed in the middle of it, or just after: it is whole, or not there."""
    with httpx.Client(base_url=life.server.address, timeout=30.0) as tablet:
        tablet.post("/api/backups")
        done = finished(tablet, life.rng.uniform(EARLIEST_S, LATEST_S))
    life.server.kill()
    kept = sorted((life.server.folder / "backups").glob("*.zip"))
    for path in kept:
        check_backup(path, lambda words, share: None)
    if done:
        life.backup, life.at_backup = kept[-1].name, (state_of(life.server.folder), deepcopy(life.ledger))
    return [] if kept or not done else ["a backup that was told as done is not there"]


def restore_life(life: Life) -> list[str]:
    """A restore is begun and the server killed: the records are those of before, or those of the backup."""
    if life.backup is None:
        return work_life(life)
    before = state_of(life.server.folder)
    with httpx.Client(base_url=life.server.address, timeout=30.0) as tablet:
        tablet.post("/api/backups/restore", json={"name": life.backup})
        done = finished(tablet, life.rng.uniform(EARLIEST_S, LATEST_S))
    life.server.kill()
    now, (there, ledger) = state_of(life.server.folder), life.at_backup
    if now == there:
        life.ledger = deepcopy(ledger)
    elif now != before or done:
        return ["after a restore: neither the records of before nor the backup's"]
    return []


def purge_life(life: Life) -> list[str]:
    """A dog with a photo comes, goes, and is purged: wholly there or wholly gone."""
    with httpx.Client(base_url=life.server.address, timeout=30.0) as tablet:
        dog = tablet.post("/api/dogs", json={"name": "Gone", "coat": "curl"}).json()["id"]
        data = {"view": "front", "state": "dry"}
        tablet.post(f"/api/dogs/{dog}/photos", files={"file": ("f.jpg", photo(life.n + 10**9))}, data=data)
        tablet.delete(f"/api/dogs/{dog}")
        hand = threading.Thread(target=lambda: purged(life.server.address, dog))
        hand.start()
        time.sleep(life.rng.uniform(0.0, 0.08))
        life.server.kill()
        hand.join()
    with closing(sqlite3.connect(life.server.folder / "salon.db")) as connection:
        there = connection.execute("SELECT count(*) FROM dog WHERE id = ?", (dog,)).fetchone()[0]
        visits = connection.execute("SELECT count(*) FROM visit WHERE dog_id = ?", (dog,)).fetchone()[0]
    return [] if bool(there) == bool(visits) else ["a dog purged by half"]


def purged(address: str, dog: int) -> None:
    with suppress(httpx.HTTPError):
        httpx.post(f"{address}/api/removed/{dog}/purge", json={"name": "Gone"}, timeout=10.0)


def finished(tablet: httpx.Client, seconds: float) -> bool:
    """Whether the latest long work was told as done within so many seconds."""
    last = time.monotonic() + seconds
    job = 1
    while time.monotonic() < last:
        told = tablet.get(f"/api/jobs/{job}").json()
        if told.get("kind") == "done":
            return True
        time.sleep(0.02)
    return False


def state_of(folder: Path) -> str:
    """Everything in the records but what is this machine's own."""
    with closing(sqlite3.connect(folder / "salon.db")) as connection:
        tables = [
            r[0] for r in connection.execute("SELECT name FROM sqlite_master WHERE type = 'table' ORDER BY 1")
        ]
        kept = [t for t in tables if t not in ("setting", "session", "sqlite_sequence")]
        rows = {t: connection.execute(f"SELECT * FROM {t} ORDER BY 1").fetchall() for t in kept}
    return hashlib.sha256(repr(rows).encode()).hexdigest()


@dataclass
class Life:
    """The salon between two starts; backup: the latest that was told as done, at_backup: what the records were."""

    server: SalonServer
    rng: random.Random
    dogs: list[int]
    ledger: Ledger = field(default_factory=Ledger)
    n: int = 0
    kind: str = "work"
    backup: str | None = None
    at_backup: tuple[str, Ledger] = ("", Ledger())


KINDS: Final = {"work": 55, "second start": 12, "backup": 13, "restore": 10, "purge": 10}
LIVES: Final = {"backup": backup_life, "restore": restore_life, "purge": purge_life}


def aged(folder: Path) -> None:
    """Everything a day older, as a sweep at a later start finds it."""
    for path in [*(folder / "photos").iterdir(), *folder.glob(".coming-*")]:
        old = path.stat().st_mtime - 24 * 3600
        os.utime(path, (old, old))


def main() -> None:
    times = int(sys.argv[1]) if len(sys.argv) > 1 else TIMES
    rng, wrong, slowest = random.Random(SEED), [], 0.0
    with tempfile.TemporaryDirectory() as folder:
        server = SalonServer(Path(folder) / "salon")
        server.start()
        with httpx.Client(base_url=server.address) as tablet:
            named = ({"name": name, "coat": "curl"} for name in ("A", "B"))
            dogs = [tablet.post("/api/dogs", json=about).json()["id"] for about in named]
        life, count = Life(server, rng, dogs), dict.fromkeys(KINDS, 0)
        for n in range(times):
            life.n, (life.kind,) = n, rng.choices(list(KINDS), list(KINDS.values()))
            count[life.kind] += 1
            found = LIVES.get(life.kind, work_life)(life)
            found += lost(server.folder, life.ledger) + faults(server.folder, False)
            begun = time.monotonic()
            server.start()
            slowest = max(slowest, time.monotonic() - begun)
            found += lost(server.folder, life.ledger)
            wrong += [f"kill {n + 1}, {life.kind}: {w}" for w in found]
        server.kill()
        aged(server.folder)
        server.start()
        wrong += [f"a day later: {w}" for w in lost(server.folder, life.ledger) + faults(server.folder, True)]
        server.kill()
    lives = ", ".join(f"{n} in {kind}" for kind, n in count.items())
    OUT.write_text(
        "\n".join(
            [
                "# Killed at random moments",
                "",
                "Written by `tools/kill_salon.py`: one tablet writes notes and bookings, another sends photos and",
                f"marks; after {EARLIEST_S} to {LATEST_S} s the server is killed (kill -9), the folder looked at, the",
                "server started, the folder looked at again. In other lives a second start is tried on the same folder",
                "in the middle of it, a backup, a restore or a purge is begun and killed. Looked for: everything that",
                "was acknowledged, photos byte for byte; backups whole or not there; the records of before or the",
                "backup's, nothing between; a purged dog wholly there or wholly gone; the database's own integrity",
                "check and foreign keys; at a start a day later no file that no record names.",
                "",
                f"Kills: {times} ({lives}). Acknowledged since the last restore: {life.ledger.count} changes,",
                f"{len(life.ledger.photos)} photos among them. Lost or wrong: **{len(wrong)}**. Slowest start after",
                f"a kill: {slowest:.1f} s, the process and its imports counted.",
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
