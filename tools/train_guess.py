"""Train the network of the first guesses on the simulated crowd; developers only (`make guess`).

python tools/train_guess.py CROWD_FOLDER [MINUTES]

Rotations, crops, mirror images, light and blur are drawn anew for every picture; dogs numbered 1000 and
above are held out and reported.
"""

from __future__ import annotations

import sys
import time
from pathlib import Path

import cv2
import jax
import jax.numpy as jnp
import numpy as np

from dapwick.core.basics.marks import INDEX, MARK_IDS, VIEWS, swapped
from dapwick.vision.network import CELLS, SIDE_PX, WEIGHTS

HELD_OUT_FROM = 1000
BATCH = 24
PEAK_RATE = 4.0e-3
EPSILON = 1e-4
TARGET_CELLS = 0.8
MIRROR = np.array([INDEX[swapped(m)] for m in MARK_IDS])
MIRROR_VIEW = np.array(
    [VIEWS.index(v.replace("left", "?").replace("right", "left").replace("?", "right")) for v in VIEWS]
)
CHANNELS = {"a": (3, 16), "b": (16, 32), "b2": (32, 32), "c": (32, 64), "c2": (64, 64), "d": (64, 96), "d2": (96, 96),
            "e": (160, 64), "f": (96, 48)}  # fmt: skip


def begin(rng: np.random.Generator) -> dict[str, np.ndarray]:
    w = {}
    for name, (inward, outward) in CHANNELS.items():
        w[f"{name}_k"] = rng.normal(0, np.sqrt(2 / (9 * inward)), (3, 3, inward, outward)).astype(np.float32)
        w[f"{name}_g"] = np.ones(outward, np.float32)
        w[f"{name}_b"] = np.zeros(outward, np.float32)
    w["heat_k"] = rng.normal(0, 0.05, (48, len(MARK_IDS) + 1)).astype(np.float32)
    w["heat_b"] = np.zeros(len(MARK_IDS) + 1, np.float32)
    w["told_k"] = rng.normal(0, 0.05, (96, len(VIEWS) + 1)).astype(np.float32)
    w["told_b"] = np.zeros(len(VIEWS) + 1, np.float32)
    return w


def conv(x, w, name, stride=1, fixed=None):  # type: ignore[no-untyped-def]
    """Convolution, normalised over the batch (or by `fixed` statistics), rectified. Normalising makes the
    training short; `folded` puts it into the kernels, so that what ships is plain."""
    y = jax.lax.conv_general_dilated(
        x, w[f"{name}_k"], (stride, stride), "SAME", dimension_numbers=("NHWC", "HWIO", "NHWC")
    )
    mean, var = (y.mean((0, 1, 2)), y.var((0, 1, 2))) if fixed is None else fixed[name]
    return jax.nn.relu((y - mean) * jax.lax.rsqrt(var + EPSILON) * w[f"{name}_g"] + w[f"{name}_b"]), (
        mean,
        var,
    )


def doubled(x):  # type: ignore[no-untyped-def]
    return jnp.repeat(jnp.repeat(x, 2, axis=1), 2, axis=2)


def forward(w, x, fixed=None):  # type: ignore[no-untyped-def]
    """As dapwick.vision.network.forward, over a batch; also each layer's statistics."""
    told_of = {}

    def layer(x, name, stride=1):  # type: ignore[no-untyped-def]
        y, told_of[name] = conv(x, w, name, stride, fixed)
        return y

    b = layer(layer(layer(x - 0.5, "a", 2), "b", 2), "b2")
    c = layer(layer(b, "c", 2), "c2")
    d = layer(layer(c, "d", 2), "d2")
    up = layer(jnp.concatenate([doubled(d), c], axis=3), "e")
    up = layer(jnp.concatenate([doubled(up), b], axis=3), "f")
    told = d.mean(axis=(1, 2)) @ w["told_k"] + w["told_b"]
    return up @ w["heat_k"] + w["heat_b"], told, told_of


STATISTICS = jax.jit(lambda w, x: forward(w, x)[2])
FORWARD = jax.jit(lambda w, x, fixed: forward(w, x, fixed)[:2])


def settled(w, data, rows, rng):  # type: ignore[no-untyped-def]
    """Statistics of each layer, averaged over some batches."""
    seen = [STATISTICS(w, batch[0]) for _, batch in zip(range(12), batches(rng, data, rows), strict=False)]
    return {n: tuple(np.mean([np.asarray(s[n][i]) for s in seen], axis=0) for i in (0, 1)) for n in CHANNELS}


def folded(w, fixed):  # type: ignore[no-untyped-def]
    """The same network with its normalisation put into kernels and biases."""
    out = {k: np.asarray(v) for k, v in w.items() if k.startswith(("heat", "told"))}
    for name in CHANNELS:
        mean, var = fixed[name]
        gain = np.asarray(w[f"{name}_g"]) / np.sqrt(var + EPSILON)
        out[f"{name}_k"] = np.asarray(w[f"{name}_k"]) * gain
        out[f"{name}_b"] = np.asarray(w[f"{name}_b"]) - mean * gain
    return out


