"""The cut sheet on paper: one page, everything of the document on it, for the longest sheets too."""

from __future__ import annotations

from itertools import product
from typing import Any

import numpy as np
import pypdfium2
import pytest

from cut_cases import case_of, cut_sheet
from dapwick.core.errors import BadInput
from dapwick.core.outlines.families import FAMILIES
from dapwick.core.plan.cautions import CAUTIONS
from dapwick.exports.cut_sheet import cut_sheet_pdf, inch_words, length_words, letter_of
from dapwick.service.cutsheet import sheet_document

ROUND_HEAD = [[float(60 * np.cos(a)), float(70 * np.sin(a))] for a in np.linspace(0, 6.2, 40)]
HEADS = {view: {"skin": ROUND_HEAD, "coat": ROUND_HEAD, "outline": ROUND_HEAD} for view in ("front", "left")}
HARDEST = ("minds_muzzle", "minds_ears", "flat_face", "mats", "eye_trouble")
EDGE_PX = 8


def document(family: str, minds: tuple[str, ...] = (), dog: str = "Fogbell", **said: Any) -> dict[str, Any]:
    sheet = cut_sheet(case_of(family, minds=minds, **said))
    return sheet_document(sheet, dog, "Blending shears.") | {"heads": HEADS}


def page_of(pdf: bytes) -> pypdfium2.PdfPage:
    opened = pypdfium2.PdfDocument(pdf)
    assert len(opened) == 1
    return opened[0]


def words_on(page: pypdfium2.PdfPage) -> str:
    return " ".join(page.get_textpage().get_text_bounded().split())


@pytest.mark.parametrize(("family", "paper"), list(product(sorted(FAMILIES), ["a4", "letter"])))
def test_paper_and_table_mode_agree(family: str, paper: str) -> None:
    """Every step's title, number, tool and cautions are on the page."""
    sheet = document(family, HARDEST)
    words = words_on(page_of(cut_sheet_pdf(sheet, paper)))
    for step in sheet["steps"]:
        assert step["title"] in words
        assert length_words(step) in words
        assert step["tool"] in words
        for part in step["parts"]:
            assert part["words"] in words
    assert words.count("[may end]") == sum(step["may_end"] for step in sheet["steps"])
    for caution in {c["id"]: c for s in sheet["steps"] for c in s["cautions"]}.values():
        assert words.count(caution["words"].split(",")[0].split(":")[0]) == 1
    assert "Fogbell" in words
    assert "Oriel, right-handed" in words


@pytest.mark.parametrize("paper", ["a4", "letter"])
def test_the_longest_sheet_stays_inside_the_page(paper: str) -> None:
    sheet = document("round", HARDEST, coat="fine_drop")
    assert len(sheet["steps"]) > 50
    ink = page_of(cut_sheet_pdf(sheet, paper)).render(scale=2).to_numpy().min(axis=2) < 200
    below_the_band = ink[int(0.06 * len(ink)) :]
    assert not below_the_band[:, :EDGE_PX].any()
    assert not below_the_band[:, -EDGE_PX:].any()
    assert not below_the_band[-EDGE_PX:].any()
    assert 0.01 < ink.mean() < 0.25


def test_names_in_other_scripts_are_printed() -> None:
    for name in ("Šárka", "Дымка", "Ὀδύσσεια"[:1] + "Ωμέγα"):
        assert name[1:] in words_on(page_of(cut_sheet_pdf(document("close", dog=name))))


def test_numbers_are_told_in_both_units() -> None:
    step = {"leave_mm": [12.7, 25.4]}
    assert (length_words(step), inch_words(step)) == ("13–25", "0.50–1.00 in")
    assert length_words({"leave_mm": [1.5, 1.5]}) == "1.5"
    assert length_words({"leave_mm": None}) == inch_words({"leave_mm": None}) == ""


def test_every_caution_has_a_letter_of_its_own() -> None:
    assert len({letter_of(caution.id) for caution in CAUTIONS}) == len(CAUTIONS)


def test_more_steps_than_a_page_bears_are_refused() -> None:
    sheet = document("round")
    with pytest.raises(BadInput, match="one page"):
        cut_sheet_pdf(sheet | {"steps": sheet["steps"] * 4})
    with pytest.raises(BadInput, match="a4 or letter"):
        cut_sheet_pdf(sheet, "a5")
