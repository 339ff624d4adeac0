"""Simulated people practise: are their thresholds, leans and trends found, and do the intervals hold? Writes its part
of docs/practice.md.

.venv/bin/python tools/practice_truth.py [PEOPLE]
"""

from __future__ import annotations

import sys
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, field
from pathlib import Path
from typing import Final

import numpy as np

from dapwick.core.basics.arrays import Array
from dapwick.core.practice import bone, eye
from dapwick.core.practice.leaning import Answer, Usual, leans
from dapwick.core.practice.long_side import (
    PERSON,
    PLACE,
    PLACES,
    SIDE,
    SIDES,
    USUAL_MM,
    ZONE,
    ZONES,
    Eye,
    Trial,
    chance_found,
    eye_of,
    next_fault,
)
from dapwick.core.practice.next_drill import A_SESSION
from dapwick.core.practice.trend import exp_of, spread_told, trend

OUT: Final = Path(__file__).parents[1] / "docs" / "practice.md"
BEGIN: Final = "## Measured"
SEED: Final = 2026
A_SIT: Final = A_SESSION["long_side"]
ROOM: Final = np.full(len(PLACES), 30.0)
WITHIN: Final = 0.15
SESSIONS: Final = (1, 3, 6)
STEEPNESS: Final = (0.7, 1.4)
"""People are more or less steep than the model takes them to be, by these factors."""
MISSED_TIMES: Final = 3.0


@dataclass
class Found:
    off: list[float] = field(default_factory=list)
    inside: list[bool] = field(default_factory=list)
    place_off: list[float] = field(default_factory=list)
    place_inside: list[bool] = field(default_factory=list)


def some_person(rng: np.random.Generator) -> Array:
    """Logarithms of somebody's thresholds (places,), drawn from what is expected of people."""
    zones, sides = rng.normal(0, ZONE, len(ZONES)), rng.normal(0, SIDE, len(SIDES))
    own = [zones[ZONES.index(z)] + sides[SIDES.index(s)] + rng.normal(0, PLACE) for z, s in PLACES]
    return np.log(USUAL_MM) + rng.normal(0, PERSON) + np.array(own)


def practised(true: Array, sessions: int, rng: np.random.Generator, steeper: float = 1.0) -> dict[int, Eye]:
    """What is known of an eye after each of some sessions, asked as the drill asks."""
    done: list[Trial] = []
    known = {}
    for session in range(sessions):
        for _ in range(A_SIT):
            zone, side, mm = next_fault(eye_of(done), rng, ROOM)
            at = PLACES.index((zone, side))
            # A person steeper than thought is one for whom all logarithms count more.
            far = true[at] + (np.log(mm) - true[at]) * steeper
            found = rng.uniform() < chance_found(far, true[at])
            other = PLACES[(at + 1 + int(rng.integers(len(PLACES) - 1))) % len(PLACES)]
            done.append(Trial(zone, side, mm, session, (zone, side) if found else other, mm))
        known[session + 1] = eye_of(done)
    return known


def one_eye(seed: int) -> tuple[dict[int, tuple[float, bool, list[float], list[bool]]], tuple[bool, int]]:
    rng = np.random.default_rng([SEED, seed])
    true = some_person(rng)
    known = practised(true, max(SESSIONS), rng, float(rng.uniform(*STEEPNESS)))
    told = {}
    for session in SESSIONS:
        whole = known[session].whole
        off = np.log([t.mm for t in known[session].thresholds]) - true
        held = [
            bool(np.log(t.low) <= value <= np.log(t.high))
            for t, value in zip(known[session].thresholds, true, strict=True)
        ]
        mean = true.mean()
        told[session] = (
            float(np.log(whole.value) - mean),
            bool(np.log(whole.low) <= mean <= np.log(whole.high)),
            np.abs(off).tolist(),
            held,
        )
    return told, one_missed(seed)


def one_missed(seed: int) -> tuple[bool, int]:
    """An eye that misses one place: whether three sessions tell it, and how many others they tell."""
    rng = np.random.default_rng([SEED, seed, 1])
    true = np.full(len(PLACES), np.log(USUAL_MM) + rng.normal(0, PERSON))
    missed = int(rng.integers(len(PLACES)))
    true[missed] += np.log(MISSED_TIMES)
    told = [i for i, t in enumerate(practised(true, 3, rng)[3].thresholds) if t.missed]
    return missed in told, len([i for i in told if i != missed])


