"""The tables of the kit station."""

import sqlite3
from collections.abc import Iterable
from typing import Any

from jade_perch.core.fields import Item, folded
from jade_perch.core.kit import (
    Amplifier,
    Diagonal,
    Eyepiece,
    Finder,
    LightFilter,
    Mount,
    Observer,
    Telescope,
    Upkeep,
)
from jade_perch.core.labels import BoxRead
from jade_perch.core.optics.combinations import require_diagonal_fits, require_possible_stop
from jade_perch.core.optics.drift import TimedDrift
from jade_perch.core.records import Record, kept_ids
from jade_perch.store.connection import atomic
from jade_perch.store.items import (
    ItemTable,
    add_item,
    find_item,
    get_item,
    list_items,
    replace_item,
)

AMPLIFIERS = ItemTable("amplifier", Amplifier, order_by="factor, name_folded")
DIAGONALS = ItemTable("diagonal", Diagonal)
MOUNTS = ItemTable("mount", Mount)
FINDERS = ItemTable("finder", Finder)
LIGHT_FILTERS = ItemTable("light_filter", LightFilter)
OBSERVERS = ItemTable("observer", Observer)


def _wearing_what_fits(db: sqlite3.Connection, telescope: Telescope) -> Telescope:
    """Return a telescope; raises ``OutOfRange`` for a diagonal that it cannot wear."""
    require_diagonal_fits(telescope, find_item(db, DIAGONALS, telescope.diagonal_id))
    return telescope


def _with_a_possible_stop(_: sqlite3.Connection, eyepiece: Eyepiece) -> Eyepiece:
    """Return an eyepiece; raises ``OutOfRange`` for a field stop that cannot be."""
    require_possible_stop(eyepiece)
    return eyepiece


def _with_its_item(db: sqlite3.Connection, upkeep: Upkeep) -> Upkeep:
    """Return an upkeep; raises ``NotFound`` unless what is to be looked after is in the kit."""
    table = next(one for one in TABLES if one.kind == upkeep.item_kind)
    get_item(db, table, upkeep.item_id)
    return upkeep


EYEPIECES = ItemTable(
    "eyepiece",
    Eyepiece,
    order_by="focal_length_mm DESC, name_folded",
    prepare=_with_a_possible_stop,
)
TELESCOPES = ItemTable("telescope", Telescope, order_by="id", prepare=_wearing_what_fits)
TIMED_DRIFTS = ItemTable("timed_drift", TimedDrift, order_by="timed_at_utc")
UPKEEPS = ItemTable("upkeep", Upkeep, order_by="item_kind, item_id, task", prepare=_with_its_item)

# In an order in which everything referred to comes before what refers to it.
TABLES: tuple[ItemTable[Any], ...] = (
    MOUNTS,
    DIAGONALS,
    TELESCOPES,
    FINDERS,
    EYEPIECES,
    AMPLIFIERS,
    LIGHT_FILTERS,
    OBSERVERS,
    UPKEEPS,
)


def add_linked(db: sqlite3.Connection, table: ItemTable[Any], item: Any) -> Any:
    """Store a new item; the only telescope, mount and finder are linked by themselves."""
    with atomic(db):
        stored = add_item(db, table, item)
        _link_the_only(db, table)
        return get_item(db, table, stored.id or 0)


def _link_the_only(db: sqlite3.Connection, added: ItemTable[Any]) -> None:
    """Link what has just come with what it can only belong to."""
    telescopes = list_items(db, TELESCOPES)
    if len(telescopes) != 1:
        return
    (telescope,) = telescopes
    mounts, finders = list_items(db, MOUNTS), list_items(db, FINDERS)
    if added in (TELESCOPES, MOUNTS) and len(mounts) == 1 and telescope.mount_id is None:
        worn = telescope.model_copy(update={"mount_id": mounts[0].id})
        replace_item(db, TELESCOPES, telescope.id or 0, worn)
    if added in (TELESCOPES, FINDERS) and len(finders) == 1 and finders[0].telescope_id is None:
        sits = finders[0].model_copy(update={"telescope_id": telescope.id})
        replace_item(db, FINDERS, finders[0].id or 0, sits)


def add_box(db: sqlite3.Connection, box: BoxRead) -> Telescope:
    """Store everything that came in one box, all or nothing; returns its telescope."""
    with atomic(db):
        mount = add_item(db, MOUNTS, box.mount)
        telescope = box.telescope.model_copy(update={"mount_id": mount.id})
        stored = add_item(db, TELESCOPES, telescope)
        if box.finder is not None:
            add_item(db, FINDERS, box.finder.model_copy(update={"telescope_id": stored.id}))
        for eyepiece in box.eyepieces:
            add_item(db, EYEPIECES, eyepiece)
        if box.amplifier is not None:
            add_item(db, AMPLIFIERS, box.amplifier)
    return stored


def whole_kit(db: sqlite3.Connection) -> list[Item]:
    """Return everything of the kit, things referred to before what refers to them."""
    return [item for table in TABLES for item in list_items(db, table)]


def item_names(db: sqlite3.Connection) -> dict[tuple[str, int], str]:
    """Return the name of every living item by kind and id."""
    return {
        (table.kind, item.id): item.name
        for table in TABLES
        if table is not UPKEEPS
        for item in list_items(db, table)
    }


def import_records(db: sqlite3.Connection, records: Iterable[Record]) -> None:
    """Store parsed records in one transaction, all or nothing."""
    with atomic(db):
        put_records(db, records)


def put_records(db: sqlite3.Connection, records: Iterable[Record]) -> None:
    """Store parsed records inside a transaction; one whose name is known replaces its namesake.

    References by name are resolved among what is kept and what comes in.
    """
    by_kind = {table.kind: table for table in TABLES}
    order = list(by_kind)
    ids: dict[tuple[str, str], int | None] = kept_ids(whole_kit(db))
    for record in sorted(records, key=lambda one: order.index(one.item)):
        if record.model is None:
            continue
        referred = {
            field: ids[kind, folded(name)] for field, (kind, name) in record.references.items()
        }
        item = record.model.model_copy(update=referred)
        table, key = by_kind[record.item], (record.item, folded(record.name))
        known_id = ids.get(key)
        stored = (
            add_item(db, table, item)
            if known_id is None
            else replace_item(db, table, known_id, item)
        )
        ids[key] = stored.id
