"""The one way from marks, photos and combs to a head: solved, its skin set right, coat and ears known, and the lines
over its photos that stay still. Every screen and command takes its head from here."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import asdict, dataclass, field, replace
from functools import cache
from typing import Final

import numpy as np

from dapwick.core.basics.arrays import Array, IntArray
from dapwick.core.basics.camera import Camera
from dapwick.core.basics.content_hash import hash_of
from dapwick.core.basics.errors import BadInput
from dapwick.core.basics.fair import FAIR_MM, fair
from dapwick.core.basics.marks import State
from dapwick.core.head.coat import CoatProbe
from dapwick.core.head.ears import ears_of
from dapwick.core.head.marked_in_hair import crown_in_hair_mm, words_of
from dapwick.core.head.silhouettes import Edge
from dapwick.core.head.skin_and_coat import skin_and_coat
from dapwick.core.outlines.ear_cut import EAR_VERTICES, ear_faces, flap_faces
from dapwick.core.outlines.effects import ears_now
from dapwick.core.outlines.ground import Ground
from dapwick.core.solve.joint import HeadSolution, Unsolved, solve_head
from dapwick.core.solve.observations import HeadInput, PhotoMarks
from dapwick.pipeline.coat_edge import coat_edge, edge_seeds, guessed_chance
from dapwick.pipeline.lru_cache import LruCache
from dapwick.vision.card import see_card
from dapwick.vision.edge import NoEdge
from dapwick.vision.photo import Pixels, read_photo
from dapwick.vision.silhouette import MASK_SIDE_PX, silhouette

COARSE_MASK_PX: Final = 200
"""Mask of a line that is on the move: a pixel of it is about a millimetre of the head."""
NO_EDGES: Final[Mapping[str, Array]] = {}


KEPT_SOLVES: Final = 24
_SOLVES: Final[LruCache[HeadSolution | Unsolved]] = LruCache(KEPT_SOLVES)


@dataclass(frozen=True)
class PhotoSource:
    """A photo's coat edge (N, 2) px where it is known, else the pixels to trace it from. read: its pixels, asked for
    only then; None where just a known edge counts. chance: each pixel's chance of dog, where it was guessed before.
    neck: two points of a line across the neck, below which nothing counts."""

    name: str
    state: State
    edge: Array | None = None
    read: Callable[[], Pixels] | None = None
    chance: Callable[[], Array | None] = lambda: None
    neck: Array | None = None


@dataclass(frozen=True)
class HeadModel:
    """A ground with the photos an outline is drawn over (none of a wet head), and their lines (px, by photo
    name): skin, and the coat with the ears' on it. traced: the edges that were traced for it."""

    ground: Ground
    edges: tuple[Edge, ...]
    seen: tuple[tuple[PhotoMarks, Camera], ...]
    notes: tuple[str, ...]
    skin_lines: Mapping[str, Array]
    coat_lines: Mapping[str, Array]
    traced: Mapping[str, Array] = field(default_factory=dict)


def photo_source(
    name: str,
    state: State,
    edge: Sequence[Sequence[float]] | None,
    data: Callable[[], bytes] | None,
    chance: Callable[[], Array | None] = lambda: None,
    neck: Sequence[Sequence[float]] | None = None,
) -> PhotoSource:
    """From an edge and a neck's line as they are kept, and the bytes of the photo's file (None where just a known edge
    counts)."""
    read = None if data is None else (lambda: read_photo(data(), name).rgb)
    line, across = (np.array(one, dtype=float) if one else None for one in (edge, neck))
    return PhotoSource(name, state, line, read, chance, across)


def solved_head(given: HeadInput) -> HeadSolution | Unsolved:
    """The head of these marks and readings, solved once for each set of them."""
    return _SOLVES.get_or_make(_key_of(given), lambda: solve_head(given))


def _key_of(given: HeadInput) -> str:
    bone = given.bone
    known = bone and [
        bone.points_mm.tobytes().hex(),
        bone.covariance.tobytes().hex(),
        bone.visits,
        bone.version,
    ]
    photos = [asdict(photo) for photo in given.photos]
    readings = [asdict(one) for one in given.hand_measures]
    return hash_of(
        [photos, readings, given.level_tip_deg, given.muzzle, given.ears, known, bone and bone.age_weeks]
        + [given.age_weeks]
    )


TRACED_AT_ONCE: Final = 2
"""While the network looks at one photo, the line of another is drawn: most of both is outside of Python."""


def measured_head(given: HeadInput) -> HeadSolution:
    """The solved head; BadInput with the findings where there is none."""
    head = solved_head(given)
    if isinstance(head, HeadSolution):
        return head
    raise BadInput(
        "the head is not measured yet",
        expected="two photos with at least four marks each",
        got=" ".join(f.message for f in head.findings) or "No photo is marked yet.",
        where="outline",
        remedy="Go back to Marks.",
    )


def head_model(
    given: HeadInput, coat_type: str, sources: Sequence[PhotoSource], probes: Sequence[CoatProbe]
) -> HeadModel:
    """The head of these marks, photos and combs, ready for outlines. Raises BadInput where it cannot be measured, or
    nothing at all is known of its coat."""
    head = measured_head(given)
    dry, notes, traced = edges_of(head, [one for one in sources if one.state == "dry"])
    wet, _, traced_wet = edges_of(head, [one for one in sources if one.state == "wet"])
    needs_coat(dry, probes)
    made = model_of(head, coat_type, dry, probes, notes, wet, necks_of(sources))
    return replace(made, traced=traced | traced_wet)


