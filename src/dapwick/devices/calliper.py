"""Digital callipers: what they send, and a simulated one.

Common ones are a keyboard wedge (they type the reading's digits and Enter into whatever field has the
focus) or send the same line over a serial or network line.
"""

from __future__ import annotations

import re
import socketserver
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Final

import numpy as np

from dapwick.core.basics.arrays import Array
from dapwick.core.basics.errors import BadInput
from dapwick.core.basics.marks import INDEX, words_for

MM_PER_INCH: Final = 25.4
READING: Final = re.compile(r"^\s*\+?0*(\d{0,4}(?:[.,]\d{1,4})?)\s*(mm|in|\"|inch)?\s*$", re.IGNORECASE)
HAND_SIGMA_MM: Final = 0.6
DIGITS: Final = 2
USUAL_MEASURES: Final = (
    ("eye_outer_left", "eye_outer_right"),
    ("stop", "nose_tip"),
    ("cheek_left", "cheek_right"),
    ("occiput", "stop"),
)


def parse_reading(line: str) -> float:
    """mm from a calliper's line: "71.50", "+071,5 mm", "2.815 in"."""
    found = READING.match(line)
    digits = found.group(1).replace(",", ".") if found else ""
    if not found or not digits or digits == ".":
        raise BadInput(
            "calliper line", expected="digits, perhaps with mm or in", got=line.strip()[:40] or "nothing"
        )
    value = float(digits)
    return value * MM_PER_INCH if found.group(2) and found.group(2).lower() != "mm" else value


@dataclass(frozen=True)
class SimulatedCalliper:
    """Reads true distances with a hand's error. marks_mm: the dog's true marks."""

    marks_mm: Mapping[str, Sequence[float]]
    seed: int = 0

    def readings(self, measures: Sequence[tuple[str, str]] = USUAL_MEASURES) -> Iterator[tuple[str, float]]:
        """(what is measured, mm to a hundredth), one after the other."""
        rng = np.random.default_rng(self.seed)
        for a, b in measures:
            for mark in (a, b):
                if mark not in INDEX:
                    raise BadInput(
                        "unknown mark", expected="one of the 24 mark ids", got=mark, where="measure"
                    )
            at: Array = np.asarray([self.marks_mm[a], self.marks_mm[b]], dtype=float)
            read = float(np.linalg.norm(at[0] - at[1]) + rng.normal(0, HAND_SIGMA_MM))
            yield f"{words_for(a)} to {words_for(b)}", round(max(read, 0.0), DIGITS)


def wedge_line(mm: float) -> str:
    """The keys a wedge types: digits and Enter."""
    return f"{mm:.2f}\n"


def serve_lines(calliper: SimulatedCalliper, host: str, port: int) -> socketserver.ThreadingTCPServer:
    """A network line that sends every reading to each caller; the caller ends it with `shutdown`."""

    class Line(socketserver.BaseRequestHandler):
        def handle(self) -> None:
            for _, mm in calliper.readings():
                self.request.sendall(wedge_line(mm).encode("ascii"))

    socketserver.ThreadingTCPServer.allow_reuse_address = True
    return socketserver.ThreadingTCPServer((host, port), Line)
