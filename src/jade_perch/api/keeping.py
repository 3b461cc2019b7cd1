"""Station journal: everything out in one zip and in again, and the daily copies."""

import sqlite3
from collections.abc import Iterator
from contextlib import closing
from datetime import date, datetime
from pathlib import Path
from typing import Annotated, Any

from fastapi import Depends, Request, Response
from fastapi.responses import FileResponse

from jade_perch.api.dependencies import Db, TheClock, TheStage, takes
from jade_perch.api.porter import Porter, Progress, written
from jade_perch.api.stations import station
from jade_perch.core.errors import OutOfRange
from jade_perch.core.fields import Frozen, Name
from jade_perch.core.journal.archive import CHOICE, KINDS, Merged
from jade_perch.core.journal.award import UNKNOWN, log_cells
from jade_perch.devices.clock import HouseClock
from jade_perch.devices.keeper import Keeper
from jade_perch.exchange.archive import (
    FILES,
    Reader,
    archive_schema,
    read_archive,
    write_archive,
)
from jade_perch.exchange.award_files import log_lines
from jade_perch.exchange.tables import FileReport, file_report, file_row
from jade_perch.store.connection import DATABASE_NAME, connect_again, copy_database, one_moment
from jade_perch.store.copies import FOLDER, KEPT_DAYS, Copy, list_copies
from jade_perch.store.damage import Damage, Decision, damage_of, decide
from jade_perch.store.everything import (
    all_unreadable,
    count_everything,
    lines_of,
    pictures_of,
    take_in,
)
from jade_perch.store.lists import notes_in_batches

router = station("/journal/everything", "journal")
UPLOAD = "/api/journal/everything/upload"
ZIP_BODY = takes("application/zip")
TITLES = {**{kind: one.title for kind, one in KINDS.items()}, CHOICE: "choices"}


async def the_porter(request: Request) -> Porter:
    """Return whoever carries everything out and in."""
    porter: Porter = request.app.state.porter
    return porter


async def the_keeper(request: Request) -> Keeper:
    """Return whoever makes the daily copy."""
    keeper: Keeper = request.app.state.keeper
    return keeper


ThePorter = Annotated[Porter, Depends(the_porter)]
TheKeeper = Annotated[Keeper, Depends(the_keeper)]


class Packed(Frozen):
    """A zip that is ready: what it is called, and how large it is."""

    name: str
    size_bytes: int


class Sent(Frozen):
    """A zip that was sent, by the key it is asked for."""

    key: str


class CopyLine(Frozen):
    """One daily copy, and where it lies."""

    day: date
    made_at_utc: datetime
    path: str
    size_bytes: int


class Copies(Frozen):
    """The daily copies, newest first; ``failed_words`` says why the last could not be made."""

    folder: str
    kept_days: int
    copies: list[CopyLine]
    failed_words: str


@router.get("/copies")
def get_copies(stage: TheStage, keeper: TheKeeper) -> Copies:
    """Return the daily copies and where they lie."""
    found = list_copies(stage.data_dir)
    return Copies(
        folder=str((stage.data_dir / FOLDER).resolve()),
        kept_days=KEPT_DAYS,
        copies=[_line(one) for one in found],
        failed_words="" if keeper.failed is None else keeper.failed.words,
    )


@router.get("/unreadable")
def get_unreadable(db: Db) -> list[str]:
    """Return what is wrong with each record that cannot be read; all of them stay as they are."""
    return [str(one) for one in all_unreadable(db)]


class Decided(Frozen):
    """What is done after damage: the offered copy put back, or on without it."""

    take: Decision


@router.get("/damage")
def get_damage(stage: TheStage) -> Damage | None:
    """Return what was found damaged at a start and not decided yet; null for nothing."""
    return damage_of(stage.data_dir)


@router.post("/damage", status_code=204)
def settle_damage(decided: Decided, request: Request, stage: TheStage, clock: TheClock) -> None:
    """Put the offered copy in the place of the database, or go on without it."""
    decide(stage.data_dir, decided.take, clock.real_utc())
    request.state.has_changed = lambda: True


def _line(one: Copy) -> CopyLine:
    path = str(one.path.resolve())
    return CopyLine(day=one.day, made_at_utc=one.made_at_utc, path=path, size_bytes=one.size_bytes)


@router.get("/progress")
def get_progress(porter: ThePorter) -> Progress:
    """Return how far packing or taking in is."""
    return porter.progress


