"""What was read while setting up, and solar sessions."""

import sqlite3
from collections.abc import Mapping, Sequence

from pydantic import BaseModel

from jade_perch.core.bench.advice import Advice
from jade_perch.core.bench.focus import Parfocal
from jade_perch.core.bench.loop import Try
from jade_perch.core.bench.solar import SolarSession, closed
from jade_perch.core.evening.context import EveningRow
from jade_perch.core.evening.desk import ReadyDesk
from jade_perch.core.evening.onway import REMEMBERED, StepMark, rounds_of
from jade_perch.core.evening.setup import SetupReading, StepName, resting_on, spoiled
from jade_perch.core.fields import UtcTime
from jade_perch.store.connection import atomic
from jade_perch.store.evening import ensure_evening
from jade_perch.store.items import ItemTable, add_item, change_item, select_items

READINGS = ItemTable("setup_reading", SetupReading, order_by="recorded_at_utc")
PARFOCALS = ItemTable("parfocal", Parfocal, order_by="from_eyepiece_id, to_eyepiece_id")
SOLAR_SESSIONS = ItemTable("solar_session", SolarSession, order_by="opened_at_utc DESC")

STEP_MARKS = ItemTable("step_mark", StepMark, order_by="marked_at_utc")

MARKS_OF_EVENING = """
SELECT id, version, evening_id, telescope_id, step, subject, marked_at_utc, round, is_over
  FROM step_mark
 WHERE telescope_id = :telescope_id
   AND step = :step
   AND evening_id = :evening_id
   AND deleted_at_utc IS NULL
 ORDER BY marked_at_utc, id
"""
LAST_MARKS_ABOUT = """
SELECT id, version, evening_id, telescope_id, step, subject, marked_at_utc, round, is_over
  FROM step_mark
 WHERE telescope_id = :telescope_id
   AND step = :step
   AND subject = :subject
   AND deleted_at_utc IS NULL
 ORDER BY marked_at_utc DESC, id DESC
 LIMIT :most
"""
OF_EVENING = """
SELECT id, version, evening_id, telescope_id, step, recorded_at_utc, words, is_good, figures,
       inputs, spoiled_at_utc, spoiled_by, simulated
  FROM setup_reading
 WHERE evening_id = :evening_id
   AND telescope_id = :telescope_id
   AND deleted_at_utc IS NULL
 ORDER BY recorded_at_utc, id
"""
OPEN_SESSION = """
SELECT id, version, telescope_name, filter_name, opened_at_utc, closed_at_utc, telescope_id,
       telescope_version, filter_id, filter_version, real_opened_at_utc
  FROM solar_session
 WHERE closed_at_utc IS NULL
   AND deleted_at_utc IS NULL
 ORDER BY opened_at_utc DESC
 LIMIT 1
"""


def readings_of(
    db: sqlite3.Connection, evening_id: int | None, telescope_id: int | None
) -> list[SetupReading]:
    """Return what was read on an evening with a telescope, oldest first."""
    at = {"evening_id": evening_id, "telescope_id": telescope_id}
    return select_items(db, READINGS, OF_EVENING, at)


def marks_of(db: sqlite3.Connection, desk: ReadyDesk, step: StepName) -> list[StepMark]:
    """Return what was said this evening on the way through a step, oldest first."""
    at = {"telescope_id": desk.telescope.id, "step": step, "evening_id": desk.evening.id}
    return select_items(db, STEP_MARKS, MARKS_OF_EVENING, at)


def rounds_about(
    db: sqlite3.Connection, desk: ReadyDesk, step: StepName, subject: str
) -> list[Try]:
    """Return the last rounds of a loop about one thing, on whatever evening, oldest first."""
    at = {"telescope_id": desk.telescope.id, "step": step, "subject": subject, "most": REMEMBERED}
    marks = select_items(db, STEP_MARKS, LAST_MARKS_ABOUT, at)
    return rounds_of(marks[::-1], desk.evening.id)


def mark_way(
    db: sqlite3.Connection, desk: ReadyDesk, step: StepName, subjects: Mapping[str, Try]
) -> None:
    """Store what was said on the way through a step, by subject."""
    with atomic(db):
        evening = ensure_evening(db, desk.night.date, desk.place.id)
        for subject, round_ in subjects.items():
            mark = StepMark(
                evening_id=evening.id or 0,
                telescope_id=desk.telescope.id or 0,
                step=step,
                subject=subject,
                marked_at_utc=desk.moment_utc,
                round=round_,
            )
            add_item(db, STEP_MARKS, mark)


def end_way(db: sqlite3.Connection, marks: Sequence[StepMark]) -> None:
    """Say that nothing follows from some marks any more."""
    for one in marks:
        if one.id is not None and not one.is_over:
            change_item(db, STEP_MARKS, one.id, one.model_copy(update={"is_over": True}))


def record_step(
    db: sqlite3.Connection, desk: ReadyDesk, step: StepName, advice: Advice, given: BaseModel
) -> EveningRow:
    """Store what a step was told and answered, at the desk's moment; returns its evening.

    What rests on that step is spoiled by it in the same transaction.
    """
    with atomic(db):
        evening = ensure_evening(db, desk.night.date, desk.place.id)
        reading = SetupReading(
            evening_id=evening.id or 0,
            telescope_id=desk.telescope.id or 0,
            step=step,
            recorded_at_utc=desk.moment_utc,
            words=advice.written(),
            is_good=advice.holds(),
            figures=advice.figures(),
            inputs=given.model_dump(mode="json"),
            simulated=advice.simulated,
        )
        record_reading(db, reading)
        if step != "assemble":
            end_way(db, marks_of(db, desk, step)[-1:])
    return evening


def record_reading(db: sqlite3.Connection, reading: SetupReading) -> None:
    """Store a reading, inside a transaction; what rests on its step is spoiled by it."""
    kept = readings_of(db, reading.evening_id, reading.telescope_id)
    by = f"{reading.step} was done again"
    _store(db, spoiled(kept, resting_on(reading.step), reading.recorded_at_utc, by))
    add_item(db, READINGS, reading)


def spoil(
    db: sqlite3.Connection,
    desk: ReadyDesk,
    steps: Sequence[StepName],
    by: str,
    parts: Sequence[str] | None = None,
) -> None:
    """Mark the good readings of some steps as spoiled, all in one transaction.

    Loops of those steps begin anew, and some parts have to be put together again: all of them
    for None.
    """
    readings = readings_of(db, desk.evening.id, desk.telescope.id)
    with atomic(db):
        _store(db, spoiled(readings, steps, desk.moment_utc, by))
        for step in steps:
            marks = marks_of(db, desk, step)
            if step == "assemble" and parts is not None:
                marks = [one for one in marks if one.subject in parts]
            end_way(db, marks)


def _store(db: sqlite3.Connection, readings: Sequence[SetupReading]) -> None:
    for one in readings:
        if one.id is not None:
            change_item(db, READINGS, one.id, one)


def open_session(db: sqlite3.Connection) -> SolarSession | None:
    """Return the solar session that is open, if any."""
    return next(iter(select_items(db, SOLAR_SESSIONS, OPEN_SESSION, {})), None)


def end_session(db: sqlite3.Connection, at_utc: UtcTime) -> None:
    """End the open solar session, if there is one."""
    session = open_session(db)
    if session is not None:
        close_session(db, session, at_utc)


def close_session(db: sqlite3.Connection, session: SolarSession, at_utc: UtcTime) -> None:
    """End an open solar session."""
    if session.id is not None:
        change_item(db, SOLAR_SESSIONS, session.id, closed(session, at_utc))
