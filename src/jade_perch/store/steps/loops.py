"""Finders whose numbers nobody knows, and what is said on the way through a step."""

from jade_perch.store.steps.kinds import swapped

FINDER = """
CREATE TABLE finder_new (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL CHECK (length(name) BETWEEN 1 AND 80),
  kind TEXT NOT NULL,
  magnification REAL,
  field_deg REAL,
  offset_mm REAL,
  clock_hour INTEGER,
  screws INTEGER,
  eyepiece_side TEXT NOT NULL DEFAULT 'up',
  ring_end TEXT,
  first_screw_hour INTEGER,
  lever_mm REAL,
  thread_pitch_mm REAL,
  telescope_id INTEGER REFERENCES telescope (id),
  version INTEGER NOT NULL DEFAULT 1,
  deleted_at_utc TEXT
) STRICT
"""
FINDER_COPIED = """
INSERT INTO finder_new
  (id, name, kind, magnification, field_deg, offset_mm, clock_hour, screws, ring_end,
   first_screw_hour, lever_mm, thread_pitch_mm, telescope_id, version, deleted_at_utc)
SELECT id, name, kind, magnification, field_deg, offset_mm, clock_hour, screws, ring_end,
       first_screw_hour, lever_mm, thread_pitch_mm, telescope_id, version, deleted_at_utc
  FROM finder
"""
STEP_MARK = """
CREATE TABLE step_mark (
  id INTEGER PRIMARY KEY,
  evening_id INTEGER NOT NULL REFERENCES evening (id),
  telescope_id INTEGER NOT NULL REFERENCES telescope (id),
  step TEXT NOT NULL,
  subject TEXT NOT NULL,
  marked_at_utc TEXT NOT NULL,
  round TEXT NOT NULL,
  is_over INTEGER NOT NULL DEFAULT 0,
  version INTEGER NOT NULL DEFAULT 1,
  deleted_at_utc TEXT
) STRICT
"""
STEP_MARK_BY_TELESCOPE = "CREATE INDEX step_mark_telescope ON step_mark (telescope_id, step)"
STATEMENTS = (
    FINDER, FINDER_COPIED, *swapped("finder"), STEP_MARK, STEP_MARK_BY_TELESCOPE,
)  # fmt: skip