def loss(w, x, at, known, view, wet, cover):  # type: ignore[no-untyped-def]
    """at (batch, marks, 2) in cells; known (batch, marks) 0 or 1; cover (batch, 32, 32) 0..1."""
    heat, told, _ = forward(w, x)
    heat, dog = heat[:, :, :, :-1], heat[:, :, :, -1]
    shape = jnp.mean(jax.nn.softplus(dog) - cover * dog)
    grid = jnp.arange(CELLS) + 0.5
    off = jnp.square(grid[None, None, :, None] - at[:, :, None, None, 1]) + jnp.square(
        grid[None, None, None, :] - at[:, :, None, None, 0]
    )
    target = jax.nn.softmax((-0.5 * off / TARGET_CELLS**2).reshape(*at.shape[:2], -1), axis=-1)
    log_heat = jax.nn.log_softmax(heat.reshape(len(x), -1, len(MARK_IDS)).transpose(0, 2, 1), axis=-1)
    marks = -(target * log_heat).sum(axis=-1)
    views = -jnp.take_along_axis(jax.nn.log_softmax(told[:, :-1]), view[:, None], axis=1).mean()
    state = jnp.mean(jax.nn.softplus(told[:, -1]) - wet * told[:, -1])
    return (marks * known).sum() / jnp.maximum(known.sum(), 1) + 0.5 * views + 0.3 * state + 2.0 * shape


@jax.jit
def step(w, m, v, n, rate, x, at, known, view, wet, cover):  # type: ignore[no-untyped-def]
    """One step of Adam with decoupled weight decay."""
    value, g = jax.value_and_grad(loss)(w, x, at, known, view, wet, cover)
    m = jax.tree.map(lambda a, b: 0.9 * a + 0.1 * b, m, g)
    v = jax.tree.map(lambda a, b: 0.99 * a + 0.01 * b * b, v, g)
    move = jax.tree.map(lambda a, b: (a / (1 - 0.9**n)) / (jnp.sqrt(b / (1 - 0.99**n)) + 1e-8), m, v)
    w = jax.tree.map(lambda p, d: p * (1 - 1e-4 * rate / PEAK_RATE) - rate * d, w, move)
    return w, m, v, value


def drawn(rng, data, i):  # type: ignore[no-untyped-def]
    """One training sample: a turned, scaled, mirrored, relit cut of a picture, 128 px square."""
    picture, cover, at, view = data["shown"][i], data["cover"][i], data["at"][i], data["views"][i]
    h, w = picture.shape[:2]
    seen = at[np.isfinite(at[:, 0])]
    middle, span = seen.mean(axis=0), float(np.ptp(seen, axis=0).max())
    whole = rng.random() < 0.3
    side = max(h, w) * rng.uniform(0.95, 1.1) if whole else span * rng.uniform(1.35, 2.3)
    centre = np.array([w / 2, h / 2]) if whole else middle + rng.normal(0, 0.10 * span, 2)
    angle, scale = rng.normal(0, 6), SIDE_PX / side
    turn = cv2.getRotationMatrix2D((0, 0), angle, scale)
    turn[:, 2] = SIDE_PX / 2 - turn[:, :2] @ centre
    flags = cv2.INTER_AREA if scale < 1 else cv2.INTER_LINEAR
    size = (SIDE_PX, SIDE_PX)
    cut = cv2.warpAffine(picture, turn, size, flags=flags, borderMode=cv2.BORDER_REPLICATE) / 255.0
    dog = cv2.warpAffine(cover, turn, size, flags=flags, borderMode=cv2.BORDER_REPLICATE) / 255.0
    if rng.random() < 0.6:
        cut = dog[:, :, None] * cut + (1 - dog[:, :, None]) * elsewhere(rng)
    at = at @ turn[:, :2].T + turn[:, 2]
    if rng.random() < 0.5:
        cut, dog, at = cut[:, ::-1], dog[:, ::-1], (at * [-1, 1] + [SIDE_PX, 0])[MIRROR]
        view = MIRROR_VIEW[view]
    x = np.clip(cut, 0, 1) ** rng.uniform(0.7, 1.45) * rng.uniform(0.8, 1.15, 3)
    if rng.random() < 0.2:
        x = x.mean(axis=2, keepdims=True) * np.ones(3)
    if rng.random() < 0.3:
        x = cv2.GaussianBlur(x, (0, 0), rng.uniform(0.3, 1.3))
    x = x + rng.normal(0, rng.uniform(0, 0.04), x.shape)
    dog = cv2.resize(np.ascontiguousarray(dog), (CELLS, CELLS), interpolation=cv2.INTER_AREA)
    return x.astype(np.float32), at * CELLS / SIDE_PX, view, data["wet"][i], dog


