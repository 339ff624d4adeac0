"""The cut sheet on paper: everything of the document on it, readable at the table, for the longest sheets too."""

from __future__ import annotations

from dataclasses import replace
from itertools import product
from typing import Any

import numpy as np
import pypdfium2
import pypdfium2.raw as raw
import pytest

from cut_cases import case_of, cut_sheet
from dapwick.core.basics.errors import BadInput
from dapwick.core.cut.cautions import CAUTIONS
from dapwick.core.cut.runs import End, Run
from dapwick.core.outlines.families import FAMILIES
from dapwick.exports.cut_sheet import (
    comb_words,
    cut_sheet_pdf,
    inch_words,
    length_words,
    letter_of,
    runs_words,
)
from dapwick.service.cutting.sheet_document import sheet_document

ROUND_HEAD = [[float(60 * np.cos(a)), float(70 * np.sin(a))] for a in np.linspace(0, 6.2, 40)]
HEADS = {view: {"skin": ROUND_HEAD, "coat": ROUND_HEAD, "outline": ROUND_HEAD} for view in ("front", "left")}
HARDEST = ("minds_muzzle", "minds_ears", "flat_face", "mats", "eye_trouble")
EDGE_PX = 8


def document(family: str, minds: tuple[str, ...] = (), dog: str = "Fogbell", **said: Any) -> dict[str, Any]:
    sheet = cut_sheet(case_of(family, minds=minds, **said))
    return sheet_document(sheet, dog, "Blending shears.") | {"heads": HEADS}


def pages_of(pdf: bytes) -> list[pypdfium2.PdfPage]:
    return list(pypdfium2.PdfDocument(pdf))


def words_on(pdf: bytes) -> str:
    return " ".join(" ".join(page.get_textpage().get_text_bounded().split()) for page in pages_of(pdf))


def smallest_pt(pdf: bytes) -> float:
    """Size of the smallest print."""
    texts = [page.get_textpage() for page in pages_of(pdf)]
    return min(
        raw.FPDFText_GetFontSize(text, i)
        for text in texts
        for i in range(text.count_chars())
        if not chr(raw.FPDFText_GetUnicode(text, i)).isspace()
    )


@pytest.mark.parametrize(("family", "paper"), list(product(sorted(FAMILIES), ["a4", "letter"])))
def test_paper_and_table_mode_agree(family: str, paper: str) -> None:
    """Every step's title, number, tool and cautions are on the page."""
    sheet = document(family, HARDEST)
    words = words_on(cut_sheet_pdf(sheet, paper))
    for step in sheet["steps"]:
        assert step["title"] in words
        assert length_words(step) in words
        assert step["tool"] in words
        for said in (*runs_words(step), *comb_words(step)):
            assert said in words
    assert words.count("[may end]") == sum(step["may_end"] for step in sheet["steps"])
    for caution in {c["id"]: c for s in sheet["steps"] for c in s["cautions"]}.values():
        assert words.count(caution["words"].split(",")[0].split(":")[0]) == 1
    assert "Fogbell" in words
    assert "Oriel, right-handed" in words


@pytest.mark.parametrize("paper", ["a4", "letter"])
def test_the_longest_sheet_stays_inside_its_pages(paper: str) -> None:
    sheet = document("round", HARDEST, coat="fine_drop")
    assert len(sheet["steps"]) > 50
    pages = pages_of(cut_sheet_pdf(sheet, paper))
    assert 2 <= len(pages) <= 4
    for i, page in enumerate(pages):
        ink = page.render(scale=2).to_numpy().min(axis=2) < 200
        below_the_band = ink[int(0.06 * len(ink)) if i == 0 else 0 :]
        assert not below_the_band[:, :EDGE_PX].any()
        assert not below_the_band[:, -EDGE_PX:].any()
        assert not below_the_band[-EDGE_PX:].any()
        assert 0.002 < ink.mean() < 0.25


def test_nothing_is_printed_small() -> None:
    assert smallest_pt(cut_sheet_pdf(document("round", HARDEST, coat="fine_drop"))) >= 8.9


def test_a_plan_before_its_time_says_so_on_paper() -> None:
    lacking = {"shortage_mm": 9.0, "wanted_mm": 25.0, "now_mm": 16.0, "now_low": 12.0}
    case = case_of("teddy")
    zones = {
        place: replace(z, **lacking) if place == ("crown", "left") else z for place, z in case.zones.items()
    }
    sheet = sheet_document(cut_sheet(replace(case, zones=zones)), "Fogbell", "Shears.") | {"heads": HEADS}
    words = words_on(cut_sheet_pdf(sheet))
    assert sheet["before_time"] == "Full in 4–6 weeks; today without all of the left crown."
    assert sheet["before_time"] in words
    assert "left crown: 9 mm still to grow, 4–6 weeks; strays only" in words


def test_a_sheet_that_rests_on_guesses_says_so_on_paper() -> None:
    case = case_of("teddy")
    vague = {"seen": False, "now_low": 2.0, "now_high": 60.0}
    zones = {place: replace(z, **vague) if place[0] == "crown" else z for place, z in case.zones.items()}
    sheet = sheet_document(cut_sheet(replace(case, zones=zones)), "Fogbell", "Shears.") | {"heads": HEADS}
    assert "No photo or comb shows the coat at the crown: comb there before you cut." in words_on(
        cut_sheet_pdf(sheet)
    )


def test_how_a_length_runs_is_printed_from_end_to_end() -> None:
    run = Run(End(8.0, "at the ear", (0, 0, 0)), End(24.0, "at the chin", (0, 0, 0)))
    case = case_of("round")
    piece = replace(case.pieces_at(("cheek", "left"))[0], run=run)
    document = sheet_document(cut_sheet(replace(case, pieces={piece.place: (piece,)})), "Fogbell", "Shears.")
    assert "8 at the ear, 24 at the chin" in words_on(cut_sheet_pdf(document | {"heads": HEADS}))
    (step,) = [s for s in document["steps"] if s["id"] == "cheek:left"]
    assert step["leave_mm"] == [8.0, 24.0]


def test_names_in_other_scripts_are_printed() -> None:
    for name in ("Šárka", "Дымка", "Ὀδύσσεια"[:1] + "Ωμέγα"):
        assert name[1:] in words_on(cut_sheet_pdf(document("close", dog=name)))


def test_numbers_are_told_in_both_units() -> None:
    step = {"leave_mm": [12.7, 25.4]}
    assert (length_words(step), inch_words(step)) == ("13–25", "0.50–1.00 in")
    assert length_words({"leave_mm": [1.5, 1.5]}) == "1.5"
    assert length_words({"leave_mm": None}) == inch_words({"leave_mm": None}) == ""


def test_every_caution_has_a_letter_of_its_own() -> None:
    assert len({letter_of(caution.id) for caution in CAUTIONS}) == len(CAUTIONS)


def test_a_paper_that_is_not_there_is_refused() -> None:
    with pytest.raises(BadInput, match="a4 or letter"):
        cut_sheet_pdf(document("round"), "a5")