def edges_of(
    head: HeadSolution, sources: Sequence[PhotoSource]
) -> tuple[dict[str, Array], list[str], dict[str, Array]]:
    """Edges of the solved photos by name, why those that fail do, and which of the edges were traced just now."""
    on_head = {photo.name: photo for photo in head.photos}
    seen = [one for one in sources if one.name in on_head]
    edges: dict[str, Array] = {one.name: one.edge for one in seen if one.edge is not None}
    untraced = [one for one in seen if one.edge is None and one.read is not None]
    notes, traced = [], {}
    with ThreadPoolExecutor(TRACED_AT_ONCE) as hands:
        for name, line in hands.map(lambda one: (one.name, _traced(head, on_head[one.name], one)), untraced):
            if isinstance(line, NoEdge):
                notes.append(f"{name}: {line.reason}")
            else:
                traced[name] = line
    known = edges | traced
    return {one.name: known[one.name] for one in seen if one.name in known}, notes, traced


def _traced(head: HeadSolution, photo: PhotoMarks, source: PhotoSource) -> Array | NoEdge:
    assert source.read is not None
    return traced_edge(head, photo, source.read(), source.chance())


def traced_edge(
    head: HeadSolution, photo: PhotoMarks, rgb: Pixels, chance: Array | None = None
) -> Array | NoEdge:
    """The coat's edge (N, 2) px on a photo of a solved head. chance: each pixel's chance of dog (height, width), where
    it was guessed before."""
    if chance is None:
        chance = guessed_chance(rgb, photo.view)
    return coat_edge(rgb, edge_seeds(head, photo), chance, see_card(rgb))


def model_of(
    head: HeadSolution,
    coat_type: str,
    edges: Mapping[str, Array],
    probes: Sequence[CoatProbe],
    notes: Sequence[str] = (),
    wet: Mapping[str, Array] = NO_EDGES,
    necks: Mapping[str, Array] = NO_EDGES,
) -> HeadModel:
    """Skin, coat and ears of a solved head. edges, wet: photo name to line (px), of dry and of wet photos; necks: to
    the line across the neck, where one was drawn."""
    touching = edges_on(head, edges, necks)
    skin, coat = skin_and_coat(head, coat_type, touching, probes, edges_on(head, wet, necks))
    ground = Ground(head, skin, coat, ears_of(head, probes), coat_type)
    combed_out = skin.vertices_mm + coat.depth_mm[:, None] * skin.outward
    seen = [(p, c) for p, c in zip(head.photos, head.cameras, strict=True) if p.name not in wet]
    skin_lines = {
        photo.name: fair(
            silhouette(camera.project(skin.vertices_mm), skin.template.faces), FAIR_MM * camera.px_a_mm
        )
        for photo, camera in seen
    }
    coat_lines = {photo.name: seen_by(camera, ground, combed_out, ears_now(ground)) for photo, camera in seen}
    told = (*notes, *words_of(crown_in_hair_mm(head, skin, probes)))
    return HeadModel(ground, touching, tuple(seen), told, skin_lines, coat_lines)


def seen_by(
    camera: Camera, ground: Ground, points_mm: Array, ears: tuple[Array, Array], coarse: bool = False
) -> Array:
    """Silhouette (N, 2) px in one photo of a surface over the skin, with the ears."""
    places = camera.project(np.concatenate([points_mm, *ears]))
    return silhouette(places, head_faces(ground, coarse), COARSE_MASK_PX if coarse else MASK_SIDE_PX)


@cache
def _ear_faces(coarse: bool) -> IntArray:
    """Faces of an ear with its hair; coarse: the leaf's outer face alone, seen from both sides."""
    return flap_faces() if coarse else ear_faces()


def head_faces(ground: Ground, coarse: bool = False) -> IntArray:
    """Faces of the skin's vertices followed by both ears'."""
    template = ground.skin.template
    left = right = _ear_faces(coarse)
    first = len(template.vertices_mm)
    skin = template.coarse_faces if coarse else template.faces
    return np.concatenate([skin, left + first, right + first + EAR_VERTICES])


def necks_of(sources: Sequence[PhotoSource]) -> dict[str, Array]:
    """The lines across the neck that were drawn, by photo name."""
    return {one.name: one.neck for one in sources if one.neck is not None}


def edges_on(
    head: HeadSolution, lines: Mapping[str, Array], necks: Mapping[str, Array] = NO_EDGES
) -> tuple[Edge, ...]:
    """Traced lines with the cameras that saw them; those of photos that were not solved are left out."""
    return tuple(
        Edge(camera, photo.view, lines[photo.name], necks.get(photo.name))
        for camera, photo in zip(head.cameras, head.photos, strict=True)
        if photo.name in lines
    )


def needs_coat(edges: Mapping[str, Array], probes: Sequence[CoatProbe]) -> None:
    """An outline without any reading of the coat would be an invention."""
    if not edges and not probes:
        raise BadInput(
            "nothing is known of the coat",
            expected="a dry photo whose coat edge can be traced, or a comb depth",
            got="neither",
            where="outline",
            remedy="Add a dry photo against a plain background.",
        )