def elsewhere(rng):  # type: ignore[no-untyped-def]
    """Another room behind the dog: soft patches, shelves, tiles, a towel; (128, 128, 3)."""
    coarse = int(rng.choice([2, 3, 5, 9, 16]))
    room = cv2.resize(rng.random((coarse, coarse, 3)), (SIDE_PX, SIDE_PX), interpolation=cv2.INTER_CUBIC)
    room = room * rng.uniform(0.2, 1.0) + rng.random(3) * rng.uniform(0, 0.6)
    for _ in range(rng.integers(0, 7)):
        x, y = rng.integers(0, SIDE_PX, 2)
        wide, high = rng.integers(2, 60, 2)
        room[y : y + high, x : x + wide] = rng.random(3) * rng.uniform(0.3, 1)
    if rng.random() < 0.3:
        room *= (0.8 + 0.2 * np.sign(np.sin(np.arange(SIDE_PX) * rng.uniform(0.1, 0.9))))[:, None, None]
    return cv2.GaussianBlur(np.clip(room, 0, 1), (0, 0), rng.uniform(0.4, 6))


def batches(rng, data, rows):  # type: ignore[no-untyped-def]
    while True:
        picked = rng.choice(rows, BATCH, replace=False)
        cut = [drawn(rng, data, i) for i in picked]
        x, at, view, wet, dog = (np.array(column) for column in zip(*cut, strict=True))
        inside = np.isfinite(at[:, :, 0]) & (at > 0.2).all(axis=2) & (at < CELLS - 0.2).all(axis=2)
        yield (
            x,
            np.nan_to_num(at).astype(np.float32),
            inside.astype(np.float32),
            view,
            wet.astype(np.float32),
            dog.astype(np.float32),
        )


def report(w, fixed, data, rows, rng) -> None:  # type: ignore[no-untyped-def]
    """Median error in cells, view and state hit rates on held-out dogs."""
    errors, hits, wets, shapes = [], [], [], []
    for _, batch in zip(range(max(1, len(rows) // BATCH)), batches(rng, data, rows), strict=False):
        x, at, known, view, wet, dog = batch
        heat, told = FORWARD(w, x, fixed)
        shapes.append((np.asarray(heat[:, :, :, -1]) > 0) == (dog > 0.5))
        best = np.asarray(heat[:, :, :, :-1]).reshape(len(x), -1, len(MARK_IDS)).argmax(axis=1)
        found = np.stack([best % CELLS, best // CELLS], axis=-1) + 0.5
        errors.append(np.linalg.norm(found - at, axis=2)[known > 0])
        hits.append(np.asarray(told)[:, :-1].argmax(axis=1) == view)
        wets.append((np.asarray(told)[:, -1] > 0) == (wet > 0.5))
    off = np.concatenate(errors)
    print(
        f"held out: median {np.median(off):.2f} cells, p90 {np.percentile(off, 90):.2f}, "
        f"view {np.mean(hits):.1%}, wet {np.mean(wets):.1%}, dog or not {np.mean(np.concatenate(shapes)):.1%}",
        flush=True,
    )


def main() -> None:
    folder, minutes = Path(sys.argv[1]), float(sys.argv[2]) if len(sys.argv) > 2 else 12.0
    loaded = [np.load(p) for p in sorted(folder.glob("*.npz"))]
    data = {
        key: np.concatenate([part[key] for part in loaded])
        for key in ("shown", "cover", "at", "views", "wet", "dog")
    }
    held = data["dog"] >= HELD_OUT_FROM
    rng = np.random.default_rng(1)
    w = begin(rng)
    m, v = jax.tree.map(jnp.zeros_like, w), jax.tree.map(jnp.zeros_like, w)
    print(f"{(~held).sum()} pictures, {held.sum()} held out", flush=True)
    started = time.time()
    for n, batch in enumerate(batches(rng, data, np.flatnonzero(~held)), start=1):
        share = (time.time() - started) / (60 * minutes)
        if share >= 1:
            break
        rate = PEAK_RATE * min(n / 100, 1.0) * 0.5 * (1 + np.cos(np.pi * share))
        w, m, v, value = step(w, m, v, n, rate, *batch)
        if n % 250 == 0:
            print(f"step {n}, {share:.0%}, loss {float(value):.3f}", flush=True)
            finish(w, data, held)
    finish(w, data, held)


def finish(w, data, held) -> None:  # type: ignore[no-untyped-def]
    """Settle, report on the held-out dogs, keep."""
    fixed = settled(w, data, np.flatnonzero(~held), np.random.default_rng(5))
    report(w, fixed, data, np.flatnonzero(held), np.random.default_rng(0))
    keep(folded(w, fixed))


def keep(w: dict[str, np.ndarray]) -> None:
    np.savez_compressed(WEIGHTS, **{k: np.asarray(a, np.float16) for k, a in w.items()})


if __name__ == "__main__":
    main()
