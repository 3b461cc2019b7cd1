"""Station plan: what is honestly worth looking at tonight."""

import datetime as dt
import sqlite3

from fastapi import APIRouter, Response

from jade_perch.api.dependencies import Db, TheCatalogue, TheDesk
from jade_perch.core.errors import OutOfRange
from jade_perch.core.evening.closer import Closer, look_closer
from jade_perch.core.evening.desk import Desk
from jade_perch.core.evening.nightfacts import NightFacts, make_facts
from jade_perch.core.evening.prospect import Case
from jade_perch.core.evening.prospects import ListName, Prospects, make_case, make_prospects
from jade_perch.core.evening.tonight import Tonight, make_tonight
from jade_perch.core.fields import UtcTime
from jade_perch.core.optics.ladder import Ladder
from jade_perch.core.sky.calendar import NIGHTS, Calendar, NightsAhead, dark_calendar
from jade_perch.core.sky.catalogue import Catalogue
from jade_perch.exchange.calendar_ics import write_calendar
from jade_perch.store.journal import noted_targets

router = APIRouter(prefix="/plan", tags=["plan"])


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
    if desk.place is None or desk.night is None:
        raise OutOfRange("place", "(nothing)", "a place", "Choose your place first.")
    calendar = dark_calendar(desk.place, desk.night.date, nights)
    headers = {"Content-Disposition": 'attachment; filename="dark-hours.ics"'}
    written = write_calendar(calendar, desk.place, desk.moment_utc)
    return Response(written, media_type="text/calendar", headers=headers)


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
