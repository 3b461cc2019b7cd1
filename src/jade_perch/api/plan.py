"""Station plan: what is honestly worth looking at tonight."""

from typing import Annotated

from fastapi import Response
from pydantic import Field

from jade_perch.api.cases import case_of, plan_of, tonight_of
from jade_perch.api.dependencies import Db, TheCatalogue, TheDesk
from jade_perch.api.downloads import download
from jade_perch.api.hours import TheHours
from jade_perch.api.items import add_item_routes
from jade_perch.api.stations import station
from jade_perch.core.evening.closer import Closer, look_closer
from jade_perch.core.evening.context import ListName
from jade_perch.core.evening.desk import require_place
from jade_perch.core.evening.finding import FindingPath, make_path
from jade_perch.core.evening.interest import looking_moment
from jade_perch.core.evening.nightfacts import NightFacts, make_facts
from jade_perch.core.evening.plan import MOST_ITEMS, Plan, default_start, picked
from jade_perch.core.evening.prospects import Prospects, make_prospects
from jade_perch.core.fields import Frozen, Label, Name, UtcTime
from jade_perch.core.sky.calendar import NIGHTS, Calendar, NightsAhead, dark_calendar
from jade_perch.core.sky.night import require_inside
from jade_perch.exchange.calendar_ics import write_calendar
from jade_perch.store.plan import PLAN_ITEMS, plan_again, wish

router = station("/plan", "plan")
add_item_routes(router, PLAN_ITEMS, "items")


@router.get("/tonight")
def get_tonight(
    db: Db,
    desk: TheDesk,
    catalogue: TheCatalogue,
    listed: ListName | None = None,
    at_utc: UtcTime | None = None,
) -> Prospects | None:
    """Return tonight's list for the chosen place and telescope; null without a place.

    Places hold for ``at_utc``, else for now; a list by name, else as chosen, else by kit and sky.
    """
    case = case_of(db, desk, catalogue, at_utc)
    return None if case is None else make_prospects(case, desk, listed)


@router.get("/target/{key}")
def get_target_closer(
    key: Label, db: Db, desk: TheDesk, catalogue: TheCatalogue, at_utc: UtcTime | None = None
) -> Closer | None:
    """Return one target told whole; null without a place, refused for nothing known."""
    case = case_of(db, desk, catalogue, at_utc)
    return None if case is None else look_closer(case, key)


class Wishes(Frozen):
    """Targets to plan, by any of their names."""

    target_keys: Annotated[list[Name], Field(max_length=MOST_ITEMS)]


@router.get("/schedule")
def get_schedule(db: Db, desk: TheDesk, catalogue: TheCatalogue, hours: TheHours) -> Plan | None:
    """Return tonight's plan; null without a place."""
    found = plan_of(db, desk, catalogue, hours)
    return None if found is None else found.plan


@router.post("/schedule", status_code=204)
def add_wishes(wishes: Wishes, db: Db, desk: TheDesk, catalogue: TheCatalogue) -> None:
    """Wish for targets tonight; those wished for stay.  None named: the best of the list."""
    require_place(desk)
    keys = wishes.target_keys
    if not keys and (case := case_of(db, desk, catalogue, None)) is not None:
        keys = picked(make_prospects(case, desk), default_start(case, desk.moment_utc))
    wish(db, desk.evening, keys, desk.moment_utc)


@router.post("/schedule/again", status_code=204)
def plan_from_now(db: Db, desk: TheDesk) -> None:
    """Let the plan run from now on."""
    require_place(desk)
    plan_again(db, desk.evening, desk.moment_utc)


@router.get("/target/{key}/path")
def get_finding_path(
    key: Label, desk: TheDesk, catalogue: TheCatalogue, at_utc: UtcTime | None = None
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
    tonight = tonight_of(desk, catalogue, None, at_utc)
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
