"""Eight tablets at work for ten minutes: how long small requests wait while outlines are worked out, and whether the
server's memory holds.

.venv/bin/python tools/eight_tablets.py [SECONDS]          # writes docs/eight-tablets.md
"""

from __future__ import annotations

import random
import sys
import tempfile
import threading
import time
from dataclasses import dataclass, field
from pathlib import Path
from typing import Final

import httpx
import numpy as np

from dapwick.core.outlines.families import FAMILIES
from dapwick.records.store import SalonStore
from dapwick.service.plans.planner import Asked, Planner
from dapwick.service.salon.demo import fill_with_demo
from salon_server import SalonServer

OUT: Final = Path(__file__).parents[1] / "docs" / "eight-tablets.md"
SECONDS: Final = 600.0
TABLETS: Final = 8
HEAVY_SHARE: Final = 0.12
PAUSE_S: Final = (0.15, 0.9)
"""A hand's time between two presses."""
WARM_S: Final = 60.0
SMALL: Final = {
    "today": ("GET", "/api/today", None),
    "dogs": ("GET", "/api/dogs?find=fo", None),
    "dog": ("GET", "/api/dogs/1", None),
    "kit": ("GET", "/api/kit", None),
    "salon": ("GET", "/api/salon", None),
    "cut": ("GET", "/api/dogs/1/cut", None),
    "note": ("PUT", "/api/dogs/2/next-note", "note"),
    "step": ("PUT", "/api/dogs/1/cut/steps/look_over", "step"),
}


@dataclass
class Seen:
    small: dict[str, list[float]] = field(default_factory=lambda: {key: [] for key in SMALL})
    heavy: list[float] = field(default_factory=list)
    busy: int = 0
    wrong: list[str] = field(default_factory=list)


def tablet(address: str, seed: int, over: threading.Event, seen: Seen) -> None:
    rng = random.Random(seed)
    with httpx.Client(base_url=address, timeout=60.0) as api:
        while not over.is_set():
            begun = time.monotonic()
            if rng.random() < HEAVY_SHARE:
                answer = outline(api, rng)
                seen.heavy.append(time.monotonic() - begun)
            else:
                key = rng.choice(sorted(SMALL))
                answer = small(api, key, rng)
                seen.small[key].append(time.monotonic() - begun)
            if answer.status_code == 503:
                seen.busy += 1
            elif answer.status_code >= 400:
                seen.wrong.append(f"{answer.request.url.path}: {answer.status_code} {answer.text[:80]}")
            over.wait(rng.uniform(*PAUSE_S))


def small(api: httpx.Client, key: str, rng: random.Random) -> httpx.Response:
    method, path, said = SMALL[key]
    bodies = {"note": {"note": f"note {rng.random()}"}, "step": {"state": "done", "seconds": 3.0}}
    return api.request(method, path, json=bodies.get(said or ""))


def outline(api: httpx.Client, rng: random.Random) -> httpx.Response:
    """A slider that moves, a family that is fitted anew, a plan drawn in full."""
    body = {"family": rng.choice(sorted(FAMILIES)), "params": {"fullness": round(rng.uniform(-1, 1), 2)}}
    return api.post("/api/dogs/1/outline/preview", json=body | {"moving": rng.random() < 0.5})


def memory_mb(pid: int) -> float:
    lines = Path(f"/proc/{pid}/status").read_text().splitlines()
    return next(int(line.split()[1]) for line in lines if line.startswith("VmRSS")) / 1024


def row(name: str, times: list[float]) -> str:
    if not times:
        return f"| {name} | 0 | | |"
    p50, p95 = np.quantile(times, (0.5, 0.95)) * 1000
    return f"| {name} | {len(times)} | {p50:.0f} | {p95:.0f} |"


def main() -> None:
    seconds = float(sys.argv[1]) if len(sys.argv) > 1 else SECONDS
    seen, over = Seen(), threading.Event()
    with tempfile.TemporaryDirectory() as folder:
        store = SalonStore(Path(folder) / "salon")
        fill_with_demo(store, ("fogbell", "bobbin"))
        Planner(store).save(1, Asked("teddy"))
        store.close()
        server = SalonServer(Path(folder) / "salon")
        server.start()
        assert server.process
        httpx.post(f"{server.address}/api/dogs/1/cut", json={}, timeout=60.0)
        hands = [
            threading.Thread(target=tablet, args=(server.address, i, over, seen)) for i in range(TABLETS)
        ]
        for hand in hands:
            hand.start()
        time.sleep(min(WARM_S, seconds / 4))
        warm = memory_mb(server.process.pid)
        time.sleep(seconds - min(WARM_S, seconds / 4))
        over.set()
        for hand in hands:
            hand.join()
        grown = memory_mb(server.process.pid) - warm
        server.kill()
    everything = [one for times in seen.small.values() for one in times]
    OUT.write_text(
        "\n".join(
            [
                "# Eight tablets for ten minutes",
                "",
                f"Written by `tools/eight_tablets.py`: {TABLETS} tablets for {seconds:.0f} s, each pressing something",
                f"every {PAUSE_S[0]:g} to {PAUSE_S[1]:g} s; {HEAVY_SHARE:.0%} of what they ask is an outline worked",
                "out and drawn. The tablets run on the same two cores as the server.",
                "",
                "| asked | times | median ms | p95 ms |",
                "|-|-|-|-|",
                *(row(key, times) for key, times in seen.small.items()),
                row("**all small ones**", everything),
                row("an outline", seen.heavy),
                "",
                f"Answered that it is busy (503): {seen.busy}. Anything else but an answer: {len(seen.wrong)}.",
                *[f"- {words}" for words in seen.wrong[:10]],
                f"Memory after the first {min(WARM_S, seconds / 4):.0f} s: {warm:.0f} MB; to the end it grew by",
                f"{grown:.0f} MB.",
                "",
            ]
        ),
        "utf-8",
    )
    print(OUT.read_text("utf-8"))


if __name__ == "__main__":
    main()
