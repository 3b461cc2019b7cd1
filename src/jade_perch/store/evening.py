"""Sites, observers and the choices of the evening."""

import sqlite3
from typing import Any

from jade_perch.core.evening.context import EveningChoice
from jade_perch.core.kit import Observer, Telescope
from jade_perch.core.site import Site
from jade_perch.store.items import ItemTable, find_item, get_item, list_items
from jade_perch.store.kit import OBSERVERS, TELESCOPES

SITES = ItemTable("site", Site)

CHOICE = """
SELECT site_id, date, telescope_id, observer_id, school, steadiness, amplifiers_on
  FROM evening_choice
 WHERE id = 1
"""
CHOOSE = """
INSERT OR REPLACE INTO evening_choice
  (id, site_id, date, telescope_id, observer_id, school, steadiness, amplifiers_on)
VALUES
  (1, :site_id, :date, :telescope_id, :observer_id, :school, :steadiness, :amplifiers_on)
"""


def get_choice(db: sqlite3.Connection) -> EveningChoice:
    """Return the stored choices, or the defaults before anything was chosen."""
    row = db.execute(CHOICE).fetchone()
    return EveningChoice() if row is None else EveningChoice.model_validate(dict(row))


def save_choice(db: sqlite3.Connection, choice: EveningChoice) -> EveningChoice:
    """Store the choices; raises ``NotFound`` for a site, telescope or observer that is gone."""
    chosen: tuple[tuple[ItemTable[Any], int | None], ...] = (
        (SITES, choice.site_id),
        (TELESCOPES, choice.telescope_id),
        (OBSERVERS, choice.observer_id),
    )
    for table, item_id in chosen:
        if item_id is not None:
            get_item(db, table, item_id)
    db.execute(CHOOSE, choice.model_dump(mode="json"))
    return choice


def chosen_site(db: sqlite3.Connection, choice: EveningChoice) -> Site | None:
    """Return the chosen site, or the only one or first by name, or None when there is none."""
    return find_item(db, SITES, choice.site_id) or next(iter(list_items(db, SITES)), None)


def chosen_telescope(db: sqlite3.Connection, choice: EveningChoice) -> Telescope | None:
    """Return the chosen telescope, or the first by name, or None when there is none."""
    found = find_item(db, TELESCOPES, choice.telescope_id)
    return found or next(iter(list_items(db, TELESCOPES)), None)


def chosen_observer(db: sqlite3.Connection, choice: EveningChoice) -> Observer | None:
    """Return the chosen observer; nobody is assumed when none was chosen."""
    return find_item(db, OBSERVERS, choice.observer_id)
