"""The next best measurement: which single addition would narrow the planned lengths most, in mm.

Nothing has to be measured to know what a measurement would tell: how sure it makes the rest depends on where
it is taken, not on what it reads. Each candidate's rows are added to the information of the solved head (or
of the coat and skin over it) and the zones' intervals are compared.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Final, Literal

import numpy as np

from dapwick.core.basics.arrays import Array, IntArray
from dapwick.core.basics.camera import Camera, nominal_rotation
from dapwick.core.basics.marks import INDEX, SPANS, View, guided_order, view_words, words_for
from dapwick.core.head.coat import Coat, CoatProbe, probe_readings
from dapwick.core.head.gaussian_process import Readings, merged
from dapwick.core.head.silhouettes import DRY_EARS, WET_EARS, foreseen, outside_of
from dapwick.core.head.skin import CONTROL_ROWS, Skin, skin_of, warp_weights
from dapwick.core.head.skin_and_coat import SKIN, dry_readings
from dapwick.core.head.wet import wet_readings, wet_thickness_mm
from dapwick.core.head.zones import BARE, ZONES, zone_words
from dapwick.core.measures.measure import NORMAL_95
from dapwick.core.solve.joint import HeadSolution
from dapwick.core.solve.observations import FOCAL_SIGMA_EXIF, HandMeasure, PhotoMarks, PlacedMark
from dapwick.core.solve.problem import N

Kind = Literal["mark", "hand", "photo", "wet_photo", "comb"]
PLANNED: Final = tuple(z for z in ZONES if z not in (BARE, "nape", "throat"))
COMBED: Final = ("jaw", "cheek", "temple", "crown", "chin", "visor", "back_skull", "muzzle_side")
NEW_VIEWS: Final[tuple[View, ...]] = ("front", "left", "right", "top")
PLACES_A_ZONE: Final = 6
LEAST_GAIN_MM: Final = 0.05
SECONDS: Final[dict[Kind, float]] = {"mark": 4.0, "hand": 12.0, "photo": 45.0, "wet_photo": 60.0, "comb": 9.0}
"""What an addition costs a stylist at the table, one hand on the dog: a comb is pushed in on both sides; a photo is
taken, looked over and marked; a wet one waits for the dog to be wet."""
MARKS_ON_A_NEW_PHOTO: Final = 12


@dataclass(frozen=True)
class Next:
    """One addition. gain_mm: by how much it narrows the zones' 95 % intervals either way, on average; seconds: what it
    costs at the table; zone is the one it narrows most, from before_mm to after_mm."""

    kind: Kind
    what: str
    words: str
    gain_mm: float
    zone: str
    before_mm: float
    after_mm: float
    seconds: float


@dataclass(frozen=True)
class Ground:
    """What is known of a head and of the skin and coat over it. warped: the skin before edges and combs set it right.
    pull (targets, unknowns): how skin moves along its hair with the solve's unknowns, at a few vertices `at`
    of each zone; zone (targets,) indexes PLANNED. share (targets,): by how much edges and combs have narrowed the
    skin. taken: views and states there are measured photos of; unmarked: those of photos that wait to be marked."""

    head: HeadSolution
    warped: Skin
    coat: Coat
    taken: frozenset[tuple[str, str]]
    unmarked: frozenset[tuple[str, str]]
    at: IntArray
    zone: IntArray
    pull: Array
    share: Array


def ground_of(
    head: HeadSolution,
    coat: Coat,
    taken: frozenset[tuple[str, str]],
    unmarked: frozenset[tuple[str, str]] = frozenset(),
) -> Ground:
    """coat: with what edges and combs tell of skin and coat."""
    skin = skin_of(head)
    chosen = [_spread_out(skin.in_zone(zone)) for zone in PLANNED]
    at = np.concatenate(chosen)
    zone = np.repeat(np.arange(len(PLANNED)), [len(c) for c in chosen])
    by_mark = np.zeros((len(at), len(INDEX), 3))
    by_mark[:, CONTROL_ROWS] = warp_weights()[at][:, :, None] * skin.outward[at][:, None, :]
    pull = np.zeros((len(at), head.workings.problem.unknowns))
    pull[:, :N] = by_mark.reshape(len(at), -1) @ head.workings.to_head
    share = coat.known.sigma(at)[SKIN] / skin.sigma_mm[at]
    return Ground(head, skin, coat, taken, unmarked, at, zone, pull, share)


def _spread_out(members: IntArray) -> IntArray:
    chosen = np.linspace(0, len(members) - 1, min(PLACES_A_ZONE, len(members))).astype(np.intp)
    return np.asarray(members[chosen])


def next_best(ground: Ground, at_most: int = 12) -> tuple[Next, ...]:
    """The additions worth most for a stylist's time, best first."""
    skin_now, coat_now = ground.coat.known.sigma(ground.at)
    before = NORMAL_95 * np.hypot(skin_now, coat_now)
    found = []
    for kind, what, words, skin, coat in _candidates(ground, skin_now, coat_now):
        narrower = before - NORMAL_95 * np.hypot(skin, coat)
        by_zone = np.bincount(ground.zone, narrower) / np.bincount(ground.zone)
        of_zone = np.bincount(ground.zone, before) / np.bincount(ground.zone)
        best = int(np.argmax(by_zone))
        gain, wide = float(by_zone.mean()), float(of_zone[best])
        if gain > LEAST_GAIN_MM:
            narrowed = wide - float(by_zone[best])
            found.append(Next(kind, what, words, gain, PLANNED[best], wide, narrowed, SECONDS[kind]))
    return tuple(sorted(found, key=lambda n: -n.gain_mm / n.seconds)[:at_most])


