"""What a dog minds, how it is, what its skin and coat are like: what a plan must know besides lengths."""

from __future__ import annotations

from collections.abc import Collection, Iterable
from dataclasses import dataclass
from typing import Final, Literal

from dapwick.core.basics.errors import BadInput
from dapwick.core.plan.kit import SkinLimits

About = Literal["minds", "dog", "coat", "skin"]
MUZZLE: Final = ("bridge", "muzzle_side", "lip_line", "lip_fold", "chin")
EYES: Final = ("stop", "inner_corner", "brow", "visor")
EARS: Final = ("ear_outside", "ear_inside", "ear_edge", "ear_base_front", "ear_base_rear", "ear_canal")


@dataclass(frozen=True)
class Trait:
    """zones: where it matters; clippers: it is the machine that is minded; pause_min: hands off at least after
    so many minutes; slower: how many times longer each step takes."""

    code: str
    words: str
    about: About
    zones: tuple[str, ...] = ()
    clippers: bool = False
    pause_min: float | None = None
    slower: float = 1.0


TRAITS: Final = {
    trait.code: trait
    for trait in (
        Trait("minds_muzzle", "minds its muzzle", "minds", MUZZLE),
        Trait("minds_eyes", "minds its eyes", "minds", EYES),
        Trait("minds_ears", "minds its ears", "minds", EARS),
        Trait("minds_whiskers", "cannot bear whiskers touched", "minds", ("muzzle_side", "cheek")),
        Trait("minds_clipper", "minds the clipper", "minds", clippers=True),
        Trait("snaps", "snaps", "dog", (*MUZZLE, *EYES), slower=1.2),
        Trait("sways", "fidgets and sways", "dog", slower=1.2),
        Trait("pants", "pants", "dog", pause_min=5.0),
        Trait("tires", "tires soon", "dog", pause_min=8.0),
        Trait("puppy", "puppy", "dog", pause_min=6.0, slower=1.2),
        Trait("old", "old", "dog", pause_min=8.0, slower=1.2),
        Trait("ill", "ill or in pain", "dog", pause_min=5.0, slower=1.2),
        Trait("flat_face", "flat-faced", "dog", pause_min=5.0),
        Trait("first_time", "first time", "skin", slower=1.2),
        Trait("long_ungroomed", "long ungroomed", "skin", slower=1.2),
        Trait("white_coat", "white coat", "skin"),
        Trait("thin_coat", "thin coat", "skin"),
        Trait("skin_trouble", "skin has been sore", "skin"),
        Trait("ear_trouble", "ears smell or hurt", "skin", EARS),
        Trait("eye_trouble", "eyes run", "skin", EYES),
        Trait("mats", "mats", "coat", slower=1.2),
    )
}


GROWS_UP: Final = ("crown", "visor", "brow", "chin", "ear_outside", "ear_edge")
"""Where a puppy's hair grows into the adult's shape: what is cut there now is missed then."""


def checked_traits(codes: Iterable[str]) -> tuple[str, ...]:
    """The codes, each once, in the list's own order; unknown ones are refused."""
    given = set(codes)
    unknown = sorted(given - TRAITS.keys())
    if unknown:
        raise BadInput("unknown", expected=", ".join(TRAITS), got=unknown[0], where="handling")
    return tuple(code for code in TRAITS if code in given)


def minded(codes: Collection[str], zones: Iterable[str], clippers: bool) -> tuple[Trait, ...]:
    """What makes work on these zones hard for the dog."""
    there = set(zones)
    traits = [TRAITS[code] for code in codes]
    return tuple(t for t in traits if there & set(t.zones) or (clippers and t.clippers))


def pause_after_min(codes: Collection[str]) -> float | None:
    """Minutes of work after which this dog wants its hands-off; None for one that needs no planned breaks."""
    pauses = [t.pause_min for t in (TRAITS[code] for code in codes) if t.pause_min is not None]
    return min(pauses) if pauses else None


def slower(codes: Collection[str]) -> float:
    """How many times longer everything takes, by the trait that costs most."""
    return max((TRAITS[code].slower for code in codes), default=1.0)


@dataclass(frozen=True)
class Closest:
    """The closest any blade may go on this skin, mm, and the reason."""

    mm: float
    why: str


def closest_on(codes: Collection[str], quiet_visits: int, limits: SkinLimits) -> Closest:
    """Limits on how close to clip: the strictest that applies. quiet_visits: earlier visits on which the head was
    clipped and the skin stayed quiet."""
    steps = (limits.first_mm, *limits.then_mm)
    at = min(quiet_visits, len(steps) - 1)
    why = "clipped before and quiet" if quiet_visits else "not clipped here before"
    found = [Closest(steps[at], why)]
    if {"first_time", "long_ungroomed"} & set(codes):
        found.append(Closest(limits.first_mm, "first time, or long ungroomed: the skin is not used to it"))
    if {"white_coat", "thin_coat"} & set(codes):
        found.append(Closest(limits.white_mm, "white or thin coat: pink would show through"))
    if "skin_trouble" in codes:
        found.append(
            Closest(limits.sore_mm, "the skin has been sore: a longer blade, and a vet where in doubt")
        )
    return max(found, key=lambda c: c.mm)


def quiet_visits(visits: Iterable[tuple[bool, bool]]) -> int:
    """Visits on which the head was clipped since its skin was last red; each as (clipped, redness), oldest first."""
    quiet = 0
    for clipped, red in visits:
        quiet = 0 if red else quiet + clipped
    return quiet
