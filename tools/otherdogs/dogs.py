"""The dogs of the other hand, and how each was photographed."""

from __future__ import annotations

from dataclasses import dataclass

from dapwick.core.basics.marks import View

from .heads import OtherHead
from .paint import OtherCoat, OtherShot


@dataclass(frozen=True)
class OtherDog:
    name: str
    head: OtherHead
    coat: OtherCoat
    seed: int


WHITE, INK = (0.92, 0.91, 0.90), (0.12, 0.11, 0.12)
DOGS = (
    OtherDog("anchor", OtherHead(), OtherCoat(), 1),
    OtherDog(
        "buoy",
        OtherHead(
            wide=84, muzzle_long=78, muzzle_wide=36, muzzle_high=30, ear="prick", ear_long=72, ear_wide=44
        ),
        OtherCoat(long=26, stand=0.65, main=WHITE, muzzle=WHITE),
        2,
    ),
    OtherDog(
        "capstan",
        OtherHead(
            wide=104, long=92, muzzle_long=34, muzzle_wide=56, muzzle_high=42, eye_apart=62, eye_mm=11,
            ear="prick", ear_long=48, ear_wide=40,
        ),
        OtherCoat(long=9, wide=3.5, stand=0.25, main=(0.72, 0.55, 0.36), muzzle=(0.16, 0.13, 0.12)),
        3,
    ),
    OtherDog(
        "dinghy",
        OtherHead(wide=88, muzzle_long=58, ear="drop", ear_long=92, ear_wide=40),
        OtherCoat(
            long=20, wide=4.5, stand=0.6, main=INK, patch=WHITE, muzzle=WHITE, patched=0.35, curl=1.2
        ),
        4,
    ),
    OtherDog(
        "ensign",
        OtherHead(
            wide=80, high=68, muzzle_long=50, muzzle_wide=38, eye_apart=44, ear="side", ear_long=60, ear_wide=30
        ),
        OtherCoat(
            long=30, wide=6, stand=0.45, main=(0.48, 0.47, 0.50), muzzle=(0.66, 0.64, 0.62), patched=0.15
        ),
        5,
    ),
    OtherDog(
        "fender",
        OtherHead(wide=96, high=80, muzzle_long=70, muzzle_wide=50, ear="drop", ear_long=60, ear_wide=46),
        OtherCoat(
            long=14, wide=4, stand=0.3, main=(0.45, 0.25, 0.13), patch=(0.85, 0.78, 0.70),
            muzzle=(0.42, 0.24, 0.13), patched=0.2,
        ),
        6,
    ),
)  # fmt: skip
VIEWS: tuple[View, ...] = (
    "front",
    "left",
    "right",
    "top",
    "three_quarter_left",
    "three_quarter_right",
    "back",
)


def shots(dog: OtherDog) -> list[OtherShot]:
    """Seven views, dry; front and both sides wet too; each a little off."""
    off = [(7 * ((dog.seed * k) % 5 - 2) / 2, 5 * ((dog.seed + k) % 5 - 2) / 2) for k in range(1, 12)]
    dry = [OtherShot(v, 640 + 30 * k, *off[k]) for k, v in enumerate(VIEWS)]
    return dry + [OtherShot(v, 690, *off[7 + k], wet=True) for k, v in enumerate(("front", "left", "right"))]