def long_side(people: int) -> list[str]:
    with ProcessPoolExecutor(2) as pool:
        every = list(pool.map(one_eye, range(people)))
    lines = [
        f"**The long side.** {people} people whose thresholds are drawn (seed {SEED}) and who are {STEEPNESS[0]:g} to "
        f"{STEEPNESS[1]:g} times as steep as the model takes them to be, {A_SIT} faults a session.",
        "",
        "| sessions | whole eye off, median | within 15 % | 90 % hold | a place off, median | 90 % hold |",
        "|-|-|-|-|-|-|",
    ]
    for session in SESSIONS:
        told = [one[0][session] for one in every]
        off = np.abs([t[0] for t in told])
        lines.append(
            f"| {session} | {np.median(off):.0%} | {np.mean(off < WITHIN):.0%} | {np.mean([t[1] for t in told]):.0%} | "
            f"{np.median([p for t in told for p in t[2]]):.0%} | {np.mean([h for t in told for h in t[3]]):.0%} |"
        )
    missed = [one[1] for one in every]
    lines += [
        "",
        f"An eye that finds one place {MISSED_TIMES:g} times later than the others: after three sessions that place is "
        f"told in {np.mean([m[0] for m in missed]):.0%} of {people}, a wrong one {np.mean([m[1] for m in missed]):.2f} "
        "times a person.",
        "",
    ]
    return lines


def leaning(people: int, usual: Usual, things: int, words: str) -> str:
    """A row: leans of people who are asked about so many things, twice each a session."""
    rng = np.random.default_rng([SEED, things])
    cells = []
    for session in SESSIONS:
        off, inside, told, wrong = [], [], [], []
        for _ in range(people):
            true = rng.normal(0, usual.mean) + rng.normal(0, usual.thing, things)
            scatter = usual.scatter * rng.uniform(0.7, 1.4)
            given = [
                Answer(str(i), float(rng.normal(true[i], scatter)))
                for i in range(things)
                for _ in range(session)
            ]
            for lean in leans(given, usual):
                value = true[int(lean.thing)]
                off.append(abs(lean.off - value))
                inside.append(lean.low <= value <= lean.high)
                told.append(lean.told)
                wrong.append(lean.told and np.sign(lean.off) != np.sign(value))
        cells.append(
            f"{np.median(off):.2g} | {np.mean(inside):.0%} | {np.mean(told):.0%} | {np.mean(wrong):.1%}"
        )
    return "\n".join(f"| {words} | {s} | {cell} |" for s, cell in zip(SESSIONS, cells, strict=True))


def trends(people: int) -> list[str]:
    """People who get better: whether the figure at every session lies in its interval."""
    rng = np.random.default_rng([SEED, 9])
    inside, off = [], []
    for _ in range(people):
        true = np.log(5.0) + rng.normal(0, 0.4) + np.cumsum(rng.normal(-0.06, 0.1, 6))
        told = [spread_told(np.abs(rng.normal(0, np.exp(value), 15))) for value in true]
        for point, value in zip(exp_of(trend(told, np.log(5.0))), np.exp(true), strict=True):
            inside.append(point.low <= value <= point.high)
            off.append(abs(point.value / value - 1.0))
    return [
        f"**Trends.** {people} people who get better by 6 % a session, more or less, over six sessions of fifteen "
        f"marks: the figure is {np.median(off):.0%} off in the middle, its 90 % interval holds in "
        f"{np.mean(inside):.0%}.",
        "",
    ]


def report(people: int) -> list[str]:
    return [
        BEGIN,
        "",
        "People are simulated, the drills ask them as they ask anybody. `tools/practice_truth.py`.",
        "",
        *long_side(people),
        f"**Leans** of {5 * people} people, each thing asked once a session (marks: mm, guesses: share):",
        "",
        "| of | sessions | off, median | 90 % hold | told | told the wrong way |",
        "|-|-|-|-|-|-|",
        leaning(5 * people, bone.USUAL, 10, "marks"),
        leaning(5 * people, eye.USUAL, 9, "guesses"),
        "",
        *trends(5 * people),
    ]


def main() -> None:
    lines = report(int(sys.argv[1]) if len(sys.argv) > 1 else 100)
    before = OUT.read_text("utf-8").split(BEGIN)[0]
    OUT.write_text(before + "\n".join(lines), "utf-8")
    print("\n".join(lines))


if __name__ == "__main__":
    main()
