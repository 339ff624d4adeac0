"""Outlines to choose from: the families, and the salon's own variants of them."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, Final

from dapwick.core.basics.errors import BadInput
from dapwick.core.outlines.families import FAMILIES, family
from dapwick.core.outlines.family import Family
from dapwick.core.outlines.variant import Variant, read_variant
from dapwick.records import queries
from dapwick.records.models import VariantRow, now
from dapwick.records.store import SalonStore

OWN: Final = "own-"


@dataclass(frozen=True)
class Choice:
    """One outline to choose: own is the id of the salon's variant, None for a family."""

    family: Family
    own: int | None


def choices(store: SalonStore) -> list[Choice]:
    """Families first, then the salon's own."""
    with store.reading() as session:
        rows = queries.variants(session)
        own = [Choice(read_variant(row.document).family(_key(row)), row.id) for row in rows]
    return [Choice(one, None) for one in FAMILIES.values()] + own


def family_of(store: SalonStore, key: str) -> Family:
    """A family or variant by its key."""
    number = key.removeprefix(OWN)
    if not key.startswith(OWN) or not number.isdecimal():
        return family(key)
    with store.reading() as session:
        row = queries.variant(session, int(number))
        return read_variant(row.document).family(key)


def keep_variant(store: SalonStore, document: Any) -> Choice:
    """Take a variant in from its document."""
    variant = read_variant(document)
    with store.session() as session:
        if any(row.name == variant.name for row in queries.variants(session)):
            raise BadInput(
                "the salon has an outline of this name",
                expected="another name",
                got=variant.name,
                where="name",
            )
        row = VariantRow(name=variant.name, document=variant.document())
        session.add(row)
        session.flush()
        return Choice(variant.family(_key(row)), row.id)


def save_variant(
    store: SalonStore, name: str, key: str, params: dict[str, float], schools: dict[str, str]
) -> Choice:
    """Keep a setting of an outline as the salon's own; a variant of a variant stands on the family itself."""
    with store.session() as session:
        number = key.removeprefix(OWN)
        based_on = (
            read_variant(queries.variant(session, int(number)).document).based_on
            if key.startswith(OWN) and number.isdecimal()
            else key
        )
    return keep_variant(store, Variant(name.strip(), based_on, params, schools).document())


def variant_document(store: SalonStore, variant_id: int) -> dict[str, Any]:
    with store.reading() as session:
        return dict(queries.variant(session, variant_id).document)


def remove_variant(store: SalonStore, variant_id: int) -> None:
    """No longer offered; visits that used it still open."""
    with store.session() as session:
        queries.variant(session, variant_id).removed = now()


def _key(row: VariantRow) -> str:
    return f"{OWN}{row.id}"
