"""Dog bundles: everything of one dog out into a file, and back in on another machine as the same dog."""

from __future__ import annotations

import io
import json
from pathlib import PurePath
from typing import IO, Any, Final

from pydantic import ValidationError
from sqlalchemy.orm import Session

from dapwick.core.basics.errors import BadInput
from dapwick.documents.bundle import DogDocument, VisitDocument, check_dog
from dapwick.documents.document import plain
from dapwick.documents.head_file import bad_field
from dapwick.exports.bundle import Bundle, opened_bundle, write_bundle
from dapwick.records import queries
from dapwick.records.models import (
    CutRow,
    CutStepRow,
    DogRow,
    ExpectationRow,
    OutlineRow,
    PhotoRow,
    VariantRow,
    VisitRow,
)
from dapwick.records.store import SalonStore
from dapwick.service.concurrency.budget import HEAVY
from dapwick.service.dogs.cards import DogCard, card_of
from dapwick.service.dogs.finished_combs import counting
from dapwick.service.photos.taking_in import marks_of
from dapwick.service.plans.variants import OWN
from dapwick.vision.photo import read_photo

DOG, HEAD = "dog.json", "head.json"
NAMED_HERE: Final = "variant-"
LISTED: Final = ("photos", "outlines", "cuts", "expectations")
"""What of a visit is rows of its own."""


def write_bundle_of(store: SalonStore, dog_id: int, out: IO[bytes]) -> None:
    """One dog with all its visits and photos, byte for byte. out: a file that can be written anywhere in it."""
    with store.reading() as session:
        row = queries.dog(session, dog_id)
        variants = _variants_used(session, row)
        document = DogDocument.model_validate(row).model_dump(mode="json")
        document["variants"] = {here: dict(own.document) for own, here in variants.values()}
        for visit in document["visits"]:
            for outline in visit["outlines"]:
                outline["family"] = (
                    variants[outline["family"]][1] if outline["family"] in variants else outline["family"]
                )
        names = {p.content_hash: photo_name(p) for visit in row.visits for p in visit.photos}
        head = head_document(row.visits[-1], names)
    photos = {name: store.photo_path(digest) for digest, name in names.items()}
    write_bundle(out, {DOG: document, HEAD: head}, photos)


def bundle_of(store: SalonStore, dog_id: int) -> bytes:
    """The same in memory."""
    out = io.BytesIO()
    write_bundle_of(store, dog_id, out)
    return out.getvalue()


def photo_name(row: PhotoRow) -> str:
    """A photo's name in a bundle: its hash, with the ending it came with."""
    ending = PurePath(row.file_name).suffix.lower()
    return f"photos/{row.content_hash}{ending if ending.isascii() and ending[1:].isalnum() else '.jpg'}"


def head_document(visit: VisitRow, names: dict[str, str]) -> dict[str, Any]:
    """The open head file of a visit (docs/formats.md), without who cuts: that is the salon's, not the dog's."""
    dog = visit.dog
    return {
        "format": "dapwick-head",
        "version": 1,
        "dog": {"name": dog.name, "coat": dog.coat, "born": dog.born, "muzzle": dog.muzzle, "ears": dog.ears},
        "photos": [_photo_entry(p, names[p.content_hash]) for p in queries.photos_of(visit)],
        "hand_measures": plain(visit.hand_measures),
        "coat_probes": plain(visit.coat_probes),
        "combed_after": plain(counting(visit)),
        "wishes": plain(visit.wishes),
        "handling": dog.traits,
    }


def _photo_entry(p: PhotoRow, file: str) -> dict[str, Any]:
    edge = {"skin_edge" if p.state == "wet" else "coat_edge": p.coat_edge} if p.coat_edge else {}
    card = p.looked.card if p.looked else None
    return {
        "file": file,
        "view": p.view,
        "state": p.state,
        "width": p.width_px,
        "height": p.height_px,
        "focal_px": p.focal_px,
        "marks": plain(p.marks),
        **edge,
        **({"neck": p.neck} if p.neck else {}),
        **({"card": plain(card)} if card else {}),
    }


def take_in(store: SalonStore, data: bytes | IO[bytes], name: str) -> DogCard:
    """The same dog on this machine. Everything is read and checked before anything is kept; a dog that is here
    already is not taken in twice, one that was removed comes back by Removed dogs. data: the bundle, or its file."""
    with opened_bundle(io.BytesIO(data) if isinstance(data, bytes) else data, name) as bundle:
        document = _document(bundle)
        photos = _photos(document, bundle)
        with store.reading() as session:
            _refuse_twin(session, document, name)
        for file in photos.values():
            store.keep_photo(bundle.read(file))
        with store.session() as session:
            _refuse_twin(session, document, name)
            row = _row_of(document, _variants_here(session, document))
            session.add(row)
            session.flush()
            for digest, file in photos.items():
                # A purge may have taken a file that only this dog names.
                if not store.photo_size(digest):
                    store.keep_photo(bundle.read(file))
            return card_of(row)


