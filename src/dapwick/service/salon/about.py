"""The salon itself: its name, its first start, the demo that can be reset and taken away."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

from dapwick.core.basics.days import DayStyle
from dapwick.core.basics.errors import BadInput
from dapwick.core.plan.kit import USUAL_KIT, Hand, Stylist
from dapwick.documents.kit import KitDocument
from dapwick.records import queries
from dapwick.records.store import SalonStore
from dapwick.service.dogs.trash import erase_dogs
from dapwick.service.salon.day_style import day_style
from dapwick.service.salon.demo import DEMO_NAME, fill_with_demo
from dapwick.service.salon.kit import set_kit
from dapwick.service.salon.settings import keep_setting, kept_setting

KEY: Final = "salon"
LONGEST_NAME: Final = 60
TRIED: Final = "fogbell"


@dataclass(frozen=True)
class Salon:
    """started: somebody chose how to begin, or there are dogs; demo: demo dogs are among them; days: how days and
    times are said."""

    name: str
    started: bool
    demo: bool
    days: DayStyle


def salon_of(store: SalonStore) -> Salon:
    kept = kept_setting(store, KEY, None)
    with store.reading() as session:
        demo, any_dog = bool(queries.demo_dogs(session)), queries.any_dog(session)
    name = kept["name"] if kept else DEMO_NAME if demo else ""
    return Salon(name, kept is not None or any_dog, demo, day_style(store))


def start_empty(store: SalonStore, name: str, stylist: str = "", hand: Hand = "right") -> Salon:
    """Begin with no dog in it, and with who cuts where somebody said so: sheets are written for that hand."""
    started = name_salon(store, name)
    if stylist.strip():
        set_kit(store, KitDocument.of(USUAL_KIT, (Stylist(stylist.strip(), hand),)))
    return started


def try_demo(store: SalonStore) -> int:
    """One demo dog, photographed and marked, to try everything on beside one's own; its number. There already, it is
    that one."""
    with store.reading() as session:
        there = queries.demo_dogs(session)
        if there:
            return int(there[0].id)
    fill_with_demo(store, (TRIED,), beside=True)
    with store.reading() as session:
        return int(queries.demo_dogs(session)[0].id)


def start_demo(store: SalonStore) -> Salon:
    """Begin with the demo dogs; where there are dogs already, nothing is put beside them."""
    fill_with_demo(store, looked=False)
    return name_salon(store, DEMO_NAME)


def name_salon(store: SalonStore, name: str) -> Salon:
    name = name.strip()
    if not 0 < len(name) <= LONGEST_NAME:
        raise BadInput(
            "the salon needs a name",
            expected=f"1 to {LONGEST_NAME} letters",
            got=name[:20] or "nothing",
            where="salon",
        )
    keep_setting(store, KEY, {"name": name})
    return salon_of(store)


def reset_demo(store: SalonStore) -> Salon:
    """The demo dogs as on the first day; other dogs stay as they are."""
    remove_demo(store)
    fill_with_demo(store, beside=True, looked=False)
    return salon_of(store)


def remove_demo(store: SalonStore) -> Salon:
    """Every demo dog for good; other dogs, kit and stylists stay."""
    with store.reading() as session:
        rows = [row.id for row in queries.demo_dogs(session)]
    erase_dogs(store, rows)
    now = salon_of(store)
    keep_setting(store, KEY, {"name": now.name or DEMO_NAME})
    return salon_of(store)
