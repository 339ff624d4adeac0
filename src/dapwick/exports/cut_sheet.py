"""The cut sheet on one page: what table mode shows step by step, to be clipped to the table.

Takes the sheet's document (service/cutsheet.py, docs/formats.md); everything it prints is in it.
"""

from __future__ import annotations

import io
from collections.abc import Mapping, Sequence
from typing import Any, Final

from reportlab.lib.units import mm
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfgen.canvas import Canvas

from dapwick.core.errors import BadInput
from dapwick.core.plan.cautions import CAUTIONS
from dapwick.exports.paper import (
    CORAL,
    INK,
    OCHRE,
    QUIET,
    SMALLEST_PT,
    TAPE,
    draw_line,
    faces,
    fitted_pt,
    size_of,
    wrapped,
)

EDGE_MM: Final = 9.0
GAP_MM: Final = 5.0
HEAD_MM: Final = 40.0
TALLEST_ROW_MM: Final = 8.4
LEAST_ROW_MM: Final = 4.0
NUMBER_MM: Final = 6.5
LENGTH_MM: Final = 15.0
INCH_MM: Final = 25.4
SIDE_WORDS: Final = {"left": "L", "right": "R", None: ""}
NOTE_LINES: Final = 2
MAY_END: Final = " [may end]"
Step = Mapping[str, Any]
Sheet = Mapping[str, Any]


def cut_sheet_pdf(sheet: Sheet, paper: str = "a4") -> bytes:
    """One page. sheet: the document of a cut sheet with its drawings."""
    width, height = size_of(paper)
    out = io.BytesIO()
    page = Canvas(out, pagesize=(width, height), pageCompression=1, invariant=1)
    page.setTitle(f"Cut sheet: {sheet['dog']}, {sheet['outline']}")
    faces()
    top = height - EDGE_MM * mm
    _heading(page, sheet, width, top)
    foot = _footing(page, sheet, width)
    _steps(page, sheet["steps"], width, top - HEAD_MM * mm, foot)
    page.showPage()
    page.save()
    return out.getvalue()


def length_words(step: Step) -> str:
    """A step's number as it is cut: one length, or the span of several; mm."""
    if step["leave_mm"] is None:
        return ""
    low, high = step["leave_mm"]
    return mm_words(low) if high - low < 1.0 else f"{mm_words(low)}–{mm_words(high)}"


def mm_words(length_mm: float) -> str:
    """Short blades to a tenth or finer, hair to the millimetre."""
    places = 2 if length_mm < 1 else 1 if length_mm < 5 else 0
    words = f"{length_mm:.{places}f}"
    return words.rstrip("0").rstrip(".") if places else words


def inch_words(step: Step) -> str:
    if step["leave_mm"] is None:
        return ""
    low, high = (f"{one / INCH_MM:.2f}" for one in step["leave_mm"])
    return f"{low} in" if low == high else f"{low}–{high} in"


def _heading(page: Canvas, sheet: Sheet, width: float, top: float) -> None:
    plain, bold = faces()
    page.setFillColorRGB(*TAPE)
    page.rect(0, top - 1 * mm, width, 12 * mm, stroke=0, fill=1)
    page.setFillColorRGB(*INK)
    heads = _heads(page, sheet, width, top - 3 * mm)
    left, room = EDGE_MM * mm, width - 2 * EDGE_MM * mm
    title = f"{sheet['dog']}: {sheet['outline']}"
    page.setFont(bold, fitted_pt(title, bold, 17, room * 0.6))
    page.drawString(left, top + 1.5 * mm, title)
    hand = f"{sheet['stylist']['name']}, {sheet['stylist']['hand']}-handed"
    page.setFont(plain, 9)
    page.drawRightString(width - left, top + 2 * mm, f"{hand} · about {sheet['minutes']:.0f} min")
    beside = room - heads - GAP_MM * mm
    y = top - 6.5 * mm
    for label, words in (
        ("Lay out", ", ".join(sheet["tools"])),
        ("Leave alone", "; ".join(sheet["left_alone"]) or "nothing"),
        ("Finish", sheet["finish"]),
    ):
        y = _labelled(page, label, words, left, y, beside)


def _labelled(page: Canvas, label: str, words: str, x: float, y: float, width: float) -> float:
    """A label and its words, wrapped; returns where the next one begins."""
    plain, bold = faces()
    page.setFillColorRGB(*INK)
    page.setFont(bold, 7.5)
    page.drawString(x, y, label)
    indent = 19 * mm
    page.setFont(plain, 7.5)
    for line in wrapped(words, plain, 7.5, width - indent) or [""]:
        page.drawString(x + indent, y, line)
        y -= 3.2 * mm
    return y - 1.2 * mm


