"""The cut sheet on paper: what table mode shows step by step, to be clipped to the table.

Takes the sheet's document (docs/formats.md); everything it prints is in it. It is read at the
table, so nothing is printed small: a long sheet takes another page.
"""

from __future__ import annotations

import io
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Any, Final

from reportlab.pdfbase import pdfmetrics
from reportlab.pdfgen.canvas import Canvas

from dapwick.core.cut.cautions import CAUTIONS
from dapwick.exports.paper import (
    CORAL,
    INK,
    OCHRE,
    QUIET,
    TAPE,
    draw_line,
    faces,
    fitted_pt,
    mm,
    size_of,
    wrapped,
)

EDGE_MM: Final = 9.0
GAP_MM: Final = 6.0
HEAD_MM: Final = 42.0
NUMBER_MM: Final = 7.0
LENGTH_MM: Final = 19.0
TEXT_PT: Final = 9.0
"""The smallest print: what is read at arm's length with one hand on the dog."""
TITLE_PT: Final = 9.6
LENGTH_PT: Final = 13.0
LINE_MM: Final = 3.9
ROW_AIR_MM: Final = 1.6
CHAPTER_MM: Final = 7.0
INCH_MM: Final = 25.4
NOTE_LINES: Final = 2
NOTE_MM: Final = 7.0
MAY_END: Final = " [may end]"
Step = Mapping[str, Any]
Sheet = Mapping[str, Any]


def cut_sheet_pdf(sheet: Sheet, paper: str = "a4") -> bytes:
    """As many pages as it takes. sheet: the document of a cut sheet with its drawings."""
    width, height = size_of(paper)
    out = io.BytesIO()
    canvas = Canvas(out, pagesize=(width, height), pageCompression=1, invariant=1)
    canvas.setTitle(f"Cut sheet: {sheet['dog']}, {sheet['outline']}")
    faces()
    page = _Page(canvas, width, height, sheet)
    page.begin(_heading(canvas, sheet, width, height - EDGE_MM * mm))
    for row in _rows(sheet["steps"]):
        page.put(row)
    page.finish(sheet)
    canvas.save()
    return out.getvalue()


def length_words(step: Step) -> str:
    """A step's number as it is cut: one length, or the span of several; mm."""
    if step["leave_mm"] is None:
        return ""
    low, high = step["leave_mm"]
    return mm_words(low) if high - low < 1.0 else f"{low:.0f}–{high:.0f}"


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


def runs_words(step: Step) -> list[str]:
    """How the length runs over each place of a step, and each place's own number where they differ."""
    return [f"{part['words'].capitalize()}: {_part_words(part)}" for part in step["parts"]]


def _part_words(part: Mapping[str, Any]) -> str:
    if part.get("run"):
        return str(part["run"])
    return "close" if part["leave_mm"] is None else f"{mm_words(part['leave_mm'])} mm"


def comb_words(step: Step) -> list[str]:
    """What is combed and read before a step."""
    return [
        f"Comb first: {one['words']}, {one['asks_mm']:.0f} mm asked, {one['sure_mm']:.0f} surely there."
        for one in step.get("comb_first", [])
    ]


@dataclass
class _Page:
    """Two columns, read down, page after page. top: where its columns begin, y: where the next row does."""

    canvas: Canvas
    width: float
    height: float
    sheet: Sheet
    column: int = 0
    top: float = 0.0
    y: float = 0.0

    @property
    def wide(self) -> float:
        return (self.width - (2 * EDGE_MM + GAP_MM) * mm) / 2

    @property
    def x(self) -> float:
        return EDGE_MM * mm + self.column * (self.wide + GAP_MM * mm)

    def begin(self, top: float) -> None:
        self.column, self.top, self.y = 0, top, top

    def put(self, row: Step | str) -> None:
        """A chapter's name keeps with the row after it."""
        if isinstance(row, str):
            self._room(CHAPTER_MM * mm + 3 * LINE_MM * mm)
            _chapter(self.canvas, row, self.x, self.y, self.wide)
            self.y -= CHAPTER_MM * mm
            return
        lines = _lines(row, self.wide)
        tall = (len(lines) * LINE_MM + ROW_AIR_MM) * mm
        self._room(tall)
        _step(self.canvas, row, lines, self.x, self.y, self.wide)
        self.y -= tall

    def _room(self, tall: float) -> None:
        """The next column, or page, where this one is full."""
        if self.y - tall >= EDGE_MM * mm:
            return
        if self.column == 0:
            self.column, self.y = 1, self.top
            return
        self._turn()

    def _turn(self) -> None:
        self.canvas.showPage()
        _, bold = faces()
        at = self.height - (EDGE_MM + 3) * mm
        self.canvas.setFillColorRGB(*INK)
        self.canvas.setFont(bold, TEXT_PT)
        self.canvas.drawString(EDGE_MM * mm, at, f"{self.sheet['dog']}: {self.sheet['outline']}, on")
        self.begin(at - 5 * mm)

    def finish(self, sheet: Sheet) -> None:
        """Cautions and room for notes at the foot of the last page."""
        blocks = _cautions(sheet, self.wide)
        columns = 2 - self.column
        if self.y - _footing_tall(blocks, columns) < EDGE_MM * mm:
            self._turn()
            columns = 2
        _footing(self.canvas, self.x, self.wide, self.y, _parted(blocks, columns))
        self.canvas.showPage()


