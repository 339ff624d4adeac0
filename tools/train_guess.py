"""Train the network of the first guesses on the simulated crowd; developers only (`make guess`).

python tools/train_guess.py CROWD_FOLDER [MINUTES] [--go-on CHECKPOINT] [--scenes FOLDER]
    [--without KIND --steps N --to FILE.onnx]

Writes src/dapwick/vision/guess.onnx and, beside the crowd, a checkpoint to go on from. Dogs numbered HELD_OUT_FROM and
above are kept apart and reported. Training stops by the clock and is not repeatable bit for bit; with --steps it stops
after so many, to compare what kinds of variation buy (`tools/what_variation_buys.py`).
"""

from __future__ import annotations

import argparse
import queue
import threading
import time
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

import numpy as np
import torch
from torch import Tensor
from torch.nn import functional

from dapwick.vision.network import CELLS, MODEL, SIDE_PX
from guess_network import GuessNetwork, export
from guess_samples import KINDS, Crowd, Sample, load, sample

HELD_OUT_FROM = 5000
BATCH = 16
HEAD_RATE, TUNE_RATE = 2.0e-3, 2.5e-4
TUNED_FROM = 3
"""First block of the backbone that is trained on; those before see edges and colours, which are the same anywhere."""
TARGET_CELLS = 1.0
WARM_STEPS = 60
REPORT_STEPS = 150
Batch = tuple[Tensor, ...]


def batches(seed: int, crowd: Crowd, rows: np.ndarray, without: str = "") -> Iterator[Batch]:
    rng = np.random.default_rng(seed)
    while True:
        yield stacked([sample(rng, crowd, i, without) for i in rng.choice(rows, BATCH)])


def stacked(samples: list[Sample]) -> Batch:
    columns = (
        np.stack([s.picture.transpose(2, 0, 1) for s in samples]),
        np.stack([s.at for s in samples]).astype(np.float32),
        np.array([s.view for s in samples]),
        np.array([s.wet for s in samples], np.float32),
        np.stack([s.dog for s in samples]),
        np.array([s.head for s in samples], np.float32),
    )
    return tuple(torch.from_numpy(np.ascontiguousarray(c)) for c in columns)


def ahead(source: Iterator[Batch], depth: int = 4) -> Iterator[Batch]:
    """Batches made on a thread of their own while the last ones are learned from."""
    made: queue.Queue[Batch] = queue.Queue(depth)

    def make() -> None:
        for batch in source:
            made.put(batch)

    threading.Thread(target=make, daemon=True).start()
    while True:
        yield made.get()


def loss_of(network: GuessNetwork, batch: Batch) -> Tensor:
    picture, at, view, wet, dog, head = batch
    maps, told = network(picture)
    known = torch.isfinite(at[..., 0])
    there = head > 0.5
    centres = torch.arange(CELLS) + 0.5
    place = torch.nan_to_num(at)
    off = (centres[None, None, :, None] - place[..., 1, None, None]) ** 2
    off = off + (centres[None, None, None, :] - place[..., 0, None, None]) ** 2
    target = torch.softmax((-0.5 * off / TARGET_CELLS**2).flatten(2), -1)
    heat = torch.log_softmax(maps[:, :-1].flatten(2), -1)
    marks = (-(target * heat).sum(-1) * known).sum() / known.sum().clamp(min=1)
    shape = functional.binary_cross_entropy_with_logits(maps[:, -1], dog)
    views = functional.cross_entropy(told[there, :-2], view[there])
    state = functional.binary_cross_entropy_with_logits(told[there, -2], wet[there])
    any_head = functional.binary_cross_entropy_with_logits(told[:, -1], head)
    return marks + 2.0 * shape + 0.5 * views + 0.3 * state + 0.3 * any_head


