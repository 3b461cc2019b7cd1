"""Steps 1 to 5: kit, evening, journal, whole kit, set-up."""

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


DIAGONAL = """
CREATE TABLE diagonal (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL CHECK (length(name) BETWEEN 1 AND 80),
  kind TEXT NOT NULL CHECK (kind IN ('mirror', 'correct_image')),
  light_path_mm REAL NOT NULL CHECK (light_path_mm > 0),
  barrel_in TEXT NOT NULL CHECK (barrel_in IN ('0.965', '1.25', '2')),
  deleted_at_utc TEXT
) STRICT
"""
MOUNT = """
CREATE TABLE mount (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL CHECK (length(name) BETWEEN 1 AND 80),
  kind TEXT NOT NULL
    CHECK (kind IN ('rocker', 'altaz', 'altaz_slow_motion', 'altaz_motor', 'equatorial')),
  feet INTEGER NOT NULL CHECK (feet BETWEEN 3 AND 4),
  foot_radius_mm REAL CHECK (foot_radius_mm > 0),
  levelling TEXT NOT NULL CHECK (levelling IN ('screws', 'clamps', 'none')),
  screw_pitch_mm REAL CHECK (screw_pitch_mm > 0),
  lowest_mm REAL CHECK (lowest_mm > 0),
  highest_mm REAL CHECK (highest_mm >= lowest_mm),
  deleted_at_utc TEXT
) STRICT
"""
FINDER = """
CREATE TABLE finder (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL CHECK (length(name) BETWEEN 1 AND 80),
  kind TEXT NOT NULL
    CHECK (kind IN ('straight', 'right_angle', 'right_angle_correct', 'dot', 'ring')),
  magnification REAL NOT NULL CHECK (magnification >= 1),
  field_deg REAL CHECK (field_deg > 0),
  offset_mm REAL NOT NULL CHECK (offset_mm > 0),
  clock_hour INTEGER NOT NULL CHECK (clock_hour BETWEEN 1 AND 12),
  screws INTEGER NOT NULL CHECK (screws BETWEEN 2 AND 6),
  telescope_id INTEGER REFERENCES telescope (id),
  deleted_at_utc TEXT
) STRICT
"""
LIGHT_FILTER = """
CREATE TABLE light_filter (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL CHECK (length(name) BETWEEN 1 AND 80),
  kind TEXT NOT NULL CHECK (kind IN ('moon', 'colour', 'nebula', 'solar_front')),
  barrel_in TEXT CHECK (barrel_in IN ('0.965', '1.25', '2')),
  note TEXT NOT NULL,
  deleted_at_utc TEXT
) STRICT
"""
UPKEEP = """
CREATE TABLE upkeep (
  id INTEGER PRIMARY KEY,
  item_kind TEXT NOT NULL CHECK (item_kind IN ('telescope', 'eyepiece', 'amplifier', 'diagonal',
    'finder', 'mount', 'light_filter')),
  item_id INTEGER NOT NULL,
  task TEXT NOT NULL CHECK (task IN ('battery', 'cleaning', 'collimation', 'inspection')),
  note TEXT NOT NULL,
  last_done TEXT,
  every_days INTEGER NOT NULL CHECK (every_days > 0),
  deleted_at_utc TEXT
) STRICT
"""
TELESCOPE_PARTS = (
    "ALTER TABLE telescope ADD COLUMN eyepiece_angle_deg REAL",
    "ALTER TABLE telescope ADD COLUMN tube_length_mm REAL CHECK (tube_length_mm > 0)",
    "ALTER TABLE telescope ADD COLUMN pivot_from_front_mm REAL CHECK (pivot_from_front_mm >= 0)",
    "ALTER TABLE telescope ADD COLUMN mass_kg REAL CHECK (mass_kg > 0)",
    "ALTER TABLE telescope ADD COLUMN transmission_percent REAL "
    "CHECK (transmission_percent BETWEEN 0 AND 100)",
    "ALTER TABLE telescope ADD COLUMN mask_opening_mm REAL CHECK (mask_opening_mm > 0)",
    "ALTER TABLE telescope ADD COLUMN printed_power REAL CHECK (printed_power > 0)",
    "ALTER TABLE telescope ADD COLUMN is_new INTEGER NOT NULL DEFAULT 0 CHECK (is_new IN (0, 1))",
    "ALTER TABLE telescope ADD COLUMN mount_id INTEGER REFERENCES mount (id)",
    "ALTER TABLE telescope ADD COLUMN diagonal_id INTEGER REFERENCES diagonal (id)",
)
EYEPIECE_ZOOM = (
    "ALTER TABLE eyepiece ADD COLUMN zoom_to_focal_length_mm REAL "
    "CHECK (zoom_to_focal_length_mm > 0)",
    "ALTER TABLE eyepiece ADD COLUMN zoom_to_apparent_field_deg REAL "
    "CHECK (zoom_to_apparent_field_deg > 0)",
)
OBSERVER_EYES = (
    "ALTER TABLE observer ADD COLUMN glasses TEXT NOT NULL DEFAULT 'none' "
    "CHECK (glasses IN ('none', 'sight', 'astigmatism'))",
    "UPDATE observer SET glasses = 'sight' WHERE wears_glasses = 1",
    "ALTER TABLE observer DROP COLUMN wears_glasses",
    "ALTER TABLE observer ADD COLUMN sight_diopters REAL",
    "ALTER TABLE observer ADD COLUMN eye_height_mm REAL CHECK (eye_height_mm > 0)",
)
# amplifiers_on becomes "as the kit says" where nothing was chosen; a column cannot lose NOT NULL
CHOICE_BY_KIT = (
    "ALTER TABLE evening_choice RENAME COLUMN amplifiers_on TO amplifiers_were_on",
    "ALTER TABLE evening_choice ADD COLUMN amplifiers_on INTEGER CHECK (amplifiers_on IN (0, 1))",
    "UPDATE evening_choice SET amplifiers_on = 0 WHERE amplifiers_were_on = 0",
    "ALTER TABLE evening_choice DROP COLUMN amplifiers_were_on",
)
SITE_SKY = (
    "ALTER TABLE site ADD COLUMN dark_sky_class INTEGER CHECK (dark_sky_class BETWEEN 1 AND 9)",
    "ALTER TABLE site ADD COLUMN sky_mpsas REAL CHECK (sky_mpsas > 0)",
)


