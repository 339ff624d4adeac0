"""A salon of 5,000 dogs and 40,000 visits, as full as real ones: how long each screen waits for its data.

.venv/bin/python tools/big_salon.py [DOGS VISITS_EACH]          # writes docs/big-salon.md; wants 4 GB of disk
"""

from __future__ import annotations

import random
import sys
import tempfile
import time
from datetime import UTC, date, datetime, timedelta
from pathlib import Path
from typing import Any, Final
from uuid import uuid4

import httpx
import numpy as np
from sqlalchemy import insert

from dapwick.core.plan.kit import USUAL_KIT
from dapwick.demo.dogs import DEMO_STYLISTS, photo_bytes
from dapwick.documents.bundle import VisitDocument
from dapwick.documents.kit import KitDocument
from dapwick.records.models import (
    BookingRow,
    CutRow,
    CutStepRow,
    DogRow,
    OutlineRow,
    PhotoRow,
    VisitRow,
)
from dapwick.records.store import SalonStore
from dapwick.service.photos.taking_in import keep_screen_copy
from dapwick.service.salon.about import start_empty
from dapwick.service.salon.backup_setting import set_backup
from dapwick.service.salon.kit import set_kit
from demo_history import earlier_visits, slim
from salon_server import SalonServer
from timing import yardstick_row

OUT = Path(__file__).parents[1] / "docs" / "big-salon.md"
DOGS, VISITS_EACH = 5000, 8
A_DAY: Final = 10
ROUNDS: Final = 60
BATCH: Final = 250
SCREENS: Final = {
    "Today: the day's dogs": "/api/today",
    "Today: another day": "/api/today?day={day}",
    "Find a dog: a few letters": "/api/dogs?find=fog {n}",
    "Find a dog: nothing typed": "/api/dogs",
    "Dog, and every stage: one dog with its visits": "/api/dogs/{dog}",
    "Dog: its history": "/api/dogs/{dog}/history",
    "Dog: its times in the book": "/api/dogs/{dog}/bookings",
    "Dog: the head's drawing (solved, skinned, traced)": "/api/dogs/{dog}/head",
    "Marks: the measures (solved)": "/api/dogs/{dog}/measure",
    "Cut: the sheet in use": "/api/dogs/{even}/cut",
    "Kit": "/api/kit",
    "Salon": "/api/salon",
    "Salon: removed dogs": "/api/removed",
    "Salon: backups": "/api/backups",
    "The book as a calendar": "/api/calendar.ics",
}


def fill(store: SalonStore, dogs: int, visits_each: int) -> None:
    """Every dog has Fogbell's own visits over and over: marks, edges, bone, outline with its lines, a cut with every
    step. Its last visit has photos and marks and is open."""
    whole = earlier_visits("fogbell", whole=True)[0]
    sheet = whole["cuts"][0]["sheet"]
    template = VisitDocument.model_validate(slim(whole))
    for photo in template.photos:
        data = photo_bytes(photo.file_name)
        keep_screen_copy(store, store.keep_photo(data), data, photo.file_name)
    rows = _Rows(template, dogs, visits_each, sheet)
    for first in range(0, dogs, BATCH):
        with store.session() as session:
            for table, values in rows.batch(first, min(first + BATCH, dogs)).items():
                session.execute(insert(table), values)


