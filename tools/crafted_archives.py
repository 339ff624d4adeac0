"""Every crafted backup and bundle handed in: refused with a sentence, the salon byte-equal afterwards.

.venv/bin/python tools/crafted_archives.py          # writes docs/crafted-archives.md
"""

from __future__ import annotations

import hashlib
import resource
import tempfile
import time
from collections.abc import Callable, Iterable
from pathlib import Path
from typing import Final

from crafted import bad_backups, bad_bundles
from dapwick.core.basics.errors import BadInput
from dapwick.records.backup import write_backup
from dapwick.records.store import SalonStore
from dapwick.service.dogs.bundles import bundle_of, take_in
from dapwick.service.salon import backups
from dapwick.service.salon.demo import fill_with_demo

OUT: Final = Path(__file__).parents[1] / "docs" / "crafted-archives.md"
OWN: Final = (".lock", "-wal", "-shm")


def quiet(_words: str, _share: float) -> None:
    return None


def bytes_of(folder: Path) -> dict[str, str]:
    """Every file of a salon by its hash, but what the database itself keeps open."""
    return {
        path.relative_to(folder).as_posix(): hashlib.sha256(path.read_bytes()).hexdigest()
        for path in sorted(folder.rglob("*"))
        if path.is_file() and not path.name.endswith(OWN)
    }


def tried(
    folder: Path, made: Iterable[tuple[str, bytes]], hand_in: Callable[[bytes], object]
) -> tuple[list[tuple[str, str, float]], list[str]]:
    """What each was answered with and how long it took; and what went wrong."""
    before, told, wrong = bytes_of(folder), [], []
    for name, data in made:
        begun = time.monotonic()
        try:
            hand_in(data)
            wrong.append(f"{name}: taken in")
        except BadInput as error:
            told.append((name, str(error), time.monotonic() - begun))
        except Exception as error:
            wrong.append(f"{name}: {type(error).__name__}")
        if bytes_of(folder) != before:
            wrong.append(f"{name}: the salon has changed")
            before = bytes_of(folder)
    return told, wrong


def main() -> None:
    with tempfile.TemporaryDirectory() as folder:
        store, other = SalonStore(Path(folder) / "salon"), SalonStore(Path(folder) / "other")
        fill_with_demo(store, ("fogbell", "bobbin"))
        given = Path(folder) / "given.zip"
        write_backup(store, given, quiet)
        good = given.read_bytes()

        def restored(data: bytes) -> object:
            given.write_bytes(data)
            return backups.restore(store, given, quiet)

        of_backups, wrong = tried(store.folder, bad_backups(good), restored)
        bundle = bundle_of(store, 1)
        of_bundles, more = tried(
            other.folder, bad_bundles(bundle), lambda data: take_in(other, data, "given.zip")
        )
        wrong += more
        restored(good)
        take_in(other, bundle, "given.zip")
        store.close()
        other.close()
    memory = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024
    slowest = max(seconds for _, _, seconds in (*of_backups, *of_bundles))
    lines = [
        "# Crafted backups and bundles",
        "",
        "Written by `tools/crafted_archives.py` (the archives are made in `tools/crafted.py`): each is handed in; what",
        "the answer was, and whether every file of the salon is byte for byte what it was. The good ones that they",
        "were made from go in.",
        "",
        f"Backups: {len(of_backups)}, bundles: {len(of_bundles)}. Taken in, or anything changed: **{len(wrong)}**.",
        f"Slowest answer {slowest:.1f} s; memory of the process at most {memory:.0f} MB, the archives' own counted.",
        *[f"- {words}" for words in wrong],
        "",
        "| backup | answer |",
        "|-|-|",
        *[f"| {name} | {words[:150]} |" for name, words, _ in of_backups],
        "",
        "| bundle | answer |",
        "|-|-|",
        *[f"| {name} | {words[:150]} |" for name, words, _ in of_bundles],
        "",
    ]
    OUT.write_text("\n".join(line.replace(folder, "…") for line in lines), "utf-8")
    print("\n".join(lines[:9]))


if __name__ == "__main__":
    main()
