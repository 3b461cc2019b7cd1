"""What stands around a place, how dark it is to the eye, and how practised an eye is."""

STATEMENTS = (
    "ALTER TABLE site ADD COLUMN naked_eye_limit_mag REAL",
    "ALTER TABLE site ADD COLUMN light_domes TEXT NOT NULL DEFAULT '[]'",
    "ALTER TABLE site ADD COLUMN skyline TEXT NOT NULL DEFAULT '[]'",
    "ALTER TABLE observer ADD COLUMN practice TEXT",
)