def _candidates(ground: Ground, skin: Array, coat: Array) -> Iterator[tuple[Kind, str, str, Array, Array]]:
    """(kind, what, words, σ of skin, σ of coat) with each addition in turn. While nothing is known in mm,
    edges in photos narrow nothing: only measures by hand and marks are worth asking for."""
    for mark, photo in _unplaced(ground.head):
        rows = _mark_rows(ground.head, photo, mark)
        words = f"{words_for(mark)} on the photo “{photo.name}”"
        yield "mark", f"{photo.name}:{mark}", words, _with_rows(ground, skin, rows), coat
    measured = {(m.from_mark, m.to_mark) for m in ground.head.inputs.hand_measures}
    for span in SPANS:
        if (span.from_mark, span.to_mark) not in measured:
            rows = _hand_row(ground.head, span.from_mark, span.to_mark)
            what = f"{span.from_mark}-{span.to_mark}"
            yield "hand", what, f"a calliper {span.words}", _with_rows(ground, skin, rows), coat
    if not _has_size(ground.head):
        return
    yield from _photos(ground, skin, coat)
    for zone in COMBED:
        readings = probe_readings(ground.warped, CoatProbe(zone, None, 20.0))
        yield "comb", zone, f"a comb to the skin at the {zone_words(zone)}", *_with_readings(ground, readings)


def _has_size(head: HeadSolution) -> bool:
    return not any(f.code == "no_scale" for f in head.findings)


def _photos(ground: Ground, skin: Array, coat: Array) -> Iterator[tuple[Kind, str, str, Array, Array]]:
    """New photos: marks on them tell of the bone; a dry one's edge of the coat, a wet one's of the skin."""
    for view in NEW_VIEWS:
        camera = _nominal(ground.head, view)
        words = view_words(view)
        if (view, "dry") not in ground.taken:
            with_marks = _with_rows(ground, skin, *_new_photo_rows(ground.head, camera, view))
            worn = outside_of(ground.warped, ground.coat.depth_mm)
            seen = foreseen(ground.head, ground.warped, camera, view, worn, DRY_EARS)
            with_edge, coat_then = _with_readings(ground, dry_readings(seen, one_sided=False))
            there = (view, "dry") in ground.unmarked
            sentence = f"marking the {words} photo" if there else f"a {words} photo, marked,"
            yield "photo", view, sentence, with_marks * with_edge / skin, coat_then
        if (view, "wet") not in ground.taken:
            cover = wet_thickness_mm(ground.coat.depth_mm, ground.coat.stand)
            seen = foreseen(
                ground.head, ground.warped, camera, view, outside_of(ground.warped, cover), WET_EARS
            )
            read = wet_readings(seen, cover, ground.coat.depth_mm, one_sided=False)
            there = (view, "wet") in ground.unmarked
            sentence = f"marking eyes and nose on the wet {words} photo" if there else f"a wet {words} photo"
            yield "wet_photo", view, sentence, *_with_readings(ground, read)


def _with_readings(ground: Ground, read: Readings) -> Array:
    """σ of skin and coat (2, targets) with more edges or combs."""
    known = ground.coat.known
    if not len(read.at):
        return known.sigma(ground.at)
    return known.sigma_with(ground.at, merged(ground.warped.vertices_mm, [read], 2))


