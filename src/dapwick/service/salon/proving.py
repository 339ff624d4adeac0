"""Records looked at as every screen would look at them, before anybody trusts them."""

from __future__ import annotations

from pathlib import Path

from pydantic import ValidationError

from dapwick.documents.bundle import DogDocument, check_dog
from dapwick.documents.cut_sheet import SheetOut
from dapwick.documents.head_file import bad_field
from dapwick.records import queries
from dapwick.records.models import DogRow
from dapwick.records.store import SalonStore
from dapwick.service.dogs.cards import card_of
from dapwick.service.dogs.history import visits_then
from dapwick.service.photos.taking_in import marks_of
from dapwick.service.plans.variants import choices
from dapwick.service.salon.about import salon_of
from dapwick.service.salon.backup_setting import setting_of
from dapwick.service.salon.bands import bands_of
from dapwick.service.salon.kit import kit_of
from dapwick.service.visits.bookings import bookings
from dapwick.service.visits.day import day_of

FIRST_DAY, LAST_DAY = "0000-00-00", "9999-99-99"


def look_over(folder: Path) -> None:
    """Open a folder's records and show all of them. Raises what a screen of it would raise; ValidationError is told
    by field."""
    store = SalonStore(folder)
    try:
        _look(store)
    except ValidationError as error:
        raise bad_field(error, "records") from error
    finally:
        store.close()


def _look(store: SalonStore) -> None:
    salon_of(store), setting_of(store), bands_of(store), choices(store), day_of(store)
    bookings(store, FIRST_DAY, LAST_DAY)
    with store.reading() as session:
        kit_of(session)
        here = queries.every_dog(session)
    for dog_id, _ in here:
        with store.reading() as session:
            row = session.get_one(DogRow, dog_id)
            check_dog(DogDocument.model_validate(row))
            for visit in row.visits:
                for photo in visit.photos:
                    marks_of(photo)
            card_of(row)
            in_use = row.visits[-1].cuts
            if in_use:
                SheetOut.model_validate(in_use[-1].sheet)
            visits_then(session, row)
