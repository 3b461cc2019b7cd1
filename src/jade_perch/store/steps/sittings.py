"""Evenings at the eyepiece: where each stands, the presses it heard, and fuller notes."""

SITTING = """
CREATE TABLE sitting (
  id INTEGER PRIMARY KEY,
  evening_id INTEGER NOT NULL UNIQUE REFERENCES evening (id),
  telescope_id INTEGER REFERENCES telescope (id),
  sitting TEXT NOT NULL CHECK (json_valid(sitting)),
  version INTEGER NOT NULL DEFAULT 1,
  deleted_at_utc TEXT
) STRICT
"""
PRESS = """
CREATE TABLE press (
  key TEXT PRIMARY KEY,
  evening_id INTEGER NOT NULL REFERENCES evening (id),
  what TEXT NOT NULL,
  told_at_utc TEXT NOT NULL
) STRICT, WITHOUT ROWID
"""
PICTURE = """
CREATE TABLE picture (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL UNIQUE,
  media_type TEXT NOT NULL,
  width INTEGER NOT NULL,
  height INTEGER NOT NULL,
  content BLOB NOT NULL
) STRICT
"""
SENT_ONCE = """
CREATE UNIQUE INDEX observation_sent_once ON observation (sent_key) WHERE sent_key != ''
"""
STATEMENTS = (
    "ALTER TABLE evening ADD COLUMN transparency INTEGER",
    "ALTER TABLE evening ADD COLUMN faintest_seen_mag REAL",
    "ALTER TABLE plan_item ADD COLUMN not_before_utc TEXT",
    SITTING,
    PRESS,
    PICTURE,
    "ALTER TABLE observation ADD COLUMN outcome TEXT",
    "ALTER TABLE observation ADD COLUMN observer_name TEXT NOT NULL DEFAULT ''",
    "ALTER TABLE observation ADD COLUMN transparency INTEGER",
    "ALTER TABLE observation ADD COLUMN sketch TEXT NOT NULL DEFAULT '[]'",
    "ALTER TABLE observation ADD COLUMN picture_name TEXT NOT NULL DEFAULT ''",
    "ALTER TABLE observation ADD COLUMN sent_key TEXT NOT NULL DEFAULT ''",
    SENT_ONCE,
)
