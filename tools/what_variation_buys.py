"""What each kind of variation in training buys on dogs of another hand: short trainings, each without one kind.

python tools/what_variation_buys.py CROWD_FOLDER WORK_FOLDER [STEPS] [--scenes FOLDER]

Trainings that stand in the work folder are not made again. Developers only: it wants what `make guess` wants.
"""

from __future__ import annotations

import argparse
import subprocess
import sys
from pathlib import Path
from unittest.mock import patch

import numpy as np

from dapwick.vision import guess, network
from guess_samples import KINDS
from other_sight import Shown, Told, pictures

STEPS = 400


def trained(crowd: Path, work: Path, scenes: list[str], steps: int, without: str) -> Path:
    to = work / f"{without or 'all'}.onnx"
    if not to.exists():
        told = [sys.executable, str(Path(__file__).with_name("train_guess.py")), str(crowd), *scenes,
                "--steps", str(steps), "--to", str(to)]  # fmt: skip
        subprocess.run([*told, *(["--without", without] if without else [])], check=True)
    return to


def seen_by(model: Path, shown: list[Shown]) -> Told:
    network._network.cache_clear()
    guess._read.cache_clear()
    told = Told()
    with patch.object(network, "MODEL", model):
        for one in shown:
            told.add(one)
    return told


def row(without: str, told: Told) -> str:
    near, ears = np.array(told.near), np.array(told.ears)
    kind = f"without `{without}`" if without else "with all"
    view = told.view["right"], told.view["asked"], told.view["wrong"]
    return (
        f"| {kind} | {told.found} | {view[0]} / {view[1]} / {view[2]} | {np.median(near):.2f} | "
        f"{np.mean(near < 0.15):.0%} | {np.median(ears):.2f} | {np.mean(told.inside):.0%} |"
    )


def main() -> None:
    asked = argparse.ArgumentParser(description=__doc__)
    asked.add_argument("crowd", type=Path)
    asked.add_argument("work", type=Path)
    asked.add_argument("steps", type=int, nargs="?", default=STEPS)
    asked.add_argument("--scenes")
    given = asked.parse_args()
    given.work.mkdir(parents=True, exist_ok=True)
    scenes = ["--scenes", given.scenes] if given.scenes else []
    models = {w: trained(given.crowd, given.work, scenes, given.steps, w) for w in ("", *KINDS)}
    shown = list(pictures())
    print(f"Trained for {given.steps} steps each, on {len(shown)} pictures of another hand:\n")
    print("| training | head found | view right / asked / wrong | eyes, nose: median | within 0.15 | ears: median | "
          "inside 95 % |\n|-|-|-|-|-|-|-|")  # fmt: skip
    for without, model in models.items():
        print(row(without, seen_by(model, shown)))


if __name__ == "__main__":
    main()
