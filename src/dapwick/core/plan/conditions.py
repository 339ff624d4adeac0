"""The words in which rules say when they apply."""

from __future__ import annotations

from dapwick.core.plan.handling import TRAITS
from dapwick.core.plan.rule import Whenever


def family(*ids: str) -> Whenever:
    return Whenever(f"{_or(ids)} outline", lambda case: case.family in ids)


def school(key: str, *choices: str) -> Whenever:
    return Whenever(f"{key.replace('_', ' ')}: {_or(choices)}", lambda case: case.schools.get(key) in choices)


def coat(*types: str) -> Whenever:
    return Whenever(f"{_or(types)} coat", lambda case: case.coat in types)


def trait(code: str) -> Whenever:
    return Whenever(TRAITS[code].words, lambda case: code in case.traits)


def ears(*carriages: str) -> Whenever:
    return Whenever(f"{_or(carriages)} ears", lambda case: any(one in carriages for one in case.carriage))


def clipped(zone: str) -> Whenever:
    return Whenever(f"{_named(zone)} clipped", lambda case: case.clipped(zone))


def thinned(zone: str) -> Whenever:
    return Whenever(f"{_named(zone)} carded or thinned", lambda case: case.thinned(zone))


def scissored(zone: str) -> Whenever:
    return Whenever(
        f"{_named(zone)} scissored",
        lambda case: bool(case.planned(zone)) and not case.clipped(zone) and not case.thinned(zone),
    )


def comes_off(zone: str) -> Whenever:
    return Whenever(f"something comes off the {_named(zone)}", lambda case: case.comes_off(zone))


def longer_now(zone: str, mm: float) -> Whenever:
    return Whenever(
        f"more than {mm:g} mm on the {_named(zone)}",
        lambda case: any(z.now_mm > mm for z in case.planned(zone)),
    )


def left_longer(zone: str, mm: float) -> Whenever:
    return Whenever(
        f"more than {mm:g} mm left on the {_named(zone)}",
        lambda case: any(z.leave_mm > mm for z in case.planned(zone)),
    )


def _or(words: tuple[str, ...]) -> str:
    return " or ".join(word.replace("_", " ") for word in words)


def _named(zone: str) -> str:
    return zone.replace("_", " ")
