"""Station journal: what was seen."""

import sqlite3
from typing import Annotated

from fastapi import Query, Response
from starlette.exceptions import HTTPException

from jade_perch.api.cases import case_of
from jade_perch.api.dependencies import Db, FileBytes, TheCatalogue, TheDesk, takes
from jade_perch.api.items import add_item_routes
from jade_perch.api.stations import station
from jade_perch.core.evening.desk import Desk
from jade_perch.core.evening.journal import Observation, require_noted
from jade_perch.core.fields import Day, Frozen, Id, Label, UtcTime
from jade_perch.core.journal.evenings import EveningTold
from jade_perch.core.journal.lessons import Lesson
from jade_perch.core.journal.promise import promised_margin
from jade_perch.core.journal.search import Wanted
from jade_perch.core.sky.catalogue import Catalogue
from jade_perch.exchange.pictures import read_picture
from jade_perch.store.evening import chosen_units
from jade_perch.store.evenings import EveningPage, open_evening, past_evenings
from jade_perch.store.items import get_item
from jade_perch.store.journal import OBSERVATIONS, add_once, add_picture, change_note, find_picture
from jade_perch.store.lessons import all_lessons
from jade_perch.store.search import Found, TelescopeUsed, search, telescopes_used

router = station("/journal", "journal")
add_item_routes(router, OBSERVATIONS, "observations", require_noted, None, change_note)
PICTURE_BODY = takes("application/octet-stream")


class KeptPicture(Frozen):
    """A picture that is kept: its name, and how large it is in pixels."""

    name: str
    width: int
    height: int


@router.post("/pictures", status_code=201, openapi_extra=PICTURE_BODY)
def keep_picture(data: FileBytes, db: Db) -> KeptPicture:
    """Keep a picture file: judged by its content, nothing kept but the picture itself."""
    picture = read_picture(data)
    add_picture(db, picture)
    return KeptPicture(name=picture.name, width=picture.width, height=picture.height)


@router.get("/pictures/{name}", response_class=Response)
def get_picture(name: Label, db: Db) -> Response:
    """Return a picture that is kept."""
    found = find_picture(db, name)
    if found is None:
        raise HTTPException(404, f"There is no picture {name[:40]!r}.")
    media_type, content = found
    headers = {"Content-Disposition": "inline", "Cache-Control": "private, max-age=86400"}
    return Response(content, media_type=media_type, headers=headers)


@router.post("/observations", status_code=201, operation_id="add_observation")
def add_observation(
    note: Observation, db: Db, desk: TheDesk, catalogue: TheCatalogue
) -> Observation:
    """Note an observation, with what was promised of it where that is known."""
    require_noted(note, desk.moment_utc)
    margin = _promised(db, desk, catalogue, note)
    return add_once(db, OBSERVATIONS, note.model_copy(update={"predicted_margin": margin}))


def _promised(
    db: sqlite3.Connection, desk: Desk, catalogue: Catalogue, note: Observation
) -> float | None:
    """Return what was promised of a note's target on the desk's night; None where nothing was."""
    night, found = desk.night, catalogue.find(note.object_name)
    if night is None or found is None or not note.glass or note.outcome is None:
        return None
    if not night.start_utc <= note.observed_at_utc <= night.end_utc:
        return None
    if desk.telescope is None or desk.telescope.name != note.telescope_name:
        return None
    case = case_of(db, desk, catalogue, None)
    if case is None:
        return None
    return promised_margin(case, found.key, note.glass, note.observed_at_utc)


@router.get("/lessons")
def get_lessons(db: Db) -> list[Lesson]:
    """Return what the records teach."""
    return all_lessons(db)


@router.get("/observations/{item_id}")
def get_observation(item_id: Id, db: Db) -> Observation:
    """Return one observation whole."""
    return get_item(db, OBSERVATIONS, item_id)


class Asked(Wanted):
    """What is looked for, and the last row that was had; with neither the newest come first."""

    before_utc: UtcTime | None = None
    before_id: Id | None = None


@router.get("/search")
def get_found(asked: Annotated[Asked, Query()], db: Db, catalogue: TheCatalogue) -> Found:
    """Return what is looked for, newest first."""
    before = None
    if asked.before_utc is not None and asked.before_id is not None:
        before = (asked.before_utc, asked.before_id)
    return search(db, asked, catalogue, before)


@router.get("/telescopes")
def get_telescopes(db: Db) -> list[TelescopeUsed]:
    """Return the telescopes in the notes, whether they are still in the kit or not."""
    return telescopes_used(db)


@router.get("/evenings")
def get_evenings(
    db: Db,
    catalogue: TheCatalogue,
    before_date: Day | None = None,
    before_id: Id | None = None,
) -> EveningPage:
    """Return evenings of which anything is left, newest first, after the last one that was had."""
    is_more = before_date is not None and before_id is not None
    before = (before_date, before_id) if is_more else None
    return past_evenings(db, catalogue, before)  # type: ignore[arg-type]


@router.get("/evenings/{evening_id}")
def get_evening_told(evening_id: Id, db: Db, catalogue: TheCatalogue) -> EveningTold:
    """Return one evening whole: its notes, readings, people and weather."""
    return open_evening(db, evening_id, catalogue, chosen_units(db))
