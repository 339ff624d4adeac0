"""Backups and bundles as somebody who means harm, or a bad disk, would hand them in. Used by the tests and by
tools/crafted_archives.py."""

from __future__ import annotations

import hashlib
import io
import json
import sqlite3
import tempfile
import zipfile
from collections.abc import Callable, Iterator
from contextlib import closing
from pathlib import Path
from typing import Any, Final

Records = Callable[[sqlite3.Connection], Any]
Document = Callable[[dict[str, Any]], Any]
ZEROS: Final = 256 << 20
"""What a bomb unpacks to."""


def sql(*statements: str) -> Records:
    def change(connection: sqlite3.Connection) -> None:
        for statement in statements:
            connection.execute(statement)

    return change


def rewritten(good: bytes, change: Records, claim: str | None = None) -> bytes:
    """A backup whose records were changed and whose hashes are right again."""
    with tempfile.TemporaryDirectory() as folder, zipfile.ZipFile(io.BytesIO(good)) as archive:
        path = Path(folder) / "salon.db"
        path.write_bytes(archive.read("salon.db"))
        with closing(sqlite3.connect(path)) as connection:
            connection.execute("PRAGMA foreign_keys=OFF")
            connection.execute("PRAGMA writable_schema=ON")
            change(connection)
            connection.commit()
            connection.execute("PRAGMA journal_mode=DELETE")
        files = {name: archive.read(name) for name in archive.namelist()} | {"salon.db": path.read_bytes()}
    manifest = json.loads(files["manifest.json"])
    manifest["files"]["salon.db"] = claim or hashlib.sha256(files["salon.db"]).hexdigest()
    return zipped(files | {"manifest.json": json.dumps(manifest).encode()})


def zipped(files: dict[str, bytes]) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, data in files.items():
            archive.writestr(name, data)
    return out.getvalue()


def with_manifest(good: bytes, change: Callable[[dict[str, Any]], Any]) -> bytes:
    with zipfile.ZipFile(io.BytesIO(good)) as archive:
        files = {name: archive.read(name) for name in archive.namelist()}
    manifest = json.loads(files["manifest.json"])
    manifest = change(manifest) or manifest
    return zipped(files | {"manifest.json": json.dumps(manifest).encode()})


def with_files(good: bytes, change: Callable[[dict[str, bytes]], Any]) -> bytes:
    with zipfile.ZipFile(io.BytesIO(good)) as archive:
        files = {name: archive.read(name) for name in archive.namelist()}
    change(files)
    return zipped(files)


def bomb(good: bytes, name: str) -> bytes:
    """One file of it is zeros without end, at the hash that it says."""
    out = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(good)) as archive, zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as bad:
        found = hashlib.sha256()
        with bad.open(name, "w", force_zip64=True) as file:
            for _ in range(ZEROS >> 20):
                piece = b"\0" * (1 << 20)
                found.update(piece)
                file.write(piece)
        manifest = json.loads(archive.read("manifest.json"))
        manifest["files"] = {name: found.hexdigest()}
        bad.writestr("manifest.json", json.dumps(manifest))
    return out.getvalue()


def flagged(good: bytes, flag: int, method: int | None = None) -> bytes:
    """Every entry's header says that it is encrypted, or packed in a way that nobody knows."""
    data = bytearray(good)
    for signature, flags_at, method_at in ((b"PK\x03\x04", 6, 8), (b"PK\x01\x02", 8, 10)):
        at = data.find(signature)
        while at >= 0:
            data[at + flags_at] |= flag
            if method is not None:
                data[at + method_at : at + method_at + 2] = method.to_bytes(2, "little")
            at = data.find(signature, at + 4)
    return bytes(data)


def put(files: dict[str, str], name: str, digest: str) -> None:
    files[name] = digest


A64: Final = "a" * 64


