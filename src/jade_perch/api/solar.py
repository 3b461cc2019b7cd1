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
from jade_perch.core.kit import LightFilter
from jade_perch.core.safety import sun_at
from jade_perch.store.items import add_item, get_item, list_items
from jade_perch.store.kit import LIGHT_FILTERS, UPKEEPS
from jade_perch.store.setup import SOLAR_SESSIONS, close_session, open_session

router = APIRouter(prefix="/setup/solar", tags=["setup"])


@router.get("")
def get_solar(here: Here) -> SolarBoard:
    """Return the checklist, and what forbids a session now."""
    return solar_board(here, *_filters(here))


def solar_board(here: Setting, filters: list[LightFilter], barred: dict[int, str]) -> SolarBoard:
    """Return what stands between now and a session; ``barred`` by filter id."""
    session, is_up = open_session(here.db), sun_at(here.site, here.now_utc).is_up
    is_open = still_open(session, here.telescope, here.now_utc, is_up)
    return SolarBoard(
        checks=CHECKS,
        caution=SOLAR_CAUTION,
        filters=filters,
        forbids=solar_forbids(filters, barred, is_up, is_open),
        session=session if is_open else None,
    )


def _filters(here: Setting) -> tuple[list[LightFilter], dict[int, str]]:
    """Return the solar front filters, and by id why some may not be used today."""
    filters = solar_filters(list_items(here.db, LIGHT_FILTERS))
    upkeeps = list_items(here.db, UPKEEPS)
    return filters, barred_filters(filters, upkeeps, here.now_utc.date())


def _end_session(here: Setting) -> None:
    session = open_session(here.db)
    if session is not None:
        close_session(here.db, session, here.now_utc)


@router.post("", status_code=201)
def open_solar(opening: SolarOpening, here: Here) -> SolarBoard:
    """Open a session; refused unless every check was done and the filter inspected in time."""
    filters, barred = _filters(here)
    board = solar_board(here, filters, barred)
    if board.forbids:
        raise SolarForbidden(board.forbids)
    require_filter(filters, barred, opening.filter_id)
    _end_session(here)  # one from hours ago or on another tube, if any
    session = SolarSession(
        telescope_name=here.telescope.name,
        filter_name=get_item(here.db, LIGHT_FILTERS, opening.filter_id).name,
        opened_at_utc=here.now_utc,
    )
    add_item(here.db, SOLAR_SESSIONS, session)
    return solar_board(here, filters, barred)


@router.post("/close")
def close_solar(here: Here) -> SolarBoard:
    """End the open session, if any; the tube was turned away before the filter came off."""
    _end_session(here)
    return get_solar(here)


@router.get("/sessions")
def list_sessions(db: Db) -> list[SolarSession]:
    """Return every session, the latest first."""
    return list_items(db, SOLAR_SESSIONS)


@router.post("/shadow")
def ask_shadow(given: ShadowInput, here: Here) -> ShadowAdvice:
    """Return how far the tube points past the Sun, from its shadow."""
    return advise_shadow(given, here.telescope)