def _heading(page: Canvas, sheet: Sheet, width: float, top: float) -> float:
    """Title, before its time, what to lay out and leave alone, small heads; returns where steps begin."""
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
    page.setFont(plain, TEXT_PT)
    page.drawRightString(width - left, top + 2 * mm, f"{hand} · about {sheet['minutes']:.0f} min")
    beside, y = room - heads - GAP_MM * mm, top - 6.5 * mm
    for said in filter(None, (sheet.get("before_time"), sheet.get("rests_on"))):
        page.setFillColorRGB(*CORAL)
        page.setFont(bold, 11)
        for line in wrapped(said, bold, 11, beside):
            page.drawString(left, y, line)
            y -= 4.8 * mm
    for label, words in (
        ("Lay out", ", ".join(sheet["tools"])),
        ("Leave alone", "; ".join(sheet["left_alone"]) or "nothing"),
        ("Finish", sheet["finish"]),
    ):
        y = _labelled(page, label, words, left, y, beside)
    return min(y, top - HEAD_MM * mm) - 1 * mm


def _labelled(page: Canvas, label: str, words: str, x: float, y: float, width: float) -> float:
    """A label and its words, wrapped; returns where the next one begins."""
    plain, bold = faces()
    page.setFillColorRGB(*INK)
    page.setFont(bold, TEXT_PT)
    page.drawString(x, y, label)
    indent = 22 * mm
    page.setFont(plain, TEXT_PT)
    for line in wrapped(words, plain, TEXT_PT, width - indent) or [""]:
        page.drawString(x + indent, y, line)
        y -= LINE_MM * mm
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


def _rows(steps: Sequence[Step]) -> Iterator[Step | str]:
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
    return iter(rows)


def _chapter(page: Canvas, words: str, x: float, y: float, wide: float) -> None:
    _, bold = faces()
    page.setFillColorRGB(*QUIET)
    page.setFont(bold, TEXT_PT)
    page.drawString(x, y - 5 * mm, words)
    page.setStrokeColorRGB(*QUIET)
    page.setLineWidth(0.5)
    page.line(x, y - 6.2 * mm, x + wide, y - 6.2 * mm)


def _lines(step: Step, wide: float) -> list[tuple[str, str]]:
    """Everything a row says, line by line, each with its face."""
    plain, bold = faces()
    room, narrow = wide - NUMBER_MM * mm, wide - (NUMBER_MM + LENGTH_MM) * mm
    title = f"{step['title']}{MAY_END if step['may_end'] else ''}"
    rest = step.get("then", "") + (MAY_END if step.get("may_end_after") else "")
    found = [(line, bold) for line in wrapped(title, bold, TITLE_PT, narrow)]
    said = [(words, bold) for words in comb_words(step)]
    said += [(words, plain) for words in (_tool_line(step), *runs_words(step), rest)]
    for words, face in said:
        left = words
        while left:
            # Beside the number lines are short; below it they have the whole width.
            first, *others = wrapped(left, face, TEXT_PT, narrow if len(found) < 2 else room)
            found.append((first, face))
            left = " ".join(others)
    return found if len(found) > 1 else [*found, ("", plain)]


