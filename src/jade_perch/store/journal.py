"""The table of the journal station."""

import sqlite3

from jade_perch.core.evening.journal import Observation
from jade_perch.core.sky.catalogue import catalogue
from jade_perch.core.sky.night import evening_date
from jade_perch.store.connection import atomic
from jade_perch.store.evening import SITES, ensure_evening
from jade_perch.store.items import ItemTable, list_items, select_items


def _with_its_evening(db: sqlite3.Connection, observation: Observation) -> Observation:
    """Return an observation with the evening it belongs to, and its target where that is known.

    The evening is the one at the place it names; without such a place, that of its own date.
    """
    wanted = observation.site_name.casefold()
    place = next((one for one in list_items(db, SITES) if one.name.casefold() == wanted), None)
    day = (
        observation.local_evening()
        if place is None
        else evening_date(place, observation.observed_at_utc)
    )
    evening = ensure_evening(db, day, None if place is None else place.id)
    found = catalogue().find(observation.object_name)
    return observation.model_copy(
        update={"evening_id": evening.id, "target_key": None if found is None else found.key}
    )


OBSERVATIONS = ItemTable(
    "observation", Observation, order_by="observed_at_utc DESC", prepare=_with_its_evening
)
OF_NO_EVENING = """
SELECT id, version, observed_at_utc, object_name, target_key, telescope_name, glass, magnification,
       steadiness, words, site_name, zone, evening_id
  FROM observation
 WHERE evening_id IS NULL
"""
NOTED = """
SELECT DISTINCT target_key
  FROM observation
 WHERE target_key IS NOT NULL
   AND deleted_at_utc IS NULL
"""
SETTLE = """
UPDATE observation
   SET evening_id = :evening_id, target_key = :target_key
 WHERE id = :id
"""


def settle_observations(db: sqlite3.Connection) -> None:
    """Give their evening and target to observations that were noted before there were any."""
    with atomic(db):
        for one in select_items(db, OBSERVATIONS, OF_NO_EVENING, {}):
            found = _with_its_evening(db, one)
            values = {"id": one.id, "evening_id": found.evening_id, "target_key": found.target_key}
            db.execute(SETTLE, values)


def noted_targets(db: sqlite3.Connection) -> frozenset[str]:
    """Return the keys of all targets that were noted at least once."""
    return frozenset(row["target_key"] for row in db.execute(NOTED))
