"""Columns typed by their documents: stored as JSON, read as models."""

from __future__ import annotations

from typing import Any

from pydantic import TypeAdapter
from sqlalchemy import JSON
from sqlalchemy.engine import Dialect
from sqlalchemy.types import TypeDecorator

from dapwick.documents.document import plain


class Typed(TypeDecorator[Any]):
    """A JSON column of a document, or of a list or mapping of documents. Reading what no document says raises
    ValidationError; so does writing it."""

    impl = JSON
    cache_ok = True

    def __init__(self, kind: Any) -> None:
        super().__init__()
        self.kind = kind
        self._adapter: TypeAdapter[Any] = TypeAdapter(kind)

    def process_bind_param(self, value: Any, dialect: Dialect) -> Any:
        return None if value is None else plain(self._adapter.validate_python(value))

    def process_result_value(self, value: Any, dialect: Dialect) -> Any:
        return None if value is None else self._adapter.validate_python(value)
