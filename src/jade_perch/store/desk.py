"""The desk read from what is kept, and the choices that change it."""

import sqlite3
from datetime import datetime

from jade_perch.core.evening.context import (
    EveningChoice,
    EveningOnly,
    EveningRow,
    UsualChoice,
)
from jade_perch.core.evening.desk import Desk
from jade_perch.core.kit import Telescope
from jade_perch.core.moments import Now
from jade_perch.core.site import Site
from jade_perch.core.sky.night import evening_date, make_night
from jade_perch.store.connection import atomic
from jade_perch.store.evening import (
    change_evening,
    change_usual,
    chosen_site,
    evening_of,
    living_choice,
)
from jade_perch.store.items import find_item, find_or_first, list_items
from jade_perch.store.journal import power_notes
from jade_perch.store.kit import (
    AMPLIFIERS,
    DIAGONALS,
    EYEPIECES,
    FINDERS,
    MOUNTS,
    OBSERVERS,
    TELESCOPES,
)
from jade_perch.store.setup import end_session
from jade_perch.store.weather import told_weather


def read_desk(db: sqlite3.Connection, now: Now) -> Desk:
    """Return the evening as every station reads it, at a moment."""
    usual = living_choice(db)
    place, telescope = _chosen(db, usual)
    evening = _evening(db, usual, place, now.moment_utc)
    own = None if telescope is None else telescope.id
    alone = {name: getattr(evening, name) for name in EveningOnly.model_fields}
    night = None if place is None or evening.date is None else make_night(place, evening.date)
    return Desk(
        moment_utc=now.moment_utc,
        clock=now.clock,
        choice=EveningChoice(**usual.model_dump(), **alone),
        evening=evening,
        place=place,
        night=night,
        told=told_weather(db, place, night),
        telescope=telescope,
        mount=None if telescope is None else find_item(db, MOUNTS, telescope.mount_id),
        diagonal=None if telescope is None else find_item(db, DIAGONALS, telescope.diagonal_id),
        finders=tuple(one for one in list_items(db, FINDERS) if own and one.telescope_id == own),
        eyepieces=tuple(list_items(db, EYEPIECES)),
        amplifiers=tuple(list_items(db, AMPLIFIERS)),
        observer=find_item(db, OBSERVERS, usual.observer_id),
        everybody=tuple(list_items(db, OBSERVERS)),
        power_notes=power_notes(db),
    )


def _chosen(db: sqlite3.Connection, usual: UsualChoice) -> tuple[Site | None, Telescope | None]:
    telescope = find_or_first(db, TELESCOPES, usual.telescope_id)
    return chosen_site(db, usual.site_id), telescope


def _evening(
    db: sqlite3.Connection, usual: UsualChoice, place: Site | None, now_utc: datetime
) -> EveningRow:
    if place is None:
        return evening_of(db, None, None)
    return evening_of(db, usual.date or evening_date(place, now_utc), place.id)


def choose(db: sqlite3.Connection, change: EveningChoice, now: Now) -> Desk:
    """Store the fields a change names, and no other, and return the desk they give.

    What holds for one evening goes to the evening that is chosen afterwards, so a change may
    name both.  Another telescope or place ends a solar session.  Raises ``NotFound`` for things
    that are gone; then nothing is stored.
    """
    named = {name: getattr(change, name) for name in change.model_fields_set}
    with atomic(db):
        before = _chosen(db, living_choice(db))
        usual = change_usual(db, {k: v for k, v in named.items() if k in UsualChoice.model_fields})
        alone = {k: v for k, v in named.items() if k in EveningOnly.model_fields}
        if alone:
            place = chosen_site(db, usual.site_id)
            change_evening(db, _evening(db, usual, place, now.moment_utc), alone)
        if _chosen(db, living_choice(db)) != before:
            end_session(db, now.moment_utc)  # swapping back does not open it again
        return read_desk(db, now)
