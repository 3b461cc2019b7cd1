"""The Sun guard as routes ask for it: no step that aims is answered without it."""

import sqlite3
from dataclasses import dataclass
from typing import Annotated, Protocol

from fastapi import Depends

from jade_perch.api.dependencies import Db, TheClock, TheReadyDesk
from jade_perch.core.bench.landmark import Aim
from jade_perch.core.bench.solar import (
    SolarNow,
    SolarSession,
    barred_filters,
    solar_filters,
    still_open,
)
from jade_perch.core.bench.sunguard import LandmarkCheck, guard, require_safe
from jade_perch.core.evening.desk import ReadyDesk
from jade_perch.core.kit import LightFilter
from jade_perch.core.safety import sun_at
from jade_perch.core.upkeep import NEVER_USED
from jade_perch.devices.clock import HouseClock
from jade_perch.store.items import list_items
from jade_perch.store.kit import LIGHT_FILTERS, UPKEEPS
from jade_perch.store.practice import sun_is_passed
from jade_perch.store.setup import open_session
from jade_perch.store.uses import uses


class Aims(Protocol):
    """What a step is told, as far as it says where the tube looks."""

    def aim(self) -> Aim:
        """Return what it has the tube look at."""


@dataclass(frozen=True)
class SunGuard:
    """The guard of one request: tonight's place and telescope, now, and the session not ended."""

    desk: ReadyDesk
    filters: list[LightFilter]
    barred: dict[int, str]
    solar: SolarNow
    session: SolarSession | None

    def look(self, given: Aims) -> LandmarkCheck:
        """Return whether what a step is told may be aimed at, refusing nothing."""
        return self._check(given.aim())

    def require(self, given: Aims) -> LandmarkCheck:
        """Return the check of something that may be aimed at; raises ``SunRefusal`` otherwise."""
        aim = given.aim()
        return require_safe(self._check(aim), aim, self.desk.place.zone)

    def _check(self, aim: Aim) -> LandmarkCheck:
        is_open = still_open(self.session, self.solar)
        return guard(aim, self.desk.place, self.desk.now, session_is_open=is_open)


def the_guard(db: Db, clock: TheClock, desk: TheReadyDesk) -> SunGuard:
    """Return the Sun guard at this moment."""
    return make_guard(db, clock, desk)


def make_guard(db: sqlite3.Connection, clock: HouseClock, desk: ReadyDesk) -> SunGuard:
    """Return the Sun guard of a desk, with the solar session as it stands in the database."""
    filters = solar_filters(list_items(db, LIGHT_FILTERS))
    upkeeps = list_items(db, UPKEEPS)
    by_use = any(one.every_uses is not None for one in upkeeps)
    used = uses(db) if by_use else NEVER_USED
    barred = barred_filters(filters, upkeeps, desk.moment_utc.date(), used)
    at = SolarNow(
        telescope=desk.telescope,
        good_filters=tuple(one for one in filters if one.id not in barred),
        now=desk.now,
        real_utc=clock.real_utc(),
        sun_is_up=sun_at(desk.place, desk.now).is_up,
        drill_is_passed=sun_is_passed(db, desk, clock.real_utc()),
    )
    return SunGuard(desk, filters, barred, at, open_session(db))


TheGuard = Annotated[SunGuard, Depends(the_guard)]
