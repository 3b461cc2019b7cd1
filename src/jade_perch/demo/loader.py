"""Put the made-up scenario into a database that has nothing in it yet."""

import json
import sqlite3
from importlib.resources import files
from typing import Any

from jade_perch.core.fields import Item
from jade_perch.core.records import read_record
from jade_perch.store.connection import atomic
from jade_perch.store.evening import SITES, change_usual
from jade_perch.store.items import ItemTable, add_item, list_items
from jade_perch.store.journal import OBSERVATIONS
from jade_perch.store.kit import OBSERVERS, TELESCOPES, put_records, whole_kit

KIT_KEYS = {
    "mounts": "mount",
    "diagonals": "diagonal",
    "telescopes": "telescope",
    "finders": "finder",
    "eyepieces": "eyepiece",
    "amplifiers": "amplifier",
    "light_filters": "light_filter",
    "observers": "observer",
    "upkeeps": "upkeep",
}
Scenario = dict[str, list[dict[str, Any]]]


def load_demo(db: sqlite3.Connection) -> None:
    """Load the whole scenario into an empty database, all or nothing; else leave it alone."""
    with atomic(db):
        others: list[Item] = [*list_items(db, SITES), *list_items(db, OBSERVATIONS)]
        if whole_kit(db) or others:
            return
        scenario = _scenario()
        _load_kit(db, scenario)
        _load(db, SITES, scenario["sites"])
        _load(db, OBSERVATIONS, scenario["observations"])
        chosen = {
            "site_id": _id_of(db, SITES, scenario["sites"]),
            "telescope_id": _id_of(db, TELESCOPES, scenario["telescopes"]),
            "observer_id": _id_of(db, OBSERVERS, scenario["observers"]),
        }
        change_usual(db, chosen)


def load_demo_kit(db: sqlite3.Connection) -> None:
    """Put the demo kit and its places where there is no kit, or no place, yet."""
    with atomic(db):
        scenario = _scenario()
        if not whole_kit(db):
            _load_kit(db, scenario)
        if not list_items(db, SITES):
            _load(db, SITES, scenario["sites"])


def _scenario() -> Scenario:
    text = (files("jade_perch.demo") / "scenario.json").read_text("utf-8")
    scenario: Scenario = json.loads(text)
    return scenario


def _load_kit(db: sqlite3.Connection, scenario: Scenario) -> None:
    records = [
        read_record(place, {"item": kind, **values})
        for key, kind in KIT_KEYS.items()
        for place, values in enumerate(scenario[key], 1)
    ]
    put_records(db, records)


def _load(db: sqlite3.Connection, table: ItemTable[Any], items: list[dict[str, Any]]) -> None:
    for values in items:
        add_item(db, table, table.model.model_validate(values))


def _id_of(
    db: sqlite3.Connection, table: ItemTable[Any], items: list[dict[str, Any]]
) -> int | None:
    """Return the id of the stored item that stands first in the scenario."""
    first = items[0]["name"]
    ids: list[int | None] = [i.id for i in list_items(db, table) if i.name == first]
    return ids[0]