@router.post("/pack")
def pack(porter: ThePorter, stage: TheStage, clock: TheClock) -> Packed:
    """Pack everything as it stands in this moment into one zip, to be fetched afterwards.

    What is rehearsed is no part of it.
    """
    with (
        closing(connect_again(stage.data_dir / DATABASE_NAME)) as db,
        porter.carrying("packing", count_everything(db)),
        written(porter.outgoing) as half,
        one_moment(db),
        write_archive(half) as archive,
    ):
        for kind in FILES:
            archive.lines(kind, porter.counted(lines_of(db, kind)))
        archive.notes(log_lines(_rows(db)))
        for picture in porter.counted(pictures_of(db)):
            archive.picture(picture)
        archive.manifest()
    return Packed(name=_zip_name(clock), size_bytes=porter.outgoing.stat().st_size)


def _rows(db: sqlite3.Connection) -> Iterator[dict[str, str]]:
    for notes, behind in notes_in_batches(db):
        for number, note in notes.items():
            yield log_cells(note, behind.get(number, UNKNOWN))


@router.get("/everything.zip", response_class=Response)
def get_zip(porter: ThePorter, clock: TheClock) -> Response:
    """Return the zip that was packed last."""
    if not porter.outgoing.is_file():
        raise OutOfRange("file", "(nothing)", "a zip that was packed", "Pack it first.")
    return FileResponse(porter.outgoing, media_type="application/zip", filename=_zip_name(clock))


def _zip_name(clock: HouseClock) -> str:
    return f"jade-perch-{clock.now_utc():%Y-%m-%d}.zip"


@router.get("/schema")
def get_schema() -> dict[str, Any]:
    """Return the JSON Schema of every kind of line in the zip."""
    return archive_schema()


@router.post("/upload", status_code=201, openapi_extra=ZIP_BODY)
async def upload(request: Request, porter: ThePorter) -> Sent:
    """Lay a zip aside, to be read and taken in afterwards by its key; nothing is kept yet."""
    incoming = porter.expect_file()
    with written(incoming.path) as half, half.open("wb") as file:
        async for part in request.stream():
            file.write(part)
    porter.came(incoming)
    return Sent(key=incoming.key)


@router.post("/check")
def check(key: Name, porter: ThePorter, stage: TheStage, clock: TheClock) -> FileReport:
    """Return what taking in the zip that was sent would do; it is tried on a copy."""
    path, trial = porter.require_incoming(key), porter.folder / "trial.sqlite3"
    with porter.carrying("reading", 0), read_archive(path) as archive:
        try:
            copy_database(stage.database, trial)
            with closing(connect_again(trial)) as db:
                merged = _taken(db, archive, porter, clock.now_utc(), keep=False)
        finally:
            for side in ("", "-wal", "-shm"):
                Path(f"{trial}{side}").unlink(missing_ok=True)
    return _report(merged)


@router.post("/keep")
def keep(key: Name, db: Db, porter: ThePorter, stage: TheStage, clock: TheClock) -> FileReport:
    """Take in the zip that was sent: all of it, or where a line is refused nothing."""
    if stage.name:
        cure = "End the rehearsal first: nothing of one is kept."
        raise OutOfRange("rehearsal", "one runs", "the evening itself", cure)
    path = porter.require_incoming(key)
    with porter.carrying("taking in", 0), read_archive(path) as archive:
        report = _report(_taken(db, archive, porter, clock.now_utc(), keep=True))
    if report.refused:
        return report
    porter.let_go()
    return report.model_copy(update={"applied": True})


def _taken(
    db: sqlite3.Connection, archive: Reader, porter: Porter, now_utc: datetime, *, keep: bool
) -> Merged:
    porter.expect(sum(archive.counts.values()))
    pictures = porter.counted(archive.pictures())
    return take_in(
        db, lambda kind: porter.counted(archive.lines(kind)), pictures, now_utc, keep=keep
    )


def _report(merged: Merged) -> FileReport:
    rows = [
        file_row(place, TITLES.get(kind, "pictures"), counted.words(), [])
        for place, (kind, counted) in enumerate(merged.counts.items(), 1)
        if counted.words() != "nothing"
    ]
    rows += [
        file_row(line, f"{TITLES[kind]}, line {line}", "", problems)
        for kind, line, problems in merged.problems
    ]
    words = (
        f"{merged.new} things are new; all the rest is here already."
        if merged.new
        else "Everything in it is here already."
    )
    return file_report(rows, merged.new, words)
