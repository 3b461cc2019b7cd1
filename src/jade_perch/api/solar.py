"""Station setup, with the Sun as target: a session opens only through the filter's checklist."""

import sqlite3

from fastapi import APIRouter

from jade_perch.api.dependencies import Db, TheReadyDesk
from jade_perch.core.bench.advice import Advice
from jade_perch.core.bench.solar import (
    ShadowInput,
    SolarBoard,
    SolarForbidden,
    SolarOpening,
    SolarSession,
    advise_shadow,
    barred_filters,
    require_filter,
    solar_board,
    solar_filters,
)
from jade_perch.core.evening.desk import ReadyDesk
from jade_perch.core.kit import LightFilter
from jade_perch.core.safety import sun_at
from jade_perch.store.items import add_item, get_item, list_items
from jade_perch.store.kit import LIGHT_FILTERS, UPKEEPS
from jade_perch.store.setup import SOLAR_SESSIONS, end_session, open_session

router = APIRouter(prefix="/setup/solar", tags=["setup"])


@router.get("")
def get_solar(db: Db, desk: TheReadyDesk) -> SolarBoard:
    """Return the checklist, and what forbids a session now."""
    return _board(db, desk, *_filters(db, desk))


def _board(
    db: sqlite3.Connection, desk: ReadyDesk, filters: list[LightFilter], barred: dict[int, str]
) -> SolarBoard:
    """Return what stands between now and a session; ``barred`` by filter id."""
    is_up = sun_at(desk.place, desk.moment_utc).is_up
    at = (desk.telescope, desk.moment_utc)
    return solar_board(open_session(db), filters, barred, *at, sun_is_up=is_up)


def _filters(db: sqlite3.Connection, desk: ReadyDesk) -> tuple[list[LightFilter], dict[int, str]]:
    """Return the solar front filters, and by id why some may not be used today."""
    filters = solar_filters(list_items(db, LIGHT_FILTERS))
    upkeeps = list_items(db, UPKEEPS)
    return filters, barred_filters(filters, upkeeps, desk.moment_utc.date())


@router.post("", status_code=201)
def open_solar(opening: SolarOpening, db: Db, desk: TheReadyDesk) -> SolarBoard:
    """Open a session; refused unless every check was done and the filter inspected in time."""
    filters, barred = _filters(db, desk)
    board = _board(db, desk, filters, barred)
    if board.forbids:
        raise SolarForbidden(board.forbids)
    require_filter(filters, barred, opening.filter_id)
    end_session(db, desk.moment_utc)  # one from hours ago or on another tube, if any
    session = SolarSession(
        telescope_name=desk.telescope.name,
        filter_name=get_item(db, LIGHT_FILTERS, opening.filter_id).name,
        opened_at_utc=desk.moment_utc,
    )
    add_item(db, SOLAR_SESSIONS, session)
    return _board(db, desk, filters, barred)


@router.post("/close")
def close_solar(db: Db, desk: TheReadyDesk) -> SolarBoard:
    """End the open session, if any; the tube was turned away before the filter came off."""
    end_session(db, desk.moment_utc)
    return get_solar(db, desk)


@router.get("/sessions")
def list_sessions(db: Db) -> list[SolarSession]:
    """Return every session, the latest first."""
    return list_items(db, SOLAR_SESSIONS)


@router.post("/shadow")
def ask_shadow(given: ShadowInput, desk: TheReadyDesk) -> Advice:
    """Return how far the tube points past the Sun, from its shadow."""
    return advise_shadow(given, desk.telescope)
