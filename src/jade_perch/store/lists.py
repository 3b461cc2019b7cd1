"""Lists of one's own, and what the notes say of what stands on a list."""

import json
import sqlite3
from collections.abc import Iterator, Mapping, Sequence
from datetime import datetime

from jade_perch.core.evening.context import EveningRow
from jade_perch.core.evening.journal import Observation
from jade_perch.core.journal.award import Background, PlainNote
from jade_perch.core.journal.lists import (
    OWN,
    SHIPPED,
    GivenList,
    Noted,
    TargetList,
    own_list,
    shipped_list,
    shipped_lists,
)
from jade_perch.core.sky.catalogue import Catalogue, spelled
from jade_perch.store.evening import EVENINGS
from jade_perch.store.evenings import places_by_id
from jade_perch.store.items import ItemTable, find_item, list_items, select_items
from jade_perch.store.journal import OBSERVATIONS

TARGET_LISTS = ItemTable("target_list", TargetList)
# The first of the best: seen before glimpsed before in vain; nothing said counts as seen.
# With one min() the other columns are those of the row it was found in (SQLite, bare columns).
BEST = """
SELECT target_key, object_name, count(*) AS times, id, observed_at_utc AS first_utc,
       CASE outcome WHEN 'glimpsed' THEN 'glimpsed' WHEN 'not seen' THEN 'tried'
                    ELSE 'seen' END AS state,
       min(CASE outcome WHEN 'glimpsed' THEN '1' WHEN 'not seen' THEN '2' ELSE '0' END
           || observed_at_utc) AS best
  FROM observation
 WHERE deleted_at_utc IS NULL
 GROUP BY coalesce(target_key, '~' || object_name)
 ORDER BY first_utc
"""
RANK = {"seen": 0, "glimpsed": 1, "tried": 2}
NOTES = f"{OBSERVATIONS.living} AND id IN (SELECT value FROM json_each(:ids))"
EVENINGS_OF = f"{EVENINGS.every} WHERE id IN (SELECT value FROM json_each(:ids))"
BATCH = 1000
NEXT_NOTES = """
SELECT id, observed_at_utc, object_name, telescope_name, glass, magnification, steadiness,
       transparency, outcome, observer_name, words, site_name, zone, evening_id
  FROM observation
 WHERE id > :last
   AND deleted_at_utc IS NULL
 ORDER BY id
 LIMIT :most
"""


def all_lists(db: sqlite3.Connection, catalogue: Catalogue) -> list[GivenList]:
    """Return every list: those that come with the application, then one's own by name."""
    return [*shipped_lists(catalogue), *(own_list(one) for one in list_items(db, TARGET_LISTS))]


def find_list(db: sqlite3.Connection, key: str, catalogue: Catalogue) -> GivenList | None:
    """Return a list by its key, or None where there is none."""
    number = key.removeprefix(OWN)
    if number != key and number.isdecimal() and len(number) < 19:
        kept = find_item(db, TARGET_LISTS, int(number))
        return None if kept is None else own_list(kept)
    return shipped_list(key, catalogue) if key in SHIPPED else None


def noted_things(db: sqlite3.Connection) -> dict[str, Noted]:
    """Return what the notes say of each thing, by the identity that list entries have.

    Notes of what no catalogue knows are brought together by their names as people write them.
    """
    found: dict[str, Noted] = {}
    for row in db.execute(BEST):
        key = row["target_key"] or f"~{spelled(row['object_name'])}"
        noted = Noted(
            state=row["state"],
            times=row["times"],
            observation_id=row["id"],
            first_utc=row["first_utc"],
        )
        before = found.get(key)
        if before is not None:
            best = min(before, noted, key=lambda one: RANK[one.state])
            noted = best.model_copy(update={"times": before.times + noted.times})
        found[key] = noted
    return found


def notes_by_id(db: sqlite3.Connection, ids: Sequence[int]) -> dict[int, Observation]:
    """Return some observations by id."""
    found = select_items(db, OBSERVATIONS, NOTES, {"ids": json.dumps(list(ids))})
    return {one.id or 0: one for one in found}


def behind_notes(
    db: sqlite3.Connection, notes: Mapping[int, Observation] | Mapping[int, PlainNote]
) -> dict[int, Background]:
    """Return the evening and the place of each of some notes, by the note's number."""
    ids = {"ids": json.dumps(sorted({one.evening_id or 0 for one in notes.values()}))}
    found: list[EveningRow] = select_items(db, EVENINGS, EVENINGS_OF, ids)
    evenings = {one.id or 0: one for one in found}
    places = places_by_id(db, [one.site_id for one in found if one.site_id is not None])
    backgrounds = {}
    for number, note in notes.items():
        evening = evenings.get(note.evening_id or 0)
        place = None if evening is None or evening.site_id is None else places[evening.site_id]
        backgrounds[number] = Background(evening, place)
    return backgrounds


def notes_in_batches(
    db: sqlite3.Connection,
) -> Iterator[tuple[dict[int, PlainNote], dict[int, Background]]]:
    """Yield all living notes by number, with what stands behind each, some at a time."""
    last = 0
    while True:
        rows = db.execute(NEXT_NOTES, {"last": last, "most": BATCH}).fetchall()
        if not rows:
            return
        notes = {
            row[0]: PlainNote(row[0], datetime.fromisoformat(row[1]), *row[2:]) for row in rows
        }
        yield notes, behind_notes(db, notes)
        last = rows[-1]["id"]
