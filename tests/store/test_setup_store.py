"""What was read while setting up: kept whole, spoiled together, or not at all."""

from datetime import UTC, date, datetime, timedelta
from types import SimpleNamespace

import pytest

from jade_perch.core.bench.focus import Parfocal
from jade_perch.core.bench.solar import SolarSession
from jade_perch.core.evening.setup import SetupReading
from jade_perch.demo.loader import load_demo
from jade_perch.store.connection import atomic, connect
from jade_perch.store.errors import Contradiction, RefersToNothing
from jade_perch.store.evening import ensure_evening
from jade_perch.store.items import add_item, delete_item, list_items, restore_item
from jade_perch.store.migrations import migrate
from jade_perch.store.setup import (
    PARFOCALS,
    READINGS,
    SOLAR_SESSIONS,
    close_session,
    open_session,
    readings_of,
    record_reading,
    spoil,
)

EVENING, NEXT, AT = date(2027, 2, 13), date(2027, 2, 14), datetime(2027, 2, 13, 16, tzinfo=UTC)


@pytest.fixture
def db(tmp_path):
    db = connect(tmp_path / "test.sqlite3")
    migrate(db)
    load_demo(db)
    for day in (EVENING, NEXT):  # the first two rows, as numbers 1 and 2
        ensure_evening(db, day, 1)
    yield db
    db.close()


def reading(step, minute=0, telescope=1, evening=1):
    return SetupReading(
        evening_id=evening,
        telescope_id=telescope,
        step=step,
        recorded_at_utc=AT + timedelta(minutes=minute),
        words="Leans 7′ – fine",
        is_good=True,
        figures={"tilt_arcmin": 7.25},
        inputs={"reading": {"kind": "round"}, "feet": [0, 120.5, 240], "none": None},
    )


def a_desk(telescope=1, evening=1):
    """As much of a desk as keeping readings reads."""
    return SimpleNamespace(
        evening=SimpleNamespace(id=evening), telescope=SimpleNamespace(id=telescope), moment_utc=AT
    )


def record(db, one):
    with atomic(db):
        record_reading(db, one)


def states(db, telescope=1):
    return [(one.step, one.spoiled_by) for one in readings_of(db, 1, telescope)]


def test_a_reading_comes_back_as_it_went_in(db):
    record(db, reading("level"))
    (kept,) = readings_of(db, 1, 1)
    assert kept.model_copy(update={"id": None, "version": None}) == reading("level")


def test_evenings_and_telescopes_are_kept_apart(db):
    record(db, reading("level"))
    record(db, reading("level", telescope=2))
    record(db, reading("level", evening=2))
    assert len(readings_of(db, 1, 1)) == 1
    assert len(readings_of(db, 1, 2)) == 1
    assert readings_of(db, 3, 1) == []


def test_a_step_done_again_spoils_what_rests_on_it_and_nothing_else(db):
    for minute, step in enumerate(("level", "north", "power", "finder")):
        record(db, reading(step, minute))
    record(db, reading("level", 10))
    by = "level was done again"
    assert states(db) == [
        ("level", ""),
        ("north", by),
        ("power", by),
        ("finder", ""),
        ("level", ""),
    ]
    spoil(db, a_desk(), ["finder"], "The finder was bumped")
    assert ("finder", "The finder was bumped") in states(db)


def test_a_reading_that_cannot_be_stored_spoils_nothing(db):
    """The spoiling and the reading share one transaction."""
    record(db, reading("north"))
    bad = reading("level", 5).model_copy(update={"figures": "no object"})  # past the model
    with pytest.raises(Contradiction):
        record(db, bad)
    nobody = reading("level", 5, telescope=99)
    with pytest.raises(RefersToNothing, match="telescope_id 99"):
        record(db, nobody)
    assert states(db) == [("north", "")]


def test_sessions_open_and_close_once(db):
    assert open_session(db) is None
    add_item(
        db,
        SOLAR_SESSIONS,
        SolarSession(telescope_name="Wren 85", filter_name="Foil", opened_at_utc=AT),
    )
    session = open_session(db)
    assert session is not None and session.closed_at_utc is None
    with pytest.raises(Contradiction):
        close_session(db, session, AT - timedelta(minutes=1))  # before it was opened
    close_session(db, session, AT + timedelta(minutes=40))
    assert open_session(db) is None
    (logged,) = list_items(db, SOLAR_SESSIONS)
    assert logged.closed_at_utc == AT + timedelta(minutes=40)


def test_parfocal_notes_are_deleted_with_undo(db):
    note = Parfocal(telescope_id=1, from_eyepiece_id=1, to_eyepiece_id=2, shift_mm=-2.5)
    stored = add_item(db, PARFOCALS, note)
    delete_item(db, PARFOCALS, stored.id)
    assert list_items(db, PARFOCALS) == []
    assert restore_item(db, PARFOCALS, stored.id) == stored.model_copy(update={"version": 2})
    with pytest.raises(Contradiction):  # to itself, past the model
        add_item(db, PARFOCALS, note.model_copy(update={"to_eyepiece_id": 1}))
    assert list_items(db, READINGS) == []
