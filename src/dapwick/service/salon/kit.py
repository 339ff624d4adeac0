"""The salon's kit and stylists: one document, the trade's usual one until somebody enters their own."""

from __future__ import annotations

import json
from dataclasses import asdict
from typing import Any, Final

from sqlalchemy.orm import Session

from dapwick.core.basics.errors import BadInput
from dapwick.core.plan.kit import ANYBODY, USUAL_KIT, Kit, SkinLimits, Stylist, Tool
from dapwick.records.models import SettingRow
from dapwick.records.store import SalonStore
from dapwick.service.concurrency.versions import check_base, version_of
from dapwick.service.salon.settings import put_setting

KEY: Final = "kit"
MOST_STYLISTS: Final = 20


def kit_document(kit: Kit, stylists: tuple[Stylist, ...]) -> dict[str, Any]:
    return asdict(kit) | {"stylists": [asdict(one) for one in stylists]}


def kit_of(session: Session) -> tuple[Kit, tuple[Stylist, ...]]:
    """Kit and stylists of a salon."""
    row = session.get(SettingRow, KEY)
    return read_kit(row.value) if row else (USUAL_KIT, ())


def read_kit(document: dict[str, Any]) -> tuple[Kit, tuple[Stylist, ...]]:
    """Kit and stylists from their document; what is wrong is told by tool or name."""
    skin = document["skin"]
    kit = Kit(
        tuple(Tool(**tool) for tool in document["tools"]),
        document["against_share"],
        SkinLimits(skin["first_mm"], tuple(skin["then_mm"]), skin["white_mm"], skin["sore_mm"]),
    )
    stylists = tuple(Stylist(**one) for one in document["stylists"])
    names = [one.name for one in stylists]
    if len(set(names)) < len(names) or len(names) > MOST_STYLISTS:
        raise BadInput(
            "stylists", expected=f"at most {MOST_STYLISTS}, each name once", got=", ".join(names), where="kit"
        )
    return kit, stylists


def salon_kit(store: SalonStore) -> dict[str, Any]:
    with store.reading() as session:
        return kit_document(*kit_of(session))


def set_kit(store: SalonStore, document: dict[str, Any], base: str | None = None) -> dict[str, Any]:
    """Replace the kit; sheets made from now on use it, a cut that has begun keeps its own."""
    kept = kit_document(*read_kit(document))
    with store.session() as session:
        now = _plain(kit_document(*kit_of(session)))
        check_base("The kit", now, _plain(kept), base)
        put_setting(session, KEY, kept)
    return kept


def kit_version(document: dict[str, Any]) -> str:
    return version_of(_plain(document))


def _plain(document: dict[str, Any]) -> Any:
    """As it comes back from where it is kept: tuples are lists there."""
    return json.loads(json.dumps(document))


def stylist_named(stylists: tuple[Stylist, ...], name: str) -> Stylist:
    """A stylist by name; where nobody was chosen the salon's first."""
    return next((one for one in stylists if one.name == name), stylists[0] if stylists else ANYBODY)


def usual_kit() -> dict[str, Any]:
    return kit_document(USUAL_KIT, ())
