"""Step 15: every word of the journal can be searched, and lists of one's own are kept."""

# Only what lives is searched: the index reads this view, so that rebuilding it finds the same.
LIVING = """
CREATE VIEW observation_living AS
SELECT id, object_name, target_key, telescope_name, glass, observer_name, site_name, words
  FROM observation
 WHERE deleted_at_utc IS NULL
"""
TEXT = """
CREATE VIRTUAL TABLE observation_text USING fts5 (
  object_name, target_key, telescope_name, glass, observer_name, site_name, words,
  content = 'observation_living',
  content_rowid = 'id',
  tokenize = 'unicode61 remove_diacritics 2',
  prefix = '1 2'
)
"""
COLUMNS = "object_name, target_key, telescope_name, glass, observer_name, site_name, words"
NEW = ", ".join(f"new.{name}" for name in COLUMNS.split(", "))
OLD = ", ".join(f"old.{name}" for name in COLUMNS.split(", "))
TAKE_IN = f"INSERT INTO observation_text (rowid, {COLUMNS}) SELECT new.id, {NEW}"
TAKE_OUT = (
    f"INSERT INTO observation_text (observation_text, rowid, {COLUMNS}) "
    f"SELECT 'delete', old.id, {OLD}"
)
ADDED = f"""
CREATE TRIGGER observation_added AFTER INSERT ON observation
BEGIN {TAKE_IN} WHERE new.deleted_at_utc IS NULL; END
"""
# One trigger for both halves: the order in which two would run is nobody's promise.
CHANGED = f"""
CREATE TRIGGER observation_changed AFTER UPDATE OF {COLUMNS}, deleted_at_utc ON observation
BEGIN
  {TAKE_OUT} WHERE old.deleted_at_utc IS NULL;
  {TAKE_IN} WHERE new.deleted_at_utc IS NULL;
END
"""
GONE = f"""
CREATE TRIGGER observation_gone AFTER DELETE ON observation
BEGIN {TAKE_OUT} WHERE old.deleted_at_utc IS NULL; END
"""
LIST = """
CREATE TABLE target_list (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL,
  entries TEXT NOT NULL CHECK (json_valid(entries)),
  version INTEGER NOT NULL DEFAULT 1,
  deleted_at_utc TEXT
) STRICT
"""
DRIFT = """
CREATE TABLE timed_drift (
  id INTEGER PRIMARY KEY,
  timed_at_utc TEXT NOT NULL,
  telescope_name TEXT NOT NULL,
  eyepiece_id INTEGER NOT NULL REFERENCES eyepiece (id),
  eyepiece_name TEXT NOT NULL,
  target_label TEXT NOT NULL,
  elapsed_s REAL NOT NULL,
  true_field_deg REAL NOT NULL,
  field_stop_mm REAL NOT NULL,
  version INTEGER NOT NULL DEFAULT 1,
  deleted_at_utc TEXT
) STRICT
"""
STATEMENTS = (
    LIVING,
    TEXT,
    "INSERT INTO observation_text (observation_text) VALUES ('rebuild')",
    ADDED,
    CHANGED,
    GONE,
    "DROP INDEX observation_time",
    "CREATE INDEX observation_newest ON observation (observed_at_utc, id) "
    "WHERE deleted_at_utc IS NULL",
    "CREATE INDEX observation_of_evening ON observation (evening_id) WHERE deleted_at_utc IS NULL",
    "CREATE INDEX observation_of_target ON observation (target_key, outcome) "
    "WHERE deleted_at_utc IS NULL",
    "CREATE INDEX reading_of_evening ON setup_reading (evening_id) WHERE deleted_at_utc IS NULL",
    "ALTER TABLE observation ADD COLUMN predicted_margin REAL",
    "ALTER TABLE observer ADD COLUMN field_factor REAL",
    "CREATE INDEX observation_powers ON observation (observed_at_utc DESC, telescope_name, "
    "target_key, steadiness, magnification, outcome, evening_id) "
    "WHERE deleted_at_utc IS NULL AND steadiness IS NOT NULL AND magnification IS NOT NULL",
    "ALTER TABLE upkeep ADD COLUMN every_uses INTEGER CHECK (every_uses > 0)",
    DRIFT,
    LIST,
    "CREATE UNIQUE INDEX target_list_name ON target_list (name COLLATE NOCASE) "
    "WHERE deleted_at_utc IS NULL",
)
