"""The tables of the kit station."""

import sqlite3
from collections.abc import Iterable
from typing import Any

from jade_perch.core.fields import Item
from jade_perch.core.kit import Amplifier, Eyepiece, Telescope
from jade_perch.store.connection import atomic
from jade_perch.store.items import ItemTable, add_item, change_item, list_items

TELESCOPES = ItemTable("telescope", Telescope, order_by="id")
EYEPIECES = ItemTable("eyepiece", Eyepiece, order_by="focal_length_mm DESC, name COLLATE NOCASE")
AMPLIFIERS = ItemTable("amplifier", Amplifier, order_by="factor, name COLLATE NOCASE")

TABLES: tuple[ItemTable[Any], ...] = (TELESCOPES, EYEPIECES, AMPLIFIERS)


def whole_kit(db: sqlite3.Connection) -> list[Item]:
    """Return every telescope, eyepiece and amplifier."""
    return [item for table in TABLES for item in list_items(db, table)]


def import_items(db: sqlite3.Connection, items: Iterable[Item]) -> None:
    """Store all items in one transaction; one whose name is known replaces its namesake."""
    with atomic(db):
        ids = {
            (type(item), item.name.casefold()): item.id
            for table in TABLES
            for item in list_items(db, table)
        }
        for item in items:
            table = next(table for table in TABLES if table.model is type(item))
            known_id = ids.get((type(item), getattr(item, "name", "").casefold()))
            if known_id is None:
                add_item(db, table, item)
            else:
                change_item(db, table, known_id, item)
