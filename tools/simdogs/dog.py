"""What makes a simulated dog: proportions, coat, how each photo was taken."""

from __future__ import annotations

from dataclasses import dataclass, field, replace

import numpy as np

Vec = tuple[float, float, float]


@dataclass(frozen=True)
class HeadForm:
    """Bone and skin, mm. Lengths run along the head frame's axes. `left` holds what the left side has
    more of than the right, by parameter."""

    skull_width: float = 86.0
    skull_length: float = 92.0
    crown_height: float = 36.0
    muzzle_length: float = 52.0
    muzzle_width: float = 40.0
    muzzle_drop: float = 16.0
    nose_width: float = 21.0
    eye_spacing: float = 36.0
    eye_radius: float = 8.8
    eye_lift: float = 0.0
    stop_depth: float = 8.0
    ear_kind: str = "prick"
    ear_length: float = 52.0
    ear_spread: float = 30.0
    ear_height: float = 24.0
    ear_lean: float = 14.0
    ear_wide: float = 1.0
    cheek_bulge: float = 0.0
    left: tuple[tuple[str, float], ...] = ()


def side_of(head: HeadForm, side: float) -> HeadForm:
    """The proportions of one side (+1 right, -1 left)."""
    return replace(head, left=(), **{k: getattr(head, k) + v for k, v in head.left}) if side < 0 else head


@dataclass(frozen=True)
class Tone:
    """One colour of hair (linear reflectance) and how much of the coat has it."""

    colour: Vec
    share: float


REGIONS = ("crown", "cheek", "beard", "bridge", "visor", "ear", "body")


@dataclass(frozen=True)
class Coat:
    """Hair length by region (mm), how it stands, its colours. pattern: see `patterns.py`."""

    crown: float = 26.0
    cheek: float = 34.0
    beard: float = 34.0
    bridge: float = 7.0
    visor: float = 20.0
    ear: float = 6.0
    body: float = 38.0
    stand: float = 0.8
    visor_clear_mm: float = 17.0
    curl_mm: float = 0.0
    curl_pitch_mm: float = 9.0
    sag_per_mm: float = 0.0012
    clump: float = 0.45
    frizz: float = 0.10
    hairs: int = 120_000
    radius_mm: float = 0.11
    tones: tuple[Tone, ...] = (Tone((0.5, 0.4, 0.3), 1.0),)
    pattern: str = "mixed"
    skin: Vec = (0.16, 0.13, 0.11)


@dataclass(frozen=True)
class Finish:
    """A cut: depth over skin left by region (mm), and what went wrong with it (mm too long by place)."""

    depth_mm: tuple[tuple[str, float], ...]
    left_cheek_over_mm: float = 0.0
    hand_mm: float = 0.8


@dataclass(frozen=True)
class Shot:
    """One photo: where the camera stood, how the head was turned, and the state of the coat."""

    view: str
    distance_mm: float = 800.0
    focal_px: float = 2900.0
    yaw_deg: float = 0.0
    pitch_deg: float = 0.0
    roll_deg: float = 0.0
    aim: Vec = (0.0, -15.0, -12.0)
    warmth: float = 1.0
    taken: str = "2026:03:02 09:40:00"
    state: str = "dry"
    visit: int = 0
    card: bool = False
    light: float = 1.0
    blur_px: float = 0.0


@dataclass(frozen=True)
class Dog:
    """weeks: when each visit was; between them the coat grows from `finish` by growth_mm_week."""

    name: str
    breed: str
    coat_type: str
    born: str
    head: HeadForm
    coat: Coat
    shots: tuple[Shot, ...]
    seed: int
    wall: Vec = (0.56, 0.60, 0.58)
    iris: Vec = (0.060, 0.026, 0.010)
    leather: Vec = (0.016, 0.014, 0.015)
    finish: Finish | None = None
    growth_mm_week: tuple[tuple[str, float], ...] = ()
    weeks: tuple[float, ...] = (0.0,)
    days: tuple[str, ...] = ("2026:03:02",)
    calliper: dict[str, float] = field(default_factory=dict)


def coat_at(dog: Dog, visit: int) -> Coat:
    """The coat as it comes in at a visit: the first as described, later ones grown since the last cut."""
    if visit == 0 or dog.finish is None:
        return dog.coat
    since = dog.weeks[visit] - dog.weeks[visit - 1]
    rate = dict(dog.growth_mm_week)
    left = dict(dog.finish.depth_mm)
    return replace(dog.coat, **{r: left[r] / dog.coat.stand + rate[r] * since for r in left})


WET_ALSO = ("front", "left", "top")


def session_shots(
    seed: int,
    distance_mm: float,
    day: str,
    visit: int = 0,
    states: tuple[str, ...] = ("dry", "wet"),
    cards: tuple[str, ...] = (),
    keep: tuple[Shot, ...] = (),
    views: tuple[str, ...] = ("front", "left", "right", "top"),
) -> tuple[Shot, ...]:
    """A visit's photos as a busy hand takes them: head a little turned, light a little different."""
    rng = np.random.default_rng(seed * 17 + visit)
    shots, minute = [], 40
    for state in states:
        hour = {"dry": 9, "wet": 10, "finished": 11}[state]
        for view in views if state != "wet" else WET_ALSO:
            minute += 1
            yaw, pitch, roll = rng.normal(0, [5.0, 3.0, 2.5])
            shot = Shot(
                view,
                distance_mm=distance_mm * rng.uniform(0.92, 1.1),
                yaw_deg=round(float(yaw), 1),
                pitch_deg=round(float(pitch), 1),
                roll_deg=round(float(roll), 1),
                warmth=round(float(rng.uniform(0.94, 1.08)), 3),
                light=round(float(rng.uniform(0.85, 1.1)), 3),
                taken=f"{day} {hour:02d}:{minute % 60:02d}:{rng.integers(60):02d}",
                state=state,
                visit=visit,
                card=state == "dry" and view in cards,
            )
            kept = [k for k in keep if (k.view, k.state) == (view, state)]
            shots.append(kept[0] if kept else shot)
    return tuple(shots)


def tones(*pairs: tuple[Vec, float]) -> tuple[Tone, ...]:
    return tuple(Tone(c, s) for c, s in pairs)
