"""What a dog minds, how it is, what its skin and coat are like: what a plan must know besides lengths."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Mapping
from dataclasses import dataclass
from typing import Final, Literal

from dapwick.core.basics.errors import BadInput
from dapwick.core.plan.kit import SkinLimits

About = Literal["minds", "dog", "coat", "skin", "seen", "life"]
AT: Final = "@"
"""Between what is seen in the coat and the zone where: stain@muzzle_side."""
MUZZLE: Final = ("bridge", "muzzle_side", "lip_line", "lip_fold", "chin")
EYES: Final = ("stop", "inner_corner", "brow", "visor")
EARS: Final = ("ear_outside", "ear_inside", "ear_edge", "ear_base_front", "ear_base_rear", "ear_canal")


@dataclass(frozen=True)
class Trait:
    """zones: where it matters; clippers: it is the machine that is minded; pause_min: hands off at least after
    so many minutes; slower: how many times longer each step takes; places: zones at which it may be seen and
    which are said with it."""

    code: str
    words: str
    about: About
    zones: tuple[str, ...] = ()
    clippers: bool = False
    pause_min: float | None = None
    slower: float = 1.0
    places: tuple[str, ...] = ()


TOP_PLACES: Final = ("crown", "visor", "back_skull", "nape")
FACE_PLACES: Final = ("muzzle_side", "chin", "cheek", "jaw", "throat")
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
        Trait("slow_coat", "coat grows slowly", "coat"),
        Trait("parting", "parts by itself", "seen", places=TOP_PLACES),
        Trait("cowlick", "cowlick", "seen", places=(*TOP_PLACES, "brow", "cheek")),
        Trait("whorl", "hair turns in a whorl", "seen", places=(*FACE_PLACES, "nape")),
        Trait("stain", "stain", "seen", places=("inner_corner", "muzzle_side", "chin")),
        Trait("lip_knots", "knots at the lip", "seen", places=("lip_line", "chin")),
        Trait("whiskers_hold", "whiskers hold the hair up", "seen", places=("muzzle_side", "chin")),
        Trait("thin_patch", "thin patch", "seen", places=(*TOP_PLACES, *FACE_PLACES, "temple", "brow")),
        Trait("harsh_patch", "harsh patch", "seen", places=(*TOP_PLACES, *FACE_PLACES, "temple", "brow")),
        Trait(
            "short_place",
            "cut short by someone",
            "seen",
            places=(*TOP_PLACES, *FACE_PLACES, "temple", "brow"),
        ),
        Trait("sun", "strong sun", "life"),
        Trait("cold", "cold weather", "life"),
        Trait("mud", "works in mud and brush", "life"),
    )
}


GROWS_UP: Final = ("crown", "visor", "brow", "chin", "ear_outside", "ear_edge")
"""Where a puppy's hair grows into the adult's shape, and a slow coat's is missed longest."""
KEEPS_GROWING: Final[Mapping[str, str]] = {
    "puppy": "left: a puppy grows into the adult shape here, and what is cut now is missed then",
    "slow_coat": "left: this coat grows slowly, and what is cut here is missed for months",
}
"""Who keeps hair there, and the reason that is told."""


def checked_traits(codes: Iterable[str]) -> tuple[str, ...]:
    """The codes, each once, in the list's own order; unknown ones are refused."""
    given = set(codes)
    known = {one for trait in TRAITS.values() for one in _sayable(trait)}
    unknown = sorted(given - known)
    if unknown:
        raise BadInput("unknown", expected=_expected(unknown[0]), got=unknown[0], where="handling")
    return tuple(one for trait in TRAITS.values() for one in _sayable(trait) if one in given)


def _sayable(trait: Trait) -> tuple[str, ...]:
    """The codes by which a trait is said: with each of its places, where it has any."""
    return tuple(f"{trait.code}{AT}{place}" for place in trait.places) or (trait.code,)


def _expected(code: str) -> str:
    trait = TRAITS.get(code.split(AT)[0])
    return ", ".join(one for t in ([trait] if trait else TRAITS.values()) for one in _sayable(t))


def seen_at(codes: Collection[str], code: str) -> tuple[str, ...]:
    """The zones at which something is seen in the coat."""
    return tuple(said.split(AT)[1] for said in codes if said.startswith(f"{code}{AT}"))


def _traits(codes: Iterable[str]) -> list[Trait]:
    return [TRAITS[code.split(AT)[0]] for code in codes]


def minded(codes: Collection[str], zones: Iterable[str], clippers: bool) -> tuple[Trait, ...]:
    """What makes work on these zones hard for the dog."""
    there = set(zones)
    return tuple(t for t in _traits(codes) if there & set(t.zones) or (clippers and t.clippers))


def pause_after_min(codes: Collection[str]) -> float | None:
    """Minutes of work after which this dog wants its hands-off; None for one that needs no planned breaks."""
    pauses = [t.pause_min for t in _traits(codes) if t.pause_min is not None]
    return min(pauses) if pauses else None


def slower(codes: Collection[str]) -> float:
    """How many times longer everything takes, by the trait that costs most."""
    return max((trait.slower for trait in _traits(codes)), default=1.0)


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
    if {"sun", "mud"} & set(codes):
        found.append(Closest(limits.sore_mm, "sun or brush: the skin keeps its cover"))
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
