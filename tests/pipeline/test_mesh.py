"""The head as a browser reads it: packed numbers come back as what was packed, and faces name what there is."""

from __future__ import annotations

import base64

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from core_cases import model
from dapwick.core.outlines.ear_cut import EAR_VERTICES
from dapwick.core.outlines.effects import ears_now
from dapwick.pipeline.head_colours import HeadColours
from dapwick.pipeline.mesh import STEP_MM, UNIT_STEPS, Mesh, mesh_of, packed_mm


def unpacked(packed: str, kind: str) -> np.ndarray:
    return np.frombuffer(base64.b64decode(packed), kind)


@pytest.fixture(scope="module")
def mesh() -> Mesh:
    ground = model("fogbell").ground
    hair = np.full((len(ground.skin.vertices_mm) + 2 * EAR_VERTICES, 3), 120.0)
    return mesh_of(ground, HeadColours(hair, np.full(3, 20.0)))


@given(st.lists(st.floats(-1500.0, 1500.0), min_size=1, max_size=40))
def test_lengths_come_back_to_a_step(values: list[float]) -> None:
    back = unpacked(packed_mm(np.array(values)), "<i2") * STEP_MM
    assert np.abs(back - values).max() <= STEP_MM / 2 + 1e-9


def test_skin_coat_and_ears_come_back(mesh: Mesh) -> None:
    ground = model("fogbell").ground
    skin = unpacked(mesh.skin, "<i2").reshape(-1, 3) * STEP_MM
    assert np.abs(skin - ground.skin.vertices_mm).max() <= STEP_MM
    coat = unpacked(mesh.coat, "<i2") * STEP_MM
    assert np.abs(coat - ground.coat.depth_mm).max() <= STEP_MM
    ears = unpacked(mesh.ears, "<i2").reshape(-1, 3) * STEP_MM
    assert np.abs(ears - np.concatenate(ears_now(ground))).max() <= STEP_MM
    outward = unpacked(mesh.outward, "<i2").reshape(-1, 3) / UNIT_STEPS
    assert np.linalg.norm(outward, axis=1) == pytest.approx(1.0, abs=1e-3)
    assert np.array_equal(unpacked(mesh.bare, "u1").astype(bool), ground.bare)


def test_every_face_names_a_vertex_of_skin_or_ears(mesh: Mesh) -> None:
    faces = unpacked(mesh.faces, "<u2").reshape(-1, 3)
    vertices = len(unpacked(mesh.coat, "<i2")) + 2 * EAR_VERTICES
    assert faces.max() == vertices - 1
    assert len(np.unique(np.sort(faces, axis=1), axis=0)) == len(faces)


def test_eyes_and_nose_lie_on_the_head(mesh: Mesh) -> None:
    face = model("fogbell").ground.face
    left, right = mesh.eyes_mm
    assert left[0] < 0 < right[0]
    assert left == pytest.approx(tuple((face.at("eye_inner_left") + face.at("eye_outer_left")) / 2))
    assert mesh.nose_mm == pytest.approx(tuple((face.at("nose_tip") + face.at("nose_top")) / 2))


def test_lips_run_from_corner_to_corner_close_to_the_skin(mesh: Mesh) -> None:
    ground = model("fogbell").ground
    mouth, groove = (np.array(line) for line in mesh.lips_mm)
    assert mouth[0][0] < 0 < mouth[-1][0]
    assert np.linalg.norm(mouth[len(mouth) // 2] - ground.face.at("lip_front")) < 6
    assert groove[0][2] > groove[-1][2]
    off = [np.linalg.norm(ground.skin.vertices_mm - place, axis=1).min() for place in (*mouth, *groove)]
    assert max(off) < 8