def _with_rows(ground: Ground, skin: Array, rows: Array, free: Array | None = None) -> Array:
    """σ of the skin with rows (rows, unknowns) of unit σ added. free (rows, more): the rows' slopes by
    unknowns of their own (a new camera), already in units of how far those are open."""
    covariance = ground.head.workings.covariance
    across = rows @ covariance
    heard = across @ rows.T + np.eye(len(rows)) + (0.0 if free is None else free @ free.T)
    pulled = ground.pull @ across.T
    explained = (pulled * np.linalg.solve(heard, pulled.T).T).sum(axis=1)
    return np.asarray(np.sqrt(np.maximum(skin**2 - explained * ground.share**2, 0.25)))


def _unplaced(head: HeadSolution) -> Iterator[tuple[str, PhotoMarks]]:
    for photo in head.photos:
        for mark in guided_order(photo.view):
            if mark not in photo.marks:
                yield mark, photo


def _mark_rows(head: HeadSolution, photo: PhotoMarks, mark: str) -> Array:
    """Rows (2, unknowns) of a mark placed where it is expected."""
    problem, x = head.workings.problem, head.workings.x
    i = [p.name for p in problem.photos].index(photo.name)
    camera = head.cameras[i]
    at = camera.project(head.points_mm[[INDEX[mark]]])[0]
    if not np.isfinite(at).all():
        return np.zeros((0, problem.unknowns))
    px, mm = PlacedMark(*at).spread(mark, photo.longer_side_px)
    sigma = float(np.hypot(px, mm * camera.px_a_mm))
    return problem.mark_rows(x, i, INDEX[mark], sigma)


def _hand_row(head: HeadSolution, a: str, b: str) -> Array:
    apart = head.points_mm[INDEX[a]] - head.points_mm[INDEX[b]]
    return head.workings.problem.hand_row(
        head.workings.x, HandMeasure(a, b, float(np.clip(np.linalg.norm(apart), 3.0, 400.0)))
    )


def _nominal(head: HeadSolution, view: View) -> Camera:
    """A camera as the others were, straight before this view."""
    like = head.cameras[0]
    distance = float(np.median([c.distance_mm for c in head.cameras]))
    rotation = nominal_rotation(view)
    middle = head.points_mm[CONTROL_ROWS].mean(axis=0)
    shift = np.array([0.0, 0.0, distance]) - rotation @ middle
    return Camera(rotation, shift, like.focal_px, like.width_px, like.height_px)


OPEN_TURN_RAD: Final = 0.3
OPEN_SHIFT_MM: Final = np.array([60.0, 60.0, 250.0])


def _new_photo_rows(head: HeadSolution, camera: Camera, view: View) -> tuple[Array, Array]:
    """Rows (2·marks, unknowns) by the marks of a photo still to be taken, and (2·marks, 7) by its own
    camera's turn, shift and lens, in units of how far these are open. Head frame throughout."""
    longer = max(camera.width_px, camera.height_px)
    px_per_mm = camera.px_a_mm
    rows, own = [], []
    to_head = head.workings.to_head
    for mark in guided_order(view)[:MARKS_ON_A_NEW_PHOTO]:
        px, mm = PlacedMark(0, 0).spread(mark, longer)
        turned = camera.rotation @ head.points_mm[INDEX[mark]]
        p = turned + camera.translation_mm
        by_point = camera.focal_px / p[2] * np.array([[1, 0, -p[0] / p[2]], [0, 1, -p[1] / p[2]]])
        by_point = by_point / float(np.hypot(px, mm * px_per_mm))
        x, y, z = turned
        by_turn = by_point @ -np.array([[0, -z, y], [z, 0, -x], [-y, x, 0]])
        rows.append(by_point @ camera.rotation @ to_head[3 * INDEX[mark] : 3 * INDEX[mark] + 3])
        by_lens = (by_point @ (p * [1, 1, 0]))[:, None] * FOCAL_SIGMA_EXIF
        own.append(np.column_stack([by_turn * OPEN_TURN_RAD, by_point * OPEN_SHIFT_MM, by_lens]))
    unknowns = head.workings.problem.unknowns
    found = np.zeros((2 * len(rows), unknowns))
    found[:, :N] = np.concatenate(rows)
    return found, np.concatenate(own)


def words_of(found: Sequence[Next]) -> list[str]:
    """One sentence each: what to add and what it would narrow."""
    return [_sentence(one) for one in found]


def _sentence(one: Next) -> str:
    zone = zone_words(one.zone)
    first = one.words[:1].upper() + one.words[1:]
    return f"{first} would narrow the {zone} from ±{one.before_mm:.0f} to ±{one.after_mm:.0f} mm."
