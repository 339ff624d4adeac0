"""The printable scale card: true-scale markers, a 100 mm check line, how to hold it."""

from __future__ import annotations

import io
from typing import Final

import cv2
from reportlab.pdfgen.canvas import Canvas

from dapwick.core.solve.scale_card import HEIGHT_MM, MARKER_IDS, MARKER_MM, WIDTH_MM, marker_corners_mm
from dapwick.exports.paper import check_line, mm, size_of

CELLS: Final = 6
LEFT_MM: Final = 25.0
TOP_MM: Final = 60.0
HOW: Final = (
    "Print at 100 % (no fitting to the page). The line below must measure 100 mm: lay a ruler on it.",
    "Cut the card out along its frame and glue it on stiff board, so that it stays flat.",
    "In the photo: flat to the camera, level with the eye the camera sees, beside the head, not before it.",
    "Keep fingers off the squares and the card out of the dog's reach; a helper's hand holds it best.",
)


def scale_card_pdf(paper: str = "a4") -> bytes:
    """One page with the card at true size. paper: a4 or letter."""
    size = size_of(paper)
    out = io.BytesIO()
    page = Canvas(out, pagesize=size, pageCompression=1, invariant=1)
    page.setTitle("Dapwick scale card")
    page.setViewerPreference("PrintScaling", "None")
    top = size[1] / mm - TOP_MM
    _words(page, top + 32)
    _card(page, LEFT_MM, top - HEIGHT_MM)
    check_line(page, LEFT_MM, top - HEIGHT_MM - 28)
    page.showPage()
    page.save()
    return out.getvalue()


def _words(page: Canvas, y_mm: float) -> None:
    page.setFont("Helvetica-Bold", 15)
    page.drawString(LEFT_MM * mm, (y_mm + 8) * mm, "Scale card")
    page.setFont("Helvetica", 9.5)
    for row, line in enumerate(HOW):
        page.drawString(LEFT_MM * mm, (y_mm - 5.5 * row) * mm, line)


def _card(page: Canvas, left_mm: float, foot_mm: float) -> None:
    page.setLineWidth(0.3)
    page.setDash(2, 2)
    page.rect(left_mm * mm, foot_mm * mm, WIDTH_MM * mm, HEIGHT_MM * mm)
    page.setDash()
    words = cv2.aruco.getPredefinedDictionary(cv2.aruco.DICT_4X4_50)
    for marker in MARKER_IDS:
        x, y = marker_corners_mm(marker)[0]
        cells = cv2.aruco.generateImageMarker(words, marker, CELLS)
        # Drawn as one square of paper ink a cell, so that edges stay crisp at any printer's resolution.
        for row in range(CELLS):
            for column in range(CELLS):
                if cells[row, column] == 0:
                    _cell(page, left_mm + x, foot_mm + HEIGHT_MM - y, row, column)


def _cell(page: Canvas, left_mm: float, top_mm: float, row: int, column: int) -> None:
    side = MARKER_MM / CELLS
    x, y = left_mm + column * side, top_mm - (row + 1) * side
    page.rect(x * mm, y * mm, side * mm, side * mm, stroke=0, fill=1)
