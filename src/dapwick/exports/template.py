"""Outlines at true scale, to be printed or cut out: PDF with a 100 mm check line, and SVG in mm."""

from __future__ import annotations

import io
import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Final
from xml.sax.saxutils import escape, quoteattr

from reportlab.pdfgen.canvas import Canvas

from dapwick.exports.paper import (
    CHECK_MM,
    INK,
    OCHRE,
    QUIET,
    VIOLET,
    Points,
    check_line,
    draw_line,
    faces,
    mm,
    size_of,
)

EDGE_MM: Final = 8.0
HEAD_MM: Final = 26.0
"""Room above the outline for words and the check line."""
OVERLAP_MM: Final = 10.0
AROUND_MM: Final = 4.0
LINES: Final = (("coat", OCHRE, 0.5, (2, 2)), ("skin", VIOLET, 0.4, (1, 2)), ("outline", INK, 1.2, ()))
SVG_STYLE: Final = {
    "coat": 'stroke="#c78c26" stroke-width="0.3" stroke-dasharray="2 1"',
    "skin": 'stroke="#75688f" stroke-width="0.3" stroke-dasharray="0.6 0.8"',
    "outline": 'stroke="#17352f" stroke-width="0.6"',
}

Mark = tuple[str, tuple[float, float]]


@dataclass(frozen=True)
class Template:
    """One view at true scale: closed lines by name (skin, coat, outline), mm, x right and y down; marks to lay
    it on the dog by."""

    dog: str
    outline: str
    view: str
    lines: Mapping[str, Points]
    marks: Sequence[Mark]

    @property
    def words(self) -> str:
        return f"{self.dog}: {self.outline}, {'front' if self.view == 'front' else 'left side'}"

    @property
    def box(self) -> tuple[float, float, float, float]:
        """Left, right, top and bottom (mm) of what must be whole; the coat as it is may run off the page."""
        points = [p for name in ("outline", "skin") for p in self.lines.get(name, ())] + [
            at for _, at in self.marks
        ]
        xs, ys = [p[0] for p in points], [p[1] for p in points]
        return min(xs) - AROUND_MM, max(xs) + AROUND_MM, min(ys) - AROUND_MM, max(ys) + AROUND_MM


def template_pdf(templates: Sequence[Template], paper: str = "a4") -> bytes:
    """Every view at true scale, upright or across as it fits; one larger than the page runs over several, which
    overlap by 10 mm between crosses."""
    size = size_of(paper)
    out = io.BytesIO()
    page = Canvas(out, pagesize=size, pageCompression=1, invariant=1)
    page.setTitle(", ".join(t.words for t in templates))
    page.setViewerPreference("PrintScaling", "None")
    faces()
    for template in templates:
        _pages(page, template, size)
    page.save()
    return out.getvalue()


def _pages(page: Canvas, template: Template, paper: tuple[float, float]) -> None:
    left, right, top, bottom = template.box
    width, height = min(
        (paper, paper[::-1]), key=lambda size: (math.prod(_tiles(template, size)), size[0] > size[1])
    )
    across, down = _tiles(template, (width, height))
    room_x, room_y = width / mm - 2 * EDGE_MM, height / mm - 2 * EDGE_MM - HEAD_MM
    for row in range(down):
        for column in range(across):
            page.setPageSize((width, height))
            corner = (left + column * (room_x - OVERLAP_MM), top + row * (room_y - OVERLAP_MM))
            if across == down == 1:
                corner = (left - (room_x - (right - left)) / 2, top - (room_y - (bottom - top)) / 2)
            part = "" if across * down == 1 else f", part {row * across + column + 1} of {across * down}"
            _page(page, template, (width, height), corner, part)
            page.showPage()


def _tiles(template: Template, size: tuple[float, float]) -> tuple[int, int]:
    """How many pages of a size it takes across and down."""
    left, right, top, bottom = template.box
    room_x, room_y = size[0] / mm - 2 * EDGE_MM, size[1] / mm - 2 * EDGE_MM - HEAD_MM
    return _count(right - left, room_x), _count(bottom - top, room_y)


def _count(length_mm: float, room_mm: float) -> int:
    return 1 if length_mm <= room_mm else 1 + math.ceil((length_mm - room_mm) / (room_mm - OVERLAP_MM))


