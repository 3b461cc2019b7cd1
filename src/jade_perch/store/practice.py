"""Rounds of practice, each kept with every move of it."""

import sqlite3
from datetime import datetime

from jade_perch.core.evening.desk import Desk
from jade_perch.core.practice.run import DrillRun, Made, moved
from jade_perch.core.practice.sun_drill import is_still_passed
from jade_perch.core.practice.wall import Rounds
from jade_perch.store.connection import atomic
from jade_perch.store.items import ItemTable, add_item, get_item, replace_item

RUNS = ItemTable("drill_run", DrillRun, order_by="begun_at_utc DESC")
ROUNDS = """
SELECT drill,
       count(ended_at_utc) AS ended,
       sum(is_passed) AS passed,
       sum(coalesce(json_extract(score, '$.is_clean'), 0)) AS clean,
       max(CASE WHEN ended_at_utc IS NULL THEN id END) AS open_id
  FROM drill_run
 WHERE observer_id IS :observer_id
   AND telescope_id IS :telescope_id
   AND deleted_at_utc IS NULL
 GROUP BY drill
"""
SUN_PASSES = """
SELECT ended_at_utc
  FROM drill_run
 WHERE observer_id IS :observer_id
   AND drill = 'sun'
   AND is_passed
   AND ended_at_utc IS NOT NULL
   AND deleted_at_utc IS NULL
"""
GIVE_UP = """
UPDATE drill_run
   SET deleted_at_utc = strftime('%Y-%m-%dT%H:%M:%SZ', 'now')
 WHERE observer_id IS :observer_id
   AND telescope_id IS :telescope_id
   AND drill = :drill
   AND ended_at_utc IS NULL
   AND deleted_at_utc IS NULL
"""


def whose(desk: Desk) -> dict[str, int | None]:
    """Return whose practice a desk's is: its observer and telescope, by number."""
    return {
        "observer_id": None if desk.observer is None else desk.observer.id,
        "telescope_id": None if desk.telescope is None else desk.telescope.id,
    }


def rounds_done(db: sqlite3.Connection, desk: Desk) -> dict[str, Rounds]:
    """Return what somebody has practised with a telescope, by drill."""
    rows = db.execute(ROUNDS, whose(desk))
    return {row["drill"]: Rounds(*(row[name] for name in Rounds.__slots__)) for row in rows}


def sun_is_passed(db: sqlite3.Connection, desk: Desk, real_utc: datetime) -> bool:
    """Return whether a desk's observer passed the Sun drill within a year, with any telescope."""
    rows = db.execute(SUN_PASSES, {"observer_id": whose(desk)["observer_id"]})
    return is_still_passed([datetime.fromisoformat(row["ended_at_utc"]) for row in rows], real_utc)


def begin_run(db: sqlite3.Connection, run: DrillRun) -> DrillRun:
    """Store a round at its beginning; one begun before and not ended is given up."""
    with atomic(db):
        values = {name: getattr(run, name) for name in ("observer_id", "telescope_id", "drill")}
        db.execute(GIVE_UP, values)
        return add_item(db, RUNS, run)


def make_move(db: sqlite3.Connection, run_id: int, made: Made, real_utc: datetime) -> DrillRun:
    """Make one move of a round and return how it stands then; raises what ``moved`` raises."""
    with atomic(db):
        run = get_item(db, RUNS, run_id)
        after = moved(run, made, real_utc)
        if after is run:
            return run
        return replace_item(db, RUNS, run_id, after)
