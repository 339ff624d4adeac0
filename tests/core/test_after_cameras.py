"""Cameras of finished photos on bone that is known."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from dapwick.core.after.cameras import FoundCamera, camera_on, moved
from dapwick.core.basics.camera import Camera
from dapwick.core.basics.findings import Finding
from dapwick.core.basics.marks import INDEX, View
from dapwick.core.solve.observations import PhotoMarks, PlacedMark
from dapwick.pipeline.check import eyes_and_nose
from dapwick.pipeline.plan import FittedGround
from simheads import marked_photo, random_camera


def photographed(
    ground: FittedGround, view: View, seed: int, noise: bool = True
) -> tuple[PhotoMarks, Camera]:
    rng = np.random.default_rng(seed)
    points = ground.ground.head.points_mm
    camera = random_camera(rng, view, points)
    photo = eyes_and_nose(marked_photo(rng, "finished", view, camera, points, focal_error=0.0))
    if noise:
        return photo, camera
    there = camera.project(points)
    exact = {m: PlacedMark(*there[INDEX[m]].tolist()) for m in photo.marks}
    return replace(photo, marks=exact), camera


def turned_deg(a: Camera, b: Camera) -> float:
    cosine = (np.trace(a.rotation @ b.rotation.T) - 1) / 2
    return float(np.degrees(np.arccos(np.clip(cosine, -1, 1))))


@pytest.mark.parametrize("view", ["front", "left", "right", "top"])
def test_marks_without_noise_give_the_camera_back_as_surely_as_they_are(
    fogbell: FittedGround, view: View
) -> None:
    photo, camera = photographed(fogbell, view, 3, noise=False)
    told, sure = (camera_on(fogbell.ground.head, photo, steady=steady) for steady in (1.0, 0.02))
    assert isinstance(told, FoundCamera)
    assert isinstance(sure, FoundCamera)
    # What is expected of how a head is held draws the camera by less than it is told to be off.
    assert turned_deg(told.camera, camera) < 1.5 * np.degrees(np.sqrt(np.trace(told.covariance[:3, :3])))
    assert turned_deg(sure.camera, camera) < max(0.5, 0.8 * turned_deg(told.camera, camera))
    assert told.off_mm < 1.0


def test_the_covariance_of_a_camera_covers_how_far_it_is_off(fogbell: FittedGround) -> None:
    """Where cheek and crown are pictured, against the σ that the camera's covariance gives them there."""
    head, off = fogbell.ground.head, []
    places = fogbell.ground.skin.vertices_mm[::97]
    for seed in range(24):
        photo, camera = photographed(fogbell, ("front", "left", "top")[seed % 3], seed)  # type: ignore[arg-type]
        found = camera_on(head, photo)
        assert isinstance(found, FoundCamera)
        slopes = np.array(
            [
                (moved(found.camera, step).project(places) - found.camera.project(places)).ravel() / 1e-3
                for step in 1e-3 * np.eye(7)
            ]
        )
        sigma = np.sqrt(np.einsum("ip,ij,jp->p", slopes, found.covariance, slopes))
        off.append((found.camera.project(places) - camera.project(places)).ravel() / sigma)
    share = np.mean(np.abs(np.concatenate(off)) < 2.0)
    assert 0.75 < share <= 1.0


def test_another_dogs_photo_is_refused_with_its_reason(fogbell: FittedGround) -> None:
    photo, _ = photographed(fogbell, "front", 5)
    rng = np.random.default_rng(1)
    strewn = {m: PlacedMark(*rng.uniform(100, 800, 2).tolist()) for m in photo.marks}
    refused = camera_on(fogbell.ground.head, replace(photo, marks=strewn))
    assert isinstance(refused, Finding)
    assert refused.leaves_photo_out
    assert "finished" in refused.message
    few = camera_on(fogbell.ground.head, replace(photo, marks=dict(list(photo.marks.items())[:3])))
    assert isinstance(few, Finding)
    assert few.code == "too_few_marks"
