"""Keeping items: one set of plain statements per table, the same verbs for every kind.

A deletion only marks the row, so it can be undone.
"""

import json
import logging
import sqlite3
from collections.abc import Callable, Collection, Iterable, Iterator, Mapping
from datetime import date, datetime
from typing import Any, Generic, TypeVar

from pydantic import BaseModel, ValidationError

from jade_perch.core.errors import OutOfRange, field_problems
from jade_perch.core.fields import NOT_WRITTEN, Item, folded
from jade_perch.store.errors import (
    Contradiction,
    NameTaken,
    NotFound,
    RefersToNothing,
    Stale,
    StoreError,
    Unreadable,
)
from jade_perch.store.steps.names import NAMED

T = TypeVar("T", bound=Item)
M = TypeVar("M", bound=BaseModel)
log = logging.getLogger(__name__)
FOLDED = "name_folded"  # the column that keeps names apart, as the core compares them


class ItemTable(Generic[T]):
    """A table whose columns are the fields of one core model, and its statements.

    ``living`` selects what was not taken out and ``every`` also that; a module's own statements
    go on from them.
    ``prepare`` may complete an item before it is stored, or refuse it, for what no foreign key
    can hold.  ``stands_by`` names the fields by which a row is the only one of its kind, as an
    evening is by its date and place: any other field of it that cannot be read counts as not
    told, since another row could not take its place.
    """

    def __init__(
        self,
        kind: str,
        model: type[T],
        order_by: str = "name_folded",
        prepare: Callable[[sqlite3.Connection, T], T] | None = None,
        stands_by: Collection[str] = (),
    ) -> None:
        columns = [name for name in model.model_fields if name not in NOT_WRITTEN]
        listed = ", ".join(columns)
        written = [*columns, FOLDED] if kind in NAMED else columns
        self.kind, self.model, self.columns = kind, model, tuple(columns)
        self.prepare, self.written = prepare, tuple(written)
        self.stands_by = frozenset(stands_by)
        self.every = f"SELECT id, version, {listed} FROM {kind}"
        self.living = f"{self.every} WHERE deleted_at_utc IS NULL"
        self.select_all = f"{self.living} ORDER BY {order_by}, id"
        self.select_one = f"{self.living} AND id = :id"
        self.insert = (
            f"INSERT INTO {kind} ({', '.join(written)}) "
            f"VALUES ({', '.join(f':{column}' for column in written)})"
        )
        self.update = (
            f"UPDATE {kind} SET {', '.join(f'{column} = :{column}' for column in written)}, "
            "version = version + 1 "
            "WHERE id = :id AND deleted_at_utc IS NULL AND version = coalesce(:version, version)"
        )
        self.mark = (
            f"UPDATE {kind} SET deleted_at_utc = strftime('%Y-%m-%dT%H:%M:%SZ', 'now') "
            "WHERE id = :id AND deleted_at_utc IS NULL AND version = coalesce(:version, version)"
        )
        self.unmark = (
            f"UPDATE {kind} SET deleted_at_utc = NULL, version = version + 1 "
            "WHERE id = :id AND deleted_at_utc IS NOT NULL"
        )

    def to_write(self, values: dict[str, Any]) -> dict[str, Any]:
        """Return the values of the columns, with the folded name where names are kept apart."""
        return {**values, FOLDED: folded(values["name"])} if FOLDED in self.written else values


def list_items(db: sqlite3.Connection, table: ItemTable[T]) -> list[T]:
    """Return every living item of a table in its own order."""
    return _readable(table, db.execute(table.select_all))


def select_items(
    db: sqlite3.Connection, table: ItemTable[T], statement: str, values: Mapping[str, Any]
) -> list[T]:
    """Return the items a statement of the table's own module finds."""
    return _readable(table, db.execute(statement, values))


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


def find_or_first(db: sqlite3.Connection, table: ItemTable[T], item_id: int | None) -> T | None:
    """Return what was chosen, or while that is nothing living the first there is, if any."""
    return find_item(db, table, item_id) or next(iter(list_items(db, table)), None)


def require_free(db: sqlite3.Connection, table: ItemTable[Any], name: str) -> None:
    """Raise ``NameTaken`` where a living item of a table has a name already."""
    if any(folded(one.name) == folded(name) for one in list_items(db, table)):
        raise NameTaken(table.kind, name)


def add_item(db: sqlite3.Connection, table: ItemTable[T], item: T) -> T:
    """Store a new item and return it with its id; raises a ``StoreError`` that says why not."""
    prepared = item if table.prepare is None else table.prepare(db, item)
    cursor = _write(db, table, table.insert, prepared, {})
    return prepared.model_copy(update={"id": cursor.lastrowid, "version": 1})


