"""The owner's picture: this dog's own photo, and the same with its coat taken in to the outline."""

from __future__ import annotations

import io
from functools import partial
from typing import Final

from PIL import Image

from dapwick.core.basics.content_hash import hash_of
from dapwick.core.basics.errors import BadInput
from dapwick.core.outlines.fit import Outline
from dapwick.exports.owner_page import owner_page, planned
from dapwick.pipeline.cut_photo import PictureView, before_and_after, crop_of, cut_photo, photo_from
from dapwick.pipeline.head_colours import colours_of
from dapwick.pipeline.lru_cache import LruCache
from dapwick.pipeline.mesh import Mesh, mesh_of
from dapwick.records import queries
from dapwick.service.concurrency.budget import heavy
from dapwick.service.photos.taking_in import screen_bytes
from dapwick.service.plans.planner import Asked, Planner
from dapwick.service.visits.head import VisitHead
from dapwick.vision.photo import Pixels, read_photo

KEPT, KEPT_SOLIDS = 48, 6
QUALITY: Final = 92


class OwnerPictures:
    """The last few pictures; weeks are turned back and forth over the same ones."""

    def __init__(self, planner: Planner) -> None:
        self._planner = planner
        self._kept: LruCache[bytes] = LruCache(KEPT)
        self._solids: LruCache[Mesh] = LruCache(KEPT_SOLIDS)

    @heavy
    def picture(
        self, dog_id: int, asked: Asked, view: PictureView, cut: bool = True, weeks_ahead: float = 0.0
    ) -> bytes:
        """One picture (JPEG): as the dog came (not cut), or as it will be so many weeks after the cut. Raises BadInput
        where no dry photo shows this view."""
        head, outline = self._planner.drawn(dog_id, asked)
        name = _photo_of(head, view)
        key = [head.key, name, cut, *(_setting(outline, weeks_ahead) if cut else ())]
        return self._kept.get_or_make(
            hash_of(key), lambda: _jpeg(self._drawn(head, outline, weeks_ahead, name, cut))
        )

    @heavy
    def page(self, dog_id: int, asked: Asked, weeks_ahead: float = 0.0) -> bytes:
        """All of it on one page (PNG): before and after, from the front and from the side as far as photos show
        them."""
        made = self._planner.plan(dog_id, asked, weeks_ahead)
        ids = made.head.photo_ids
        photos = {name: partial(self._photo, ids[name]) for name in ids}
        pairs = before_and_after(made.head.model, made.plan.outline, weeks_ahead, photos)
        if not pairs:
            raise _no_photo("the front or the side")
        with self._planner.store.reading() as session:
            dog = queries.dog(session, dog_id).name
        return owner_page(dog, made.plan.verdict.called, pairs, planned(round(weeks_ahead)))

    @heavy
    def solid(self, dog_id: int) -> tuple[str, Mesh]:
        """The head in three dimensions, in the colours of its photos, under the hash of what it rests on."""
        head = self._planner.head(dog_id)

        def made() -> Mesh:
            photos = {name: partial(self._photo, head.photo_ids[name]) for name in head.photo_ids}
            return mesh_of(head.model.ground, colours_of(head.model, photos))

        return head.key, self._solids.get_or_make(head.key, made)

    def _drawn(self, head: VisitHead, outline: Outline, weeks_ahead: float, name: str, cut: bool) -> Pixels:
        rgb = self._photo(head.photo_ids[name])
        if cut:
            return cut_photo(head.model, outline, weeks_ahead, name, rgb)
        return crop_of(head.model, name, rgb.shape).of(rgb)

    def _photo(self, photo_id: int) -> Pixels:
        store = self._planner.store
        with store.reading() as session:
            row = queries.photo(session, photo_id)
            digest, name = row.content_hash, row.file_name
        return read_photo(screen_bytes(store, digest, name), name).rgb


def _setting(outline: Outline, weeks_ahead: float) -> list[object]:
    """What a cut picture rests on beside the head: the lengths hold wishes and settings alike."""
    return [outline.family.id, outline.leave_mm.tobytes().hex(), vars(outline.design.ears), weeks_ahead]


def _photo_of(head: VisitHead, view: PictureView) -> str:
    name = photo_from(head.model, view)
    if name is None:
        raise _no_photo(f"the {view}")
    return name


def _no_photo(view: str) -> BadInput:
    return BadInput(
        f"no dry photo from {view}", expected="one in this visit, with its marks", got="none", where="the picture",
        remedy="Add one in Photos and mark it.",
    )  # fmt: skip


def _jpeg(rgb: Pixels) -> bytes:
    out = io.BytesIO()
    Image.fromarray(rgb).save(out, "JPEG", quality=QUALITY)
    return out.getvalue()
