"""Past evenings: those of which anything is left, newest first, and one of them opened."""

import datetime as dt
import json
import sqlite3
from collections.abc import Sequence

from jade_perch.core.evening.context import EveningRow
from jade_perch.core.evening.journal import Observation
from jade_perch.core.evening.setup import SetupReading
from jade_perch.core.eyepiece.sitting import Sitting, SittingRow
from jade_perch.core.fields import Frozen
from jade_perch.core.journal.evenings import (
    BarMark,
    EveningBar,
    EveningTold,
    evening_sentences,
    make_bar,
    tell_evening,
)
from jade_perch.core.site import Site
from jade_perch.core.sky.calendar import NightShape, night_shapes
from jade_perch.core.sky.catalogue import Catalogue
from jade_perch.core.units import Units
from jade_perch.core.weather import NOTHING_TOLD
from jade_perch.store.errors import NotFound
from jade_perch.store.evening import EVENINGS, SITES
from jade_perch.store.items import get_item, plain, select_items
from jade_perch.store.journal import OBSERVATIONS
from jade_perch.store.setup import READINGS
from jade_perch.store.sittings import SITTINGS
from jade_perch.store.weather import told_hours

PAGE_EVENINGS = 14  # of one answer; as many as a screen shows, and a few more
KEPT = f"""
{EVENINGS.living}
   AND date IS NOT NULL
   AND (:before_date IS NULL OR (date, id) < (:before_date, :before_id))
   AND (EXISTS (SELECT 1 FROM observation AS o
                 WHERE o.evening_id = evening.id AND o.deleted_at_utc IS NULL)
     OR EXISTS (SELECT 1 FROM setup_reading AS r
                 WHERE r.evening_id = evening.id AND r.deleted_at_utc IS NULL)
     OR EXISTS (SELECT 1 FROM sitting AS s
                 WHERE s.evening_id = evening.id AND s.deleted_at_utc IS NULL
                   AND json_extract(s.sitting, '$.begun_utc') IS NOT NULL))
 ORDER BY date DESC, id DESC
 LIMIT :most
"""
COUNT = """
SELECT count(*) AS notes, count(DISTINCT evening_id) AS evenings
  FROM observation
 WHERE deleted_at_utc IS NULL
"""
# Also places that were taken out since: what was seen there was seen there.
PLACES = f"{SITES.every} WHERE id IN (SELECT value FROM json_each(:ids))"
MARKS = """
SELECT id, evening_id, observed_at_utc AS at_utc, object_name, outcome, zone
  FROM observation
 WHERE evening_id IN (SELECT value FROM json_each(:ids))
   AND deleted_at_utc IS NULL
 ORDER BY observed_at_utc, id
"""
SITTINGS_OF = f"{SITTINGS.living} AND evening_id IN (SELECT value FROM json_each(:ids))"
NOTES_OF = f"{OBSERVATIONS.living} AND evening_id = :evening_id ORDER BY observed_at_utc, id"
READINGS_OF = f"{READINGS.living} AND evening_id = :evening_id ORDER BY recorded_at_utc, id"
NAMES_OF = {
    "telescope": "SELECT id, name FROM telescope",
    "observer": "SELECT id, name FROM observer",
}


class EveningPage(Frozen):
    """Some evenings, newest first; ``is_all`` where no more follow.  Counts are of everything."""

    bars: list[EveningBar]
    is_all: bool
    notes: int
    evenings: int


def past_evenings(
    db: sqlite3.Connection, catalogue: Catalogue, before: tuple[dt.date, int] | None = None
) -> EveningPage:
    """Return the next evenings of which anything is left, after the last one that was had."""
    at = {"before_date": None, "before_id": None, "most": PAGE_EVENINGS + 1}
    if before is not None:
        at |= {"before_date": plain(before[0]), "before_id": before[1]}
    found = select_items(db, EVENINGS, KEPT, at)
    count = db.execute(COUNT).fetchone()
    return EveningPage(
        bars=_bars(db, found[:PAGE_EVENINGS], catalogue),
        is_all=len(found) <= PAGE_EVENINGS,
        notes=count["notes"],
        evenings=count["evenings"],
    )


