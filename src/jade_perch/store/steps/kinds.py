"""Step 6: every item carries a version; kinds are the core's, so the tables list them no more."""

TELESCOPE = """
CREATE TABLE telescope_new (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL CHECK (length(name) BETWEEN 1 AND 80),
  aperture_mm REAL NOT NULL CHECK (aperture_mm > 0),
  focal_length_mm REAL NOT NULL CHECK (focal_length_mm > 0),
  design TEXT NOT NULL,
  obstruction_percent REAL NOT NULL CHECK (obstruction_percent BETWEEN 0 AND 60),
  focuser_barrel_in TEXT NOT NULL,
  eyepiece_angle_deg REAL,
  tube_length_mm REAL CHECK (tube_length_mm > 0),
  pivot_from_front_mm REAL CHECK (pivot_from_front_mm >= 0),
  mass_kg REAL CHECK (mass_kg > 0),
  transmission_percent REAL CHECK (transmission_percent BETWEEN 0 AND 100),
  mask_opening_mm REAL CHECK (mask_opening_mm > 0),
  printed_power REAL CHECK (printed_power > 0),
  is_new INTEGER NOT NULL CHECK (is_new IN (0, 1)),
  mount_id INTEGER REFERENCES mount (id),
  diagonal_id INTEGER REFERENCES diagonal (id),
  version INTEGER NOT NULL DEFAULT 1,
  deleted_at_utc TEXT
) STRICT
"""
TELESCOPE_COPIED = """
INSERT INTO telescope_new
  (id, name, aperture_mm, focal_length_mm, design, obstruction_percent, focuser_barrel_in,
   eyepiece_angle_deg, tube_length_mm, pivot_from_front_mm, mass_kg, transmission_percent,
   mask_opening_mm, printed_power, is_new, mount_id, diagonal_id, deleted_at_utc)
SELECT id, name, aperture_mm, focal_length_mm, design, obstruction_percent, focuser_barrel_in,
       eyepiece_angle_deg, tube_length_mm, pivot_from_front_mm, mass_kg, transmission_percent,
       mask_opening_mm, printed_power, is_new, mount_id, diagonal_id, deleted_at_utc
  FROM telescope
"""
MOUNT = """
CREATE TABLE mount_new (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL CHECK (length(name) BETWEEN 1 AND 80),
  kind TEXT NOT NULL,
  feet INTEGER NOT NULL CHECK (feet BETWEEN 3 AND 4),
  foot_radius_mm REAL CHECK (foot_radius_mm > 0),
  levelling TEXT NOT NULL,
  screw_pitch_mm REAL CHECK (screw_pitch_mm > 0),
  lowest_mm REAL CHECK (lowest_mm > 0),
  highest_mm REAL CHECK (highest_mm >= lowest_mm),
  vial_sensitivity_arcmin REAL CHECK (vial_sensitivity_arcmin > 0),
  version INTEGER NOT NULL DEFAULT 1,
  deleted_at_utc TEXT
) STRICT
"""
MOUNT_COPIED = """
INSERT INTO mount_new
  (id, name, kind, feet, foot_radius_mm, levelling, screw_pitch_mm, lowest_mm, highest_mm,
   deleted_at_utc)
SELECT id, name, kind, feet, foot_radius_mm, levelling, screw_pitch_mm, lowest_mm, highest_mm,
       deleted_at_utc
  FROM mount
"""
FINDER = """
CREATE TABLE finder_new (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL CHECK (length(name) BETWEEN 1 AND 80),
  kind TEXT NOT NULL,
  magnification REAL NOT NULL CHECK (magnification >= 1),
  field_deg REAL CHECK (field_deg > 0),
  offset_mm REAL NOT NULL CHECK (offset_mm > 0),
  clock_hour INTEGER NOT NULL CHECK (clock_hour BETWEEN 1 AND 12),
  screws INTEGER NOT NULL CHECK (screws BETWEEN 2 AND 6),
  ring_end TEXT,
  first_screw_hour INTEGER CHECK (first_screw_hour BETWEEN 1 AND 12),
  lever_mm REAL CHECK (lever_mm > 0),
  thread_pitch_mm REAL CHECK (thread_pitch_mm > 0),
  telescope_id INTEGER REFERENCES telescope (id),
  version INTEGER NOT NULL DEFAULT 1,
  deleted_at_utc TEXT
) STRICT
"""
FINDER_COPIED = """
INSERT INTO finder_new
  (id, name, kind, magnification, field_deg, offset_mm, clock_hour, screws, telescope_id,
   deleted_at_utc)
SELECT id, name, kind, magnification, field_deg, offset_mm, clock_hour, screws, telescope_id,
       deleted_at_utc
  FROM finder
"""
VERSIONED = (
    "eyepiece",
    "amplifier",
    "diagonal",
    "light_filter",
    "observer",
    "site",
    "upkeep",
    "observation",
    "parfocal",
    "solar_session",
)


def swapped(table: str) -> tuple[str, ...]:
    """Return the statements that put ``table_new`` in the place of a table that has a name."""
    return (
        f"DROP TABLE {table}",
        f"ALTER TABLE {table}_new RENAME TO {table}",
        f"CREATE UNIQUE INDEX {table}_name ON {table} (name COLLATE NOCASE) "
        "WHERE deleted_at_utc IS NULL",
    )


STATEMENTS = (
    *(f"ALTER TABLE {table} ADD COLUMN version INTEGER NOT NULL DEFAULT 1" for table in VERSIONED),
    *(MOUNT, MOUNT_COPIED, *swapped("mount")),
    *(TELESCOPE, TELESCOPE_COPIED, *swapped("telescope")),
    *(FINDER, FINDER_COPIED, *swapped("finder")),
)
