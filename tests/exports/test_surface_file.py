"""Surfaces of a head, and the files they are written to."""

from __future__ import annotations

import io

import numpy as np
import pytest
import trimesh

from dapwick.core.basics.errors import BadInput
from dapwick.core.head.zones import ZONES
from dapwick.exports.surface_file import ENDINGS, surface_file
from dapwick.pipeline.plan import FittedGround, drawn_on
from dapwick.pipeline.surfaces import PLACES, Surface, coat_surface, finished_surface, skin_surface


def written(made: Surface, ending: str) -> bytes:
    return surface_file(made.vertices_mm, made.faces, made.sigma_mm, made.zone, PLACES, ending)


def opened(told: bytes, ending: str) -> trimesh.Trimesh:
    mesh = trimesh.load(io.BytesIO(told), file_type=ending[1:], force="mesh", process=False)
    assert isinstance(mesh, trimesh.Trimesh)
    return mesh


def test_skin_is_inside_the_coat_and_what_is_left_lies_between(fogbell: FittedGround) -> None:
    skin, coat = skin_surface(fogbell.ground), coat_surface(fogbell.ground)
    left = finished_surface(drawn_on(fogbell, {}))
    of_head = len(skin.vertices_mm)
    outward = fogbell.ground.skin.outward
    depths = [((one.vertices_mm[:of_head] - skin.vertices_mm) * outward).sum(axis=1) for one in (left, coat)]
    assert (depths[0] >= -1e-9).all()
    assert (depths[0] <= depths[1] + 1e-9).all()
    assert np.median(depths[1] - depths[0]) > 1.0
    assert np.array_equal(coat.sigma_mm[:of_head], fogbell.ground.coat.outside_sigma_mm)
    for one in (skin, coat, left):
        assert np.isfinite(one.sigma_mm).all()
        assert one.faces.max() == len(one.vertices_mm) - 1
        assert len(one.zone) == len(one.sigma_mm) == len(one.vertices_mm)


def test_skin_is_a_closed_body_wound_outward(fogbell: FittedGround) -> None:
    mesh = opened(written(skin_surface(fogbell.ground), ".ply"), ".ply")
    assert mesh.is_watertight
    assert mesh.volume > 300_000


@pytest.mark.parametrize("ending", ENDINGS)
def test_the_surface_comes_back_as_it_was(fogbell: FittedGround, ending: str) -> None:
    made = coat_surface(fogbell.ground)
    mesh = opened(written(made, ending), ending)
    assert len(mesh.faces) == len(made.faces)
    # Right down to the order: each corner of each face lies where it lay.
    assert np.allclose(mesh.vertices[mesh.faces], made.vertices_mm[made.faces], atol=1e-3)


def test_a_ply_is_text_that_names_its_zones_and_carries_sigma(fogbell: FittedGround) -> None:
    made = coat_surface(fogbell.ground)
    lines = written(made, ".ply").decode().split("\n")
    head, body = lines[: lines.index("end_header")], lines[lines.index("end_header") + 1 :]
    named = {int(line.split()[2]): line.split()[3] for line in head if line.startswith("comment zone")}
    assert list(named.values()) == list(PLACES)
    fields = [line.split()[-1] for line in head if line.startswith("property") and "list" not in line]
    rows = np.array([line.split() for line in body[: len(made.vertices_mm)]], dtype=float)
    assert np.allclose(rows[:, fields.index("sigma_mm")], made.sigma_mm, atol=1e-3)
    assert (rows[:, fields.index("zone")] == made.zone).all()
    assert named[int(made.zone[-1])] == "ear_right"
    assert {named[int(z)] for z in made.zone} <= {*ZONES, "ear_left", "ear_right"}


def test_another_ending_is_refused(fogbell: FittedGround) -> None:
    with pytest.raises(BadInput, match="surface file"):
        written(skin_surface(fogbell.ground), ".obj")
