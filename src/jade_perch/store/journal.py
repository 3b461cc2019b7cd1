"""The table of the journal station."""

import sqlite3

from jade_perch.core.evening.habits import PowerNote
from jade_perch.core.evening.journal import Observation, Picture
from jade_perch.core.fields import folded
from jade_perch.core.sky.catalogue import Catalogue, catalogue
from jade_perch.core.sky.night import evening_date
from jade_perch.store.connection import atomic
from jade_perch.store.evening import SITES, ensure_evening
from jade_perch.store.items import (
    ItemTable,
    add_item,
    change_item,
    get_item,
    list_items,
    select_items,
)


def _with_its_evening(db: sqlite3.Connection, observation: Observation) -> Observation:
    """Return an observation with the evening it belongs to, and its target where that is known.

    The evening is the one at the place it names; without such a place, that of its own date.
    """
    wanted = folded(observation.site_name)
    place = next((one for one in list_items(db, SITES) if folded(one.name) == wanted), None)
    day = (
        observation.local_evening()
        if place is None
        else evening_date(place, observation.observed_at_utc)
    )
    evening = ensure_evening(db, day, None if place is None else place.id)
    found = catalogue().find(observation.object_name)
    return observation.model_copy(
        update={"evening_id": evening.id, "target_key": None if found is None else found.key}
    )


OBSERVATIONS = ItemTable(
    "observation", Observation, order_by="observed_at_utc DESC", prepare=_with_its_evening
)
OF_NO_EVENING = f"{OBSERVATIONS.every} WHERE evening_id IS NULL"
SENT = f"{OBSERVATIONS.every} WHERE sent_key = :sent_key"
COUNT_OF_EVENING = """
SELECT count(*) AS notes
  FROM observation
 WHERE evening_id = :evening_id
   AND deleted_at_utc IS NULL
"""
ADD_PICTURE = """
INSERT INTO picture (name, media_type, width, height, content)
VALUES (:name, :media_type, :width, :height, :content)
ON CONFLICT (name) DO NOTHING
"""
PICTURE = "SELECT media_type, content FROM picture WHERE name = :name"
NOTED = """
SELECT DISTINCT target_key
  FROM observation
 WHERE target_key IS NOT NULL
   AND outcome IS NOT 'not seen'
   AND deleted_at_utc IS NULL
"""
POWERS = """
SELECT telescope_name, target_key, steadiness, magnification, evening_id
  FROM observation
 WHERE deleted_at_utc IS NULL
   AND steadiness IS NOT NULL
   AND magnification IS NOT NULL
   AND outcome IS NOT 'not seen'
 ORDER BY observed_at_utc DESC
 LIMIT :most
"""
LOOK = ("observed_at_utc", "object_name", "telescope_name", "glass")  # what a promise was about
POWERS_READ = 400  # the newest: older ones were of another kit, and another eye
SETTLE = """
UPDATE observation
   SET evening_id = :evening_id, target_key = :target_key
 WHERE id = :id
"""


def settle_observations(db: sqlite3.Connection) -> None:
    """Give their evening and target to observations that were noted before there were any."""
    with atomic(db):
        for one in select_items(db, OBSERVATIONS, OF_NO_EVENING, {}):
            found = _with_its_evening(db, one)
            values = {"id": one.id, "evening_id": found.evening_id, "target_key": found.target_key}
            db.execute(SETTLE, values)


def add_once(
    db: sqlite3.Connection, table: ItemTable[Observation], item: Observation
) -> Observation:
    """Store an observation once, however often it is sent; its own earlier one is returned."""
    with atomic(db):
        return _sent(db, item.sent_key) or add_item(db, table, item)


def change_note(
    db: sqlite3.Connection, table: ItemTable[Observation], item_id: int, item: Observation
) -> Observation:
    """Change an observation; what was promised stays with it while it is about the same look.

    Raises as ``change_item``.
    """
    before = get_item(db, table, item_id)
    is_same = all(getattr(before, name) == getattr(item, name) for name in LOOK)
    margin = before.predicted_margin if is_same else None
    return change_item(db, table, item_id, item.model_copy(update={"predicted_margin": margin}))


def _sent(db: sqlite3.Connection, sent_key: str) -> Observation | None:
    if not sent_key:
        return None
    return next(iter(select_items(db, OBSERVATIONS, SENT, {"sent_key": sent_key})), None)


def count_notes(db: sqlite3.Connection, evening_id: int | None) -> int:
    """Return how many observations an evening has."""
    row = db.execute(COUNT_OF_EVENING, {"evening_id": evening_id}).fetchone()
    return int(row["notes"])


def add_picture(db: sqlite3.Connection, picture: Picture) -> None:
    """Store a picture under its name; the same one again changes nothing."""
    db.execute(ADD_PICTURE, picture.model_dump())


def find_picture(db: sqlite3.Connection, name: str) -> tuple[str, bytes] | None:
    """Return the type and content of a stored picture, or None where there is none."""
    row = db.execute(PICTURE, {"name": name}).fetchone()
    return None if row is None else (str(row["media_type"]), bytes(row["content"]))


def power_notes(db: sqlite3.Connection, most: int = POWERS_READ) -> tuple[PowerNote, ...]:
    """Return the newest notes that tell of a power and of the air it was used in."""
    things = catalogue()
    return tuple(
        PowerNote(
            row["telescope_name"],
            _kind(things, row["target_key"]),
            row["steadiness"],
            row["magnification"],
            row["evening_id"],
        )
        for row in db.execute(POWERS, {"most": most})
    )


def _kind(things: Catalogue, key: str | None) -> str:
    row = None if key is None else things.row_of(key)
    return "" if row is None else things.kinds[row]


def noted_targets(db: sqlite3.Connection) -> frozenset[str]:
    """Return the keys of all targets that were noted as seen at least once."""
    return frozenset(row["target_key"] for row in db.execute(NOTED))
