"""The camera's live guide, within the budget for heavy work."""

from __future__ import annotations

from dapwick.core.basics.errors import BadInput
from dapwick.core.basics.marks import VIEWS
from dapwick.pipeline.camera_guide import Guidance, guidance
from dapwick.service.concurrency.budget import heavy
from dapwick.vision.photo import read_photo


@heavy
def guide_frame(data: bytes, view: str) -> Guidance:
    """The guide for one frame (an image file) while the camera is pointed for a view."""
    named = next((one for one in VIEWS if one == view), None)
    if named is None:
        raise BadInput("unknown view", expected=", ".join(VIEWS), got=view, where="camera")
    return guidance(read_photo(data, "frame").rgb, named)
