"""Template, skin and coat."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from scipy.spatial import cKDTree

from dapwick.core.basics.errors import BadInput
from dapwick.core.basics.marks import INDEX
from dapwick.core.head.coat import CoatProbe
from dapwick.core.head.silhouettes import Edge, outside_of, rim_samples
from dapwick.core.head.skin import CONTROL_ROWS, between_marks_mm, skin_of, warp_weights
from dapwick.core.head.skin_and_coat import skin_and_coat
from dapwick.core.head.stand import length_of
from dapwick.core.head.template import template, template_field
from dapwick.core.head.zones import BARE, ZONES
from dapwick.core.solve.joint import HeadSolution, solve_head
from dapwick.demo.dogs import photo_bytes, photos_of, truth
from dapwick.pipeline.head_model import traced_edge
from dapwick.pipeline.plan import FittedGround
from dapwick.vision.edge import NoEdge
from dapwick.vision.photo import read_photo
from dapwick.vision.silhouette import silhouette
from demo_heads import demo_head_file


def test_template_is_closed_and_wound_outward() -> None:
    base = template()
    edges = np.sort(
        np.concatenate([base.faces[:, [0, 1]], base.faces[:, [1, 2]], base.faces[:, [2, 0]]]), axis=1
    )
    _, counts = np.unique(edges, axis=0, return_counts=True)
    assert (counts == 2).all()
    corners = base.vertices_mm[base.faces]
    volume = np.einsum("ij,ij->i", corners[:, 0], np.cross(corners[:, 1], corners[:, 2])).sum() / 6
    assert volume > 300_000


def test_template_is_mirror_symmetric_with_its_zones() -> None:
    base = template()
    assert np.abs(base.vertices_mm[base.mirror] * [-1, 1, 1] - base.vertices_mm).max() < 0.05
    assert (base.zone[base.mirror] == base.zone).mean() > 0.99


def test_coarse_faces_are_the_same_head() -> None:
    base = template()
    assert base.coarse_faces.max() < len(base.vertices_mm) / 3.9
    fine, coarse = (silhouette(base.vertices_mm[:, [1, 2]], f) for f in (base.faces, base.coarse_faces))
    away, _ = cKDTree(fine).query(coarse)
    assert np.median(away) < 1.5


def test_template_lies_on_its_field() -> None:
    assert np.abs(template_field()(template().vertices_mm)).max() < 0.5


def test_every_zone_has_skin_on_both_sides() -> None:
    base = template()
    for zone in ZONES:
        sides = base.vertices_mm[base.zone == ZONES.index(zone), 0]
        assert (sides > 0).sum() >= 5, zone
        assert (sides < 0).sum() >= 5, zone


def test_warp_sends_marks_to_marks(solved: HeadSolution) -> None:
    """The spline is exact at its marks: skin right at a mark's template place lands on the mark."""
    base = template()
    skin = skin_of(solved)
    near, at = cKDTree(base.vertices_mm).query(base.control_mm)
    landed = np.linalg.norm(skin.vertices_mm[at] - solved.points_mm[CONTROL_ROWS], axis=1)
    assert (landed < 2.2 * near + 1.0).all()


def test_warp_weights_reproduce_affine_maps() -> None:
    base = template()
    rng = np.random.default_rng(0)
    a, shift = np.eye(3) + rng.normal(0, 0.2, (3, 3)), rng.normal(0, 30, 3)
    warped = warp_weights() @ (base.control_mm @ a.T + shift)
    assert np.allclose(warped, base.vertices_mm @ a.T + shift, atol=1e-6)


def test_skin_uncertainty_follows_the_marks(solved: HeadSolution) -> None:
    wide = skin_of(replace(solved, covariance=solved.covariance * 4.0)).sigma_mm
    usual = skin_of(solved).sigma_mm
    between = between_marks_mm()
    assert (usual >= between).all()
    assert np.allclose(wide, np.hypot(2 * np.sqrt(usual**2 - between**2), between))
    nape, crown = (np.median(between[skin_of(solved).in_zone(z)]) for z in ("nape", "crown"))
    assert nape > crown + 0.5


def ring(head: HeadSolution, camera_index: int, radius_mm: float) -> Edge:
    """A coat edge that is a circle of that radius about the skull's middle."""
    camera = head.cameras[camera_index]
    centre = camera.project(head.points_mm[CONTROL_ROWS].mean(axis=0)[None])[0]
    turn = np.linspace(0, 2 * np.pi, 200, endpoint=False)
    px = radius_mm * camera.focal_px / camera.distance_mm
    line = centre + px * np.column_stack([np.cos(turn), np.sin(turn)])
    return Edge(camera, head.photos[camera_index].view, line)


def test_a_wider_edge_reads_as_a_deeper_coat(solved: HeadSolution) -> None:
    skin = skin_of(solved)
    near, far = (skin_and_coat(solved, "standing", [ring(solved, 0, r)])[1] for r in (85.0, 95.0))
    read = np.isin(skin.template.zone, [ZONES.index("crown"), ZONES.index("temple")])
    assert near.readings > 5
    assert np.median(far.depth_mm[read] - near.depth_mm[read]) == pytest.approx(8.0, abs=5.0)


