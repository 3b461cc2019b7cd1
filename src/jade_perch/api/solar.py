"""Station setup, with the Sun as target: a session opens only through the filter's checklist."""

from jade_perch.api.dependencies import Db, TheClock, TheReadyDesk
from jade_perch.api.guard import SunGuard, TheGuard, make_guard
from jade_perch.api.stations import station
from jade_perch.core.bench.solar import (
    ShadowAdvice,
    ShadowInput,
    SolarBoard,
    SolarForbidden,
    SolarOpening,
    SolarSession,
    advise_shadow,
    require_filter,
    solar_board,
)
from jade_perch.store.items import add_item, list_items
from jade_perch.store.setup import SOLAR_SESSIONS, end_session

router = station("/setup/solar", "setup")


@router.get("")
def get_solar(sun: TheGuard) -> SolarBoard:
    """Return the checklist, and what forbids a session now."""
    return _board(sun)


def _board(sun: SunGuard) -> SolarBoard:
    return solar_board(sun.session, sun.filters, sun.barred, sun.solar)


@router.post("", status_code=201)
def open_solar(
    opening: SolarOpening, db: Db, clock: TheClock, desk: TheReadyDesk, sun: TheGuard
) -> SolarBoard:
    """Open a session; refused unless every check was done and the filter inspected in time."""
    board = _board(sun)
    if board.forbids:
        raise SolarForbidden(board.forbids)
    foil = require_filter(sun.filters, sun.barred, opening.filter_id)
    end_session(db, desk.moment_utc)  # one from hours ago or on another tube, if any
    session = SolarSession(
        telescope_name=desk.telescope.name,
        filter_name=foil.name,
        opened_at_utc=desk.moment_utc,
        telescope_id=desk.telescope.id,
        telescope_version=desk.telescope.version,
        filter_id=foil.id,
        filter_version=foil.version,
        real_opened_at_utc=sun.solar.real_utc,
    )
    add_item(db, SOLAR_SESSIONS, session)
    return _board(make_guard(db, clock, desk))


@router.post("/close")
def close_solar(db: Db, clock: TheClock, desk: TheReadyDesk) -> SolarBoard:
    """End the open session, if any; the tube was turned away before the filter came off."""
    end_session(db, desk.moment_utc)
    return _board(make_guard(db, clock, desk))


@router.get("/sessions")
def list_sessions(db: Db) -> list[SolarSession]:
    """Return every session, the latest first."""
    return list_items(db, SOLAR_SESSIONS)


@router.post("/shadow")
def ask_shadow(given: ShadowInput, desk: TheReadyDesk, sun: TheGuard) -> ShadowAdvice:
    """Return how far the tube points past the Sun; refused without an open session."""
    return advise_shadow(given, desk.telescope, desk.now, sun.require(given))
