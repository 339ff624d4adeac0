"""The dogs of the Net Loft: proportions, coats and how each photo was taken. All invented."""

from __future__ import annotations

from dataclasses import dataclass, field

Vec = tuple[float, float, float]


@dataclass(frozen=True)
class HeadForm:
    """Bone and skin, mm. Lengths run along the head frame's axes."""

    skull_width: float = 86.0
    skull_length: float = 92.0
    crown_height: float = 36.0
    muzzle_length: float = 52.0
    muzzle_width: float = 40.0
    muzzle_drop: float = 16.0
    eye_spacing: float = 36.0
    eye_radius: float = 8.8
    stop_depth: float = 8.0
    ear_kind: str = "prick"
    ear_length: float = 52.0
    ear_spread: float = 30.0
    ear_height: float = 24.0
    cheek_bulge_left: float = 0.0


@dataclass(frozen=True)
class Coat:
    """Hair length by region (mm) and how it stands."""

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
    tones: tuple[tuple[float, float, float], ...] = ((0.2, 0.1, 1.0),)
    skin: Vec = (0.16, 0.13, 0.11)


@dataclass(frozen=True)
class Shot:
    """One photo: where the camera stood and how the head was turned."""

    view: str
    distance_mm: float = 800.0
    focal_px: float = 2900.0
    yaw_deg: float = 0.0
    pitch_deg: float = 0.0
    roll_deg: float = 0.0
    aim: Vec = (0.0, -15.0, -12.0)
    warmth: float = 1.0
    taken: str = "2026:03:02 09:40:00"


@dataclass(frozen=True)
class Dog:
    name: str
    breed: str
    coat_type: str
    born: str
    head: HeadForm
    coat: Coat
    shots: tuple[Shot, ...]
    seed: int
    wall: Vec = (0.56, 0.60, 0.58)
    calliper: dict[str, float] = field(default_factory=dict)


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
            tones=((0.015, 0.02, 0.60), (0.04, 0.06, 0.28), (0.16, 0.12, 0.12)),
            frizz=0.13,
        ),
        shots=(
            Shot("front", yaw_deg=6, pitch_deg=-3, roll_deg=2, taken="2026:03:02 09:41:10"),
            Shot("left", yaw_deg=-7, pitch_deg=2, roll_deg=-3, distance_mm=850, taken="2026:03:02 09:42:31"),
        ),
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
            tones=((0.015, 0.32, 0.6), (0.01, 0.18, 0.25), (0.03, 0.48, 0.15)),
            skin=(0.30, 0.19, 0.12),
        ),
        shots=(
            Shot("front", yaw_deg=-5, pitch_deg=2, roll_deg=-2, distance_mm=900, taken="2026:03:04 13:05:42"),
            Shot("left", yaw_deg=6, pitch_deg=-2, roll_deg=2, distance_mm=950, taken="2026:03:04 13:06:20"),
        ),
        wall=(0.36, 0.42, 0.50),
    ),
}