def test_below_a_neck_line_an_edge_says_nothing(solved: HeadSolution) -> None:
    """Whichever way the line was drawn; what lies on the eyes' side counts as it did."""
    skin = skin_of(solved)
    edge = ring(solved, 0, 90.0)
    worn = outside_of(skin, np.full(len(skin.vertices_mm), 20.0))
    whole = rim_samples(solved, skin, edge, worn)
    eyes = edge.camera.project(solved.points_mm[[INDEX["eye_inner_left"], INDEX["eye_inner_right"]]])
    across = float(eyes[:, 0].mean()) + 20.0
    hit = edge.camera.project(skin.vertices_mm[whole.at] + whole.off_mm[:, None] * skin.outward[whole.at])
    above = set(whole.at[hit[:, 0] < across].tolist())
    assert 0 < len(above) < len(whole.at)
    for neck in ([[across, 0.0], [across, 900.0]], [[across, 900.0], [across, 0.0]]):
        cut = rim_samples(solved, skin, replace(edge, neck_px=np.array(neck)), worn)
        assert set(cut.at.tolist()) == above


def test_a_comb_narrows_and_moves_its_zone(solved: HeadSolution) -> None:
    skin, blind = skin_and_coat(solved, "standing", [])
    _, combed = skin_and_coat(solved, "standing", [], [CoatProbe("cheek", None, 48.0, 60.0)])
    for side in ("left", "right"):
        at = skin.in_zone("cheek", side)
        assert np.median(combed.depth_mm[at]) > np.median(blind.depth_mm[at]) + 8
        assert np.median(combed.sigma_mm[at]) < np.median(blind.sigma_mm[at])
        drawn_out = length_of(np.full(len(at), 48.0), combed.stand[at])
        usual = length_of(np.full(len(at), 48.0), blind.stand[at])
        assert (np.abs(drawn_out - 60.0) < np.abs(usual - 60.0)).all()
        assert (combed.stand_sigma[at] < 0.8 * blind.stand_sigma[at]).all()
    chin, cheek = skin.in_zone("chin"), skin.in_zone("cheek")
    narrowed = [1 - np.median(combed.sigma_mm[z]) / np.median(blind.sigma_mm[z]) for z in (chin, cheek)]
    assert 0.05 < narrowed[0] < narrowed[1] - 0.1


def test_bare_places_carry_no_coat(fogbell: FittedGround) -> None:
    skin, coat = fogbell.ground.skin, fogbell.ground.coat
    assert (coat.depth_mm[skin.in_zone(BARE)] == 0).all()
    assert (coat.depth_mm >= 0).all()


@pytest.mark.parametrize("key", ["fogbell", "bobbin"])
def test_coat_of_a_simulated_dog_lies_in_its_interval(key: str, request: pytest.FixtureRequest) -> None:
    """Against the truth beside the photos: seen zones come close, unseen ones say that they are unseen."""
    fitted: FittedGround = request.getfixturevalue(key)
    skin, coat = fitted.ground.skin, fitted.ground.coat
    known = truth(key)["skin"]
    _, nearest = cKDTree(known["at_mm"]).query(skin.vertices_mm)
    error = coat.depth_mm - np.array(known["coat_depth_mm"])[nearest]
    seen = np.concatenate([skin.in_zone(z) for z in ("crown", "visor", "chin", "bridge")])
    assert np.median(np.abs(error[seen])) < 7.0
    spread = coat.sigma_mm
    assert (np.abs(error[seen]) < 2.5 * spread[seen]).mean() > 0.7
    cheek = skin.in_zone("cheek")
    assert np.median(np.abs(error[cheek])) < 2 * np.median(spread[cheek])


@pytest.mark.parametrize("key", ["fogbell", "bobbin"])
def test_skin_of_a_simulated_dog_is_near(key: str, request: pytest.FixtureRequest) -> None:
    fitted: FittedGround = request.getfixturevalue(key)
    skin, known = fitted.ground.skin, truth(key)["skin"]
    _, nearest = cKDTree(known["at_mm"]).query(skin.vertices_mm)
    off = ((skin.vertices_mm - np.array(known["at_mm"])[nearest]) * np.array(known["outward"])[nearest]).sum(
        axis=1
    )
    upper = np.isin(skin.template.zone, [ZONES.index(z) for z in ("crown", "temple", "cheek", "visor")])
    assert np.median(np.abs(off[upper])) < 4.0


def test_few_marks_do_not_make_a_small_dog() -> None:
    """Eyes, nose and cheeks alone on the front photo: the traced edge still runs over the crown."""
    file = demo_head_file("bobbin")
    few = dict(list(file.photos[0].marks.items())[:9])
    photos = [file.photos[0].model_copy(update={"marks": few}), *file.photos[1:]]
    head = solve_head(file.model_copy(update={"photos": photos}).head_input())
    assert isinstance(head, HeadSolution)
    line = traced_edge(head, head.photos[0], read_photo(photo_bytes(head.photos[0].name), "a").rgb)
    assert not isinstance(line, NoEdge)
    crown = photos_of(truth("bobbin"))[0]["marks_px"]["crown"]
    assert line[:, 1].min() < crown[1] - 30


def test_a_hanging_ear_hides_the_cheek(fogbell: FittedGround, bobbin: FittedGround) -> None:
    """Bobbin's sides are ears: what is under them is told as unknown, unlike Fogbell's."""
    told = [
        np.median(dog.ground.coat.sigma_mm[dog.ground.skin.in_zone("cheek")]) for dog in (fogbell, bobbin)
    ]
    assert told[1] > 1.4 * told[0]


def test_bad_probes_are_refused() -> None:
    with pytest.raises(BadInput, match="unknown zone"):
        CoatProbe("tail", None, 10)
    with pytest.raises(BadInput, match="0 to 200"):
        CoatProbe("cheek", None, -1)
    with pytest.raises(BadInput, match="shorter than it is deep"):
        CoatProbe("cheek", None, 20, 10)
