"""What every stored or exported document shares."""

from __future__ import annotations

from typing import Any

from pydantic import BaseModel, ConfigDict, SerializerFunctionWrapHandler, model_serializer

Number = int | float
"""As it was given: 3 stays 3, so that a document written again is the same document."""


class Document(BaseModel):
    """Written out as it was given: fields left out stay out, fields of other versions are kept. So what is read and
    written again is the same document, and its version (a hash of its content) the same version."""

    model_config = ConfigDict(extra="allow", frozen=True, populate_by_name=True, serialize_by_alias=True)

    @model_serializer(mode="wrap")
    def _as_given(self, write: SerializerFunctionWrapHandler) -> dict[str, Any]:
        named = type(self).model_fields
        given = {named[name].alias or name if name in named else name for name in self.model_fields_set}
        written: dict[str, Any] = write(self)
        return {key: value for key, value in written.items() if key in given}

    def to_json(self) -> dict[str, Any]:
        return self.model_dump(mode="json")


def plain(value: Any) -> Any:
    """Documents, and lists and mappings of them, as JSON has them."""
    if isinstance(value, BaseModel):
        return value.model_dump(mode="json")
    if isinstance(value, dict):
        return {key: plain(part) for key, part in value.items()}
    if isinstance(value, (list, tuple)):
        return [plain(part) for part in value]
    return value
