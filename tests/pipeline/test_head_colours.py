"""A dog's own colours on its head: painted photos, whose colours are known, seen through the solved cameras."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from core_cases import model
from dapwick.core.head.zones import ZONES
from dapwick.core.outlines.ear_cut import EAR_VERTICES
from dapwick.pipeline.head_colours import USUAL, colours_of
from dapwick.pipeline.head_model import HeadModel
from dapwick.pipeline.neck import neck_of
from dapwick.vision.photo import Pixels
from dapwick.vision.rim import filled

RED, WALL = np.array([180.0, 60.0, 40.0]), np.array([20.0, 200.0, 220.0])


def painted(head: HeadModel, light: float = 0.0) -> dict[str, Callable[[], Pixels]]:
    """Photos of a red dog on a wall; light: how much brighter the top of the picture is."""

    def one(name: str) -> Callable[[], Pixels]:
        camera = next(c for p, c in head.seen if p.name == name)
        shape = (camera.height_px, camera.width_px)
        rgb = np.broadcast_to(WALL, (*shape, 3)).copy()
        rgb[filled(head.coat_lines[name], shape)] = RED
        bright = 1.0 + light * np.linspace(1, -1, shape[0])[:, None, None]
        return lambda: np.clip(rgb * bright, 0, 255).astype(np.uint8)

    return {photo.name: one(photo.name) for photo, _ in head.seen}


def test_every_place_has_the_coats_colour_and_none_the_walls() -> None:
    head = model("fogbell")
    found = colours_of(head, painted(head)).hair
    assert len(found) == len(head.ground.skin.vertices_mm) + 2 * EAR_VERTICES
    assert np.abs(found - RED).max(axis=1).mean() < 12
    # Wall is blue where the dog is red: nowhere may it have come through.
    assert (found[:, 0] > found[:, 2]).mean() > 0.97


def test_light_from_above_is_taken_out() -> None:
    head = model("fogbell")
    found = colours_of(head, painted(head, light=0.25)).hair.mean(axis=1)
    zone = head.ground.skin.template.zone
    crown, throat = (found[: len(zone)][zone == ZONES.index(one)].mean() for one in ("crown", "throat"))
    assert crown / throat < 1.25


def test_without_photos_a_coat_has_the_usual_colour() -> None:
    found = colours_of(model("fogbell"), {})
    assert np.allclose(found.hair, USUAL)
    assert found.leather.mean() < 60


def test_a_neck_runs_back_and_down_from_the_head_and_fades_out() -> None:
    ground = model("fogbell").ground
    neck = neck_of(ground)
    first, last = neck.vertices_mm[neck.fade == 1.0], neck.vertices_mm[neck.fade < 0.05]
    assert last[:, 1].mean() < first[:, 1].mean() - 30
    assert last[:, 2].mean() < first[:, 2].mean() - 30
    skin = ground.skin.vertices_mm
    wide = float(np.ptp(first[:, 0]))
    assert 0.5 * np.ptp(skin[:, 0]) < wide < 1.1 * np.ptp(skin[:, 0])
    assert neck.faces.max() == len(neck.vertices_mm) - 1
    outward = (
        neck.vertices_mm - neck.vertices_mm.reshape(-1, 36, 3).mean(axis=1).repeat(36, axis=0)
    ) * neck.outward
    assert (outward.sum(axis=1) > 0).all()
