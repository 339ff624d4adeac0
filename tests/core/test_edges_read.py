"""Which places a silhouette is read at: the muzzle's own line, and never an ear or a neck."""

from __future__ import annotations

import cv2
import numpy as np
import pytest

from dapwick.core.basics.marks import INDEX
from dapwick.core.head.ears import ears_of, flap_of, upright
from dapwick.core.head.silhouettes import DRY_EARS, FOLD_MM, Edge, _within, outside_of, rim_samples
from dapwick.core.head.skin import BETWEEN_MM, between_marks_mm, skin_of
from dapwick.core.head.skin_and_coat import STANDS_OUT_MM, skin_and_coat
from dapwick.core.head.template import template
from dapwick.core.head.zones import BARE, ZONES
from dapwick.core.solve.joint import HeadSolution, solve_head
from dapwick.vision.silhouette import silhouette
from simheads import random_head
from skin_truth import far_rms_mm, skin_off_mm, spread_found
from skulls.kept import KEPT
from skulls.kinds import KINDS
from skulls.makers import skulls


@pytest.fixture(scope="module")
def head() -> HeadSolution:
    solved = solve_head(random_head(11, ("front", "left", "right", "top"), hand=2).given)
    assert isinstance(solved, HeadSolution)
    return solved


def edges_over(head: HeadSolution, cover_mm: np.ndarray, ears_mm: float = 0.0) -> list[Edge]:
    """Silhouettes of what lies so far (V,) over the skin, and of folded ears that stand so far up."""
    skin = skin_of(head)
    surface = skin.vertices_mm + cover_mm[:, None] * skin.outward
    edges = []
    for camera, photo in zip(head.cameras, head.photos, strict=True):
        faces, points = skin.template.faces, surface
        if ears_mm:
            for side, outward in (("left", -1.0), ("right", 1.0)):
                grid = upright(flap_of(head, side), outward, ears_mm)  # type: ignore[arg-type]
                ear = next(ear for ear in ears_of(head) if ear.side == side)
                faces = np.concatenate([faces, ear.faces + len(points)])
                points = np.concatenate([points, grid.reshape(-1, 3)])
        edges.append(Edge(camera, photo.view, silhouette(camera.project(points), faces)))
    return edges


def in_zones(*names: str) -> np.ndarray:
    return np.isin(template().zone, [ZONES.index(z) for z in names])


@pytest.mark.parametrize("deep_mm", [5.0, 25.0])
def test_a_furnished_or_clean_face_is_read_off_its_profile(head: HeadSolution, deep_mm: float) -> None:
    """Bridge and stop, where dogs are clean or furnished: the photos tell which, without a comb."""
    skin, coat = skin_and_coat(head, "standing", edges_over(head, np.full(len(template().zone), deep_mm)))
    warped = skin_of(head)
    outside = ((skin.vertices_mm - warped.vertices_mm) * warped.outward).sum(axis=1) + coat.depth_mm
    bridge, stop = in_zones("bridge"), in_zones("stop")
    assert np.median(outside[bridge]) == pytest.approx(deep_mm + STANDS_OUT_MM, abs=3.5)
    assert coat.read[bridge].mean() > 0.5
    for at in (bridge, stop):
        assert (np.median(coat.depth_mm[at]) > 10.0) == (deep_mm > 10.0)


def test_a_folded_ears_peak_is_not_taken_for_the_crown(head: HeadSolution) -> None:
    ears = ears_of(head)
    assert {ear.carriage for ear in ears} == {"button"}
    skin, cover = skin_of(head), np.full(len(template().zone), 20.0)
    worn, peaks = outside_of(skin, cover), 0
    for edge, plain in zip(edges_over(head, cover, FOLD_MM), edges_over(head, cover), strict=True):
        found = rim_samples(head, skin, edge, worn, DRY_EARS)
        assert (found.off_mm < 26.0).all()
        peaks += len(edge.line_px) != len(plain.line_px)
    assert peaks >= 3


def test_nothing_behind_the_middle_of_the_skull_is_read(head: HeadSolution) -> None:
    skin, cover = skin_of(head), np.full(len(template().zone), 20.0)
    back = head.points_mm[[INDEX["crown"], INDEX["occiput"]], 1].mean()
    for edge in edges_over(head, cover):
        found = rim_samples(head, skin, edge, outside_of(skin, cover))
        assert len(found.at) > 20
        assert (skin.vertices_mm[found.at, 1] > back).all()
        assert not in_zones("temple", "back_skull", "nape", "throat", BARE)[found.at].any()


def test_what_a_surfaces_picture_covers_is_told_as_by_its_outline() -> None:
    rng = np.random.default_rng(3)
    corners = template().vertices_mm[template().coarse_faces][:, :, [1, 2]]
    points = rng.uniform([-110, -80], [75, 60], (400, 2))
    flat = template().vertices_mm[:, [1, 2]]
    line = silhouette(flat * 4 + 600, template().faces)
    outline = ((line - 600) / 4).astype(np.float32)
    inside_mm = np.array([cv2.pointPolygonTest(outline, tuple(map(float, p)), True) for p in points])
    told, sure = _within(points, corners), np.abs(inside_mm) > 1.5
    assert sure.mean() > 0.9
    assert 0.2 < told.mean() < 0.8
    assert (told == (inside_mm > 0))[sure].all()


def test_no_zone_is_told_surer_than_heads_of_a_kind_left_out_are() -> None:
    off = {kind: np.array([skin_off_mm(one) for one in skulls(kind, 5, seed=3)]) for kind in KINDS}
    found, more = spread_found(off)
    assert 1.0 <= more < 2.0
    for zone, mm in found.items():
        assert mm <= 1.25 * BETWEEN_MM[zone], zone


@pytest.mark.parametrize("kind", KEPT)
def test_skin_between_exact_marks_of_heads_never_learnt_from(kind: str) -> None:
    sigma, planned = between_marks_mm(), ~in_zones("nape", "throat", BARE)
    for one in skulls(kind, 2, seed=5):
        off = skin_off_mm(one)[planned]
        assert (np.abs(off) < 1.96 * sigma[planned])[np.isfinite(off)].mean() > 0.85


def test_the_spread_far_from_marks_is_what_it_was_made_of() -> None:
    """Made-up skin that strays by a known amount far from marks and hardly at them."""
    rng = np.random.default_rng(8)
    sigma = between_marks_mm()
    off = rng.normal(0, 1, (400, len(sigma))) * sigma
    for zone in ("crown", "nape", "cheek"):
        assert far_rms_mm(off, zone) == pytest.approx(BETWEEN_MM[zone], rel=0.05)
