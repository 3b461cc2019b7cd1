"""What every station reads: place, date, telescope, people, and the night they give."""

import datetime as dt

from fastapi import APIRouter

from jade_perch.api.dependencies import Db, TheClock
from jade_perch.api.items import item_router
from jade_perch.api.problems import PROBLEM_MODEL
from jade_perch.core.evening.context import EveningChoice
from jade_perch.core.evening.setup import UNNAMED_MOUNT, SetupMark, ribbon_marks
from jade_perch.core.fields import Frozen
from jade_perch.core.kit import Observer, Telescope
from jade_perch.core.safety import SunWatch, sun_at
from jade_perch.core.site import Site
from jade_perch.core.sky.night import Night, evening_date, make_night
from jade_perch.store.evening import (
    SITES,
    chosen_observer,
    chosen_site,
    chosen_telescope,
    get_choice,
    save_choice,
)
from jade_perch.store.items import find_item
from jade_perch.store.kit import MOUNTS, OBSERVERS
from jade_perch.store.setup import readings_of

router = APIRouter(prefix="/evening", tags=["evening"])
router.include_router(item_router(SITES, "sites"))
router.include_router(item_router(OBSERVERS, "observers"))


class Evening(Frozen):
    """The evening's choices resolved; without a site there is no night and no Sun."""

    choice: EveningChoice
    now_utc: dt.datetime
    clock_is_held: bool
    site: Site | None
    telescope: Telescope | None
    observer: Observer | None
    night: Night | None
    sun: SunWatch | None
    setup: list[SetupMark]


@router.get("", responses=PROBLEM_MODEL)
def get_evening(db: Db, clock: TheClock) -> Evening:
    """Return the evening as every station reads it."""
    choice, now_utc = get_choice(db), clock.now_utc()
    site = chosen_site(db, choice)
    telescope = chosen_telescope(db, choice)
    night = make_night(site, choice.date or evening_date(site, now_utc)) if site else None
    marks: list[SetupMark] = []
    if night is not None and telescope is not None and telescope.id is not None:
        mount = find_item(db, MOUNTS, telescope.mount_id) or UNNAMED_MOUNT
        marks = ribbon_marks(mount, readings_of(db, night.date, telescope.id))
    return Evening(
        choice=choice,
        now_utc=now_utc,
        clock_is_held=clock.frozen_utc is not None,
        site=site,
        telescope=telescope,
        observer=chosen_observer(db, choice),
        night=night,
        sun=sun_at(site, now_utc) if site else None,
        setup=marks,
    )


@router.put("")
def choose_evening(choice: EveningChoice, db: Db, clock: TheClock) -> Evening:
    """Store the choices and return the evening they give."""
    save_choice(db, choice)
    return get_evening(db, clock)
