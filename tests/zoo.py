"""One shared zoo of hard inputs: photos that are not, heads that cannot be."""

from __future__ import annotations

import io
import struct
import zlib
from dataclasses import replace

import numpy as np
from PIL import Image

from dapwick.core.basics.marks import swapped
from dapwick.core.solve.observations import HeadInput, PhotoMarks, PlacedMark
from simheads import SimHead


def jpeg(width: int = 800, height: int = 600, orientation: int = 1, seed: int = 0) -> bytes:
    """A photo whose left half is darker than its right; orientation as a camera held aside writes it."""
    rng = np.random.default_rng(seed)
    pixels = rng.integers(0, 60, (height, width, 3), dtype=np.uint8)
    pixels[:, width // 2 :] += 120
    exif = Image.Exif()
    exif[0x0112] = orientation
    exif.get_ifd(0x8769)[0xA405] = 54
    out = io.BytesIO()
    Image.fromarray(pixels).save(out, "JPEG", exif=exif)
    return out.getvalue()


def heic(width: int = 640, height: int = 480) -> bytes:
    out = io.BytesIO()
    Image.new("RGB", (width, height), (200, 120, 40)).save(out, "HEIF")
    return out.getvalue()


def bomb_png(width: int = 20_000, height: int = 10_000) -> bytes:
    """200 megapixels in a few hundred bytes."""

    def chunk(kind: bytes, data: bytes) -> bytes:
        return struct.pack(">I", len(data)) + kind + data + struct.pack(">I", zlib.crc32(kind + data))

    header = struct.pack(">IIBBBBB", width, height, 8, 0, 0, 0, 0)
    return (
        b"\x89PNG\r\n\x1a\n"
        + chunk(b"IHDR", header)
        + chunk(b"IDAT", zlib.compress(b"\0" * 1000))
        + chunk(b"IEND", b"")
    )


NOT_PHOTOS = {
    "empty": (b"", "empty"),
    "text": (b"dear salon, here is the picture", "not a photo"),
    "pdf": (b"%PDF-1.7 ...............", "not a photo"),
    "gif": (b"GIF89a" + b"\0" * 60, "not a photo"),
    "bomb": (bomb_png(), "too many pixels"),
    "truncated": (jpeg()[:9000], "cut short"),
    "tiny": (jpeg(120, 90), "too small"),
}


def with_photo(sim: SimHead, index: int, photo: PhotoMarks) -> HeadInput:
    photos = list(sim.given.photos)
    photos[index] = photo
    return replace(sim.given, photos=tuple(photos))


def swapped_sides(photo: PhotoMarks) -> PhotoMarks:
    return replace(photo, marks={swapped(m): at for m, at in photo.marks.items()})


def mirrored(photo: PhotoMarks) -> PhotoMarks:
    """What a camera that mirrors delivers; the marks keep their names."""
    flipped = {m: replace(at, x_px=photo.width_px - at.x_px) for m, at in photo.marks.items()}
    return replace(photo, marks=flipped)


def pair_swapped(photo: PhotoMarks, name: str) -> PhotoMarks:
    left, right = f"{name}_left", f"{name}_right"
    return replace(photo, marks={**photo.marks, left: photo.marks[right], right: photo.marks[left]})


def only(photo: PhotoMarks, count: int) -> PhotoMarks:
    return replace(photo, marks=dict(list(photo.marks.items())[:count]))


def coincident(photo: PhotoMarks) -> PhotoMarks:
    """Every mark in one place: a child with a tablet."""
    return replace(photo, marks={m: PlacedMark(400.0, 300.0) for m in photo.marks})


def collinear(photo: PhotoMarks) -> PhotoMarks:
    return replace(photo, marks={m: PlacedMark(200.0 + 30.0 * i, 400.0) for i, m in enumerate(photo.marks)})
