"""One page for the owner: before and after, nothing else but the names."""

from __future__ import annotations

import io
from collections.abc import Sequence
from typing import Final

import numpy as np
from numpy.typing import NDArray
from PIL import Image, ImageDraw, ImageFont

from dapwick.exports.paper import FONTS, INK, QUIET

WIDE_PX: Final = 2000
MARGIN_PX: Final = 80
GAP_PX: Final = 40
NAME_PX: Final = 96
WORDS_PX: Final = 44
PAPER: Final = (250, 247, 240)
Pair = tuple[NDArray[np.uint8], NDArray[np.uint8]]
"""Two pictures (height, width, 3) of one size."""


def owner_page(dog: str, words: str, pairs: Sequence[Pair], captions: tuple[str, str]) -> bytes:
    """The page as PNG. words: what stands beside the name; pairs: before and after; captions: of each."""
    wide = (WIDE_PX - 2 * MARGIN_PX - GAP_PX) // 2
    rows = [[_sized(one, wide) for one in pair] for pair in pairs]
    top = MARGIN_PX + int(NAME_PX * 1.5)
    under = int(WORDS_PX * 2.0)
    height = top + sum(row[0].height + GAP_PX for row in rows) + under + MARGIN_PX // 2
    page = Image.new("RGB", (WIDE_PX, height), PAPER)
    draw = ImageDraw.Draw(page)
    bold, plain = (
        ImageFont.truetype(FONTS / f"Commissioner-{face}.ttf", size)
        for face, size in (("Bold", NAME_PX), ("Regular", WORDS_PX))
    )
    draw.text((MARGIN_PX, MARGIN_PX // 2), dog, _colour(INK), bold)
    name_wide = draw.textlength(f"{dog}  ", bold)
    draw.text((MARGIN_PX + name_wide, MARGIN_PX // 2 + NAME_PX * 0.45), words, _colour(QUIET), plain)
    for row in rows:
        for column, picture in enumerate(row):
            page.paste(picture, (MARGIN_PX + column * (wide + GAP_PX), top))
        top += row[0].height + GAP_PX
    for column, caption in enumerate(captions):
        draw.text((MARGIN_PX + column * (wide + GAP_PX), top - GAP_PX // 2), caption, _colour(INK), plain)
    out = io.BytesIO()
    page.save(out, "PNG")
    return out.getvalue()


def _sized(rgb: NDArray[np.uint8], wide: int) -> Image.Image:
    picture = Image.fromarray(rgb)
    return picture.resize((wide, round(picture.height * wide / picture.width)), Image.Resampling.LANCZOS)


def planned(weeks: int) -> tuple[str, str]:
    """Captions of a head as it is and as it is planned, so many weeks after the cut."""
    after = "after the cut" if weeks == 0 else f"{weeks} {'week' if weeks == 1 else 'weeks'} after the cut"
    return "now", after


def _colour(of: tuple[float, float, float]) -> tuple[int, int, int]:
    red, green, blue = (round(255 * one) for one in of)
    return red, green, blue
