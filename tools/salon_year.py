"""A year of a salon's work through its own API: two tablets, ten dogs a day, kills in the middle, a backup put back and
taken back again; then everything that was acknowledged is looked for.

.venv/bin/python tools/salon_year.py [DAYS]          # writes docs/year.md
"""

from __future__ import annotations

import hashlib
import random
import re
import sqlite3
import sys
import tempfile
import threading
import time
from contextlib import closing
from dataclasses import dataclass, field
from datetime import date, timedelta
from pathlib import Path
from typing import Any, Final

import httpx
import numpy as np

from dapwick.demo.dogs import PHOTOS, calliper_mm, hand_marks, photos_of, truth
from salon_server import SalonServer, faults, is_kept

OUT = Path(__file__).parents[1] / "docs" / "year.md"
WORK_DAYS: Final = 250
DOGS_A_DAY: Final = 10
KILL_EVERY_DAYS: Final = 10
CUT_EVERY: Final = 50
"""One visit in so many keeps an outline and cuts by its sheet, which takes seconds to work out."""
BOTH_EVERY: Final = 12
"""One visit in so many is written to by both tablets at once."""
KNOWN_SHARE: Final = 0.75
FIRST_DAY: Final = date(2027, 1, 4)
SIM: Final = ("fogbell", "bobbin", "tiller", "ratline")
ACROSS: Final = ("eye_outer_left", "eye_outer_right")
SEED: Final = 11


@dataclass
class Ledger:
    """What was acknowledged. notes: by visit; photos: hash by id; steps: by visit; refused: second tablets told."""

    dogs: list[int] = field(default_factory=list)
    visits: int = 0
    notes: dict[int, str] = field(default_factory=dict)
    words: dict[int, str] = field(default_factory=dict)
    photos: dict[int, str] = field(default_factory=dict)
    marks: dict[int, float] = field(default_factory=dict)
    bookings: set[int] = field(default_factory=set)
    steps: dict[tuple[int, str], float] = field(default_factory=dict)
    overtaken: int = 0
    both: int = 0
    again: int = 0
    lock: threading.Lock = field(default_factory=threading.Lock)


