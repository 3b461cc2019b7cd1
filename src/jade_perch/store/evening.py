"""Places, the choices that stay, and the evenings with what holds for each alone."""

import datetime as dt
import sqlite3
from collections.abc import Mapping
from typing import Any

from jade_perch.core.evening.context import MOST_RUNGS, EveningOnly, EveningRow, UsualChoice
from jade_perch.core.site import Site
from jade_perch.core.sky.night import evening_date
from jade_perch.core.units import Units
from jade_perch.store.connection import atomic
from jade_perch.store.items import (
    ItemTable,
    add_item,
    find_item,
    find_or_first,
    get_item,
    plain,
    readable_part,
    replace_item,
    select_items,
)
from jade_perch.store.kit import OBSERVERS, TELESCOPES

SITES = ItemTable("site", Site)
EVENINGS = ItemTable(
    "evening", EveningRow, order_by="date DESC", stands_by=("id", "date", "site_id")
)
USUAL = """
SELECT site_id, date, telescope_id, observer_id, school, amplifiers_on, rungs, target_key,
       listed, length_unit, temperature_unit
  FROM usual_choice
 WHERE id = 1
"""
KEEP_USUAL = """
INSERT INTO usual_choice
  (id, site_id, date, telescope_id, observer_id, school, amplifiers_on, rungs, target_key,
   listed, length_unit, temperature_unit)
VALUES
  (1, :site_id, :date, :telescope_id, :observer_id, :school, :amplifiers_on, :rungs, :target_key,
   :listed, :length_unit, :temperature_unit)
ON CONFLICT (id) DO UPDATE SET
  site_id = excluded.site_id,
  date = excluded.date,
  telescope_id = excluded.telescope_id,
  observer_id = excluded.observer_id,
  school = excluded.school,
  amplifiers_on = excluded.amplifiers_on,
  rungs = excluded.rungs,
  target_key = excluded.target_key,
  listed = excluded.listed,
  length_unit = excluded.length_unit,
  temperature_unit = excluded.temperature_unit
"""
EVENING_OF = """
SELECT id, version, date, site_id, steadiness, transparency, faintest_seen_mag, people_ids,
       landmark, planned_from_utc
  FROM evening
 WHERE date IS :date
   AND site_id IS :site_id
   AND deleted_at_utc IS NULL
"""
CHOSEN: tuple[tuple[ItemTable[Any], str], ...] = (
    (SITES, "site_id"),
    (TELESCOPES, "telescope_id"),
    (OBSERVERS, "observer_id"),
)
FORGET_EVENING = "DELETE FROM evening WHERE id = :id"
DRIFT_STARTED = "SELECT drift_started_at_utc FROM usual_choice WHERE id = 1"
LONGEST_DRIFT = dt.timedelta(days=1)  # after it every star is back
START_DRIFT = """
UPDATE usual_choice
   SET drift_started_at_utc = :at_utc
 WHERE id = 1
"""


def usual_choice(db: sqlite3.Connection) -> UsualChoice:
    """Return the choices that stay, or the defaults before anything was chosen.

    A choice that cannot be read any more counts as never made.
    """
    row = db.execute(USUAL).fetchone()
    return readable_part(UsualChoice, {} if row is None else dict(row))


def chosen_units(db: sqlite3.Connection) -> Units:
    """Return how lengths and temperatures are said."""
    usual = usual_choice(db)
    return Units(length=usual.length_unit, temperature=usual.temperature_unit)


def change_usual(db: sqlite3.Connection, changes: Mapping[str, Any]) -> UsualChoice:
    """Store those choices that a change names, inside a transaction; the others stay.

    Rungs are merged telescope by telescope.  Raises ``NotFound`` for a site, telescope or
    observer that is gone.
    """
    before = usual_choice(db)
    for table, field in CHOSEN:
        # what was chosen and is gone meanwhile is let go by naming it again, not held against it
        if changes.get(field) is not None and changes[field] != getattr(before, field):
            get_item(db, table, changes[field])
    rungs = {**before.rungs, **changes.get("rungs", {})}
    rungs = dict(list(rungs.items())[-MOST_RUNGS:])
    after = before.model_copy(update={**changes, "rungs": rungs})
    values = {name: plain(getattr(after, name)) for name in UsualChoice.model_fields}
    db.execute(KEEP_USUAL, values)
    return after


