"""Two servers on one folder, two tablets whose queues slept: does a write land on another dog, is each stale one told?

.venv/bin/python tools/two_tablets.py [ROUNDS]          # writes docs/two-tablets.md
"""

from __future__ import annotations

import random
import subprocess
import sys
import tempfile
import time
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any, Final

import httpx

from salon_server import SalonServer

OUT: Final = Path(__file__).parents[1] / "docs" / "two-tablets.md"
ROUNDS: Final = 150
SEED: Final = 9
PARTS: Final[dict[str, Any]] = {
    "next-note": lambda words: {"note": words},
    "wishes": lambda words: {"words": words},
    "about": lambda words: {"name": words, "coat": "curl"},
    "traits": lambda words: {"traits": ["snaps" if words.endswith("0") else "old"]},
    "coat-probes": lambda words: [{"zone": "crown", "depth_mm": 20.0 + int(words[-1])}],
}
"""What each tablet writes is its own: two that want the same are no conflict."""


@dataclass
class Count:
    sent: int = 0
    kept: int = 0
    told: int = 0
    wrong: list[str] = field(default_factory=list)


@dataclass(frozen=True)
class Asleep:
    """A change that a tablet made of a dog while it did not reach the server. meant: what the dog was called then."""

    dog: int
    meant: str
    uid: str
    part: str
    base: str
    words: str


class Tablet:
    def __init__(self, address: str) -> None:
        self.api = httpx.Client(base_url=address, timeout=20.0)
        self.queue: list[Asleep] = []

    def changes(self, dog: dict[str, Any], part: str, words: str) -> None:
        version = dog["versions"][part.replace("-", "_")]
        self.queue.append(Asleep(dog["id"], dog["name"], dog["name"], part, version, words))

    def wakes(self, alive: dict[int, str], count: Count, stale: set[tuple[int, str]]) -> None:
        """Everything is sent in its order, each on top of what it was made on."""
        for one in self.queue:
            count.sent += 1
            answer = self.api.put(
                f"/api/dogs/{one.dog}/{one.part}",
                json=PARTS[one.part](one.words),
                headers={"If-Match": f'"{one.base}"'},
            )
            if answer.status_code in (404, 409):
                count.told += 1
            elif answer.is_success:
                count.kept += 1
                if (one.dog, one.part) in stale:
                    count.wrong.append(f"a stale {one.part} was kept")
                if alive.get(one.dog) != one.uid:
                    count.wrong.append(f"{one.part} of {one.meant} went to dog {one.dog}, another one")
                stale.add((one.dog, one.part))
            else:
                count.wrong.append(f"{one.part}: {answer.status_code} {answer.text[:80]}")
        self.queue.clear()


def one_round(server: SalonServer, tablets: list[Tablet], rng: random.Random, n: int, count: Count) -> None:
    """Dogs come; both tablets change the same parts of them unseen; some dogs go for good and others come in their
    place, or a backup of before is put back; then both wake."""
    here = tablets[0].api
    alive: dict[int, str] = {}
    dogs = []
    for i in range(3):
        dog = here.post("/api/dogs", json={"name": f"Dog {n}-{i}", "coat": "curl"}).json()
        alive[dog["id"]] = dog["name"]
        dogs.append(dog)
    for tablet in tablets:
        for dog in dogs:
            for part in rng.sample(sorted(set(PARTS) - {"about"}), 2):
                tablet.changes(dog, part, f"{dog['name']} bites, tablet {tablets.index(tablet)}")
    if n % 10 == 9:
        restored(here, alive, dogs)
    else:
        for dog in rng.sample(dogs, 2):
            here.delete(f"/api/dogs/{dog['id']}")
            here.post(f"/api/removed/{dog['id']}/purge", json={"name": dog["name"]})
            alive.pop(dog["id"])
    for i in range(2):
        came = here.post("/api/dogs", json={"name": f"Newcomer {n}-{i}", "coat": "curl"}).json()
        if came["id"] in {dog["id"] for dog in dogs}:
            count.wrong.append(f"id {came['id']} was given again")
        alive[came["id"]] = came["name"]
    stale: set[tuple[int, str]] = set()
    for tablet in rng.sample(tablets, 2):
        tablet.wakes(alive, count, stale)
    for dog_id, name in alive.items():
        card = here.get(f"/api/dogs/{dog_id}").json()
        for words in (card["next_note"], card["owner_words"]):
            if words and name not in words:
                count.wrong.append(f"{name} carries “{words}”")


def restored(here: httpx.Client, alive: dict[int, str], dogs: list[dict[str, Any]]) -> None:
    """The salon as it was before these dogs came."""
    names = [one["name"] for one in here.get("/api/backups").json()["backups"] if one["whole"]]
    job = here.post("/api/backups/restore", json={"name": names[-1]}).json()["id"]
    while here.get(f"/api/jobs/{job}").json()["kind"] == "working":
        time.sleep(0.05)
    for dog in dogs:
        alive.pop(dog["id"])


def second_server(server: SalonServer) -> str:
    """What another server on the same folder says."""
    command = [sys.executable, "-m", "dapwick.cli", "serve", "--salon", str(server.folder), "--port", "1"]
    return subprocess.run(command, capture_output=True, text=True, timeout=60, check=False).stderr.strip()


def main() -> None:
    rounds = int(sys.argv[1]) if len(sys.argv) > 1 else ROUNDS
    rng, count = random.Random(SEED), Count()
    with tempfile.TemporaryDirectory() as folder:
        server = SalonServer(Path(folder) / "salon")
        server.start()
        tablets = [Tablet(server.address), Tablet(server.address)]
        job = tablets[0].api.post("/api/backups").json()["id"]
        while tablets[0].api.get(f"/api/jobs/{job}").json()["kind"] == "working":
            time.sleep(0.05)
        said = second_server(server).replace(str(server.folder), "salon")
        for n in range(rounds):
            one_round(server, tablets, rng, n, count)
        server.kill()
    OUT.write_text(
        "\n".join(
            [
                "# Two servers, two tablets",
                "",
                "Written by `tools/two_tablets.py`. A second server on the same folder says, and ends:",
                "",
                f"> {said.rsplit(', process', 1)[0]}, …",
                "",
                "In each round three dogs come; two tablets, asleep, change notes, wishes, handling and combs of all",
                "of them, each without having seen the other's; two of the dogs are purged and others come, or (every",
                "tenth round) a backup of before is put back; then both tablets wake and send what they have.",
                "",
                f"Rounds: {rounds}. Changes sent: {count.sent}; kept: {count.kept}; told as overtaken or of a dog that",
                f"is gone: {count.told}. On another dog, stale and kept, ids given again, or anything else wrong:",
                f"**{len(count.wrong)}**.",
                *[f"- {words}" for words in count.wrong[:30]],
                "",
            ]
        ),
        "utf-8",
    )
    print(OUT.read_text("utf-8"))


if __name__ == "__main__":
    main()
