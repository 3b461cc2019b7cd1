"""The apparent field of an eyepiece may be unknown."""

from jade_perch.store.steps.kinds import swapped

EYEPIECE = """
CREATE TABLE eyepiece_new (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL CHECK (length(name) BETWEEN 1 AND 80),
  focal_length_mm REAL NOT NULL CHECK (focal_length_mm > 0),
  apparent_field_deg REAL CHECK (apparent_field_deg > 0),
  field_stop_mm REAL CHECK (field_stop_mm > 0),
  barrel_in TEXT NOT NULL,
  eye_relief_mm REAL CHECK (eye_relief_mm >= 0),
  zoom_to_focal_length_mm REAL CHECK (zoom_to_focal_length_mm > 0),
  zoom_to_apparent_field_deg REAL CHECK (zoom_to_apparent_field_deg > 0),
  version INTEGER NOT NULL DEFAULT 1,
  deleted_at_utc TEXT
) STRICT
"""
EYEPIECE_COPIED = """
INSERT INTO eyepiece_new
  (id, name, focal_length_mm, apparent_field_deg, field_stop_mm, barrel_in, eye_relief_mm,
   zoom_to_focal_length_mm, zoom_to_apparent_field_deg, version, deleted_at_utc)
SELECT id, name, focal_length_mm, apparent_field_deg, field_stop_mm, barrel_in, eye_relief_mm,
       zoom_to_focal_length_mm, zoom_to_apparent_field_deg, version, deleted_at_utc
  FROM eyepiece
"""
STATEMENTS = (EYEPIECE, EYEPIECE_COPIED, *swapped("eyepiece"))
