"""What a visit's results rest on, kind by kind, so that a change can be told by name and a result told stale."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, Final

from sqlalchemy.orm import object_session

from dapwick.core.basics.content_hash import hash_of
from dapwick.core.outlines.fit import VERSION as FIT_VERSION
from dapwick.core.solve.joint import VERSION as SOLVE_VERSION
from dapwick.records import queries
from dapwick.records.models import VisitRow
from dapwick.service.concurrency.versions import version_of

WORDS: Final[Mapping[str, str]] = {
    "photos": "the photos",
    "marks": "the marks",
    "edges": "a coat's edge",
    "readings": "a calliper reading",
    "combs": "a comb depth",
    "head": "the kind of head or coat",
    "bone": "what earlier visits measured",
    "wishes": "the wishes",
    "version": "a newer version of Dapwick",
}
GEOMETRY: Final = ("photos", "marks", "edges", "readings", "combs", "head", "bone", "version")


def provenance_of(visit: VisitRow) -> dict[str, str]:
    """The version of each kind of input as it is now."""
    session = object_session(visit)
    assert session is not None
    # What the finished head shows changes nothing of what was planned and cut.
    photos = [one for one in queries.seen_in_photos(session, visit) if one[2] != "finished"]
    dog = visit.dog
    inputs: dict[str, Any] = {
        "photos": [[content, view, state, card] for content, view, state, _, _, card in photos],
        "marks": [marks for _, _, _, marks, _, _ in photos],
        "edges": [edge or "" for _, _, _, _, edge, _ in photos],
        "readings": visit.hand_measures,
        "combs": visit.coat_probes,
        "head": [dog.coat, dog.muzzle, dog.ears],
        "bone": queries.bone_before(session, visit),
        "wishes": visit.wishes,
        "version": [SOLVE_VERSION, FIT_VERSION],
    }
    return {kind: version_of(content) for kind, content in inputs.items()}


def geometry_hash(found: Mapping[str, str]) -> str:
    """One key for all but the wishes: what the head and its coat are studied from."""
    return hash_of([found[kind] for kind in GEOMETRY])


def changed_since(then: Mapping[str, str], now: Mapping[str, str]) -> tuple[str, ...]:
    """What changed, in words; a result from before this was kept tells nothing and counts as it is."""
    return tuple(words for kind, words in WORDS.items() if kind in then and then[kind] != now.get(kind))
