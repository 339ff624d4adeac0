"""The traced coat edge and drawn silhouettes against shapes whose edge is known."""

from __future__ import annotations

import numpy as np
import pytest
from scipy.spatial import cKDTree

from dapwick.core.head.template import template
from dapwick.demo.dogs import hand_marks, photo_bytes, photos_of, truth
from dapwick.pipeline.review import review_photo
from dapwick.vision.edge import NoEdge, trace_edge
from dapwick.vision.photo import read_photo
from dapwick.vision.silhouette import silhouette
from edge_truth import edge_errors_mm


def blob(radius: float = 180.0) -> tuple[np.ndarray, dict[str, tuple[float, float]]]:
    """A noisy disc on a noisy ground, and marks inside it."""
    rng = np.random.default_rng(0)
    y, x = np.mgrid[:600, :800]
    inside = np.hypot(x - 400, y - 300) < radius
    rgb = np.where(inside[..., None], (190, 150, 90), (70, 90, 120)) + rng.normal(0, 12, (600, 800, 3))
    places = {
        f"m{i}": (400 + 125 * np.cos(t), 300 + 125 * np.sin(t)) for i, t in enumerate(np.linspace(0, 6, 7))
    }
    return rgb.clip(0, 255).astype(np.uint8), places


def test_edge_of_a_disc_is_its_circle() -> None:
    rgb, marks = blob()
    line = trace_edge(rgb, marks)
    assert not isinstance(line, NoEdge)
    upper = line[line[:, 1] < 330]
    assert np.abs(np.hypot(upper[:, 0] - 400, upper[:, 1] - 300) - 180).max() < 6


def test_tracing_is_repeatable() -> None:
    rgb, marks = blob()
    assert np.array_equal(trace_edge(rgb, marks), trace_edge(rgb, marks))  # type: ignore[arg-type]


def test_too_few_marks_is_a_reason() -> None:
    rgb, _ = blob()
    found = trace_edge(rgb, {"a": (1.0, 2.0)})
    assert isinstance(found, NoEdge)
    assert "four marks" in found.reason


@pytest.mark.parametrize("dog", ["fogbell", "bobbin"])
def test_edge_of_a_simulated_dog_lies_off_its_skin(dog: str) -> None:
    """Above the eyes, the traced edge stands a coat's depth off the pictured skull, no more."""
    known = truth(dog)
    photo = photos_of(known)[0]
    marks = {m: tuple(v["at"]) for m, v in hand_marks(photo).items()}
    line = trace_edge(read_photo(photo_bytes(photo["file"]), "a").rgb, marks)  # type: ignore[arg-type]
    assert not isinstance(line, NoEdge)
    px_per_mm = photo["focal_px"] / np.linalg.norm(photo["translation_mm"])
    crown = np.array(photo["marks_px"]["crown"])
    overhead = line[np.abs(line[:, 0] - crown[0]) < 15 * px_per_mm]
    height_mm = (crown[1] - overhead[:, 1].min()) / px_per_mm
    assert 12 < height_mm < 50


ON_LIGHT_AND_DARK = (
    ("marlin-spike", "dry-front"),
    ("squall", "dry-left"),
    ("fogbell", "wet-left"),
    ("tiller", "dry-right"),
    ("ratline", "wet-front"),
    ("halyard", "dry-top"),
)


@pytest.mark.parametrize(("key", "slot"), ON_LIGHT_AND_DARK)
def test_edge_lies_on_the_true_silhouette(key: str, slot: str) -> None:
    """With nothing but the photo: median within 1.5 mm, nearly all within 8 mm."""
    photo = photos_of(truth(key), [slot])[0]
    seen = review_photo(read_photo(photo_bytes(photo["file"]), "a").rgb, "a", photo["view"], (1200, 900))
    assert seen.edge is not None
    off = edge_errors_mm(seen.edge, photo)
    assert np.median(off) < 1.5
    assert np.percentile(off, 95) < 8.0


def test_tracing_tells_its_progress_and_can_be_stopped() -> None:
    rgb, marks = blob()
    told: list[float] = []
    trace_edge(rgb, marks, progress=told.append)
    assert told == sorted(told)
    assert len(told) >= 3

    def stop(share: float) -> None:
        if share > 0.3:
            raise InterruptedError

    with pytest.raises(InterruptedError):
        trace_edge(rgb, marks, progress=stop)


def test_a_known_chance_of_dog_keeps_the_ground_out() -> None:
    """A ground of the dog's own colour beside it: only the chance can tell the two apart."""
    rgb, marks = blob()
    rgb[200:400, 620:780] = (190, 150, 90)
    y, x = np.mgrid[:600, :800]
    chance = 1 / (1 + np.exp((np.hypot(x - 400, y - 300) - 185) / 20))
    line = trace_edge(rgb, marks, chance)
    assert not isinstance(line, NoEdge)
    assert line[:, 0].max() < 610


def test_silhouette_of_a_ball_is_a_circle() -> None:
    base = template()
    ball = base.vertices_mm - base.vertices_mm.mean(axis=0)
    ball = 50 * ball / np.linalg.norm(ball, axis=1, keepdims=True)
    line = silhouette(ball[:, [0, 2]], base.faces)
    assert np.abs(np.hypot(*line.T) - 50).max() < 1.0


def test_silhouette_moves_and_scales_with_its_points() -> None:
    base = template()
    flat = base.vertices_mm[:, [0, 2]]
    line, moved = silhouette(flat, base.faces), silhouette(flat * 7 + [300, -20], base.faces)
    near, _ = cKDTree(line * 7 + [300, -20]).query(moved)
    assert near.max() < 7.0


def test_points_without_a_picture_are_left_out() -> None:
    base = template()
    flat = base.vertices_mm[:, [0, 2]].copy()
    flat[:50] = np.nan
    assert np.isfinite(silhouette(flat, base.faces)).all()
    assert len(silhouette(np.full_like(flat, np.nan), base.faces)) == 0
