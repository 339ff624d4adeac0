"""How well photos from outside are seen: a folder of pictures with a marks.json beside them.

python tools/outside.py FOLDER [--draw OUT]

marks.json holds {picture's name without ending: {mark: [x, y]}}; `eye_left` and `eye_right` are eyes' centres. A true
mask NAME.mask.png (white is dog) gives the overlap too. --draw writes each picture with its edge and guesses on it.
"""

from __future__ import annotations

import argparse
import json
import time
from pathlib import Path

import cv2
import numpy as np

from dapwick.core.basics.arrays import Array
from dapwick.pipeline.coat_edge import coat_edge
from dapwick.vision.edge import NoEdge
from dapwick.vision.guess import Guess, GuessedMark, NoGuess, dog_chance, guess_marks
from dapwick.vision.photo import Pixels, read_photo
from other_sight import overlap

Places = dict[str, tuple[float, float]]
ENDINGS = {".png", ".jpg", ".jpeg"}
EYES = {side: (f"eye_inner_{side}", f"eye_outer_{side}") for side in ("left", "right")}


def place_of(guess: Guess, mark: str) -> Array | None:
    """Where a guess has a mark, or an eye's centre."""
    parts = EYES.get(mark.removeprefix("eye_"), (mark,)) if mark.startswith("eye_") else (mark,)
    found = [guess.marks[p] for p in parts if p in guess.marks]
    return np.mean([[m.x_px, m.y_px] for m in found], axis=0) if len(found) == len(parts) else None


def errors(guess: Guess, marks: Places) -> dict[str, float]:
    """Distances of guesses from marks, in eye spans; infinite where there is no guess."""
    span = float(np.hypot(*np.subtract(marks["eye_left"], marks["eye_right"])))
    at = {mark: place_of(guess, mark) for mark in marks}
    return {m: float(np.hypot(*(p - marks[m]))) / span if p is not None else np.inf for m, p in at.items()}


def look_at(path: Path, marks: Places, view: str) -> tuple[str, Pixels]:
    """One line of figures, and the picture with what was seen drawn on it."""
    rgb = read_photo(path.read_bytes(), path.name).rgb
    began = time.monotonic()
    guess = guess_marks(rgb, view)  # type: ignore[arg-type]
    seen = isinstance(guess, Guess)
    seeds = seeds_of(marks, guess)
    chance = dog_chance(guess, rgb.shape[1], rgb.shape[0]) if isinstance(guess, Guess) else None
    line = (
        coat_edge(rgb, seeds, chance, None, close=len(marks) >= 4) if seeds else NoEdge("no marks, no guess")
    )
    took = time.monotonic() - began
    told = [path.name, "head found" if seen else "no head found"]
    if isinstance(guess, Guess) and {"eye_left", "eye_right"} <= set(marks):
        told += [f"{mark} {off:.2f}" for mark, off in errors(guess, marks).items()]
    mask = path.with_suffix(".mask.png")
    if isinstance(line, NoEdge):
        told.append(line.reason)
    elif mask.exists():
        told.append(f"overlap {overlap(line, cv2.imread(str(mask), cv2.IMREAD_GRAYSCALE)):.3f}")
    return ", ".join([*told, f"{took:.1f} s"]), drawn(rgb, guess, line, marks)


def seeds_of(marks: Places, guess: Guess | NoGuess) -> Places:
    """Where the dog is known to be, else thought to be."""
    if len(marks) >= 4:
        return marks
    guessed: dict[str, GuessedMark] = dict(guess.marks) if isinstance(guess, Guess) else {}
    return {m: (at.x_px, at.y_px) for m, at in guessed.items()} | marks


def drawn(rgb: Pixels, guess: Guess | NoGuess, line: Array | NoEdge, marks: Places) -> Pixels:
    picture = rgb.copy()
    thick = max(2, rgb.shape[1] // 300)
    if not isinstance(line, NoEdge):
        cv2.polylines(picture, [np.round(line).astype(np.int32)], True, (255, 0, 0), thick)
    for mark in guess.marks.values() if isinstance(guess, Guess) else ():
        cv2.circle(picture, (round(mark.x_px), round(mark.y_px)), round(mark.sigma_px) + 2, (255, 220, 0), 1)
    for x, y in marks.values():
        cv2.circle(picture, (round(x), round(y)), thick + 1, (0, 90, 255), -1)
    return picture


def main() -> None:
    asked = argparse.ArgumentParser(description=__doc__)
    asked.add_argument("folder", type=Path)
    asked.add_argument("--view", default="front")
    asked.add_argument("--draw", type=Path)
    given = asked.parse_args()
    kept = given.folder / "marks.json"
    known = json.loads(kept.read_text("utf-8")) if kept.exists() else {}
    for path in sorted(p for p in given.folder.iterdir() if p.suffix in ENDINGS and ".mask" not in p.name):
        marks = {m: tuple(at) for m, at in known.get(path.stem, {}).items()}
        told, picture = look_at(path, marks, given.view)
        print(told, flush=True)
        if given.draw:
            given.draw.mkdir(parents=True, exist_ok=True)
            cv2.imwrite(str(given.draw / f"{path.stem}.seen.png"), picture[:, :, ::-1])


if __name__ == "__main__":
    main()
