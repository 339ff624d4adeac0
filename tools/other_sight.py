"""What the machine sees of dogs painted by another hand (`otherdogs`), which nothing was trained on.

python tools/other_sight.py [--keep FOLDER]

Distances are in eye spans (between the eyes' centres, in the head), so that they compare with photos of any size.
"""

from __future__ import annotations

import argparse
import json
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

import cv2
import numpy as np

from dapwick.core.basics.marks import guided_order
from dapwick.pipeline.review import review_photo
from dapwick.pipeline.sorting import sorted_photo
from dapwick.vision.guess import Guess, guess_marks
from dapwick.vision.photo import Pixels
from otherdogs.dogs import DOGS, VIEWS, OtherDog, shots
from otherdogs.paint import OtherShot, painted, pictured

NEAR = ("eye_inner", "eye_outer", "nose_tip", "nose_top")
EARS = ("ear_front", "ear_back", "ear_tip")
INSIDE_95 = 2.448


@dataclass(frozen=True)
class Shown:
    """One picture with what is true of it: marks (px), mask, eye span (px)."""

    dog: OtherDog
    shot: OtherShot
    rgb: Pixels
    mask: Pixels
    marks: dict[str, tuple[float, float]]
    span_px: float

    @property
    def name(self) -> str:
        return f"{self.dog.name}-{'wet' if self.shot.wet else 'dry'}-{self.shot.view}"


def pictures(views: tuple[str, ...] = VIEWS) -> Iterator[Shown]:
    """All pictures of some views, dry and wet."""
    for dog in DOGS:
        marks = dog.head.marks()
        for shot in (s for s in shots(dog) if s.view in views):
            rgb, mask = painted(dog.head, dog.coat, shot, 100 * dog.seed)
            at, depth = pictured(np.array(list(marks.values())), shot)
            told = {m: (float(x), float(y)) for m, (x, y) in zip(marks, at, strict=True)}
            wanted = {m: told[m] for m in guided_order(shot.view)}  # type: ignore[arg-type]
            span = dog.head.eye_apart * shot.focal_px / float(np.median(depth))
            yield Shown(dog, shot, rgb, mask, wanted, span)


def overlap(line: np.ndarray | None, mask: Pixels) -> float:
    """Overlap (intersection over union) of a line's inside with the true mask; 0 without a line."""
    if line is None:
        return 0.0
    drawn = np.zeros(mask.shape, np.uint8)
    cv2.fillPoly(drawn, [np.round(line - 0.5).astype(np.int32)], 1)
    true = mask > 127
    return float(((drawn == 1) & true).sum() / ((drawn == 1) | true).sum())


def report() -> list[str]:
    found, right, asked, wrong, state_right, state_asked, state_wrong = 0, 0, 0, 0, 0, 0, 0
    near, ears, inside, bare, marked = [], [], [], [], []
    count = 0
    for shown in pictures():
        count += 1
        size = shown.rgb.shape[1], shown.rgb.shape[0]
        blind = guess_marks(shown.rgb)
        place = sorted_photo(blind)
        found += isinstance(blind, Guess)
        asked += "view" in place.asks
        right += "view" not in place.asks and place.view == shown.shot.view
        wrong += "view" not in place.asks and place.view != shown.shot.view
        state = "wet" if shown.shot.wet else "dry"
        state_asked += "state" in place.asks
        state_right += "state" not in place.asks and place.state == state
        state_wrong += "state" not in place.asks and place.state != state
        guess = guess_marks(shown.rgb, shown.shot.view)  # type: ignore[arg-type]
        for mark, at in guess.marks.items() if isinstance(guess, Guess) else ():
            px = float(np.hypot(at.x_px - shown.marks[mark][0], at.y_px - shown.marks[mark][1]))
            inside.append(px < INSIDE_95 * at.sigma_px)
            near += [px / shown.span_px] if mark.startswith(NEAR) else []
            ears += [px / shown.span_px] if mark.startswith(EARS) else []
        view = shown.shot.view
        bare.append(overlap(review_photo(shown.rgb, "a", view, size).edge, shown.mask))  # type: ignore[arg-type]
        seen = review_photo(shown.rgb, "a", view, size, seeds=shown.marks)  # type: ignore[arg-type]
        marked.append(overlap(seen.edge, shown.mask))
    return [
        f"{count} pictures of {len(DOGS)} dogs; head found in {found}.",
        f"View told and right {right}, asked {asked}, told and wrong {wrong}.",
        f"Wet or dry told and right {state_right}, asked {state_asked}, told and wrong {state_wrong}.",
        f"Eyes and nose: median {np.median(near):.2f} eye spans, within 0.15: {np.mean(np.array(near) < 0.15):.0%}.",
        f"Ear bases and tips: median {np.median(ears):.2f} eye spans, within 0.3: {np.mean(np.array(ears) < 0.3):.0%}.",
        f"Truth inside the told 95 %: {np.mean(inside):.0%}.",
        f"Edge, nothing but the photo: overlap median {np.median(bare):.3f}, worst {min(bare):.3f}, "
        f"at least 0.96 on {np.mean(np.array(bare) >= 0.96):.0%}.",
        f"Edge, marks given: overlap median {np.median(marked):.3f}, worst {min(marked):.3f}, "
        f"at least 0.96 on {np.mean(np.array(marked) >= 0.96):.0%}.",
    ]


def keep(folder: Path) -> None:
    """Write all pictures, their masks and marks.json, as `tools/outside.py` reads them."""
    folder.mkdir(parents=True, exist_ok=True)
    marks = {}
    for shown in pictures():
        cv2.imwrite(str(folder / f"{shown.name}.png"), shown.rgb[:, :, ::-1])
        cv2.imwrite(str(folder / f"{shown.name}.mask.png"), shown.mask)
        marks[shown.name] = shown.marks
    (folder / "marks.json").write_text(json.dumps(marks))


def main() -> None:
    asked = argparse.ArgumentParser(description=__doc__)
    asked.add_argument("--keep", type=Path)
    given = asked.parse_args()
    if given.keep:
        keep(given.keep)
    else:
        print("\n".join(report()))


if __name__ == "__main__":
    main()
