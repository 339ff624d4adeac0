"""The dogs of the Net Loft: proportions, coats and how each photo was taken. All invented."""

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


FOGBELL_GROWTH = (
    ("crown", 2.6), ("cheek", 2.8), ("beard", 3.0), ("bridge", 1.0), ("visor", 2.7), ("ear", 1.4), ("body", 2.5),
)  # fmt: skip
BOBBIN_GROWTH = (
    ("crown", 2.9), ("cheek", 2.9), ("beard", 2.6), ("bridge", 1.6), ("visor", 2.8), ("ear", 2.4), ("body", 2.6),
)  # fmt: skip
WHITE, CREAM, ASH = (0.80, 0.75, 0.66), (0.66, 0.55, 0.40), (0.40, 0.37, 0.33)
SOOT, BLACK, SLATE = (0.030, 0.027, 0.026), (0.014, 0.012, 0.012), (0.10, 0.10, 0.11)
TAN, RUST, GOLD, WHEAT = (0.40, 0.22, 0.09), (0.26, 0.10, 0.035), (0.52, 0.32, 0.13), (0.60, 0.45, 0.26)

DOGS = {
    "fogbell": Dog(
        name="Fogbell",
        breed="small harsh-coated terrier cross",
        coat_type="standing",
        born="2023-04-02",
        seed=11,
        head=HeadForm(
            skull_width=88,
            skull_length=90,
            muzzle_length=50,
            muzzle_width=42,
            ear_kind="prick",
            ear_length=50,
            ear_spread=33,
            ear_height=27,
        ),
        coat=Coat(
            crown=27,
            cheek=38,
            beard=34,
            bridge=6,
            visor=19,
            ear=7,
            body=40,
            stand=0.82,
            frizz=0.13,
            tones=tones((WHITE, 0.60), (CREAM, 0.28), (ASH, 0.12)),
            skin=(0.30, 0.23, 0.20),
        ),
        finish=Finish(
            (
                ("crown", 20.0),
                ("cheek", 22.0),
                ("beard", 20.0),
                ("bridge", 5.0),
                ("visor", 13.0),
                ("ear", 3.0),
                ("body", 20.0),
            ),
        ),
        growth_mm_week=FOGBELL_GROWTH,
        weeks=(0.0, 6.0, 14.0),
        days=("2026:03:02", "2026:04:13", "2026:06:08"),
        shots=session_shots(
            11,
            820,
            "2026:03:02",
            states=("dry", "wet", "finished"),
            keep=(
                Shot("front", yaw_deg=6, pitch_deg=-3, roll_deg=2, taken="2026:03:02 09:41:10"),
                Shot(
                    "left", yaw_deg=-7, pitch_deg=2, roll_deg=-3, distance_mm=850, taken="2026:03:02 09:42:31"
                ),
            ),
        )
        + session_shots(11, 820, "2026:04:13", visit=1, states=("dry",))
        + session_shots(11, 820, "2026:06:08", visit=2, states=("dry",)),
        wall=(0.30, 0.42, 0.44),
    ),
    "bobbin": Dog(
        name="Bobbin",
        breed="curly water-dog cross",
        coat_type="curl",
        born="2021-09-17",
        seed=23,
        head=HeadForm(
            skull_width=98,
            skull_length=102,
            crown_height=40,
            muzzle_length=70,
            muzzle_width=44,
            muzzle_drop=20,
            eye_spacing=40,
            eye_radius=9.6,
            ear_kind="drop",
            ear_length=84,
            ear_spread=42,
            ear_height=12,
            nose_width=23,
        ),
        coat=Coat(
            crown=40,
            cheek=34,
            beard=30,
            bridge=14,
            visor=26,
            ear=38,
            body=40,
            stand=0.85,
            visor_clear_mm=24,
            curl_mm=4.2,
            curl_pitch_mm=15.0,
            clump=0.72,
            frizz=0.10,
            hairs=130_000,
            radius_mm=0.13,
            tones=tones(((0.50, 0.27, 0.11), 0.6), (GOLD, 0.25), ((0.36, 0.17, 0.06), 0.15)),
            skin=(0.24, 0.14, 0.09),
        ),
        iris=(0.085, 0.035, 0.012),
        finish=Finish(
            (
                ("crown", 27.0),
                ("cheek", 22.0),
                ("beard", 18.0),
                ("bridge", 9.0),
                ("visor", 17.0),
                ("ear", 16.0),
                ("body", 22.0),
            ),
            left_cheek_over_mm=5.0,
        ),
        growth_mm_week=BOBBIN_GROWTH,
        weeks=(0.0, 7.0, 14.0),
        days=("2026:03:04", "2026:04:22", "2026:06:10"),
        shots=session_shots(
            23,
            920,
            "2026:03:04",
            states=("dry", "wet", "finished"),
            keep=(
                Shot(
                    "front",
                    yaw_deg=-5,
                    pitch_deg=2,
                    roll_deg=-2,
                    distance_mm=900,
                    taken="2026:03:04 13:05:42",
                ),
                Shot(
                    "left", yaw_deg=6, pitch_deg=-2, roll_deg=2, distance_mm=950, taken="2026:03:04 13:06:20"
                ),
            ),
        )
        + session_shots(23, 920, "2026:04:22", visit=1, states=("dry",))
        + session_shots(23, 920, "2026:06:10", visit=2, states=("dry",)),
        wall=(0.36, 0.42, 0.50),
    ),
    "tiller": Dog(
        name="Tiller",
        breed="wire-coated terrier",
        coat_type="harsh",
        born="2020-06-11",
        seed=31,
        head=HeadForm(
            skull_width=80,
            skull_length=104,
            crown_height=32,
            muzzle_length=84,
            muzzle_width=38,
            muzzle_drop=14,
            eye_spacing=32,
            eye_radius=7.8,
            stop_depth=5,
            ear_kind="button",
            ear_length=66,
            ear_spread=29,
            ear_height=26,
            nose_width=20,
        ),
        coat=Coat(
            crown=11,
            cheek=12,
            beard=40,
            bridge=12,
            visor=26,
            ear=4,
            body=26,
            stand=0.55,
            frizz=0.16,
            clump=0.55,
            visor_clear_mm=14,
            tones=tones((SOOT, 0.38), (WHEAT, 0.30), (TAN, 0.32)),
            pattern="saddle",
        ),
        shots=session_shots(31, 880, "2026:03:05", cards=("front", "left")),
        wall=(0.55, 0.50, 0.42),
    ),
    "marlin-spike": Dog(
        name="Marlin-Spike",
        breed="wavy-coated herding cross",
        coat_type="wavy",
        born="2022-02-19",
        seed=43,
        head=HeadForm(
            skull_width=92,
            skull_length=112,
            crown_height=35,
            muzzle_length=92,
            muzzle_width=38,
            muzzle_drop=15,
            eye_spacing=37,
            eye_radius=8.6,
            stop_depth=5,
            ear_kind="tipped",
            ear_length=64,
            ear_spread=34,
            ear_height=29,
            nose_width=22,
        ),
        coat=Coat(
            crown=16,
            cheek=40,
            beard=20,
            bridge=4,
            visor=9,
            ear=14,
            body=58,
            stand=0.42,
            curl_mm=2.6,
            curl_pitch_mm=30,
            clump=0.62,
            visor_clear_mm=10,
            sag_per_mm=0.003,
            radius_mm=0.10,
            tones=tones((BLACK, 0.72), (SOOT, 0.20), (SLATE, 0.08)),
            skin=(0.05, 0.045, 0.045),
        ),
        shots=session_shots(43, 980, "2026:03:06"),
        wall=(0.62, 0.60, 0.54),
        iris=(0.11, 0.055, 0.018),
    ),
    "squall": Dog(
        name="Squall",
        breed="short-faced companion cross",
        coat_type="fine_drop",
        born="2022-11-30",
        seed=53,
        head=HeadForm(
            skull_width=94,
            skull_length=84,
            crown_height=38,
            muzzle_length=32,
            muzzle_width=46,
            muzzle_drop=13,
            eye_spacing=44,
            eye_radius=10.4,
            stop_depth=14,
            ear_kind="drop",
            ear_length=58,
            ear_spread=42,
            ear_height=16,
            nose_width=22,
        ),
        coat=Coat(
            crown=44,
            cheek=48,
            beard=42,
            bridge=16,
            visor=34,
            ear=66,
            body=64,
            stand=0.30,
            sag_per_mm=0.0045,
            clump=0.60,
            frizz=0.05,
            visor_clear_mm=26,
            radius_mm=0.085,
            hairs=140_000,
            tones=tones((WHITE, 0.55), (WHEAT, 0.35), (GOLD, 0.10)),
            pattern="parti",
            skin=(0.28, 0.20, 0.17),
        ),
        shots=session_shots(53, 780, "2026:03:09", cards=("left",)),
        wall=(0.22, 0.30, 0.36),
        iris=(0.040, 0.018, 0.009),
    ),
    "ratline": Dog(
        name="Ratline",
        breed="spaniel and setter cross",
        coat_type="wavy",
        born="2019-08-04",
        seed=61,
        head=HeadForm(
            skull_width=90,
            skull_length=106,
            crown_height=37,
            muzzle_length=76,
            muzzle_width=43,
            muzzle_drop=18,
            eye_spacing=38,
            eye_radius=9.4,
            stop_depth=11,
            ear_kind="drop",
            ear_length=92,
            ear_spread=40,
            ear_height=8,
            nose_width=23,
            left=(("ear_height", -6.0), ("cheek_bulge", 4.0), ("eye_lift", -2.0), ("ear_length", 6.0)),
        ),
        coat=Coat(
            crown=22,
            cheek=16,
            beard=14,
            bridge=4,
            visor=9,
            ear=42,
            body=34,
            stand=0.40,
            curl_mm=2.2,
            curl_pitch_mm=26,
            clump=0.6,
            visor_clear_mm=9,
            sag_per_mm=0.003,
            tones=tones((WHITE, 0.5), (RUST, 0.4), (TAN, 0.1)),
            pattern="parti",
            skin=(0.22, 0.15, 0.12),
        ),
        shots=session_shots(61, 940, "2026:03:10"),
        wall=(0.42, 0.46, 0.40),
        leather=(0.055, 0.026, 0.018),
        iris=(0.12, 0.05, 0.016),
    ),
    "halyard": Dog(
        name="Halyard",
        breed="old sighthound cross, thin-coated",
        coat_type="fine_drop",
        born="2012-05-23",
        seed=71,
        head=HeadForm(
            skull_width=78,
            skull_length=108,
            crown_height=30,
            muzzle_length=96,
            muzzle_width=35,
            muzzle_drop=14,
            eye_spacing=34,
            eye_radius=8.2,
            stop_depth=4,
            ear_kind="button",
            ear_length=58,
            ear_spread=27,
            ear_height=21,
            nose_width=20,
        ),
        coat=Coat(
            crown=13,
            cheek=15,
            beard=12,
            bridge=3,
            visor=7,
            ear=12,
            body=24,
            stand=0.32,
            frizz=0.11,
            clump=0.45,
            hairs=62_000,
            visor_clear_mm=9,
            sag_per_mm=0.003,
            tones=tones((SLATE, 0.45), (ASH, 0.35), (WHITE, 0.20)),
            pattern="frosted",
            skin=(0.20, 0.16, 0.145),
        ),
        shots=session_shots(71, 960, "2026:03:11"),
        wall=(0.58, 0.52, 0.48),
        iris=(0.05, 0.035, 0.028),
    ),
    "kelpie-jo": Dog(
        name="Kelpie-Jo",
        breed="woolly puppy of three kinds, five months",
        coat_type="standing",
        born="2025-10-14",
        seed=83,
        head=HeadForm(
            skull_width=80,
            skull_length=78,
            crown_height=38,
            muzzle_length=40,
            muzzle_width=38,
            muzzle_drop=13,
            eye_spacing=36,
            eye_radius=9.4,
            stop_depth=13,
            ear_kind="tipped",
            ear_length=56,
            ear_spread=31,
            ear_height=24,
            nose_width=19,
        ),
        coat=Coat(
            crown=22,
            cheek=26,
            beard=20,
            bridge=6,
            visor=15,
            ear=10,
            body=34,
            stand=0.72,
            frizz=0.20,
            clump=0.40,
            visor_clear_mm=13,
            radius_mm=0.09,
            hairs=140_000,
            tones=tones((SOOT, 0.30), (RUST, 0.30), (TAN, 0.40)),
            pattern="saddle",
            skin=(0.10, 0.07, 0.055),
        ),
        shots=session_shots(83, 760, "2026:03:12"),
        wall=(0.46, 0.56, 0.60),
        iris=(0.07, 0.03, 0.012),
    ),
    "capstan": Dog(
        name="Capstan",
        breed="stocky woolly farm cross",
        coat_type="standing",
        born="2021-05-20",
        seed=97,
        head=HeadForm(
            skull_width=98,
            skull_length=96,
            crown_height=38,
            muzzle_length=56,
            muzzle_width=46,
            eye_spacing=40,
            stop_depth=9,
            ear_kind="prick",
            ear_length=46,
            ear_spread=36,
            ear_height=27,
            cheek_bulge=2,
            nose_width=23,
        ),
        coat=Coat(
            crown=31,
            cheek=40,
            beard=36,
            bridge=7,
            visor=22,
            ear=8,
            body=42,
            stand=0.80,
            frizz=0.15,
            tones=tones((WHEAT, 0.45), (GOLD, 0.35), (CREAM, 0.20)),
            skin=(0.26, 0.19, 0.15),
        ),
        shots=session_shots(97, 820, "2026:03:13"),
        wall=(0.26, 0.36, 0.30),
    ),
}