def change_item(db: sqlite3.Connection, table: ItemTable[T], item_id: int, item: T) -> T:
    """Replace a living item, of the version it was read at, and return it as stored.

    Raises ``NotFound``, ``NameTaken``, and ``Stale`` where somebody else changed it meanwhile;
    an item without a version is refused.  The same change sent twice is stored once.
    """
    if item.version is None:
        get_item(db, table, item_id)
        cure = "Read it again and send its version back."
        raise OutOfRange("version", None, "the version that was read", cure)
    return _change(db, table, item_id, item, item.version)


def replace_item(db: sqlite3.Connection, table: ItemTable[T], item_id: int, item: T) -> T:
    """Replace a living item whatever its version, as an import does; raises as ``change_item``."""
    return _change(db, table, item_id, item, None)


def _change(
    db: sqlite3.Connection, table: ItemTable[T], item_id: int, item: T, version: int | None
) -> T:
    prepared = item if table.prepare is None else table.prepare(db, item)
    cursor = _write(db, table, table.update, prepared, {"id": item_id, "version": version})
    stored = get_item(db, table, item_id)
    if cursor.rowcount == 0:
        changed = changed_fields(prepared, stored)
        if changed:
            raise Stale(table.kind, stored, changed)
    return stored


def changed_fields(mine: Item, stored: Item) -> dict[str, tuple[Any, Any]]:
    """Return the fields in which two items differ, each with both values as JSON has them."""
    one, other = (item.model_dump(mode="json", exclude=set(NOT_WRITTEN)) for item in (mine, stored))
    return {name: (one[name], other[name]) for name in one if one[name] != other[name]}


def delete_item(
    db: sqlite3.Connection, table: ItemTable[T], item_id: int, version: int | None = None
) -> None:
    """Mark an item as deleted; raises ``NotFound``.

    With the version that was read it also raises ``Stale``, where somebody changed it since.
    """
    if db.execute(table.mark, {"id": item_id, "version": version}).rowcount == 0:
        stored = get_item(db, table, item_id)
        raise Stale(table.kind, stored, {"version": (version, stored.version)})


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
    values = table.to_write({column: plain(getattr(item, column)) for column in table.columns})
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


def plain(value: Any) -> Any:
    """Return a value as SQLite keeps it: times as UTC text, truth as 0 or 1, dicts as JSON."""
    if isinstance(value, datetime):
        return value.isoformat(timespec="seconds").replace("+00:00", "Z")
    if isinstance(value, date):
        return value.isoformat()
    if isinstance(value, BaseModel):
        return value.model_dump_json()
    if isinstance(value, tuple):
        return json.dumps([one.model_dump(mode="json") for one in value])
    if isinstance(value, dict | list):
        return json.dumps(value, sort_keys=True)
    return int(value) if isinstance(value, bool) else value


def unreadable(db: sqlite3.Connection, table: ItemTable[T]) -> Iterator[Unreadable]:
    """Yield what is wrong with each living item that cannot be read; it is left as it is."""
    for row in db.execute(table.select_all):
        try:
            table.model.model_validate(dict(row))
        except ValidationError as error:
            yield _unreadable(table, row, error)


def readable_part(model: type[M], values: Mapping[str, Any], needed: Collection[str] = ()) -> M:
    """Return a model of stored values: a field that cannot be read counts as never told.

    Raises ``ValidationError`` where one that is ``needed`` cannot be read, or has no default.
    """
    try:
        return model.model_validate(values)
    except ValidationError as error:
        bad = {one["loc"][0] for one in error.errors() if one["loc"]} - set(needed)
        if not bad:
            raise
        return model.model_validate({k: v for k, v in values.items() if k not in bad})


def _readable(table: ItemTable[T], rows: Iterable[sqlite3.Row]) -> list[T]:
    """Return those items that can be read: one that cannot takes no other with it."""
    found = []
    for row in rows:
        try:
            found.append(_read(table, row))
        except Unreadable as error:
            log.warning("%s", error)
    return found


def _read(table: ItemTable[T], row: sqlite3.Row) -> T:
    try:
        needed = table.stands_by or table.model.model_fields
        return readable_part(table.model, dict(row), needed)
    except ValidationError as error:
        raise _unreadable(table, row, error) from error


def _unreadable(table: ItemTable[T], row: sqlite3.Row, error: ValidationError) -> Unreadable:
    (first, *_) = field_problems(error.errors())
    return Unreadable(table.kind, row["id"], first.detail)
