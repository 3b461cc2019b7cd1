"""Where evenings at the eyepiece stand, and the presses each heard."""

import sqlite3
from datetime import datetime, timedelta

from jade_perch.core.evening.context import EveningRow
from jade_perch.core.eyepiece.sitting import Press, Sitting, SittingRow, dated, moment_of, pressed
from jade_perch.store.connection import atomic
from jade_perch.store.evening import change_evening, ensure_evening
from jade_perch.store.items import ItemTable, add_item, plain, replace_item, select_items
from jade_perch.store.plan import PLAN_ITEMS, plan_items

LATER = timedelta(minutes=30)  # so long a target is put off; our choice
SITTINGS = ItemTable("sitting", SittingRow, order_by="id", stands_by=("id", "evening_id"))
OF_EVENING = """
SELECT id, version, evening_id, telescope_id, sitting
  FROM sitting
 WHERE evening_id = :evening_id
   AND deleted_at_utc IS NULL
"""
BEFORE = """
SELECT sitting.id, sitting.version, sitting.evening_id, sitting.telescope_id, sitting.sitting
  FROM sitting
  JOIN evening ON evening.id = sitting.evening_id
 WHERE evening.date < :date
   AND sitting.deleted_at_utc IS NULL
 ORDER BY evening.date DESC, sitting.id DESC
 LIMIT 1
"""
FORGET = "DELETE FROM sitting"
HEARD = "SELECT 1 FROM press WHERE key = :key"
HEAR = """
INSERT INTO press (key, evening_id, what, told_at_utc, made_at_utc)
VALUES (:key, :evening_id, :what, :told_at_utc, :made_at_utc)
"""
FOLLOWED = "SELECT made_at_utc FROM press WHERE key = :key AND evening_id = :evening_id"


def forget_sittings(db: sqlite3.Connection) -> None:
    """Forget where every evening stands: a rehearsal begins anew."""
    db.execute(FORGET)


def sitting_of(db: sqlite3.Connection, evening: EveningRow) -> SittingRow:
    """Return how an evening stands; without an id where nothing was pressed yet."""
    found = select_items(db, SITTINGS, OF_EVENING, {"evening_id": evening.id})
    return next(iter(found), SittingRow(evening_id=evening.id or 0))


def sitting_before(db: sqlite3.Connection, evening: EveningRow) -> SittingRow | None:
    """Return how the last earlier evening was left, or None where there was none."""
    found = select_items(db, SITTINGS, BEFORE, {"date": plain(evening.date)})
    return next(iter(found), None)


def press(
    db: sqlite3.Connection,
    evening: EveningRow,
    telescope_id: int | None,
    given: Press,
    now_utc: datetime,
) -> Sitting:
    """Hear a press once and return how its evening stands then.

    Told again it changes nothing.  A target put off or left out is so in the plan too, which runs
    from now on.  Raises what ``pressed`` raises; then nothing is stored.
    """
    with atomic(db):
        kept = ensure_evening(db, evening.date, evening.site_id)
        row = sitting_of(db, kept)
        if db.execute(HEARD, {"key": given.key}).fetchone() is not None:
            return row.sitting
        given = dated(given, _followed_utc(db, kept, given), now_utc)
        after = pressed(row.sitting, given, now_utc)
        update = {"sitting": after, "telescope_id": telescope_id, "evening_id": kept.id}
        stored = row.model_copy(update=update)
        if row.id is None:
            add_item(db, SITTINGS, stored)
        else:
            replace_item(db, SITTINGS, row.id, stored)
        heard = {"key": given.key, "evening_id": kept.id, "what": given.what}
        moments = {"told_at_utc": plain(now_utc), "made_at_utc": plain(given.made_at_utc)}
        db.execute(HEAR, {**heard, **moments})
        if given.what in ("skip", "later"):
            _put_off(db, kept, given, now_utc)
        return after


def _followed_utc(db: sqlite3.Connection, evening: EveningRow, given: Press) -> datetime | None:
    """Return the moment of the press that was made before this one; None where none is known."""
    sought = {"key": given.after_key, "evening_id": evening.id}
    row = db.execute(FOLLOWED, sought).fetchone()
    return None if row is None or row[0] is None else datetime.fromisoformat(row[0])


def _put_off(db: sqlite3.Connection, evening: EveningRow, given: Press, now_utc: datetime) -> None:
    wishes = plan_items(db, evening)
    wish = next((one for one in wishes if one.target_key == given.target_key), None)
    if wish is None:
        return
    update: dict[str, object] = {"is_skipped": True}
    if given.what == "later":
        update = {"not_before_utc": moment_of(given, now_utc) + LATER, "pinned_utc": None}
    replace_item(db, PLAN_ITEMS, wish.id or 0, wish.model_copy(update=update))
    change_evening(db, evening, {"planned_from_utc": now_utc})