def living_choice(db: sqlite3.Connection) -> UsualChoice:
    """Return the choices that stay, as far as what they name is still there."""
    kept = usual_choice(db)
    gone = {
        field: None for table, field in CHOSEN if find_item(db, table, getattr(kept, field)) is None
    }
    return kept.model_copy(update=gone)


def keep_view(db: sqlite3.Connection, changes: Mapping[str, Any]) -> None:
    """Keep the rung and the target of the view, in a transaction of their own."""
    with atomic(db):
        change_usual(db, changes)


def chosen_site(db: sqlite3.Connection, site_id: int | None) -> Site | None:
    """Return the chosen site, or the only one or first by name, or None when there is none."""
    return find_or_first(db, SITES, site_id)


def evening_of(db: sqlite3.Connection, day: dt.date | None, site_id: int | None) -> EveningRow:
    """Return the evening of a date at a place; without an id where nothing is kept of it yet."""
    at = {"date": plain(day), "site_id": site_id}
    found = next(iter(select_items(db, EVENINGS, EVENING_OF, at)), None)
    return found or EveningRow(date=day, site_id=site_id)


def ensure_evening(db: sqlite3.Connection, day: dt.date | None, site_id: int | None) -> EveningRow:
    """Return the evening of a date at a place, kept from now on."""
    found = evening_of(db, day, site_id)
    return found if found.id is not None else add_item(db, EVENINGS, found)


def change_evening(
    db: sqlite3.Connection, evening: EveningRow, changes: Mapping[str, Any]
) -> EveningRow:
    """Store what holds for one evening alone, inside a transaction; fields not named stay."""
    kept = ensure_evening(db, evening.date, evening.site_id)
    after = kept.model_copy(update=dict(changes))
    return replace_item(db, EVENINGS, after.id or 0, after)


def drift_started(db: sqlite3.Connection, now_utc: dt.datetime) -> dt.datetime | None:
    """Return when the running drift was started, or None while none runs.

    One left running for longer than a day was forgotten, and runs no more; nor does one that
    begins later than now, after the machine's clock was set back.
    """
    row = db.execute(DRIFT_STARTED).fetchone()
    if row is None or row["drift_started_at_utc"] is None:
        return None
    started = dt.datetime.fromisoformat(row["drift_started_at_utc"])
    return started if dt.timedelta(0) <= now_utc - started <= LONGEST_DRIFT else None


def start_drift(db: sqlite3.Connection, at_utc: dt.datetime | None) -> None:
    """Keep when a drift was started, to the millisecond; None ends it."""
    with atomic(db):
        change_usual(db, {})
        text = None if at_utc is None else at_utc.isoformat(timespec="milliseconds")
        db.execute(START_DRIFT, {"at_utc": text})


def settle_evenings(db: sqlite3.Connection, now_utc: dt.datetime) -> None:
    """Give a date to what was chosen before evenings had one: that of this evening.

    Does nothing where there is no place yet, or nothing undated.
    """
    with atomic(db):
        undated = evening_of(db, None, None)
        place = chosen_site(db, usual_choice(db).site_id)
        if undated.id is None or place is None:
            return
        told = {
            name: getattr(undated, name)
            for name in EveningOnly.model_fields
            if getattr(undated, name) is not None
        }
        tonight = evening_of(db, evening_date(place, now_utc), place.id)
        known = {name for name in told if getattr(tonight, name) is not None}
        change_evening(db, tonight, {k: v for k, v in told.items() if k not in known})
        db.execute(FORGET_EVENING, {"id": undated.id})