SETUP_READING = """
CREATE TABLE setup_reading (
  id INTEGER PRIMARY KEY,
  evening_date TEXT NOT NULL,
  telescope_id INTEGER NOT NULL REFERENCES telescope (id),
  step TEXT NOT NULL CHECK (step IN ('stand', 'level', 'balance', 'sun', 'finder', 'north',
    'power', 'focus', 'budget', 'cool')),
  recorded_at_utc TEXT NOT NULL,
  words TEXT NOT NULL,
  is_good INTEGER NOT NULL CHECK (is_good IN (0, 1)),
  figures TEXT NOT NULL CHECK (json_valid(figures)),
  inputs TEXT NOT NULL CHECK (json_valid(inputs)),
  spoiled_at_utc TEXT,
  spoiled_by TEXT NOT NULL,
  deleted_at_utc TEXT
) STRICT
"""
PARFOCAL = """
CREATE TABLE parfocal (
  id INTEGER PRIMARY KEY,
  telescope_id INTEGER NOT NULL REFERENCES telescope (id),
  from_eyepiece_id INTEGER NOT NULL REFERENCES eyepiece (id),
  to_eyepiece_id INTEGER NOT NULL REFERENCES eyepiece (id)
    CHECK (to_eyepiece_id <> from_eyepiece_id),
  shift_mm REAL NOT NULL CHECK (abs(shift_mm) <= 100),
  note TEXT NOT NULL,
  deleted_at_utc TEXT
) STRICT
"""
SOLAR_SESSION = """
CREATE TABLE solar_session (
  id INTEGER PRIMARY KEY,
  telescope_name TEXT NOT NULL,
  filter_name TEXT NOT NULL,
  opened_at_utc TEXT NOT NULL,
  closed_at_utc TEXT CHECK (closed_at_utc >= opened_at_utc),
  deleted_at_utc TEXT
) STRICT
"""


def _unique_name(table: str) -> str:
    """Return the index that keeps living names apart; deleted ones may be used again."""
    return (
        f"CREATE UNIQUE INDEX {table}_name ON {table} (name COLLATE NOCASE) "
        "WHERE deleted_at_utc IS NULL"
    )


STEPS: tuple[tuple[str, tuple[str, ...]], ...] = (
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
    (
        "004_whole_kit",
        (
            DIAGONAL,
            MOUNT,
            FINDER,
            LIGHT_FILTER,
            UPKEEP,
            *(_unique_name(table) for table in ("diagonal", "mount", "finder", "light_filter")),
            *TELESCOPE_PARTS,
            *EYEPIECE_ZOOM,
            *OBSERVER_EYES,
            *CHOICE_BY_KIT,
            *SITE_SKY,
        ),
    ),
    (
        "005_setup",
        (
            SETUP_READING,
            "CREATE INDEX setup_reading_evening ON setup_reading (evening_date, telescope_id)",
            PARFOCAL,
            SOLAR_SESSION,
            "CREATE UNIQUE INDEX upkeep_task ON upkeep (item_kind, item_id, task) "
            "WHERE deleted_at_utc IS NULL",
        ),
    ),
)
