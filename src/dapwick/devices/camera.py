"""The simulated camera: frames of a fidgeting dog, behind the same interface as the browser's camera."""

from __future__ import annotations

import json
from dataclasses import dataclass
from functools import cached_property
from pathlib import Path

from dapwick.core.basics.errors import NotFound


@dataclass(frozen=True)
class Frame:
    """One frame of the film and how the dog really held its head in it (degrees, mm)."""

    file: str
    view: str
    state: str
    yaw_deg: float
    pitch_deg: float
    roll_deg: float
    distance_mm: float
    blur_px: float


class SimulatedCamera:
    """Plays the frames of one view and state over and over. folder: JPEGs and frames.json."""

    def __init__(self, folder: Path) -> None:
        self._folder = folder

    @cached_property
    def frames(self) -> tuple[Frame, ...]:
        frames = json.loads((self._folder / "frames.json").read_text("utf-8"))
        return tuple(Frame(**frame) for frame in frames)

    def film(self, view: str, state: str) -> tuple[Frame, ...]:
        """Frames shown while the camera is pointed for this slot; another state where there are none."""
        film = [f for f in self.frames if (f.view, f.state) == (view, state)]
        film = film or [f for f in self.frames if f.view == view]
        if not film:
            raise NotFound("simulated frame of this view", view)
        return tuple(film)

    def frame(self, view: str, state: str, tick: int) -> bytes:
        """The JPEG shown at a tick, EXIF included, as a photo taken then would be."""
        film = self.film(view, state)
        return (self._folder / film[tick % len(film)].file).read_bytes()
