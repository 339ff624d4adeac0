"""The salon's kit and stylists: one document, the trade's usual one until somebody enters their own."""

from __future__ import annotations

from typing import Any, Final

from sqlalchemy.orm import Session

from dapwick.core.plan.kit import ANYBODY, USUAL_KIT, Kit, Stylist
from dapwick.documents.kit import KitDocument
from dapwick.records.models import SettingRow
from dapwick.records.store import SalonStore
from dapwick.service.concurrency.versions import check_base, version_of
from dapwick.service.salon.settings import put_setting

KEY: Final = "kit"


def kit_of(session: Session) -> tuple[Kit, tuple[Stylist, ...]]:
    """Kit and stylists of a salon."""
    document = document_of(session)
    return document.kit(), document.people()


def document_of(session: Session) -> KitDocument:
    row = session.get(SettingRow, KEY)
    return KitDocument.model_validate(row.value) if row else usual_kit()


def salon_kit(store: SalonStore) -> KitDocument:
    with store.reading() as session:
        return document_of(session)


def set_kit(store: SalonStore, given: KitDocument | dict[str, Any], base: str | None = None) -> KitDocument:
    """Replace the kit; sheets made from now on use it, a cut that has begun keeps its own. Raises ValidationError or
    BadInput for what cannot be a kit."""
    asked = KitDocument.model_validate(given)
    kept = KitDocument.of(asked.kit(), asked.people())
    with store.session() as session:
        check_base("The kit", document_of(session), kept, base)
        put_setting(session, KEY, kept.to_json())
    return kept


def kit_version(document: KitDocument) -> str:
    return version_of(document)


def stylist_named(stylists: tuple[Stylist, ...], name: str) -> Stylist:
    """A stylist by name; where nobody was chosen the salon's first."""
    return next((one for one in stylists if one.name == name), stylists[0] if stylists else ANYBODY)


def usual_kit() -> KitDocument:
    return KitDocument.of(USUAL_KIT)
