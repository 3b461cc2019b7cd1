"""The schema as an ordered list of steps; a step is never edited once it has shipped."""

import sqlite3

from jade_perch.store.connection import atomic
from jade_perch.store.errors import DatabaseUnusable

TELESCOPE = """
CREATE TABLE telescope (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL CHECK (length(name) BETWEEN 1 AND 80),
  aperture_mm REAL NOT NULL CHECK (aperture_mm > 0),
  focal_length_mm REAL NOT NULL CHECK (focal_length_mm > 0),
  design TEXT NOT NULL CHECK (design IN ('refractor', 'newtonian', 'catadioptric')),
  obstruction_percent REAL NOT NULL CHECK (obstruction_percent BETWEEN 0 AND 60),
  focuser_barrel_in TEXT NOT NULL CHECK (focuser_barrel_in IN ('0.965', '1.25', '2')),
  deleted_at_utc TEXT
) STRICT
"""
EYEPIECE = """
CREATE TABLE eyepiece (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL CHECK (length(name) BETWEEN 1 AND 80),
  focal_length_mm REAL NOT NULL CHECK (focal_length_mm > 0),
  apparent_field_deg REAL NOT NULL CHECK (apparent_field_deg > 0),
  field_stop_mm REAL CHECK (field_stop_mm > 0),
  barrel_in TEXT NOT NULL CHECK (barrel_in IN ('0.965', '1.25', '2')),
  eye_relief_mm REAL CHECK (eye_relief_mm >= 0),
  deleted_at_utc TEXT
) STRICT
"""
AMPLIFIER = """
CREATE TABLE amplifier (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL CHECK (length(name) BETWEEN 1 AND 80),
  factor REAL NOT NULL CHECK (factor > 1),
  kind TEXT NOT NULL CHECK (kind IN ('barlow', 'telecentric')),
  focal_length_mm REAL CHECK (focal_length_mm > 0),
  barrel_in TEXT NOT NULL CHECK (barrel_in IN ('0.965', '1.25', '2')),
  deleted_at_utc TEXT
) STRICT
"""
SITE = """
CREATE TABLE site (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL CHECK (length(name) BETWEEN 1 AND 80),
  latitude_deg REAL NOT NULL CHECK (latitude_deg BETWEEN -90 AND 90),
  longitude_deg REAL NOT NULL CHECK (longitude_deg BETWEEN -180 AND 180),
  elevation_m REAL NOT NULL,
  zone TEXT NOT NULL,
  deleted_at_utc TEXT
) STRICT
"""
OBSERVER = """
CREATE TABLE observer (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL CHECK (length(name) BETWEEN 1 AND 80),
  age_years INTEGER CHECK (age_years > 0),
  eye_pupil_mm REAL CHECK (eye_pupil_mm > 0),
  wears_glasses INTEGER NOT NULL CHECK (wears_glasses IN (0, 1)),
  deleted_at_utc TEXT
) STRICT
"""
EVENING_CHOICE = """
CREATE TABLE evening_choice (
  id INTEGER PRIMARY KEY CHECK (id = 1),
  site_id INTEGER REFERENCES site (id),
  date TEXT,
  telescope_id INTEGER REFERENCES telescope (id),
  observer_id INTEGER REFERENCES observer (id),
  school TEXT NOT NULL CHECK (school IN ('detail', 'comfort', 'steady')),
  steadiness INTEGER NOT NULL CHECK (steadiness BETWEEN 1 AND 5),
  amplifiers_on INTEGER NOT NULL CHECK (amplifiers_on IN (0, 1))
) STRICT
"""
OBSERVATION = """
CREATE TABLE observation (
  id INTEGER PRIMARY KEY,
  observed_at_utc TEXT NOT NULL,
  object_name TEXT NOT NULL CHECK (length(object_name) BETWEEN 1 AND 80),
  telescope_name TEXT NOT NULL,
  glass TEXT NOT NULL,
  magnification REAL CHECK (magnification > 0),
  steadiness INTEGER CHECK (steadiness BETWEEN 1 AND 5),
  words TEXT NOT NULL,
  site_name TEXT NOT NULL,
  zone TEXT NOT NULL,
  deleted_at_utc TEXT
) STRICT
"""


def _unique_name(table: str) -> str:
    """Return the index that keeps living names apart; deleted ones may be used again."""
    return (
        f"CREATE UNIQUE INDEX {table}_name ON {table} (name COLLATE NOCASE) "
        "WHERE deleted_at_utc IS NULL"
    )


Steps = tuple[tuple[str, tuple[str, ...]], ...]  # name and statements, in order
MIGRATIONS: Steps = (
    (
        "001_kit",
        (
            TELESCOPE,
            EYEPIECE,
            AMPLIFIER,
            *(_unique_name(table) for table in ("telescope", "eyepiece", "amplifier")),
        ),
    ),
    (
        "002_evening",
        (SITE, OBSERVER, EVENING_CHOICE, _unique_name("site"), _unique_name("observer")),
    ),
    (
        "003_journal",
        (
            OBSERVATION,
            "CREATE INDEX observation_time ON observation (observed_at_utc)",
        ),
    ),
)
LEDGER = """
CREATE TABLE IF NOT EXISTS migration (
  name TEXT PRIMARY KEY,
  applied_at_utc TEXT NOT NULL DEFAULT (strftime('%Y-%m-%dT%H:%M:%SZ', 'now'))
) STRICT
"""
APPLIED = "SELECT name FROM migration ORDER BY name"
RECORD = "INSERT INTO migration (name) VALUES (:name)"


def migrate(db: sqlite3.Connection, steps: Steps = MIGRATIONS) -> None:
    """Bring the schema forward; each step and the record that it ran share one transaction.

    Raises ``DatabaseUnusable`` when the file was written by a newer version, or is no database.
    """
    try:
        db.execute(LEDGER)
        done = {row["name"] for row in db.execute(APPLIED)}
    except sqlite3.DatabaseError as error:
        raise DatabaseUnusable(f"The file is not a database of Jade Perch: {error}.") from error
    unknown = done - {name for name, _ in steps}
    if unknown:
        raise DatabaseUnusable(
            f"The database was written by a newer version (steps {sorted(unknown)}). "
            "Start that version, or choose another --data-dir."
        )
    for name, statements in steps:
        if name in done:
            continue
        with atomic(db):
            for statement in statements:
                db.execute(statement)
            db.execute(RECORD, {"name": name})
