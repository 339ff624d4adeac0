"""Timing a piece of work, and telling it."""

from __future__ import annotations

import statistics
import time
from collections.abc import Callable

import numpy as np

Row = tuple[str, str]


def timed(work: Callable[[], object], rounds: int) -> list[float]:
    seconds = []
    for _ in range(rounds):
        began = time.perf_counter()
        work()
        seconds.append(time.perf_counter() - began)
    return seconds


def spread(seconds: list[float]) -> str:
    middle, late = statistics.median(seconds) * 1e3, float(np.percentile(seconds, 95)) * 1e3
    return f"median {middle:.0f} ms, 95th percentile {late:.0f} ms"


def yardstick() -> int:
    """A fixed piece of work: shared machines are two or three times slower at some hours than at others."""
    total = 0
    for i in range(2_000_000):
        total += i
    return total


def yardstick_row(when: str) -> Row:
    return f"yardstick {when}: this machine adds up two million numbers in Python", spread(
        timed(yardstick, 5)
    )
