"""The wishes of an evening's plan."""

import sqlite3
from collections.abc import Sequence
from datetime import datetime

from jade_perch.core.errors import OutOfRange
from jade_perch.core.evening.context import EveningRow
from jade_perch.core.evening.plan import MOST_ITEMS, PlanItem
from jade_perch.core.sky.catalogue import catalogue
from jade_perch.store.connection import atomic
from jade_perch.store.evening import change_evening, ensure_evening
from jade_perch.store.items import ItemTable, add_item, replace_item, select_items


def _known(_: sqlite3.Connection, item: PlanItem) -> PlanItem:
    """Return a wish with its target's key, whatever name it was wished by."""
    return item.model_copy(update={"target_key": catalogue().get(item.target_key).key})


PLAN_ITEMS = ItemTable(
    "plan_item",
    PlanItem,
    order_by="id",
    prepare=_known,
    stands_by=("id", "evening_id", "target_key"),
)
OF_EVENING = """
SELECT id, version, evening_id, target_key, minutes, pinned_utc, not_before_utc, is_skipped
  FROM plan_item
 WHERE evening_id = :evening_id
   AND deleted_at_utc IS NULL
 ORDER BY id
"""


def plan_items(db: sqlite3.Connection, evening: EveningRow) -> list[PlanItem]:
    """Return the wishes of an evening, in the order they were made."""
    return select_items(db, PLAN_ITEMS, OF_EVENING, {"evening_id": evening.id})


def wish(
    db: sqlite3.Connection, evening: EveningRow, keys: list[str], now_utc: datetime
) -> list[PlanItem]:
    """Wish for targets on an evening, those already wished for left as they are; all or nothing.

    Raises ``OutOfRange`` for more than a plan takes, and for targets nobody knows.
    """
    with atomic(db):
        return plan_items(db, _wish(db, evening, keys, now_utc))


def _wish(
    db: sqlite3.Connection, evening: EveningRow, keys: Sequence[str], now_utc: datetime
) -> EveningRow:
    """Wish inside a transaction; returns the evening as it is kept then."""
    kept = ensure_evening(db, evening.date, evening.site_id)
    if kept.planned_from_utc is None:
        kept = change_evening(db, kept, {"planned_from_utc": now_utc})
    have = {one.target_key for one in plan_items(db, kept)}
    wanted = list(dict.fromkeys(catalogue().get(key).key for key in keys))
    new = [key for key in wanted if key not in have]
    if len(have) + len(new) > MOST_ITEMS:
        cure = "Take some away first."
        count = f"{len(have) + len(new)} targets"
        raise OutOfRange("target_keys", count, f"up to {MOST_ITEMS} targets", cure)
    for key in new:
        add_item(db, PLAN_ITEMS, PlanItem(evening_id=kept.id, target_key=key))
    return kept


def take_plan(
    db: sqlite3.Connection, evening: EveningRow, items: Sequence[PlanItem], now_utc: datetime
) -> None:
    """Wish for what a plan file wishes: those already wished for as it says; all or nothing.

    Raises ``OutOfRange`` for more than a plan takes.
    """
    with atomic(db):
        kept = _wish(db, evening, [one.target_key for one in items], now_utc)
        have = {one.target_key: one for one in plan_items(db, kept)}
        for one in items:
            before = have[one.target_key]
            after = one.model_copy(update={"evening_id": kept.id})
            replace_item(db, PLAN_ITEMS, before.id or 0, after)


def plan_again(db: sqlite3.Connection, evening: EveningRow, from_utc: datetime) -> None:
    """Let an evening's plan run from a moment on."""
    with atomic(db):
        change_evening(db, evening, {"planned_from_utc": from_utc})
