"""Station plan: what is honestly worth looking at tonight."""

import datetime as dt
import sqlite3
from typing import Annotated

from fastapi import APIRouter, Response
from pydantic import Field

from jade_perch.api.dependencies import Db, TheCatalogue, TheDesk
from jade_perch.api.downloads import download
from jade_perch.api.hours import TheHours
from jade_perch.api.items import item_router
from jade_perch.core.evening.closer import Closer, look_closer
from jade_perch.core.evening.desk import Desk, require_place
from jade_perch.core.evening.finding import FindingPath, make_path
from jade_perch.core.evening.interest import looking_moment
from jade_perch.core.evening.nightfacts import NightFacts, make_facts
from jade_perch.core.evening.outlook import make_outlook
from jade_perch.core.evening.plan import MOST_ITEMS, Plan, default_start, make_plan, picked
from jade_perch.core.evening.prospect import Case
from jade_perch.core.evening.prospects import ListName, Prospects, make_case, make_prospects
from jade_perch.core.evening.tonight import Tonight, make_tonight
from jade_perch.core.fields import Frozen, Name, UtcTime
from jade_perch.core.optics.ladder import Ladder
from jade_perch.core.sky.calendar import NIGHTS, Calendar, NightsAhead, dark_calendar
from jade_perch.core.sky.catalogue import Catalogue
from jade_perch.core.sky.night import require_inside
from jade_perch.exchange.calendar_ics import write_calendar
from jade_perch.store.journal import noted_targets
from jade_perch.store.plan import PLAN_ITEMS, plan_again, plan_items, wish

router = APIRouter(prefix="/plan", tags=["plan"])
router.include_router(item_router(PLAN_ITEMS, "items"))


@router.get("/tonight")
def get_tonight(
    db: Db,
    desk: TheDesk,
    catalogue: TheCatalogue,
    listed: ListName | None = None,
    at_utc: UtcTime | None = None,
) -> Prospects | None:
    """Return tonight's list for the chosen place and telescope; null without a place.

    Places hold for ``at_utc``, else for now; a list is chosen by name, else by kit and sky.
    """
    case = _case(db, desk, catalogue, at_utc)
    return None if case is None else make_prospects(case, desk, listed)


@router.get("/target/{key}")
def get_target_closer(
    key: str, db: Db, desk: TheDesk, catalogue: TheCatalogue, at_utc: UtcTime | None = None
) -> Closer | None:
    """Return one target told whole; null without a place, refused for nothing known."""
    case = _case(db, desk, catalogue, at_utc)
    return None if case is None else look_closer(case, key)


class Wishes(Frozen):
    """Targets to plan, by any of their names."""

    target_keys: Annotated[list[Name], Field(max_length=MOST_ITEMS)]


@router.get("/schedule")
def get_schedule(db: Db, desk: TheDesk, catalogue: TheCatalogue, hours: TheHours) -> Plan | None:
    """Return tonight's plan; null without a place."""
    planned, night = desk.evening.planned_from_utc, desk.night
    is_inside = planned and night and night.start_utc <= planned <= night.end_utc
    case = _case(db, desk, catalogue, planned if is_inside else None)
    if case is None or night is None:
        return None
    from_utc = planned or desk.moment_utc
    start = default_start(case, from_utc)
    listed = make_prospects(case, desk)
    clearest_utc = make_outlook(hours.of_night(desk), night, desk).clearest_utc
    items = plan_items(db, desk.evening)
    return make_plan(case, items, desk.known_mount, start, listed, clearest_utc)


@router.post("/schedule", status_code=204)
def add_wishes(wishes: Wishes, db: Db, desk: TheDesk, catalogue: TheCatalogue) -> None:
    """Wish for targets tonight; those wished for stay.  None named: the best of the list."""
    require_place(desk)
    keys = wishes.target_keys
    if not keys and (case := _case(db, desk, catalogue, None)) is not None:
        keys = picked(make_prospects(case, desk), default_start(case, desk.moment_utc))
    wish(db, desk.evening, keys, desk.moment_utc)


@router.post("/schedule/again", status_code=204)
def plan_from_now(db: Db, desk: TheDesk) -> None:
    """Let the plan run from now on."""
    require_place(desk)
    plan_again(db, desk.evening, desk.moment_utc)


@router.get("/target/{key}/path")
def get_finding_path(
    key: str, desk: TheDesk, catalogue: TheCatalogue, at_utc: UtcTime | None = None
) -> FindingPath | None:
    """Return the way to a target at a moment; null without a place, or without a star to start."""
    if desk.place is None or desk.night is None:
        return None
    if at_utc is not None:
        require_inside(desk.night, at_utc)
    moment = at_utc or looking_moment(desk.night, desk.moment_utc)
    target = catalogue.get(key)
    return make_path(catalogue, desk.place, target, desk.finders, desk.viewer(), moment)


@router.get("/night")
def get_night(
    desk: TheDesk, catalogue: TheCatalogue, at_utc: UtcTime | None = None
) -> NightFacts | None:
    """Return the night's Moon, planets and passages of Jupiter's moons; null without a place."""
    if desk.place is None or desk.night is None:
        return None
    tonight = _tonight(desk, catalogue, None, at_utc)
    aperture_mm = None if desk.telescope is None else desk.telescope.aperture_mm
    return make_facts(catalogue, desk.place, tonight, aperture_mm)


@router.get("/calendar")
def get_calendar(desk: TheDesk, nights: NightsAhead = NIGHTS) -> Calendar | None:
    """Return the dark hours of the nights from the chosen evening on; null without a place."""
    if desk.place is None or desk.night is None:
        return None
    return dark_calendar(desk.place, desk.night.date, nights)


@router.get("/calendar.ics")
def get_calendar_file(desk: TheDesk, nights: NightsAhead = NIGHTS) -> Response:
    """Return the moonless dark hours of the nights from the chosen evening on, as iCalendar."""
    place = require_place(desk)
    assert desk.night is not None
    calendar = dark_calendar(place, desk.night.date, nights)
    written = write_calendar(calendar, place, desk.moment_utc)
    return download(written, "text/calendar", "dark-hours.ics")


def _case(
    db: sqlite3.Connection, desk: Desk, catalogue: Catalogue, at_utc: dt.datetime | None
) -> Case | None:
    if desk.place is None or desk.night is None:
        return None
    ladder = desk.ladder_of(desk.telescope, desk.diagonal) if desk.telescope else None
    tonight = _tonight(desk, catalogue, ladder, at_utc)
    return make_case(desk, catalogue, tonight, ladder, noted_targets(db))


def _tonight(
    desk: Desk, catalogue: Catalogue, ladder: Ladder | None, at_utc: dt.datetime | None
) -> Tonight:
    assert desk.place is not None and desk.night is not None
    at = (desk.place, desk.night, desk.now, ladder, desk.choice.school, at_utc)
    return make_tonight(catalogue.bodies_only(), *at)
