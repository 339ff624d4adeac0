"""A dog bundle as a file: a zip whose every file is named with its SHA-256 in `manifest.json`.

The same documents and photos make the same bytes, so that two bundles can be compared as they are.
"""

from __future__ import annotations

import hashlib
import io
import json
import zipfile
from collections.abc import Mapping
from pathlib import PurePosixPath
from typing import Any, Final

from dapwick.core.errors import BadInput

FORMAT: Final = "dapwick-dog"
VERSION: Final = 1
MANIFEST: Final = "manifest.json"
EPOCH: Final = (1980, 1, 1, 0, 0, 0)
LARGEST_FILE: Final = 200 << 20
MOST_FILES: Final = 5000


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
    """Files by name, every one compared with its hash. Raises BadInput for what is no bundle, cut off or changed."""
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            told = json.loads(_member(archive, MANIFEST, name))
            if told.get("format") != FORMAT or told.get("version") != VERSION:
                raise BadInput(
                    "not a dog bundle", expected=f"{FORMAT}, version {VERSION}",
                    got=f"{told.get('format')}, version {told.get('version')}", where=name,
                )  # fmt: skip
            wanted = dict(told["files"])
            if len(wanted) > MOST_FILES:
                raise BadInput(
                    "too many files in it", expected=f"at most {MOST_FILES}", got=str(len(wanted)), where=name
                )
            return {file: _checked(archive, file, str(digest), name) for file, digest in wanted.items()}
    except (
        zipfile.BadZipFile,
        KeyError,
        ValueError,
        TypeError,
        AttributeError,
        EOFError,
        NotImplementedError,
    ) as error:
        if isinstance(error, BadInput):
            raise
        raise BadInput(
            "cannot read it", expected="a dog bundle (.zip)", got=str(error)[:80] or "not a zip", where=name
        ) from error


def _checked(archive: zipfile.ZipFile, file: str, digest: str, name: str) -> bytes:
    if PurePosixPath(file).is_absolute() or ".." in PurePosixPath(file).parts:
        raise BadInput(
            "a file in it points outside", expected="names inside the bundle", got=file[:60], where=name
        )
    data = _member(archive, file, name)
    found = hashlib.sha256(data).hexdigest()
    if found != digest:
        raise BadInput(
            "a file in it is damaged", expected=digest[:12], got=found[:12], where=f"{name}: {file}"
        )
    return data


def _member(archive: zipfile.ZipFile, file: str, name: str) -> bytes:
    size = archive.getinfo(file).file_size
    if size > LARGEST_FILE:
        raise BadInput(
            "a file in it is too large",
            expected=f"at most {LARGEST_FILE} bytes",
            got=str(size),
            where=f"{name}: {file}",
        )
    return archive.read(file)


def _json(content: Any) -> bytes:
    return json.dumps(content, indent=1, sort_keys=True, ensure_ascii=False).encode()
