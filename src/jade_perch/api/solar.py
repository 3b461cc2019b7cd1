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
    require_filter,
    solar_forbids,
)
from jade_perch.core.evening.checklist import Due, due_tasks
from jade_perch.core.kit import LightFilter
from jade_perch.core.safety import sun_at
from jade_perch.store.items import add_item, get_item, list_items
from jade_perch.store.kit import LIGHT_FILTERS, UPKEEPS, item_names
from jade_perch.store.setup import SOLAR_SESSIONS, close_session, open_session

router = APIRouter(prefix="/setup/solar", tags=["setup"])


@router.get("")
def get_solar(here: Here) -> SolarBoard:
    """Return the checklist, and what forbids a session now."""
    return solar_board(here, *_filters(here))


def solar_board(here: Setting, filters: list[LightFilter], due: dict[int, Due]) -> SolarBoard:
    """Return what stands between now and a session; ``due`` are overdue inspections."""
    session = open_session(here.db)
    is_up = sun_at(here.site, here.now_utc).is_up
    return SolarBoard(
        checks=CHECKS,
        caution=SOLAR_CAUTION,
        filters=filters,
        forbids=solar_forbids(filters, due, is_up, session is not None),
        session=session,
    )


def _filters(here: Setting) -> tuple[list[LightFilter], dict[int, Due]]:
    """Return the solar front filters, and the overdue or missing inspections by filter id."""
    filters = [one for one in list_items(here.db, LIGHT_FILTERS) if one.kind == "solar_front"]
    upkeeps = list_items(here.db, UPKEEPS)
    due = due_tasks(upkeeps, item_names(here.db), here.now_utc.date())
    inspections = [one for one in due if one.upkeep.task == "inspection"]
    overdue = {
        one.upkeep.item_id: one for one in inspections if one.upkeep.item_kind == "light_filter"
    }
    return filters, overdue


@router.post("", status_code=201)
def open_solar(opening: SolarOpening, here: Here) -> SolarBoard:
    """Open a session; refused unless every check was done and the filter inspected in time."""
    filters, due = _filters(here)
    board = solar_board(here, filters, due)
    if board.forbids:
        raise SolarForbidden(board.forbids)
    require_filter(filters, due, opening.filter_id)
    session = SolarSession(
        telescope_name=here.telescope.name,
        filter_name=get_item(here.db, LIGHT_FILTERS, opening.filter_id).name,
        opened_at_utc=here.now_utc,
    )
    add_item(here.db, SOLAR_SESSIONS, session)
    return solar_board(here, filters, due)


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
