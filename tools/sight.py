"""What the machine sees in photos, measured on the eight demo dogs, whom nothing was trained on: edges,
first guesses of the marks, views and states, scale cards. `tools/accuracy.py` puts it into the report.
"""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

import numpy as np

from classic_eyes import eyes_and_nose
from dapwick.core.basics.arrays import Array
from dapwick.core.solve.scale_card import held_level_with
from dapwick.demo.dogs import DEMO_DOGS, photo_bytes, truth
from dapwick.pipeline.review import review_photo
from dapwick.vision.card import read_card
from dapwick.vision.guess import Guess, guess_marks
from dapwick.vision.photo import Pixels, read_photo
from edge_truth import edge_errors_mm

EYES_NOSE = ("eye_inner_left", "eye_inner_right", "eye_outer_left", "eye_outer_right", "nose_tip", "nose_top")
HIT_MM = 8.0
MEDIAN_AIM_MM, LATE_AIM_MM = 1.5, 6.0


def pictures() -> Iterator[tuple[str, dict[str, Any], dict[str, Any], Pixels]]:
    for dog in DEMO_DOGS:
        known = truth(dog.key)
        for photo in known["photos"]:
            yield dog.key, known, photo, read_photo(photo_bytes(photo["file"]), photo["file"]).rgb


def sight_report() -> list[str]:
    edges, guesses = [], []
    for key, known, photo, rgb in pictures():
        seen = review_photo(rgb, photo["file"], photo["view"], (photo["width"], photo["height"]))
        off = edge_errors_mm(seen.edge, photo) if seen.edge is not None else np.full(2, np.inf)
        edges.append((photo["file"], off))
        guesses.append((key, known, photo, rgb))
    return [*edge_lines(edges), *guess_lines(guesses), *view_lines(guesses), *card_lines(guesses)]


def edge_lines(traced: list[tuple[str, Array]]) -> list[str]:
    rows = [(name, float(np.median(off)), float(np.percentile(off, 95))) for name, off in traced]
    good = sum(m <= MEDIAN_AIM_MM for _, m, _ in rows), sum(late <= LATE_AIM_MM for _, _, late in rows)
    every = np.concatenate([off for _, off in traced])
    return [
        "## Traced edges, photo by photo",
        "",
        "Distance both ways between the traced edge and the true silhouette (where the hair's cover, smoothed "
        "over a comb tooth's width, passes one half), with nothing but the photo: no mark placed. Stretches along "
        f"the frame are left out. All photos together: median {np.median(every):.1f} mm, 95th percentile "
        f"{np.percentile(every, 95):.1f} mm. Photo by photo: median within {MEDIAN_AIM_MM:g} mm on {good[0]} of "
        f"{len(rows)} photos, 95th percentile within {LATE_AIM_MM:g} mm on {good[1]}.",
        "",
        "| photo | median | 95th percentile |",
        "|-|-|-|",
        *(f"| {name.removesuffix('.jpg')} | {m:.1f} mm | {late:.1f} mm |" for name, m, late in rows),
        "",
    ]


def off_mm(photo: dict[str, Any], mark: str, x: float, y: float) -> float:
    at = photo["marks_px"][mark]
    mm_per_px = np.linalg.norm(photo["translation_mm"]) / photo["focal_px"]
    return float(np.hypot(x - at[0], y - at[1]) * mm_per_px)


