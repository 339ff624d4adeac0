"""A salon's server in a process of its own that can be killed, and what must be true of a salon's folder afterwards."""

from __future__ import annotations

import hashlib
import signal
import socket
import sqlite3
import subprocess
import sys
import time
from contextlib import closing
from pathlib import Path

import httpx

START_S = 60.0


class SalonServer:
    """`start` waits until it answers; `kill` is a kill -9, as when the machine loses its power."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        with socket.socket() as probe:
            probe.bind(("127.0.0.1", 0))
            self.port = int(probe.getsockname()[1])
        self.process: subprocess.Popen[bytes] | None = None

    @property
    def address(self) -> str:
        return f"http://127.0.0.1:{self.port}"

    def start(self) -> None:
        command = [
            sys.executable,
            "-m",
            "dapwick.cli",
            "serve",
            "--salon",
            str(self.folder),
            "--port",
            str(self.port),
        ]
        self.process = subprocess.Popen(command, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)
        last = time.monotonic() + START_S
        while True:
            try:
                httpx.get(f"{self.address}/api/salon", timeout=2.0)
                return
            except httpx.HTTPError:
                if time.monotonic() > last or self.process.poll() is not None:
                    raise
                time.sleep(0.05)

    def kill(self) -> None:
        if self.process:
            self.process.send_signal(signal.SIGKILL)
            self.process.wait()
            self.process = None


def faults(folder: Path, swept: bool) -> list[str]:
    """What is wrong with a salon's folder. swept: the server has started since: nothing half-written may lie there."""
    found = []
    with closing(sqlite3.connect(folder / "salon.db")) as connection:
        verdict = connection.execute("PRAGMA integrity_check").fetchone()[0]
        if verdict != "ok":
            found.append(f"integrity: {verdict}")
        if connection.execute("PRAGMA foreign_key_check").fetchall():
            found.append("foreign keys")
        named = {row[0] for row in connection.execute("SELECT content_hash FROM photo")}
    kept = set(named)
    for before in folder.glob("before-restore-*.db"):
        # Records that a restore replaced can be taken back, photos and all.
        with closing(sqlite3.connect(before)) as connection:
            kept |= {row[0] for row in connection.execute("SELECT content_hash FROM photo")}
    files = {p.name for p in (folder / "photos").iterdir()}
    found += [f"photo {digest[:12]} is gone" for digest in named - files]
    if swept:
        found += [f"left behind: {p.name}" for p in folder.glob(".coming-*")]
    if swept:
        found += [f"orphan {name[:20]}" for name in files if name.split(".")[0] not in kept]
    return found


def is_kept(folder: Path, digest: str) -> bool:
    """A photo's file is there, byte for byte."""
    path = folder / "photos" / digest
    return path.exists() and hashlib.sha256(path.read_bytes()).hexdigest() == digest