class _Rows:
    def __init__(self, template: VisitDocument, dogs: int, visits_each: int, sheet: dict[str, Any]) -> None:
        self.visits_each, self.sheet, self.days = visits_each, sheet, dogs // A_DAY
        self.visit = template.model_dump(exclude={"photos", "outlines", "cuts"})
        self.photos = [p.model_dump() for p in template.photos]
        self.outlines = [o.model_dump() for o in template.outlines]
        self.cuts = [c.model_dump(exclude={"steps"}) for c in template.cuts]
        self.steps = [s.model_dump() for s in template.cuts[0].steps]
        self.rng = np.random.default_rng(5)
        self.now = datetime.now(UTC).replace(tzinfo=None)

    def batch(self, first: int, last: int) -> dict[Any, list[dict[str, Any]]]:
        found: dict[Any, list[dict[str, Any]]] = {
            DogRow: [], VisitRow: [], BookingRow: [], PhotoRow: [], OutlineRow: [], CutRow: [], CutStepRow: [],
        }  # fmt: skip
        for n in range(first, last):
            found[DogRow].append(
                {
                    "id": n + 1,
                    "name": f"Fog {n:04d}",
                    "breed": f"cross {n % 37}",
                    "coat": "standing",
                    "uid": uuid4().hex,
                }
            )
            for k in range(self.visits_each):
                self._visit(found, n, k)
        return found

    def _visit(self, found: dict[Any, list[dict[str, Any]]], n: int, k: int) -> None:
        visit_id, last = n * self.visits_each + k + 1, k == self.visits_each - 1
        # Ten dogs a day: everybody's last visit, before that everybody's last but one, and so on.
        ago = timedelta(days=(self.visits_each - 1 - k) * self.days + n // A_DAY)
        created = self.now - ago
        of = {"visit_id": visit_id}
        found[VisitRow].append(
            self.visit
            | {"id": visit_id, "dog_id": n + 1, "created": created, "ended": None if last else created}
        )
        found[BookingRow].append(
            {
                "dog_id": n + 1,
                "day": (date.today() - ago).isoformat(),
                "starts": f"{9 + n % 8:02d}:00",
                "minutes": 90,
                "uid": uuid4().hex,
            }
            | of
        )
        found[PhotoRow] += [p | of for p in self.photos]
        if last and n % 2:
            return
        found[OutlineRow] += [o | of for o in self.outlines]
        now = {"ended": None, "sheet": self.sheet} if last else {"ended": created}
        found[CutRow] += [c | of | {"id": visit_id} | now for c in self.cuts]
        found[CutStepRow] += [
            s
            | {"cut_id": visit_id, "seconds": float(s["seconds"] * self.rng.uniform(0.7, 1.4)), "at": created}
            for s in self.steps
        ]


def waited(client: httpx.Client, path: str, dogs: int, rng: random.Random) -> list[float]:
    seconds = []
    for n in range(ROUNDS + 2):
        asked = path.format(
            dog=rng.randrange(dogs) + 1,
            even=2 * rng.randrange(dogs // 2) + 1,
            n=rng.randrange(10),
            day=(date.today() - timedelta(days=rng.randrange(300))).isoformat(),
        )
        began = time.perf_counter()
        client.get(asked).raise_for_status()
        if n >= 2:
            seconds.append(time.perf_counter() - began)
    return seconds


def main() -> None:
    dogs, visits_each = map(int, sys.argv[1:3]) if len(sys.argv) > 2 else (DOGS, VISITS_EACH)
    with tempfile.TemporaryDirectory() as folder:
        store = SalonStore(Path(folder) / "salon")
        start_empty(store, "The Long Quay")
        set_kit(store, KitDocument.of(USUAL_KIT, DEMO_STYLISTS))
        # The day's copy of so large a salon takes a core for minutes, once a day: not while screens are timed.
        set_backup(store, daily=False, folder="")
        fill(store, dogs, visits_each)
        size = store.database.stat().st_size / 1e9
        store.close()
        server = SalonServer(store.folder)
        began = time.perf_counter()
        server.start()
        started = time.perf_counter() - began
        rng = random.Random(1)
        with httpx.Client(base_url=server.address, timeout=60.0) as client:
            found = {words: waited(client, path, dogs, rng) for words, path in SCREENS.items()}
        server.kill()
    what, figure = yardstick_row("after")
    lines = [
        "# A full salon",
        "",
        f"Written by `tools/big_salon.py`: {dogs:,} dogs, {dogs * visits_each:,} visits, each with photos, marks,",
        f"edges, bone, outline and every step of its cut ({size:.1f} GB of records); {ROUNDS} calls of each over",
        f"HTTP on this machine, other dogs each time. The server started in {started:.1f} s.",
        "",
        "| what a screen asks for | median | 95th percentile |",
        "|-|-|-|",
        *[
            f"| {words} | {np.median(s) * 1e3:.0f} ms | {np.percentile(s, 95) * 1e3:.0f} ms |"
            for words, s in found.items()
        ],
        f"| {what} | {figure.split(',')[0].removeprefix('median ')} | |",
        "",
    ]
    OUT.write_text("\n".join(lines), "utf-8")
    print(OUT.read_text("utf-8"))


if __name__ == "__main__":
    main()
