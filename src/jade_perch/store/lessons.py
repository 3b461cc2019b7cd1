"""The records that teach, read as plain rows: thousands of notes in a moment."""

import sqlite3

from jade_perch.core.eyepiece.sitting import SittingRow
from jade_perch.core.journal.lessons import (
    Judgement,
    Lesson,
    Tried,
    eyes_lesson,
    fields_lesson,
    hours_lesson,
    powers_lesson,
    skies_lesson,
)
from jade_perch.core.kit import Eyepiece
from jade_perch.store.items import list_items, select_items
from jade_perch.store.journal import power_notes
from jade_perch.store.kit import EYEPIECES, OBSERVERS, TIMED_DRIFTS
from jade_perch.store.sittings import SITTINGS

MOST_NOTES = 20_000  # the newest; older ones change no median any more
TRIED = """
SELECT observer_name, predicted_margin, outcome
  FROM observation
 WHERE deleted_at_utc IS NULL
   AND predicted_margin IS NOT NULL
   AND outcome IS NOT NULL
 ORDER BY observed_at_utc DESC
 LIMIT :most
"""
# What was said of an evening as a whole wins over the mean of what its notes say.
JUDGED = """
SELECT coalesce(site.name, '') AS place_name, CAST(substr(e.date, 6, 2) AS INTEGER) AS month,
       coalesce(e.steadiness, avg(o.steadiness)) AS steadiness, e.faintest_seen_mag
  FROM evening AS e
  LEFT JOIN site ON site.id = e.site_id
  LEFT JOIN observation AS o
    ON o.evening_id = e.id AND o.deleted_at_utc IS NULL AND o.steadiness IS NOT NULL
 WHERE e.deleted_at_utc IS NULL
   AND e.date IS NOT NULL
 GROUP BY e.id
HAVING coalesce(e.steadiness, avg(o.steadiness)) IS NOT NULL OR e.faintest_seen_mag IS NOT NULL
"""
# Also eyepieces that were taken out since.
ALL_EYEPIECES = f"{EYEPIECES.every} ORDER BY id"


def all_lessons(db: sqlite3.Connection) -> list[Lesson]:
    """Return everything the records teach, each with how many more it wants where they are few."""
    sittings: list[SittingRow] = list_items(db, SITTINGS)
    every: list[Eyepiece] = select_items(db, EYEPIECES, ALL_EYEPIECES, {})
    living = {one.id or 0: one.name for one in list_items(db, EYEPIECES)}
    tried = [Tried(*row) for row in db.execute(TRIED, {"most": MOST_NOTES})]
    judged = [Judgement(*row) for row in db.execute(JUDGED)]
    return [
        powers_lesson(power_notes(db, MOST_NOTES)),
        hours_lesson([one.sitting for one in sittings], living),
        eyes_lesson(tried, list_items(db, OBSERVERS)),
        skies_lesson(judged),
        fields_lesson(list_items(db, TIMED_DRIFTS), {one.id or 0: one for one in every}),
    ]
