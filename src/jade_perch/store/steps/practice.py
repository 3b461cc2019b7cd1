"""Rounds of practice: whose, from which seed, and how each stands."""

DRILL_RUN = """
CREATE TABLE drill_run (
  id INTEGER PRIMARY KEY,
  drill TEXT NOT NULL,
  observer_id INTEGER REFERENCES observer (id),
  observer_name TEXT NOT NULL,
  telescope_id INTEGER REFERENCES telescope (id),
  telescope_name TEXT NOT NULL,
  way TEXT NOT NULL DEFAULT '',
  seed INTEGER NOT NULL,
  begun_at_utc TEXT NOT NULL,
  ended_at_utc TEXT,
  is_passed INTEGER NOT NULL DEFAULT 0,
  start TEXT NOT NULL CHECK (json_valid(start)),
  state TEXT NOT NULL CHECK (json_valid(state)),
  moves TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(moves)),
  score TEXT CHECK (score IS NULL OR json_valid(score)),
  version INTEGER NOT NULL DEFAULT 1,
  deleted_at_utc TEXT
) STRICT
"""
OF_WHOM = "CREATE INDEX drill_run_of_whom ON drill_run (observer_id, telescope_id, drill)"
STATEMENTS = (DRILL_RUN, OF_WHOM)
