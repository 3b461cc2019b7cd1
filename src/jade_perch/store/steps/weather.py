"""Hours of weather: whole files as they were read for a place, and hours typed over them.

And the list of targets that was chosen.
"""

WEATHER_FILE = """
CREATE TABLE weather_file (
  id INTEGER PRIMARY KEY,
  site_id INTEGER NOT NULL REFERENCES site (id),
  name TEXT NOT NULL,
  read_at_utc TEXT NOT NULL,
  hours TEXT NOT NULL,
  version INTEGER NOT NULL DEFAULT 1,
  deleted_at_utc TEXT
) STRICT
"""
TYPED_HOUR = """
CREATE TABLE typed_hour (
  id INTEGER PRIMARY KEY,
  site_id INTEGER NOT NULL REFERENCES site (id),
  hour_utc TEXT NOT NULL,
  cloud_percent REAL,
  wind_m_s REAL,
  humidity_percent REAL,
  air_c REAL,
  steadiness INTEGER,
  transparency INTEGER,
  version INTEGER NOT NULL DEFAULT 1,
  deleted_at_utc TEXT
) STRICT
"""
ONCE = """
CREATE UNIQUE INDEX typed_hour_once ON typed_hour (site_id, hour_utc)
 WHERE deleted_at_utc IS NULL
"""
LISTED = "ALTER TABLE usual_choice ADD COLUMN listed TEXT"
STATEMENTS = (WEATHER_FILE, TYPED_HOUR, ONCE, LISTED)
