"""Whether a PNG has all of its rows: decoders fill up what is missing without a word."""

from __future__ import annotations

import struct
import zlib
from collections.abc import Iterator
from typing import Final

SIGNATURE: Final = b"\x89PNG\r\n\x1a\n"
CHANNELS: Final = {0: 1, 2: 3, 3: 1, 4: 2, 6: 4}
PASSES: Final = (
    (0, 0, 8, 8),
    (4, 0, 8, 8),
    (0, 4, 4, 8),
    (2, 0, 4, 4),
    (0, 2, 2, 4),
    (1, 0, 2, 2),
    (0, 1, 1, 2),
)
"""First column and row, step across and down of each interlaced pass."""
PIECE: Final = 1 << 16


def has_all_rows(data: bytes) -> bool:
    """True for a PNG whose pixels are all there; other kinds of file are not asked."""
    if not data.startswith(SIGNATURE):
        return True
    chunks = dict_of_first(data)
    if b"IHDR" not in chunks or len(chunks[b"IHDR"]) != 13:
        return False
    width, height, depth, color, _, _, interlaced = struct.unpack(">IIBBBBB", chunks[b"IHDR"])
    if color not in CHANNELS:
        return False
    wanted = _bytes_of(width, height, depth * CHANNELS[color], bool(interlaced))
    try:
        return _inflated(data, wanted) >= wanted
    except zlib.error:
        return False


def dict_of_first(data: bytes) -> dict[bytes, bytes]:
    """The first chunk of each kind before the pixels."""
    found: dict[bytes, bytes] = {}
    for kind, content in _chunks(data):
        if kind == b"IDAT":
            break
        found.setdefault(kind, content)
    return found


def _chunks(data: bytes) -> Iterator[tuple[bytes, bytes]]:
    at = len(SIGNATURE)
    while at + 8 <= len(data):
        (length,) = struct.unpack(">I", data[at : at + 4])
        yield data[at + 4 : at + 8], data[at + 8 : at + 8 + length]
        at += 12 + length


def _bytes_of(width: int, height: int, bits: int, interlaced: bool) -> int:
    if not interlaced:
        return height * (1 + (width * bits + 7) // 8)
    total = 0
    for x, y, across, down in PASSES:
        columns, rows = -(-max(width - x, 0) // across), -(-max(height - y, 0) // down)
        total += rows * (1 + (columns * bits + 7) // 8) if columns else 0
    return total


def _inflated(data: bytes, enough: int) -> int:
    """Bytes that the pixels inflate to, counted up to `enough`; never held at once."""
    inflate, total = zlib.decompressobj(), 0
    for kind, content in _chunks(data):
        if kind != b"IDAT":
            continue
        left = content
        while left and total < enough:
            total += len(inflate.decompress(left, PIECE))
            left = inflate.unconsumed_tail
    while total < enough and not inflate.eof:
        more = len(inflate.decompress(inflate.unconsumed_tail, PIECE))
        if not more:
            break
        total += more
    return total