def guess_lines(rows: list[Any]) -> list[str]:
    lines = [
        "## First guesses of the marks",
        "",
        "The small network on all photos of the demo dogs (rendered in full; it was trained on other, random "
        f"dogs in small pictures). A hit lies within {HIT_MM:g} mm.",
        "",
        "| dog | eyes and nose, median | hits | all marks, median | hits | truth inside the told 95 % |",
        "|-|-|-|-|-|-|",
    ]
    for dog in DEMO_DOGS:
        near, far, inside = [], [], []
        for key, _, photo, rgb in rows:
            guess = guess_marks(rgb, photo["view"]) if key == dog.key else None
            for mark, at in guess.marks.items() if isinstance(guess, Guess) else ():
                off = off_mm(photo, mark, at.x_px, at.y_px)
                far.append(off)
                near += [off] if mark in EYES_NOSE else []
                px = np.subtract((at.x_px, at.y_px), photo["marks_px"][mark])
                inside.append(float(np.hypot(*px)) < 2.448 * at.sigma_px)
        lines.append(
            f"| {truth(dog.key)['dog']} | {np.median(near):.1f} mm | {np.mean(np.array(near) < HIT_MM):.0%} "
            f"| {np.median(far):.1f} mm | {np.mean(np.array(far) < HIT_MM):.0%} | {np.mean(inside):.0%} |"
        )
    return [*lines, "", *classic_lines(rows)]


def classic_lines(rows: list[Any]) -> list[str]:
    """Eye centres and nose on front photos: dark round places against the network."""
    classic, network = [], []
    for _, _, photo, rgb in rows:
        if photo["view"] != "front":
            continue
        found, guess = eyes_and_nose(rgb), guess_marks(rgb, "front")
        for name, marks in (
            ("eye_right", ("eye_inner_right", "eye_outer_right")),
            ("eye_left", ("eye_inner_left", "eye_outer_left")),
            ("nose", ("nose_tip",)),
        ):
            at = np.mean([photo["marks_px"][m] for m in marks], axis=0)
            mm = np.linalg.norm(photo["translation_mm"]) / photo["focal_px"]
            classic.append(float(np.hypot(*(np.array(found[name]) - at)) * mm) if found else np.inf)
            both = isinstance(guess, Guess) and all(m in guess.marks for m in marks)
            seen = (
                np.mean([[guess.marks[m].x_px, guess.marks[m].y_px] for m in marks], axis=0) if both else None
            )
            network.append(float(np.hypot(*(seen - at)) * mm) if seen is not None else np.inf)
    told = [
        f"{name}: median {np.median(off):.1f} mm, {np.mean(np.array(off) < HIT_MM):.0%} within {HIT_MM:g} mm"
        for name, off in (("dark round places (classical)", classic), ("the network", network))
    ]
    return [f"Eye centres and nose on front photos, {told[0]}; {told[1]}.", ""]


def view_lines(rows: list[Any]) -> list[str]:
    views, states = [], []
    for _, _, photo, rgb in rows:
        guess = guess_marks(rgb)
        likeliest = (
            max(guess.view_chances, key=lambda v: guess.view_chances[v]) if isinstance(guess, Guess) else None
        )
        views.append(likeliest == photo["view"])
        if photo["state"] != "finished":
            states.append(isinstance(guess, Guess) and (guess.wet_chance > 0.5) == (photo["state"] == "wet"))
    return [
        f"View told from the picture alone: {np.mean(views):.0%} of {len(views)} photos; wet or dry: "
        f"{np.mean(states):.0%} of {len(states)}.",
        "",
    ]


def card_lines(rows: list[Any]) -> list[str]:
    lines = ["## Scale card", "", "| photo | squares | scale off by |", "|-|-|-|"]
    false = 0
    for _, known, photo, rgb in rows:
        reading = read_card(rgb)
        if not photo["card_held"]:
            false += reading is not None
            continue
        eyes = np.mean([known["marks_mm"][m] for m in held_level_with(photo["view"])], axis=0)
        depth = float((np.array(photo["rotation"]) @ eyes + photo["translation_mm"])[2])
        told = f"{reading.px_per_mm / (photo['focal_px'] / depth) - 1:+.1%}" if reading else "not seen"
        lines.append(
            f"| {photo['file'].removesuffix('.jpg')} | {reading.markers if reading else 0} | {told} |"
        )
    carded = sum(bool(p["card_held"]) for _, _, p, _ in rows)
    return [*lines, "", f"Seen where there was none: {false} of {len(rows) - carded} photos.", ""]


if __name__ == "__main__":
    print("\n".join(sight_report()))
