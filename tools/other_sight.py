"""What the machine sees of dogs painted by another hand (`otherdogs`), which nothing was trained on.

python tools/other_sight.py [--keep FOLDER] [--small FOLDER]

--keep writes all pictures as `tools/outside.py` reads them; --small those in the repository (tests/other_hand).
Distances are in eye spans (between the eyes' centres, in the head), so that they compare with photos of any size.
"""

from __future__ import annotations

import argparse
import json
from collections import Counter
from collections.abc import Iterable, Iterator
from dataclasses import dataclass, field
from pathlib import Path

import cv2
import numpy as np

from dapwick.core.basics.marks import View, guided_order
from dapwick.pipeline.review import review_photo
from dapwick.pipeline.sorting import sorted_photo
from dapwick.vision.guess import Guess, guess_marks
from dapwick.vision.photo import Pixels
from otherdogs.dogs import DOGS, VIEWS, shots
from otherdogs.paint import painted, pictured

NEAR = ("eye_inner", "eye_outer", "nose_tip", "nose_top")
EARS = ("ear_front", "ear_back", "ear_tip")
INSIDE_95 = 2.448


@dataclass(frozen=True)
class Shown:
    """One picture with what is true of it: from where it was taken, wet or dry, marks (px), mask, eye span (px)."""

    name: str
    view: View
    wet: bool
    rgb: Pixels
    mask: Pixels
    marks: dict[str, tuple[float, float]]
    span_px: float


def pictures(views: tuple[View, ...] = VIEWS) -> Iterator[Shown]:
    """All pictures of some views, dry and wet."""
    for dog in DOGS:
        marks = dog.head.marks()
        for shot in (s for s in shots(dog) if s.view in views):
            rgb, mask = painted(dog.head, dog.coat, shot, 100 * dog.seed)
            at, depth = pictured(np.array(list(marks.values())), shot)
            told = {m: (float(x), float(y)) for m, (x, y) in zip(marks, at, strict=True)}
            view: View = shot.view
            wanted = {m: told[m] for m in guided_order(view)}
            span = dog.head.eye_apart * shot.focal_px / float(np.median(depth))
            name = f"{dog.name}-{'wet' if shot.wet else 'dry'}-{view}"
            yield Shown(name, view, shot.wet, rgb, mask, wanted, span)


def overlap(line: np.ndarray | None, mask: Pixels) -> float:
    """Overlap (intersection over union) of a line's inside with the true mask; 0 without a line."""
    if line is None:
        return 0.0
    drawn = np.zeros(mask.shape, np.uint8)
    cv2.fillPoly(drawn, [np.round(line - 0.5).astype(np.int32)], 1)
    true = mask > 127
    return float(((drawn == 1) & true).sum() / ((drawn == 1) | true).sum())


@dataclass
class Told:
    """What was told of pictures: places off (eye spans), truth inside the told 95 %, views and states."""

    near: list[float] = field(default_factory=list)
    ears: list[float] = field(default_factory=list)
    inside: list[bool] = field(default_factory=list)
    view: Counter[str] = field(default_factory=Counter)
    state: Counter[str] = field(default_factory=Counter)
    found: int = 0

    def add(self, shown: Shown) -> None:
        blind = guess_marks(shown.rgb)
        place = sorted_photo(blind)
        self.found += isinstance(blind, Guess)
        self.view[verdict("view" in place.asks, place.view == shown.view)] += 1
        state = "wet" if shown.wet else "dry"
        self.state[verdict("state" in place.asks, place.state == state)] += 1
        guess = guess_marks(shown.rgb, shown.view)
        for mark, at in guess.marks.items() if isinstance(guess, Guess) else ():
            px = float(np.hypot(at.x_px - shown.marks[mark][0], at.y_px - shown.marks[mark][1]))
            self.inside.append(px < INSIDE_95 * at.sigma_px)
            self.near += [px / shown.span_px] if mark.startswith(NEAR) else []
            self.ears += [px / shown.span_px] if mark.startswith(EARS) else []

    def lines(self) -> list[str]:
        near, ears = np.array(self.near), np.array(self.ears)
        return [
            f"View {counted(self.view)}",
            f"Wet or dry {counted(self.state)}",
            f"Eyes and nose: median {np.median(near):.2f} eye spans, within 0.15: {np.mean(near < 0.15):.0%}.",
            f"Ear bases and tips: median {np.median(ears):.2f} eye spans, within 0.3: {np.mean(ears < 0.3):.0%}.",
            f"Truth inside the told 95 %: {np.mean(self.inside):.0%}.",
        ]


