"""Station setup, with the Sun as target: a session opens only through the filter's checklist."""

from fastapi import APIRouter

from jade_perch.api.dependencies import Db
from jade_perch.api.setup import Here, Setting
from jade_perch.core.bench.solar import (
    CHECKS,
    SOLAR_CAUTION,
    ShadowAdvice,
    ShadowInput,
    SolarBoard,
    SolarForbidden,
    SolarOpening,
    SolarSession,
    advise_shadow,
    barred_filters,
    require_filter,
    solar_filters,
    solar_forbids,
    still_open,
)
from jade_perch.core.safety import sun_at
from jade_perch.store.items import add_item, get_item, list_items
from jade_perch.store.kit import LIGHT_FILTERS, UPKEEPS
from jade_perch.store.setup import SOLAR_SESSIONS, close_session, open_session

router = APIRouter(prefix="/setup/solar", tags=["setup"])


@router.get("")
def get_solar(here: Here) -> SolarBoard:
    """Return the checklist, and what forbids a session now."""
    session, is_up = open_session(here.db), sun_at(here.site, here.now_utc).is_up
    is_open = still_open(session, here.telescope, here.now_utc, is_up)
    filters = solar_filters(list_items(here.db, LIGHT_FILTERS))
    return SolarBoard(
        checks=CHECKS,
        caution=SOLAR_CAUTION,
        filters=filters,
        forbids=solar_forbids(filters, barred_here(here), is_up, is_open),
        session=session if is_open else None,
    )


def barred_here(here: Setting) -> dict[int, str]:
    """Return why filters of the kit may not be used today, by their id."""
    filters = solar_filters(list_items(here.db, LIGHT_FILTERS))
    return barred_filters(filters, list_items(here.db, UPKEEPS), here.now_utc.date())


@router.post("", status_code=201)
def open_solar(opening: SolarOpening, here: Here) -> SolarBoard:
    """Open a session; refused unless every check was done and the filter inspected in time."""
    board = get_solar(here)
    if board.forbids:
        raise SolarForbidden(board.forbids)
    require_filter(board.filters, barred_here(here), opening.filter_id)
    close_solar(here)  # one from hours ago or on another tube, if any
    session = SolarSession(
        telescope_name=here.telescope.name,
        filter_name=get_item(here.db, LIGHT_FILTERS, opening.filter_id).name,
        opened_at_utc=here.now_utc,
    )
    add_item(here.db, SOLAR_SESSIONS, session)
    return get_solar(here)


@router.post("/close")
def close_solar(here: Here) -> SolarBoard:
    """End the open session, if any; the tube was turned away before the filter came off."""
    session = open_session(here.db)
    if session is not None:
        close_session(here.db, session, here.now_utc)
    return get_solar(here)


@router.get("/sessions")
def list_sessions(db: Db) -> list[SolarSession]:
    """Return every session, the latest first."""
    return list_items(db, SOLAR_SESSIONS)


@router.post("/shadow")
def ask_shadow(given: ShadowInput, here: Here) -> ShadowAdvice:
    """Return how far the tube points past the Sun, from its shadow."""
    return advise_shadow(given, here.telescope)
