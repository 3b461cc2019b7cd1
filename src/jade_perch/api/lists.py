"""Station journal: lists to be seen one by one, what is left of them, and their logs."""

import sqlite3
from dataclasses import replace
from typing import Annotated

from fastapi import Query, Response

from jade_perch.api.dependencies import (
    FILE_BODY,
    Db,
    FileBytes,
    ReadVersion,
    TheCatalogue,
    TheDesk,
)
from jade_perch.api.downloads import download
from jade_perch.api.stations import station
from jade_perch.core.evening.desk import require_place
from jade_perch.core.fields import Frozen, Id, Name
from jade_perch.core.journal.ahead import Ahead, Looker, look_ahead
from jade_perch.core.journal.award import AwardLog, make_log
from jade_perch.core.journal.lists import (
    ListProgress,
    TargetList,
    own_list,
    progress_of,
    require_list,
)
from jade_perch.core.sky.catalogue import Catalogue
from jade_perch.core.sky.night import evening_date
from jade_perch.exchange.award_files import write_log_csv, write_log_pdf
from jade_perch.exchange.list_csv import read_list
from jade_perch.exchange.tables import FileReport
from jade_perch.store.evening import SITES
from jade_perch.store.items import add_item, delete_item, get_item, require_free, restore_item
from jade_perch.store.lists import (
    TARGET_LISTS,
    all_lists,
    behind_notes,
    find_list,
    noted_things,
    notes_by_id,
)

router = station("/journal/lists", "journal")
Key = Name
AskedPlace = Annotated[Id | None, Query()]


class ListAhead(Frozen):
    """What of a list is left and when each of it next stands well, from one place."""

    place_name: str
    telescope_name: str
    rows: list[Ahead]


@router.get("")
def get_lists(db: Db, catalogue: TheCatalogue) -> list[ListProgress]:
    """Return every list as it stands."""
    noted = noted_things(db)
    return [progress_of(one, noted, catalogue) for one in all_lists(db, catalogue)]


@router.post("/check", openapi_extra=FILE_BODY)
def check_list(name: Name, data: FileBytes, db: Db, catalogue: TheCatalogue) -> FileReport:
    """Return what a CSV file would give as a list, row by row; nothing is stored."""
    require_free(db, TARGET_LISTS, _title(name))
    return read_list(data, catalogue).report


@router.post("", status_code=201, openapi_extra=FILE_BODY)
def add_list(name: Name, data: FileBytes, db: Db, catalogue: TheCatalogue) -> FileReport:
    """Keep a CSV file as a list of one's own, unless a row of it is refused."""
    read = read_list(data, catalogue)
    if read.report.refused:
        return read.report
    add_item(db, TARGET_LISTS, TargetList(name=_title(name), entries=read.entries))
    return read.report.model_copy(update={"applied": True})


def _title(file_name: str) -> str:
    """Return what a list is called: as its file."""
    return file_name.removesuffix(".csv") or file_name


@router.delete("/{list_id}", status_code=204)
def delete_list(list_id: Id, db: Db, version: ReadVersion = None) -> None:
    """Take out a list of one's own; the notes stay."""
    delete_item(db, TARGET_LISTS, list_id, version)


@router.post("/{list_id}/restore")
def restore_list(list_id: Id, db: Db, catalogue: TheCatalogue) -> ListProgress:
    """Take the deletion of a list back."""
    kept = restore_item(db, TARGET_LISTS, list_id)
    return progress_of(own_list(kept), noted_things(db), catalogue)


@router.get("/{key}/ahead")
def get_ahead(
    key: Key,
    db: Db,
    desk: TheDesk,
    catalogue: TheCatalogue,
    site_id: AskedPlace = None,
) -> ListAhead:
    """Return when what is left next stands well: from a place, else the chosen one."""
    place = require_place(desk) if site_id is None else get_item(db, SITES, site_id)
    progress = _progress(db, key, catalogue)
    there = replace(desk, place=place)
    left = [one for one in progress.marks if one.state in ("open", "tried")]
    rows = [catalogue.row_of(one.target_key) for one in left if one.target_key is not None]
    ladder = there.ladder_of(desk.telescope, desk.diagonal) if desk.telescope else None
    looker = Looker(place, there.viewer(), ladder, desk.choice.school)
    first = evening_date(place, desk.moment_utc)
    if desk.night is not None and place == desk.place:
        first = desk.night.date
    known = [row for row in rows if row is not None]
    return ListAhead(
        place_name=place.name,
        telescope_name="" if desk.telescope is None else desk.telescope.name,
        rows=look_ahead(catalogue, known, looker, first),
    )


@router.get("/{key}/log.csv", response_class=Response)
def get_log_csv(key: Key, db: Db, catalogue: TheCatalogue) -> Response:
    """Return a list's log as CSV."""
    return download(write_log_csv(_log(db, key, catalogue)), "text/csv", f"log-{key}.csv")


@router.get("/{key}/log.pdf", response_class=Response)
def get_log_pdf(key: Key, db: Db, catalogue: TheCatalogue, sketches: bool = True) -> Response:
    """Return a list's log on paper, with or without sketches."""
    made = write_log_pdf(_log(db, key, catalogue), with_sketches=sketches)
    return download(made, "application/pdf", f"log-{key}.pdf")


def _progress(db: sqlite3.Connection, key: str, catalogue: Catalogue) -> ListProgress:
    given = require_list(find_list(db, key, catalogue), key)
    return progress_of(given, noted_things(db), catalogue)


def _log(db: sqlite3.Connection, key: str, catalogue: Catalogue) -> AwardLog:
    progress = _progress(db, key, catalogue)
    ids = [one.observation_id for one in progress.marks if one.observation_id is not None]
    notes = notes_by_id(db, ids)
    return make_log(progress, notes, behind_notes(db, notes))
