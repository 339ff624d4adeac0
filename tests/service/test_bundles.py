"""A dog out of one salon and into another: the same dog, byte for byte; what is damaged leaves nothing behind."""

from __future__ import annotations

import io
import json
import tempfile
import zipfile
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

import pytest

from dapwick.core.basics.errors import BadInput, DapwickError
from dapwick.documents.head_file import HeadFile
from dapwick.exports.bundle import MANIFEST, opened_bundle, write_bundle
from dapwick.records import queries
from dapwick.records.store import SalonStore
from dapwick.service.cutting.cut import Cutting, Entry
from dapwick.service.dogs import about as dogs
from dapwick.service.dogs import trash
from dapwick.service.dogs.bundles import DOG, HEAD, bundle_of, take_in
from dapwick.service.dogs.history import history_of
from dapwick.service.photos.taking_in import picture
from dapwick.service.plans.planner import Asked, Planner
from dapwick.service.plans.variants import choices, save_variant
from dapwick.service.salon.demo import fill_with_demo


@pytest.fixture(scope="module")
def home(tmp_path_factory: pytest.TempPathFactory) -> Iterator[SalonStore]:
    """Fogbell with earlier visits, an outline of the salon's own, and a cut begun."""
    store = SalonStore(tmp_path_factory.mktemp("home"))
    fill_with_demo(store, ("fogbell", "bobbin"), earlier=True)
    planner = Planner(store)
    own = save_variant(store, "Harbour round", "round", {"fullness": 0.2}, {})
    planner.save(1, Asked(f"own-{own.own}"))
    cutting = Cutting(store, planner)
    sheet = cutting.start(1).sheet
    assert sheet
    cutting.record(1, Entry(sheet["steps"][0]["id"], "done", 12.5, notes=("minded",)))
    yield store
    store.close()


@pytest.fixture(scope="module")
def bundle(home: SalonStore) -> bytes:
    return bundle_of(home, 1)


def contents(store: SalonStore) -> tuple[int, set[str]]:
    return len(dogs.find_dogs(store)), {p.name for p in (store.folder / "photos").iterdir()}


def without_numbers(card: Any) -> Any:
    """A dog's card without what only counts on its own machine."""
    told = json.loads(json.dumps(card, default=vars))
    for visit in told["visits"]:
        visit.pop("id")
    for photo in told["photos"]:
        photo.pop("id")
    told.pop("versions")
    told.pop("id")
    return told


def test_the_same_dog_comes_back_and_goes_out_again_as_the_same_bytes(
    home: SalonStore, bundle: bytes, store: SalonStore
) -> None:
    dogs.add_dog(store, "Somebody", "curl")
    card = take_in(store, bundle, "fogbell.zip")
    assert without_numbers(card) == without_numbers(dogs.one_dog(home, 1))
    assert history_of(store, card.id).visits[0].lines == history_of(home, 1).visits[0].lines
    assert bundle_of(store, card.id) == bundle
    assert bundle_of(home, 1) == bundle


def test_photos_are_the_same_bytes_and_are_shown_though_their_small_copies_stayed_behind(
    home: SalonStore, bundle: bytes, store: SalonStore
) -> None:
    card = take_in(store, bundle, "fogbell.zip")
    with home.reading() as session:
        theirs = {p.content_hash for v in queries.dog(session, 1).visits for p in v.photos}
    for digest in theirs:
        assert store.photo_path(digest).read_bytes() == home.photo_path(digest).read_bytes()
    assert picture(store, card.photos[0].picture)[:2] == b"\xff\xd8"


def test_its_head_file_is_the_open_one(bundle: bytes) -> None:
    files = read_bundle(bundle, "it")
    head = HeadFile.model_validate_json(files[HEAD])
    assert head.dog.name == "Fogbell"
    assert len(head.head_input().photos) == 2
    assert all(photo.file in files for photo in head.photos if photo.file)


def test_the_salons_own_outline_comes_along_once(bundle: bytes, store: SalonStore) -> None:
    card = take_in(store, bundle, "fogbell.zip")
    assert card.saved_outline is not None
    own = [c for c in choices(store) if c.own]
    assert [c.family.name for c in own] == ["Harbour round"]
    assert card.saved_outline["family"] == f"own-{own[0].own}"
    assert Planner(store).thumb(card.id, card.saved_outline["family"])[0].zones
    trash.remove_dog(store, card.id)
    trash.purge_dog(store, card.id, card.name)
    take_in(store, bundle, "fogbell.zip")
    assert len([c for c in choices(store) if c.own]) == 1


def test_a_dog_that_is_here_is_not_taken_in_twice(bundle: bytes, store: SalonStore) -> None:
    card = take_in(store, bundle, "fogbell.zip")
    with pytest.raises(BadInput, match="here already"):
        take_in(store, bundle, "fogbell.zip")
    trash.remove_dog(store, card.id)
    with pytest.raises(BadInput, match="Removed dogs"):
        take_in(store, bundle, "fogbell.zip")


def rewritten(data: bytes, change: Callable[[dict[str, Any]], object]) -> bytes:
    """The same bundle with another dog document, its hashes right."""
    files = read_bundle(data, "it")
    document = json.loads(files[DOG])
    change(document)
    photos = {name: content for name, content in files.items() if name.startswith("photos/")}
    return bundled({DOG: document, HEAD: json.loads(files[HEAD])}, photos)


