"""What is drawn and told of one planned head: lines, handles, aligned views and words agree with its numbers."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from scipy.spatial import cKDTree

from core_cases import model
from dapwick.core.basics.arrays import Array
from dapwick.core.basics.marks import INDEX
from dapwick.core.head.zones import zone_words
from dapwick.core.outlines.effects import ears_cut
from dapwick.core.outlines.families import FAMILIES
from dapwick.core.outlines.family import FULLNESS
from dapwick.core.plan.finished import surface
from dapwick.core.plan.telling import TELLING_SHORTAGE_MM
from dapwick.pipeline.aligned_views import SHEET_VIEWS, flat, sheet_lines
from dapwick.pipeline.alt_text import TOLD, in_words
from dapwick.pipeline.head_drawing import drawing_of
from dapwick.pipeline.overlays import SHORTAGE_DOTS, handles_on, shortage_dots
from dapwick.pipeline.plan import FittedGround, Plan, fit_on, moving_plan_on, plan_on, thumb_on


@pytest.fixture(scope="module")
def fitted() -> FittedGround:
    return fit_on(model("fogbell"), FAMILIES["teddy"])


@pytest.fixture(scope="module")
def plan(fitted: FittedGround) -> Plan:
    return plan_on(fitted, {})


def area(line: Array) -> float:
    x, y = line.T
    return abs(float((x * np.roll(y, -1) - np.roll(x, -1) * y).sum())) / 2


def filled(line: Array) -> Array:
    """A closed line with places between its corners."""
    share = np.linspace(0.0, 1.0, 12, endpoint=False)[:, None]
    return np.concatenate([a + (b - a) * share for a, b in zip(line, np.roll(line, -1, axis=0), strict=True)])


def test_moving_and_resting_plans_are_the_same_plan(fitted: FittedGround, plan: Plan) -> None:
    moving = moving_plan_on(fitted, {})
    assert np.array_equal(moving.depth_mm, plan.outline.leave_mm)
    assert [z.leave_mm for z in moving.zones] == [z.leave_mm for z in plan.zones]
    assert (moving.readiness.when, moving.readiness.weeks) == (plan.verdict.when, plan.verdict.weeks)
    for quick, whole, (_, camera) in zip(moving.photos, plan.photos, fitted.model.seen, strict=True):
        assert quick.photo == whole.photo
        assert quick.handles == whole.handles
        # Ears are drawn as bare leaves while a slider moves; the head itself is where it will rest.
        px_per_mm = camera.focal_px / camera.distance_mm
        off_mm = cKDTree(filled(whole.outline)).query(quick.outline)[0] / px_per_mm
        assert np.median(off_mm) < 1.0


def test_a_thumb_is_the_outline_as_fitted(fitted: FittedGround, plan: Plan) -> None:
    thumb = thumb_on(fitted)
    assert thumb.outline.params == plan.outline.params
    assert thumb.verdict.when == plan.verdict.when


@pytest.mark.parametrize("view", SHEET_VIEWS)
def test_aligned_views_hold_skin_in_outline_in_coat(plan: Plan, view: str) -> None:
    lines = plan.sheet[view]
    assert area(lines["skin"]) < area(lines["outline"]) <= area(lines["coat"]) * 1.01


def test_aligned_views_share_scale_and_level(plan: Plan) -> None:
    eye = plan.outline.ground.head.points_mm[[INDEX["eye_outer_left"]]]
    front, left, top = (flat(eye, view)[0] for view in SHEET_VIEWS)
    assert front[1] == left[1] == -eye[0, 2]
    # The sheet turns the view from above nose down, so that both have the dog's right at the left.
    assert front[0] == -top[0] == -eye[0, 0]
    assert left[0] == top[1] == -eye[0, 1]
    right = flat(eye, "right")[0]
    assert (right[0], right[1]) == (-left[0], left[1])


def test_finer_and_coarser_tracing_show_one_shape(plan: Plan) -> None:
    outline = plan.outline
    finished, ears = surface(outline, outline.leave_mm), ears_cut(outline)
    fine, coarse = (sheet_lines(outline, finished, ears, px)["front"]["outline"] for px in (400, 150))
    assert area(coarse) == pytest.approx(area(fine), rel=0.03)


def test_a_handle_moves_as_far_as_its_parameter_moves_the_outline(fitted: FittedGround, plan: Plan) -> None:
    outline = plan.outline
    finished, ears = surface(outline, outline.leave_mm), ears_cut(outline)
    for photo, camera in fitted.model.seen:
        handles = {h.parameter: h for h in handles_on(outline, camera, finished, ears)}
        assert (FULLNESS in handles) == (photo.view == "front"), (
            "a side is pulled where it is seen from the side"
        )
        px_per_mm = camera.focal_px / camera.distance_mm
        sizes = outline.sizes
        reach = max(sizes.largest - sizes.fitted, sizes.fitted - sizes.smallest, 1.0)
        if FULLNESS in handles:
            moved = float(np.hypot(*handles[FULLNESS].px_a_unit)) / px_per_mm
            assert moved == pytest.approx(outline.family.size_grip.gain * reach, rel=0.25)
        for handle in handles.values():
            assert 0 <= handle.at_px[0] <= camera.width_px
            assert 0 <= handle.at_px[1] <= camera.height_px


def test_dots_stand_where_hair_is_missing_and_nowhere_else(fitted: FittedGround, plan: Plan) -> None:
    outline = plan.outline
    camera = fitted.model.seen[0][1]
    none = np.full_like(outline.short_mm, TELLING_SHORTAGE_MM)
    assert len(shortage_dots(outline, none, camera)) == 0
    everywhere = shortage_dots(outline, np.full_like(outline.short_mm, 9.0), camera)
    assert SHORTAGE_DOTS / 2 < len(everywhere) <= SHORTAGE_DOTS
    crown = outline.ground.skin.in_zone("crown")
    there = np.zeros_like(outline.short_mm)
    there[crown] = 9.0
    dots = shortage_dots(outline, there, camera)
    eye = camera.project(outline.ground.head.points_mm[[INDEX["eye_outer_left"]]])[0]
    assert len(dots)
    assert (dots[:, 1] < eye[1]).all()


def test_the_skins_band_is_its_doubt_in_the_picture(fitted: FittedGround, plan: Plan) -> None:
    sigma = float(np.median(fitted.ground.skin.sigma_mm))
    for lines, (_, camera) in zip(plan.photos, fitted.model.seen, strict=True):
        assert lines.skin_band_px == pytest.approx(
            1.6449 * sigma * camera.focal_px / camera.distance_mm, rel=1e-3
        )


def test_weeks_ahead_show_a_larger_head(fitted: FittedGround, plan: Plan) -> None:
    later = plan_on(fitted, {}, weeks_ahead=6.0)
    assert (later.depth_mm >= plan.depth_mm - 1e-9).all()
    for view in SHEET_VIEWS:
        assert area(later.sheet[view]["outline"]) > area(plan.sheet[view]["outline"])
    assert [z.leave_mm for z in later.zones] == [z.leave_mm for z in plan.zones]


def test_the_drawing_in_words_says_what_the_numbers_say(plan: Plan) -> None:
    words = plan.text
    assert words.startswith("Teddy: ")
    width = next(e for e in plan.verdict.effects if e.id == "width_mm")
    assert f"from {width.now:.0f} to {width.after:.0f} mm wide" in words
    for zone in TOLD:
        assert f" {zone_words(zone).capitalize()}: leave " in words


@pytest.mark.parametrize(
    ("when", "weeks", "said"),
    [
        ("today", 0, "It can be cut today."),
        ("later", 5, "It can be cut in about 5 weeks."),
        ("not_on_this_coat", 40, "This coat cannot carry it."),
    ],
)
def test_words_say_when(plan: Plan, when: str, weeks: int, said: str) -> None:
    verdict = replace(plan.verdict, when=when, weeks=weeks, comb_first=())  # type: ignore[arg-type]
    assert said in in_words(plan.outline, plan.zones, verdict)


def test_what_rests_on_a_coat_nobody_saw_is_not_said_to_be_for_today(plan: Plan) -> None:
    verdict = replace(plan.verdict, when="today", weeks=0, comb_first=("cheek", "crown"))
    words = in_words(plan.outline, plan.zones, verdict)
    assert "Comb cheek first: its coat is not seen." in words
    assert "today" not in words


def test_sides_cut_alike_are_told_as_one(plan: Plan) -> None:
    zones = tuple(replace(z, leave_mm=12.2 if z.side == "left" else 11.8, remove_mm=5.0) for z in plan.zones)
    assert "Crown: leave 12 mm, 5 off." in in_words(plan.outline, zones, plan.verdict)
    apart = tuple(replace(z, leave_mm=15.0 if z.side == "left" else 11.0) for z in plan.zones)
    assert "Crown: leave 15 mm on the left, 11 on the right." in in_words(plan.outline, apart, plan.verdict)


def test_the_heads_own_drawing_holds_its_marks(fitted: FittedGround) -> None:
    ground = fitted.ground
    drawn = drawing_of(ground.head, ground.skin)
    assert set(drawn.views) == set(SHEET_VIEWS)
    assert drawn.carriage == dict(zip(("left", "right"), ground.face.carriage, strict=True))
    assert set(drawn.sigma_mm) == set(INDEX)
    for view, shown in drawn.views.items():
        low, high = shown.skin.min(axis=0) - 8.0, shown.skin.max(axis=0) + 8.0
        for mark in ("nose_tip", "stop", "occiput", "eye_outer_left", "cheek_right"):
            assert (low <= shown.marks[mark]).all()
            assert (shown.marks[mark] <= high).all(), (view, mark)
        for place in shown.combs.values():
            assert np.isfinite(place).all()


def test_a_comb_goes_in_on_the_dogs_left(fitted: FittedGround) -> None:
    ground = fitted.ground
    combs = drawing_of(ground.head, ground.skin).views["front"].combs
    for zone in ("cheek", "temple", "jaw"):
        assert combs[zone][0] > 0, "from the front the dog's left is at the right"