class Tablet:
    """One of the two. A call that gets no answer is made again until it does, as the screens do."""

    def __init__(self, server: SalonServer, ledger: Ledger, seed: int) -> None:
        self.server, self.ledger, self.rng = server, ledger, random.Random(seed)
        self.mine: list[int] = []
        self.seconds: dict[str, list[float]] = {}
        self.line = httpx.Client(base_url=server.address, timeout=60.0)

    def call(self, method: str, path: str, **more: Any) -> httpx.Response:
        while True:
            try:
                began = time.perf_counter()
                answer = self.line.request(method, path, **more)
                if method == "GET":
                    screen = re.sub(r"/\d+", "/N", path.split("?")[0])
                    self.seconds.setdefault(screen, []).append(time.perf_counter() - began)
                if answer.status_code < 500:
                    return answer
            except httpx.HTTPError:
                pass
            with self.ledger.lock:
                self.ledger.again += 1
            time.sleep(0.2)

    def json(self, method: str, path: str, **more: Any) -> Any:
        answer = self.call(method, path, **more)
        assert answer.is_success, (method, path, answer.status_code, answer.text[:300])
        return answer.json() if answer.content else None

    def visit(self, day: date, n: int) -> None:
        """One dog from the door to going home."""
        dog = self._dog(n)
        booked = self.json(
            "POST", f"/api/dogs/{dog}/bookings", json={"day": day.isoformat(), "starts": "09:00"}
        )
        self.ledger.bookings.add(booked["id"])
        self.json("GET", f"/api/today?day={day.isoformat()}")
        card = self.json("POST", f"/api/bookings/{booked['id']}/begin")
        visit = card["visits"][-1]["id"]
        self._wishes(card, visit, n)
        known = truth(SIM[dog % len(SIM)])
        for photo in photos_of(known):
            self._photo(dog, photo, n)
        mm = calliper_mm(known, *ACROSS)
        reading = {"from_mark": ACROSS[0], "to_mark": ACROSS[1], "mm": mm}
        self.json("PUT", f"/api/dogs/{dog}/hand-measures", json=[reading])
        self.json("GET", f"/api/dogs/{dog}")
        if n % CUT_EVERY == 0:
            self._cut(dog, visit)
        note = f"visit {n}: left cheek grows faster"
        self.json("PUT", f"/api/dogs/{dog}/next-note", json={"note": note})
        self.ledger.notes[visit] = note
        self.json("POST", f"/api/dogs/{dog}/visits/end")
        with self.ledger.lock:
            self.ledger.visits += 1

    def _dog(self, n: int) -> int:
        """One that this tablet had before, or a new one: both work on one dog only where the script says so."""
        if len(self.mine) > 3 and self.rng.random() < KNOWN_SHARE:
            return self.rng.choice(self.mine[:-2])
        made = self.json("POST", "/api/dogs", json={"name": f"Dog {n}", "coat": "standing", "breed": "cross"})
        self.mine.append(int(made["id"]))
        with self.ledger.lock:
            self.ledger.dogs.append(int(made["id"]))
        return int(made["id"])

    def _wishes(self, card: dict[str, Any], visit: int, n: int) -> None:
        """Mostly one tablet; now and then a second one writes on top of the same version and has to be told."""
        path, words = f"/api/dogs/{card['id']}/wishes", f"as last time, {n}"
        base = {"If-Match": f'"{card["versions"]["wishes"]}"'}
        body = {"eyes": "open", "words": words}
        self.json("PUT", path, json=body, headers=base)
        self.ledger.words[visit] = words
        if n % BOTH_EVERY == 0:
            self.ledger.both += 1
            late = self.call("PUT", path, json=body | {"words": "the second tablet's"}, headers=base)
            self.ledger.overtaken += late.status_code == 409

    def _photo(self, dog: int, photo: dict[str, Any], n: int) -> None:
        data = (PHOTOS / photo["file"]).read_bytes() + n.to_bytes(8, "big")
        said = {"view": photo["view"], "state": photo["state"]}
        sent = self.json("POST", f"/api/dogs/{dog}/photos", files={"file": (photo["file"], data)}, data=said)
        self.ledger.photos[sent["id"]] = hashlib.sha256(data).hexdigest()
        # What the machine would see in it is the same every time: not looked for 5,000 times over.
        self.call("DELETE", f"/api/photos/{sent['id']}/look")
        marks = hand_marks(photo)
        marks["stop"]["at"][0] = round(marks["stop"]["at"][0] + n % 7, 1)
        self.json("PUT", f"/api/photos/{sent['id']}/marks", json={"marks": marks})
        self.ledger.marks[sent["id"]] = marks["stop"]["at"][0]

    def _cut(self, dog: int, visit: int) -> None:
        self.json("PUT", f"/api/dogs/{dog}/outline", json={"family": "round"})
        sheet = self.json("POST", f"/api/dogs/{dog}/cut", json={})["sheet"]
        for i, step in enumerate(sheet["steps"]):
            self.json(
                "PUT", f"/api/dogs/{dog}/cut/steps/{step['id']}", json={"state": "done", "seconds": 10.0 + i}
            )
            self.ledger.steps[visit, step["id"]] = 10.0 + i
        self.json("POST", f"/api/dogs/{dog}/cut/end", json={})


def lost(folder: Path, ledger: Ledger) -> list[str]:
    with closing(sqlite3.connect(folder / "salon.db")) as c:
        visits = {
            i: (note, words) for i, note, words in c.execute("SELECT id, next_note, owner_words FROM visit")
        }
        photos = dict(c.execute("SELECT id, content_hash FROM photo").fetchall())
        marks = dict(c.execute("SELECT id, json_extract(marks, '$.stop.at[0]') FROM photo").fetchall())
        bookings = {row[0] for row in c.execute("SELECT id FROM booking")}
        steps = {
            (visit, step): seconds
            for visit, step, seconds in c.execute(
                "SELECT cut.visit_id, step, seconds FROM cut_step JOIN cut ON cut.id = cut_id"
            )
        }
    found = [f"note of visit {v}" for v, note in ledger.notes.items() if visits.get(v, ("", ""))[0] != note]
    found += [
        f"words of visit {v}" for v, words in ledger.words.items() if visits.get(v, ("", ""))[1] != words
    ]
    found += [f"photo {p}" for p, h in ledger.photos.items() if photos.get(p) != h or not is_kept(folder, h)]
    found += [f"marks of photo {p}" for p, x in ledger.marks.items() if marks.get(p) != x]
    found += [f"booking {b}" for b in ledger.bookings - bookings]
    found += [f"step {s}" for s, seconds in ledger.steps.items() if steps.get(s) != seconds]
    return found