def _step(
    page: Canvas, step: Step, lines: Sequence[tuple[str, str]], x: float, y: float, wide: float
) -> None:
    _, bold = faces()
    page.setFillColorRGB(*INK)
    page.setFont(bold, TITLE_PT)
    page.drawRightString(x + (NUMBER_MM - 1.5) * mm, y - LINE_MM * mm, str(step["number"]))
    for i, (words, face) in enumerate(lines):
        page.setFont(face, TITLE_PT if face == bold and i == 0 else TEXT_PT)
        page.drawString(x + NUMBER_MM * mm, y - (i + 1) * LINE_MM * mm, words)
    _number(page, step, x + wide, y)
    page.setStrokeColorRGB(*QUIET)
    page.setLineWidth(0.2)
    under = y - (len(lines) * LINE_MM + 1.2) * mm
    page.line(x, under, x + wide, under)


def _number(page: Canvas, step: Step, right: float, y: float) -> None:
    plain, bold = faces()
    words = length_words(step)
    first, second = y - LINE_MM * mm, y - 2 * LINE_MM * mm
    page.setFillColorRGB(*INK)
    if words:
        page.setFont(plain, TEXT_PT)
        page.drawRightString(right, first, "mm")
        page.drawRightString(right, second, inch_words(step))
        page.setFont(bold, fitted_pt(words, bold, LENGTH_PT, (LENGTH_MM - 6.5) * mm))
        page.drawRightString(right - 6.5 * mm, first, words)
        return
    page.setFont(plain, TEXT_PT)
    page.drawRightString(right, first, "by eye" if step["doing"] == "work" else step["doing"])


def _tool_line(step: Step) -> str:
    """Tool, how it is judged, direction, what the dog minds, and the letters of the cautions told below."""
    letters = "".join(letter_of(caution["id"]) for caution in step["cautions"])
    parts = [step["tool"], step["eye"], step["direction"], *step["minded"]]
    words = " · ".join(part for part in parts if part)
    return f"{words}  [{letters}]" if letters else words


LETTERS: Final = tuple(caution.id for caution in CAUTIONS)


def letter_of(caution: str) -> str:
    """The letter by which a caution is named on paper."""
    return "ABCDEFGHIJKLMNOPQRSTUVWXYZ"[LETTERS.index(caution)]


Blocks = list[tuple[str, list[str]]]


def _cautions(sheet: Sheet, wide: float) -> Blocks:
    """Cautions once, by letter."""
    plain, _ = faces()
    said = {c["id"]: c["words"] for step in sheet["steps"] for c in step["cautions"]}
    return [
        (letter_of(key), wrapped(said[key], plain, TEXT_PT, wide - 6 * mm)) for key in LETTERS if key in said
    ]


def _rows_in(blocks: Blocks) -> int:
    return sum(len(lines) for _, lines in blocks)


def _parted(blocks: Blocks, columns: int) -> list[Blocks]:
    """The same in so many columns, about as long as each other."""
    found: list[Blocks] = [[] for _ in range(columns)]
    each = -(-_rows_in(blocks) // columns) + (columns > 1)
    at = 0
    for block in blocks:
        if at + 1 < columns and _rows_in([*found[at], block]) > each:
            at += 1
        found[at].append(block)
    return found


def _footing_tall(blocks: Blocks, columns: int) -> float:
    rows = max(_rows_in(column) for column in _parted(blocks, columns))
    return (8 + rows * LINE_MM + NOTE_LINES * NOTE_MM) * mm


def _footing(page: Canvas, left: float, wide: float, top: float, columns: Sequence[Blocks]) -> None:
    plain, bold = faces()
    right = left + len(columns) * wide + (len(columns) - 1) * GAP_MM * mm
    top -= 4 * mm
    page.setStrokeColorRGB(*CORAL)
    page.setLineWidth(0.8)
    page.line(left, top, right, top)
    page.setFillColorRGB(*INK)
    lowest = top
    for i, column in enumerate(columns):
        x, y = left + i * (wide + GAP_MM * mm), top - 4 * mm
        for letter, lines in column:
            page.setFont(bold, TEXT_PT)
            page.drawString(x, y, letter)
            page.setFont(plain, TEXT_PT)
            for words in lines:
                page.drawString(x + 6 * mm, y, words)
                y -= LINE_MM * mm
        lowest = min(lowest, y)
    page.setStrokeColorRGB(*QUIET)
    page.setLineWidth(0.3)
    for i in range(NOTE_LINES):
        y = lowest - (i + 1) * NOTE_MM * mm + 2 * mm
        label = "For next time:" if i == 0 else ""
        page.drawString(left, y, label)
        indent = pdfmetrics.stringWidth(label, plain, TEXT_PT) + (2 * mm if label else 0)
        page.line(left + indent, y, right, y)
