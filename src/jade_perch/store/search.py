"""The journal searched: words by the index, the rest by plain columns, newest first."""

import json
import sqlite3
from datetime import datetime
from typing import Any

from jade_perch.core.evening.journal import Outcome
from jade_perch.core.fields import Frozen, UtcTime
from jade_perch.core.journal.search import Wanted, keys_of_kind, match_of
from jade_perch.core.sky.catalogue import Catalogue
from jade_perch.store.items import plain

PAGE_ROWS = 60  # of one answer; two screens full
MOST_COUNTED = 1000  # more are "over" so many
ROW = """
SELECT o.id, o.observed_at_utc, o.object_name, o.target_key, o.telescope_name, o.glass,
       o.magnification, o.outcome, o.site_name, o.zone, o.evening_id, o.words,
       o.sketch != '[]' AS has_sketch, o.picture_name != '' AS has_picture
"""
# The plus keeps to the index by time: rows come newest first, and the sets are only asked.
MATCHING = """
   AND +o.id IN (SELECT rowid FROM observation_text WHERE observation_text MATCH :match)
"""
OF_DATES = """
   AND o.evening_id IN (SELECT id FROM evening
                         WHERE date >= coalesce(:since, date) AND date <= coalesce(:until, date))
"""
OTHERS = {
    "keys": "   AND +o.target_key IN (SELECT value FROM json_each(:keys))\n",
    "outcome": "   AND +o.outcome = :outcome\n",
    "telescope": "   AND +o.telescope_name = :telescope\n",
}
AFTER = "   AND (o.observed_at_utc, o.id) < (:before_utc, :before_id)\n"
NEWEST = " ORDER BY o.observed_at_utc DESC, o.id DESC LIMIT :most"
NOTED_KEYS = """
SELECT DISTINCT target_key
  FROM observation
 WHERE target_key IS NOT NULL
   AND deleted_at_utc IS NULL
"""
TELESCOPES = """
SELECT telescope_name AS name, count(*) AS notes
  FROM observation
 WHERE deleted_at_utc IS NULL
   AND telescope_name != ''
 GROUP BY telescope_name
 ORDER BY notes DESC, name
"""
WORDS_SHOWN = 240  # characters of a note's words in a list


class FoundRow(Frozen):
    """One observation in a list: what tells it apart, and the beginning of its words."""

    id: int
    observed_at_utc: UtcTime
    object_name: str
    target_key: str | None
    telescope_name: str
    glass: str
    magnification: float | None
    outcome: Outcome | None
    site_name: str
    zone: str
    evening_id: int | None
    words: str
    has_sketch: bool
    has_picture: bool


class Found(Frozen):
    """Observations that were found, newest first.

    ``count`` is None where there are more than ``most_counted``; ``is_all`` where no more follow.
    """

    rows: list[FoundRow]
    count: int | None
    most_counted: int = MOST_COUNTED
    is_all: bool


class TelescopeUsed(Frozen):
    """A telescope by the name in the notes, and in how many of them it stands."""

    name: str
    notes: int


def search(
    db: sqlite3.Connection,
    wanted: Wanted,
    catalogue: Catalogue,
    before: tuple[datetime, int] | None = None,
) -> Found:
    """Return observations that are wanted, newest first, after the last one that was had."""
    values, where = _where(db, wanted, catalogue)
    if where is None:
        return Found(rows=[], count=0, is_all=True)
    living = f"  FROM observation AS o\n WHERE o.deleted_at_utc IS NULL\n{where}"
    values |= {"most": PAGE_ROWS + 1}
    after = ""
    if before is not None:
        values |= {"before_utc": plain(before[0]), "before_id": before[1]}
        after = AFTER
    rows = [_row(one) for one in db.execute(f"{ROW}{living}{after}{NEWEST}", values)]
    return Found(
        rows=rows[:PAGE_ROWS],
        count=None if before is not None else _count(db, living, values),
        is_all=len(rows) <= PAGE_ROWS,
    )


def _where(
    db: sqlite3.Connection, wanted: Wanted, catalogue: Catalogue
) -> tuple[dict[str, Any], str | None]:
    """Return what a search binds and its conditions; no conditions where nothing can be found."""
    values: dict[str, Any] = {}
    parts = []
    if wanted.since is not None or wanted.until is not None:
        values |= {"since": plain(wanted.since), "until": plain(wanted.until)}
        parts.append(OF_DATES)
    if wanted.kind is not None:
        noted = [row["target_key"] for row in db.execute(NOTED_KEYS)]
        values["keys"] = json.dumps(keys_of_kind(wanted.kind, noted, catalogue))
        parts.append(OTHERS["keys"])
    for name in ("outcome", "telescope"):
        if getattr(wanted, name) is not None:
            values[name] = getattr(wanted, name)
            parts.append(OTHERS[name])
    if wanted.text.strip():
        values["match"] = match_of(wanted.text, catalogue)
        if values["match"] is None:
            return values, None
        parts.insert(0, MATCHING)
    return values, "".join(parts)


def _count(db: sqlite3.Connection, living: str, values: dict[str, Any]) -> int | None:
    if living.endswith(MATCHING):  # words alone: the index holds nothing but what lives
        living = "  FROM observation_text WHERE observation_text MATCH :match"
    counted = f"SELECT count(*) FROM (SELECT 1 {living} LIMIT {MOST_COUNTED + 1})"
    count = int(db.execute(counted, values).fetchone()[0])
    return count if count <= MOST_COUNTED else None


def _row(row: sqlite3.Row) -> FoundRow:
    values = dict(row)
    words = values["words"]
    if len(words) > WORDS_SHOWN:
        values["words"] = words[: WORDS_SHOWN - 1].rstrip() + "…"
    return FoundRow.model_validate(values)


def telescopes_used(db: sqlite3.Connection) -> list[TelescopeUsed]:
    """Return the telescopes in the notes, the most used first, whether still in the kit or not."""
    return [TelescopeUsed.model_validate(dict(row)) for row in db.execute(TELESCOPES)]