def counted(verdicts: Counter[str]) -> str:
    right, asked, wrong = (verdicts[word] for word in ("right", "asked", "wrong"))
    return f"told and right {right}, asked {asked}, told and wrong {wrong}."


def verdict(asked: bool, right: bool) -> str:
    return "asked" if asked else "right" if right else "wrong"


def report() -> list[str]:
    told, bare, marked = Told(), [], []
    shown = list(pictures())
    for one in shown:
        told.add(one)
        size, view = (one.rgb.shape[1], one.rgb.shape[0]), one.view
        bare.append(overlap(review_photo(one.rgb, "a", view, size).edge, one.mask))
        seen = review_photo(one.rgb, "a", view, size, seeds=one.marks)
        marked.append(overlap(seen.edge, one.mask))
    return [
        f"{len(shown)} pictures of {len(DOGS)} dogs; head found in {told.found}.",
        *told.lines(),
        f"Edge, nothing but the photo: overlap median {np.median(bare):.3f}, worst {min(bare):.3f}, "
        f"at least 0.96 on {np.mean(np.array(bare) >= 0.96):.0%}.",
        f"Edge, marks given: overlap median {np.median(marked):.3f}, worst {min(marked):.3f}, "
        f"at least 0.96 on {np.mean(np.array(marked) >= 0.96):.0%}.",
    ]


def keep(folder: Path, shown: Iterable[Shown], ending: str = ".png") -> None:
    """Write pictures, their masks, marks.json, and views.json with what else is true of them."""
    folder.mkdir(parents=True, exist_ok=True)
    marks, views = {}, {}
    for one in shown:
        cv2.imwrite(str(folder / (one.name + ending)), one.rgb[:, :, ::-1], [cv2.IMWRITE_JPEG_QUALITY, 85])
        cv2.imwrite(str(folder / f"{one.name}.mask.png"), one.mask)
        marks[one.name] = one.marks
        views[one.name] = {"view": one.view, "wet": one.wet, "span_px": one.span_px}
    (folder / "marks.json").write_text(json.dumps(marks))
    (folder / "views.json").write_text(json.dumps(views))


def kept(folder: Path, views: tuple[View, ...] = VIEWS) -> Iterator[Shown]:
    """Pictures as `keep` wrote them."""
    marks = json.loads((folder / "marks.json").read_text("utf-8"))
    for name, true in json.loads((folder / "views.json").read_text("utf-8")).items():
        if true["view"] in views:
            rgb = cv2.imread(str(folder / f"{name}.jpg"))[:, :, ::-1]
            mask = cv2.imread(str(folder / f"{name}.mask.png"), cv2.IMREAD_GRAYSCALE)
            yield Shown(
                name, true["view"], true["wet"], np.ascontiguousarray(rgb), mask, marks[name], true["span_px"]
            )


def main() -> None:
    asked = argparse.ArgumentParser(description=__doc__)
    asked.add_argument("--keep", type=Path)
    asked.add_argument("--small", type=Path)
    given = asked.parse_args()
    if given.keep:
        keep(given.keep, pictures())
    elif given.small:
        keep(given.small, (one for one in pictures() if not one.wet), ".jpg")
    else:
        print("\n".join(report()))


if __name__ == "__main__":
    main()
