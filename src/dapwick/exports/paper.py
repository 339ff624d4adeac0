"""Paper: sizes, the face the screens use, a line that must measure 100 mm, text that fits its place."""

from __future__ import annotations

from collections.abc import Sequence
from functools import cache
from pathlib import Path
from typing import Final, Literal

from reportlab.lib import units
from reportlab.lib.pagesizes import A4, LETTER
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont
from reportlab.pdfgen.canvas import Canvas

from dapwick.core.basics.errors import BadInput

Paper = Literal["a4", "letter"]
mm: Final = float(units.mm)
"""Points a millimetre."""
PAPERS: Final[dict[str, tuple[float, float]]] = {"a4": A4, "letter": LETTER}
FONTS: Final = Path(__file__).parent / "fonts"
PLAIN, BOLD = "Commissioner", "Commissioner-Bold"
INK: Final = (0.09, 0.21, 0.18)
QUIET: Final = (0.34, 0.42, 0.39)
OCHRE: Final = (0.78, 0.55, 0.15)
CORAL: Final = (0.85, 0.28, 0.17)
VIOLET: Final = (0.46, 0.41, 0.56)
TAPE: Final = (0.95, 0.76, 0.2)
CHECK_MM: Final = 100.0
TICK_MM: Final = 4.0
SMALLEST_PT: Final = 4.6
Points = Sequence[Sequence[float]]


def size_of(paper: str) -> tuple[float, float]:
    """Width and height in points."""
    if paper not in PAPERS:
        raise BadInput("paper", expected=" or ".join(PAPERS), got=paper)
    return PAPERS[paper]


@cache
def faces() -> tuple[str, str]:
    """The screens' own face, plain and bold, ready to draw with."""
    pdfmetrics.registerFont(TTFont(PLAIN, FONTS / "Commissioner-Regular.ttf"))
    pdfmetrics.registerFont(TTFont(BOLD, FONTS / "Commissioner-Bold.ttf"))
    return PLAIN, BOLD


def fitted_pt(text: str, face: str, wanted_pt: float, width_pt: float) -> float:
    """The size at which a line fits its width, no larger than wanted."""
    wide = pdfmetrics.stringWidth(text, face, wanted_pt)
    return wanted_pt if wide <= width_pt else max(wanted_pt * width_pt / wide, SMALLEST_PT)


def wrapped(text: str, face: str, size_pt: float, width_pt: float) -> list[str]:
    """Lines of whole words no wider than width_pt."""
    lines: list[str] = []
    for word in text.split():
        longer = f"{lines[-1]} {word}" if lines else word
        if lines and pdfmetrics.stringWidth(longer, face, size_pt) <= width_pt:
            lines[-1] = longer
        else:
            lines.append(word)
    return lines


def check_line(page: Canvas, left_mm: float, y_mm: float, face: str = "Helvetica") -> None:
    """A line that must measure 100 mm on the print, with its centimetres."""
    page.setLineWidth(0.5)
    page.line(left_mm * mm, y_mm * mm, (left_mm + CHECK_MM) * mm, y_mm * mm)
    for at in range(0, int(CHECK_MM) + 1, 10):
        tick = TICK_MM if at in (0, int(CHECK_MM)) else TICK_MM / 2
        page.line((left_mm + at) * mm, (y_mm - tick) * mm, (left_mm + at) * mm, (y_mm + tick) * mm)
    page.setFont(face, 9)
    page.drawString(left_mm * mm, (y_mm + 6) * mm, "check line: 100 mm")


def draw_line(page: Canvas, points: Points, closed: bool = False, fill: bool = False) -> None:
    """A line through points in the page's own units."""
    if len(points) < 2:
        return
    path = page.beginPath()
    path.moveTo(*points[0])
    for x, y in points[1:]:
        path.lineTo(x, y)
    if closed:
        path.close()
    page.drawPath(path, stroke=0 if fill else 1, fill=1 if fill else 0)
