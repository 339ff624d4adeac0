"""Photo files in: checked before they are decoded, turned upright, their EXIF read."""

from __future__ import annotations

import io
import math
import warnings
from dataclasses import dataclass
from datetime import datetime
from typing import Final

import cv2
import numpy as np
import pillow_heif
from numpy.typing import NDArray
from PIL import Image, ImageOps, UnidentifiedImageError

from dapwick.core.basics.errors import BadInput
from dapwick.vision.png import has_all_rows

pillow_heif.register_heif_opener()

FORMATS: Final = ("JPEG", "PNG", "WEBP", "HEIF")
LARGEST_BYTES: Final = 60 * 1024 * 1024
LARGEST_PIXELS: Final = 64_000_000
MOST_STRETCHED: Final = 5.0
"""Longer side over shorter, past which it is no photo of a head."""
SMALLEST_SIDE_PX: Final = 300
SCREEN_SIDE_PX: Final = 1600
FULL_FRAME_DIAGONAL_MM: Final = math.hypot(36.0, 24.0)
EXIF_IFD: Final = 0x8769
EXIF_TAKEN: Final = 0x9003
EXIF_FOCAL_35: Final = 0xA405

Pixels = NDArray[np.uint8]


@dataclass(frozen=True)
class Photo:
    """One decoded photo, upright. rgb (height, width, 3); focal_px from EXIF where there is one."""

    rgb: Pixels
    width_px: int
    height_px: int
    format: str
    focal_px: float | None
    taken: datetime | None


def read_photo(data: bytes, name: str) -> Photo:
    """Decode one photo file; every way it can be wrong is a `BadInput` that says what to do."""
    if len(data) > LARGEST_BYTES:
        raise BadInput(
            "photo file too big",
            expected=f"up to {LARGEST_BYTES // 2**20} MB",
            got=f"{len(data) / 2**20:.0f} MB",
            where=name,
            remedy="Save it smaller and drop it again.",
        )
    image = _opened(data, name)
    width, height = image.size
    if width * height > LARGEST_PIXELS:
        raise BadInput(
            "photo has too many pixels",
            expected=f"up to {LARGEST_PIXELS // 10**6} megapixels",
            got=f"{width} × {height}",
            where=name,
            remedy="Save it smaller and drop it again.",
        )
    if max(width, height) > MOST_STRETCHED * min(width, height):
        raise BadInput(
            "photo is a strip",
            expected=f"sides at most {MOST_STRETCHED:g} to 1",
            got=f"{width} × {height}",
            where=name,
            remedy="Use the whole photo, not a cutting of it.",
        )
    if min(width, height) < SMALLEST_SIDE_PX:
        raise BadInput(
            "photo is too small to measure on",
            expected=f"at least {SMALLEST_SIDE_PX} px each way",
            got=f"{width} × {height}",
            where=name,
            remedy="Use the original, not a preview.",
        )
    if not has_all_rows(data):
        raise _cut_short(name, "rows are missing")
    try:
        exif = image.getexif()
    except Exception as error:
        # Whatever damaged EXIF makes its reader raise.
        raise _cut_short(name, f"its EXIF ({type(error).__name__})") from error
    upright = _decoded(image, name)
    focal_px = _focal_px(exif, math.hypot(*upright.size))
    return Photo(np.asarray(upright), *upright.size, str(image.format), focal_px, _taken(exif))


def _opened(data: bytes, name: str) -> Image.Image:
    if not data:
        raise BadInput(
            "the file is empty",
            expected="a photo",
            got="0 bytes",
            where=name,
            remedy="Copy it from the camera again.",
        )
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore", Image.DecompressionBombWarning)
            return Image.open(io.BytesIO(data), formats=FORMATS)
    except Image.DecompressionBombError as error:
        raise BadInput(
            "photo has too many pixels",
            expected=f"up to {LARGEST_PIXELS // 10**6} megapixels",
            got="far more",
            where=name,
            remedy="Save it smaller and drop it again.",
        ) from error
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError) as error:
        raise BadInput(
            "not a photo that can be read",
            expected="JPEG, PNG, WebP or HEIC",
            got=_looks_like(data),
            where=name,
            remedy="Choose the photo itself.",
        ) from error


def _looks_like(data: bytes) -> str:
    if data[:4] == b"%PDF":
        return "a PDF"
    if data[:2] == b"PK":
        return "a zip or document"
    return "text" if all(b < 128 for b in data[:64]) else "something else"


def _decoded(image: Image.Image, name: str) -> Image.Image:
    """Upright and in colour; in place, since each copy of a large photo is fifty megabytes more."""
    try:
        image.load()
        ImageOps.exif_transpose(image, in_place=True)
        return image if image.mode == "RGB" else image.convert("RGB")
    except Exception as error:
        # Decoders raise what they like on a damaged file; whatever it is, this is no photo.
        raise _cut_short(name, str(error)[:80]) from error


def _cut_short(name: str, got: str) -> BadInput:
    return BadInput(
        "the photo file is cut short or damaged",
        expected="a whole file",
        got=got,
        where=name,
        remedy="Copy it from the camera again.",
    )


def _focal_px(exif: Image.Exif, diagonal_px: float) -> float | None:
    """Focal length from its full-frame equivalent, which sees as wide an angle over the diagonal, whatever the
    frame's shape."""
    try:
        equivalent = exif.get_ifd(EXIF_IFD).get(EXIF_FOCAL_35)
        mm = float(equivalent) if equivalent else 0.0
    except Exception:
        # A tag that cannot be read is a tag that is not there.
        return None
    return mm / FULL_FRAME_DIAGONAL_MM * diagonal_px if 5 <= mm <= 2000 else None


def _taken(exif: Image.Exif) -> datetime | None:
    try:
        return datetime.strptime(
            str(exif.get_ifd(EXIF_IFD).get(EXIF_TAKEN, "")).strip("\0 "), "%Y:%m:%d %H:%M:%S"
        )
    except Exception:
        return None


def screen_sized(rgb: Pixels) -> Pixels:
    """At most SCREEN_SIDE_PX on the longer side."""
    scale = SCREEN_SIDE_PX / max(rgb.shape[:2])
    if scale >= 1:
        return rgb
    return np.asarray(cv2.resize(rgb, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA), np.uint8)


def screen_jpeg(photo: Photo) -> bytes:
    """A copy for screens, at most SCREEN_SIDE_PX on its longer side, without EXIF."""
    out = io.BytesIO()
    Image.fromarray(screen_sized(photo.rgb)).save(out, "JPEG", quality=88)
    return out.getvalue()
