"""What every station reads: place, date, telescope, people, and the night they give."""

import datetime as dt
import sqlite3
from typing import Annotated
from zoneinfo import available_timezones

from fastapi import Body

from jade_perch.api.dependencies import Db, TheClock, TheDesk, TheStage
from jade_perch.api.items import add_item_routes
from jade_perch.api.rehearsals import Stage
from jade_perch.api.stations import station
from jade_perch.core.evening.context import EveningChoice
from jade_perch.core.evening.desk import Desk
from jade_perch.core.evening.rejudge import steps_of
from jade_perch.core.evening.setup import SetupMark, ribbon_marks
from jade_perch.core.fields import Frozen, Words
from jade_perch.core.kit import Observer, Telescope
from jade_perch.core.moments import ClockKind, ZoneAhead, zone_ahead
from jade_perch.core.position import Position, read_position
from jade_perch.core.safety import SunWatch, sun_at
from jade_perch.core.site import Latitude, Site
from jade_perch.core.sky.darkness import (
    Darkness,
    DarknessInput,
    DarknessQuestions,
    darkness_questions,
    judge_darkness,
)
from jade_perch.core.sky.night import Night
from jade_perch.devices.clock import HouseClock
from jade_perch.store.desk import choose
from jade_perch.store.evening import SITES, drift_started
from jade_perch.store.kit import OBSERVERS
from jade_perch.store.setup import readings_of

router = station("/evening", "evening")
add_item_routes(router, SITES, "sites")
add_item_routes(router, OBSERVERS, "observers")


class Evening(Frozen):
    """The evening's choices resolved; without a site there is no night, no zone and no Sun.

    ``pace`` is how many seconds pass on the clock in one, ``rehearsal`` names the one that runs.
    """

    choice: EveningChoice
    now_utc: dt.datetime
    clock: ClockKind
    site: Site | None
    ahead: ZoneAhead | None
    telescope: Telescope | None
    observer: Observer | None
    night: Night | None
    sun: SunWatch | None
    setup: list[SetupMark]
    drift_started_at_utc: dt.datetime | None
    planned_from_utc: dt.datetime | None
    pace: float
    rehearsal: str


class Pasted(Frozen):
    """Text that is to hold a position."""

    text: Words


@router.get("")
def get_evening(db: Db, clock: TheClock, desk: TheDesk, stage: TheStage) -> Evening:
    """Return the evening as every station reads it."""
    return _evening(db, clock, desk, stage)


@router.patch("")
def change_evening(
    change: Annotated[EveningChoice, Body()], db: Db, clock: TheClock, stage: TheStage
) -> Evening:
    """Store the fields that a change names, and no other; return the evening they give."""
    return _evening(db, clock, choose(db, change, clock.now()), stage)


@router.post("/position")
def read_place(pasted: Pasted) -> Position:
    """Return the position in what was pasted or typed; nothing is stored."""
    return read_position(pasted.text)


@router.get("/zones")
def get_zones() -> list[str]:
    """Return every time zone there is, by name."""
    return sorted(name for name in available_timezones() if "/" in name or name == "UTC")


@router.get("/darkness")
def get_darkness(latitude_deg: Latitude | None = None) -> DarknessQuestions:
    """Return the three questions about a place's darkness."""
    return darkness_questions(latitude_deg)


@router.post("/darkness")
def ask_darkness(given: DarknessInput) -> Darkness:
    """Return the class of a place from what was seen there; nothing is stored."""
    return judge_darkness(given)


def _evening(db: sqlite3.Connection, clock: HouseClock, desk: Desk, stage: Stage) -> Evening:
    telescope_id = None if desk.telescope is None else desk.telescope.id
    readings = readings_of(db, desk.evening.id, telescope_id)
    return Evening(
        choice=desk.choice,
        now_utc=desk.moment_utc,
        clock=desk.clock,
        site=desk.place,
        ahead=None if desk.place is None else zone_ahead(desk.place.zone, desk.moment_utc),
        telescope=desk.telescope,
        observer=desk.observer,
        night=desk.night,
        sun=None if desk.place is None else sun_at(desk.place, desk.now),
        setup=ribbon_marks(steps_of(desk, readings)),
        drift_started_at_utc=drift_started(db, clock.real_utc()),
        planned_from_utc=desk.evening.planned_from_utc,
        pace=clock.pace,
        rehearsal=stage.name,
    )
