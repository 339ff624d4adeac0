"""Setting lines and the skin they bound."""

from __future__ import annotations

import numpy as np

from dapwick.core.outlines.covers import Cover, below, everywhere, on_skin, setting_lines, side_area
from dapwick.core.outlines.ear_cut import EAR_VERTICES, EarCut, closed_faces, ear_surface, ear_zones
from dapwick.core.outlines.effects import ears_now
from dapwick.pipeline.plan import FittedGround

SQUARE = [(0.0, 0.0), (10.0, 0.0), (10.0, 10.0), (0.0, 10.0)]


def test_an_area_holds_what_is_inside_it_on_its_own_side() -> None:
    region = side_area(SQUARE, [(x + 100, z) for x, z in SQUARE])
    left, right = np.array([[-5.0, 5, 5], [-5.0, 105, 5]]), np.array([[5.0, 5, 5], [5.0, 105, 5]])
    assert region(left).tolist() == [True, False]
    assert region(right).tolist() == [False, True]


def test_below_a_line_reaches_as_far_as_the_head_does() -> None:
    region = below(lambda side: [(-40.0, 0.0), (40.0, 20.0)])
    under = np.array([[10.0, 0, -60], [10, -200, -20], [-10, 200, 10]])
    over = np.array([[10.0, 0, 60], [10, -200, 20], [-10, 200, 40]])
    assert region(under).all()
    assert not region(over).any()


def test_clipped_skin_keeps_its_length_and_thinned_skin_its_share() -> None:
    coat, stand = np.array([20.0, 4.0]), np.array([0.9, 0.9])
    clipped = Cover("face", everywhere, length_mm=2.0).depth_mm(coat, stand)
    thinned = Cover("brows", everywhere, share=0.5, most_mm=8.0).depth_mm(coat, stand)
    assert np.allclose(clipped, clipped[0])
    assert 1.5 < clipped[0] <= 2.0
    assert thinned.tolist() == [8.0, 2.0]


def test_a_setting_line_lies_on_the_skin_of_its_side(fogbell: FittedGround) -> None:
    ground = fogbell.ground
    face, skin = ground.face, ground.skin
    for line in setting_lines(
        "test", lambda s: [face.at(f"ear_front_{s}")[1:], face.at(f"eye_outer_{s}")[1:]]
    ):
        at = on_skin(line, skin)
        assert (np.sign(at[:, 0]) == (1 if line.side == "right" else -1)).all()
        away = np.linalg.norm(at[:, None] - skin.vertices_mm, axis=2).min(axis=1)
        assert away.max() < 8.0


def test_ears_leave_what_the_cut_allows_and_never_more_than_there_is(bobbin: FittedGround) -> None:
    ground = bobbin.ground
    for ear in ground.ears:
        kept = ear_zones(ear, EarCut("all"), 0.75)
        short = ear_zones(ear, EarCut("short", outside_mm=5.0, edge_mm=5.0), 0.75)
        shaved = ear_zones(ear, EarCut("shaved", (0.0, 1.0)), 0.75)
        assert all(z.leave_mm <= z.now_mm + 1e-9 for zones in (kept, short, shaved) for z in zones)
        assert next(z for z in kept if z.zone == "ear_outside").leave_mm > 5.0
        assert max(z.leave_mm for z in short) <= 5.0
        assert max(z.leave_mm for z in shaved if z.zone != "ear_canal") <= 1.5


def test_a_cut_ear_is_smaller_than_the_ear_with_its_hair(bobbin: FittedGround) -> None:
    ground = bobbin.ground
    for ear, now in zip(ground.ears, ears_now(ground), strict=True):
        cut = ear_surface(ear, {"ear_outside": 2.0, "ear_inside": 1.0, "ear_edge": 2.0}, (0.5, 1.0))
        assert cut.shape == now.shape == (EAR_VERTICES, 3)
        assert np.ptp(cut, axis=0).prod() < np.ptp(now, axis=0).prod()
    faces = closed_faces()
    assert faces.max() == EAR_VERTICES - 1
