"""Routes of the kit and the cut: what is owned, who cuts, the sheet, each step as it was done, paper."""

from __future__ import annotations

from datetime import UTC
from typing import Annotated, Literal

from fastapi import APIRouter, Query, Response

from dapwick.api import cut_schemas as c
from dapwick.api import schemas as s
from dapwick.api.at_hand import Base, Cuts, Plans, Store, tell_version
from dapwick.api.changed import changed_dog
from dapwick.core.cut.handling import AT, TRAITS, Trait
from dapwick.core.head.zones import zone_words
from dapwick.core.outlines.wishes import SAYABLE
from dapwick.exports.paper import Paper
from dapwick.service.after.expecting import end_cut
from dapwick.service.cutting import cut as cutting
from dapwick.service.cutting import printing as papers
from dapwick.service.salon import kit

router = APIRouter()
PDF = "application/pdf"
PaperSize = Annotated[Paper, Query()]


@router.get("/kit")
def get_kit(store: Store, response: Response) -> c.KitIO:
    found = kit.salon_kit(store)
    tell_version(response, kit.kit_version(found))
    return c.KitIO.model_validate(found.to_json())


@router.put("/kit")
def put_kit(given: c.KitIO, store: Store, base: Base, response: Response) -> c.KitIO:
    """Replace kit and stylists; a cut that has begun keeps its own."""
    kept = kit.set_kit(store, given.model_dump(), base)
    tell_version(response, kit.kit_version(kept))
    return c.KitIO.model_validate(kept.to_json())


@router.get("/kit/usual")
def get_usual_kit() -> c.KitIO:
    """The trade's usual kit, to go back to."""
    return c.KitIO.model_validate(kit.usual_kit().to_json())


@router.get("/cut-guide")
def get_cut_guide() -> c.CutGuide:
    return c.CutGuide(
        traits=[_trait(t) for t in TRAITS.values()],
        notes=[c.ChipOut(code=code, words=words) for code, words in cutting.NOTES.items()],
        sayable=[c.ChipOut(code=zone, words=zone_words(zone)) for zone in SAYABLE],
    )


@router.put("/dogs/{dog_id}/traits")
def put_traits(dog_id: int, given: c.TraitsIn, store: Store, base: Base, response: Response) -> s.DogOut:
    """What the dog minds and how it is; it comes back at the next visit."""
    return changed_dog(cutting.set_traits(store, dog_id, given.traits, base), "traits", response)


@router.put("/dogs/{dog_id}/stylist")
def put_stylist(dog_id: int, given: c.StylistIn, store: Store, base: Base, response: Response) -> s.DogOut:
    return changed_dog(cutting.set_stylist(store, dog_id, given.name, base), "stylist", response)


@router.get("/dogs/{dog_id}/cut")
def get_cut(dog_id: int, cuts: Cuts) -> c.CutOut:
    """The cut that has begun, with its log; before that the sheet as it would be."""
    return _cut(cuts.now(dog_id))


@router.post("/dogs/{dog_id}/cut")
def post_cut(dog_id: int, given: c.StartIn, cuts: Cuts) -> c.CutOut:
    """Begin: the sheet stays as it is from now on."""
    return _cut(cuts.start(dog_id, given.again))


@router.put("/dogs/{dog_id}/cut/steps/{step}", status_code=204)
def put_step(dog_id: int, step: str, given: c.EntryIn, cuts: Cuts, base: Base, response: Response) -> None:
    """What was done in a step; sent again it replaces what was said before. If-Match names the cut it was said of."""
    at = given.at.astimezone(UTC).replace(tzinfo=None) if given.at else None
    said = cutting.Entry(
        step, given.state, given.seconds, given.tool, given.length_mm, tuple(given.notes), at
    )
    tell_version(response, cuts.record(dog_id, said, base))


@router.post("/dogs/{dog_id}/cut/end")
def post_end(dog_id: int, given: c.EndIn, cuts: Cuts, store: Store) -> c.CutOut:
    return _cut(end_cut(store, cuts, dog_id, given.stopped_after))


@router.delete("/dogs/{dog_id}/cut/end")
def delete_end(dog_id: int, cuts: Cuts) -> c.CutOut:
    """Go on with a cut that was ended."""
    return _cut(cuts.take_up(dog_id))


@router.get("/dogs/{dog_id}/cut-sheet.pdf", response_class=Response)
def get_sheet_pdf(dog_id: int, cuts: Cuts, paper: PaperSize = "a4") -> Response:
    return Response(papers.sheet_pdf(cuts, dog_id, paper), media_type=PDF)


@router.get("/dogs/{dog_id}/outline.pdf", response_class=Response)
def get_outline_pdf(dog_id: int, plans: Plans, store: Store, paper: PaperSize = "a4") -> Response:
    """The kept outline's front and side at true scale."""
    return Response(papers.template_pdf(store, plans, dog_id, paper), media_type=PDF)


@router.get("/dogs/{dog_id}/outline-{view}.svg", response_class=Response)
def get_outline_svg(dog_id: int, view: Literal["front", "left"], plans: Plans, store: Store) -> Response:
    return Response(papers.template_svg(store, plans, dog_id, view), media_type="image/svg+xml")


def _cut(now: cutting.CutNow) -> c.CutOut:
    return c.CutOut.model_validate(now, from_attributes=True)


def _trait(trait: Trait) -> c.TraitOut:
    places = [c.ChipOut(code=f"{trait.code}{AT}{zone}", words=zone_words(zone)) for zone in trait.places]
    return c.TraitOut(code=trait.code, words=trait.words, about=trait.about, places=places)