def bad_archives(good: bytes) -> Iterator[tuple[str, bytes]]:
    """What is wrong with a zip of either kind: backup or bundle."""
    yield "empty", b""
    yield "text", b"dear salon"
    yield "half of it", good[: len(good) // 2]
    yield "its end cut off", good[:-300]
    yield "a changed byte", good[:5000] + bytes([good[5000] ^ 255]) + good[5001:]
    yield "encrypted", flagged(good, 1)
    yield "packed in an unknown way", flagged(good, 0, 99)
    yield "no manifest", with_files(good, lambda f: f.pop("manifest.json"))
    yield "manifest is text", with_files(good, lambda f: f.update({"manifest.json": b"nonsense"}))
    yield "manifest is a list", with_manifest(good, lambda m: [m])
    yield "another format", with_manifest(good, lambda m: m.update(format="something"))
    yield "a path outside", with_manifest(good, lambda m: put(m["files"], "../../evil", A64))


def bad_backups(good: bytes) -> Iterator[tuple[str, bytes]]:
    """Name and bytes of each; every one has to be refused."""
    yield from bad_archives(good)
    yield (
        "manifest nested without end",
        with_files(good, lambda f: f.update({"manifest.json": b"[" * 100_000 + b"]" * 100_000})),
    )
    yield "a newer format", with_manifest(good, lambda m: m.update(version=99))
    yield "no records", with_manifest(good, lambda m: m["files"].pop("salon.db"))
    yield (
        "a path as a hash",
        with_manifest(good, lambda m: put(m["files"], "photos/x", "../../../etc/passwd")),
    )
    yield "a hash that is a number", with_manifest(good, lambda m: m["files"].update({"salon.db": 7}))
    yield "records under another hash", rewritten(good, sql("DELETE FROM dog"), A64)
    yield (
        "a photo that is not there",
        with_files(good, lambda f: f.pop(next(n for n in f if n.startswith("photos/")))),
    )
    yield "records are text", with_records(good, b"dear salon" * 1000)
    yield "records are another database", with_records(good, other_database())
    yield "a bomb", bomb(good, "salon.db")
    for name, change in BAD_RECORDS.items():
        yield name, rewritten(good, change)


def with_records(good: bytes, records: bytes) -> bytes:
    changed = with_files(good, lambda f: f.update({"salon.db": records}))
    return with_manifest(
        changed, lambda m: m["files"].update({"salon.db": hashlib.sha256(records).hexdigest()})
    )


def other_database() -> bytes:
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "a.db"
        with closing(sqlite3.connect(path)) as connection, connection:
            connection.execute("CREATE TABLE recipes (name TEXT)")
        return path.read_bytes()


BAD_RECORDS: Final[dict[str, Records]] = {
    "a newer version": sql("UPDATE alembic_version SET version_num = '9999'"),
    "no version": sql("DELETE FROM alembic_version"),
    "two versions": sql("INSERT INTO alembic_version VALUES ('0001')"),
    "a version it is not": sql("UPDATE alembic_version SET version_num = '0003'"),
    "a table more": sql("CREATE TABLE extra (a TEXT)"),
    "a table less": sql("DROP TABLE cut_step"),
    "a trigger": sql("CREATE TRIGGER t AFTER INSERT ON visit BEGIN DELETE FROM dog; END"),
    "a view": sql("CREATE VIEW v AS SELECT * FROM dog"),
    "a column more": sql("ALTER TABLE dog ADD COLUMN extra TEXT"),
    "an index less": sql("DROP INDEX ix_visit_dog_id"),
    "a visit of nobody": sql("UPDATE visit SET dog_id = 999"),
    "a path as a photo's hash": sql("UPDATE photo SET content_hash = '../../../../etc/passwd'"),
    "a photo named that is nowhere": sql(f"UPDATE photo SET content_hash = '{A64}'"),
    "handling that is none": sql("UPDATE dog SET traits = '[\"bites moons\"]'"),
    "handling that is no list": sql("UPDATE dog SET traits = '7'"),
    "records' text is no JSON": sql("UPDATE dog SET traits = 'nonsense'"),
    "wishes of another kind": sql("UPDATE visit SET wishes = '[1, 2]'"),
    "wishes that cannot be": sql('UPDATE visit SET wishes = \'{"eyes": "square"}\''),
    "marks that are none": sql('UPDATE photo SET marks = \'{"stop": {"at": [1]}}\''),
    "marks by no name": sql('UPDATE photo SET marks = \'{"moon": {"at": [1, 2]}}\''),
    "a view that is none": sql("UPDATE photo SET view = 'inside'"),
    "half a bone": sql("UPDATE visit SET bone = '{\"marks_mm\": {}}'"),
    "a coat that is none": sql("UPDATE dog SET coat = 'scales'"),
    "a dog without a visit": sql(
        "INSERT INTO dog (name, breed, coat, traits, uid) VALUES ('Ghost', '', 'curl', '[]', 'u')"
    ),
    "a time that is none": sql("UPDATE visit SET created = 'yesterday'"),
    "a kit that is none": sql("INSERT OR REPLACE INTO setting VALUES ('kit', '{\"tools\": 7}')"),
    "a salon that is none": sql("INSERT OR REPLACE INTO setting VALUES ('salon', '7')"),
    "a backup setting that is none": sql("INSERT OR REPLACE INTO setting VALUES ('backup', '{\"moon\": 1}')"),
    "an outline of its own that is none": sql(
        "INSERT INTO variant (name, document, created) VALUES ('a', '{}', '2026-01-01 00:00:00')"
    ),
    "readings that are none": sql("UPDATE visit SET hand_measures = '[7]'"),
    "combs that are none": sql('UPDATE visit SET coat_probes = \'[{"zone": "crown"}]\''),
    "a cut without a sheet": sql(
        "INSERT INTO cut (visit_id, sheet, inputs_hash, stylist, started) "
        "SELECT id, '{}', 'h', '', '2026-01-01 00:00:00' FROM visit"
    ),
    "times in the book that are none": sql("UPDATE booking SET starts = 'noonish'"),
}


def bad_bundles(good: bytes) -> Iterator[tuple[str, bytes]]:
    """Name and bytes of each; every one has to be refused."""
    yield from bad_archives(good)
    yield "a file that is not there", with_manifest(good, lambda m: put(m["files"], "photos/x.jpg", A64))
    yield "no dog in it", with_manifest(good, lambda m: m["files"].pop("dog.json"))
    yield "a bomb", bomb(good, "dog.json")
    yield "a bomb for a photo", bomb(good, "photos/x.jpg")
    yield "dog is text", with_dog(good, lambda d: "nonsense")
    yield "dog is a list", with_dog(good, lambda d: [d])
    yield "dog nested without end", with_dog(good, lambda d: b"[" * 100_000 + b"]" * 100_000)
    for name, change in BAD_DOGS.items():
        yield name, with_dog(good, change)


def with_dog(good: bytes, change: Document) -> bytes:
    """A bundle whose dog was changed and whose hashes are right again."""
    with zipfile.ZipFile(io.BytesIO(good)) as archive:
        files = {name: archive.read(name) for name in archive.namelist()}
    document = json.loads(files["dog.json"])
    told = change(document)
    changed = told if isinstance(told, (str, list, bytes)) else document
    files["dog.json"] = changed if isinstance(changed, bytes) else json.dumps(changed).encode()
    manifest = json.loads(files["manifest.json"])
    manifest["files"]["dog.json"] = hashlib.sha256(files["dog.json"]).hexdigest()
    return zipped(files | {"manifest.json": json.dumps(manifest).encode()})


def on_visit(**told: Any) -> Document:
    return lambda dog: dog["visits"][-1].update(told)


def on_photo(**told: Any) -> Document:
    return lambda dog: dog["visits"][-1]["photos"][0].update(told)


BAD_DOGS: Final[dict[str, Document]] = {
    "no uid": lambda d: d.pop("uid"),
    "a uid that is none": lambda d: d.update(uid="../x"),
    "no name": lambda d: d.update(name=""),
    "a name without end": lambda d: d.update(name="x" * 10_000),
    "a name that is a number": lambda d: d.update(name=7),
    "a name of half a letter": lambda d: d.update(name="\ud800"),
    "a coat that is none": lambda d: d.update(coat="scales"),
    "a muzzle that is none": lambda d: d.update(muzzle="trunk"),
    "handling that is none": lambda d: d.update(traits=["bites moons"]),
    "handling that is no list": lambda d: d.update(traits=7),
    "no visits": lambda d: d.update(visits=[]),
    "visits that are none": lambda d: d.update(visits=[7]),
    "visits without end": lambda d: d.update(visits=d["visits"] * 4000),
    "an outline of its own that is none": lambda d: d.update(variants={"variant-1": {"name": 1}}),
    "a time that is none": on_visit(created="yesterday"),
    "a note without end": on_visit(note="x" * 100_000),
    "wishes that cannot be": on_visit(wishes={"eyes": "square"}),
    "wishes beyond all": on_visit(wishes={"fullness": 1e300}),
    "weeks beyond all": on_visit(wishes={"weeks_between": 10**30}),
    "readings that are none": on_visit(hand_measures=[7]),
    "readings without end": on_visit(hand_measures=[{"from": "stop", "to": "chin", "mm": 5.0}] * 20_000),
    "combs that are none": on_visit(coat_probes=[{"zone": "crown"}]),
    "half a bone": on_visit(bone={"marks_mm": {}}),
    "a bone of another kind": on_visit(bone={"marks_mm": 7, "covariance": "!!"}),
    "a cut without a sheet": on_visit(
        cuts=[{"sheet": {}, "inputs_hash": "h", "stylist": "", "started": "2026-01-01T00:00:00"}]
    ),
    "an outline that is none": on_visit(outlines=[{"family": "round"}]),
    "photos that are none": on_visit(photos=[7]),
    "a view that is none": on_photo(view="inside"),
    "a state that is none": on_photo(state="boiled"),
    "a path as a hash": on_photo(content_hash="../../../../etc/passwd"),
    "a photo that is not in it": on_photo(content_hash=A64),
    "a photo without width": on_photo(width_px=0),
    "a photo of endless width": on_photo(width_px=10**12),
    "marks that are none": on_photo(marks={"stop": {"at": [1]}}),
    "marks by no name": on_photo(marks={"moon": {"at": [1, 2]}}),
    "marks beyond all": on_photo(marks={"stop": {"at": [1e308, 1e309]}}),
    "an edge that is none": on_photo(coat_edge=[["a", "b"]]),
    "an edge without end": on_photo(coat_edge=[[1, 2]] * 30_000),
}
