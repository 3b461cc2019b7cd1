"""Put the made-up scenario into a database that has nothing in it yet."""

import json
import sqlite3
from importlib.resources import files
from typing import Any

from jade_perch.core.evening.context import EveningChoice
from jade_perch.store.connection import atomic
from jade_perch.store.evening import OBSERVERS, SITES, save_choice
from jade_perch.store.items import ItemTable, add_item, list_items
from jade_perch.store.journal import OBSERVATIONS
from jade_perch.store.kit import AMPLIFIERS, EYEPIECES, TELESCOPES

CLOCK = "2027-02-13T17:10+01:00"  # the evening the scenario is made for
Tables = dict[str, ItemTable[Any]]
KIT: Tables = {"telescopes": TELESCOPES, "eyepieces": EYEPIECES, "amplifiers": AMPLIFIERS}
PLACES: Tables = {"sites": SITES}
PEOPLE: Tables = {"observers": OBSERVERS}
RECORDS: Tables = {"observations": OBSERVATIONS}


def load_demo(db: sqlite3.Connection) -> None:
    """Load the whole scenario into an empty database, all or nothing; else leave it alone."""
    with atomic(db):
        if not _is_empty(db, {**KIT, **PLACES, **PEOPLE, **RECORDS}):
            return
        first = {}
        for group in (KIT, PLACES, PEOPLE, RECORDS):
            first.update(_fill(db, group))
        choice = EveningChoice(
            site_id=first["sites"],
            telescope_id=first["telescopes"],
            observer_id=first["observers"],
        )
        save_choice(db, choice)


def load_demo_kit(db: sqlite3.Connection) -> None:
    """Put the demo kit and its places where there is no kit, or no place, yet."""
    with atomic(db):
        for group in (KIT, PLACES):
            if _is_empty(db, group):
                _fill(db, group)


def _is_empty(db: sqlite3.Connection, tables: Tables) -> bool:
    return not any(list_items(db, table) for table in tables.values())


def _fill(db: sqlite3.Connection, tables: Tables) -> dict[str, int | None]:
    """Store the scenario's items and return the id of the first of each table."""
    scenario = json.loads((files("jade_perch.demo") / "scenario.json").read_text("utf-8"))
    first: dict[str, int | None] = {}
    for key, table in tables.items():
        for values in scenario[key]:
            stored = add_item(db, table, table.model.model_validate(values))
            first.setdefault(key, stored.id)
    return first
