"""A dog bundle as a file: a zip whose every file is named with its SHA-256 in `manifest.json`.

The same documents and photos make the same bytes, so that two bundles can be compared as they are.
"""

from __future__ import annotations

import hashlib
import json
import shutil
import zipfile
import zlib
from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path, PurePosixPath
from typing import IO, Any, Final

from dapwick.core.basics.errors import BadInput, Busy, StorageFull

FORMAT: Final = "dapwick-dog"
VERSION: Final = 1
MANIFEST: Final = "manifest.json"
EPOCH: Final = (1980, 1, 1, 0, 0, 0)
LARGEST_FILE: Final = 64 << 20
LARGEST_TOGETHER: Final = 4 << 30
"""A dog of many years with large photos."""
MOST_FILES: Final = 5000
PIECE: Final = 1 << 20


def write_bundle(out: IO[bytes], documents: Mapping[str, Any], photos: Mapping[str, Path]) -> None:
    """documents by name become JSON; photos, by their files, are stored as they are, one after the other. out: a file
    that can be written anywhere in it. Raises BadInput where a photo's file is gone."""
    texts = {name: _json(content) for name, content in sorted(documents.items())}
    files = {name: hashlib.sha256(data).hexdigest() for name, data in texts.items()}
    for name, path in sorted(photos.items()):
        files[name] = _hash_of_photo(path, name)
    manifest = {"format": FORMAT, "version": VERSION, "files": files}
    with zipfile.ZipFile(out, "w") as archive:
        for name, data in {MANIFEST: _json(manifest), **texts}.items():
            with archive.open(_entry(name, zipfile.ZIP_DEFLATED), "w") as to:
                to.write(data)
        for name, path in sorted(photos.items()):
            with path.open("rb") as photo, archive.open(_entry(name, zipfile.ZIP_STORED), "w") as to:
                shutil.copyfileobj(photo, to, PIECE)


def _hash_of_photo(path: Path, name: str) -> str:
    try:
        with path.open("rb") as photo:
            return hashlib.file_digest(photo, "sha256").hexdigest()
    except FileNotFoundError as error:
        raise BadInput(
            "a photo's file is gone", expected="every photo of the dog", got=name[:30], where="bundle",
            remedy="Restore a backup that has it, or remove the photo.",
        ) from error  # fmt: skip


def _entry(name: str, packed: int) -> zipfile.ZipInfo:
    entry = zipfile.ZipInfo(name, EPOCH)
    entry.compress_type = packed
    return entry


@dataclass(frozen=True)
class Bundle:
    """An open bundle, every file of which was compared with its hash. files: hash by name."""

    archive: zipfile.ZipFile
    name: str
    files: Mapping[str, str]

    def read(self, file: str) -> bytes:
        """One file, in memory."""
        return b"".join(_pieces(self.archive, file, self.name, [LARGEST_FILE]))


@contextmanager
def opened_bundle(data: IO[bytes], name: str) -> Iterator[Bundle]:
    """A bundle, read once through in pieces and compared with its hashes. Raises BadInput for what is no bundle, cut
    off or changed, and for one that would unpack to more than any dog's."""
    try:
        with zipfile.ZipFile(data) as archive:
            yield Bundle(archive, name, _files(archive, name))
    except (BadInput, StorageFull, Busy):
        raise
    except (
        zipfile.BadZipFile,
        zlib.error,
        LookupError,
        ValueError,
        TypeError,
        AttributeError,
        EOFError,
        OSError,
        RuntimeError,
        OverflowError,
        RecursionError,
    ) as error:
        # Everything a damaged, encrypted or made-up zip can make its reader say.
        raise BadInput(
            "cannot read it", expected="a dog bundle (.zip)", got=str(error)[:80] or "not a zip", where=name
        ) from error


def _files(archive: zipfile.ZipFile, name: str) -> dict[str, str]:
    """Hash by name, each compared."""
    if len(archive.namelist()) > MOST_FILES + 1:
        raise _too_much(f"at most {MOST_FILES} files", str(len(archive.namelist())), name)
    left = [LARGEST_TOGETHER]
    manifest = json.loads(b"".join(_pieces(archive, MANIFEST, name, left)))
    if manifest.get("format") != FORMAT or manifest.get("version") != VERSION:
        raise BadInput(
            "not a dog bundle", expected=f"{FORMAT}, version {VERSION}",
            got=f"{str(manifest.get('format'))[:40]}, version {str(manifest.get('version'))[:20]}", where=name,
        )  # fmt: skip
    files = {str(file): str(digest) for file, digest in dict(manifest["files"]).items()}
    for file, digest in files.items():
        _compare(archive, file, digest, name, left)
    return files


def _compare(archive: zipfile.ZipFile, file: str, digest: str, name: str, left: list[int]) -> None:
    if PurePosixPath(file).is_absolute() or ".." in PurePosixPath(file).parts:
        raise BadInput(
            "a file in it points outside", expected="names inside the bundle", got=file[:60], where=name
        )
    found = hashlib.sha256()
    for piece in _pieces(archive, file, name, left):
        found.update(piece)
    if found.hexdigest() != digest:
        raise BadInput(
            "a file in it is damaged",
            expected=digest[:12],
            got=found.hexdigest()[:12],
            where=f"{name}: {file[:80]}",
        )


def _pieces(archive: zipfile.ZipFile, file: str, name: str, left: list[int]) -> Iterator[bytes]:
    """One file in pieces: whatever its header says, it takes no more than is left of what a bundle may hold."""
    size = 0
    with archive.open(file) as member:
        while piece := member.read(PIECE):
            size += len(piece)
            left[0] -= len(piece)
            if size > LARGEST_FILE or left[0] < 0:
                raise _too_much(
                    f"files up to {LARGEST_FILE} bytes, {LARGEST_TOGETHER} together", "more", name
                )
            yield piece


def _too_much(expected: str, got: str, name: str) -> BadInput:
    return BadInput("too much in it", expected=expected, got=got, where=name)


def _json(content: Any) -> bytes:
    return json.dumps(content, indent=1, sort_keys=True, ensure_ascii=False).encode()
