"""Keeping items: one set of plain statements per table, the same verbs for every kind.

A deletion only marks the row, so it can be undone.
"""

import json
import sqlite3
from collections.abc import Callable, Mapping
from datetime import date, datetime
from typing import Any, Generic, TypeVar

from jade_perch.core.fields import Item
from jade_perch.store.errors import Contradiction, NameTaken, NotFound, RefersToNothing, StoreError

T = TypeVar("T", bound=Item)


class ItemTable(Generic[T]):
    """A table whose columns are the fields of one core model, and its statements.

    ``require`` may refuse an item before it is stored, for what no foreign key can hold.
    """

    def __init__(
        self,
        kind: str,
        model: type[T],
        order_by: str = "name COLLATE NOCASE",
        require: Callable[[sqlite3.Connection, T], None] | None = None,
    ) -> None:
        columns = [name for name in model.model_fields if name != "id"]
        listed = ", ".join(columns)
        self.kind, self.model, self.columns = kind, model, tuple(columns)
        self.require = require
        self.select_all = (
            f"SELECT id, {listed} FROM {kind} WHERE deleted_at_utc IS NULL ORDER BY {order_by}, id"
        )
        self.select_one = (
            f"SELECT id, {listed} FROM {kind} WHERE id = :id AND deleted_at_utc IS NULL"
        )
        self.insert = (
            f"INSERT INTO {kind} ({listed}) "
            f"VALUES ({', '.join(f':{column}' for column in columns)})"
        )
        self.update = (
            f"UPDATE {kind} SET {', '.join(f'{column} = :{column}' for column in columns)} "
            "WHERE id = :id AND deleted_at_utc IS NULL"
        )
        self.mark = (
            f"UPDATE {kind} SET deleted_at_utc = strftime('%Y-%m-%dT%H:%M:%SZ', 'now') "
            "WHERE id = :id AND deleted_at_utc IS NULL"
        )
        self.unmark = (
            f"UPDATE {kind} SET deleted_at_utc = NULL WHERE id = :id AND deleted_at_utc IS NOT NULL"
        )


def list_items(db: sqlite3.Connection, table: ItemTable[T]) -> list[T]:
    """Return every living item of a table in its own order."""
    return [_read(table, row) for row in db.execute(table.select_all)]


def select_items(
    db: sqlite3.Connection, table: ItemTable[T], statement: str, values: Mapping[str, Any]
) -> list[T]:
    """Return the items a statement of the table's own module finds."""
    return [_read(table, row) for row in db.execute(statement, values)]


def get_item(db: sqlite3.Connection, table: ItemTable[T], item_id: int) -> T:
    """Return one living item; raises ``NotFound``."""
    row = db.execute(table.select_one, {"id": item_id}).fetchone()
    if row is None:
        raise NotFound(table.kind, item_id)
    return _read(table, row)


def find_item(db: sqlite3.Connection, table: ItemTable[T], item_id: int | None) -> T | None:
    """Return one living item, or None when none was asked for or it is gone."""
    row = db.execute(table.select_one, {"id": item_id}).fetchone()
    return None if row is None else _read(table, row)


def add_item(db: sqlite3.Connection, table: ItemTable[T], item: T) -> T:
    """Store a new item and return it with its id; raises a ``StoreError`` that says why not."""
    cursor = _write(db, table, table.insert, item, {})
    return item.model_copy(update={"id": cursor.lastrowid})


def change_item(db: sqlite3.Connection, table: ItemTable[T], item_id: int, item: T) -> T:
    """Replace a living item and return it; raises ``NotFound`` and ``NameTaken``."""
    cursor = _write(db, table, table.update, item, {"id": item_id})
    if cursor.rowcount == 0:
        raise NotFound(table.kind, item_id)
    return item.model_copy(update={"id": item_id})


def delete_item(db: sqlite3.Connection, table: ItemTable[T], item_id: int) -> None:
    """Mark an item as deleted; raises ``NotFound``."""
    if db.execute(table.mark, {"id": item_id}).rowcount == 0:
        raise NotFound(table.kind, item_id)


def restore_item(db: sqlite3.Connection, table: ItemTable[T], item_id: int) -> T:
    """Take a deletion back and return the item; raises ``NotFound`` and ``NameTaken``."""
    try:
        changed = db.execute(table.unmark, {"id": item_id}).rowcount
    except sqlite3.IntegrityError as error:
        raise NameTaken(table.kind, f"number {item_id}") from error
    if changed == 0:
        raise NotFound(table.kind, item_id)
    return get_item(db, table, item_id)


def _write(
    db: sqlite3.Connection,
    table: ItemTable[T],
    statement: str,
    item: T,
    extra: Mapping[str, Any],
) -> sqlite3.Cursor:
    if table.require is not None:
        table.require(db, item)
    values = {column: _plain(getattr(item, column)) for column in table.columns}
    try:
        return db.execute(statement, {**values, **extra})
    except sqlite3.IntegrityError as error:
        raise _explained(table.kind, values, str(error)) from error


def _explained(kind: str, values: Mapping[str, Any], reason: str) -> StoreError:
    """Return what a refusal of the database means."""
    if "UNIQUE" in reason:
        return NameTaken(kind, str(values.get("name", values.get("task", ""))))
    if "FOREIGN KEY" in reason:
        pointing = {k: v for k, v in values.items() if k.endswith("_id") and v is not None}
        return RefersToNothing(kind, pointing)
    return Contradiction(kind, reason)


def _plain(value: Any) -> Any:
    """Return a value as SQLite keeps it: times as UTC text, truth as 0 or 1, dicts as JSON."""
    if isinstance(value, datetime):
        return value.isoformat(timespec="seconds").replace("+00:00", "Z")
    if isinstance(value, date):
        return value.isoformat()
    if isinstance(value, dict):
        return json.dumps(value, sort_keys=True)
    return int(value) if isinstance(value, bool) else value


def _read(table: ItemTable[T], row: sqlite3.Row) -> T:
    return table.model.model_validate(dict(row))