def _page(
    page: Canvas, template: Template, size: tuple[float, float], corner: tuple[float, float], part: str
) -> None:
    plain, bold = faces()
    width, height = size
    page.setFillColorRGB(*INK)
    page.setStrokeColorRGB(*INK)
    page.setFont(bold, 13)
    page.drawString(EDGE_MM * mm, height - (EDGE_MM + 5) * mm, f"{template.words}{part}")
    page.setFont(plain, 8)
    page.drawString(
        EDGE_MM * mm, height - (EDGE_MM + 10) * mm,
        "Print at 100 %. Firm line: the outline; dashes: coat as it is; dots: skin. The line must measure 100 mm.",
    )  # fmt: skip
    check_line(page, width / mm - EDGE_MM - CHECK_MM - 2, height / mm - EDGE_MM - 20, plain)
    page.saveState()
    foot, reach = EDGE_MM * mm, height - (EDGE_MM + HEAD_MM) * mm
    clip = page.beginPath()
    clip.rect(EDGE_MM * mm, foot, width - 2 * EDGE_MM * mm, reach - foot)
    page.clipPath(clip, stroke=0)

    def at(point: Sequence[float]) -> tuple[float, float]:
        return EDGE_MM * mm + (point[0] - corner[0]) * mm, reach - (point[1] - corner[1]) * mm

    for name, color, wide, dash in LINES:
        page.setStrokeColorRGB(*color)
        page.setLineWidth(wide)
        page.setDash(*dash) if dash else page.setDash()
        draw_line(page, [at(p) for p in template.lines.get(name, ())], closed=True)
    page.setDash()
    _marks(page, template, at, plain)
    page.restoreState()
    if part:
        _crosses(page, size)


def _marks(page: Canvas, template: Template, at: object, face: str) -> None:
    assert callable(at)
    page.setStrokeColorRGB(*QUIET)
    page.setFillColorRGB(*QUIET)
    page.setLineWidth(0.5)
    page.setFont(face, 6.5)
    for words, point in template.marks:
        x, y = at(point)
        page.line(x - 1.5 * mm, y, x + 1.5 * mm, y)
        page.line(x, y - 1.5 * mm, x, y + 1.5 * mm)
        page.drawString(x + 1.8 * mm, y + 0.8 * mm, words)


def _crosses(page: Canvas, size: tuple[float, float]) -> None:
    """Where the next page is laid on: the middle of the overlap at every corner."""
    page.setStrokeColorRGB(*QUIET)
    inset = EDGE_MM + OVERLAP_MM / 2
    for x in (inset * mm, size[0] - inset * mm):
        for y in (inset * mm, size[1] - (inset + HEAD_MM) * mm):
            page.line(x - 3 * mm, y, x + 3 * mm, y)
            page.line(x, y - 3 * mm, x, y + 3 * mm)


def template_svg(template: Template) -> str:
    """One view as SVG in mm: lines by id, marks as crosses, a check line of 100 mm."""
    left, right, top, bottom = template.box
    right = max(right, left + CHECK_MM + 2 * AROUND_MM)
    wide, tall = right - left, bottom - top + 14
    drawn = [
        f'<path id="{name}" fill="none" {SVG_STYLE[name]} d="{_d(template.lines[name])}"/>'
        for name in ("coat", "skin", "outline")
        if len(template.lines.get(name, ())) > 1
    ]
    for words, (x, y) in template.marks:
        drawn.append(
            f'<path fill="none" stroke="#566b64" stroke-width="0.3" '
            f'd="M{x - 1.5:.2f},{y:.2f}h3M{x:.2f},{y - 1.5:.2f}v3"><title>{escape(words)}</title></path>'
        )
    y = bottom + 8
    drawn.append(
        f'<path id="check-100-mm" fill="none" stroke="#17352f" stroke-width="0.3" '
        f'd="M{left + AROUND_MM:.2f},{y:.2f}h{CHECK_MM:g}"/>'
    )
    head = (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{wide:.2f}mm" height="{tall:.2f}mm" '
        f'viewBox="{left:.2f} {top:.2f} {wide:.2f} {tall:.2f}" aria-label={quoteattr(template.words)}>'
    )
    return "\n".join([head, f"<title>{escape(template.words)}</title>", *drawn, "</svg>", ""])


def _d(points: Points) -> str:
    return "M" + "L".join(f"{x:.2f},{y:.2f}" for x, y in points) + "Z"
