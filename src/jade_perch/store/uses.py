"""On which evenings each thing was used: what the presses, notes of set-up and sessions say."""

import sqlite3
from datetime import date

from jade_perch.core.eyepiece.sitting import SittingRow, used_rungs
from jade_perch.core.optics.combinations import pieces_of
from jade_perch.core.upkeep import Uses
from jade_perch.store.items import list_items, select_items
from jade_perch.store.kit import FINDERS, TELESCOPES
from jade_perch.store.sittings import SITTINGS

BEGUN = f"{SITTINGS.living} AND json_extract(sitting, '$.begun_utc') IS NOT NULL"
DATES = "SELECT id, date FROM evening WHERE date IS NOT NULL"
# The tube was out also where nobody pressed anything: it was set up, or something was noted.
TUBES_OUT = """
SELECT r.telescope_id, e.date
  FROM setup_reading AS r
  JOIN evening AS e ON e.id = r.evening_id
 WHERE r.deleted_at_utc IS NULL
   AND r.simulated = ''
   AND e.date IS NOT NULL
 GROUP BY r.telescope_id, e.date
 UNION
SELECT t.id, e.date
  FROM observation AS o
  JOIN evening AS e ON e.id = o.evening_id
  JOIN telescope AS t ON t.name = o.telescope_name AND t.deleted_at_utc IS NULL
 WHERE o.deleted_at_utc IS NULL
   AND e.date IS NOT NULL
 GROUP BY t.id, e.date
"""
SUN_LOOKED_AT = """
SELECT filter_id, substr(opened_at_utc, 1, 10) AS date
  FROM solar_session
 WHERE deleted_at_utc IS NULL
   AND filter_id IS NOT NULL
"""


def uses(db: sqlite3.Connection) -> Uses:
    """Return the evenings on which each thing was used, by kind and number.

    With a telescope go the mount and the diagonal it has now, and the finders on it.
    """
    glass, tubes = _pressed(db)
    tubes |= {(row[0], date.fromisoformat(row[1])) for row in db.execute(TUBES_OUT)}
    filters = {
        ("light_filter", row[0], date.fromisoformat(row[1])) for row in db.execute(SUN_LOOKED_AT)
    }
    found: dict[tuple[str, int], set[date]] = {}
    for kind, number, day in glass | filters | _worn(db, tubes):
        found.setdefault((kind, number), set()).add(day)
    return {key: tuple(sorted(days)) for key, days in found.items()}


Used = set[tuple[str, int, date]]


def _pressed(db: sqlite3.Connection) -> tuple[Used, set[tuple[int, date]]]:
    """Return which glasses were in on which day by the presses, and which telescopes were out."""
    days = {row["id"]: date.fromisoformat(row["date"]) for row in db.execute(DATES)}
    glass: Used = set()
    tubes: set[tuple[int, date]] = set()
    sittings: list[SittingRow] = select_items(db, SITTINGS, BEGUN, {})
    for one in sittings:
        day = days.get(one.evening_id)
        if day is None:
            continue
        if one.telescope_id is not None:
            tubes.add((one.telescope_id, day))
        eyepieces, amplifiers = pieces_of(used_rungs(one.sitting))
        glass |= {("eyepiece", number, day) for number in eyepieces}
        glass |= {("amplifier", number, day) for number in amplifiers}
    return glass, tubes


def _worn(db: sqlite3.Connection, tubes: set[tuple[int, date]]) -> Used:
    """Return what was used with each telescope that was out, and the telescope itself."""
    worn = {
        one.id: [("mount", one.mount_id), ("diagonal", one.diagonal_id)]
        for one in list_items(db, TELESCOPES)
    }
    for finder in list_items(db, FINDERS):
        worn.setdefault(finder.telescope_id, []).append(("finder", finder.id))
    return {
        (kind, number, day)
        for tube, day in tubes
        for kind, number in [("telescope", tube), *worn.get(tube, [])]
        if number is not None
    }
