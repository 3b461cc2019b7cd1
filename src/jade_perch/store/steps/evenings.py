"""Step 7: evenings are rows; readings and observations belong to one."""

EVENING = """
CREATE TABLE evening (
  id INTEGER PRIMARY KEY,
  date TEXT,
  site_id INTEGER REFERENCES site (id),
  steadiness INTEGER CHECK (steadiness BETWEEN 1 AND 5),
  people_ids TEXT CHECK (people_ids IS NULL OR json_valid(people_ids)),
  landmark TEXT CHECK (landmark IS NULL OR json_valid(landmark)),
  version INTEGER NOT NULL DEFAULT 1,
  deleted_at_utc TEXT
) STRICT
"""
ONE_EACH = """
CREATE UNIQUE INDEX evening_of ON evening (coalesce(date, ''), coalesce(site_id, 0))
"""
CHOICE = """
CREATE TABLE usual_choice (
  id INTEGER PRIMARY KEY CHECK (id = 1),
  site_id INTEGER REFERENCES site (id),
  date TEXT,
  telescope_id INTEGER REFERENCES telescope (id),
  observer_id INTEGER REFERENCES observer (id),
  school TEXT NOT NULL,
  amplifiers_on INTEGER CHECK (amplifiers_on IN (0, 1)),
  rungs TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(rungs)),
  target_key TEXT NOT NULL DEFAULT 'moon',
  length_unit TEXT NOT NULL DEFAULT 'metric',
  temperature_unit TEXT NOT NULL DEFAULT 'celsius',
  drift_started_at_utc TEXT
) STRICT
"""
CHOICE_COPIED = """
INSERT INTO usual_choice (id, site_id, date, telescope_id, observer_id, school, amplifiers_on)
SELECT id, site_id, date, telescope_id, observer_id, school, amplifiers_on
  FROM evening_choice
"""
# Readings knew no place: they belong to the one that was chosen, or first by name.
PLACE = """
(SELECT coalesce(
   (SELECT site.id FROM evening_choice JOIN site ON site.id = evening_choice.site_id
     WHERE site.deleted_at_utc IS NULL),
   (SELECT id FROM site WHERE deleted_at_utc IS NULL ORDER BY name COLLATE NOCASE, id LIMIT 1)))
"""
STEADINESS_KEPT = f"""
INSERT INTO evening (date, site_id, steadiness)
SELECT date, CASE WHEN date IS NULL THEN NULL ELSE {PLACE} END, steadiness
  FROM evening_choice
"""
EVENINGS_OF_READINGS = f"""
INSERT OR IGNORE INTO evening (date, site_id)
SELECT DISTINCT evening_date, {PLACE}
  FROM setup_reading
"""
READING = """
CREATE TABLE setup_reading_new (
  id INTEGER PRIMARY KEY,
  evening_id INTEGER NOT NULL REFERENCES evening (id),
  telescope_id INTEGER NOT NULL REFERENCES telescope (id),
  step TEXT NOT NULL,
  recorded_at_utc TEXT NOT NULL,
  words TEXT NOT NULL,
  is_good INTEGER NOT NULL CHECK (is_good IN (0, 1)),
  figures TEXT NOT NULL CHECK (json_valid(figures)),
  inputs TEXT NOT NULL CHECK (json_valid(inputs)),
  spoiled_at_utc TEXT,
  spoiled_by TEXT NOT NULL,
  version INTEGER NOT NULL DEFAULT 1,
  deleted_at_utc TEXT
) STRICT
"""
READINGS_COPIED = f"""
INSERT INTO setup_reading_new
  (id, evening_id, telescope_id, step, recorded_at_utc, words, is_good, figures, inputs,
   spoiled_at_utc, spoiled_by, deleted_at_utc)
SELECT reading.id, evening.id, telescope_id, step, recorded_at_utc, words, is_good, figures,
       inputs, spoiled_at_utc, spoiled_by, reading.deleted_at_utc
  FROM setup_reading AS reading
  JOIN evening ON evening.date = reading.evening_date AND evening.site_id IS {PLACE}
"""
STATEMENTS = (
    EVENING,
    ONE_EACH,
    CHOICE,
    CHOICE_COPIED,
    STEADINESS_KEPT,
    EVENINGS_OF_READINGS,
    READING,
    READINGS_COPIED,
    "DROP TABLE setup_reading",
    "ALTER TABLE setup_reading_new RENAME TO setup_reading",
    "CREATE INDEX setup_reading_evening ON setup_reading (evening_id, telescope_id)",
    "DROP TABLE evening_choice",
    "ALTER TABLE observation ADD COLUMN evening_id INTEGER REFERENCES evening (id)",
    "ALTER TABLE observation ADD COLUMN target_key TEXT",
)