def _document(bundle: Bundle) -> DogDocument:
    name = bundle.name
    if DOG not in bundle.files:
        got = ", ".join(sorted(bundle.files))[:60]
        raise BadInput("nothing of a dog in it", expected=DOG, got=got, where=name)
    try:
        document = DogDocument.model_validate_json(bundle.read(DOG))
        check_dog(document)
        for visit in document.visits:
            visit_row(visit, {})
    except ValidationError as error:
        raise bad_field(error, f"{name}: {DOG}") from error
    except BadInput:
        raise
    except (ValueError, KeyError, TypeError) as error:
        raise BadInput(
            "a measured head",
            expected="marks in mm with their covariance",
            got=str(error)[:60],
            where=f"{name}: {DOG}",
        ) from error
    return document


def _photos(document: DogDocument, bundle: Bundle) -> dict[str, str]:
    """Each photo's file by its hash; each of them a picture that can be read, looked at one by one."""
    by_hash = {digest: file for file, digest in bundle.files.items() if file.startswith("photos/")}
    wanted = {photo.content_hash for visit in document.visits for photo in visit.photos}
    missing = sorted(wanted - by_hash.keys())
    if missing:
        raise BadInput(
            "a photo is missing", expected=f"photos/{missing[0][:12]}…", got="nothing", where=bundle.name
        )
    for digest in wanted:
        with HEAVY.turn():
            read_photo(bundle.read(by_hash[digest]), f"{bundle.name}: {digest[:12]}")
    return {digest: by_hash[digest] for digest in sorted(wanted)}


def _refuse_twin(session: Session, document: DogDocument, name: str) -> None:
    twin = queries.dog_by_uid(session, document.uid)
    if twin is None:
        return
    raise BadInput(
        "this dog is here already",
        expected="a dog that is not on this machine",
        got=f"{twin.name}{', removed' if twin.removed else ''}",
        where=name,
        remedy="Restore it under Salon, Removed dogs."
        if twin.removed
        else "Remove it and delete it for good first, then import this one.",
    )


def _row_of(document: DogDocument, family: dict[str, str]) -> DogRow:
    about = document.model_dump(exclude={"visits", "variants"})
    visits = [visit_row(visit, family) for visit in document.visits]
    for visit in visits:
        for expectation in visit.expectations:
            expectation.here = False
    return DogRow(**about, visits=visits)


def visit_row(visit: VisitDocument, family: dict[str, str]) -> VisitRow:
    """Documents name their fields as rows do; checked on the way in."""
    row = VisitRow(**{name: part for name, part in visit if name not in LISTED})
    row.photos = [PhotoRow(**dict(photo)) for photo in visit.photos]
    for photo in row.photos:
        marks_of(photo)
    row.outlines = [
        OutlineRow(**(o.model_dump() | {"family": family.get(o.family, o.family)})) for o in visit.outlines
    ]
    row.expectations = [ExpectationRow(**e.model_dump()) for e in visit.expectations]
    row.cuts = [
        CutRow(**cut.model_dump(exclude={"steps"}), steps=[CutStepRow(**s.model_dump()) for s in cut.steps])
        for cut in visit.cuts
    ]
    return row


def _variants_used(session: Session, row: DogRow) -> dict[str, tuple[VariantRow, str]]:
    """The salon's own outlines that a dog's visits name: by their key here, the row and their key in the bundle."""
    keys = dict.fromkeys(o.family for visit in row.visits for o in visit.outlines if o.family.startswith(OWN))
    return {
        key: (queries.variant(session, int(key.removeprefix(OWN))), f"{NAMED_HERE}{i + 1}")
        for i, key in enumerate(keys)
    }


def _variants_here(session: Session, document: DogDocument) -> dict[str, str]:
    """Each of the bundle's own outlines as this salon has it: the same one where it is here, else a new one."""
    found = {}
    for key, variant in document.variants.items():
        same = next((v for v in queries.variants(session) if _same(v.document, variant)), None)
        if same is None:
            same = VariantRow(name=str(variant["name"])[:60], document=variant)
            session.add(same)
            session.flush()
        found[key] = f"{OWN}{same.id}"
    return found


def _same(one: dict[str, Any], other: dict[str, Any]) -> bool:
    return json.dumps(one, sort_keys=True) == json.dumps(other, sort_keys=True)