def _heads(page: Canvas, sheet: Sheet, width: float, top: float) -> float:
    """Front and side with coat and outline at one scale, at the right; returns the width they take."""
    drawn = [sheet["heads"][view] for view in ("front", "left", "right") if view in sheet["heads"]][:2]
    if not drawn:
        return 0.0
    boxes = [_box(head["coat"] or head["outline"]) for head in drawn]
    scale = min((HEAD_MM - 5) * mm / max(high - low for _, _, low, high in boxes), 0.24 * mm)
    taken = 0.0
    for head, (x0, x1, y0, _) in zip(reversed(drawn), reversed(boxes), strict=True):
        left = width - EDGE_MM * mm - taken - (x1 - x0) * scale
        for name, color, wide in (("coat", OCHRE, 0.7), ("outline", INK, 1.3)):
            page.setStrokeColorRGB(*color)
            page.setLineWidth(wide)
            draw_line(
                page, [(left + (x - x0) * scale, top - (y - y0) * scale) for x, y in head[name]], closed=True
            )
        taken += (x1 - x0) * scale + GAP_MM * mm
    return taken


def _box(points: Sequence[Sequence[float]]) -> tuple[float, float, float, float]:
    xs, ys = [p[0] for p in points], [p[1] for p in points]
    return min(xs), max(xs), min(ys), max(ys)