def open_evening(
    db: sqlite3.Connection, evening_id: int, catalogue: Catalogue, units: Units
) -> EveningTold:
    """Return one evening whole; raises ``NotFound``."""
    evening = get_item(db, EVENINGS, evening_id)
    if evening.date is None:  # chosen before there was a place; nothing belongs to it
        raise NotFound(EVENINGS.kind, evening_id)
    (bar,) = _bars(db, [evening], catalogue)
    told = NOTHING_TOLD
    if evening.site_id is not None:
        told = told_hours(db, evening.site_id, bar.start_utc, bar.end_utc)
    sitting = _sittings(db, [evening_id]).get(evening_id, Sitting())
    people, telescopes = (_names(db, NAMES_OF[kind]) for kind in ("observer", "telescope"))
    readings: list[SetupReading] = select_items(
        db, READINGS, READINGS_OF, {"evening_id": evening_id}
    )
    notes: list[Observation] = select_items(db, OBSERVATIONS, NOTES_OF, {"evening_id": evening_id})
    return tell_evening(
        bar,
        notes,
        [(one, telescopes.get(one.telescope_id, "")) for one in readings],
        evening_sentences(evening, people, told, bar, sitting, units),
    )


def _bars(
    db: sqlite3.Connection, evenings: Sequence[EveningRow], catalogue: Catalogue
) -> list[EveningBar]:
    ids = [one.id or 0 for one in evenings]
    places = places_by_id(db, [one.site_id for one in evenings if one.site_id is not None])
    shapes = _shapes(evenings, places)
    sittings = _sittings(db, ids)
    marks: dict[int, list[BarMark]] = {}
    zones: dict[int, str] = {}
    for row in db.execute(MARKS, {"ids": json.dumps(ids)}):
        values = dict(row)
        evening_id, zone = values.pop("evening_id"), values.pop("zone")
        marks.setdefault(evening_id, []).append(BarMark.model_validate(values))
        zones.setdefault(evening_id, zone)
    return [
        make_bar(
            one,
            None if one.site_id is None else places.get(one.site_id),
            shapes.get(one.id or 0),
            marks.get(one.id or 0, []),
            sittings.get(one.id or 0, Sitting()),
            catalogue,
            zones.get(one.id or 0, "UTC"),
        )
        for one in evenings
        if one.date is not None
    ]


def _shapes(evenings: Sequence[EveningRow], places: dict[int, Site]) -> dict[int, NightShape]:
    """Return the shapes of nights by evening, place by place in one pass each."""
    found: dict[int, NightShape] = {}
    for site_id, place in places.items():
        here = [one for one in evenings if one.site_id == site_id and one.date is not None]
        shapes = night_shapes(place, tuple(one.date for one in here if one.date is not None))
        for one in here:
            if one.date in shapes:
                found[one.id or 0] = shapes[one.date]
    return found


def places_by_id(db: sqlite3.Connection, ids: Sequence[int]) -> dict[int, Site]:
    """Return places by id, also those that were taken out since."""
    found: list[Site] = select_items(db, SITES, PLACES, {"ids": json.dumps(sorted(set(ids)))})
    return {one.id or 0: one for one in found}


def _sittings(db: sqlite3.Connection, ids: Sequence[int]) -> dict[int, Sitting]:
    rows: list[SittingRow] = select_items(db, SITTINGS, SITTINGS_OF, {"ids": json.dumps(ids)})
    return {one.evening_id: one.sitting for one in rows}


def _names(db: sqlite3.Connection, statement: str) -> dict[int, str]:
    return {row["id"]: row["name"] for row in db.execute(statement)}
