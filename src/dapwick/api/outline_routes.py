"""Routes of the outline stage: what to choose from, each fitted for one dog, drawn, kept."""

from __future__ import annotations

from typing import Any

from fastapi import APIRouter, Response

from dapwick.api import outline_schemas as o
from dapwick.api import outline_shapes
from dapwick.api import schemas as s
from dapwick.api.at_hand import Base, Pictures, Plans, PlansAhead, Responses, Store, tell_version
from dapwick.api.changed import changed_dog
from dapwick.core.outlines.wishes import Wishes
from dapwick.service.after.expecting import keep_outline
from dapwick.service.dogs import about as dogs
from dapwick.service.plans import variants
from dapwick.service.plans.planner import Asked

router = APIRouter()


def _image(kind: str) -> Responses:
    return {200: {"content": {kind: {"schema": {"type": "string", "format": "binary"}}}}}


@router.get("/outlines")
def get_outlines(store: Store) -> list[o.ChoiceOut]:
    """Every outline to choose from: the families, then the salon's own."""
    return [outline_shapes.choice(one) for one in variants.choices(store)]


@router.get("/dogs/{dog_id}/outlines/{family}")
def get_thumb(dog_id: int, family: str, planner: Plans) -> o.ThumbOut:
    """One outline fitted for this dog, with its verdict; asked for one by one, so that each shows as it comes."""
    own = family.removeprefix(variants.OWN)
    made, fitted = planner.thumb(dog_id, family)
    return outline_shapes.thumb(made, fitted, int(own) if own != family else None)


@router.post("/dogs/{dog_id}/outline/preview")
def post_outline_preview(dog_id: int, given: o.PreviewIn, planner: Plans) -> o.OutlineOut:
    """An outline at rest, with all that is told of it."""
    return outline_shapes.outline(planner.plan(dog_id, _asked(given), given.weeks_ahead))


@router.post("/dogs/{dog_id}/outline/ahead", status_code=202)
def post_ahead(dog_id: int, given: o.OutlineIn, ahead: PlansAhead, store: Store) -> None:
    """Marks rest: work this outline out, and every family, so that they are there when they are asked for."""
    dogs.one_dog(store, dog_id)
    ahead.ask(dog_id, _asked(given))


@router.post("/dogs/{dog_id}/outline/moving")
def post_outline_moving(dog_id: int, given: o.OutlineIn, planner: Plans) -> o.MovingOutlineOut:
    """What changes of an outline while a slider is on its way."""
    return outline_shapes.moving(planner.moving(dog_id, _asked(given)))


@router.post("/dogs/{dog_id}/outline/instead")
def post_instead(dog_id: int, given: o.OutlineIn, planner: Plans) -> o.InsteadOut:
    """The outline nearest to one that this coat cannot carry today, which it can."""
    found = planner.instead(dog_id, _asked(given))
    return o.InsteadOut(family=found.id if found else None, name=found.name if found else None)


@router.post("/dogs/{dog_id}/outline/picture", response_class=Response, responses=_image("image/jpeg"))
def post_picture(dog_id: int, given: o.PictureIn, pictures: Pictures) -> Response:
    """The owner's picture: the dog's own photo, as it is or with its coat taken in."""
    drawn = pictures.picture(dog_id, _asked(given), given.view, given.cut, given.weeks_ahead)
    return Response(drawn, media_type="image/jpeg")


@router.post("/dogs/{dog_id}/outline/page", response_class=Response, responses=_image("image/png"))
def post_page(dog_id: int, given: o.PreviewIn, pictures: Pictures) -> Response:
    """Before and after on one page to keep."""
    return Response(pictures.page(dog_id, _asked(given), given.weeks_ahead), media_type="image/png")


@router.post(
    "/dogs/{dog_id}/outline/surface",
    response_class=Response,
    responses=_image("application/octet-stream"),
)
def post_surface(dog_id: int, given: o.SurfaceIn, planner: Plans) -> Response:
    """The finished head's surface (mm, head frame), for other programs."""
    told = planner.surface(dog_id, _asked(given), f".{given.ending}")
    return Response(told, media_type="application/octet-stream")


@router.put("/dogs/{dog_id}/outline")
def put_outline(
    dog_id: int, given: o.OutlineIn, planner: Plans, store: Store, base: Base, response: Response
) -> s.SavedOutlineOut:
    kept, version = keep_outline(store, planner, dog_id, _asked(given), base)
    tell_version(response, version)
    return s.SavedOutlineOut.model_validate(kept)


@router.get("/dogs/{dog_id}/mesh")
def get_mesh(dog_id: int, pictures: Pictures) -> o.MeshOut:
    """What stands still of the head for the turntable."""
    return outline_shapes.mesh(*pictures.solid(dog_id))


@router.put("/dogs/{dog_id}/wishes")
def put_wishes(dog_id: int, given: s.WishesIn, store: Store, base: Base, response: Response) -> s.DogOut:
    """What the owner asked for; every outline is fitted to it."""
    return changed_dog(
        dogs.set_wishes(store, dog_id, Wishes(**given.model_dump(exclude={"words"})), given.words, base),
        "wishes",
        response,
    )


@router.post("/outlines/own", status_code=201)
def post_variant(given: o.VariantIn, store: Store) -> o.ChoiceOut:
    """Keep a setting as the salon's own outline."""
    kept = variants.save_variant(store, given.name, given.family, given.params, given.schools)
    return outline_shapes.choice(kept)


@router.post("/outlines/own/file", status_code=201)
def post_variant_file(given: o.VariantFile, store: Store) -> o.ChoiceOut:
    """Take an outline in from its document."""
    return outline_shapes.choice(variants.keep_variant(store, given.document))


@router.get("/outlines/own/{variant_id}/file")
def get_variant_file(variant_id: int, store: Store) -> dict[str, Any]:
    return variants.variant_document(store, variant_id)


@router.delete("/outlines/own/{variant_id}", status_code=204)
def delete_variant(variant_id: int, store: Store) -> None:
    variants.remove_variant(store, variant_id)


def _asked(given: o.OutlineIn) -> Asked:
    return Asked(given.family, given.params, given.schools)