def work_a_day(tablets: list[Tablet], day: date, n: int, kill: bool) -> None:
    def half(which: int) -> None:
        for i in range(DOGS_A_DAY // 2):
            tablets[which].visit(day, n + 2 * i + which)

    hands = [threading.Thread(target=half, args=(i,)) for i in range(2)]
    for hand in hands:
        hand.start()
    if kill:
        time.sleep(0.8)
        tablets[0].server.kill()
        tablets[0].server.start()
    for hand in hands:
        hand.join()


def backup_put_back_and_taken_back(tablet: Tablet) -> str:
    """Mid-year: a backup, work after it, the backup put back, and that taken back: the work is there again."""
    made = over(tablet, tablet.json("POST", "/api/backups"))
    tablet.json("POST", "/api/dogs", json={"name": "After the backup", "coat": "curl"})
    over(tablet, tablet.json("POST", "/api/backups/restore", json={"name": made["result"]["name"]}))
    gone = not tablet.json("GET", "/api/dogs?find=After the backup")
    tablet.json("POST", "/api/backups/undo")
    back = bool(tablet.json("GET", "/api/dogs?find=After the backup"))
    return "it went and came back" if gone and back else "WRONG"


def over(tablet: Tablet, job: dict[str, Any]) -> dict[str, Any]:
    while job["kind"] == "working":
        time.sleep(0.2)
        job = tablet.json("GET", f"/api/jobs/{job['id']}")
    assert job["kind"] == "done", job
    return job


def main() -> None:
    days = int(sys.argv[1]) if len(sys.argv) > 1 else WORK_DAYS
    ledger, kills, began = Ledger(), 0, time.monotonic()
    with tempfile.TemporaryDirectory() as folder:
        server = SalonServer(Path(folder) / "salon")
        server.start()
        tablets = [Tablet(server, ledger, SEED + i) for i in range(2)]
        tablets[0].json("POST", "/api/salon/start", json={"kind": "empty", "name": "The Year"})
        restored = "not reached"
        for i in range(days):
            kill = i % KILL_EVERY_DAYS == KILL_EVERY_DAYS - 1
            kills += kill
            work_a_day(tablets, FIRST_DAY + timedelta(days=i), i * DOGS_A_DAY, kill)
            if i == days // 2:
                restored = backup_put_back_and_taken_back(tablets[0])
        for tablet in tablets:
            tablet.seconds.clear()
        last = FIRST_DAY + timedelta(days=days - 1)
        for _ in range(60):
            dog = tablets[0].rng.choice(ledger.dogs)
            for path in (
                f"/api/today?day={last.isoformat()}",
                f"/api/dogs/{dog}",
                f"/api/dogs/{dog}/history",
                "/api/dogs?find=dog 1",
            ):
                tablets[0].json("GET", path)
        server.kill()
        wrong = lost(server.folder, ledger) + faults(server.folder, True)
        size = server.folder.joinpath("salon.db").stat().st_size / 1e6
    OUT.write_text(
        "\n".join(report(days, kills, ledger, restored, wrong, size, tablets[0], time.monotonic() - began)),
        "utf-8",
    )
    print(OUT.read_text("utf-8"))


def report(
    days: int,
    kills: int,
    ledger: Ledger,
    restored: str,
    wrong: list[str],
    size: float,
    tablet: Tablet,
    took: float,
) -> list[str]:
    rows = [
        f"| {path} | {np.median(s) * 1e3:.0f} ms | {np.percentile(s, 95) * 1e3:.0f} ms |"
        for path, s in tablet.seconds.items()
    ]
    return [
        "# A year's work",
        "",
        "Written by `tools/salon_year.py`: two tablets through the API, ten dogs a day from the door to going home:",
        "booked, begun, wishes, two photos with all their marks, a calliper reading, a note, ended; one in fifty with",
        "an outline and every step of its cut. What gets no answer is sent again, as the screens do.",
        "",
        f"Days: {days}. Visits: {ledger.visits:,} of {len(ledger.dogs):,} dogs. Photos: {len(ledger.photos):,}. Kills",
        f"(kill -9) in the middle of a day: {kills}; calls made again: {ledger.again}. A backup put back in mid-year",
        f"and taken back: {restored}. Second tablets that wrote on something old: {ledger.both}, told so:",
        f"{ledger.overtaken}.",
        "",
        "Looked for at the end: every note, word, photo (byte for byte), mark, booking and step that was acknowledged.",
        f"Lost or wrong: {len(wrong)}. Records: {size:.0f} MB. It took {took / 60:.0f} min.",
        *[f"- {w}" for w in wrong[:40]],
        "",
        "| at the end of the year | median | 95th percentile |",
        "|-|-|-|",
        *rows,
        "",
    ]


if __name__ == "__main__":
    main()