def read_bundle(data: bytes, name: str) -> dict[str, bytes]:
    with opened_bundle(io.BytesIO(data), name) as bundle:
        return {file: bundle.read(file) for file in bundle.files}


def bundled(documents: dict[str, Any], photos: dict[str, bytes]) -> bytes:
    """A bundle of photos that are in no file yet."""
    out = io.BytesIO()
    with tempfile.TemporaryDirectory() as folder:
        paths = {name: Path(folder) / str(i) for i, name in enumerate(photos)}
        for name, path in paths.items():
            path.write_bytes(photos[name])
        write_bundle(out, documents, paths)
    return out.getvalue()


def flipped(data: bytes) -> bytes:
    """One bit of one photo changed."""
    with zipfile.ZipFile(io.BytesIO(data)) as archive:
        members = {name: archive.read(name) for name in archive.namelist()}
    photo = next(name for name in members if name.startswith("photos/"))
    members[photo] = members[photo][:-1] + bytes([members[photo][-1] ^ 1])
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as archive:
        for name, content in members.items():
            archive.writestr(name, content)
    return out.getvalue()


def renamed_out(data: bytes) -> bytes:
    with zipfile.ZipFile(io.BytesIO(data)) as archive:
        manifest = json.loads(archive.read(MANIFEST))
    manifest["files"] = {"../../outside": "0" * 64}
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as archive:
        archive.writestr(MANIFEST, json.dumps(manifest))
        archive.writestr("../../outside", b"x")
    return out.getvalue()


def another_format(data: bytes) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as archive:
        archive.writestr(MANIFEST, json.dumps({"format": "dapwick-cat", "version": 1, "files": {}}))
    return out.getvalue()


def _visit(document: dict[str, Any]) -> dict[str, Any]:
    visit: dict[str, Any] = document["visits"][0]
    return visit


DAMAGED: dict[str, tuple[Callable[[bytes], bytes], str]] = {
    "no zip": (lambda data: b"hello", "a dog bundle"),
    "cut off": (lambda data: data[: len(data) // 2], "a dog bundle"),
    "a flipped bit": (flipped, "damaged"),
    "another format": (another_format, "dapwick-dog"),
    "a way out": (renamed_out, "points outside"),
    "no name": (lambda d: rewritten(d, lambda x: x.update(name="")), "name"),
    "another coat": (lambda d: rewritten(d, lambda x: x.update(coat="scales")), "unknown coat"),
    "no visits": (lambda d: rewritten(d, lambda x: x.update(visits=[])), "visits"),
    "unknown handling": (lambda d: rewritten(d, lambda x: x.update(traits=["flies"])), "flies"),
    "a photo that is not there": (
        lambda d: rewritten(d, lambda x: _visit(x)["photos"][0].update(content_hash="a" * 64)),
        "photo is missing",
    ),
    "a mark nowhere": (
        lambda d: rewritten(d, lambda x: _visit(x)["photos"][0]["marks"].update(stop={"at": "left"})),
        "marks.stop.at",
    ),
    "a mark nobody knows": (
        lambda d: rewritten(d, lambda x: _visit(x)["photos"][0]["marks"].update(wing={"at": [1, 2]})),
        "wing",
    ),
    "half a bone": (
        lambda d: rewritten(d, lambda x: _visit(x)["bone"].update(covariance="AAAA")),
        "measured head",
    ),
    "no picture": (
        lambda d: bundled({DOG: picture_of(d), HEAD: {}}, {"photos/x.jpg": b"not a picture"}),
        "photo",
    ),
}  # fmt: skip


def picture_of(data: bytes) -> dict[str, Any]:
    import hashlib

    document: dict[str, Any] = json.loads(read_bundle(data, "it")[DOG])
    for visit in document["visits"]:
        visit["photos"] = visit["photos"][:1]
        visit["photos"][0]["content_hash"] = hashlib.sha256(b"not a picture").hexdigest()
    return document


@pytest.mark.parametrize("how", DAMAGED)
def test_what_is_damaged_is_told_and_leaves_nothing_behind(
    bundle: bytes, store: SalonStore, how: str
) -> None:
    damage, told = DAMAGED[how]
    dogs.add_dog(store, "Somebody", "curl")
    before = contents(store)
    with pytest.raises(DapwickError, match=told):
        take_in(store, damage(bundle), "it.zip")
    assert contents(store) == before


def test_a_bundle_of_a_later_version_is_taken_with_what_is_known(bundle: bytes, store: SalonStore) -> None:
    """Fields that this version does not know are passed over."""
    later = rewritten(bundle, lambda x: (x.update(colour="red"), _visit(x).update(weather="fog")))
    assert take_in(store, later, "it.zip").name == "Fogbell"


def test_a_dog_without_photos_goes_and_comes_too(store: SalonStore, tmp_path: Path) -> None:
    dogs.add_dog(store, "Kelpie", "curl")
    other = SalonStore(tmp_path / "other")
    assert take_in(other, bundle_of(store, 1), "it.zip").name == "Kelpie"
    other.close()