def _steps(page: Canvas, steps: Sequence[Step], width: float, top: float, foot: float) -> None:
    """Two columns, read down; a row shrinks with their number."""
    rows = _rows(steps)
    per_column = -(-len(rows) // 2)
    tall = min((top - foot) / per_column, TALLEST_ROW_MM * mm)
    if tall < LEAST_ROW_MM * mm:
        raise BadInput(
            "too many steps for one page", expected="fewer steps", got=str(len(steps)), where="cut sheet"
        )
    wide = (width - (2 * EDGE_MM + GAP_MM) * mm) / 2
    for i, row in enumerate(rows):
        x = EDGE_MM * mm + (i // per_column) * (wide + GAP_MM * mm)
        y = top - (i % per_column + 1) * tall
        if isinstance(row, str):
            _chapter(page, row, x, y, wide, tall)
        else:
            _step(page, row, x, y, wide, tall)


def _rows(steps: Sequence[Step]) -> list[Step | str]:
    """Steps with each chapter's name before its first; steps put between another chapter's carry theirs. A break is
    told with the step before it."""
    rows: list[Step | str] = []
    named: set[str] = set()
    for step in steps:
        if step["doing"] == "rest" and rows and not isinstance(rows[-1], str):
            rows[-1] = {
                **rows[-1],
                "then": f"then {step['number']}: {step['title']}",
                "may_end_after": step["may_end"],
            }
            continue
        if step["chapter"] not in named:
            named.add(step["chapter"])
            rows.append(step["chapter"])
        rows.append(step)
    return rows


def _chapter(page: Canvas, words: str, x: float, y: float, wide: float, tall: float) -> None:
    _, bold = faces()
    page.setFillColorRGB(*QUIET)
    page.setFont(bold, min(7.5, tall * 0.5))
    page.drawString(x, y + tall * 0.22, words)
    page.setStrokeColorRGB(*QUIET)
    page.setLineWidth(0.4)
    page.line(x, y, x + wide, y)


def _step(page: Canvas, step: Step, x: float, y: float, wide: float, tall: float) -> None:
    plain, bold = faces()
    upper, lower = y + tall * 0.56, y + tall * 0.14
    size, small = min(7.6, tall * 0.40), min(6.2, tall * 0.33)
    page.setFillColorRGB(*INK)
    page.setFont(bold, size)
    page.drawRightString(x + (NUMBER_MM - 1.5) * mm, upper, str(step["number"]))
    room = wide - (NUMBER_MM + LENGTH_MM) * mm
    left = x + NUMBER_MM * mm
    title = f"{step['title']}{MAY_END if step['may_end'] else ''}"
    rest = step.get("then", "") + (MAY_END if step.get("may_end_after") else "")
    size = fitted_pt(f"{title}   {rest}", bold, size, room)
    page.setFont(bold, size)
    page.drawString(left, upper, title)
    if rest:
        page.setFont(plain, size)
        page.drawString(left + pdfmetrics.stringWidth(f"{title}   ", bold, size), upper, rest)
    _number(page, step, x + wide, y, tall)
    page.setFillColorRGB(*QUIET)
    words = _second_line(step)
    page.setFont(plain, fitted_pt(words, plain, small, room))
    page.drawString(left, lower, words)
    page.setStrokeColorRGB(*QUIET)
    page.setLineWidth(0.15)
    page.line(x, y, x + wide, y)


def _number(page: Canvas, step: Step, right: float, y: float, tall: float) -> None:
    plain, bold = faces()
    words = length_words(step)
    if words:
        page.setFont(bold, fitted_pt(words, bold, tall * 0.56, (LENGTH_MM - 5) * mm))
        page.drawRightString(right - 5 * mm, y + tall * 0.42, words)
        page.setFont(plain, min(5.5, tall * 0.3))
        page.drawString(right - 4.5 * mm, y + tall * 0.42, "mm")
        page.drawRightString(right, y + tall * 0.1, inch_words(step))
        return
    page.setFillColorRGB(*QUIET)
    page.setFont(plain, min(5.8, tall * 0.32))
    page.drawRightString(right, y + tall * 0.5, "by eye" if step["doing"] == "work" else step["doing"])


def _second_line(step: Step) -> str:
    """Tool, how it is judged, direction, what the dog minds, and the letters of the cautions told below."""
    letters = "".join(letter_of(caution["id"]) for caution in step["cautions"])
    parts = [
        step["tool"],
        _parts(step) or step["eye"],
        step["direction"],
        *step["minded"],
    ]
    words = " · ".join(part for part in parts if part)
    return f"{words}  [{letters}]" if letters else words


def _parts(step: Step) -> str:
    """Each place's own number, where a step's places are cut to different lengths."""
    return ", ".join(
        f"{part['words']} {'close' if part['leave_mm'] is None else mm_words(part['leave_mm'])}"
        for part in step["parts"]
    )


LETTERS: Final = tuple(caution.id for caution in CAUTIONS)


def letter_of(caution: str) -> str:
    """The letter by which a caution is named on paper."""
    return "ABCDEFGHIJKLMNOPQRSTUVWXYZ"[LETTERS.index(caution)]


def _footing(page: Canvas, sheet: Sheet, width: float) -> float:
    """Cautions once, room for notes; returns how high it reaches."""
    plain, bold = faces()
    told = {c["id"]: c["words"] for step in sheet["steps"] for c in step["cautions"]}
    ordered = [(letter_of(key), told[key]) for key in LETTERS if key in told]
    wide = (width - (2 * EDGE_MM + GAP_MM) * mm) / 2
    size, line = 5.6, 2.35 * mm
    blocks = [(letter, wrapped(words, plain, size, wide - 4 * mm)) for letter, words in ordered]
    half = -(-sum(len(lines) for _, lines in blocks) // 2)
    columns: list[list[tuple[str, list[str]]]] = [[], []]
    for block in blocks:
        first = sum(len(lines) for _, lines in columns[0]) + len(block[1]) <= half + 1
        columns[0 if first and not columns[1] else 1].append(block)
    rows = max(sum(len(lines) for _, lines in column) for column in columns)
    notes = (NOTE_LINES * 6.5 + 1) * mm
    top = EDGE_MM * mm + notes + rows * line
    page.setStrokeColorRGB(*CORAL)
    page.setLineWidth(0.8)
    page.line(EDGE_MM * mm, top + 3.2 * mm, width - EDGE_MM * mm, top + 3.2 * mm)
    page.setFillColorRGB(*INK)
    for i, column in enumerate(columns):
        x, y = EDGE_MM * mm + i * (wide + GAP_MM * mm), top
        for letter, lines in column:
            page.setFont(bold, size)
            page.drawString(x, y, letter)
            page.setFont(plain, size)
            for words in lines:
                page.drawString(x + 4 * mm, y, words)
                y -= line
    _notes(page, width)
    return top + 5.5 * mm


def _notes(page: Canvas, width: float) -> None:
    plain, _ = faces()
    page.setFont(plain, max(6.5, SMALLEST_PT))
    page.setStrokeColorRGB(*QUIET)
    page.setLineWidth(0.3)
    page.drawString(EDGE_MM * mm, (EDGE_MM + (NOTE_LINES - 1) * 6.5 + 1) * mm, "For next time:")
    for i in range(NOTE_LINES):
        y = (EDGE_MM + i * 6.5) * mm
        page.line((EDGE_MM + (20 if i == NOTE_LINES - 1 else 0)) * mm, y, width - EDGE_MM * mm, y)
