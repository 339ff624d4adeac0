"""A photo's review where the first guesses fail: marks placed by hand carry the edge alone."""

from __future__ import annotations

import numpy as np
import pytest

from dapwick.demo.dogs import hand_marks, photo_bytes, photos_of, truth
from dapwick.pipeline import review as reviewing
from dapwick.pipeline.look import look_at
from dapwick.pipeline.review import review_photo
from dapwick.vision.guess import NoGuess
from dapwick.vision.photo import read_photo
from edge_truth import edge_errors_mm


def test_marks_alone_give_an_edge_where_no_head_is_seen(monkeypatch: pytest.MonkeyPatch) -> None:
    photo = photos_of(truth("kelpie-jo"), ["dry-front"])[0]
    rgb = read_photo(photo_bytes(photo["file"]), photo["file"]).rgb
    monkeypatch.setattr(reviewing, "guess_marks", lambda *_: NoGuess("nothing"))
    blind = review_photo(rgb, "a", "front", (1200, 900))
    assert blind.edge is None
    assert [f.code for f in blind.findings] == ["no_dog_found"]
    marks = {m: tuple(v["at"]) for m, v in hand_marks(photo).items()}
    marked = review_photo(rgb, "a", "front", (1200, 900), seeds=marks)
    assert marked.guess is None
    assert "no_dog_found" not in [f.code for f in marked.findings]
    assert marked.edge is not None
    off = edge_errors_mm(marked.edge, photo)
    assert np.median(off) < 1.5
    assert np.percentile(off, 95) < 6.0


def test_a_photo_file_is_looked_at_from_nothing() -> None:
    photo = photos_of(truth("tiller"), ["dry-right"])[0]
    made = look_at(photo_bytes(photo["file"]), photo["file"])
    assert made.place.view == "right"
    assert "view" not in made.place.asks
    assert made.review.edge is not None
    assert made.review.guess is not None
    off = [
        np.hypot(at.x_px - photo["marks_px"][m][0], at.y_px - photo["marks_px"][m][1])
        for m, at in made.review.guess.marks.items()
    ]
    assert np.median(off) < 25
