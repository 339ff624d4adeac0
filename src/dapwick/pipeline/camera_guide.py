"""The live guide of the camera: level, turn, nod, distance and sharpness of one frame."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

import numpy as np

from dapwick.core.basics.marks import View
from dapwick.core.solve.joint import HeadSolution, solve_head
from dapwick.core.solve.observations import HeadInput
from dapwick.core.solve.problem import Tolerances
from dapwick.pipeline.review import guessed_photo
from dapwick.vision.guess import Guess, NoGuess, guess_marks
from dapwick.vision.photo import Pixels
from dapwick.vision.quality import BLURRED_BELOW, box_of, quality_of

LEVEL_WITHIN_DEG: Final = 7.0
TURN_WITHIN_DEG: Final = 12.0
NOD_WITHIN_DEG: Final = 11.0
LEAST_FILL, MOST_FILL = 0.28, 0.62
ANOTHER_VIEW_BELOW: Final = 0.12
EYES_AND_NOSE: Final = ("eye_inner_left", "eye_inner_right", "eye_outer_left", "eye_outer_right", "nose_tip")
QUICK: Final = Tolerances(ftol=1e-3, rounds=12)


@dataclass(frozen=True)
class Advice:
    """One thing of the guide: fine as it is, or what to do."""

    code: str
    words: str
    fine: bool


@dataclass(frozen=True)
class Guidance:
    """What the guide says of a frame. Angles are those of the head against the wanted view, degrees;
    fill: the marks' span over the frame's height; at: eyes and nose, shares of width and height."""

    found: bool
    advice: tuple[Advice, ...]
    level_deg: float = 0.0
    turn_deg: float = 0.0
    nod_deg: float = 0.0
    fill: float = 0.0
    sharpness: float = 0.0
    at: tuple[tuple[float, float], ...] = ()

    @property
    def good(self) -> bool:
        return self.found and all(a.fine for a in self.advice)


def guidance(rgb: Pixels, view: View) -> Guidance:
    """What the guide says of a frame while the camera is pointed for a view."""
    guess = guess_marks(rgb, view)
    if isinstance(guess, NoGuess):
        return Guidance(False, (Advice("no_dog", "No dog in sight yet.", False),))
    height, width = rgb.shape[:2]
    marks = {m: (a.x_px, a.y_px) for m, a in guess.marks.items()}
    at = np.array(list(marks.values()))
    fill = float(np.ptp(at, axis=0).max() / height)
    sharpness = quality_of(rgb, box_of(marks, 0.1)).sharpness
    yaw, pitch, roll = _angles(guess, view, width, height)
    return Guidance(
        True,
        _advice(guess, view, yaw, pitch, roll, fill, sharpness),
        roll,
        yaw,
        pitch,
        fill,
        sharpness,
        tuple((marks[m][0] / width, marks[m][1] / height) for m in EYES_AND_NOSE if m in marks),
    )


def _angles(guess: Guess, view: View, width: int, height: int) -> tuple[float, float, float]:
    photo = guessed_photo("frame", view, (width, height), None, guess.marks)
    head = solve_head(HeadInput((photo,)), QUICK)
    return head.cameras[0].angles_deg(view) if isinstance(head, HeadSolution) else (0.0, 0.0, 0.0)


def _advice(
    guess: Guess, view: View, yaw: float, pitch: float, roll: float, fill: float, sharpness: float
) -> tuple[Advice, ...]:
    turned = abs(yaw) > TURN_WITHIN_DEG or guess.view_chances[view] < ANOTHER_VIEW_BELOW
    size = "Go nearer." if fill < LEAST_FILL else "Go farther back."
    return (
        Advice(
            "level",
            "Level" if abs(roll) <= LEVEL_WITHIN_DEG else "Tilt: level the camera with the eyes.",
            abs(roll) <= LEVEL_WITHIN_DEG,
        ),
        Advice("turn", "Turn" if not turned else "Turned away: wait, or move round.", not turned),
        Advice(
            "nod",
            "Nod" if abs(pitch) <= NOD_WITHIN_DEG else "Nose up or down: lens level with the eye.",
            abs(pitch) <= NOD_WITHIN_DEG,
        ),
        Advice(
            "distance",
            "Distance" if LEAST_FILL <= fill <= MOST_FILL else size,
            LEAST_FILL <= fill <= MOST_FILL,
        ),
        Advice(
            "sharp",
            "Sharp" if sharpness >= BLURRED_BELOW else "Blurred: hold still.",
            sharpness >= BLURRED_BELOW,
        ),
    )
