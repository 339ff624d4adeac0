"""A dog bundle as a file: a zip whose every file is named with its SHA-256 in `manifest.json`.

The same documents and photos make the same bytes, so that two bundles can be compared as they are.
"""

from __future__ import annotations

import hashlib
import io
import json
import zipfile
import zlib
from collections.abc import Mapping
from pathlib import PurePosixPath
from typing import Any, Final

from dapwick.core.errors import BadInput

FORMAT: Final = "dapwick-dog"
VERSION: Final = 1
MANIFEST: Final = "manifest.json"
EPOCH: Final = (1980, 1, 1, 0, 0, 0)
LARGEST_FILE: Final = 64 << 20
LARGEST_TOGETHER: Final = 1 << 30
"""A dog of many years with large photos; a bundle is taken in whole, so this is memory too."""
MOST_FILES: Final = 5000
PIECE: Final = 1 << 20


def write_bundle(documents: Mapping[str, Any], photos: Mapping[str, bytes]) -> bytes:
    """documents by name become JSON; photos are stored as they are."""
    files = {name: _json(content) for name, content in sorted(documents.items())} | dict(
        sorted(photos.items())
    )
    manifest = {
        "format": FORMAT,
        "version": VERSION,
        "files": {name: hashlib.sha256(data).hexdigest() for name, data in files.items()},
    }
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as archive:
        for name, data in {MANIFEST: _json(manifest), **files}.items():
            entry = zipfile.ZipInfo(name, EPOCH)
            entry.compress_type = zipfile.ZIP_STORED if name in photos else zipfile.ZIP_DEFLATED
            archive.writestr(entry, data)
    return out.getvalue()


def read_bundle(data: bytes, name: str) -> dict[str, bytes]:
    """Files by name, every one compared with its hash. Raises BadInput for what is no bundle, cut off or changed, and
    for one that would unpack to more than any dog's. data: the zip's bytes."""
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            if len(archive.namelist()) > MOST_FILES + 1:
                raise _too_much(f"at most {MOST_FILES} files", str(len(archive.namelist())), name)
            left = [LARGEST_TOGETHER]
            told = json.loads(_member(archive, MANIFEST, name, left))
            if told.get("format") != FORMAT or told.get("version") != VERSION:
                raise BadInput(
                    "not a dog bundle", expected=f"{FORMAT}, version {VERSION}",
                    got=f"{str(told.get('format'))[:40]}, version {str(told.get('version'))[:20]}", where=name,
                )  # fmt: skip
            wanted = dict(told["files"])
            return {file: _checked(archive, file, str(digest), name, left) for file, digest in wanted.items()}
    except BadInput:
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


def _checked(archive: zipfile.ZipFile, file: str, digest: str, name: str, left: list[int]) -> bytes:
    if PurePosixPath(file).is_absolute() or ".." in PurePosixPath(file).parts:
        raise BadInput(
            "a file in it points outside", expected="names inside the bundle", got=file[:60], where=name
        )
    data = _member(archive, file, name, left)
    found = hashlib.sha256(data).hexdigest()
    if found != digest:
        raise BadInput(
            "a file in it is damaged", expected=digest[:12], got=found[:12], where=f"{name}: {file[:80]}"
        )
    return data


def _member(archive: zipfile.ZipFile, file: str, name: str, left: list[int]) -> bytes:
    """One file, read in pieces: whatever its header says, it takes no more than is left of what a bundle may hold."""
    pieces: list[bytes] = []
    size = 0
    with archive.open(file) as member:
        while piece := member.read(PIECE):
            size += len(piece)
            left[0] -= len(piece)
            if size > LARGEST_FILE or left[0] < 0:
                raise _too_much(
                    f"files up to {LARGEST_FILE} bytes, {LARGEST_TOGETHER} together", "more", name
                )
            pieces.append(piece)
    return b"".join(pieces)


def _too_much(expected: str, got: str, name: str) -> BadInput:
    return BadInput("too much in it", expected=expected, got=got, where=name)


def _json(content: Any) -> bytes:
    return json.dumps(content, indent=1, sort_keys=True, ensure_ascii=False).encode()
