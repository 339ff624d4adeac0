"""The words in which rules say when they apply."""

from __future__ import annotations

from typing import Final

from dapwick.core.basics.codes import code_words
from dapwick.core.cut.handling import TRAITS, seen_at
from dapwick.core.cut.rule import Whenever
from dapwick.core.head.zones import zone_words


def family(*ids: str) -> Whenever:
    return Whenever(f"{_or(ids)} outline", lambda case: case.family in ids)


def school(key: str, *choices: str) -> Whenever:
    return Whenever(f"{code_words(key)}: {_or(choices)}", lambda case: case.schools.get(key) in choices)


PULLED: Final = Whenever(
    "a pulled or carded head", lambda case: case.family == "natural" and case.coat in ("harsh", "wavy")
)


def coat(*types: str) -> Whenever:
    return Whenever(f"{_or(types)} coat", lambda case: case.coat in types)


def trait(code: str) -> Whenever:
    return Whenever(TRAITS[code].words, lambda case: code in case.traits)


def seen(code: str) -> Whenever:
    return Whenever(f"{TRAITS[code].words} somewhere", lambda case: bool(seen_at(case.traits, code)))


def ears(*carriages: str) -> Whenever:
    return Whenever(f"{_or(carriages)} ears", lambda case: any(one in carriages for one in case.carriage))


def clipped(zone: str) -> Whenever:
    return Whenever(f"{zone_words(zone)} clipped", lambda case: case.clipped(zone))


def blade_on(zone: str) -> Whenever:
    return Whenever(f"a blade on the {zone_words(zone)}", lambda case: case.blade_on(zone))


def thinned(zone: str) -> Whenever:
    return Whenever(f"{zone_words(zone)} carded or thinned", lambda case: case.thinned(zone))


def scissored(zone: str) -> Whenever:
    return Whenever(
        f"{zone_words(zone)} scissored",
        lambda case: bool(case.planned(zone)) and not case.clipped(zone) and not case.thinned(zone),
    )


def comes_off(zone: str) -> Whenever:
    return Whenever(f"something comes off the {zone_words(zone)}", lambda case: case.comes_off(zone))


def longer_now(zone: str, mm: float) -> Whenever:
    return Whenever(
        f"more than {mm:g} mm on the {zone_words(zone)}",
        lambda case: any(z.now_mm > mm for z in case.planned(zone)),
    )


def left_longer(zone: str, mm: float) -> Whenever:
    return Whenever(
        f"more than {mm:g} mm left on the {zone_words(zone)}",
        lambda case: any(z.leave_mm > mm for z in case.planned(zone)),
    )


def _or(words: tuple[str, ...]) -> str:
    return " or ".join(code_words(word) for word in words)