def report(network: GuessNetwork, crowd: Crowd, rows: np.ndarray) -> str:
    """Median error in cells, hit rates of view, state and head on dogs kept apart."""
    network.eval()
    off, views, wets, heads, shapes = [], [], [], [], []
    with torch.no_grad():
        for _, batch in zip(range(10), batches(0, crowd, rows), strict=False):
            picture, at, view, wet, dog, head = batch
            maps, told = network(picture)
            best = maps[:, :-1].flatten(2).argmax(-1)
            found = torch.stack([best % CELLS, best // CELLS], -1) + 0.5
            off.append(torch.linalg.norm(found - at, dim=-1)[torch.isfinite(at[..., 0])])
            there = head > 0.5
            views.append(told[there, :-2].argmax(-1) == view[there])
            wets.append((told[there, -2] > 0) == (wet[there] > 0.5))
            heads.append((told[:, -1] > 0) == there)
            shapes.append((maps[:, -1] > 0) == (dog > 0.5))
    far = torch.cat(off)
    rates = [
        float(torch.cat([r.flatten() for r in told]).float().mean()) for told in (views, wets, heads, shapes)
    ]
    return (
        f"held out: median {far.median():.2f} cells, p90 {far.quantile(0.9):.2f}; view {rates[0]:.1%}, "
        f"wet {rates[1]:.1%}, head {rates[2]:.1%}, dog or not {rates[3]:.1%}"
    )


def rate_at(step: int, share: float) -> float:
    return float(min(1.0, (step + 1) / WARM_STEPS) * 0.5 * (1 + np.cos(np.pi * min(share, 1.0))) + 0.01)


@dataclass(frozen=True)
class Plan:
    """How long to train, in minutes or, where given, in steps; what kind of variation to leave out."""

    minutes: float
    steps: int | None = None
    without: str = ""

    def share(self, step: int, seconds: float) -> float:
        return step / self.steps if self.steps else seconds / (60 * self.minutes)


def train(network: GuessNetwork, crowd: Crowd, plan: Plan, kept: Path) -> None:
    held = np.flatnonzero(crowd.dog >= HELD_OUT_FROM)
    rows = np.flatnonzero(crowd.dog < HELD_OUT_FROM)
    early = [*network.stem.parameters(), *network.stem_norm.parameters()]
    early += [p for block in network.blocks[:TUNED_FROM] for p in block.parameters()]
    for parameter in early:
        parameter.requires_grad = False
    tuned = [p for block in network.blocks[TUNED_FROM:] for p in block.parameters()]
    own = [p for n, p in network.named_parameters() if not n.startswith(("stem", "blocks"))]
    optimiser = torch.optim.AdamW(
        [{"params": own, "lr": HEAD_RATE}, {"params": tuned, "lr": TUNE_RATE}], weight_decay=1e-4
    )
    print(f"{len(rows)} pictures, {len(held)} kept apart, {len(crowd.scenes)} scenes", flush=True)
    began, network = time.time(), network.train()
    for step, batch in enumerate(ahead(batches(plan.steps or int(began), crowd, rows, plan.without))):
        share = plan.share(step, time.time() - began)
        if share >= 1:
            break
        for group, rate in zip(optimiser.param_groups, (HEAD_RATE, TUNE_RATE), strict=True):
            group["lr"] = rate * rate_at(step, share)
        loss = loss_of(network.train(), batch)
        optimiser.zero_grad(set_to_none=True)
        loss.backward()
        optimiser.step()
        if step % REPORT_STEPS == REPORT_STEPS - 1:
            print(
                f"step {step + 1}, {share:.0%}, loss {float(loss):.3f}; {report(network, crowd, held)}",
                flush=True,
            )
            torch.save(network.state_dict(), kept)
    print(report(network, crowd, held), flush=True)
    torch.save(network.state_dict(), kept)


def main() -> None:
    asked = argparse.ArgumentParser(description=__doc__)
    asked.add_argument("crowd", type=Path)
    asked.add_argument("minutes", type=float, nargs="?", default=60.0)
    asked.add_argument("--go-on", type=Path)
    asked.add_argument("--scenes", type=Path, help="a folder of everyday pictures without dogs")
    asked.add_argument("--without", choices=KINDS, default="")
    asked.add_argument("--steps", type=int)
    asked.add_argument("--to", type=Path, default=MODEL)
    given = asked.parse_args()
    scenes = sorted(given.scenes.iterdir()) if given.scenes else []
    crowd = load(given.crowd, scenes)
    network = GuessNetwork()
    if given.go_on:
        network.load_state_dict(torch.load(given.go_on))
    kept = given.crowd / "guess.pt" if given.to == MODEL else given.to.with_suffix(".pt")
    train(network, crowd, Plan(given.minutes, given.steps, given.without), kept)
    export(network, SIDE_PX, given.to)


if __name__ == "__main__":
    main()
